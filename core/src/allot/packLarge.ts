import { awayFrom, type Bin, EPSILON, fits, type Item, type Packed } from "./bins.ts";

/** Boards being filled. */
interface Filled extends Bin {
  items: number[];
}

/** A good packing of many items; null when there is none. */
export function packLarge(
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
