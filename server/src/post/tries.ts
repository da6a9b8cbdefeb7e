import type { Tried } from '@scriptum/core/contract';
import { escapeHtml } from '@scriptum/core/text';
import type { DataSource } from 'typeorm';
import { notFound, Refusal } from '../refusal.js';
import type { PlannedTry, TryAsked, TryMessage, TryPaper } from '../register/try-papers.js';
import { Staff } from '../store/entities/people.js';
import { findFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import { noteWord } from './dispatch.js';
import { FileGone, type Enclosing } from './enclosing.js';
import type { Outbox } from './outbox.js';
import type { Secrets } from './secrets.js';
import type { OutgoingFile } from './transport.js';

/** Bytes of papers in one message: most mail servers take a third more than this (common practice, no source). */
const MESSAGE_BYTES = 12 * 1024 * 1024;

/** A paper as it would come out now, with its name. */
export interface SetTry {
  readonly fileName: string;
  readonly bytes: Buffer;
}

export interface TriesOptions {
  /** What papers of some entries would be made from. */
  readonly plan: (asked: TryAsked) => Promise<PlannedTry>;
  /** Sets one. @throws Refusal where it cannot be set. */
  readonly set: (place: { schoolId: string; folioId: string }, paper: TryPaper) => Promise<SetTry>;
  /** Of the Message-IDs. */
  readonly domain: string;
  /** Of the application, where families find it. */
  readonly address: () => string;
  readonly enclosing: Enclosing;
  readonly secrets: Secrets;
}

/** Mails papers as they would come out to the person who asks for them, and to nobody else. Nothing of it is kept. */
export class Tries {
  constructor(
    private readonly database: DataSource,
    private readonly outbox: Pick<Outbox, 'sendOwn'>,
    private readonly options: TriesOptions,
  ) {}

  /** @throws Refusal where a paper cannot be set, or the mail server does not take the message. */
  async send({
    schoolId,
    staffId,
    folioId,
    entryIds,
    messages: asMessages = false,
    gone,
  }: {
    schoolId: string;
    staffId: string;
    folioId: string;
    entryIds: readonly string[];
    /** True for the messages as their families would get them. */
    messages?: boolean;
    /** Tells that nobody waits for it any more: then nothing is sent. */
    gone?: AbortSignal;
  }): Promise<Tried> {
    const { manager } = this.database;
    const folio = await findFolio(manager, schoolId, folioId);
    const staff = await manager.findOneBy(Staff, { id: staffId, schoolId });
    if (!staff) throw notFound('Your account');
    const planned = await this.options.plan({
      schoolId,
      folioId,
      entryIds,
      messages: asMessages,
      address: this.options.address(),
    });
    if (planned.papers.length === 0)
      throw new Refusal(
        409,
        'nobody-gets',
        'Nobody of these gets a paper. Choose others, or look at the sorting.',
      );
    const papers: SetTry[] = [];
    for (const paper of planned.papers) {
      if (gone?.aborted) throw new Refusal(409, 'nobody-waits', 'Nobody waits for this try any more.');
      papers.push(await this.options.set({ schoolId, folioId }, paper));
    }
    if (asMessages) {
      for (const message of planned.messages) {
        const own = planned.papers.flatMap(({ entryId }, n) =>
          message.entryIds.includes(entryId) ? [{ entryId, ...papers[n]! }] : [],
        );
        const files = await this.along({ schoolId, folioId }, message, own);
        await this.mail(schoolId, staff.email, { ...asTry(message), from: message.from, files });
      }
      return { to: staff.email, papers: papers.length, messages: planned.messages.length };
    }
    const bundles = bundled(papers);
    for (const [n, bundle] of bundles.entries()) {
      const part = bundles.length > 1 ? ` (${n + 1} of ${bundles.length})` : '';
      const lines = [
        `This is a try of “${folio.title}”${part}. It went to you alone; no family got anything.`,
        `${bundle.length === 1 ? 'The paper is' : `The ${bundle.length} papers are`} as they would come out now:`,
        ...bundle.map(({ fileName }) => `– ${fileName}`),
      ];
      await this.mail(schoolId, staff.email, {
        subject: `Try: ${folio.title}${part}`,
        text: `${lines.join('\n')}\n`,
        html: lines.map((line) => `<p>${escapeHtml(line)}</p>`).join('\n'),
        from: null,
        files: bundle.map(plainFile),
      });
    }
    return { to: staff.email, papers: papers.length, messages: bundles.length };
  }

  /** What goes along with a message, as it would to its family. @throws Refusal where something of it is gone. */
  private async along(
    place: { schoolId: string; folioId: string },
    { along, files, lock, html }: TryMessage,
    papers: readonly (SetTry & { entryId: string })[],
  ): Promise<OutgoingFile[]> {
    const { enclosing, secrets } = this.options;
    const { manager } = this.database;
    const word = lock && 'sealed' in lock ? noteWord(secrets, place.schoolId, lock.sealed) : null;
    const there: OutgoingFile[] = [];
    for (const { fileName, bytes, entryId } of along ? [] : papers) {
      const password = word ?? (lock && 'own' in lock ? lock.own[entryId] || null : null);
      there.push(plainFile({ fileName, bytes: await enclosing.locked(place.schoolId, bytes, password) }));
    }
    try {
      there.push(...(await enclosing.forAll(manager, place, files)));
    } catch (error) {
      throw error instanceof FileGone ? new Refusal(409, 'file-gone', error.message) : error;
    }
    return [...there, ...(await enclosing.pictures(manager, place, html))];
  }

  /** @throws Refusal where the mail server does not take it. */
  private async mail(
    schoolId: string,
    address: string,
    { subject, text, html, from, files }: TryMail,
  ): Promise<void> {
    const answer = await this.outbox.sendOwn(
      schoolId,
      {
        messageId: `<try-${newId()}@${this.options.domain}>`,
        to: [{ address, name: '' }],
        subject: subject.replace(/[\r\n]+/g, ' ').slice(0, 900),
        text,
        html,
        files,
      },
      { from },
    );
    if (answer.state !== 'sent')
      throw new Refusal(
        502,
        'try-not-sent',
        `The mail server did not take the try: “${answer.answer}”. No family got anything either.`,
      );
  }
}

interface TryMail {
  readonly subject: string;
  readonly text: string;
  readonly html: string;
  readonly from: string | null;
  readonly files: readonly OutgoingFile[];
}

const plainFile = ({ fileName, bytes }: SetTry): OutgoingFile => ({
  name: fileName.split('/').at(-1)!,
  bytes,
});

/** A message marked as a try, in its subject and above its text. */
function asTry({ subject, text, html, to, cc, bcc }: TryMessage): Pick<TryMail, 'subject' | 'text' | 'html'> {
  const goes = [
    to.length > 0 ? `to ${to.join(', ')}` : 'to nobody, since there is no address',
    ...(cc.length > 0 ? [`a copy to ${cc.join(', ')}`] : []),
    ...(bcc.length > 0 ? [`a blind copy to ${bcc.join(', ')}`] : []),
  ];
  const mark = `This is a try, and went to you alone. The message below would go ${goes.join(', ')}.`;
  const box = `<div style="padding:12px 16px;background-color:#FFF3D6;color:#22303C;font-family:sans-serif;font-size:14px">${escapeHtml(mark)}</div>`;
  return {
    subject: `Try: ${subject || '(no subject)'}`,
    text: `${mark}\n\n${text}`,
    html: html.replace(/(<body[^>]*>)/, (body) => `${body}${box}`),
  };
}

/** Papers that go together in a message. */
function bundled(papers: readonly SetTry[]): SetTry[][] {
  const bundles: SetTry[][] = [];
  let size = Infinity;
  for (const paper of papers) {
    if (size + paper.bytes.length > MESSAGE_BYTES) {
      bundles.push([]);
      size = 0;
    }
    bundles.at(-1)!.push(paper);
    size += paper.bytes.length;
  }
  return bundles;
}
