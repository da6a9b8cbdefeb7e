import { readExact } from '../column/index.js';
import type { TableShape } from '../marks/index.js';
import { isClassTitle, type Roll } from '../roll/index.js';
import { barsOf, courseOf, isInOrder, placesOf, weeksOf } from './charts.js';
import { kindsOf } from './kinds.js';
import { markSeries, type Around, type Beginning } from './series.js';
import { markTable, ownTable, questionTable } from './tables.js';

/** The tables and charts that a roll is good for, the likeliest first. */
export function beginnings(roll: Roll, shapes: readonly TableShape[], newId: () => string): Beginning[] {
  const kinds = kindsOf(roll.columns);
  const within = roll.columns
    .filter(({ title }) => isClassTitle(title))
    .map(({ id, title }) => ({ columnId: id, name: title }))
    .slice(0, 1);
  const around: Around = { roll, kinds, within, newId };
  const series = markSeries(roll, kinds);
  return [
    ...picturesOf(roll),
    ...series.map((rows) => markTable(rows, around)),
    ...roll.columns.flatMap((column) =>
      column.worked?.kind === 'key' ? [questionTable(column, newId)] : [],
    ),
    ...shapes.flatMap((shape) => ownTable(shape, roll, newId)),
    ...series.map((rows) => barsOf(rows, around)),
    ...series.filter(({ rows }) => isInOrder(rows)).map((rows) => courseOf(rows, around)),
    ...weeksOf(around),
    ...placesOf(around),
  ].slice(0, 24);
}

/** The learners' own pictures, at the size of a photo in a passport (ICAO 9303, 35 × 45 mm), or larger where they are works. */
const picturesOf = ({ columns, entries }: Roll): Beginning[] =>
  columns
    .filter(({ id }) =>
      entries.some(({ exact }) => exact?.[id] !== undefined && readExact(exact[id]).kind === 'i'),
    )
    .map(({ id, title }) => {
      const face = /photo|portrait|face|foto|bild|retrato/i.test(title);
      const size = face
        ? { width: 35, height: 45, fit: 'cut below' as const }
        : /sign|unterschrift|firma/i.test(title)
          ? { width: 60, height: 20, fit: 'whole' as const }
          : { width: 120, height: 90, fit: 'whole' as const };
      return {
        name: `Picture: ${title}`,
        hint: 'Each learner’s own',
        field: { name: title, columnId: id, picture: { ...size, side: 'left' as const } },
      };
    });
