import { ohmsPerMetre } from "../units/gauge.ts";
import { factEnds, type Loom } from "./wire.ts";

/** A wire as a circuit sees it: what it joins, and its resistance. */
export interface LaidWire {
  /** Name in the circuit. */
  element: string;
  number: number;
  /** What its flags say, as "W17". */
  label: string;
  from: { key: string };
  to: { key: string };
  ohms: number;
}

const laid = new WeakMap<Loom, readonly LaidWire[]>();

/**
 * All wires through which current goes: those that make the nets, and those that somebody joined at both ends where the plan
 * has no use for them. What is wrong on the railway is so in the readings too.
 */
export function laidWires(loom: Loom): readonly LaidWire[] {
  const known = laid.get(loom);
  if (known) return known;
  const strays = loom.idle.flatMap(({ fact }): LaidWire[] => {
    const { from, to, link } = factEnds(fact);
    if (from === null || to === null || fact.fromJoinedAt === null || fact.toJoinedAt === null) return [];
    if (fact.gauge === null || fact.metres === null) return [];
    const ohms = ohmsPerMetre(fact.gauge) * fact.metres;
    const { id, number } = fact;
    return [{ element: `${link} ${id}`, number, label: `W${number}`, from: { key: from }, to: { key: to }, ohms }];
  });
  const all = strays.length === 0 ? loom.wires : [...loom.wires, ...strays];
  laid.set(loom, all);
  return all;
}

/**
 * Wires that are only in one of two lists, before and after an edit. Both are by their numbers for the most part, and are
 * gone through once, side by side; where one is out of its place it may be named as gone and come again.
 */
export function otherWires<W extends { number: number }>(
  before: readonly W[],
  now: readonly W[],
): { gone: W[]; come: W[] } {
  const gone: W[] = [];
  const come: W[] = [];
  for (let a = 0, b = 0; a < before.length || b < now.length; ) {
    const [left, right] = [before[a], now[b]];
    if (left && left === right) {
      a++;
      b++;
    } else if (left && (!right || left.number <= right.number)) {
      gone.push(left);
      a++;
    } else if (right) {
      come.push(right);
      b++;
    }
  }
  return { gone, come };
}
