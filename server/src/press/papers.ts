import { fillFields, type Values } from '@scriptum/core/fill';
import { filePath, uniquePaths } from '@scriptum/core/filing';
import { learnerName, nameColumns, type Entry, type Roll } from '@scriptum/core/roll';
import { fieldsUsed, type Filing, type Letter } from '@scriptum/core/template';
import { sha256 } from '../store/blobs.js';

/** What one entry's paper would be made from, now. */
export interface PlannedPaper {
  readonly entry: Entry;
  readonly learner: string;
  readonly fileName: string;
  readonly values: Values;
  readonly inputHash: string;
}

/** Plans the paper of each entry, in the order of the roll. File names are unique over the whole roll. */
export function planPapers(roll: Roll, letter: Letter, filing: Filing): PlannedPaper[] {
  const names = nameColumns(roll.columns);
  const used = new Set(fieldsUsed(letter.body));
  const fields = letter.fields.filter((field) => used.has(field.id));
  const paths = roll.entries.map((entry) => filePath(filing, fillFields(filing.fields, entry)));
  const fileNames = uniquePaths(paths, (index) => `${letter.name} ${index + 1}`);
  // What is matched to what is in the values; only the letter's own text and looks count here.
  const look = sha256(
    JSON.stringify({ ...letter, fields: fields.map((field) => field.id), name: letter.name }),
  );
  return roll.entries.map((entry, index) => {
    const values = fillFields(fields, entry);
    const fileName = fileNames[index]!;
    return {
      entry,
      learner: learnerName(entry, names).slice(0, 300),
      fileName,
      values,
      inputHash: sha256(JSON.stringify([look, values, fileName])),
    };
  });
}
