import type { Tried } from '@scriptum/core/contract';
import { escapeHtml } from '@scriptum/core/text';
import type { DataSource } from 'typeorm';
import { notFound, Refusal } from '../refusal.js';
import type { TryPaper } from '../register/try-papers.js';
import { Staff } from '../store/entities/people.js';
import { findFolio } from '../store/folios.js';
import { newId } from '../store/id.js';
import type { Outbox } from './outbox.js';

/** Bytes of papers in one message: most mail servers take a third more than this (common practice, no source). */
const MESSAGE_BYTES = 12 * 1024 * 1024;

/** A paper as it would come out now, with its name. */
export interface SetTry {
  readonly fileName: string;
  readonly bytes: Buffer;
}

export interface TriesOptions {
  /** What papers of some entries would be made from. */
  readonly plan: (asked: {
    schoolId: string;
    folioId: string;
    entryIds: readonly string[];
  }) => Promise<TryPaper[]>;
  /** Sets one. @throws Refusal where it cannot be set. */
  readonly set: (place: { schoolId: string; folioId: string }, paper: TryPaper) => Promise<SetTry>;
  /** Of the Message-IDs. */
  readonly domain: string;
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
    gone,
  }: {
    schoolId: string;
    staffId: string;
    folioId: string;
    entryIds: readonly string[];
    /** Tells that nobody waits for it any more: then nothing is sent. */
    gone?: AbortSignal;
  }): Promise<Tried> {
    const { manager } = this.database;
    const folio = await findFolio(manager, schoolId, folioId);
    const staff = await manager.findOneBy(Staff, { id: staffId, schoolId });
    if (!staff) throw notFound('Your account');
    const planned = await this.options.plan({ schoolId, folioId, entryIds });
    if (planned.length === 0)
      throw new Refusal(
        409,
        'nobody-gets',
        'Nobody of these gets a paper. Choose others, or look at the sorting.',
      );
    const papers: SetTry[] = [];
    for (const paper of planned) {
      if (gone?.aborted) throw new Refusal(409, 'nobody-waits', 'Nobody waits for this try any more.');
      papers.push(await this.options.set({ schoolId, folioId }, paper));
    }
    const bundles = bundled(papers);
    for (const [n, bundle] of bundles.entries()) {
      const part = bundles.length > 1 ? ` (${n + 1} of ${bundles.length})` : '';
      const lines = [
        `This is a try of “${folio.title}”${part}. It went to you alone; no family got anything.`,
        `${bundle.length === 1 ? 'The paper is' : `The ${bundle.length} papers are`} as they would come out now:`,
        ...bundle.map(({ fileName }) => `– ${fileName}`),
      ];
      const answer = await this.outbox.sendOwn(schoolId, {
        messageId: `<try-${newId()}@${this.options.domain}>`,
        to: [{ address: staff.email, name: '' }],
        subject: `Try: ${folio.title}${part}`.replace(/[\r\n]+/g, ' ').slice(0, 900),
        text: `${lines.join('\n')}\n`,
        html: lines.map((line) => `<p>${escapeHtml(line)}</p>`).join('\n'),
        files: bundle.map(({ fileName, bytes }) => ({ name: fileName.split('/').at(-1)!, bytes })),
      });
      if (answer.state !== 'sent')
        throw new Refusal(
          502,
          'try-not-sent',
          `The mail server did not take the try: “${answer.answer}”. No family got anything either.`,
        );
    }
    return { to: staff.email, papers: papers.length, messages: bundles.length };
  }
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
