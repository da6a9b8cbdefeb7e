import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { say } from '../sentences/index.js';
import { valueOf, type Entry, type Roll } from '../roll/index.js';
import type { Finding } from './finding.js';
import { who } from './say.js';

/** Parameters that say of whom a finding is, or how many, and not what it is. */
const OF_WHOM: ReadonlySet<string> = new Set(['who', 'first', 'cells', 'sample', 'cell', 'count', 'why']);

/** Marks that were worked out for an entry, by what they are of. */
const known = new WeakMap<Entry, Map<string, string>>();

/**
 * Names what somebody has looked at and found right: a finding, for one entry or for all, with the value that it is about.
 * Another value makes another mark, so what was seen comes up again once it changes.
 *
 * @param entry null for a finding that is about all.
 * @returns 32 hexadecimal digits (of SHA-256).
 */
export function markOf(finding: Finding, entry: Entry | null): string {
  const kind = JSON.stringify([
    finding.code,
    finding.place,
    finding.templateId ?? '',
    finding.columnId ?? '',
    finding.fieldId ?? '',
    Object.entries(finding.parameters ?? {}).filter(([name]) => entry === null || !OF_WHOM.has(name)),
  ]);
  if (entry === null) return short(kind);
  let marks = known.get(entry);
  if (!marks) known.set(entry, (marks = new Map()));
  let mark = marks.get(kind);
  if (mark === undefined) {
    const { columnId } = finding;
    const value = columnId === undefined ? { ...entry.worked, ...entry.values } : valueOf(entry, columnId);
    marks.set(kind, (mark = short(JSON.stringify([kind, entry.id, value]))));
  }
  return mark;
}

const short = (text: string): string => bytesToHex(sha256(utf8ToBytes(text))).slice(0, 32);

/** A finding with the marks that say that it was seen. */
export interface SeenFinding {
  readonly finding: Finding;
  readonly marks: readonly string[];
}

/** Findings as they are left when what somebody has found right is taken out. What blocks cannot be found right. */
export function withoutSeen(
  findings: readonly Finding[],
  roll: Roll,
  seen: ReadonlySet<string>,
): { readonly open: Finding[]; readonly seen: SeenFinding[] } {
  if (seen.size === 0) return { open: [...findings], seen: [] };
  const entries = new Map(roll.entries.map((entry) => [entry.id, entry]));
  const open: Finding[] = [];
  const right: SeenFinding[] = [];
  for (const finding of findings) {
    if (finding.severity === 'blocking') {
      open.push(finding);
      continue;
    }
    if (finding.entryIds.length === 0) {
      const mark = markOf(finding, null);
      if (seen.has(mark)) right.push({ finding, marks: [mark] });
      else open.push(finding);
      continue;
    }
    const there = finding.entryIds.flatMap((id) => entries.get(id) ?? []);
    const isSeen = (entry: Entry): boolean => seen.has(markOf(finding, entry));
    const [looked, left] = [there.filter(isSeen), there.filter((entry) => !isSeen(entry))];
    if (looked.length === 0) open.push(finding);
    else {
      right.push({
        finding: about(finding, looked, roll),
        marks: looked.map((entry) => markOf(finding, entry)),
      });
      if (left.length > 0) open.push(about(finding, left, roll));
    }
  }
  return { open, seen: right };
}

/** The marks of a finding for those whom it is about now. */
export function marksOf(finding: Finding, roll: Roll): string[] {
  if (finding.entryIds.length === 0) return [markOf(finding, null)];
  const ids = new Set(finding.entryIds);
  return roll.entries.filter(({ id }) => ids.has(id)).map((entry) => markOf(finding, entry));
}

/** The same finding about some of its entries. */
export function about(finding: Finding, entries: readonly Entry[], roll: Roll): Finding {
  const given = finding.parameters ?? {};
  const { columnId } = finding;
  const first = entries[0];
  const parameters: Record<string, unknown> = {
    ...given,
    ...('who' in given ? { who: who(entries, roll) } : {}),
    ...('count' in given ? { count: entries.length } : {}),
    ...('cells' in given ? { cells: entries.length } : {}),
    ...('first' in given ? { first: who(entries.slice(0, 1), roll) } : {}),
    ...('sample' in given && first && columnId !== undefined
      ? { sample: valueOf(first, columnId).slice(0, 40) }
      : {}),
  };
  const message = say({ code: finding.code, parameters: parameters as never });
  return { ...finding, parameters, message, entryIds: entries.map(({ id }) => id) };
}
