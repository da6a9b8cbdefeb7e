import { readMoment, type AttendanceColumn, type Column } from '../column/index.js';
import type { ChartWeek } from '../chart/index.js';
import { countSessions, readCodes } from '../marks/index.js';
import { valueOf, type Entry } from '../roll/index.js';

const DAY = 86_400_000;

/** What a register says of one session, and when that was. */
interface Session {
  /** The Monday of its week (ISO 8601), or the number of a week that the sheet counts itself. */
  readonly week: string;
  readonly code: string;
}

/**
 * An entry's sessions counted by weeks, in their order; none where the register has only totals, or where nothing says when
 * a session was. The day stands in a session's title, or in the row of a joined register.
 */
export function attendanceWeeks(
  { from, codes }: AttendanceColumn,
  entry: Entry,
  columns: readonly Column[],
  language: string,
): ChartWeek[] {
  const sessions =
    from.kind === 'sessions'
      ? ofColumns(from.columnIds, entry, columns)
      : from.kind === 'table'
        ? ofRows(entry.tables?.[from.sourceId] ?? [], from.at)
        : [];
  const known = readCodes(codes);
  const weeks = new Map<string, string[]>();
  for (const { week, code } of sessions) {
    const list = weeks.get(week);
    if (list) list.push(code);
    else weeks.set(week, [code]);
  }
  return [...weeks]
    .sort(([one], [other]) => (one < other ? -1 : 1))
    .flatMap(([week, texts]): ChartWeek[] => {
      const { present, late, excused, unexcused, possible } = countSessions(texts, known, true);
      if (!possible || possible.equals(0)) return [];
      const away = excused.add(unexcused);
      return [
        {
          title: titleOf(week, language),
          present: present!.valueOf(),
          late: late.valueOf(),
          away: away.valueOf(),
        },
      ];
    });
}

function ofColumns(columnIds: readonly string[], entry: Entry, columns: readonly Column[]): Session[] {
  const titles = new Map(columns.map(({ id, title }) => [id, title]));
  return columnIds.flatMap((id) => {
    const week = weekOfTitle(titles.get(id) ?? '');
    const code = valueOf(entry, id);
    return week === null || code.trim() === '' ? [] : [{ week, code }];
  });
}

/** The day is in the column of a row that is one for most rows. */
function ofRows(rows: readonly (readonly string[])[], at: number): Session[] {
  const width = Math.max(0, ...rows.map((row) => row.length));
  const days = Array.from({ length: width }, (_, n) => rows.filter((row) => isDay(row[n])).length);
  const most = Math.max(0, ...days);
  if (most === 0 || most * 2 < rows.length) return [];
  const dayAt = days.indexOf(most);
  return rows.flatMap((row) => {
    const moment = readMoment(row[dayAt] ?? '');
    const code = row[at] ?? '';
    return moment && code.trim() !== '' ? [{ week: mondayOf(moment.iso), code }] : [];
  });
}

const isDay = (text: string | undefined): boolean => text !== undefined && readMoment(text) !== null;

const WEEK = /\b(?:week|wk|woche|kw|semaine|semana|settimana|tydzień|vecka|uge|uke)\.?\s*(\d{1,2})\b/iu;
/** What else stands beside a day: which half of it, or which lesson. */
const BESIDE =
  /[\s,;:–—-]*\(?\b(?:am|pm|a\.m\.|p\.m\.|morning|afternoon|p\d|period \d+|lesson \d+)\b\)?\s*$/iu;

function weekOfTitle(title: string): string | null {
  const moment = readMoment(title) ?? readMoment(title.replace(BESIDE, '')) ?? dayWithin(title);
  if (moment) return mondayOf(moment.iso);
  const week = WEEK.exec(title)?.[1];
  return week === undefined ? null : `#${week.padStart(2, '0')}`;
}

const dayWithin = (title: string): ReturnType<typeof readMoment> => {
  const found = /\d{4}-\d{2}-\d{2}|\d{1,2}[./]\d{1,2}[./]\d{2,4}/.exec(title)?.[0];
  return found === undefined ? null : readMoment(found);
};

/** The Monday on or before a day: weeks begin on Mondays (ISO 8601). */
function mondayOf(iso: string): string {
  const at = Date.parse(iso.slice(0, 10));
  const sinceMonday = (new Date(at).getUTCDay() + 6) % 7;
  return new Date(at - sinceMonday * DAY).toISOString().slice(0, 10);
}

function titleOf(week: string, language: string): string {
  if (week.startsWith('#')) return String(Number(week.slice(1)));
  return new Intl.DateTimeFormat(language, { day: 'numeric', month: 'short', timeZone: 'UTC' }).format(
    new Date(week),
  );
}
