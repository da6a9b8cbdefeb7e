import { learnerName, nameColumns } from '@scriptum/core/roll';
import { escapeHtml } from '@scriptum/core/text';
import { dayBegins, dayIn } from '@scriptum/core/time';
import { In, IsNull, type EntityManager } from 'typeorm';
import type { Posting } from '../post/dispatch.js';
import type { FolioRow } from '../store/entities/folio.js';
import { OrderWorkRow, StandingOrderRow } from '../store/entities/orders.js';
import { Staff } from '../store/entities/people.js';
import { loadEntries } from '../store/rolls.js';
import { YesLinks } from './yes-links.js';

/** Mail to somebody on the staff. */
export interface OwnMail {
  readonly schoolId: string;
  readonly orderId: string;
  /** What it is about: where it does not leave, these are told of once more. */
  readonly workIds: readonly string[];
  readonly to: { readonly address: string; readonly name: string };
  readonly subject: string;
  readonly text: string;
  readonly html: string;
}

/** Milliseconds between two mails that ask for a yes. */
const ASK_EVERY = 3_600_000;
/** Hours after midnight at which somebody is told of what went wrong since the mail of the day before. */
const MORNING = 7;
/** Learners that a mail names. */
const NAMED = 25;

interface MailsOf {
  readonly schoolId: string;
  readonly folio: FolioRow;
  readonly orders: readonly StandingOrderRow[];
  readonly posting: Posting;
  readonly timeZone: string;
}

/**
 * The mails that are due to staff: that papers wait for a yes, once an hour at the most, and what went wrong, once a day. Whom they are
 * about is written down as told.
 */
export async function dueMails(
  manager: EntityManager,
  { schoolId, folio, orders, posting, timeZone }: MailsOf,
  now: Date,
): Promise<OwnMail[]> {
  const untold = await manager.find(OrderWorkRow, {
    where: [
      { schoolId, folioId: folio.id, state: 'asked', toldAt: IsNull() },
      { schoolId, folioId: folio.id, state: In(['blocked', 'left']), isWrong: true, toldAt: IsNull() },
    ],
    order: { owedAt: 'ASC', id: 'ASC' },
  });
  const mails: OwnMail[] = [];
  const today = dayIn(now, timeZone);
  for (const order of orders) {
    const own = untold.filter(({ orderId }) => orderId === order.id);
    const asked = own.filter(({ state }) => state === 'asked');
    const wrong = own.filter(({ state }) => state !== 'asked');
    const next: Date[] = [];
    const changes: Partial<StandingOrderRow> = {};
    if (asked.length > 0) {
      const from = order.askedAt && new Date(order.askedAt.getTime() + ASK_EVERY);
      if (from && from > now) next.push(from);
      else {
        mails.push(...(await askMails(manager, { folio, order, posting }, asked, now)));
        await tell(manager, asked, now);
        changes.askedAt = now;
      }
    }
    if (wrong.length > 0) {
      if (order.toldOn === today)
        next.push(new Date(dayBegins(after(today), timeZone).getTime() + MORNING * 3_600_000));
      else {
        mails.push(...(await wrongMails(manager, { folio, order, posting }, wrong)));
        await tell(manager, wrong, now);
        changes.toldOn = today;
      }
    }
    const mailAt = next.length === 0 ? null : new Date(Math.min(...next.map((time) => time.getTime())));
    if (Object.keys(changes).length > 0 || mailAt?.getTime() !== order.mailAt?.getTime())
      await manager.update(StandingOrderRow, { id: order.id }, { ...changes, mailAt });
  }
  return mails;
}

const tell = (manager: EntityManager, works: readonly OrderWorkRow[], toldAt: Date): Promise<unknown> =>
  manager.update(OrderWorkRow, { id: In(works.map(({ id }) => id)) }, { toldAt });

function after(day: string): string {
  const next = new Date(`${day}T00:00:00Z`);
  next.setUTCDate(next.getUTCDate() + 1);
  return next.toISOString().slice(0, 10);
}

interface MailOf {
  readonly folio: FolioRow;
  readonly order: StandingOrderRow;
  readonly posting: Posting;
}

