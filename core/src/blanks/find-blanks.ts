import { z } from 'zod';
import { cellsOf, freeRules, TOUCH } from './cells.js';
import type { Area, Glyph, PageMarks, Rule } from './page-marks.js';
import { isLeader, labelOf, linesOfGlyphs, runOf, runsOf, type Run } from './words.js';

/** Why something is taken for a blank. */
export const BlankReason = z.enum(['field', 'leaders', 'line', 'box', 'square', 'cells', 'table']);
export type BlankReason = z.infer<typeof BlankReason>;

/** A place of a form where something is to be filled in. Millimetres from the page's upper left corner. */
export const Blank = z.object({
  kind: z.enum(['text', 'tick', 'comb']),
  x: z.number(),
  y: z.number(),
  width: z.number(),
  height: z.number(),
  /** What stands beside it; blank where nothing does. */
  label: z.string(),
  reason: BlankReason,
  /** How likely it is one, from 0 to 1. */
  score: z.number(),
  /** Where its text stands, below its upper edge, and how far further lines are apart; null where it has no line. */
  baseline: z.object({ first: z.number(), pitch: z.number().nullable() }).nullable(),
  cells: z.number().int().nullable(),
  /** The field of the form that it is, and which of its marks. */
  fills: z.object({ field: z.string(), mark: z.string().optional() }).optional(),
});
export type Blank = z.infer<typeof Blank>;

/** Blanks of this score and more are likely ones. */
export const LIKELY = 0.6;

/** Looks for the blanks of a form by its fields, its lines and its words; see the reasons. */
export function findBlanks(page: PageMarks): Blank[] {
  const runs = runsOf(page.glyphs);
  const found = [
    ...fieldBlanks(page, runs),
    ...leaderBlanks(page.glyphs, runs),
    ...squareBlanks(page, runs),
    ...cellBlanks(page, runs),
    ...lineBlanks(page, runs),
  ];
  const kept: Blank[] = [];
  // What was found by better signs first.
  for (const blank of found) if (!kept.some((one) => shares(one, blank) > 0.4)) kept.push(blank);
  return kept.sort((a, b) => bottomOf(a) - bottomOf(b) || a.x - b.x).map(tidied);
}

/** Hundredths of a millimetre are finer than any form. */
const hundredth = (n: number): number => Math.round(n * 100) / 100;
const tidied = (blank: Blank): Blank => ({
  ...blank,
  x: hundredth(blank.x),
  y: hundredth(blank.y),
  width: hundredth(blank.width),
  height: hundredth(blank.height),
  baseline: blank.baseline && {
    first: hundredth(blank.baseline.first),
    pitch: blank.baseline.pitch === null ? null : hundredth(blank.baseline.pitch),
  },
});

const bottomOf = ({ y, height }: Area): number => Math.round((y + height) / 2);

/** How much of the smaller one two have in common. */
function shares(a: Area, b: Area): number {
  const width = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
  const height = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
  if (width <= 0 || height <= 0) return 0;
  return (width * height) / Math.max(0.01, Math.min(a.width * a.height, b.width * b.height));
}

const endOf = ({ x, width }: Area): number => x + width;

/** The words that end shortly before a place on its line; what stands further left belongs to something else. */
function before(runs: readonly Run[], x: number, baseline: number, reach: number): Run | undefined {
  return runs
    .filter(
      (run) =>
        Math.abs(run.baseline - baseline) < 0.6 * run.size + 0.8 &&
        endOf(run) <= x + 1 &&
        x - endOf(run) < reach,
    )
    .sort((a, b) => endOf(b) - endOf(a))[0];
}

/** The words that begin shortly behind a place on its line. */
const behind = (runs: readonly Run[], x: number, middle: number, reach: number): Run | undefined =>
  runs
    .filter(
      (run) =>
        Math.abs(run.baseline - 0.35 * run.size - middle) < 0.7 * run.size &&
        run.x >= x - 0.5 &&
        run.x - x < reach,
    )
    .sort((a, b) => a.x - b.x)[0];

