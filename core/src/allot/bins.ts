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

/** Rounding that sums of amps may have. */
export const EPSILON = 1e-9;

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