async function askMails(
  manager: EntityManager,
  { folio, order, posting }: MailOf,
  works: readonly OrderWorkRow[],
  now: Date,
): Promise<OwnMail[]> {
  const { then, name } = order.content;
  const named = then.kind === 'ask' && then.staff.length > 0 ? then.staff : [];
  const people = await peopleOf(manager, folio.schoolId, named, order.ownerId);
  const lines = await linesOf(manager, folio, works);
  const links = new YesLinks(posting.key);
  const whose = works.length === 1 ? 'the papers of 1 learner' : `the papers of ${works.length} learners`;
  return people.map((person): OwnMail => {
    const link = `${posting.address}/y/${links.of({ orderId: order.id, staffId: person.id }, now.getTime())}`;
    return mailOf(person, { folio, order, works }, `A yes is waited for, for ${whose}: ${folio.title}`, [
      `“${name}” in “${folio.title}” has pressed ${whose}. They leave once somebody says yes:`,
      ...lines,
      { text: 'Look at them and say yes or no', link },
      {
        text: 'Or look at the papers in Scriptum',
        link: `${posting.address}/folio/${folio.id}/press/orders`,
      },
    ]);
  });
}

async function wrongMails(
  manager: EntityManager,
  { folio, order, posting }: MailOf,
  works: readonly OrderWorkRow[],
): Promise<OwnMail[]> {
  const people = await peopleOf(manager, folio.schoolId, [], order.ownerId);
  const lines = await linesOf(manager, folio, works);
  const count = works.length === 1 ? '1 learner' : `${works.length} learners`;
  return people.map((person) =>
    mailOf(person, { folio, order, works }, `Nothing left for ${count}: ${folio.title}`, [
      `“${order.content.name}” in “${folio.title}” goes on, but nothing left for ${count}:`,
      ...lines,
      'Once the cells or texts are mended, what was blocked goes on by itself. You are told once a day at the most.',
      { text: 'Look at it in Scriptum', link: `${posting.address}/folio/${folio.id}/press/orders` },
    ]),
  );
}

async function peopleOf(
  manager: EntityManager,
  schoolId: string,
  named: readonly string[],
  ownerId: string | null,
): Promise<Staff[]> {
  const found = named.length > 0 ? await manager.findBy(Staff, { schoolId, id: In([...named]) }) : [];
  if (found.length > 0) return found;
  return ownerId === null ? [] : manager.findBy(Staff, { schoolId, id: ownerId });
}

/** Whom it is about, and why. */
async function linesOf(
  manager: EntityManager,
  folio: FolioRow,
  works: readonly OrderWorkRow[],
): Promise<string[]> {
  const { entries, columns } = await loadEntries(
    manager,
    folio,
    works.map(({ entryId }) => entryId),
  );
  const placeOf = new Map(entries.map(({ id, position }) => [id, position]));
  const some = [...works]
    .sort((a, b) => (placeOf.get(a.entryId) ?? 0) - (placeOf.get(b.entryId) ?? 0))
    .slice(0, NAMED);
  const names = nameColumns(columns);
  const nameOf = new Map(entries.map((entry) => [entry.id, learnerName(entry, names)]));
  return [
    ...some.map(({ entryId, why }) => `– ${nameOf.get(entryId) ?? 'A learner'}${why ? `: ${why}` : ''}`),
    ...(works.length > NAMED ? [`… and ${works.length - NAMED} more.`] : []),
  ];
}

type Line = string | { readonly text: string; readonly link: string };

function mailOf(
  { name, email }: Staff,
  { folio, order, works }: { folio: FolioRow; order: StandingOrderRow; works: readonly OrderWorkRow[] },
  subject: string,
  lines: readonly Line[],
): OwnMail {
  const html = lines.map((line) =>
    typeof line === 'string'
      ? `<p>${escapeHtml(line)}</p>`
      : `<p><a href="${escapeHtml(line.link)}">${escapeHtml(line.text)}</a></p>`,
  );
  return {
    schoolId: folio.schoolId,
    orderId: order.id,
    workIds: works.map(({ id }) => id),
    to: { address: email, name },
    subject: subject.replace(/[\r\n]+/g, ' ').slice(0, 300),
    text: `${lines.map((line) => (typeof line === 'string' ? line : `${line.text}:\n${line.link}`)).join('\n\n')}\n`,
    html: html.join('\n'),
  };
}
