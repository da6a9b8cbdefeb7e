import { LIKELY, type Blank } from '@scriptum/core/blanks';
import { columnFor, type Column } from '@scriptum/core/column';
import { overlap, tidy } from '@scriptum/core/placing';
import { nameColumns, plainKey, valueOf, type Entry } from '@scriptum/core/roll';
import {
  fieldForColumn,
  type Field,
  type Placed,
  type PlacedBox,
  type TextPart,
} from '@scriptum/core/template';
import { paragraph } from './new-box';

/** A blank of a page with the column that it is filled from, where one agrees. */
export interface Offer {
  /** Names it among the others. */
  readonly id: string;
  readonly page: number;
  readonly blank: Blank;
  readonly column: Column | null;
  /** The columns of the learner's name, where that is wanted and no single column has it. */
  readonly names: readonly Column[];
}

/** A mark that no cell speaks of would stand for nobody: somebody has to say for whom first. */
export const isLikely = ({ blank, column }: Offer): boolean =>
  blank.score >= LIKELY && (blank.kind !== 'tick' || column !== null);

/** Words beside a blank for the learner's name. */
const OF_NAME =
  /^(full |whole )?(name|learner|pupil|student|child)( ?['’]?s?['’]? name)?$|^name of (the )?(learner|pupil|student|child)$/i;

/** The blanks of pages on which nothing stands yet, with columns whose titles, or for marks whose cells, agree with their labels. */
export function offersOf(
  template: Placed,
  blanksOf: ReadonlyMap<string, readonly (readonly Blank[])[]>,
  columns: readonly Column[],
  entries: readonly Entry[],
): Offer[] {
  return template.pages.flatMap(({ ground }, page) => {
    const boxes = template.boxes.filter((box) => box.page === page);
    const blanks = (ground && blanksOf.get(ground.asset)?.[ground.page]) ?? [];
    const cells = blanks.filter(({ reason }) => reason === 'table').map(({ label }) => label);
    // Cells below one head are for several things, and no column is all of them.
    const isOneOfMany = ({ reason, label }: Blank): boolean =>
      reason === 'table' && cells.filter((one) => one === label).length > 1;
    return blanks
      .filter((blank) => !boxes.some((box) => overlap(box, blank)))
      .map((blank, n): Offer => {
        const ticked = blank.kind === 'tick';
        const column = isOneOfMany(blank)
          ? null
          : ticked
            ? columnSaying(blank.label, columns, entries)
            : columnFor(blank.label, columns);
        const named = !ticked && !column && !isOneOfMany(blank) && OF_NAME.test(blank.label.trim());
        return {
          id: `${page} ${n} ${blank.x} ${blank.y}`,
          page,
          blank,
          column: column ?? null,
          names: named ? nameColumns(columns) : [],
        };
      });
  });
}

/** Millimetres that cells of one table may be apart. */
const BETWEEN_CELLS = 1.5;

/** The empty cells of each table of which there are several, in the order of the offers. */
export function tablesOf(offers: readonly Offer[]): Offer[][] {
  const cells = new Set(offers.filter(({ blank }) => blank.reason === 'table'));
  const tables: Offer[][] = [];
  for (const first of cells) {
    const table = new Set([first]);
    for (const one of table)
      for (const other of cells)
        if (other.page === one.page && near(one.blank, other.blank)) table.add(other);
    for (const one of table) cells.delete(one);
    if (table.size > 1) tables.push(offers.filter((offer) => table.has(offer)));
  }
  return tables;
}

const near = ({ x, y, width, height }: Blank, other: Blank): boolean =>
  overlap(
    {
      x: x - BETWEEN_CELLS,
      y: y - BETWEEN_CELLS,
      width: width + 2 * BETWEEN_CELLS,
      height: height + 2 * BETWEEN_CELLS,
    },
    other,
  );

/** A column in which somebody's cell says what stands beside a mark, such as “Yes”. */
function columnSaying(label: string, columns: readonly Column[], entries: readonly Entry[]): Column | null {
  const wanted = plainKey(label);
  if (wanted === '') return null;
  return columns.find(({ id }) => entries.some((entry) => plainKey(valueOf(entry, id)) === wanted)) ?? null;
}

/** Millimetres of height in which there is room for one line alone. */
const ONE_LINE = 10;

/**
 * With a box for each of some blanks. A mark stands only for those whose cell says what is beside it; where no cell does,
 * for nobody until somebody says for whom.
 */
export function withBlanks(
  template: Placed,
  offers: readonly Offer[],
  columns: readonly Column[],
  newId: () => string,
): { readonly part: Partial<Placed>; readonly ids: readonly string[] } {
  let fields: readonly Field[] = template.fields;
  const parts: TextPart[] = [...(template.parts ?? [])];
  const made = offers.map(({ page, blank, column, names }): PlacedBox => {
    const { x, y, width, height, label } = blank;
    const at = {
      id: newId(),
      page,
      x,
      y,
      width,
      height,
      ...(label ? { name: label } : {}),
      ...(blank.fills ? { fills: blank.fills } : {}),
    };
    const place = (): object[] =>
      (column ? [column] : names).flatMap((one, n) => {
        const found = fieldForColumn(fields, one, newId);
        fields = found.fields;
        const field = { type: 'field', attrs: { fieldId: found.field.id } };
        return n === 0 ? [field] : [{ type: 'text', text: ' ' }, field];
      });
    if (blank.kind === 'tick') {
      const part = {
        id: newId(),
        if: { all: [{ columnId: (column ?? columns[0])?.id ?? 'none', is: 'equal', values: [label] }] },
      } as TextPart;
      parts.push(part);
      const inset = Math.min(width, height) * 0.12;
      return {
        kind: 'tick',
        ...at,
        x: tidy(x + inset),
        y: tidy(y + inset),
        width: tidy(width - 2 * inset),
        height: tidy(height - 2 * inset),
        part: part.id,
        mark: 'cross',
        colour: '#000000',
        weight: 0.5,
      };
    }
    if (blank.kind === 'comb')
      return {
        kind: 'comb',
        ...at,
        line: place() as never,
        cells: blank.cells ?? 1,
        from: 'left',
        capitals: true,
      };
    const { baseline } = blank;
    return {
      kind: 'text',
      ...at,
      body: paragraph(place()),
      long: { do: 'shrink', least: 6 },
      ...(baseline
        ? { baseline: { first: baseline.first, ...(baseline.pitch ? { pitch: baseline.pitch } : {}) } }
        : { vertical: height < 14 ? ('middle' as const) : ('top' as const) }),
      ...(height < ONE_LINE && !baseline?.pitch ? { oneLine: true } : {}),
    };
  });
  return {
    part: {
      boxes: [...template.boxes, ...made],
      fields: [...fields],
      ...(parts.length > 0 ? { parts } : {}),
    },
    ids: made.map(({ id }) => id),
  };
}
