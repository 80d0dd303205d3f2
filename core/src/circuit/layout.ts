import { isCurved } from "./curves.ts";
import type { Element } from "./elements.ts";
import type { Topology } from "./topology.ts";

/** Where the elements of a circuit stand in its elimination, and which of them ask for more than their place there. */
export interface Layout {
  /** Branch of each row; -1 for those that a source shorts, or that carry nothing. */
  branchOf: Int32Array;
  /** The two unknowns of each branch; the number of unknowns is the ground. */
  branches: [number, number][];
  /** Unknowns at curved elements, whose conductances change with each step of an iteration. */
  late: Set<number>;
  /** Rows that feed currents into unknowns whatever the voltages: those tied to sources, or with an offset. */
  feeding: Int32Array;
  /** Elements that are ideal sources of current. */
  currents: Int32Array;
  /** Elements that answer to voltages or currents by switching. */
  reacting: readonly number[];
}

/**
 * Lays out a circuit's elements.
 * @param conducts whether an element can carry a steady current that depends on its voltage
 */
export function layoutOf(
  elements: readonly Element[],
  { rows, unknownOf, unknowns, ties }: Topology,
  conducts: (element: Element) => boolean,
): Layout {
  const branchOf = new Int32Array(rows.count).fill(-1);
  const branches: [number, number][] = [];
  const late = new Set<number>();
  const feeds = new Set<number>();
  const tied = new Set(ties.map(({ node }) => node));
  const curvedRows = new Set(elements.flatMap((element, index) => (isCurved(element) ? [rows.of[index]] : [])));
  for (const [index, element] of elements.entries()) {
    const row = rows.of[index] as number;
    if (row < 0) continue;
    const [left, right] = [rows.left[row] as number, rows.right[row] as number];
    const isFeeding = tied.has(left) || tied.has(right) || OFFSET.has(element.kind);
    if (isFeeding && !curvedRows.has(row)) feeds.add(row);
    const [a, b] = [unknownOf[left] as number, unknownOf[right] as number];
    if (!conducts(element) || a === b) continue;
    if (branchOf[row] === -1) {
      branchOf[row] = branches.length;
      branches.push([a, b]);
    }
    if (isCurved(element)) for (const end of [a, b]) if (end < unknowns) late.add(end);
  }
  const indicesOf = (is: (element: Element) => boolean) =>
    elements.flatMap((element, index) => (is(element) ? [index] : []));
  return {
    ...{ branchOf, branches, late },
    feeding: Int32Array.from(feeds),
    currents: Int32Array.from(indicesOf(({ kind }) => kind === "current")),
    reacting: indicesOf(
      (element) => element.kind === "breaker" || (element.kind === "switch" && element.control !== undefined),
    ),
  };
}

/** Kinds whose lines have an offset. */
const OFFSET: ReadonlySet<Element["kind"]> = new Set(["current", "capacitor", "coil"]);
