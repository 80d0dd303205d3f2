import { awayFrom, type Bin, EPSILON, type Item, type Packed } from "./bins.ts";

/** Cost of a packing as one number: a new board outweighs all outputs. */
const BOARD = 1e6;

/** The best packing there is, by shortest paths over all subsets of the items; null when there is none. */
export function packExactly(items: readonly Item[], present: readonly Bin[], fresh: Bin): Packed | null {
  const sets = 1 << items.length;
  const outputs = new Float64Array(sets);
  const amps = new Float64Array(sets);
  for (let set = 1; set < sets; set++) {
    const rest = set & (set - 1);
    const item = items[31 - Math.clz32(set & -set)] as Item;
    outputs[set] = (outputs[rest] as number) + item.size;
    amps[set] = (amps[rest] as number) + item.amps;
  }
  const members = (set: number) => items.filter((_, index) => (set >> index) & 1);
  const room = (set: number, bin: Bin) =>
    (outputs[set] as number) <= bin.outputs && (amps[set] as number) <= bin.amps + EPSILON;
  const costs = (bin: Bin, each: number) =>
    Float64Array.from({ length: sets }, (_, set) =>
      set === 0 ? 0 : room(set, bin) ? each + awayFrom(bin.zone, members(set)) : Number.POSITIVE_INFINITY,
    );

  // cheapest way to put exactly a set of items on the boards so far, and what the last of them holds
  let reached = new Float64Array(sets).fill(Number.POSITIVE_INFINITY);
  reached[0] = 0;
  const layers: Int32Array[] = [];
  for (const bin of present) {
    const cost = costs(bin, 0);
    const next = reached.slice();
    const holds = new Int32Array(sets);
    for (let set = 1; set < sets; set++) {
      for (let part = set; part > 0; part = (part - 1) & set) {
        const total = (reached[set ^ part] as number) + (cost[part] as number);
        if (total < (next[set] as number)) {
          next[set] = total;
          holds[set] = part;
        }
      }
    }
    reached = next;
    layers.push(holds);
  }
  // cheapest way to put exactly a set on new boards alone, and what the one with its lowest item holds
  const cost = costs(fresh, BOARD);
  const alone = new Float64Array(sets).fill(Number.POSITIVE_INFINITY);
  alone[0] = 0;
  const opened = new Int32Array(sets);
  for (let set = 1; set < sets; set++) {
    const lowest = set & -set;
    for (let part = set; part > 0; part = (part - 1) & set) {
      if ((part & lowest) === 0) continue;
      const total = (alone[set ^ part] as number) + (cost[part] as number);
      if (total < (alone[set] as number)) {
        alone[set] = total;
        opened[set] = part;
      }
    }
  }
  let best = { cost: Number.POSITIVE_INFINITY, onNew: 0 };
  for (let onNew = 0; onNew < sets; onNew++) {
    const total = (alone[onNew] as number) + (reached[(sets - 1) ^ onNew] as number);
    if (total < best.cost) best = { cost: total, onNew };
  }
  if (best.cost === Number.POSITIVE_INFINITY) return null;
  return traced(items.length, best, layers, opened);
}

/** Reads back which item went where. */
function traced(
  count: number,
  { cost, onNew }: { cost: number; onNew: number },
  layers: readonly Int32Array[],
  opened: Int32Array,
): Packed {
  const bin = new Array<number>(count).fill(-1);
  const put = (part: number, number: number) => {
    for (let index = 0; index < count; index++) if ((part >> index) & 1) bin[index] = number;
  };
  let fresh = 0;
  for (let set = onNew; set !== 0; ) {
    const part = opened[set] as number;
    put(part, layers.length + fresh++);
    set ^= part;
  }
  let set = ((1 << count) - 1) ^ onNew;
  for (let layer = layers.length - 1; layer >= 0; layer--) {
    const part = layers[layer]?.[set] ?? 0;
    put(part, layer);
    set ^= part;
  }
  return { bin, fresh, away: Math.round(cost - fresh * BOARD) };
}
