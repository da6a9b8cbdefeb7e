import { isDeepStrictEqual } from 'node:util';
import { guessAddressColumn, nameColumns, type Roll } from '@scriptum/core/roll';
import type { Column } from '@scriptum/core/table';
import { fieldForColumn, matchFields, type Filing, type LineText } from '@scriptum/core/template';
import type { EntityManager } from 'typeorm';
import { FolioRow, TemplateRow } from '../store/entities/folio.js';
import { lockTemplate } from '../store/folios.js';
import { newId } from '../store/id.js';

/** Matches all fields of the folio, whose row is locked, to the roll, and makes a first guess where people have said nothing yet. */
export async function matchAllFields(manager: EntityManager, folio: FolioRow, roll: Roll): Promise<void> {
  const { columns } = roll;
  // Locked, so that a letter saved meanwhile is either in what is read here or finds another version and is refused.
  const template = await lockTemplate(manager, folio.schoolId, folio.id);
  const fields = matchFields(template.letter.fields, columns);
  if (!isDeepStrictEqual(fields, template.letter.fields))
    await manager.update(
      TemplateRow,
      { id: template.id, version: template.version },
      { letter: { ...template.letter, fields }, version: template.version + 1 },
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
  // The folio's row is locked by whoever calls this (`lockFolio`), so its versions are those of now.
  const changed: Partial<FolioRow> = {};
  if (!isDeepStrictEqual(note, folio.note))
    Object.assign(changed, { note, noteVersion: folio.noteVersion + 1 });
  if (!isDeepStrictEqual(filing, folio.filing))
    Object.assign(changed, { filing, filingVersion: folio.filingVersion + 1 });
  if (Object.keys(changed).length > 0)
    await manager.update(FolioRow, { id: folio.id, schoolId: folio.schoolId }, changed);
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
