import { Dialog } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { Store } from '@ngrx/store';
import type { DispatchProgress, Dispatching } from '@scriptum/core/contract';
import { catchError, EMPTY, map, of, switchMap, throttleTime } from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { registerActions } from '../state/register';
import { ConfirmDialog } from '../ui/confirm-dialog';
import { Icon } from '../ui/icon';
import { dispatchSays } from './dispatch-says';

/** Milliseconds between two looks at how far they are. */
const LOOK_EVERY = 500;

/** What was sent together and has not all left: how far it is, and how it is stopped. */
@Component({
  selector: 'sc-dispatches-panel',
  imports: [Icon],
  template: `
    @for (line of lines(); track line.one.id) {
      <div
        class="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule bg-wash px-5 py-1.5 text-small"
        role="group"
        aria-label="A dispatch that is not over"
      >
        <sc-icon
          [name]="line.one.stopped ? 'lucidePause' : 'lucideSend'"
          [size]="15"
          class="shrink-0 text-slate"
        />
        <p class="min-w-0 grow [overflow-wrap:anywhere]">{{ line.says }}</p>
        @if (line.one.stopped) {
          <button type="button" class="btn min-h-7!" [disabled]="busy()" (click)="change(line.one, 'go on')">
            Go on
          </button>
          @if (line.one.waiting > 0) {
            <button type="button" class="btn min-h-7!" [disabled]="busy()" (click)="takeBack(line.one)">
              Take back …
            </button>
          }
        } @else {
          <button type="button" class="btn min-h-7!" [disabled]="busy()" (click)="change(line.one, 'stop')">
            Stop
          </button>
        }
      </div>
    }
  `,
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DispatchesPanel {
  readonly folioId = input.required<string>();
  /** How far all mail of the folio is; another one where something has happened. */
  readonly progress = input.required<DispatchProgress | null>();

  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly dialogs = inject(Dialog);
  private readonly all = signal<readonly Dispatching[]>([]);
  protected readonly busy = signal(false);
  protected readonly lines = computed(() =>
    this.all()
      .filter(({ waiting }) => waiting > 0)
      .map((one) => ({ one, says: dispatchSays(one, new Date()) })),
  );

  constructor() {
    toObservable(computed(() => ({ folioId: this.folioId(), waiting: this.progress()?.waiting ?? 0 })))
      .pipe(
        // Many messages leave in a moment; somebody else may stop them while their number stays.
        throttleTime(LOOK_EVERY, undefined, { leading: true, trailing: true }),
        switchMap(({ folioId, waiting }) =>
          waiting === 0
            ? of<readonly Dispatching[]>([])
            : this.api.dispatches(folioId).pipe(
                map(({ dispatches }) => dispatches),
                catchError(() => EMPTY),
              ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((all) => this.all.set(all));
  }

  protected takeBack(one: Dispatching): void {
    const text = `${one.waiting === 1 ? 'The message that has' : `The ${one.waiting} messages that have`} not left ${one.waiting === 1 ? 'is' : 'are'} taken back, as if ${one.waiting === 1 ? 'it' : 'they'} never had been sent. ${one.waiting === 1 ? 'Its paper' : 'Their papers'} can be dispatched anew.`;
    this.dialogs
      .open<boolean>(ConfirmDialog, {
        data: { title: 'Take back what has not left?', text, yes: 'Take it back' },
        ariaLabelledBy: 'confirm-title',
      })
      .closed.subscribe((yes) => {
        if (yes) this.change(one, 'take back');
      });
  }

  protected change(one: Dispatching, to: 'stop' | 'go on' | 'take back'): void {
    if (this.busy()) return;
    this.busy.set(true);
    this.api.changeDispatch(this.folioId(), one.id, to).subscribe({
      next: ({ dispatches }) => {
        this.busy.set(false);
        this.all.set(dispatches);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.store.dispatch(registerActions.failed({ trouble: troubleOf(error) }));
      },
    });
  }
}
