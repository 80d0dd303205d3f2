/** Rows of a sparse matrix: column to value. */
export type SparseRows = Map<number, number>[];

/** Adds to an entry. */
export function addTo(rows: SparseRows, row: number, column: number, value: number): void {
  const entries = rows[row];
  entries?.set(column, (entries.get(column) ?? 0) + value);
}

const PIVOT_SHARE = 1e-3;

/**
 * Solves A x = b by Gaussian elimination that looks for short rows first and keeps pivots large enough
 * (Markowitz ordering by row, threshold pivoting). A and b are used up.
 *
 * @param rows n sparse rows of A
 * @param b right-hand side, length n
 * @returns x, length n
 * @throws {RangeError} when the matrix is singular
 */
export function solveSparse(rows: SparseRows, b: Float64Array): Float64Array {
  const n = rows.length;
  const holders: Set<number>[] = Array.from({ length: n }, () => new Set());
  for (const [row, entries] of rows.entries()) for (const column of entries.keys()) holders[column]?.add(row);
  const waiting = buckets(rows);
  const order: { row: number; column: number }[] = [];

  for (let step = 0; step < n; step++) {
    const row = waiting.takeShortest();
    const entries = rows[row] ?? new Map();
    const column = pivotColumn(entries, holders);
    if (column < 0) throw new RangeError(`The matrix is singular at row ${row}.`);
    order.push({ row, column });
    const pivot = entries.get(column) ?? 0;
    for (const key of entries.keys()) holders[key]?.delete(row);
    for (const other of holders[column] ?? []) {
      const target = rows[other] ?? new Map();
      const factor = (target.get(column) ?? 0) / pivot;
      target.delete(column);
      const before = target.size;
      for (const [key, value] of entries) {
        if (key === column) continue;
        const old = target.get(key);
        if (old === undefined) holders[key]?.add(other);
        target.set(key, (old ?? 0) - factor * value);
      }
      b[other] = (b[other] ?? 0) - factor * (b[row] ?? 0);
      waiting.move(other, before + 1, target.size);
    }
    holders[column]?.clear();
  }

  const x = new Float64Array(n);
  for (const { row, column } of order.reverse()) {
    let sum = b[row] ?? 0;
    let pivot = 0;
    for (const [key, value] of rows[row] ?? []) {
      if (key === column) pivot = value;
      else sum -= value * (x[key] ?? 0);
    }
    x[column] = sum / pivot;
  }
  return x;
}

/** Of a row's entries large enough to divide by, the one in the column with fewest rows; -1 when all are zero. */
function pivotColumn(entries: Map<number, number>, holders: Set<number>[]): number {
  let largest = 0;
  for (const value of entries.values()) largest = Math.max(largest, Math.abs(value));
  if (!(largest > 0)) return -1;
  let best = -1;
  let fewest = Number.POSITIVE_INFINITY;
  for (const [column, value] of entries) {
    const count = holders[column]?.size ?? 0;
    if (Math.abs(value) >= largest * PIVOT_SHARE && count < fewest) {
      best = column;
      fewest = count;
    }
  }
  return best;
}

/** Rows waiting for elimination, by their number of entries. */
function buckets(rows: SparseRows) {
  const bySize: Set<number>[] = [];
  const put = (row: number, size: number) => {
    bySize[size] ??= new Set();
    bySize[size].add(row);
  };
  for (const [row, entries] of rows.entries()) put(row, entries.size);
  return {
    takeShortest(): number {
      for (const rowsOfSize of bySize) {
        for (const row of rowsOfSize ?? []) {
          rowsOfSize.delete(row);
          return row;
        }
      }
      throw new RangeError("No row is waiting.");
    },
    move(row: number, from: number, to: number): void {
      if (from === to) return;
      bySize[from]?.delete(row);
      put(row, to);
    },
  };
}
