import { from, switchMap } from 'rxjs';
import type { FlowText, LineText } from '@scriptum/core/text';
import { noteName, type CoverNote } from '@scriptum/core/template';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  linkedSignal,
  signal,
  viewChild,
  viewChildren,
} from '@angular/core';
import { addressesOf, envelopesOf, linkOf, writeNote, type Envelope, type Person } from '@scriptum/core/note';
import { isIn, type Entry } from '@scriptum/core/roll';
import { notesOf } from '@scriptum/core/sorting';
import { phrase, say } from '@scriptum/core/sentences';
import { FindingsList } from '../desk/findings-list';
import { KeptCopies } from '../desk/kept-copies';
import { TextEditor } from '../editor/text-editor';
import { Toolbar } from '../editor/toolbar';
import { WritingEditor } from '../editor/writing-editor';
import { ADDRESSEES, learnersField, LINK, LINK_ENDS } from '../editor/field-sentence';
import { FieldPicker } from '../editor/field-picker';
import { FieldsMargin } from '../editor/fields-margin';
import { PartMargin } from '../editor/part-margin';
import { selectFileNames } from '../state/file-name';
import { Api, troubleOf } from '../api/api';

import { deskActions, deskFeature } from '../state/desk';
import { registerFeature } from '../state/register';
import { sessionFeature } from '../state/session';
import { selectSortedBy } from '../state/sorting';
import { writingFeature } from '../state/writing';
import { Icon, type IconName } from '../ui/icon';
import { forMail } from '../ui/picture-files';
import { sizeSays } from '../ui/size-says';
import { Sentence } from '../ui/sentence/sentence';
import type { SentenceChange } from '../ui/sentence/sentence-piece';
import { MessageView } from './message-view';
import { NotesMenu } from './notes-menu';
import { alongSentence, changeAlong } from './along-sentence';
import { changeEnvelope, envelopeSentence } from './envelope-sentence';

const way = (of: 'plain' | 'narrow' | 'dark', label: string, no: string, yes: string) => ({
  of,
  label,
  options: [
    { value: false, word: no },
    { value: true, word: yes },
  ],
});
const WAYS = [
  way('plain', 'Form', 'Designed', 'Plain'),
  way('narrow', 'Width', 'Wide', 'Narrow'),
  way('dark', 'Ground', 'Light', 'Dark'),
];

const LINES = [
  { name: 'subject', title: 'Subject', label: 'Subject', hint: 'What the message is about' },
  {
    name: 'preview',
    title: 'Preview',
    label: 'Preview line',
    hint: 'Shown beside the subject',
  },
] as const;

