import type { Code, ParametersOf, Saying } from '../sentences/index.js';
import type { Column, Worked, WorkedKind } from '../column/index.js';
import type { RollCells } from './roll-cells.js';
import type { Cell } from './cell.js';
import type { Step } from './explanation.js';

/** Something worth a look in a worked column. */
export interface Notice {
  readonly code: Code;
  /** Places of the entries that it is about; none where it is about the column. */
  readonly places: readonly number[];
  /** What its sentence is made from, but for `who`, the entries. */
  readonly parameters: Saying['parameters'];
}

export const notice = <C extends Code>(
  code: C,
  places: readonly number[],
  parameters: Omit<ParametersOf<C>, 'who'>,
): Notice => ({ code, places, parameters: parameters as Saying['parameters'] });

/** Works one column out. Made anew when the column's definition changes. */
export interface Reckoner {
  /** True where the cell of an entry depends on other entries too, so that all are worked out anew. */
  readonly together: boolean;
  /** Called before cells are asked for, where they depend on each other. */
  begin?(): void;
  row(at: number): Cell;
  /** How the cell comes about. */
  explain(at: number): Step[];
  notices(): Notice[];
}

/** What a reckoner is made from. */
export interface ReckonerInput<K extends WorkedKind = WorkedKind> {
  readonly rollCells: RollCells;
  readonly column: Column;
  readonly worked: Extract<Worked, { kind: K }>;
  /** The reckoner of another column. */
  readonly other: (columnId: string) => Reckoner | undefined;
  /** All steps of another cell, its own inputs' too. */
  readonly stepsOf: (columnId: string, at: number) => Step[];
}
