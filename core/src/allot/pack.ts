/** Something to be put on a board: outputs it takes, amps it draws, the zone it belongs to ("" for none). */
export interface Item {
  size: number;
  amps: number;
  zone: string;
}

/** Room on a board: free outputs, amps that it can still give, and the zone it stands in; null when that is open. */
export interface Bin {
  outputs: number;
  amps: number;
  zone: string | null;
}

/** Where each item goes: boards that are there come first, then the new ones. */
export interface Packed {
  bin: number[];
  /** New boards. */
  fresh: number;
  /** Outputs whose turnout lies in another zone than their board. */
  away: number;
}

/** Up to this many items every way of packing them is looked at. */
export const EXACT_ITEMS = 12;

/** Rounding that sums of amps may have. */
const EPSILON = 1e-9;

/**
 * Puts items on boards: the fewest new boards, then the fewest outputs away from their zone.
 *
 * Up to twelve items the result is the best there is: shortest paths over all subsets. Beyond, each board is given to the
 * zone that gains most by it, which is the best for items of one output each, and then improved by moving and exchanging.
 *
 * @param present boards that are there, with what is free on them
 * @param fresh what a new board has
 * @param tell called now and then with the share done, 0 to 1
 * @returns null when an item fits on no board at all
 */
export function pack(
  items: readonly Item[],
  present: readonly Bin[],
  fresh: Bin,
  tell: (share: number) => void = () => {},
): Packed | null {
  if (items.some((item) => !fits(item, fresh) && !present.some((bin) => fits(item, bin)))) return null;
  const packed =
    items.length <= EXACT_ITEMS ? packExactly(items, present, fresh) : packLarge(items, present, fresh, tell);
  tell(1);
  return packed && inOrder(items, present.length, packed);
}

/** The same packing with the first of items alike on the first of their boards, and new boards numbered as they are met. */
function inOrder(items: readonly Item[], present: number, { bin, ...packed }: Packed): Packed {
  const alike = new Map<string, number[]>();
  for (const [index, { size, amps, zone }] of items.entries()) {
    const key = `${size} ${amps} ${zone}`;
    alike.set(key, [...(alike.get(key) ?? []), index]);
  }
  const sorted = [...bin];
  for (const indices of alike.values()) {
    const bins = indices.map((index) => bin[index] as number).sort((a, b) => a - b);
    for (const [place, index] of indices.entries()) sorted[index] = bins[place] as number;
  }
  const numbers = new Map<number, number>();
  for (const number of sorted)
    if (number >= present && !numbers.has(number)) numbers.set(number, present + numbers.size);
  return { bin: sorted.map((number) => numbers.get(number) ?? number), ...packed };
}

function fits({ size, amps }: Item, bin: Bin): boolean {
  return size <= bin.outputs && amps <= bin.amps + EPSILON;
}

/** What an item counts when it lies away from its zone; one without a zone is nowhere away. */
function weight({ zone, size }: Item): number {
  return zone === "" ? 0 : size;
}

/** Outputs away from a board's zone; a board whose zone is open stands where most of its outputs are. */
function awayFrom(zone: string | null, items: readonly Item[]): number {
  const weights = new Map<string, number>();
  let all = 0;
  for (const item of items) {
    all += weight(item);
    weights.set(item.zone, (weights.get(item.zone) ?? 0) + weight(item));
  }
  return all - (zone === null ? Math.max(0, ...weights.values()) : (weights.get(zone) ?? 0));
}

/** Cost of a packing as one number: a new board outweighs all outputs. */
const BOARD = 1e6;

