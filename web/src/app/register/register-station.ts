import { Ticked } from '../ui/bound';
import { DatePipe } from '@angular/common';
import { Dialog, type DialogRef } from '@angular/cdk/dialog';
import { CdkVirtualScrollViewport, ScrollingModule } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import type { DispatchPlan, PaperLine } from '@scriptum/core/contract';
import { envelopesOf, recipientsOf, type Envelope } from '@scriptum/core/note';
import { notesOf } from '@scriptum/core/sorting';
import { noteName } from '@scriptum/core/template';
import { map, of, switchMap } from 'rxjs';
import { Icon } from '../ui/icon';
import { Store } from '@ngrx/store';
import { FindingsList } from '../desk/findings-list';
import { deskActions, deskFeature } from '../state/desk';
import { writingFeature } from '../state/writing';
import { registerActions, registerFeature } from '../state/register';
import { sessionFeature } from '../state/session';
import { selectSortedBy } from '../state/sorting';
import { ConfirmDialog, type Confirmation } from '../ui/confirm-dialog';
import { sizeSays } from '../ui/size-says';
import { StateMark } from '../ui/state-mark';
import { AgainDialog, type AgainData } from './again-dialog';
import { DispatchDialog, type DispatchChoice } from './dispatch-dialog';
import { DispatchesPanel } from './dispatches-panel';
import { PaperHistoryView } from './paper-history-view';
import { SendAgainDialog, type NoteNow, type SendAgainChoice, type SendAgainData } from './send-again-dialog';
import { RegisterViews } from './register-views';
import { issuing, voiding, WhyDialog } from '../ui/why-dialog';
import { messageMark, paperMark } from '../ui/paper-mark';

/** Pixels of a line. */
const LINE = 36;

