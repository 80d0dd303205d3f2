import { ohmsPerMetre } from "../units/gauge.ts";
import { factEnds, type Loom } from "./wire.ts";

/** A wire as a circuit sees it: what it joins, and its resistance. */
export interface LaidWire {
  /** Name in the circuit. */
  element: string;
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
    return [{ element: `${link} ${fact.id}`, label: `W${fact.number}`, from: { key: from }, to: { key: to }, ohms }];
  });
  const all = strays.length === 0 ? loom.wires : [...loom.wires, ...strays];
  laid.set(loom, all);
  return all;
}
