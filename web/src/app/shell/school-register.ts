import { Dialog } from '@angular/cdk/dialog';
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Judged, Pack, RegisterSought, RunLine, SchoolPaper } from '@scriptum/core/contract';
import {
  catchError,
  concatMap,
  debounceTime,
  EMPTY,
  exhaustMap,
  from,
  last,
  map,
  of,
  switchMap,
  takeWhile,
  tap,
  timer,
  toArray,
  type Observable,
} from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { EMPTY_PRINT } from '../register/pack-sentence';
import { PaperHistoryView } from '../register/paper-history-view';
import { foliosActions, foliosFeature } from '../state/folios';
import { Entered } from '../ui/bound';
import { Icon } from '../ui/icon';
import { messageMark, paperMark } from '../ui/paper-mark';
import { StateMark } from '../ui/state-mark';
import { TroubleBar } from '../ui/trouble-bar';
import { issuing, voiding, WhyDialog, type WhyData } from '../ui/why-dialog';
import { TopBar } from './top-bar';

/** A pack that was made of picked papers. */
interface MadePack {
  readonly folio: string;
  readonly papers: number;
  readonly url: string;
  readonly zip: boolean;
}

type State = NonNullable<RegisterSought['state']>;

const STATES: readonly (readonly [State | '', string])[] = [
  ['', 'in any state'],
  ['present', 'that count'],
  ['pressed', 'to be cleared'],
  ['cleared', 'cleared'],
  ['held', 'held'],
  ['sent', 'sent'],
  ['old', 'out of date'],
  ['failed', 'failed'],
  ['void', 'void'],
  ['superseded', 'earlier versions'],
];

const EMPTY_SOUGHT: RegisterSought = {};

/** Looks at a run that was begun here until the list is shown anew. */
const LOOKS_MOST = 15;