/** Station Register: every paper that was made, with its file and its state. */
@Component({
  selector: 'sc-register-station',
  imports: [
    Ticked,
    DatePipe,
    DispatchesPanel,
    RouterLink,
    Icon,
    FindingsList,
    PaperHistoryView,
    RegisterViews,
    ScrollingModule,
    StateMark,
  ],
  templateUrl: './register-station.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RegisterStation {
  private readonly store = inject(Store);
  private readonly dialog = inject(Dialog);
  protected readonly state = this.store.selectSignal(registerFeature.selectRegisterState);
  private readonly plan = this.store.selectSignal(registerFeature.selectPlan);
  protected readonly dispatch = this.store.selectSignal(registerFeature.selectDispatch);
  protected readonly me = this.store.selectSignal(sessionFeature.selectMe);
  protected readonly desk = this.store.selectSignal(deskFeature.selectDeskState);
  private readonly all = this.store.selectSignal(registerFeature.selectLines);
  private readonly present = this.store.selectSignal(registerFeature.selectPresent);
  private readonly earlier = this.store.selectSignal(registerFeature.selectEarlier);
  private readonly notes = this.store.selectSignal(writingFeature.selectNotes);
  private readonly by = this.store.selectSignal(selectSortedBy);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly writings = this.store.selectSignal(writingFeature.selectAllTemplates);
  /** The names of the folio's letters. */
  private readonly letters = computed(
    () => new Map(this.writings().map(({ id, content }) => [id, content.name])),
  );
  /** Whether papers of more than one letter stand here, so that it is said of which each is. */
  protected readonly several = computed(
    () => this.letters().size > 1 || new Set(this.present().map(({ templateId }) => templateId)).size > 1,
  );
  protected readonly line = LINE;
  protected readonly withEarlier = signal(false);
  protected readonly earlierCount = computed(() => this.earlier().length);
  protected readonly lines = computed(() => {
    const papers = this.withEarlier() ? this.all() : this.all().filter(({ state }) => state !== 'superseded');
    const fault = Boolean(this.dispatch()?.fault);
    const letters = this.letters();
    return papers.map((paper) => ({
      paper,
      letter: letters.get(paper.templateId) ?? 'deleted',
      mark: paperMark(paper)!,
      message: messageMark(paper, fault),
    }));
  });
  protected readonly files = computed(() => this.present().filter((paper) => paper.bytes !== null).length);
  protected readonly selected = computed(() =>
    this.all().filter(({ entryId, state }) => entryId === this.desk().pickedId && state !== 'superseded'),
  );
  private readonly rows = viewChild(CdkVirtualScrollViewport);
  /** Pixels of lines above those that are drawn: the head stands still while they move. */
  protected readonly above = toSignal(
    toObservable(this.rows).pipe(
      switchMap((rows) => (rows ? rows.renderedRangeStream.pipe(map(({ start }) => start * LINE)) : of(0))),
    ),
    { initialValue: 0 },
  );
  private open: DialogRef<DispatchChoice, DispatchDialog> | null = null;

  constructor() {
    this.store.dispatch(registerActions.asked());
    effect(() => {
      const plan = this.plan();
      untracked(() => this.showPlan(plan));
    });
  }

  protected same(this: void, _: number, { paper }: { paper: PaperLine }): string {
    return paper.id;
  }

  protected url(paper: PaperLine, download = false): string {
    return `/api/folios/${this.state().folioId}/papers/${paper.id}/file${download ? '?download=1' : ''}`;
  }

  protected tryMailAgain(): void {
    this.store.dispatch(registerActions.tryMailAgain());
  }

  protected registerUrl(kind: 'csv' | 'xlsx'): string {
    return `/api/folios/${this.state().folioId}/register-file?kind=${kind}`;
  }

  /** Voids a paper, for a reason that stays. */
  protected voidIt(paper: PaperLine): void {
    const letter = this.letters().get(paper.templateId) ?? 'the paper';
    this.dialog
      .open<string>(WhyDialog, {
        data: voiding(`“${letter}” of ${paper.learner}`, paper.state === 'dispatched'),
        ariaLabelledBy: 'why-title',
      })
      .closed.subscribe((reason) => {
        if (reason) this.store.dispatch(registerActions.void({ paperIds: [paper.id], reason }));
      });
  }

  /** Presses a paper once more, in the place of this one. */
  protected issueAgain(paper: PaperLine): void {
    const letter = this.letters().get(paper.templateId) ?? 'the paper';
    this.dialog
      .open<string>(WhyDialog, {
        data: issuing(`“${letter}” of ${paper.learner}`, paper.number, paper.state === 'dispatched'),
        ariaLabelledBy: 'why-title',
      })
      .closed.subscribe((reason) => {
        if (reason) this.store.dispatch(registerActions.issueAgain({ paperIds: [paper.id], reason }));
      });
  }

  protected planDispatch(): void {
    this.store.dispatch(registerActions.planDispatch());
  }

  protected hold(paper: PaperLine, hold: boolean): void {
    this.store.dispatch(registerActions.hold({ paperIds: [paper.id], hold }));
  }

  protected pick(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }

  protected readonly size = sizeSays;

  protected sendAgain(paper: PaperLine): void {
    const { message } = paper;
    if (!message) return;
    const unsure = message.state === 'unconfirmed';
    const data: Confirmation = {
      title: `Send to ${message.to} again?`,
      text: unsure
        ? `Nobody knows whether this message arrived. If it did, the family gets it twice. Ask them first, if you can.`
        : `The mail server said: “${message.answer ?? ''}”. The message is handed over once more.`,
      yes: 'Send this message again',
      grave: unsure,
    };
    this.dialog
      .open<boolean>(ConfirmDialog, { data, ariaLabelledBy: 'confirm-title' })
      .closed.subscribe((yes) => {
        if (yes) this.store.dispatch(registerActions.sendAgain({ messageId: message.id }));
      });
  }

  /** Sends a paper once more: to the addresses of the roll now, or to another one. */
  protected sendOnceMore(paper: PaperLine): void {
    const { message } = paper;
    const entry = this.roll().entries.find(({ id }) => id === paper.entryId);
    if (!message) return;
    const known = message.to.toLowerCase().split(', ');
    const given = entry ? notesOf(this.notes(), this.by())(entry) : [];
    // Those that go to the learner by themselves first.
    const notes = [...given, ...this.notes().filter((note) => !given.includes(note))].map((note): NoteNow => {
      const { content } = note;
      return {
        id: note.id,
        name: noteName(note),
        to: entry ? envelopesOf(content, [entry]).map(lineOf) : [],
        changed:
          entry !== undefined &&
          recipientsOf(content, entry).to.some(({ address }) => !known.includes(address.toLowerCase())),
      };
    });
    const word = messageMark(paper)?.word.toLowerCase() ?? 'sent';
    const data: SendAgainData = {
      learner: paper.learner,
      before: `${message.count === 1 ? 'One message has' : `${message.count} messages have`} had it so far, to ${message.to}: ${word}.`,
      notes,
    };
    this.dialog
      .open<SendAgainChoice>(SendAgainDialog, { data, ariaLabelledBy: 'again-title' })
      .closed.subscribe((choice) => {
        if (choice)
          this.store.dispatch(
            registerActions.sendPapersAgain({ paperIds: [paper.id], seen: message.count, ...choice }),
          );
      });
  }

  /** Sends to many once more: to those that were refused, or as a reminder. */
  protected againToMany(): void {
    const { folioId } = this.state();
    if (!folioId) return;
    const sent = this.present().filter(({ message }) => message !== null);
    const count = (which: (message: NonNullable<PaperLine['message']>) => boolean): number =>
      sent.filter(({ message }) => which(message!)).length;
    const data: AgainData = {
      folioId,
      notes: this.notes().map((note) => ({ id: note.id, name: noteName(note) })),
      counts: {
        refused: count(({ state }) => state === 'refused'),
        unopened: count(({ state, opened }) => state === 'sent' && opened === false),
        sent: count(({ state }) => state === 'sent'),
      },
    };
    this.dialog
      .open<number>(AgainDialog, { data, ariaLabelledBy: 'many-again-title' })
      .closed.subscribe((queued) => {
        if (queued) this.store.dispatch(registerActions.queued({ count: queued }));
      });
  }

  private showPlan(plan: DispatchPlan | null): void {
    if (!plan || this.open) return;
    this.open = this.dialog.open<DispatchChoice, DispatchPlan, DispatchDialog>(DispatchDialog, {
      data: plan,
      ariaLabelledBy: 'dispatch-title',
    });
    this.open.closed.subscribe((choice) => {
      this.open = null;
      this.store.dispatch(
        choice
          ? registerActions.dispatch({
              planId: plan.planId,
              again: choice.again,
              corrected: choice.corrected,
              ...choice.timing,
            })
          : registerActions.planDropped(),
      );
    });
  }
}

const lineOf = ({ to, cc, bcc }: Envelope): string =>
  [
    to.map(({ address }) => address).join(', '),
    ...(cc.length > 0 ? [`copy to ${cc.map(({ address }) => address).join(', ')}`] : []),
    ...(bcc.length > 0 ? [`blind copy to ${bcc.map(({ address }) => address).join(', ')}`] : []),
  ].join('; ');
