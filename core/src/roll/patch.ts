import { phrase } from '../sentences/index.js';
import { z } from 'zod';
import { Identity, type Column } from '../column/index.js';
import { refuse, SHEET_LIMITS, succeed, type Result } from '../table/index.js';
import { learnerName, nameColumns } from './learner.js';
import { ColumnChange, changeColumns, columnChanges } from './column-changes.js';
import { Entry, type Roll, type SourceCell } from './roll.js';

export const CellChange = z.object({
  entryId: Identity,
  columnId: Identity,
  text: z
    .string()
    .max(SHEET_LIMITS.cell, `A cell may hold at most ${SHEET_LIMITS.cell.toLocaleString('en')} characters.`),
  /** Only where a cell gets back what it had, or a picture that was brought for it. */
  exact: z.string().max(400).optional(),
});
export type CellChange = z.infer<typeof CellChange>;

const CellText = z.string().max(SHEET_LIMITS.cell);
const ExactText = z.string().max(400);

/** An entry that comes into the roll: a new one, or one that was taken away, with all that it had. */
export const AddedEntry = Entry.omit({ worked: true }).extend({
  id: z.string().regex(/^[0-9a-z]{6,40}$/, 'An identity is 6 to 40 letters and digits.'),
  position: z.number().int().nonnegative().max(2_000_000_000),
  values: z.record(Identity, CellText),
  exact: z.record(Identity, ExactText).optional(),
  mends: z.record(Identity, z.object({ text: CellText, exact: ExactText.optional() })).optional(),
  leftOut: z.string().max(300).optional(),
  answered: Identity.optional(),
  tables: z.record(Identity, z.array(z.array(CellText))).optional(),
});
export type AddedEntry = z.infer<typeof AddedEntry>;

/** So few entries are found sooner one by one. */
const FEW = 3;

/** One change to a roll, made and undone as a whole. */
export const RollPatch = z.object({
  cells: z.array(CellChange).max(600_000).optional(),
  leftOut: z.array(z.object({ entryId: Identity, reason: z.string().max(300).nullable() })).optional(),
  /** Changes of the columns. Columns of a source stay; those that were added here may come and go. */
  columns: z
    .array(ColumnChange)
    .max(2 * SHEET_LIMITS.columns)
    .optional(),
  /** Entries that come in, at their positions. */
  added: z.array(AddedEntry).max(SHEET_LIMITS.rows).optional(),
  /** Entries that go. */
  taken: z.array(Identity).max(SHEET_LIMITS.rows).optional(),
  key: z.array(Identity).max(6).optional(),
});
export type RollPatch = z.infer<typeof RollPatch>;

/** A change as it is asked for: the columns as they shall be. What is another one of them is worked out for the patch. */
export type WantedChange = Omit<RollPatch, 'columns'> & { readonly columns?: readonly Column[] };

/** The patch that makes a wanted change of a roll. */
export function patchOf({ columns, ...patch }: WantedChange, roll: Roll): RollPatch {
  return columns ? { ...patch, columns: columnChanges(roll.columns, columns) } : patch;
}

export interface Patched {
  readonly roll: Roll;
  /** The patch that takes this one back. */
  readonly undo: RollPatch;
  /** The entries that are others now. */
  readonly touched: ReadonlySet<string>;
}

/** True where something is written about an entry that is not there: it must not vanish without a word. */
export function namesGone(
  { cells = [], leftOut = [], added = [] }: Pick<RollPatch, 'cells' | 'leftOut' | 'added'>,
  isThere: (entryId: string) => boolean,
): boolean {
  const coming = new Set(added.map(({ id }) => id));
  return [...cells, ...leftOut].some(({ entryId }) => !isThere(entryId) && !coming.has(entryId));
}

/**
 * Applies a patch. A cell that comes to say what its source says is no longer a mended one. Entries and columns that
 * are not there any more are passed over, so that a patch made a moment ago still does what it can.
 *
 * @returns the new roll, or a refusal: `title-blank`, `title-taken`, `column-of-source`,
 *   `too-many-columns`, `column-changed-elsewhere`, `too-many-rows`.
 */
