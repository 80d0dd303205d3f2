/** Something that can be turned: which outcomes it changes, as a set of bits, and what that costs. */
export interface Turn {
  bits: number;
  cost: number;
}

/** Most outcomes whose combinations are looked at; a crossover with two controls has ten. */
export const MOST_OUTCOMES = 16;

/**
 * The cheapest set of turns that changes exactly the wanted outcomes: shortest path over all combinations of outcomes.
 *
 * @param wanted outcomes to be changed, as bits
 * @param outcomes number of outcomes, at most 16
 * @returns indices of the turns, none twice, or null when no set does it
 * @throws {RangeError} when there are too many outcomes
 * @example solveParity([{ bits: 0b11, cost: 3 }, { bits: 0b01, cost: 1 }], 0b10, 2) // [0, 1]
 */
export function solveParity(turns: readonly Turn[], wanted: number, outcomes: number): number[] | null {
  if (outcomes > MOST_OUTCOMES) throw new RangeError(`${outcomes} outcomes are more than ${MOST_OUTCOMES}.`);
  const size = 1 << outcomes;
  const cost = new Float64Array(size).fill(Number.POSITIVE_INFINITY);
  const by = new Int16Array(size).fill(-1);
  const done = new Uint8Array(size);
  cost[0] = 0;
  for (;;) {
    let here = -1;
    for (let state = 0; state < size; state++) {
      if (done[state] === 0 && (cost[state] as number) < (here < 0 ? Number.POSITIVE_INFINITY : (cost[here] as number)))
        here = state;
    }
    if (here < 0 || here === wanted) break;
    done[here] = 1;
    for (const [index, turn] of turns.entries()) {
      const next = here ^ turn.bits;
      const reached = (cost[here] as number) + turn.cost;
      if (reached < (cost[next] as number)) {
        cost[next] = reached;
        by[next] = index;
      }
    }
  }
  if (cost[wanted] === Number.POSITIVE_INFINITY) return null;
  const path: number[] = [];
  for (let state = wanted; state !== 0; ) {
    const index = by[state] as number;
    path.push(index);
    state ^= turns[index]?.bits ?? 0;
  }
  return path.reverse();
}
