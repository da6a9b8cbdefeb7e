import { Dialog } from '@angular/cdk/dialog';
import { DatePipe } from '@angular/common';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  Injector,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Store } from '@ngrx/store';
import type { Clearing, PaperLine, Proof } from '@scriptum/core/contract';
import { phrase } from '@scriptum/core/sentences';
import { Api, troubleOf } from '../api/api';
import { deskActions, deskFeature } from '../state/desk';
import { selectFindings } from '../state/findings';
import { registerActions, registerFeature } from '../state/register';
import { writingFeature } from '../state/writing';
import { Chosen } from '../ui/bound';
import { ConfirmDialog, type Confirmation } from '../ui/confirm-dialog';
import { Icon } from '../ui/icon';
import { paperMark } from '../ui/paper-mark';
import { PaperPages } from '../ui/paper-pages';
import { Sentence } from '../ui/sentence/sentence';
import type { SentenceChange, SentencePiece } from '../ui/sentence/sentence-piece';
import { StateMark } from '../ui/state-mark';
import { RegisterViews } from './register-views';
import { reviewGroups } from './review-groups';

const WISHES: readonly { readonly value: Clearing; readonly label: string; readonly hint: string }[] = [
  { value: 'free', label: 'as they are pressed', hint: 'who sends them clears them' },
  { value: 'cleared', label: 'once somebody has cleared them', hint: 'nothing else is sent' },
  {
    value: 'other',
    label: 'once somebody else than who pressed them has cleared them',
    hint: 'two people see each',
  },
];

