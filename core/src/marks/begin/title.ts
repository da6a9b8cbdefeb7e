import type { Roll } from '../../roll/index.js';
import type { Column, Worked } from '../../column/index.js';
import { describeWorked } from '../describe.js';

/**
 * The title for a column that has been defined anew: the old one where people chose it, else one that says what it is
 * made from now.
 */
export function followTitle(column: Column, worked: Worked, roll: Roll): string {
  if (!column.worked) return column.title;
  const before = titleFor(column.worked, roll);
  const now = titleFor(worked, roll);
  const made = column.title === before || column.title.replace(/ \d+$/, '') === before;
  if (!made || now === before) return column.title;
  return freeTitle(now, { ...roll, columns: roll.columns.filter(({ id }) => id !== column.id) });
}

export function titleFor(worked: Worked, roll: Roll): string {
  const of = 'of' in worked ? roll.columns.find(({ id }) => id === worked.of)?.title : undefined;
  switch (worked.kind) {
    case 'scheme':
      return 'Mark';
    case 'band':
      return of ? `${of} band` : 'Band';
    case 'cohort':
      return of ? `${of} ${describeWorked(worked)}` : 'Comparison';
    case 'attendance':
      return 'Attendance';
    case 'key':
      return 'Score';
    case 'remark':
      return of ? `${of} remark` : 'Remark';
    case 'expression':
      return 'Worked out';
    case 'part':
      return of ? `${of} steps` : 'Steps';
    case 'personal':
      return worked.give === 'link' ? 'Link to the form' : 'Code for the form';
  }
}

export function freeTitle(wanted: string, roll: Roll): string {
  const titles = new Set(roll.columns.map(({ title }) => title));
  let title = wanted;
  for (let n = 2; titles.has(title); n++) title = `${wanted} ${n}`;
  return title;
}
