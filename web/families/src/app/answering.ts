import { computed, Injectable, signal } from '@angular/core';
import type { AnswerKept, OpenedForm } from '@scriptum/core/contract';
import {
  allGiven,
  beginAnswers,
  oneGiven,
  pagesOf,
  problemSays,
  problemsOf,
  wordsIn,
  type AnswerProblem,
  type Form,
  type Given,
  type Words,
} from '@scriptum/core/form';
import { Door, Refused } from './door';
import { keptDrafts } from './kept-draft';
import { payFor } from './paid-ticket';
import { pageWords, type PageWords } from './words';

/** What the page has come to. */
export type Stage = 'opening' | 'closed' | 'unknown' | 'code' | 'paper' | 'answering' | 'sending' | 'sent';

const EMPTY: Form = {
  name: '',
  languages: ['en'],
  title: {},
  items: [],
  terms: {
    who: 'anyone',
    stampId: null,
    next: null,
    copyTo: null,
    paper: false,
    opens: null,
    closes: null,
    most: null,
    onceBy: null,
    mayChange: false,
    embed: false,
  },
};

/** Milliseconds after which the work for a ticket begins. */
const AFTER = 700;
/** Milliseconds from the opening of a form until its answers are taken. */
const SOONEST = 1_600;

/** One form as it is being answered: what was given, on which page, what is wrong with it, and sending it. */
@Injectable()
export class Answering {
  private door = new Door('');
  private readonly opened = signal<OpenedForm | null>(null);
  readonly stage = signal<Stage>('opening');
  readonly language = signal('en');
  readonly given = signal<Given>({});
  /** Names of files that were brought, by their identities. */
  readonly files = signal<Readonly<Record<string, string>>>({});
  readonly at = signal(0);
  readonly problems = signal<readonly AnswerProblem[]>([]);
  /** What happened to the last try to send. */
  readonly notice = signal<keyof PageWords | null>(null);
  readonly kept = signal<AnswerKept | null>(null);
  /** The link to one’s own papers, where the form gives any. */
  readonly paperLink = signal<string | null>(null);
  /** True where the form is shown to whoever writes it. */
  readonly isPreview = signal(false);
  private paid: { ticket: string; nonce: Promise<string>; from: number } | null = null;

  readonly form = computed((): Form => this.opened()?.form ?? EMPTY);
  readonly school = computed(() => this.opened()?.school ?? { name: '', colour: '#22303C', crest: null });
  readonly state = computed(() => this.opened()?.state ?? 'closed');
  /** Where people go afterwards; blank where they stay. */
  readonly afterwards = computed(() => this.form().terms.next ?? '');
  /** Whom it is about, where it is one learner’s own. */
  readonly about = computed(() => this.opened()?.about ?? '');
  readonly opensAt = computed(() => this.opened()?.at ?? null);
  readonly words = computed((): PageWords => pageWords(this.language()));
  readonly pages = computed(() => pagesOf(this.form(), this.given()));
  readonly page = computed(() => {
    const pages = this.pages();
    return pages[Math.min(this.at(), pages.length - 1)]!;
  });
  readonly isLast = computed(() => this.at() >= this.pages().length - 1);

  say(words: Words | undefined): string {
    return wordsIn(words, this.language(), this.form().languages[0]!);
  }

  one(columnId: string): string {
    return oneGiven(this.given(), columnId);
  }

  all(columnId: string): readonly string[] {
    return allGiven(this.given(), columnId);
  }

  problem(columnId: string): string {
    const found = this.problems().find((one) => one.columnId === columnId);
    return found ? problemSays(found, this.language()) : '';
  }

  set(columnId: string, value: string | readonly string[]): void {
    this.given.update((given) => ({ ...given, [columnId]: value }));
    this.problems.update((problems) => problems.filter((one) => one.columnId !== columnId));
    this.notice.set(null);
    this.keep();
  }

  speak(language: string): void {
    this.language.set(language);
    this.keep();
  }

  async open(path: string, query: URLSearchParams): Promise<void> {
    this.door = new Door(path);
    try {
      const opened = await this.door.open();
      this.take(opened, query);
    } catch (error) {
      this.stage.set(error instanceof Refused && error.code === 'not-found' ? 'unknown' : 'closed');
      if (error instanceof Refused && error.code !== 'not-found') this.notice.set('trouble');
    }
  }

