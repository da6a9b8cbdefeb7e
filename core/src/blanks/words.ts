import type { Area, Glyph } from './page-marks.js';

/** Letters that stand on one baseline with no wide gap between them. */
export interface Run extends Area {
  readonly text: string;
  readonly baseline: number;
  readonly size: number;
  readonly glyphs: readonly Glyph[];
}

/** Signs of which blanks are made, rather than words. */
const LEADER = /^[_.…·‥]$/;
export const isLeader = ({ text }: Glyph): boolean => LEADER.test(text);

/** The glyphs of each baseline, from left to right. */
export function linesOfGlyphs(glyphs: readonly Glyph[]): Glyph[][] {
  const lines: Glyph[][] = [];
  for (const glyph of [...glyphs].sort((a, b) => a.baseline - b.baseline)) {
    const line = lines.at(-1);
    if (line && Math.abs(line[0]!.baseline - glyph.baseline) < 0.25 * Math.max(glyph.size, 1))
      line.push(glyph);
    else lines.push([glyph]);
  }
  return lines.map((line) => line.sort((a, b) => a.x - b.x));
}

/** Runs of words, without the signs that blanks are made of. A gap of more than a type's size parts two. */
export function runsOf(glyphs: readonly Glyph[]): Run[] {
  return linesOfGlyphs(glyphs.filter((glyph) => !isLeader(glyph) || glyph.text === '.')).flatMap((line) => {
    const runs: Glyph[][] = [];
    for (const glyph of line) {
      const run = runs.at(-1);
      const before = run?.at(-1);
      if (run && before && glyph.x - before.x - before.width < 0.9 * glyph.size) run.push(glyph);
      else runs.push([glyph]);
    }
    return runs.map(runOf).filter(({ text }) => /[\p{L}\p{N}]/u.test(text));
  });
}

export function runOf(glyphs: readonly Glyph[]): Run {
  const [first, last] = [glyphs[0]!, glyphs.at(-1)!];
  const size = Math.max(...glyphs.map((glyph) => glyph.size));
  let text = '';
  glyphs.forEach((glyph, n) => {
    const before = glyphs[n - 1];
    if (before && glyph.x - before.x - before.width > 0.18 * glyph.size && !text.endsWith(' ')) text += ' ';
    text += glyph.text;
  });
  return {
    text: text.replace(/\s+/g, ' ').trim(),
    x: first.x,
    y: first.baseline - 0.75 * size,
    width: last.x + last.width - first.x,
    height: size,
    baseline: first.baseline,
    size,
    glyphs,
  };
}

/** A label as people would say it: without what leads to the blank. */
export const labelOf = (text: string): string =>
  text
    .replace(/[_…·‥]+/g, ' ')
    .replace(/\.{3,}/g, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/[\s:;,.*]+$/, '')
    .replace(/^(?:\(?[a-z0-9]{1,2}[.)]|[•–—-])\s+/i, '')
    .slice(0, 80);
