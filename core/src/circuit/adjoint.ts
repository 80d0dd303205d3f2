import type { Elimination } from "./elimination.ts";
import type { SourceCurrents } from "./sourceCurrents.ts";
import type { Tie, Topology } from "./topology.ts";

/** Volts across and amps through each element of the adjoint network, by its number. */
export interface Adjoint {
  volts: Float64Array;
  amps: Float64Array;
}

/** A circuit about a solution: each row stands as the line that touches its curve there. */
interface Solved {
  topology: Topology;
  elimination: Elimination;
  /** Place of each node in the order of elimination; -1 of one within a row. */
  place: Int32Array;
  /** Conductance of each row. */
  siemens: Float64Array;
  sources: SourceCurrents;
}

/**
 * The adjoint network of a solved circuit: one amp is fed into one node and taken out of another, all sources dead.
 *
 * A change of an element's current by `di` at the same voltage changes the voltage between the two by -`volts` x di; a change of a
 * source by `dv` changes it by `amps` x dv. Source: Director, Rohrer, "The generalized adjoint network and network sensitivities",
 * 1969.
 */
export function adjointOf(
  { topology, elimination, place, siemens, sources }: Solved,
  into: number,
  out: number,
): Adjoint {
  const { rows, first, second, unknowns, ties } = topology;
  const fed = new Map<number, number>();
  if (into !== out) fed.set(into, 1).set(out, -1);
  const currents = new Float64Array(unknowns + 1);
  const feed = (node: number, amps: number) => {
    const at = place[node] as number;
    currents[at] = (currents[at] as number) + amps;
  };
  // amps that flow to the right at the left ends of rows because of what is fed at nodes within them
  const more = new Map<number, number>();
  for (const [node, amps] of fed) {
    const row = rows.within[node] as number;
    if (row < 0) {
      feed(node, amps);
      continue;
    }
    const toRight = amps * rows.shareToRight(node, siemens[row] as number);
    feed(rows.left[row] as number, amps - toRight);
    feed(rows.right[row] as number, toRight);
    more.set(row, (more.get(row) ?? 0) + toRight - amps);
  }
  const solved = new Float64Array(unknowns + 1);
  elimination.forward(currents);
  elimination.back(currents, solved);
  const at = Float64Array.from(place, (each) => (each < 0 ? 0 : (solved[each] as number)));
  const along = siemens.map(
    (each, row) => each * ((at[rows.left[row] as number] as number) - (at[rows.right[row] as number] as number)),
  );
  const amps = new Float64Array(first.length);
  rows.tellWithin(at, along);
  rows.tellAmps(along, amps);
  for (const [row, flows] of more)
    rows.tellFed(row, siemens[row] as number, (along[row] as number) + flows, fed, at, amps);
  sources.find(
    (index) => amps[index] as number,
    (tie, through) => {
      amps[(ties[tie] as Tie).source] = through;
    },
    { into, outOf: out },
  );
  const volts = Float64Array.from(first, (a, index) => (at[a] as number) - (at[second[index] as number] as number));
  return { volts, amps };
}