/** All papers that the school ever made, over all folios. */
@Component({
  selector: 'sc-school-register',
  imports: [DatePipe, Entered, Icon, PaperHistoryView, RouterLink, StateMark, TopBar, TroubleBar],
  templateUrl: './school-register.html',
  host: { class: 'flex h-screen flex-col' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SchoolRegisterPage {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly dialogs = inject(Dialog);
  private readonly router = inject(Router);
  protected readonly folios = this.store.selectSignal(foliosFeature.selectAll);
  protected readonly states = STATES;
  protected readonly sought = signal<RegisterSought>(EMPTY_SOUGHT);
  protected readonly papers = signal<readonly SchoolPaper[] | null>(null);
  protected readonly after = signal<string | null>(null);
  protected readonly count = signal('');
  protected readonly classes = signal<readonly string[]>([]);
  protected readonly trouble = signal('');
  protected readonly said = signal('');
  protected readonly busy = signal(false);
  /** Packs of what was picked. */
  protected readonly made = signal<readonly MadePack[]>([]);
  private readonly asked = signal(0);
  protected readonly picked = signal<ReadonlySet<string>>(new Set());
  /** The one whose history stands beside. */
  protected readonly looked = signal<SchoolPaper | null>(null);
  protected readonly narrowed = computed(() => Object.values(this.sought()).some(Boolean));
  protected readonly chosen = computed(() => (this.papers() ?? []).filter(({ id }) => this.picked().has(id)));
  protected readonly lines = computed(() =>
    (this.papers() ?? []).map((paper) => ({ paper, mark: paperMark(paper)!, message: messageMark(paper) })),
  );
  private readonly query = computed(() => ({ sought: this.sought(), asked: this.asked() }));

  constructor() {
    this.store.dispatch(foliosActions.asked());
    this.api.schoolClasses().subscribe({
      next: ({ classes }) => this.classes.set(classes),
      error: () => undefined,
    });
    toObservable(this.query)
      .pipe(
        debounceTime(200),
        switchMap(({ sought }) =>
          this.api.schoolRegister(sought).pipe(catchError((error: unknown) => this.fail(error))),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(({ papers, after, count: counted, more }) => {
        const count = counted ?? papers.length;
        this.papers.set(papers);
        this.after.set(after);
        this.count.set(
          more
            ? `more than ${count.toLocaleString()} papers`
            : count === 1
              ? '1 paper'
              : `${count.toLocaleString()} papers`,
        );
        const there = new Set(papers.map(({ id }) => id));
        this.picked.update((ids) => new Set([...ids].filter((id) => there.has(id))));
        this.looked.update((one) => papers.find(({ id }) => id === one?.id) ?? null);
      });
  }

  protected change(part: Partial<Record<keyof RegisterSought, string>>): void {
    this.trouble.set('');
    this.sought.update((sought) => {
      const next = { ...sought, ...part } as Record<string, string | undefined>;
      return Object.fromEntries(Object.entries(next).filter(([, value]) => value)) as RegisterSought;
    });
  }

  protected clearAll(): void {
    this.sought.set(EMPTY_SOUGHT);
  }

  protected more(): void {
    const after = this.after();
    if (!after || this.busy()) return;
    this.busy.set(true);
    this.api.schoolRegister({ ...this.sought(), after }).subscribe({
      next: (found) => {
        this.busy.set(false);
        this.papers.update((papers) => [...(papers ?? []), ...found.papers]);
        this.after.set(found.after);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.fail(error);
      },
    });
  }

  protected pick(id: string, picked: boolean): void {
    this.picked.update((ids) => new Set(picked ? [...ids, id] : [...ids].filter((one) => one !== id)));
  }

  protected pickAll(picked: boolean): void {
    this.picked.set(new Set(picked ? (this.papers() ?? []).map(({ id }) => id) : []));
  }

  protected url({ folioId, id }: SchoolPaper, download = false): string {
    return `/api/folios/${folioId}/papers/${id}/file${download ? '?download=1' : ''}`;
  }

  protected fileUrl(kind: 'csv' | 'xlsx'): string {
    return `/api/register/file?${new URLSearchParams({ ...(this.sought() as Record<string, string>), kind })}`;
  }

  protected goTo({ folioId, entryId }: SchoolPaper): void {
    void this.router.navigateByUrl(`/folio/${folioId}/register`, { state: { pick: entryId } });
  }

  protected clear(): void {
    this.forFolios('cleared', (folioId, paperIds) => doneOf(this.api.holdPapers(folioId, paperIds, false)));
  }

  protected hold(): void {
    this.forFolios('held', (folioId, paperIds) => doneOf(this.api.holdPapers(folioId, paperIds, true)));
  }

  protected voidThem(): void {
    const papers = this.chosen();
    this.why(voiding(this.what(papers), papers.some(isSent)), (reason) =>
      this.forFolios('voided', (folioId, paperIds) => doneOf(this.api.voidPapers(folioId, paperIds, reason))),
    );
  }

  protected issueAgain(): void {
    const papers = this.chosen();
    const number = papers.length === 1 ? papers[0]!.number : null;
    this.why(issuing(this.what(papers), number, papers.some(isSent)), (reason) =>
      this.forFolios('issued again', (folioId, paperIds) =>
        this.api
          .issueAgain(folioId, paperIds, reason)
          .pipe(switchMap(({ run }) => (run ? this.whenPressed(folioId, run.id) : of(0)))),
      ),
    );
  }

  /** @returns how many papers a run makes, once it has; not longer than people would wait for it. */
  private whenPressed(folioId: string, runId: string): Observable<number> {
    const run = (): Observable<RunLine | undefined> =>
      this.api.runs(folioId).pipe(map(({ runs }) => runs.find(({ id }) => id === runId)));
    return timer(200, 700).pipe(
      exhaustMap(run),
      takeWhile((one, n) => one?.state === 'running' && n < LOOKS_MOST, true),
      last(),
      map((one) => one?.total ?? 0),
    );
  }

  /** Puts the picked papers together, those of each folio in a pack of their own. */
  protected putTogether(kind: 'print' | 'zip'): void {
    const papers = this.chosen();
    this.made.set([]);
    this.begin();
    this.said.set('putting papers together …');
    from([...byFolio(papers)])
      .pipe(
        concatMap(([folioId, paperIds]) =>
          this.api.makePack(folioId, kind === 'zip' ? { kind, paperIds } : { ...EMPTY_PRINT, paperIds }).pipe(
            switchMap(({ id }) => this.whenMade(folioId, id)),
            tap((pack) => this.made.update((list) => [...list, madeOf(papers, folioId, pack)])),
            catchError((error: unknown) => this.fail(error)),
          ),
        ),
      )
      .subscribe({
        complete: () => {
          const count = this.made().reduce((sum, one) => sum + one.papers, 0);
          this.said.set(whatWasDone(papers.length, [count], 'put together'));
          this.busy.set(false);
        },
      });
  }

  /** A pack, once it is made. */
  private whenMade(folioId: string, packId: string): Observable<Pack> {
    return timer(200, 700).pipe(
      exhaustMap(() => this.api.packs(folioId)),
      map(({ packs }) => packs.find(({ id }) => id === packId)),
      takeWhile((pack) => pack?.state === 'waiting' || pack?.state === 'making', true),
      last(),
      map((pack) => {
        if (pack?.state !== 'done') throw new Error(pack?.reason ?? 'The pack was taken away meanwhile.');
        return pack;
      }),
    );
  }

  private what(papers: readonly SchoolPaper[]): string {
    const [first] = papers;
    return papers.length === 1 && first
      ? `“${first.letter}” of ${first.learner}`
      : `these ${papers.length} papers`;
  }

  private why(data: WhyData, then: (reason: string) => void): void {
    this.dialogs.open<string>(WhyDialog, { data, ariaLabelledBy: 'why-title' }).closed.subscribe((reason) => {
      if (reason) then(reason);
    });
  }

  /** Does something to the picked papers, folio by folio. */
  private forFolios(done: string, work: (folioId: string, paperIds: string[]) => Observable<number>): void {
    const papers = this.chosen();
    this.begin();
    from([...byFolio(papers)])
      .pipe(
        concatMap(([folioId, ids]) => work(folioId, ids)),
        toArray(),
        tap((counts) => this.said.set(whatWasDone(papers.length, counts, done))),
        catchError((error: unknown) => this.fail(error)),
      )
      .subscribe({
        complete: () => {
          this.busy.set(false);
          this.asked.update((n) => n + 1);
        },
      });
  }

  private begin(): void {
    this.busy.set(true);
    this.said.set('');
    this.trouble.set('');
  }

  private fail(error: unknown): typeof EMPTY {
    this.trouble.set(troubleOf(error).message);
    return EMPTY;
  }
}

const byFolio = (papers: readonly SchoolPaper[]): Map<string, string[]> => {
  const folios = new Map<string, string[]>();
  for (const { folioId, id } of papers) folios.set(folioId, [...(folios.get(folioId) ?? []), id]);
  return folios;
};

const madeOf = (papers: readonly SchoolPaper[], folioId: string, pack: Pack): MadePack => ({
  folio: papers.find((one) => one.folioId === folioId)?.folio ?? '',
  papers: pack.papers,
  url: `/api/folios/${folioId}/packs/${pack.id}/file`,
  zip: pack.asked.kind === 'zip',
});

const doneOf = (judged: Observable<Judged>): Observable<number> => judged.pipe(map((one) => one.done));

/** How many of the picked papers something was done to; some may have been so already, or not be anybody's to change any more. */
function whatWasDone(picked: number, counts: readonly number[], done: string): string {
  const count = counts.reduce((sum, one) => sum + one, 0);
  const told = `${count} ${count === 1 ? 'paper' : 'papers'} ${done}`;
  return count === picked ? `${told}.` : `${told}, ${picked - count} passed over.`;
}

const isSent = ({ state }: SchoolPaper): boolean => state === 'dispatched';
