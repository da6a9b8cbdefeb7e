import { Marks, ratio } from '@scriptum/core/marks';
import type { Entry, Roll } from '@scriptum/core/roll';
import { type Column, PLAIN_STATES, Worked } from '@scriptum/core/column';

const ENTRIES = 10_000;
const SUBJECTS = 6;
const PIECES = 30;
const OUT_OF = [10, 20, 25, 40, 50, 100];

export interface MarkTimes {
  /** Milliseconds for all marks, bands and ranks: the first time, and the best of five. */
  readonly first: number;
  readonly all: number;
  /** The same sums alone, one fraction after the other, by the library for exact numbers. */
  readonly bare: number;
  /** Milliseconds after one mark changed, the middle of nine. */
  readonly change: number;
}

/** Times 10,000 entries with 30 pieces in each of 6 subjects, with a band and a rank in the class for each. */
export function measureMarks(): MarkTimes {
  const roll = largeRoll();
  const times = Array.from({ length: 6 }, () => timed(() => new Marks(roll, [], '2026-11-23')));
  const marks = new Marks(roll, [], '2026-11-23');
  const changes = Array.from({ length: 9 }, (_, n) => {
    const entries = [...marks.roll.entries];
    const entry = entries[n * 1000]!;
    entries[n * 1000] = { ...entry, values: { ...entry.values, s0p3: String(n) } };
    const changed = { ...roll, entries };
    return timed(() => marks.update(changed));
  });
  return {
    first: times[0]!,
    all: Math.min(...times.slice(1)),
    bare: Math.min(
      timed(() => bareSums(roll)),
      timed(() => bareSums(roll)),
    ),
    change: changes.sort((a, b) => a - b)[4]!,
  };
}

function timed(work: () => unknown): number {
  const began = performance.now();
  work();
  return performance.now() - began;
}

function bareSums({ entries }: Roll): number {
  let sum = 0;
  for (const { values } of entries) {
    for (let s = 0; s < SUBJECTS; s++) {
      let points = ratio('0');
      for (let p = 0; p < PIECES; p++) points = points.add(ratio(values[`s${s}p${p}`] || '0'));
      sum += points.div(PIECES).valueOf();
    }
  }
  return sum;
}

function largeRoll(): Roll {
  const columns: Column[] = [
    { id: 'name', title: 'Name' },
    { id: 'class', title: 'Class' },
  ];
  for (let s = 0; s < SUBJECTS; s++) columns.push(...subject(s));
  const entries = Array.from({ length: ENTRIES }, (_, n): Entry => {
    const values: Record<string, string> = { name: `Learner ${n}`, class: `C${n % 40}` };
    for (let s = 0; s < SUBJECTS; s++) {
      for (let p = 0; p < PIECES; p++) {
        const twice = ((n * 31 + s * 17 + p * 7 + ((n * p) % 13)) % (OUT_OF[p % 6]! * 2 + 1)) / 2;
        values[`s${s}p${p}`] = (n + p) % 41 === 0 ? '' : String(twice);
      }
    }
    return { id: `e${n}`, position: n, values };
  });
  return { columns, entries };
}

function subject(s: number): Column[] {
  const group = (id: string, from: number, to: number, weight: string, weigh: string, drop = 0): object => ({
    id,
    name: id,
    weight,
    weigh,
    drop,
    pieces: Array.from({ length: to - from }, (_, n) => ({
      id: `p${from + n}`,
      columnId: `s${s}p${from + n}`,
      outOf: String(OUT_OF[(from + n) % 6]),
    })),
  });
  const groups = [
    group('Tests', 0, 12, '40', 'equal', 1),
    group('Work', 12, 20, '30', 'points'),
    group('Homework', 20, PIECES, '30', 'equal'),
  ];
  const bands = ['A', 'B', 'C', 'D'].map((label, n) => ({
    id: label,
    label,
    from: n < 3 ? String(80 - n * 15) : null,
  }));
  const worked = (id: string, from: object): Column => ({
    id: `${id}${s}`,
    title: `${id} ${s}`,
    worked: Worked.parse(from),
  });
  return [
    ...Array.from({ length: PIECES }, (_, p): Column => ({
      id: `s${s}p${p}`,
      title: `Piece ${s} ${p}`,
      type: 'number',
    })),
    worked('mark', { kind: 'scheme', groups, weigh: 'weights', states: PLAIN_STATES }),
    worked('band', {
      kind: 'band',
      of: `mark${s}`,
      basis: 'thresholds',
      bands,
      before: null,
      near: '1',
      give: 'label',
    }),
    worked('rank', { kind: 'cohort', of: `mark${s}`, measure: 'rank', within: ['class'] }),
  ];
}
