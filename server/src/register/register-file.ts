import type { PaperLine } from '@scriptum/core/contract';
import { writeSheet } from '@scriptum/core/workbook';
import type { EntityManager } from 'typeorm';
import { WritingRow } from '../store/entities/writing.js';
import { findFolio } from '../store/folios.js';
import { loadRegister } from './register.js';

export const PAPER_TITLES = [
  'Learner',
  'Paper',
  'Number',
  'Replaces',
  'File',
  'State',
  'Pages',
  'Pressed',
  'Pressed by',
  'Cleared or held by',
  'Cleared or held',
  'Why',
  'Message to',
  'Message',
  'Sent',
  'Out of date',
];

/** ISO 8601 without the letter between, as spreadsheets read it; UTC. */
const moment = (iso: string | null): string => (iso === null ? '' : iso.slice(0, 19).replace('T', ' '));

/** The register of a folio as a spreadsheet file: all papers that there ever were, in its order. */
export async function registerFile(
  manager: EntityManager,
  { schoolId, folioId, kind }: { schoolId: string; folioId: string; kind: 'csv' | 'xlsx' },
): Promise<{ title: string; bytes: Uint8Array }> {
  const folio = await findFolio(manager, schoolId, folioId);
  const { papers } = await loadRegister(manager, { schoolId, folioId });
  const writings = await manager.find(WritingRow, {
    select: { id: true, name: true },
    where: { schoolId, folioId },
  });
  const names = new Map(writings.map(({ id, name }) => [id, name]));
  return {
    title: folio.title,
    bytes: writeSheet(
      kind,
      folio.title,
      PAPER_TITLES,
      papers.map((paper) => paperRow(paper, names.get(paper.templateId) ?? '')),
    ),
  };
}

const PAGES = PAPER_TITLES.indexOf('Pages');

/** A paper as a row under these titles. @param letter what its template is called. */
export function paperRow(paper: PaperLine, letter: string): { text: string; number?: number }[] {
  const { message } = paper;
  return [
    paper.learner,
    letter,
    paper.number ?? '',
    paper.replacesNumber ?? '',
    paper.fileName,
    paper.state,
    paper.pages === null ? '' : String(paper.pages),
    moment(paper.pressedAt),
    paper.madeBy ?? '',
    paper.judgedBy ?? '',
    moment(paper.judgedAt),
    paper.note ?? paper.reason ?? '',
    message?.to ?? '',
    message?.state ?? '',
    moment(message?.sentAt ?? null),
    paper.outOfDate ? 'yes' : '',
  ].map((text, n) => (n === PAGES && text !== '' ? { text, number: Number(text) } : { text }));
}