function packExactly(items: readonly Item[], present: readonly Bin[], fresh: Bin): Packed | null {
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

/** Boards being filled. */
interface Filled extends Bin {
  items: number[];
}

function packLarge(
  items: readonly Item[],
  present: readonly Bin[],
  fresh: Bin,
  tell: (share: number) => void,
): Packed | null {
  const most = items.length;
  const needed =
    items.reduce((sum, { size }) => sum + size, 0) - present.reduce((sum, { outputs }) => sum + outputs, 0);
  const draws = items.reduce((sum, { amps }) => sum + amps, 0) - present.reduce((sum, { amps }) => sum + amps, 0);
  const least = Math.max(0, Math.ceil(needed / fresh.outputs), Math.ceil(draws / fresh.amps - EPSILON));
  for (let boards = least; boards <= most; boards++) {
    const bins = filled(items, present, fresh, boards);
    if (!bins) continue;
    improve(items, bins, tell);
    const bin = new Array<number>(items.length).fill(-1);
    for (const [number, each] of bins.entries()) for (const index of each.items) bin[index] = number;
    return { bin, fresh: boards, away: bins.reduce((sum, each) => sum + awayIn(items, each), 0) };
  }
  return null;
}

function awayIn(items: readonly Item[], bin: Filled): number {
  return awayFrom(
    bin.zone,
    bin.items.map((index) => items[index] as Item),
  );
}

/** Boards filled with everything, or null when something is left over. */
function filled(items: readonly Item[], present: readonly Bin[], fresh: Bin, boards: number): Filled[] | null {
  const bins: Filled[] = [
    ...present.map((bin) => ({ ...bin, items: [] })),
    ...Array.from({ length: boards }, () => ({ ...fresh, items: [] })),
  ];
  const left = new Set(items.keys());
  const place = (index: number, bin: Filled) => {
    const item = items[index] as Item;
    if (!fits(item, bin)) return false;
    bin.items.push(index);
    bin.outputs -= item.size;
    bin.amps -= item.amps;
    left.delete(index);
    return true;
  };
  const zones = [...new Set(items.map(({ zone }) => zone))];
  const waiting = (zone: string) => [...left].filter((index) => items[index]?.zone === zone);
  const homes = [...bins];
  while (homes.length > 0) {
    // the board and the zone that gain most by each other; of equals the first in the owner's order
    let best: { bin: Filled; zone: string; gain: number } | null = null;
    for (const bin of new Set([
      ...homes.filter((each) => each.zone !== null),
      ...homes.filter((each) => each.zone === null).slice(0, 1),
    ])) {
      for (const zone of bin.zone === null ? zones : [bin.zone]) {
        const outputs = waiting(zone).reduce((sum, index) => sum + (items[index]?.size ?? 0), 0);
        const gain = Math.min(bin.outputs, outputs);
        if (gain > (best?.gain ?? 0)) best = { bin, zone, gain };
      }
    }
    if (!best) break;
    for (const index of waiting(best.zone)) place(index, best.bin);
    homes.splice(homes.indexOf(best.bin), 1);
  }
  // what is left goes wherever there is room, the largest first
  for (const index of [...left].sort((a, b) => (items[b]?.size ?? 0) - (items[a]?.size ?? 0)))
    if (!bins.some((bin) => place(index, bin))) return null;
  return bins;
}

/** Moves single items and exchanges pairs for as long as that brings outputs nearer to their zones. */
function improve(items: readonly Item[], bins: readonly Filled[], tell: (share: number) => void): void {
  const before = (...some: Filled[]) => some.reduce((sum, bin) => sum + awayIn(items, bin), 0);
  const take = (bin: Filled, index: number, sign: 1 | -1) => {
    const item = items[index] as Item;
    if (sign > 0) bin.items.push(index);
    else bin.items.splice(bin.items.indexOf(index), 1);
    bin.outputs -= sign * item.size;
    bin.amps -= sign * item.amps;
  };
  const sound = (bin: Filled) => bin.outputs >= 0 && bin.amps >= -EPSILON;
  /** Takes items from one board to another and back again unless that is better. */
  const tries = (a: Filled, out: readonly number[], b: Filled, back: readonly number[]) => {
    const was = before(a, b);
    const exchange = (from: Filled, to: Filled) => {
      for (const index of out) {
        take(from, index, -1);
        take(to, index, 1);
      }
      for (const index of back) {
        take(to, index, -1);
        take(from, index, 1);
      }
    };
    exchange(a, b);
    if (sound(a) && sound(b) && before(a, b) < was) return true;
    for (const index of out) {
      take(b, index, -1);
      take(a, index, 1);
    }
    for (const index of back) {
      take(a, index, -1);
      take(b, index, 1);
    }
    return false;
  };
  for (let better = true, round = 0; better && round < 20; round++) {
    better = false;
    for (const [number, a] of bins.entries()) {
      tell((round + number / bins.length) / 20);
      const stray = a.items.filter((index) => isStray(items, a, index));
      for (const index of stray) {
        for (const b of bins) {
          if (b === a || !a.items.includes(index)) continue;
          if (tries(a, [index], b, []) || b.items.some((other) => tries(a, [index], b, [other]))) better = true;
        }
      }
    }
  }
}

/** Whether an item lies on a board most of whose outputs are of another zone. */
function isStray(items: readonly Item[], bin: Filled, index: number): boolean {
  const others = bin.items.filter((each) => each !== index).map((each) => items[each] as Item);
  return awayFrom(bin.zone, [...others, items[index] as Item]) > awayFrom(bin.zone, others);
}
