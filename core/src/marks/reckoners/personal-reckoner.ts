import { personalCode, shownCode } from '../../column/index.js';
import { text, type Cell } from '../cell.js';
import type { Step } from '../explanation.js';
import type { Notice, Reckoner, ReckonerInput } from '../reckoner.js';

/** Each entry's own link to a form, or its code. */
export class PersonalReckoner implements Reckoner {
  readonly together = false;

  constructor(private readonly input: ReckonerInput<'personal'>) {}

  row(at: number): Cell {
    const { worked, rollCells } = this.input;
    const code = personalCode(worked.seed, rollCells.entries[at]!.id);
    return text(worked.give === 'link' ? `${worked.base}/for/${code}` : shownCode(code));
  }

  /** It is drawn by chance, so there is nothing to tell. */
  explain(): Step[] {
    return [];
  }

  notices(): Notice[] {
    return [];
  }
}