  /** Opens the form of whoever has this code. */
  async enter(written: string): Promise<void> {
    const code = written.replace(/[^0-9a-z]/gi, '').toLowerCase();
    this.notice.set(null);
    const door = new Door(`/f/${this.door.token}/for/${code}`);
    try {
      if (code === '') throw new Refused('not-found', '');
      const opened = await door.open();
      this.door = door;
      // So that it can be opened again, and is the same after a reload.
      history.replaceState(null, '', `/f/${door.token}/for/${code}`);
      this.take(opened, new URLSearchParams(location.search));
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      this.notice.set(
        error.code === 'not-found' ? 'codeWrong' : error.code === 'early' ? 'early' : 'trouble',
      );
    }
  }

  /** Shows a form that is being written. What was given stays, as far as it is still asked. */
  preview(opened: OpenedForm): void {
    this.isPreview.set(true);
    const first = this.stage() === 'opening';
    this.opened.set(opened);
    if (first) {
      this.given.set(beginAnswers(this.form(), new URLSearchParams()));
      this.language.set(this.form().languages[0]!);
    }
    if (!this.form().languages.includes(this.language())) this.language.set(this.form().languages[0]!);
    if (this.stage() !== 'sent') this.stage.set('answering');
  }

  anew(): void {
    keptDrafts.forget(this.door.token, this.door.draft);
    // A learner's own form begins with what the school has, or with what was answered before.
    const own = this.door.code === null ? null : this.opened();
    this.given.set({ ...beginAnswers(this.form(), new URLSearchParams()), ...own?.given });
    this.files.set({ ...own?.files });
    this.problems.set([]);
    this.notice.set(null);
    this.at.set(0);
  }

  /** Opens the form once more, for somebody else's answers. */
  async another(): Promise<void> {
    this.kept.set(null);
    if (this.isPreview()) {
      this.anew();
      this.stage.set('answering');
      return;
    }
    this.stage.set('opening');
    await this.open(`/f/${this.door.token}`, new URLSearchParams());
  }

  /** Goes on to the next page where nothing is wrong on this one. @returns whether it did. */
  next(): boolean {
    const problems = this.page().items.flatMap((item) => problemsOf(item, this.given()));
    this.problems.set(problems);
    if (problems.length > 0) return false;
    this.at.update((at) => at + 1);
    return true;
  }

  back(): void {
    this.problems.set([]);
    this.at.update((at) => Math.max(0, at - 1));
  }

  async send(): Promise<void> {
    const problems = this.page().items.flatMap((item) => problemsOf(item, this.given()));
    this.problems.set(problems);
    if (problems.length > 0 || this.stage() === 'sending') return;
    if (this.isPreview()) {
      this.kept.set({ receivedAt: new Date().toISOString(), editLink: null, paperLink: null, copy: false });
      this.stage.set('sent');
      return;
    }
    this.stage.set('sending');
    this.notice.set(null);
    try {
      this.kept.set(await this.hand());
      keptDrafts.forget(this.door.token, this.door.draft);
      this.paperLink.set(this.kept()?.paperLink ?? null);
      this.stage.set('sent');
      // Where there is a link to be kept, people go on by themselves.
      const { editLink, paperLink } = this.kept()!;
      if (this.afterwards() && !editLink && !paperLink) location.assign(this.afterwards());
    } catch (error) {
      this.stage.set('answering');
      await this.refused(error);
    }
  }

  /** Takes a file along. @returns why it was not taken, or nothing. */
  async bring(item: string, columnId: string, file: Blob, name: string, most: number): Promise<string> {
    const words = this.words();
    if (this.isPreview()) {
      const id = `preview${Object.keys(this.files()).length}`;
      this.hold(columnId, id, name, most);
      return '';
    }
    try {
      const kept = await this.again(async (ticket, nonce) =>
        this.door.bring(file, { item, name, ticket, nonce }),
      );
      this.hold(columnId, kept.id, kept.name, most);
      return '';
    } catch (error) {
      if (!(error instanceof Refused)) return words.trouble;
      if (['file-large', 'too-large'].includes(error.code)) return words.large;
      if (['file-kind', 'file-picture', 'file-pdf', 'file-paper', 'file-blank'].includes(error.code))
        return words.kind;
      return error.code === 'offline' ? words.offline : words.trouble;
    }
  }

  takeOut(columnId: string, id: string): void {
    this.set(
      columnId,
      this.all(columnId).filter((one) => one !== id),
    );
  }

  /** The papers of whoever has answered, by their link; none yet where they are not made, or cannot be asked for just now. */
  async papersOf(link: string): Promise<readonly { name: string; href: string }[]> {
    const { papers } = await this.door.papers(link).catch(() => ({ papers: [] }));
    return papers.map(({ id, name }) => ({ name, href: `${this.door.papersAt(link)}/${id}` }));
  }

  picture(assetId: string): string {
    return this.isPreview() ? '' : this.door.picture(assetId);
  }

