import { Latest } from "./latest.ts";

/** Where four updates in a row of one column land on the same places one after the other; -1 elsewhere. */
function fours(landStart: readonly number[], land: readonly number[], updateStart: Int32Array): Int32Array {
  const end = (u: number) => landStart[u + 1] ?? land.length;
  const length = (u: number) => end(u) - (landStart[u] as number);
  const first = (u: number) => land[landStart[u] as number];
  const isInRow = (u: number) => {
    for (let at = (landStart[u] as number) + 1; at < end(u); at++)
      if (land[at] !== (land[at - 1] as number) + 1) return false;
    return length(u) > 0;
  };
  const found = new Int32Array(landStart.length).fill(-1);
  for (let k = 0; k + 1 < updateStart.length; k++) {
    const last = updateStart[k + 1] as number;
    for (let u = updateStart[k] as number; u + 3 < last; u++) {
      const alike = [u + 1, u + 2, u + 3].every((next) => length(next) === length(u) && first(next) === first(u));
      if (!alike || ![u, u + 1, u + 2, u + 3].every(isInRow)) continue;
      found[u] = first(u) as number;
      u += 3;
    }
  }
  return found;
}

/** Late nodes that count as few: the dense part that they leave at the end costs less than all columns on their ways to the root. */
const FEW_LATE = 16;
/** Degrees by which a late node is put off where there are few. */
const PUT_OFF = 6;

/** Order of elimination, always the node of least degree, and each node's neighbours at the time it goes. */
function minimumDegree(size: number, branches: readonly (readonly [number, number])[], late: ReadonlySet<number>) {
  const neighbours: Set<number>[] = Array.from({ length: size }, () => new Set());
  for (const [a, b] of branches) {
    if (a === size || b === size) continue;
    neighbours[a]?.add(b);
    neighbours[b]?.add(a);
  }
  const putOff = late.size <= FEW_LATE ? PUT_OFF : 0;
  const cost = (node: number) => (neighbours[node]?.size ?? 0) + (late.has(node) ? putOff : 0);
  const buckets: number[][] = [];
  const put = (node: number) => {
    const bucket = cost(node);
    while (buckets.length <= bucket) buckets.push([]);
    buckets[bucket]?.push(node);
  };
  for (let node = size - 1; node >= 0; node--) put(node);
  const gone = new Uint8Array(size);
  const order: number[] = [];
  const patterns: number[][] = [];
  let lowest = 0;
  while (order.length < size) {
    const node = buckets[lowest]?.pop();
    if (node === undefined) {
      lowest++;
      continue;
    }
    // entries of nodes whose degree has changed since, or that are gone, are passed over
    if (gone[node] === 1 || cost(node) !== lowest) continue;
    gone[node] = 1;
    order.push(node);
    const around = [...(neighbours[node] ?? [])];
    patterns.push(around);
    for (const each of around) {
      const set = neighbours[each];
      if (!set) continue;
      set.delete(node);
      for (const other of around) if (other !== each) set.add(other);
    }
    for (const each of around) {
      put(each);
      lowest = Math.min(lowest, cost(each));
    }
    neighbours[node]?.clear();
  }
  return { order, patterns };
}

/** What an elimination does whatever the conductances are: its order, where what lands, and which column waits for which. */
export interface Pattern {
  place: Int32Array;
  parent: Int32Array;
  start: Int32Array;
  row: Int32Array;
  columnOf: Int32Array;
  slotOf: Int32Array;
  branchStart: Int32Array;
  branches: Int32Array;
  updateStart: Int32Array;
  updateColumn: Int32Array;
  updateSlot: Int32Array;
  landStart: Int32Array;
  land: Int32Array;
  fourFrom: Int32Array;
}

/** Patterns that are kept for networks joined in the same way, as those of turnouts that are wired alike. */
const MOST_KEPT = 200;
const kept = new Latest<Pattern>(MOST_KEPT);

/** The pattern of a network: its symbolic factorisation, worked out once for all that are joined in the same way. */
export function patternOf(
  size: number,
  branches: readonly (readonly [number, number])[],
  late: ReadonlySet<number>,
): Pattern {
  const key = `${size} ${branches.flat().join(" ")} ${[...late].join()}`;
  return kept.at(key, () => findPattern(size, branches, late));
}

function findPattern(
  size: number,
  branches: readonly (readonly [number, number])[],
  late: ReadonlySet<number>,
): Pattern {
  const { order, patterns } = minimumDegree(size, branches, late);
  const place = new Int32Array(size + 1);
  for (const [index, node] of order.entries()) place[node] = index;
  place[size] = size;

  const start = new Int32Array(size + 1);
  for (let k = 0; k < size; k++) start[k + 1] = (start[k] as number) + (patterns[k]?.length ?? 0);
  const row = new Int32Array(start[size] as number);
  const parent = new Int32Array(size).fill(size);
  for (let k = 0; k < size; k++) {
    const rows = Int32Array.from(patterns[k] ?? [], (node) => place[node] as number).sort();
    row.set(rows, start[k] as number);
    if (rows.length > 0) parent[k] = rows[0] as number;
  }
  const slotAt = (column: number, wanted: number) => {
    let low = start[column] as number;
    let high = (start[column + 1] as number) - 1;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((row[middle] as number) < wanted) low = middle + 1;
      else high = middle;
    }
    return low;
  };

  const columnOf = new Int32Array(branches.length);
  const slotOf = new Int32Array(branches.length);
  const own: number[][] = Array.from({ length: size }, () => []);
  for (const [branch, [a, b]] of branches.entries()) {
    const [one, other] = [place[a] as number, place[b] as number];
    const [first, second] = one < other ? [one, other] : [other, one];
    columnOf[branch] = first;
    slotOf[branch] = second === size ? -1 : slotAt(first, second);
    own[first]?.push(branch);
  }
  const branchStart = new Int32Array(size + 1);
  for (let k = 0; k < size; k++) branchStart[k + 1] = (branchStart[k] as number) + (own[k]?.length ?? 0);

  const updates: [number, number][][] = Array.from({ length: size }, () => []);
  for (let j = 0; j < size; j++) {
    for (let slot = start[j] as number; slot < (start[j + 1] as number); slot++)
      updates[row[slot] as number]?.push([j, slot]);
  }
  const updateStart = new Int32Array(size + 1);
  const columns: number[] = [];
  const slots: number[] = [];
  const landStart: number[] = [];
  const land: number[] = [];
  for (let k = 0; k < size; k++) {
    for (const [j, slot] of updates[k] ?? []) {
      columns.push(j);
      slots.push(slot);
      landStart.push(land.length);
      for (let later = slot + 1; later < (start[j + 1] as number); later++) land.push(slotAt(k, row[later] as number));
    }
    updateStart[k + 1] = columns.length;
  }
  return {
    ...{ place, parent, start, row, columnOf, slotOf, branchStart, branches: Int32Array.from(own.flat()) },
    ...{ updateStart, updateColumn: Int32Array.from(columns), updateSlot: Int32Array.from(slots) },
    ...{ landStart: Int32Array.from(landStart), land: Int32Array.from(land) },
    fourFrom: fours(landStart, land, updateStart),
  };
}