/** Pressed papers one after the other, on a large page: one key clears, another one holds. */
@Component({
  selector: 'sc-review-view',
  imports: [Chosen, DatePipe, Icon, PaperPages, RegisterViews, Sentence, StateMark],
  templateUrl: './review-view.html',
  host: { class: 'sc-middle', '(window:keydown)': 'press($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReviewView {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly dialogs = inject(Dialog);
  private readonly injector = inject(Injector);
  private readonly noteBox = viewChild<ElementRef<HTMLTextAreaElement>>('note');
  private readonly pane = viewChild<ElementRef<HTMLElement>>('pane');
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly roll = this.store.selectSignal(deskFeature.selectSettledRoll);
  private readonly findings = this.store.selectSignal(selectFindings);
  private readonly present = this.store.selectSignal(registerFeature.selectPresent);
  private readonly pickedId = this.store.selectSignal(deskFeature.selectPickedId);
  private readonly templates = this.store.selectSignal(writingFeature.selectAllTemplates);

  protected readonly groups = computed(() =>
    reviewGroups(this.roll(), this.findings(), (code) => phrase('finding-kind', { code })),
  );
  protected readonly kinds = computed(() => [...new Set(this.groups().map(({ of }) => of))]);
  protected readonly group = signal('');
  /** Papers that can be looked at, in the order of the roll: those that have not left. */
  protected readonly papers = computed(() => {
    const group = this.groups().find(({ key }) => key === this.group());
    return this.present().filter(
      ({ state, bytes, entryId }) =>
        bytes !== null &&
        (state === 'pressed' || state === 'cleared' || state === 'held') &&
        (!group || group.entryIds.has(entryId)),
    );
  });
  /** The one that is looked at, where it is still among them; else the first that waits. */
  private readonly chosen = signal<string | null>(null);
  protected readonly paper = computed((): PaperLine | null => {
    const papers = this.papers();
    return (
      papers.find(({ id }) => id === this.chosen()) ??
      papers.find(({ entryId }) => entryId === this.pickedId()) ??
      papers.find(waits) ??
      papers[0] ??
      null
    );
  });
  protected readonly counts = computed(() => {
    const papers = this.papers();
    return {
      at: papers.findIndex(({ id }) => id === this.paper()?.id) + 1,
      all: papers.length,
      waiting: papers.filter(waits).length,
      cleared: papers.filter(({ state }) => state === 'cleared').length,
      held: papers.filter(({ state }) => state === 'held').length,
      old: papers.filter(({ outOfDate }) => outOfDate).length,
    };
  });
  protected readonly mark = computed(() => paperMark(this.paper() ?? undefined));
  protected readonly letter = computed(
    () =>
      this.templates().find(({ id }) => id === this.paper()?.templateId)?.content.name ??
      'a letter that is gone',
  );
  protected readonly own = computed(() => {
    const id = this.paper()?.entryId ?? '';
    return this.findings().filter(({ entryIds, code }) => entryIds.includes(id) && code !== 'papers-old');
  });
  protected readonly proof = signal<{ readonly id: string; readonly proof: Proof } | null>(null);
  protected readonly trouble = signal('');
  protected readonly holding = signal(false);
  protected readonly busy = signal(false);
  protected readonly wish = signal<Clearing>('free');
  protected readonly wishPieces = computed((): SentencePiece[] => [
    'Papers of this school leave ',
    {
      id: 'wish',
      label: 'when papers leave',
      text: WISHES.find(({ value }) => value === this.wish())!.label,
      value: this.wish(),
      options: WISHES,
    },
    '.',
  ]);
  /** Pictures of papers that come next, so that nobody waits for them. */
  private readonly ahead = new Map<string, Proof>();

  constructor() {
    this.store.dispatch(registerActions.asked());
    this.api.wishes().subscribe(({ clearing }) => this.wish.set(clearing));
    const shownId = computed(() => this.paper()?.id ?? null);
    effect(() => {
      const id = shownId();
      untracked(() => {
        this.holding.set(false);
        if (id) this.show(id);
      });
    });
    // Who is picked in the strip is the one that is looked at, and the other way round.
    effect(() => {
      const picked = this.pickedId();
      untracked(() => {
        if (picked && this.paper()?.entryId !== picked) {
          const paper = this.papers().find(({ entryId }) => entryId === picked);
          if (paper) this.chosen.set(paper.id);
        }
      });
    });
  }

  protected setWish({ value }: SentenceChange): void {
    this.api.setWishes({ clearing: value as Clearing }).subscribe({
      next: ({ clearing }) => this.wish.set(clearing),
      error: (error: unknown) => this.trouble.set(troubleOf(error).message),
    });
  }

  protected setGroup(key: string): void {
    this.group.set(key);
    this.look(this.papers().find(waits) ?? this.papers()[0]);
  }

  protected step(step: 1 | -1): void {
    const papers = this.papers();
    const at = papers.findIndex(({ id }) => id === this.paper()?.id);
    this.look(papers[at + step]);
  }

  protected clear(): void {
    const paper = this.paper();
    if (!paper || paper.outOfDate || paper.state === 'cleared' || this.busy()) return;
    this.judge([paper.id], false);
  }

  protected askNote(): void {
    if (!this.paper()) return;
    this.holding.set(true);
    afterNextRender(() => this.noteBox()?.nativeElement.focus(), { injector: this.injector });
  }

  protected hold(note: string): void {
    const paper = this.paper();
    if (paper && !this.busy()) this.judge([paper.id], true, note.trim());
  }

  protected stopHolding(): void {
    this.holding.set(false);
    this.pane()?.nativeElement.focus();
  }

  protected clearAll(): void {
    const left = this.papers().filter(waits);
    const group = this.groups().find(({ key }) => key === this.group());
    const data: Confirmation = {
      title: `Clear ${left.length === 1 ? '1 paper' : `${left.length} papers`}?`,
      text: `They may leave then, without having been looked at one by one${group ? ` (${group.of}: ${group.name})` : ''}. Those that are held stay held.`,
      yes: 'Clear them all',
    };
    this.dialogs
      .open<boolean>(ConfirmDialog, { data, ariaLabelledBy: 'confirm-title' })
      .closed.subscribe((yes) => {
        if (yes)
          this.judge(
            left.map(({ id }) => id),
            false,
          );
      });
  }

  /** Keys mean one thing: c clears, h holds, the arrows go on; not where something is typed. */
  protected press(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
    const target = event.target as Element | null;
    if (
      target?.closest(
        'input, textarea, select, [contenteditable], [role=listbox], dialog, .cdk-overlay-container',
      )
    )
      return;
    switch (event.key) {
      case 'c':
        this.clear();
        break;
      case 'h':
        this.askNote();
        break;
      case 'ArrowRight':
        this.step(1);
        break;
      case 'ArrowLeft':
        this.step(-1);
        break;
      default:
        return;
    }
    event.preventDefault();
  }

  private look(paper: PaperLine | undefined): void {
    if (!paper) return;
    this.chosen.set(paper.id);
    this.store.dispatch(deskActions.pick({ entryId: paper.entryId }));
    this.pane()?.nativeElement.scrollTo({ top: 0 });
  }

  private judge(paperIds: string[], hold: boolean, note = ''): void {
    const folioId = this.folio()!.id;
    const papers = this.papers();
    const at = papers.findIndex(({ id }) => id === paperIds.at(-1));
    const next = [...papers.slice(at + 1), ...papers.slice(0, at)].find(
      (paper) => waits(paper) && !paperIds.includes(paper.id),
    );
    this.busy.set(true);
    this.trouble.set('');
    this.api.holdPapers(folioId, paperIds, hold, note).subscribe({
      next: ({ done, own, passedOver }) => {
        this.busy.set(false);
        this.holding.set(false);
        this.store.dispatch(registerActions.asked());
        if (own > 0)
          this.trouble.set(
            `${done} cleared. ${own} that you pressed yourself ${own === 1 ? 'is' : 'are'} for somebody else to clear.`,
          );
        else if (done === 0 && passedOver > 0)
          this.trouble.set('This paper changed meanwhile. Look at it as it is now.');
        if (next && done > 0) this.look(next);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.trouble.set(troubleOf(error).message);
      },
    });
  }

  private show(id: string): void {
    const known = this.ahead.get(id);
    if (known) this.proof.set({ id, proof: known });
    this.load(id, (proof) => {
      if (this.paper()?.id === id) this.proof.set({ id, proof });
      const papers = this.papers();
      const next = papers[papers.findIndex((paper) => paper.id === id) + 1];
      if (next) this.load(next.id);
    });
  }

  private load(id: string, then: (proof: Proof) => void = () => undefined): void {
    const known = this.ahead.get(id);
    if (known) {
      then(known);
      return;
    }
    this.api.paperProof(this.folio()!.id, id).subscribe({
      next: (proof) => {
        if (this.ahead.size > 8) this.ahead.delete(this.ahead.keys().next().value!);
        this.ahead.set(id, proof);
        then(proof);
      },
      error: (error: unknown) => {
        if (this.paper()?.id === id) this.trouble.set(troubleOf(error).message);
      },
    });
  }
}

/** Whether a paper is still to be looked at. */
const waits = ({ state, outOfDate }: PaperLine): boolean => state === 'pressed' && !outOfDate;