  private hold(columnId: string, id: string, name: string, most: number): void {
    this.files.update((files) => ({ ...files, [id]: name }));
    this.set(columnId, most === 1 ? [id] : [...this.all(columnId), id].slice(-most));
  }

  private take(opened: OpenedForm, query: URLSearchParams): void {
    this.opened.set(opened);
    this.pay(opened.ticket);
    if (opened.state === 'code') {
      this.language.set(wanted(opened.form?.languages ?? ['en']));
      this.stage.set('code');
      return;
    }
    if (opened.state === 'paper') {
      this.language.set(wanted(opened.form?.languages ?? ['en']));
      this.paperLink.set(this.door.paper);
      this.stage.set('paper');
      return;
    }
    if (opened.state !== 'open' || !opened.form) {
      this.language.set(wanted(opened.form?.languages ?? ['en']));
      this.stage.set('closed');
      return;
    }
    const { token, draft } = this.door;
    const kept = keptDrafts.read(token, draft);
    const languages = opened.form.languages;
    this.language.set(kept && languages.includes(kept.language) ? kept.language : wanted(languages));
    this.given.set({ ...beginAnswers(opened.form, query), ...opened.given, ...kept?.given });
    this.files.set({ ...opened.files, ...kept?.files });
    this.at.set(0);
    this.problems.set([]);
    this.stage.set('answering');
  }

  private pay(ticket: string): void {
    // The page comes first.
    const later = new Promise((resolve) => setTimeout(resolve, AFTER));
    this.paid = { ticket, nonce: later.then(() => payFor(ticket)), from: performance.now() };
  }

  private async hand(): Promise<AnswerKept> {
    const [version, language, given] = [this.opened()!.version, this.language(), this.given()];
    return this.again((ticket, nonce) => this.door.send({ ticket, nonce, version, language, given }));
  }

  /** Does something with a ticket; with a new one where it was out for too long. */
  private async again<T>(what: (ticket: string, nonce: string) => Promise<T>): Promise<T> {
    for (let tries = 0; ; tries++) {
      const { ticket, nonce, from } = this.paid!;
      const worked = await nonce;
      const wait = SOONEST - (performance.now() - from);
      if (wait > 0) await new Promise((resolve) => setTimeout(resolve, wait));
      try {
        return await what(ticket, worked);
      } catch (error) {
        if (!(error instanceof Refused) || error.code !== 'ticket-old' || tries > 0) throw error;
        this.pay((await this.door.open()).ticket);
      }
    }
  }

  private async refused(error: unknown): Promise<void> {
    if (!(error instanceof Refused)) {
      this.notice.set('trouble');
      throw error;
    }
    if (error.problems.length > 0) {
      this.problems.set(error.problems);
      this.goTo(error.problems[0]!.itemId);
      return;
    }
    const says: Readonly<Record<string, keyof PageWords>> = {
      offline: 'offline',
      early: 'early',
      full: 'full',
      over: 'over',
      closed: 'closed',
      answered: 'answered',
      'needs-code': 'closed',
      'form-changed': 'changed',
      'no-changes': 'closed',
    };
    this.notice.set(says[error.code] ?? 'trouble');
    if (error.code !== 'form-changed') return;
    const opened = await this.door.open().catch(() => null);
    if (!opened?.form) return;
    this.opened.set(opened);
    this.pay(opened.ticket);
    const problems = this.pages().flatMap(({ items }) =>
      items.flatMap((item) => problemsOf(item, this.given())),
    );
    this.problems.set(problems);
    if (problems[0]) this.goTo(problems[0].itemId);
  }

  private goTo(itemId: string): void {
    const page = this.pages().findIndex(({ items }) => items.some(({ id }) => id === itemId));
    if (page >= 0) this.at.set(page);
  }

  private keep(): void {
    if (this.isPreview() || this.stage() !== 'answering') return;
    const { token, draft } = this.door;
    keptDrafts.write(token, draft, { given: this.given(), language: this.language(), files: this.files() });
  }
}

/** The language of a form that whoever reads it wants: the first of the browser's that it has (BCP 47 lookup, RFC 4647, 3.4). */
function wanted(languages: readonly string[]): string {
  for (const asked of navigator.languages) {
    for (let tag = asked; tag; tag = tag.replace(/-?[^-]*$/, '')) {
      const found = languages.find((one) => one.toLowerCase() === tag.toLowerCase());
      const near = found ?? languages.find((one) => one.toLowerCase().startsWith(`${tag.toLowerCase()}-`));
      if (near) return near;
    }
  }
  return languages[0]!;
}
