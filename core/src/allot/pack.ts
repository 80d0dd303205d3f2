import { packExactly } from "./packExactly.ts";
import { packLarge } from "./packLarge.ts";

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
export const EPSILON = 1e-9;

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

export function fits({ size, amps }: Item, bin: Bin): boolean {
  return size <= bin.outputs && amps <= bin.amps + EPSILON;
}

/** What an item counts when it lies away from its zone; one without a zone is nowhere away. */
function weight({ zone, size }: Item): number {
  return zone === "" ? 0 : size;
}

/** Outputs away from a board's zone; a board whose zone is open stands where most of its outputs are. */
export function awayFrom(zone: string | null, items: readonly Item[]): number {
  const weights = new Map<string, number>();
  let all = 0;
  for (const item of items) {
    all += weight(item);
    weights.set(item.zone, (weights.get(item.zone) ?? 0) + weight(item));
  }
  return all - (zone === null ? Math.max(0, ...weights.values()) : (weights.get(zone) ?? 0));
}
