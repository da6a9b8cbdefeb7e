import type { PaperHistory } from '@scriptum/core/contract';
import type { EntityManager } from 'typeorm';
import { notFound } from '../refusal.js';
import { stateOf } from '../store/link-state.js';
import type { Asked, PrivateLinkRow } from '../store/entities/private-link.js';
import { PaperEventRow, PaperRow, PressRunRow } from '../store/entities/register.js';
import { WritingRow } from '../store/entities/writing.js';
import { namesOf } from '../store/staff-names.js';
import { madeFrom } from '../store/writings.js';

interface MailLine {
  readonly state: string;
  readonly recipients: string;
  readonly answer: string | null;
  readonly queuedAt: Date;
  readonly sentAt: Date | null;
}

/** A private link as its row is read, with its JSON as text. */
type LinkLine = PrivateLinkRow & { readonly recipients: string };

/** Letters of a value that are told. */
const VALUE_TOLD = 200;

/** All that is known of a paper: what it was made from, and what became of it, in the order of time. */
export async function paperHistory(
  manager: EntityManager,
  { schoolId, folioId, paperId }: { schoolId: string; folioId: string; paperId: string },
): Promise<PaperHistory> {
  const paper = await manager.findOneBy(PaperRow, { id: paperId, schoolId, folioId });
  const run = paper && (await manager.findOneBy(PressRunRow, { id: paper.runId, schoolId }));
  if (!paper || !run) throw notFound('This paper');
  const [events, mails, writing, others, links] = await Promise.all([
    manager.find(PaperEventRow, { where: { paperId, schoolId }, order: { id: 'ASC' } }),
    manager.query<MailLine[]>(
      `SELECT m.state, m.recipients, m.answer, m.queuedAt, m.sentAt FROM message m JOIN enclosure c ON c.messageId = m.id
       WHERE c.paperId = ? AND m.schoolId = ? ORDER BY m.queuedAt`,
      [paperId, schoolId],
    ),
    manager.findOneBy(WritingRow, { id: paper.templateId, schoolId }),
    manager.query<{ id: string; pressedAt: Date }[]>(
      `SELECT id, pressedAt FROM paper WHERE schoolId = ? AND folioId = ? AND entryId = ? AND templateId = ?
         AND pressedAt IS NOT NULL AND blobHash IS NOT NULL ORDER BY pressedAt, id`,
      [schoolId, folioId, paper.entryId, paper.templateId],
    ),
    manager.query<LinkLine[]>(
      `SELECT l.*, m.recipients FROM private_link l JOIN message m ON m.id = l.messageId JOIN enclosure c ON c.messageId = m.id
       WHERE c.paperId = ? AND l.schoolId = ? ORDER BY m.queuedAt`,
      [paperId, schoolId],
    ),
  ]);
  const names = await namesOf(manager, schoolId, [
    run.staffId,
    ...events.map(({ staffId }) => staffId),
    ...links.map(({ withdrawnBy }) => withdrawnBy),
  ]);
  const by = (staffId: string | null): string | null => names.get(staffId ?? '') ?? null;
  const at = others.findIndex(({ id }) => id === paperId);
  const next = at < 0 ? undefined : others[at + 1];
  const { fields } = await madeFrom(manager, paper);
  const titles = new Map(fields.map(({ id, name }) => [id, name]));
  const steps: PaperHistory['steps'] = [
    ...(paper.pressedAt
      ? [
          {
            kind: 'pressed' as const,
            at: paper.pressedAt.toISOString(),
            by: by(run.staffId),
            note: paper.changed ?? null,
          },
        ]
      : []),
    ...events.map(({ kind, at: when, staffId, note }) => ({
      kind,
      at: when.toISOString(),
      by: by(staffId),
      note,
    })),
    ...mails.flatMap(({ state, recipients, answer, queuedAt, sentAt }) => {
      const to = (JSON.parse(recipients) as string[]).join(', ');
      return [
        { kind: 'queued' as const, at: new Date(queuedAt).toISOString(), by: null, note: to },
        ...(sentAt
          ? [{ kind: 'sent' as const, at: new Date(sentAt).toISOString(), by: null, note: to }]
          : []),
        ...(state === 'refused' || state === 'unconfirmed'
          ? [
              {
                kind: state as 'refused' | 'unconfirmed',
                at: new Date(queuedAt).toISOString(),
                by: null,
                note: answer,
              },
            ]
          : []),
      ];
    }),
    ...links.flatMap(({ openedAt, withdrawnAt, withdrawnBy, recipients }) => {
      const to = (JSON.parse(recipients) as string[]).join(', ');
      return [
        ...(openedAt ? [{ kind: 'opened' as const, at: openedAt.toISOString(), by: null, note: to }] : []),
        ...(withdrawnAt
          ? [
              {
                kind: 'link-withdrawn' as const,
                at: withdrawnAt.toISOString(),
                by: by(withdrawnBy),
                note: to,
              },
            ]
          : []),
      ];
    }),
    ...(next && paper.state === 'superseded'
      ? [{ kind: 'superseded' as const, at: new Date(next.pressedAt).toISOString(), by: null, note: null }]
      : []),
  ];
  return {
    steps: steps.sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0)),
    links: links.map((link) => ({
      messageId: link.messageId,
      to: (JSON.parse(link.recipients) as string[]).join(', '),
      ends: link.ends,
      state: stateOf(link),
      opens: link.opens,
      lastOpenedAt: link.lastOpenedAt?.toISOString() ?? null,
      asks: link.ask === null ? null : (JSON.parse(link.ask as unknown as string) as Asked).title,
    })),
    template: { name: writing?.name ?? 'A letter that is gone', version: paper.templateVersion },
    letterheadVersion: run.letterheadVersion,
    // The version among those of this learner and letter, counted from 1.
    version: at < 0 ? null : at + 1,
    values: Object.entries(paper.values).flatMap(([id, printed]) => {
      const name = titles.get(id);
      const text = typeof printed === 'object' ? printed.text : printed;
      return name === undefined ? [] : [{ name, text: text.slice(0, VALUE_TOLD) }];
    }),
  };
}
