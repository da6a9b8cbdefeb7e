import type { TableShape } from '../marks/index.js';
import type { Roll } from '../roll/index.js';
import { barsOf, courseOf, isInOrder, placesOf } from './charts.js';
import { kindsOf } from './kinds.js';
import { markSeries, type Around, type Beginning } from './series.js';
import { markTable, ownTable, questionTable } from './tables.js';

const CLASS = /^(?:class|form|group|tutor group|set|klasse|classe|clase|klas|turma)$/i;

/** The tables and charts that a roll is good for, the likeliest first. */
export function beginnings(roll: Roll, shapes: readonly TableShape[], newId: () => string): Beginning[] {
  const kinds = kindsOf(roll.columns);
  const within = roll.columns
    .filter(({ title }) => CLASS.test(title.trim()))
    .map(({ id, title }) => ({ columnId: id, name: title }))
    .slice(0, 1);
  const around: Around = { roll, kinds, within, newId };
  const series = markSeries(roll, kinds);
  return [
    ...series.map((rows) => markTable(rows, around)),
    ...roll.columns.flatMap((column) =>
      column.worked?.kind === 'key' ? [questionTable(column, newId)] : [],
    ),
    ...shapes.flatMap((shape) => ownTable(shape, roll, newId)),
    ...series.map((rows) => barsOf(rows, around)),
    ...series.filter(({ rows }) => isInOrder(rows)).map((rows) => courseOf(rows, around)),
    ...placesOf(around),
  ].slice(0, 24);
}
