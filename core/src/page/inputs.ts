import { CHART_COLOURS, drawChart, drawingSvg, type ChartData, type ChartSize } from '../chart/index.js';
import {
  standsIn,
  textsOfPrinted,
  type Printed,
  type PrintedCell,
  type PrintedTable,
  type PrintedValues,
} from '../fill/index.js';
import { lineWidth, type Field, type Template } from '../template/index.js';
import { blockKey, fieldKey, partKey } from './keys.js';
import { alignedCells, type AlignedCell } from './number-columns.js';

type SetCell = PrintedCell | AlignedCell;
/** A table as it is set. */
type SetTable = Omit<PrintedTable, 'rows'> & { readonly rows: readonly (readonly SetCell[])[] };

/** A chart that is to be drawn. */
interface ToDraw {
  readonly chart: ChartData;
  readonly size: ChartSize;
}

/** One entry's values as the JSON that a template's program reads from the compiler's input `values`. */
export function programValues(template: Template, values: PrintedValues): string {
  const { fields, parts = [] } = template;
  const texts = textsOfPrinted(values);
  return JSON.stringify({
    ...Object.fromEntries(fields.map((field, place) => [fieldKey(place), texts[field.id] ?? ''])),
    ...Object.fromEntries(
      fields.flatMap((field, place) => {
        const block = blockOf(field, values[field.id], template);
        return block ? [[blockKey(fieldKey(place)), block]] : [];
      }),
    ),
    ...Object.fromEntries(parts.map(({ id }, place) => [partKey(place), standsIn(values, id)])),
  });
}

/** A picture that the program reads as the file of its name in `/own`. */
interface SetPicture {
  readonly picture: string;
}

function blockOf(
  field: Field,
  printed: Printed | undefined,
  template: Template,
): SetTable | ToDraw | SetPicture | null {
  if (printed === undefined || typeof printed === 'string') return null;
  const { rows, numeric, strong, chart, picture } = printed;
  if (picture !== undefined && field.picture) return { picture };
  if (chart && field.chart)
    return { chart, size: { width: chartWidth(field, template), height: field.chart.height } };
  if (!rows?.length || !field.table) return null;
  return {
    rows: withPads(rows, numeric ?? [], template.language),
    ...(strong ? { strong } : {}),
    ...(numeric ? { numeric } : {}),
  };
}

/** As wide as the text at the most. */
function chartWidth({ chart }: Field, { page }: Template): number {
  const room = lineWidth(page);
  return Math.min(chart?.width ?? room, room);
}

function withPads(
  rows: PrintedTable['rows'],
  numeric: readonly boolean[],
  language: string,
): readonly (readonly SetCell[])[] {
  if (!numeric.some(Boolean)) return rows;
  const set: SetCell[][] = rows.map((row) => [...row]);
  numeric.forEach((numbers, x) => {
    if (!numbers) return;
    const aligned = alignedCells(
      rows.map((row) => textOf(row[x])),
      language,
    );
    set.forEach((row, y) => {
      const [cell, numbers] = [row[x], aligned[y]!];
      row[x] =
        typeof cell !== 'object' ? numbers : typeof numbers === 'object' ? { ...cell, ...numbers } : cell;
    });
  });
  return set;
}

const textOf = (cell: PrintedCell | undefined): string =>
  typeof cell === 'object' ? cell.text : (cell ?? '');

/** The values of `programValues` with their charts drawn: pictures without words, and the words to set upon them. */
export function drawnValues(values: string): string {
  const read = JSON.parse(values) as Record<string, unknown>;
  for (const [key, value] of Object.entries(read)) if (isToDraw(value)) read[key] = drawn(value);
  return JSON.stringify(read);
}

const isToDraw = (value: unknown): value is ToDraw =>
  typeof value === 'object' && value !== null && 'chart' in value && 'size' in value;

function drawn({ chart, size }: ToDraw): unknown {
  const drawing = drawChart(chart, size);
  const { width, height, alt, labels } = drawing;
  return {
    width,
    height,
    alt,
    svg: drawingSvg(drawing, false),
    labels: labels.map(({ x, y, text, side, size: points, colour, strong }) => ({
      x,
      y,
      text,
      side,
      size: points,
      colour: CHART_COLOURS[colour],
      weight: strong ? 'semibold' : 'regular',
    })),
  };
}