/** Small words right below a line. */
const below = (
  runs: readonly Run[],
  { x, width }: { x: number; width: number },
  y: number,
  reach: number,
): Run | undefined =>
  runs
    .filter(
      (run) =>
        run.y > y - 0.4 && run.y - y < reach && run.x > x - 3 && endOf(run) < x + width + 6 && run.size < 5,
    )
    .sort((a, b) => a.baseline - b.baseline || a.x - b.x)[0];

/** Words above an area, beginning about where it does. */
const above = (
  runs: readonly Run[],
  { x, width }: { x: number; width: number },
  y: number,
  reach: number,
): Run | undefined =>
  runs
    .filter((run) => run.baseline < y && y - run.baseline < reach && run.x > x - 4 && run.x < x + width * 0.6)
    .sort((a, b) => b.baseline - a.baseline)[0];

const inside = (glyphs: readonly Glyph[], { x, y, width, height }: Area, slack = 0.3): Glyph[] =>
  glyphs.filter(
    (glyph) =>
      glyph.text.trim() !== '' &&
      glyph.x + glyph.width / 2 > x + slack &&
      glyph.x + glyph.width / 2 < x + width - slack &&
      glyph.baseline > y + slack &&
      glyph.baseline - 0.5 * glyph.size < y + height - slack,
  );

/** Millimetres that a field may stand behind its words, with nothing between them: forms have them in columns. */
const FIELD_REACH = 70;

function fieldBlanks({ fields }: PageMarks, runs: readonly Run[]): Blank[] {
  /** The words of the line, but for those that belong to a field nearer to them. */
  const farBefore = ({ x, y, height }: Area): Run | undefined => {
    const words = before(runs, x, y + height * 0.75, FIELD_REACH);
    const taken = fields.some(
      (other) =>
        words &&
        other.x >= endOf(words) - 1 &&
        other.x < x &&
        shares({ ...other, x: 0 }, { x: 0, y, width: other.width, height }) > 0.3,
    );
    return taken ? undefined : words;
  };
  return fields.map((field): Blank => {
    const { x, y, width, height, name, kind, cells } = field;
    const middle = y + height / 2;
    const beside =
      kind === 'tick'
        ? (behind(runs, x + width, middle, 8) ?? before(runs, x, middle + 1, 8))
        : (before(runs, x, y + height * 0.75, 12) ??
          above(runs, field, y, 6) ??
          below(runs, field, y + height, 5) ??
          farBefore(field));
    const common = {
      x,
      y,
      width,
      height,
      label: labelOf(beside?.text ?? '') || name,
      reason: 'field',
      score: 1,
      ...(field.field ? { fills: { field: field.field, ...(field.mark ? { mark: field.mark } : {}) } } : {}),
    } as const;
    if (kind === 'tick') return { ...common, kind: 'tick', baseline: null, cells: null };
    if (cells !== null) return { ...common, kind: 'comb', baseline: null, cells };
    return { ...common, kind: 'text', baseline: null, cells: null };
  });
}

/** Lines that are made of underscores or dots. */
function leaderBlanks(glyphs: readonly Glyph[], runs: readonly Run[]): Blank[] {
  return linesOfGlyphs(glyphs.filter(({ text }) => text.trim() !== '')).flatMap((line) => {
    const blanks: Blank[] = [];
    let from = 0;
    for (let at = 0; at < line.length; at++) {
      if (!isLeader(line[at]!)) continue;
      const start = at;
      while (
        at + 1 < line.length &&
        isLeader(line[at + 1]!) &&
        line[at + 1]!.x - line[at]!.x - line[at]!.width < line[at]!.size
      )
        at++;
      const signs = line.slice(start, at + 1);
      const [first, last] = [signs[0]!, signs.at(-1)!];
      const width = last.x + last.width - first.x;
      const underscored = signs.filter(({ text }) => text === '_').length >= 3;
      const dotted = signs.map(({ text }) => (text === '…' ? 3 : 1)).reduce((sum, n) => sum + n, 0) >= 6;
      if ((!underscored && !dotted) || width < 4) continue;
      const rest = line.slice(at + 1);
      // A list of contents leads to its page numbers.
      if (!underscored && rest.length > 0 && rest.every(({ text }) => /[\d\s]/.test(text))) continue;
      const led = line.slice(from, start);
      const label = led.length > 0 ? labelOf(runOf(led).text) : '';
      const place = { x: first.x, width };
      const high = Math.max(5, 1.5 * first.size);
      const caption = label === '' ? below(runs, place, first.baseline, 5) : undefined;
      blanks.push({
        kind: 'text',
        ...place,
        y: first.baseline - high + 1,
        height: high,
        label: label || labelOf(caption?.text ?? ''),
        reason: 'leaders',
        score: label || caption ? 0.97 : 0.75,
        baseline: { first: high - 1.2, pitch: null },
        cells: null,
      });
      from = at + 1;
    }
    return blanks;
  });
}

