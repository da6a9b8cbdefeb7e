import type { Column } from '../column/index.js';

/** What columns are called that say the class. */
const CLASS = /^(?:class|form|group|tutor group|set|klasse|classe|clase|klas|turma)$/i;

export const isClassTitle = (title: string): boolean => CLASS.test(title.trim());

/** The column that says which class a learner is in, as far as its title tells. */
export const classColumn = <T extends Pick<Column, 'title'>>(columns: readonly T[]): T | undefined =>
  columns.find(({ title }) => isClassTitle(title));