export function applyPatch(roll: Roll, patch: RollPatch): Result<Patched> {
  let columns = roll.columns;
  const undo: RollPatch = {};
  const cells: CellChange[] = [];
  const changed = new Map<string, Entry>();
  const named = new Set([
    ...(patch.cells ?? []).map(({ entryId }) => entryId),
    ...(patch.leftOut ?? []).map(({ entryId }) => entryId),
    ...(patch.added ?? []).map(({ id }) => id),
    ...(patch.taken ?? []),
  ]);
  // Of a large roll a patch names a few entries, most often one.
  const index = new Map<string, Entry>();
  if (named.size <= FEW)
    for (const id of named) {
      const entry = roll.entries.find((one) => one.id === id);
      if (entry) index.set(id, entry);
    }
  else for (const entry of roll.entries) if (named.has(entry.id)) index.set(entry.id, entry);
  const added = [...new Map((patch.added ?? []).map((entry) => [entry.id, entry])).values()].filter(
    ({ id }) => !index.has(id),
  );
  if (roll.entries.length + added.length > SHEET_LIMITS.rows) return tooManyRows();
  const now = (entryId: string): Entry | undefined => changed.get(entryId) ?? index.get(entryId);
  if (patch.columns?.length) {
    const after = changeColumns(roll.columns, patch.columns);
    if (!after.ok) return after;
    const checked = checkColumns(roll.columns, after.value);
    if (!checked.ok) return checked;
    columns = after.value;
    undo.columns = columnChanges(columns, roll.columns);
    const kept = new Set(columns.map(({ id }) => id));
    for (const { id } of roll.columns.filter((column) => !kept.has(column.id))) {
      for (const entry of roll.entries) {
        const text = entry.values[id];
        const exact = entry.exact?.[id];
        if (text)
          cells.push({ entryId: entry.id, columnId: id, text, ...(exact === undefined ? {} : { exact }) });
        if (text !== undefined) changed.set(entry.id, without(changed.get(entry.id) ?? entry, id));
      }
    }
  }
  const known = new Set(columns.map(({ id }) => id));
  const worked = new Set(columns.filter((column) => column.worked).map(({ id }) => id));
  for (const entry of added) {
    index.set(entry.id, entry);
    changed.set(entry.id, withKnown(entry, known));
  }
  for (const change of patch.cells ?? []) {
    const entry = now(change.entryId);
    if (!entry || !known.has(change.columnId)) continue;
    const text = entry.values[change.columnId] ?? '';
    const exact = entry.exact?.[change.columnId];
    if (text === change.text && exact === change.exact) continue;
    const after = withCell(entry, change, Boolean(entry.byHand) && !worked.has(change.columnId));
    if (after === entry) continue;
    cells.push({
      entryId: entry.id,
      columnId: change.columnId,
      text,
      ...(exact === undefined ? {} : { exact }),
    });
    changed.set(entry.id, after);
  }
  if (cells.length > 0) undo.cells = cells.reverse();
  const leftOut: NonNullable<RollPatch['leftOut']> = [];
  for (const { entryId, reason } of patch.leftOut ?? []) {
    const entry = now(entryId);
    if (!entry || (entry.leftOut ?? null) === reason) continue;
    leftOut.push({ entryId, reason: entry.leftOut ?? null });
    const { leftOut: _, ...rest } = entry;
    changed.set(entryId, reason === null ? rest : { ...rest, leftOut: reason });
  }
  if (leftOut.length > 0) undo.leftOut = leftOut.reverse();
  const taken = [...new Set(patch.taken)].flatMap((id) => now(id) ?? []);
  if (taken.length > 0) undo.added = taken.map(({ worked: _, ...entry }) => entry);
  if (added.length > 0) undo.taken = added.map(({ id }) => id);
  if (patch.key) undo.key = [...(roll.key ?? [])];
  const asked = patch.key ?? roll.key;
  // The same list as long as it says the same: keys of entries are kept for it.
  const key = asked?.every((id) => known.has(id)) ? asked : asked?.filter((id) => known.has(id));
  return succeed({
    roll: {
      columns,
      entries: entriesAfter(roll.entries, changed, added, taken),
      ...(key ? { key } : {}),
    },
    undo,
    touched: new Set([...changed.keys(), ...taken.map(({ id }) => id)]),
  });
}

function entriesAfter(
  before: readonly Entry[],
  changed: ReadonlyMap<string, Entry>,
  added: readonly AddedEntry[],
  taken: readonly Entry[],
): Entry[] {
  if (changed.size === 0 && taken.length === 0) return before as Entry[];
  const entries = [...before];
  let left = changed.size - added.length;
  for (let at = 0; at < entries.length && left > 0; at++) {
    const now = changed.get(entries[at]!.id);
    if (!now) continue;
    entries[at] = now;
    left--;
  }
  if (added.length > 0) {
    entries.push(...added.map(({ id }) => changed.get(id)!));
    entries.sort((a, b) => a.position - b.position);
  }
  if (taken.length === 0) return entries;
  const gone = new Set(taken.map(({ id }) => id));
  return entries.filter(({ id }) => !gone.has(id));
}