const SQUARES = /^[☐□❏❑▢◯○◻]$/u;

/** Small squares and circles that nothing stands in, and such signs of a typeface. */
function squareBlanks({ glyphs, shapes, rules }: PageMarks, runs: readonly Run[]): Blank[] {
  const drawn = [
    ...cellsOf(rules),
    ...shapes.filter(({ round, outlined, light }) => round && outlined && light),
  ].filter(({ width, height }) => width > 1.8 && width < 8 && Math.abs(width - height) < 0.18 * width);
  const alone = drawn.filter((one) => !drawn.some((other) => other !== one && isBeside(one, other)));
  const signs = glyphs
    .filter(({ text }) => SQUARES.test(text))
    .map(({ x, baseline, width, size }) => ({ x, y: baseline - 0.75 * size, width, height: 0.8 * size }));
  const empty = alone.filter((area) => inside(glyphs, area, 0).length === 0 && !holdsShape(area, drawn));
  return [...empty, ...signs].map((area): Blank => {
    const words = runs.filter(({ text }) => !SQUARES.test(text));
    const middle = area.y + area.height / 2;
    const beside = behind(words, endOf(area), middle, 7) ?? before(words, area.x, middle + 1, 7);
    return {
      kind: 'tick',
      ...area,
      label: labelOf((beside?.text ?? '').replace(/[☐□❏❑▢◯○◻].*$/u, '')),
      reason: 'square',
      score: beside ? 0.95 : 0.5,
      baseline: null,
      cells: null,
    };
  });
}

const holdsShape = (area: Area, others: readonly Area[]): boolean =>
  others.some(
    (one) =>
      one !== area &&
      one.x > area.x - TOUCH &&
      endOf(one) < endOf(area) + TOUCH &&
      one.y > area.y - TOUCH &&
      one.y + one.height < area.y + area.height + TOUCH &&
      one.width * one.height < 0.8 * area.width * area.height,
  );

/** True for two of one size, side by side, that touch or nearly do. */
const isBeside = (a: Area, b: Area): boolean =>
  Math.abs(a.y - b.y) < 0.4 &&
  Math.abs(a.height - b.height) < 0.4 &&
  Math.abs(a.width - b.width) < 0.5 &&
  (Math.abs(endOf(a) - b.x) < 1.6 || Math.abs(endOf(b) - a.x) < 1.6);

/** Boxes stand under each other, however long the words before them are. */
const FAR = 45;

