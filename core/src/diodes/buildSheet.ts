import type { DiodeModel } from "../circuit/elements.ts";
import { junctionVolts } from "../circuit/elements.ts";
import { type Construction, type Join, reachedFrom } from "../routes/constructions.ts";

/** A wire or a diode on the board, from a terminal at the left to one at the right. */
export interface Placed extends Join {
  /** Its number on the sheet, in the order of soldering. */
  number: number;
  /** Places of its terminals, from the top. */
  left: number;
  right: number;
  /** How high it lies: what lies lower is soldered first, and nothing covers a joint that is still to be made. */
  layer: number;
}

/** A board between two rows of terminals. */
export interface BuildSheet {
  /** Names at the left: buttons, and wires that buttons share. */
  left: string[];
  /** Names at the right: coils, and the other ends of shared wires. */
  right: string[];
  placed: Placed[];
  /** Pairs of parts that cross. */
  crossings: number;
}

/** What the meter shows between two terminals of a board that is right. */
export interface BoardTest {
  red: string;
  black: string;
  what: "diode" | "diode backwards" | "wire" | "nothing";
  /** Volts on the diode range; null where it shows open. */
  volts: number | null;
}

/** Rounds of ordering before it is taken as it is. */
const MOST_ROUNDS = 200;

/**
 * Lays a construction between two rows of terminals, ordered so that parts cross as little as was found: terminals go to the middle of
 * what they are joined to, side by side in turn (Sugiyama, Tagawa, Toda, "Methods for visual understanding of hierarchical
 * system structures", 1981), then neighbours change places as long as that helps.
 * @yields the share of rounds done and the crossings so far, so that one can tell of it and stop
 */
export function* layBoard({ joins }: Construction): Generator<{ share: number; crossings: number }, BuildSheet> {
  let left = [...new Set(joins.map(({ from }) => from))];
  let right = [...new Set(joins.map(({ to }) => to))];
  let best = { left, right, crossings: crossingsOf(joins, left, right) };
  for (let round = 0; round < MOST_ROUNDS; round++) {
    yield { share: round / MOST_ROUNDS, crossings: best.crossings };
    right = byMiddle(right, left, joins, "to");
    left = byMiddle(left, right, joins, "from");
    right = swapped(right, left, joins, "to");
    left = swapped(left, right, joins, "from");
    const crossings = crossingsOf(joins, left, right);
    if (crossings >= best.crossings) break;
    best = { left, right, crossings };
  }
  return { ...best, placed: inOrder(joins, best.left, best.right) };
}

/** Names in the order of the middle of their partners' places. */
function byMiddle(
  names: readonly string[],
  others: readonly string[],
  joins: readonly Join[],
  side: "from" | "to",
): string[] {
  const place = placesOf(others);
  const middle = new Map(
    names.map((name, index) => {
      const places = partners(name, joins, side).map((other) => place.get(other) ?? 0);
      return [name, places.length > 0 ? places.reduce((sum, each) => sum + each, 0) / places.length : index];
    }),
  );
  return [...names].sort((a, b) => (middle.get(a) ?? 0) - (middle.get(b) ?? 0));
}

function partners(name: string, joins: readonly Join[], side: "from" | "to"): string[] {
  return joins.flatMap((join) => (join[side] === name ? [side === "from" ? join.to : join.from] : []));
}

/** Neighbours change places as long as their parts cross less then. */
function swapped(
  names: readonly string[],
  others: readonly string[],
  joins: readonly Join[],
  side: "from" | "to",
): string[] {
  const place = placesOf(others);
  const places = new Map(
    names.map((name) => [name, partners(name, joins, side).map((other) => place.get(other) ?? 0)]),
  );
  const crossing = (upper: string, lower: string) =>
    (places.get(upper) ?? []).reduce(
      (sum, each) => sum + (places.get(lower) ?? []).filter((other) => other < each).length,
      0,
    );
  const now = [...names];
  for (let isBetter = true; isBetter; ) {
    isBetter = false;
    for (let index = 1; index < now.length; index++) {
      const [upper, lower] = [now[index - 1] as string, now[index] as string];
      if (crossing(lower, upper) >= crossing(upper, lower)) continue;
      [now[index - 1], now[index]] = [lower, upper];
      isBetter = true;
    }
  }
  return now;
}

/** Pairs of parts that cross. */
export function crossingsOf(joins: readonly Join[], left: readonly string[], right: readonly string[]): number {
  const [at, to] = [placesOf(left), placesOf(right)];
  const ends = joins.map((join) => [at.get(join.from) ?? 0, to.get(join.to) ?? 0] as const);
  let crossings = 0;
  for (const [index, [a, b]] of ends.entries())
    for (const [c, d] of ends.slice(index + 1)) if ((a - c) * (b - d) < 0) crossings++;
  return crossings;
}

function placesOf(names: readonly string[]): ReadonlyMap<string, number> {
  return new Map(names.map((name, index) => [name, index]));
}

/** Plain wires lie on the board; diodes over what they cross, each in the lowest layer in which it crosses nothing. */
function inOrder(joins: readonly Join[], left: readonly string[], right: readonly string[]): Placed[] {
  const [at, to] = [placesOf(left), placesOf(right)];
  const all = joins.map((join) => ({
    ...join,
    left: at.get(join.from) ?? 0,
    right: to.get(join.to) ?? 0,
    layer: 0,
    number: 0,
  }));
  const crosses = (one: Placed, other: Placed) => (one.left - other.left) * (one.right - other.right) < 0;
  const laid: Placed[] = [];
  for (const part of [...all].sort(
    (a, b) => Number(a.with === "diode") - Number(b.with === "diode") || a.left - b.left || a.right - b.right,
  )) {
    const over = laid.filter((other) => crosses(part, other));
    // a wire has an insulated sleeve and lies on others; a diode lies above every wire that it crosses
    const least =
      part.with === "diode"
        ? Math.max(0, ...over.flatMap((other) => (other.with === "wire" ? [other.layer + 1] : [])))
        : 0;
    const taken = new Set(over.map(({ layer }) => layer));
    part.layer = least;
    while (taken.has(part.layer)) part.layer++;
    laid.push(part);
  }
  return laid
    .sort(
      (a, b) =>
        a.layer - b.layer ||
        Number(a.with === "diode") - Number(b.with === "diode") ||
        a.left - b.left ||
        a.right - b.right,
    )
    .map((part, index) => ({ ...part, number: index + 1 }));
}

/** Current with which a meter tests diodes, amps; common practice. */
const TEST_AMPS = 1e-3;

/** What to measure when the board is built, with nothing connected: each part, diodes both ways, and buttons against each other. */
export function boardTests({ left, placed }: BuildSheet, diode: DiodeModel): BoardTest[] {
  const forward = junctionVolts(diode, TEST_AMPS);
  const parts = placed.flatMap(({ from, to, with: by }): BoardTest[] =>
    by === "wire"
      ? [{ red: from, black: to, what: "wire", volts: 0 }]
      : [
          { red: from, black: to, what: "diode", volts: forward },
          { red: to, black: from, what: "diode backwards", volts: null },
        ],
  );
  const apart = left.slice(1).flatMap((name, index): BoardTest[] => {
    const other = left[index] as string;
    // a plain wire may lead from one button's wire to another's, where all of its coils are wanted anyway
    if (reachedFrom(other, placed).has(name)) return [];
    return [{ red: other, black: name, what: "nothing", volts: null }];
  });
  return [...parts, ...apart];
}
