import { refuse, type Result } from '../table/index.js';

/** Places for cells that the sheets of a workbook may take up together, empty ones between others among them. */
const CELLS_MOST = 30_000_000;
const ROWS_MOST = 2_000_000;

/** Thrown where a workbook takes up more places than can be held. */
export class TooManyCells extends Error {
  override name = 'TooManyCells';
  readonly refusal: Result<never> = refuse('too-many-cells');
}

/** Counts the places that sheets take up, while they are read. */
export class CellCount {
  private cells = 0;
  private rows = 0;

  /** @throws TooManyCells */
  add(rows: number, width: number): void {
    this.rows += rows;
    this.cells += width;
    if (this.cells > CELLS_MOST || this.rows > ROWS_MOST) throw new TooManyCells();
  }
}