/** Cells in a row for one letter each, boxes, and empty cells of tables. */
function cellBlanks({ glyphs, rules, shapes }: PageMarks, runs: readonly Run[]): Blank[] {
  const cells = [
    ...cellsOf(rules),
    // Tinted boxes without a line around them.
    ...shapes.filter(({ light, outlined, round }) => light && !outlined && !round),
  ];
  const empty = cells.filter((cell) => inside(glyphs, cell).length === 0 && !holdsShape(cell, cells));
  const combed = new Set<Area>();
  const blanks: Blank[] = [];
  for (const cell of [...empty].sort((a, b) => a.x - b.x)) {
    if (combed.has(cell) || cell.width < 2.5 || cell.width > 11 || cell.height < 3.5 || cell.height > 13)
      continue;
    const row = [cell];
    for (;;) {
      const last = row.at(-1)!;
      const next = empty.find((one) => one.x > last.x + 1 && one !== last && isBeside(last, one));
      if (!next) break;
      row.push(next);
    }
    if (row.length < 3) continue;
    row.forEach((one) => combed.add(one));
    const width = endOf(row.at(-1)!) - cell.x;
    const beside =
      before(runs, cell.x, cell.y + cell.height * 0.7, FAR) ?? above(runs, { x: cell.x, width }, cell.y, 5);
    blanks.push({
      kind: 'comb',
      x: cell.x,
      y: cell.y,
      width,
      height: cell.height,
      label: labelOf(beside?.text ?? ''),
      reason: 'cells',
      score: beside ? 0.95 : 0.7,
      baseline: null,
      cells: row.length,
    });
  }
  const written = cells.filter((cell) => inside(glyphs, cell).length > 0);
  const inTable = (cell: Area): boolean => cells.some((one) => one !== cell && touches(one, cell));
  for (const cell of cells) {
    if (combed.has(cell) || cell.width < 12 || cell.height < 4.5) continue;
    const words = inside(glyphs, cell);
    if (holdsShape(cell, cells)) continue;
    if (words.length > 0) {
      const labelled = labelledBox(cell, words);
      if (labelled) blanks.push(labelled);
      continue;
    }
    blanks.push(inTable(cell) ? tableCell(cell, written, glyphs) : loneBox(cell, runs));
  }
  return blanks;
}

const touches = (a: Area, b: Area): boolean =>
  a.x < endOf(b) + TOUCH &&
  b.x < endOf(a) + TOUCH &&
  a.y < b.y + b.height + TOUCH &&
  b.y < a.y + a.height + TOUCH;

const textCell = (area: Area, label: string, reason: BlankReason, score: number): Blank => ({
  kind: 'text',
  x: area.x + 1,
  y: area.y,
  width: Math.max(1, area.width - 2),
  height: area.height,
  label,
  reason,
  score,
  baseline: area.height < 12 ? { first: Math.round(area.height * 0.7 * 10) / 10, pitch: null } : null,
  cells: null,
});

/** A box whose name stands small in its upper corner, with room below it. */
function labelledBox(cell: Area, words: readonly Glyph[]): Blank | null {
  const lowest = Math.max(...words.map(({ baseline }) => baseline));
  const size = Math.max(...words.map((glyph) => glyph.size));
  const room = cell.y + cell.height - lowest;
  const atTop = Math.min(...words.map(({ baseline }) => baseline)) - cell.y < 1.6 * size + 1.5;
  if (!atTop || size > 3.6 || room < 4.5 || room < 0.5 * cell.height || cell.height < 8) return null;
  const top = lowest + 0.8;
  return textCell(
    { ...cell, y: top, height: cell.y + cell.height - top },
    labelOf(runOf(linesOfGlyphs(words)[0]!).text),
    'box',
    0.85,
  );
}

/** A box by itself; a large one without a name is more likely a frame. */
function loneBox(cell: Area, runs: readonly Run[]): Blank {
  const beside =
    before(runs, cell.x, cell.y + Math.min(cell.height * 0.7, 5), FAR) ?? above(runs, cell, cell.y + 0.5, 6);
  const likely = beside ? (cell.height < 90 ? 0.9 : 0.5) : cell.height > 20 ? 0.2 : 0.4;
  return textCell(cell, labelOf(beside?.text ?? ''), 'box', likely);
}

/** A cell of a table is called by the heads of its row and its column. */
function tableCell(cell: Area, written: readonly Area[], glyphs: readonly Glyph[]): Blank {
  const words = (one: Area | undefined): string =>
    one
      ? labelOf(
          linesOfGlyphs(inside(glyphs, one))
            .map((line) => runOf(line).text)
            .join(' '),
        )
      : '';
  const left = written
    .filter((one) => Math.abs(one.y - cell.y) < 1 && endOf(one) <= cell.x + TOUCH)
    .sort((a, b) => b.x - a.x)[0];
  const top = written
    .filter((one) => Math.abs(one.x - cell.x) < 1 && one.y + one.height <= cell.y + TOUCH)
    .sort((a, b) => b.y - a.y)[0];
  const label = [words(left), words(top)].filter(Boolean).join(', ');
  // A corner that heads of rows and columns meet in stays empty.
  const corner =
    !left &&
    !top &&
    written.some((one) => Math.abs(one.y - cell.y) < 1) &&
    written.some((one) => Math.abs(one.x - cell.x) < 1);
  return textCell(cell, label, 'table', corner ? 0.1 : label ? 0.8 : 0.4);
}

