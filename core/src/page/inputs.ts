import { CHART_COLOURS, drawChart, drawingSvg, type ChartData, type ChartSize } from '../chart/index.js';
import {
  standsIn,
  textsOfPrinted,
  type Printed,
  type PrintedCell,
  type PrintedTable,
  type PrintedValues,
} from '../fill/index.js';
import { codeSvg, drawCode, type CodeKind } from '../code/index.js';
import { lineWidth, placedOf, type Field, type Placed, type Template } from '../template/index.js';
import { linePlain, textPlain, type TextValues } from '../text/index.js';
import { fieldPlaces } from './field-values.js';
import { blockKey, boxKey, fieldKey, partKey } from './keys.js';
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
  const placed = placedOf(template);
  return JSON.stringify({
    ...Object.fromEntries(fields.map((field, place) => [fieldKey(place), texts[field.id] ?? ''])),
    ...Object.fromEntries(
      fields.flatMap((field, place) => {
        const block = blockOf(field, values[field.id], template);
        return block ? [[blockKey(fieldKey(place)), block]] : [];
      }),
    ),
    ...Object.fromEntries(parts.map(({ id }, place) => [partKey(place), standsIn(values, id)])),
    ...(placed ? boxValues(placed, texts) : {}),
    ...(placed?.fillable ? setOnPaper(placed, values) : {}),
  });
}

/** A code that is to be drawn: what it says, and how. */
interface CodeToDraw {
  readonly code: CodeKind;
  readonly text: string;
  readonly colour: string;
  readonly words: boolean;
}

/** As many long words of a box are measured. */
const WORDS_MEASURED = 3;

/** What boxes need besides fields: their longest words, what is cut into letters, what becomes a code. */
function boxValues({ boxes, language }: Placed, texts: TextValues): Record<string, unknown> {
  return Object.fromEntries(
    boxes.flatMap((box, n): [string, unknown][] => {
      const key = boxKey(n);
      if (box.kind === 'text') return [[key, longestWords(textPlain(box.body, texts))]];
      if (box.kind !== 'comb' && box.kind !== 'code') return [];
      const text = linePlain(box.line, texts).replace(/\s+/g, ' ').trim();
      if (box.kind === 'comb') return [[key, box.capitals ? text.toLocaleUpperCase(language) : text]];
      const { code, colour, words = false } = box;
      return text === '' ? [] : [[key, { code, text, colour, words } satisfies CodeToDraw]];
    }),
  );
}

/** Boxes that would fill a field of the form, but are set on the paper. */
const setOnPaper = (template: Placed, values: PrintedValues): Record<string, true> =>
  Object.fromEntries(
    [...fieldPlaces(template, values)].flatMap(([n, { set }]) => (set ? [[`${boxKey(n)}-set`, true]] : [])),
  );

/** Where lines are broken: at spaces and hyphens, and between letters of scripts that have no spaces between words. */
const BREAKS =
  /[\s\u200b-]+|(?<=[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Thai}\p{Script=Lao}\p{Script=Khmer}\p{Script=Myanmar}])/u;

/** The words of a text that take most room, about. */
function longestWords(text: string): string[] {
  const words = [...new Set(text.split(BREAKS).filter(Boolean))];
  return words.sort((a, b) => b.length - a.length).slice(0, WORDS_MEASURED);
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

/** The values of `programValues` with their charts and codes drawn: pictures without words, and the words to set upon them. */
export function drawnValues(values: string): string {
  const read = JSON.parse(values) as Record<string, unknown>;
  for (const [key, value] of Object.entries(read)) {
    if (isToDraw(value)) read[key] = drawn(value);
    if (isCode(value)) read[key] = drawnCode(value);
  }
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

const isCode = (value: unknown): value is CodeToDraw =>
  typeof value === 'object' && value !== null && 'code' in value && 'text' in value;

function drawnCode({ code, text, colour, words }: CodeToDraw): unknown {
  const drawing = drawCode(code, text);
  if (typeof drawing === 'string') return { trouble: drawing, text };
  return { svg: codeSvg(drawing, colour), stretch: code === 'code128', text, words };
}
