import { paperKey, type NamedPapers, type PlannedPaper } from '@scriptum/core/paper';
import type { PaperRow } from '../store/entities/register.js';
import { lookHash } from './look-hash.js';

/** States of a paper that stands for its entry now. */
export const PRESENT = ['pressed', 'cleared', 'held', 'dispatched'] as const;

/** The papers that stand for their entries now. */
export interface PresentPapers {
  readonly nameOf: NamedPapers;
  /** True where the paper that there is would come out the same, under the same name. */
  isUpToDate(planned: PlannedPaper): boolean;
  /** The paper that there is, where it would come out the same, under the same name. */
  upToDateId(planned: PlannedPaper): string | undefined;
}

export type MadePaper = Pick<PaperRow, 'id' | 'entryId' | 'templateId' | 'lookHash' | 'fileName' | 'state'>;

/** @param papers of one folio, in any state. */
export function presentAmong(papers: readonly MadePaper[]): PresentPapers {
  const states: readonly string[] = PRESENT;
  const made = new Map<string, MadePaper>();
  for (const paper of papers) if (states.includes(paper.state)) made.set(paperKey(paper), paper);
  const same = (planned: PlannedPaper): MadePaper | undefined => {
    const paper = made.get(paperKey(planned));
    return paper?.fileName === planned.fileName && paper.lookHash === lookHash(planned) ? paper : undefined;
  };
  return {
    nameOf: (entryId, templateId) => made.get(paperKey({ entryId, templateId }))?.fileName,
    isUpToDate: (planned) => same(planned) !== undefined,
    upToDateId: (planned) => same(planned)?.id,
  };
}