/** Lines to write on: with a word before, below or above them. */
function lineBlanks({ glyphs, rules, width: pageWidth }: PageMarks, runs: readonly Run[]): Blank[] {
  const lines = freeRules(withoutUnderlines(rules, glyphs))
    .filter(({ width }) => width > 10)
    .sort((a, b) => a.y - b.y || a.x - b.x);
  const joined = new Set<(typeof lines)[number]>();
  const blanks: Blank[] = [];
  for (const line of lines) {
    if (joined.has(line)) continue;
    const over = inside(glyphs, { x: line.x, y: line.y - 4.2, width: line.width, height: 4 }, 0);
    const taken = over.reduce((sum, glyph) => sum + glyph.width, 0) / line.width;
    if (taken > 0.12) continue;
    const left = before(runs, line.x, line.y - 0.8, 12);
    const caption = below(runs, line, line.y, 5.5);
    const wide = line.width > 0.7 * pageWidth;
    // A rule below a heading is none to write on.
    const near = left || caption || wide ? undefined : above(runs, line, line.y - 4, 9);
    const head = near && near.size < 4.6 ? near : undefined;
    const beside = left ?? caption ?? head;
    // Further lines below it, as far apart and as long, go with it.
    const more: typeof lines = [];
    for (let last = line, pitch = 0; ;) {
      const next = lines.find(
        (one) =>
          one.y > last.y + 3 &&
          one.y < last.y + 14 &&
          Math.abs(one.x + one.width - line.x - line.width) < 1 &&
          one.width >= line.width - 1 &&
          (pitch === 0 || Math.abs(one.y - last.y - pitch) < 0.6) &&
          !before(runs, one.x, one.y - 0.8, 12) &&
          inside(glyphs, { x: one.x, y: last.y, width: one.width, height: one.y - last.y }, 0).length === 0,
      );
      if (!next) break;
      pitch = next.y - last.y;
      more.push(next);
      last = next;
    }
    more.forEach((one) => joined.add(one));
    const last = more.at(-1);
    const named = beside ?? (last && below(runs, last, last.y, 5.5));
    const high = 7;
    const score =
      left || caption ? 0.95 : head ? 0.65 : more.length > 0 ? 0.6 : line.width > 0.7 * pageWidth ? 0.1 : 0.3;
    blanks.push({
      kind: 'text',
      x: line.x,
      y: line.y - high,
      width: line.width,
      height: high + (last ? last.y - line.y : 0),
      label: labelOf(named?.text ?? ''),
      reason: 'line',
      score,
      baseline: { first: high - 1, pitch: more[0] ? Math.round((more[0].y - line.y) * 100) / 100 : null },
      cells: null,
    });
  }
  return blanks;
}

/** Lines under words are no blanks: most of them lies right below letters. */
const withoutUnderlines = (rules: readonly Rule[], glyphs: readonly Glyph[]): Rule[] =>
  rules.filter(({ x1, y1, x2, y2 }) => {
    if (Math.abs(y1 - y2) > TOUCH) return true;
    const [from, to] = [Math.min(x1, x2), Math.max(x1, x2)];
    const upon = glyphs.filter(
      (glyph) =>
        glyph.x + glyph.width > from &&
        glyph.x < to &&
        y1 - glyph.baseline > -0.3 &&
        y1 - glyph.baseline < 2.2 &&
        glyph.text.trim() !== '',
    );
    const covered = upon.reduce((sum, glyph) => sum + glyph.width, 0);
    return covered < 0.35 * (to - from);
  });
