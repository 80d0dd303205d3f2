import type { Place } from "./GridCell.tsx";

/** A rectangle of cells. */
export interface Range {
  top: number;
  bottom: number;
  left: number;
  right: number;
  holds: (row: number, column: number) => boolean;
}

/** The rectangle between two cells, within so many rows. */
export function rangeOf(a: Place, b: Place, rows: number): Range {
  const [top, bottom] = [Math.min(a.row, b.row), Math.min(rows - 1, Math.max(a.row, b.row))];
  const [left, right] = [Math.min(a.column, b.column), Math.max(a.column, b.column)];
  const holds = (row: number, column: number) => row >= top && row <= bottom && column >= left && column <= right;
  return { top, bottom, left, right, holds };
}
