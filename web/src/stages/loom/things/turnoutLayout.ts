import { farEnd, type Wire, type WireGroups } from "@alderman/core";

type WireEnd = Wire["from"];

/** An end of wires as it is drawn: how many wires from where its net begins, and in which row. */
export interface EndPlan {
  end: WireEnd;
  column: number;
  row: number;
}

/** A wire as it is drawn, from the end nearer to where its net begins. */
export interface WirePlan {
  wire: Wire;
  from: EndPlan;
  to: EndPlan;
}

export interface TurnoutPlan {
  ends: EndPlan[];
  wires: WirePlan[];
  columns: number;
  rows: number;
}

/**
 * Wires of a turnout as they go from the panel, or from the boards, to the track: each net from its first end outwards, a
 * row for every place where it ends.
 * @param wires in the order in which one goes through them, those at the panel first
 */
export function turnoutLayout(wires: readonly Wire[]): TurnoutPlan {
  const at = new Map<string, Wire[]>();
  for (const wire of wires) for (const { key } of [wire.from, wire.to]) at.set(key, [...(at.get(key) ?? []), wire]);
  const ends = new Map<string, EndPlan>();
  const plans: WirePlan[] = [];
  const drawn = new Set<string>();
  let rows = 0;
  let columns = 0;
  const grow = (end: WireEnd, column: number): EndPlan => {
    const plan: EndPlan = { end, column, row: rows };
    ends.set(end.key, plan);
    columns = Math.max(columns, column + 1);
    const onwards = (at.get(end.key) ?? []).filter(({ id }) => !drawn.has(id));
    for (const { id } of onwards) drawn.add(id);
    let isFirst = true;
    for (const wire of onwards) {
      const next = farEnd(wire, end.key);
      const known = ends.get(next.key);
      if (!known && !isFirst) rows++;
      plans.push({ wire, from: plan, to: known ?? grow(next, column + 1) });
      if (!known) isFirst = false;
    }
    return plan;
  };
  for (const wire of wires) {
    if (drawn.has(wire.id)) continue;
    grow(beginning(wire, at), 0);
    rows++;
  }
  return { ends: [...ends.values()], wires: plans, columns, rows };
}

/** Where a net is drawn from: the end of a wire at which no other wire of the turnout ends, a terminal before a screw. */
function beginning({ from, to }: Wire, at: WireGroups): WireEnd {
  const isOpen = ({ key, of }: WireEnd) => of !== null && at.get(key)?.length === 1;
  return isOpen(from) || !isOpen(to) ? from : to;
}
