/** A cell of the grid, by its place among the rows and columns that are shown. */
export interface Place {
  row: number;
  column: number;
}

/** A rectangle of cells. */
export interface Range {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

/** The rectangle between two cells, within so many rows. */
export function rangeOf(a: Place, b: Place, rows: number): Range {
  const [top, bottom] = [Math.min(a.row, b.row), Math.min(rows - 1, Math.max(a.row, b.row))];
  const [left, right] = [Math.min(a.column, b.column), Math.max(a.column, b.column)];
  return { top, bottom, left, right };
}

/** Rows in sight and the current one, in order: wherever it is scrolled to, the keyboard is not lost. */
export function withRow(visible: number[], current: number): number[] {
  if (current < 0 || visible.includes(current)) return visible;
  return [...visible, current].sort((a, b) => a - b);
}