/** Station Note: the email that goes with the papers, beside what the picked learner's family reads. */
@Component({
  selector: 'sc-note-station',
  imports: [
    FieldPicker,
    FieldsMargin,
    FindingsList,
    KeptCopies,
    MessageView,
    NotesMenu,
    PartMargin,
    TextEditor,
    Toolbar,
    Icon,
    Sentence,
  ],
  templateUrl: './note-station.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NoteStation extends WritingEditor<'note'> {
  protected readonly body = viewChild<TextEditor>('bodyEditor');
  protected readonly lines = LINES;
  private readonly lineEditors = viewChildren<TextEditor>('lineEditor');
  /** The line that the caret was in last; null for the text. */
  protected readonly at = signal<number | null>(null);
  protected readonly draft = this.store.selectSignal(writingFeature.selectNote);
  private readonly notes = this.store.selectSignal(writingFeature.selectNotes);
  private readonly by = this.store.selectSignal(selectSortedBy);
  private readonly named = this.store.selectSignal(selectFileNames);
  private readonly present = this.store.selectSignal(registerFeature.selectPresent);
  private readonly me = this.store.selectSignal(sessionFeature.selectMe);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  protected readonly pieces = computed(() => {
    const note = this.content();
    return note
      ? envelopeSentence(note, { columns: this.columns(), school: this.me()?.staff?.school ?? 'the school' })
      : [];
  });
  protected readonly along = computed(() => {
    const note = this.content();
    return note ? alongSentence(note, this.columns()) : [];
  });
  private readonly alongFile = viewChild<ElementRef<HTMLInputElement>>('alongFile');
  /** The name of a file that is on its way. */
  protected readonly bringing = signal('');
  private readonly api = inject(Api);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  protected readonly pictureUrl = (asset: string): string =>
    `/api/folios/${this.folio()?.id}/assets/${asset}`;
  protected readonly crest = computed(() => this.folio()?.letterhead?.crest?.asset ?? null);
  protected readonly link = LINK;
  protected readonly linkEnds = LINK_ENDS;
  /** Why the picked learner does not get this note; blank where it does. */
  protected readonly instead = computed(() => {
    const [note, entry] = [this.draft(), this.picked()];
    if (!note || !entry) return '';
    if (note.content.goes === 'asked') return 'Goes only when somebody sends it, from the register.';
    const given = notesOf(this.notes(), this.by())(entry);
    if (given.some(({ id }) => id === note.id)) return '';
    const of = note.content.variant?.of ?? note.id;
    const other = given.find(({ id, content }) => id === of || content.variant?.of === of);
    const name = `\u2068${this.names().get(entry.id) ?? ''}\u2069`;
    return other
      ? `${name} gets “${noteName(other)}” instead.`
      : note.content.variant
        ? `${name} gets another language’s note.`
        : `${name} does not get this note: no rule of the sorting names it.`;
  });
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  /** The messages that the picked learner's family gets; an empty one where nobody can be written to. */
  protected readonly envelopes = computed((): readonly Envelope[] => {
    const [note, entry] = [this.content(), this.picked()];
    if (!note || !entry) return [];
    const named = this.named();
    const gets = ({ id }: Entry): boolean => id === entry.id || (named.get(id)?.length ?? 0) > 0;
    const goes = notesOf(this.notes(), this.by());
    const joins = (one: Entry): boolean =>
      one.id === entry.id || (isIn(one) && gets(one) && goes(one).some(({ content }) => content === note));
    const entries = note.family ? this.roll().entries.filter(joins) : [entry];
    const own = envelopesOf(note, entries).filter((one) => one.entries.some(({ id }) => id === entry.id));
    return own.length > 0 ? own : [{ entries: [entry], to: [], cc: [], bcc: [], replyTo: null }];
  });
  /** Which of them is shown. */
  protected readonly message = linkedSignal({ source: () => this.picked()?.id, computation: () => 0 });
  protected readonly place = computed(() =>
    Math.min(this.message(), Math.max(0, this.envelopes().length - 1)),
  );
  private readonly envelope = computed(() => this.envelopes()[this.place()]);
  /** The papers that go along, with their sizes as far as they are pressed. */
  protected readonly files = computed(() => {
    const note = this.content();
    const papers = (this.envelope()?.entries ?? []).flatMap(({ id }) =>
      (this.named().get(id) ?? []).map(({ fileName }) => {
        const pressed = this.present().find((paper) => paper.entryId === id && paper.fileName === fileName);
        const size = sizeSays(pressed?.bytes ?? null) || 'not pressed yet';
        return {
          name: fileName.split('/').at(-1)!,
          path: fileName,
          size: note?.along === 'link' ? 'behind the link' : note?.lock ? `locked, ${size}` : size,
          icon: (note?.along === 'link'
            ? 'lucideLink'
            : note?.lock
              ? 'lucideLock'
              : 'lucidePaperclip') as IconName,
        };
      }),
    );
    const others = (note?.files ?? []).map(({ name, bytes }) => ({
      name,
      path: name,
      size: sizeSays(bytes),
      icon: 'lucidePaperclip' as IconName,
    }));
    return [...(note?.along === 'nothing' ? [] : papers), ...others];
  });
  /** The lines above the subject. */
  protected readonly heads = computed(() => {
    const [note, envelope] = [this.content(), this.envelope()];
    if (!note || !envelope) return [];
    const { to, cc, bcc, replyTo, entries } = envelope;
    const several = entries.length > 1;
    return [
      { what: 'From', says: note.from || (this.me()?.staff?.school ?? ''), look: false },
      to.length > 0
        ? { what: 'To', says: called(to), look: false }
        : { what: 'To', says: this.whyNobody(), look: true },
      ...(cc.length > 0 ? [{ what: 'Cc', says: called(cc), look: false }] : []),
      ...(bcc.length > 0 ? [{ what: 'Bcc', says: called(bcc), look: false }] : []),
      ...(replyTo ? [{ what: 'Reply to', says: called([replyTo]), look: false }] : []),
      ...(several ? [{ what: 'About', says: `${entries.length} learners of one family`, look: false }] : []),
    ];
  });
  /** What arrives, as the server will write it. */
  protected readonly written = computed(() => {
    const [note, envelope] = [this.content(), this.envelope()];
    return note && envelope
      ? writeNote(
          note,
          envelope,
          {
            columns: this.columns(),
            language: note.language ?? this.language(),
            day: this.day(),
            cohort: this.cohort(),
          },
          linkOf(note, location.origin, this.day()),
        )
      : null;
  });

  /** How the message is shown: as designed or plain, on a wide screen or a narrow one, in a light or dark mail program. */
  protected readonly view = signal({ plain: false, narrow: false, dark: false });
  protected readonly ways = WAYS;
  protected readonly addressees = ADDRESSEES;
  protected readonly learners = computed(() => learnersField(this.columns()));

  protected texts({ subject, preview = [], body }: CoverNote): readonly (FlowText | LineText)[] {
    return [subject, preview, body];
  }

  /** A field goes where the caret was last: a line or the text. */
  protected target(): TextEditor | undefined {
    const at = this.at();
    return at === null ? this.body() : this.lineEditors()[at];
  }

  protected setBody(body: FlowText | LineText): void {
    if ('content' in body) this.change({ body });
  }

  protected setLine(name: 'subject' | 'preview', line: FlowText | LineText): void {
    if (!('content' in line)) this.change({ [name]: line });
  }

  protected setEnvelope(change: SentenceChange): void {
    const note = this.content();
    if (note) this.change(changeEnvelope(note, change, this.columns()));
  }

  protected setView(of: keyof ReturnType<typeof this.view>, value: boolean): void {
    this.view.update((view) => ({ ...view, [of]: value }));
  }

  protected setAlong(change: SentenceChange): void {
    const [note, folio] = [this.content(), this.folio()];
    const step = note && changeAlong(note, change, this.columns());
    if (!step || !folio) return;
    if ('file' in step) this.alongFile()?.nativeElement.click();
    else if ('seal' in step)
      this.api.sealPassword(folio.id, step.seal).subscribe({
        next: (lock) => this.change({ lock }),
        error: this.failed,
      });
    else {
      this.change(step);
      // A link that goes along has to stand somewhere.
      if (step.along === 'link' && !this.printsLink()) {
        this.at.set(null);
        this.body()?.goToEnd();
        this.putField(LINK);
      }
    }
  }

  private printsLink(): boolean {
    const used = this.places();
    return this.content()?.fields.some(({ id, same }) => same?.kind === 'link' && used.has(id)) ?? false;
  }

  protected addAlong(input: HTMLInputElement): void {
    const [file, folio] = [input.files?.[0], this.folio()];
    input.value = '';
    if (!file || !folio) return;
    this.bringing.set(file.name);
    this.api.addAlong(folio.id, file).subscribe({
      next: (one) => {
        this.bringing.set('');
        this.change({ files: [...(this.content()?.files ?? []), one] });
      },
      error: this.failed,
    });
  }

  protected addPicture(file: File | undefined, { alt, width }: { alt?: string; width?: number } = {}): void {
    const folio = this.folio();
    if (!folio || !file) return;
    this.bringing.set(file.name);
    // What cannot be read here is looked at by the server, which says what is wrong with it.
    from(forMail(file).catch(() => file))
      .pipe(switchMap((ready) => this.api.addPicture(folio.id, ready)))
      .subscribe({
        next: (picture) => {
          this.bringing.set('');
          this.store.dispatch(deskActions.pictureAdded({ picture }));
          const says = alt ?? picture.name.replace(/\.\w+$/, '').replace(/[_-]+/g, ' ');
          this.body()?.insertPicture({ asset: picture.id, width: width ?? 60, align: 'left', alt: says });
        },
        error: this.failed,
      });
  }

  protected addCrest(asset: string): void {
    const school = this.me()?.staff?.school ?? 'the school';
    this.api.letterheadPicture(asset).subscribe({
      next: (blob) => {
        const name =
          blob.type === 'image/svg+xml' ? 'crest.svg' : `crest.${blob.type.split('/')[1] ?? 'png'}`;
        this.addPicture(new File([blob], name, { type: blob.type }), {
          alt: `Crest of ${school}`,
          width: 22,
        });
      },
      error: this.failed,
    });
  }

  private readonly failed = (error: unknown): void => {
    this.bringing.set('');
    this.store.dispatch(deskActions.failed({ trouble: troubleOf(error) }));
  };

  private whyNobody(): string {
    const [note, entry] = [this.content(), this.picked()];
    const [wrong] =
      note && entry
        ? note.to.flatMap((one) => ('columnId' in one ? addressesOf(entry, one.columnId).wrong : []))
        : [];
    return wrong
      ? `Not an address: ${say(wrong.reason)}`
      : `${phrase('no-address')}: the paper is to be printed`;
  }
}

/** Isolates (Unicode UAX #9) keep a right-to-left name from turning the address around. */
const called = (people: readonly Person[]): string =>
  people.map(({ address, name }) => (name ? `\u2068${name}\u2069 <${address}>` : address)).join(', ');
