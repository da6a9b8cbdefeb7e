import {
  ApplicationRef,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  type OnDestroy,
  signal,
  untracked,
} from '@angular/core';
import { Dialog } from '@angular/cdk/dialog';
import { Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import { TopBar } from '../shell/top-bar';
import { deskActions, deskFeature } from '../state/desk';
import { foliosActions } from '../state/folios';
import { rollFeature } from '../state/roll';
import { writingFeature } from '../state/writing';
import { TroubleBar } from '../ui/trouble-bar';
import { CommandFinder, type FinderData } from './command-finder';
import { Ledge } from './ledge';
import { OvertakenBar } from './overtaken-bar';
import { COMMAND, ShortcutsDialog } from './shortcuts-dialog';
import { Strip } from './strip';

const SAVED = {
  saved: 'Saved',
  changed: 'Saving …',
  saving: 'Saving …',
  failed: 'Not saved',
  conflict: 'Not saved',
} as const;

/** A folio open on the desk: strip, the station in the middle with its margin, and the ledge. */
@Component({
  selector: 'sc-desk',
  imports: [RouterLink, RouterLinkActive, RouterOutlet, Icon, Ledge, OvertakenBar, Strip, TopBar, TroubleBar],
  templateUrl: './desk.html',
  host: {
    class: 'sc-desk',
    '[class.with-strip]': "turn() === 'strip'",
    '[class.with-margin]': "turn() === 'margin'",
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Desk implements OnDestroy {
  readonly folioId = input.required<string>();

  private readonly store = inject(Store);
  private readonly dialog = inject(Dialog);
  private readonly router = inject(Router);
  private readonly app = inject(ApplicationRef);
  protected readonly desk = this.store.selectSignal(deskFeature.selectDeskState);
  protected readonly writing = this.store.selectSignal(writingFeature.selectWritingState);
  private readonly written = this.store.selectSignal(writingFeature.selectSaved);
  private readonly roll = this.store.selectSignal(rollFeature.selectRollState);
  protected readonly saved = computed(() => {
    const { failure, queue } = this.roll();
    if (failure) return 'failed';
    return this.written() === 'saved' && queue.length > 0 ? 'saving' : this.written();
  });
  protected readonly savedWord = computed(() => SAVED[this.saved()]);
  /** Where there is no room for three panes: which one lies over the middle. */
  protected readonly turn = signal<'strip' | 'margin' | null>(null);
  protected readonly stations = [
    { path: 'roll', name: 'Roll' },
    { path: 'page', name: 'Page' },
    { path: 'note', name: 'Note' },
    { path: 'press', name: 'Press' },
    { path: 'register', name: 'Register' },
  ];

  constructor() {
    effect(() => {
      const folioId = this.folioId();
      untracked(() => {
        this.store.dispatch(deskActions.opened({ folioId }));
        // Who comes from another page for somebody has that one picked once the folio is there.
        const { pick } = (history.state ?? {}) as { pick?: string };
        if (pick) this.store.dispatch(deskActions.pick({ entryId: pick }));
      });
    });
  }

  ngOnDestroy(): void {
    this.store.dispatch(deskActions.closed());
  }

  @HostListener('document:keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    if (
      (event.ctrlKey || event.metaKey) &&
      !event.altKey &&
      !event.shiftKey &&
      event.key.toLowerCase() === 'k'
    ) {
      event.preventDefault();
      this.find();
      return;
    }
    if (event.ctrlKey || event.metaKey) return;
    const writing = (event.target as HTMLElement).closest(
      'input, select, textarea, [contenteditable="true"]',
    );
    if (event.key === 'F9' || (event.altKey && event.key === 'ArrowDown')) this.step(event, 1);
    else if (event.key === 'F8' || (event.altKey && event.key === 'ArrowUp')) this.step(event, -1);
    else if (event.altKey && /^Digit[1-5]$/.test(event.code)) this.go(event, Number(event.code.slice(5)) - 1);
    else if (event.key === 'Escape' && this.turn() && !writing) this.turn.set(null);
    else if (event.key === '?' && !writing) {
      event.preventDefault();
      this.showShortcuts();
    }
  }

  @HostListener('window:beforeunload', ['$event'])
  protected leave(event: BeforeUnloadEvent): void {
    if (this.saved() !== 'saved') event.preventDefault();
  }

  protected toggle(pane: 'strip' | 'margin'): void {
    this.turn.update((turn) => (turn === pane ? null : pane));
  }

  protected showShortcuts(): void {
    this.dialog.open(ShortcutsDialog, { ariaLabelledBy: 'shortcuts-title' });
  }

  protected readonly findKey = `${COMMAND} K`;

  /** What is typed right behind the key is the finder's. */
  protected find(): void {
    if (document.getElementById('finder')) return;
    const data: FinderData = { stations: this.stations, showShortcuts: () => this.showShortcuts() };
    this.dialog.open(CommandFinder, { data, ariaLabelledBy: 'finder-title' });
    this.app.tick();
    document.getElementById('finder')?.focus();
  }

  protected closeTrouble(): void {
    this.store.dispatch(deskActions.troubleSeen());
  }

  protected rename(element: HTMLInputElement): void {
    const title = element.value.trim();
    const folio = this.desk().folio;
    if (!folio) return;
    if (!title) element.value = folio.title;
    else if (title !== folio.title) this.store.dispatch(foliosActions.rename({ id: folio.id, title }));
  }

  private go(event: KeyboardEvent, n: number): void {
    event.preventDefault();
    this.turn.set(null);
    void this.router.navigate(['/folio', this.folioId(), this.stations[n]!.path]);
  }

  private step(event: KeyboardEvent, step: 1 | -1): void {
    event.preventDefault();
    this.store.dispatch(deskActions.pickNext({ step }));
  }
}
