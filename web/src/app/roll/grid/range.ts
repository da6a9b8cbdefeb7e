/** A cell by its place on screen: the row among the shown entries, the column among the shown columns. */
export interface Place {
  readonly row: number;
  readonly column: number;
}

/** A rectangle of cells: where it began, and where it ends now. The end is the active cell's opposite corner. */
export interface Range {
  readonly from: Place;
  readonly to: Place;
}

export interface Box {
  readonly top: number;
  readonly bottom: number;
  readonly left: number;
  readonly right: number;
}

/** The range's edges, all included. */
export const boxOf = ({ from, to }: Range): Box => ({
  top: Math.min(from.row, to.row),
  bottom: Math.max(from.row, to.row),
  left: Math.min(from.column, to.column),
  right: Math.max(from.column, to.column),
});

/** All cells of some rows; the first one is the active one. */
export const wholeRows = (from: number, to: number, { columns }: { columns: number }): Range => ({
  from: { row: from, column: 0 },
  to: { row: to, column: Math.max(0, columns - 1) },
});

export const one = (place: Place): Range => ({ from: place, to: place });

/** The place moved by some rows and columns, inside a table of this size. */
export function moved(
  place: Place,
  rows: number,
  columns: number,
  size: { rows: number; columns: number },
): Place {
  const inside = (n: number, most: number): number => Math.max(0, Math.min(most - 1, n));
  return { row: inside(place.row + rows, size.rows), column: inside(place.column + columns, size.columns) };
}
