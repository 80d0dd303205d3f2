import { type Bin, fits, type Item, type Packed } from "./bins.ts";
import { packExactly } from "./packExactly.ts";
import { packLarge } from "./packLarge.ts";

/** Up to this many items every way of packing them is looked at. */
export const EXACT_ITEMS = 12;

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
