import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { OrderLine, OrderWork } from '@scriptum/core/contract';
import { Icon } from '../../ui/icon';
import { StateMark, type Mark } from '../../ui/state-mark';

type State = OrderWork['state'];

/** Each state as a shape and a word. */
const MARKS: Readonly<Record<State, { readonly mark: Mark; readonly word: string }>> = {
  owed: { mark: 'waiting', word: 'To do' },
  blocked: { mark: 'refused', word: 'Blocked' },
  pressing: { mark: 'going', word: 'Pressing' },
  asked: { mark: 'held', word: 'Waits for a yes' },
  'said yes': { mark: 'going', word: 'Leaving' },
  sent: { mark: 'mailed', word: 'Sent' },
  kept: { mark: 'paper', word: 'In the register' },
  left: { mark: 'old', word: 'Left' },
};

/** What an order did for whom, the newest first; what waits for a yes gets it here. */
@Component({
  selector: 'sc-work-list',
  imports: [Icon, StateMark],
  template: `
    <div class="flex flex-wrap items-center gap-2 border-b border-rule bg-ground py-1.5 pr-3 pl-5 text-small">
      <h2 class="min-w-0 grow font-semibold">{{ heading() }}</h2>
      @if (shown() !== null) {
        <button type="button" class="link min-h-6" (click)="all.emit()">Show all</button>
      }
      @if (asked().length > 0) {
        <button type="button" class="btn primary min-h-7!" [disabled]="busy()" (click)="say(asked(), true)">
          Yes, send {{ asked().length === 1 ? 'it' : 'these ' + asked().length }}
        </button>
        <button type="button" class="btn min-h-7!" [disabled]="busy()" (click)="say(asked(), false)">
          No, leave {{ asked().length === 1 ? 'it' : 'them' }}
        </button>
      }
    </div>
    <div class="min-h-0 grow overflow-y-auto" role="region" [attr.aria-label]="heading()" tabindex="0">
      @if (lines().length > 0) {
        <table class="w-full table-fixed text-small">
          <colgroup>
            <col class="w-[34%]" />
            <col />
            <col class="w-38" />
            <col class="w-20" />
          </colgroup>
          <thead class="sr-only">
            <tr>
              <th>Learner, and state</th>
              <th>Why, and papers</th>
              <th>When</th>
              <th>Your word</th>
            </tr>
          </thead>
          <tbody>
            @for (one of lines(); track one.work.id) {
              <tr class="border-b border-rule align-top">
                <td class="py-1 pr-2 pl-5">
                  <button
                    type="button"
                    class="link min-h-6 max-w-full truncate"
                    (click)="learner.emit(one.work.entryId)"
                  >
                    <bdi>{{ one.work.learner }}</bdi>
                  </button>
                  <span class="block pb-0.5"><sc-state-mark [mark]="one.mark" [word]="one.word" /></span>
                </td>
                <td class="py-1 pr-2 [overflow-wrap:anywhere]">
                  @if (one.work.why; as why) {
                    <span class="block py-0.5">{{ why }}</span>
                  }
                  @for (paper of one.work.papers; track paper.id) {
                    <a
                      class="link mr-3 inline-block min-h-6 py-0.5"
                      target="_blank"
                      rel="noopener"
                      [href]="'/api/folios/' + folioId() + '/papers/' + paper.id + '/file'"
                    >
                      <bdi>{{ nameOf(paper.fileName) }}</bdi>
                    </a>
                  }
                </td>
                <td class="py-1.5 pr-2 text-slate">
                  {{ moment()(one.work.at) }}
                  @if (one.work.until; as until) {
                    <span class="block">until {{ moment()(until) }}</span>
                  }
                  @if (one.work.by; as by) {
                    <span class="block truncate">{{ by }}</span>
                  }
                </td>
                <td class="py-1 pr-3">
                  @if (one.work.state === 'asked') {
                    <span class="flex justify-end gap-1">
                      <button
                        type="button"
                        class="tool"
                        [attr.aria-label]="'Yes, send ' + one.work.learner"
                        title="Yes, send it"
                        [disabled]="busy()"
                        (click)="say([one.work], true)"
                      >
                        <sc-icon name="lucideCheck" [size]="15" />
                      </button>
                      <button
                        type="button"
                        class="tool"
                        [attr.aria-label]="'No, leave ' + one.work.learner"
                        title="No, leave it"
                        [disabled]="busy()"
                        (click)="say([one.work], false)"
                      >
                        <sc-icon name="lucideX" [size]="15" />
                      </button>
                    </span>
                  }
                </td>
              </tr>
            }
          </tbody>
        </table>
        @if (more()) {
          <p class="px-5 py-2 text-small text-slate">
            The newest are shown. All papers stand in the register.
          </p>
        }
      } @else {
        <p class="p-5 text-small text-slate">{{ none() }}</p>
      }
    </div>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WorkList {
  readonly order = input.required<OrderLine>();
  /** Null until it is known. */
  readonly work = input.required<readonly OrderWork[] | null>();
  readonly more = input.required<boolean>();
  /** The one state that is shown; null for all. */
  readonly shown = input.required<State | null>();
  readonly folioId = input.required<string>();
  readonly busy = input.required<boolean>();
  readonly moment = input.required<(iso: string) => string>();
  readonly all = output<void>();
  readonly learner = output<string>();
  readonly said = output<{ workIds: readonly string[]; yes: boolean }>();

  private readonly some = computed(() => {
    const [work, shown] = [this.work() ?? [], this.shown()];
    return shown === null ? work : work.filter(({ state }) => isShown(state, shown));
  });
  protected readonly lines = computed(() => this.some().map((work) => ({ work, ...MARKS[work.state] })));
  protected readonly asked = computed(() => this.some().filter(({ state }) => state === 'asked'));
  protected readonly heading = computed(() => {
    const shown = this.shown();
    const what = shown === null ? 'What it did' : MARKS[shown].word;
    return `${this.order().order.name}: ${what.charAt(0).toLowerCase()}${what.slice(1)}`;
  });
  protected readonly none = computed(() => {
    if (this.work() === null) return 'Looking …';
    return this.shown() === null
      ? 'It has done nothing yet. Each learner that it looks at stands here, with what became of the papers, and why.'
      : 'Nobody any more.';
  });

  protected nameOf(fileName: string): string {
    return fileName.split('/').at(-1)!;
  }

  protected say(works: readonly OrderWork[], yes: boolean): void {
    this.said.emit({ workIds: works.map(({ id }) => id), yes });
  }
}

/** What is on its way is shown together. */
const isShown = (state: State, shown: State): boolean =>
  shown === 'owed' ? ['owed', 'pressing', 'said yes'].includes(state) : state === shown;