/** The entry with what it has in columns that are there. */
function withKnown(entry: AddedEntry, known: ReadonlySet<string>): Entry {
  const keep = <T>(record: Record<string, T> = {}): Record<string, T> =>
    Object.fromEntries(Object.entries(record).filter(([id]) => known.has(id)));
  return tidyEntry({
    ...entry,
    values: keep(entry.values),
    exact: keep(entry.exact),
    mends: keep(entry.mends),
  });
}

const tooManyRows = (): Result<never> => refuse('too-many-entries', { most: SHEET_LIMITS.rows });

/** A blank entry behind all others, to be written by hand. */
export const blankEntry = (roll: Roll, id: string): AddedEntry => ({
  id,
  position: roll.entries.reduce((last, { position }) => Math.max(last, position), -1) + 1,
  values: {},
  byHand: true,
});

/** True for a patch that changes nothing. */
export const isEmptyPatch = (patch: RollPatch): boolean =>
  !patch.cells?.length &&
  !patch.leftOut?.length &&
  !patch.added?.length &&
  !patch.taken?.length &&
  !patch.columns?.length &&
  !patch.key;

/** @param own true where no source has the cell, so that there is nothing to remember. */
function withCell(entry: Entry, { columnId, text, exact }: CellChange, own: boolean): Entry {
  const source: SourceCell = entry.mends?.[columnId] ?? {
    text: entry.values[columnId] ?? '',
    ...(entry.exact?.[columnId] === undefined ? {} : { exact: entry.exact[columnId] }),
  };
  const values = { ...entry.values, [columnId]: text };
  const { [columnId]: _mend, ...mends } = entry.mends ?? {};
  const { [columnId]: _exact, ...exacts } = entry.exact ?? {};
  if (own)
    return tidyEntry({
      ...entry,
      values,
      exact: exact === undefined ? exacts : { ...exacts, [columnId]: exact },
    });
  const back = text === source.text && (exact === undefined || exact === source.exact);
  if (back && !entry.mends?.[columnId]) return entry;
  const exactNow = back ? source.exact : exact;
  return tidyEntry({
    ...entry,
    values,
    exact: exactNow === undefined ? exacts : { ...exacts, [columnId]: exactNow },
    mends: back ? mends : { ...mends, [columnId]: source },
  });
}

function without(entry: Entry, columnId: string): Entry {
  const drop = <T>(record: Record<string, T> | undefined): Record<string, T> => {
    const { [columnId]: _, ...rest } = record ?? {};
    return rest;
  };
  return tidyEntry({
    ...entry,
    values: drop(entry.values),
    exact: drop(entry.exact),
    mends: drop(entry.mends),
  });
}

/** The entry without records that hold nothing. */
export function tidyEntry(entry: Entry): Entry {
  const { exact, mends, ...rest } = entry;
  return {
    ...rest,
    ...(exact && Object.keys(exact).length > 0 ? { exact } : {}),
    ...(mends && Object.keys(mends).length > 0 ? { mends } : {}),
  };
}

function checkColumns(before: readonly Column[], after: readonly Column[]): Result<null> {
  const ids = new Set(after.map(({ id }) => id));
  const lost = before.find((column) => column.sourceId !== undefined && !ids.has(column.id));
  if (lost) return refuse('column-of-source', { title: lost.title });
  if (after.length > SHEET_LIMITS.columns) return refuse('roll-columns', { most: SHEET_LIMITS.columns });
  const titles = new Set<string>();
  for (const { title } of after) {
    if (title.trim() === '') return refuse('title-blank');
    if (titles.has(title)) return refuse('title-taken', { title });
    titles.add(title);
  }
  return succeed(null);
}

/** What a patch does, for the undo button: `the change to Amara Okafor, Email`, `412 cells`, `5 entries left out`. */
export function describePatch(patch: RollPatch, roll: Roll): string {
  const { added = [], taken = [] } = patch;
  if (added.length > 0) return phrase('change-added', { count: added.length });
  if (taken.length > 0) return phrase('change-taken', { count: taken.length });
  const [cell, ...more] = patch.cells ?? [];
  if (cell && more.length === 0 && !patch.columns?.length) {
    const entry = roll.entries.find(({ id }) => id === cell.entryId);
    const column = roll.columns.find(({ id }) => id === cell.columnId);
    if (entry && column) {
      const learner = learnerName(entry, nameColumns(roll.columns));
      return phrase('change-cell', { title: column.title, learner });
    }
  }
  if (cell) return phrase('change-cells', { count: more.length + 1 });
  const out = patch.leftOut ?? [];
  if (out.length > 0) return phrase('change-left-out', { count: out.length });
  return phrase(patch.key ? 'change-key' : 'change-columns');
}
