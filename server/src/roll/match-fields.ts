import { guessAddressColumn, nameColumns, type Roll } from '@scriptum/core/roll';
import type { Column } from '@scriptum/core/table';
import { fieldForColumn, matchFields, type Filing, type LineText } from '@scriptum/core/template';
import type { EntityManager } from 'typeorm';
import { FolioRow, TemplateRow } from '../store/entities/folio.js';
import { findTemplate } from '../store/folios.js';
import { newId } from '../store/id.js';

/** Matches all fields of the folio to the roll, and makes a first guess where people have said nothing yet. */
export async function matchAllFields(manager: EntityManager, folio: FolioRow, roll: Roll): Promise<void> {
  const template = await findTemplate(manager, folio.schoolId, folio.id);
  const { columns } = roll;
  await manager.update(
    TemplateRow,
    { id: template.id },
    {
      letter: { ...template.letter, fields: matchFields(template.letter.fields, columns) },
      version: template.version + 1,
    },
  );
  const known = new Set(columns.map((column) => column.id));
  const to = folio.note.toColumnId;
  const note = {
    ...folio.note,
    fields: matchFields(folio.note.fields, columns),
    toColumnId: to && known.has(to) ? to : (guessAddressColumn(roll)?.id ?? null),
  };
  const filing =
    folio.filing.pattern.length > 0
      ? { ...folio.filing, fields: matchFields(folio.filing.fields, columns) }
      : firstFiling(folio.title, columns);
  await manager.update(
    FolioRow,
    { id: folio.id, schoolId: folio.schoolId },
    { note, filing, noteVersion: folio.noteVersion + 1, filingVersion: folio.filingVersion + 1 },
  );
}

/** `Folio title – Learner's name`. */
export function firstFiling(title: string, columns: readonly Column[]): Filing {
  let filing: Filing = { fields: [], pattern: [{ type: 'text', text: title.replace(/\//g, '-') }] };
  nameColumns(columns).forEach((column, n) => {
    const { fields, field } = fieldForColumn(filing.fields, column, newId);
    const pattern: LineText = [
      ...filing.pattern,
      { type: 'text', text: n === 0 ? ' – ' : ' ' },
      { type: 'field', attrs: { fieldId: field.id } },
    ];
    filing = { fields, pattern };
  });
  return filing;
}
