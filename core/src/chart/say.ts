import type { ChartData } from './chart-data.js';

/** What bars or a course say: each value, and the mean behind it. Only words that people wrote, in their language. */
export function sayPoints({ points, axis, words }: Extract<ChartData, { kind: 'bars' | 'course' }>): string {
  const said = points.map(({ title, text, mean, meanText }) => {
    const behind = mean === null ? '' : ` (${words.mean} ${meanText})`;
    return `${title}: ${text || '–'}${behind}`;
  });
  return [axis, said.join('; ')].filter(Boolean).join('. ');
}

/** What the place among the others says: the own value, and how many have which. */
export function sayPlace({
  counts,
  least,
  most,
  axis,
  words,
  text,
}: Extract<ChartData, { kind: 'place' }>): string {
  const step = (most - least) / counts.length;
  const ends = (n: number): string =>
    String(Number((least + n * step).toPrecision(10))).replace('-', '\u2212');
  const said = counts.map((count, n) => `${ends(n)}–${ends(n + 1)}: ${count}`).join('; ');
  return [axis, `${words.own} ${text}`.trim(), `${words.count} ${said}`.trim()].filter(Boolean).join('. ');
}

/** What the weeks say: each with its counts, where there are any. */
export function sayWeeks({ weeks, axis, words }: Extract<ChartData, { kind: 'weeks' }>): string {
  const said = weeks.map(({ title, present, late, away }) => {
    const counts = [
      [words.own, present],
      [words.mean, late],
      [words.count, away],
    ] as const;
    const told = counts.filter(([, count], n) => n === 0 || count > 0);
    return `${title}: ${told.map(([word, count]) => `${word} ${count}`.trim()).join(', ')}`;
  });
  return [axis, said.join('; ')].filter(Boolean).join('. ');
}
