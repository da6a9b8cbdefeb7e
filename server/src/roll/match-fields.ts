import type { LineText } from '@scriptum/core/text';
import { isDeepStrictEqual } from 'node:util';
import { guessAddressColumn, nameColumns, type Roll } from '@scriptum/core/roll';
import type { Column } from '@scriptum/core/column';
import {
  fieldForColumn,
  matchFields,
  type Filing,
  type Template,
  type Writing,
  type WritingContent,
} from '@scriptum/core/template';
import type { EntityManager } from 'typeorm';
import type { FolioRow } from '../store/entities/folio.js';
import { newId } from '../store/id.js';
import { changeWriting, loadWritings } from '../store/writings.js';

/**
 * Matches all fields that are written in the folio, whose row is locked, to the roll, and makes a first guess where people
 * have said nothing yet.
 */
export async function matchAllFields(manager: EntityManager, folio: FolioRow, roll: Roll): Promise<void> {
  const place = { schoolId: folio.schoolId, folioId: folio.id };
  for (const writing of await loadWritings(manager, place, true)) {
    const content = matched(writing, folio.title, roll);
    if (!isDeepStrictEqual(content, writing.content))
      await changeWriting(manager, { ...writing, schoolId: folio.schoolId }, { content, staffId: null });
  }
}

function matched(writing: Writing, title: string, roll: Roll): WritingContent {
  const { columns } = roll;
  if (writing.kind === 'sorting' || writing.kind === 'form') return writing.content;
  if (writing.kind === 'exception') {
    const { base, own } = writing.content;
    const fieldsOf = (one: Template): Template => ({ ...one, fields: matchFields(one.fields, columns) });
    return { ...writing.content, base: fieldsOf(base), own: fieldsOf(own) };
  }
  const fields = matchFields(writing.content.fields, columns);
  if (writing.kind === 'note') {
    const { to } = writing.content;
    if (to.some((one) => 'address' in one || columns.some(({ id }) => id === one.columnId)))
      return { ...writing.content, fields };
    const guess = guessAddressColumn(roll);
    return { ...writing.content, fields, to: guess ? [{ columnId: guess.id }] : [] };
  }
  if (writing.kind === 'filing' && writing.content.pattern.length === 0) return firstFiling(title, columns);
  return { ...writing.content, fields };
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
