/** Something that can be turned: which outcomes it changes, a bit for each, and what that costs. */
export interface Turn {
  bits: bigint;
  cost: number;
}

/** A set of turns, a bit for each, and what they change together. */
interface Combination {
  turns: bigint;
  bits: bigint;
}

/** Most independent choices that change nothing together of which every combination is tried; beyond, a good one is found. */
const MOST_CHOICES = 14;

/**
 * The cheapest set of turns that changes exactly the wanted outcomes, as a system of linear equations modulo two: one
 * solution by elimination, and the cheapest among those that differ from it by what changes nothing.
 *
 * @param wanted outcomes to be changed, as bits
 * @returns indices of the turns, ascending, or null when no set does it
 * @example solveParity([{ bits: 0b11n, cost: 3 }, { bits: 0b01n, cost: 1 }], 0b10n) // [0, 1]
 */
export function solveParity(turns: readonly Turn[], wanted: bigint): number[] | null {
  const cheapest = cheapestOfEach(turns);
  const costs = new Map(cheapest.map((index) => [1n << BigInt(index), turns[index]?.cost ?? 0]));
  const { rows, idle } = eliminated(
    cheapest.map((index) => ({ turns: 1n << BigInt(index), bits: turns[index]?.bits ?? 0n })),
  );
  let chosen = 0n;
  let left = wanted;
  for (const { turns: those, bits } of rows) {
    if ((left & highest(bits)) === 0n) continue;
    left ^= bits;
    chosen ^= those;
  }
  if (left !== 0n) return null;
  const costOf = (set: bigint) => [...costs].reduce((sum, [bit, cost]) => (set & bit ? sum + cost : sum), 0);
  const best = idle.length <= MOST_CHOICES ? bestOfAll(chosen, idle, costOf) : descended(chosen, idle, costOf);
  return cheapest.filter((index) => (best >> BigInt(index)) & 1n);
}

/** Of turns that change the same outcomes the cheapest; those that change none are left out. */
function cheapestOfEach(turns: readonly Turn[]): number[] {
  const best = new Map<bigint, number>();
  for (const [index, { bits, cost }] of turns.entries()) {
    const known = best.get(bits);
    if (bits !== 0n && (known === undefined || cost < (turns[known]?.cost ?? 0))) best.set(bits, index);
  }
  return [...best.values()].sort((a, b) => a - b);
}

/** Rows with a leading bit of their own, the highest first, and combinations that change nothing. */
function eliminated(combinations: readonly Combination[]): { rows: Combination[]; idle: bigint[] } {
  const rows: Combination[] = [];
  const idle: bigint[] = [];
  for (let { turns, bits } of combinations) {
    for (const row of rows) {
      if ((bits & highest(row.bits)) === 0n) continue;
      bits ^= row.bits;
      turns ^= row.turns;
    }
    if (bits === 0n) idle.push(turns);
    else rows.push({ turns, bits });
    rows.sort((a, b) => (a.bits < b.bits ? 1 : -1));
  }
  return { rows, idle };
}

function highest(bits: bigint): bigint {
  return 1n << BigInt(bits.toString(2).length - 1);
}

/** Every sum of idle combinations is tried. */
function bestOfAll(start: bigint, idle: readonly bigint[], costOf: (set: bigint) => number): bigint {
  let best = start;
  let cost = costOf(start);
  for (let choice = 1; choice < 1 << idle.length; choice++) {
    const set = idle.reduce((sum, each, index) => ((choice >> index) & 1 ? sum ^ each : sum), start);
    const itsCost = costOf(set);
    if (itsCost < cost) [best, cost] = [set, itsCost];
  }
  return best;
}

/** One and two idle combinations at a time are added while that is cheaper. */
function descended(start: bigint, idle: readonly bigint[], costOf: (set: bigint) => number): bigint {
  const steps = idle.flatMap((a, index) => [a, ...idle.slice(index + 1).map((b) => a ^ b)]);
  let best = start;
  for (;;) {
    const better = steps.find((step) => costOf(best ^ step) < costOf(best));
    if (better === undefined) return best;
    best ^= better;
  }
}
