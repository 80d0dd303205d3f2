import { CircuitError, type Element, type Netlist, nodesWatched } from "./elements.ts";
import { NumberGroups } from "./numberGroups.ts";
import { type Part, Rows } from "./rows.ts";

/** A node that an ideal source ties to another, so that it needs no unknown of its own. */
export interface Tie {
  node: number;
  to: number;
  /** Index of the source among the elements. */
  source: number;
  /** 1 when the node is the source's first, -1 when it is its second. */
  sign: 1 | -1;
}

/**
 * What of a circuit does not depend on its values: numbered nodes, the nodes that ideal sources tie together, and the
 * parts that hang together at all.
 */
export interface Topology {
  /** Number of each named node; the ground is 0. */
  nodes: ReadonlyMap<string, number>;
  /** First and second node of each element. */
  first: Int32Array;
  second: Int32Array;
  /** From the root of each tie tree outwards. */
  ties: readonly Tie[];
  /** Number of the tie that each ideal source makes; -1 of other elements. */
  tieOf: Int32Array;
  /** Elements between two nodes where others meet, as one branch. */
  rows: Rows;
  /** Unknown that each node belongs to; `unknowns` for those tied to ground, -1 for those within a row. */
  unknownOf: Int32Array;
  unknowns: number;
  /** Part that each node belongs to: two nodes of different parts have no voltage between them. */
  partOf: Int32Array;
}

/**
 * Numbers a netlist's nodes, joins those that ideal sources tie (the voltage-defined branches of modified nodal analysis are
 * taken out beforehand in this way, which leaves a network of conductances only), and puts elements in rows.
 *
 * Source for voltage-defined branches: Ho, Ruehli, Brennan, "The modified nodal approach to network analysis", 1975.
 * @param partIn what an element is in a row; null when it fixes the voltage between its nodes
 * @param conducts whether an element can carry a steady current that depends on its voltage
 * @throws {CircuitError} naming the sources that are joined with nothing between them
 */
export function topologyOf(
  { ground, elements }: Netlist,
  partIn: (element: Element) => Part | null,
  conducts: (element: Element) => boolean,
): Topology {
  const isTie = (element: Element) => partIn(element) === null;
  const nodes = new Map<string, number>([[ground, 0]]);
  const number = (name: string): number => {
    const known = nodes.get(name);
    if (known !== undefined) return known;
    nodes.set(name, nodes.size);
    return nodes.size - 1;
  };
  const first = new Int32Array(elements.length);
  const second = new Int32Array(elements.length);
  for (const [index, element] of elements.entries()) {
    first[index] = number(element.nodes[0]);
    second[index] = number(element.nodes[1]);
    nodesWatched(element).forEach(number);
  }
  const ties = tiesOf(elements, first, second, nodes.size, isTie);
  const tiedTo = new Map(ties.map((tie) => [tie.node, tie.to]));
  const parts = elements.map(partIn);
  const rows = new Rows(nodes.size, first, second, parts);
  const tieOf = new Int32Array(elements.length).fill(-1);
  for (const [number, { source }] of ties.entries()) tieOf[source] = number;
  const unknownOf = new Int32Array(nodes.size).fill(-1);
  let unknowns = 0;
  for (let node = 1; node < nodes.size; node++)
    if (!tiedTo.has(node) && rows.within[node] === -1) unknownOf[node] = unknowns++;
  unknownOf[0] = unknowns;
  for (const { node, to } of ties) unknownOf[node] = unknownOf[to] as number;

  const groups = new NumberGroups(nodes.size);
  for (const [index, element] of elements.entries()) {
    if (isTie(element) || conducts(element)) groups.join(first[index] as number, second[index] as number);
  }
  const partOf = Int32Array.from({ length: nodes.size }, (_, node) => groups.root(node));
  return { nodes, first, second, ties, tieOf, rows, unknownOf, unknowns, partOf };
}

/** A forest of the tying sources, walked from its roots; the ground is a root. */
function tiesOf(
  elements: readonly Element[],
  first: Int32Array,
  second: Int32Array,
  size: number,
  isTie: (element: Element) => boolean,
): Tie[] {
  const sources = elements.flatMap((element, index) => (isTie(element) ? [index] : []));
  const at = new Map<number, number[]>();
  for (const source of sources) {
    const [a, b] = [first[source] as number, second[source] as number];
    if (a === b) throw new CircuitError(`Source ${elements[source]?.id} is shorted to itself.`);
    at.set(a, [...(at.get(a) ?? []), source]);
    at.set(b, [...(at.get(b) ?? []), source]);
  }
  const tieOf = new Map<number, Tie | null>();
  const ties: Tie[] = [];
  for (const root of [0, ...at.keys()]) {
    if (root >= size || tieOf.has(root)) continue;
    tieOf.set(root, null);
    const open = [root];
    for (let to = open.pop(); to !== undefined; to = open.pop()) {
      for (const source of at.get(to) ?? []) {
        if (tieOf.get(to)?.source === source) continue;
        const isFirst = second[source] === to;
        const node = (isFirst ? first[source] : second[source]) as number;
        if (tieOf.has(node)) {
          if (ties.some((tie) => tie.source === source)) continue;
          throw contradiction(elements, loopOf(tieOf, node, to, source));
        }
        const tie: Tie = { node, to, source, sign: isFirst ? 1 : -1 };
        tieOf.set(node, tie);
        ties.push(tie);
        open.push(node);
      }
    }
  }
  return ties;
}

/** Sources on the loop that one more source closes between two nodes of a tree. */
function loopOf(tieOf: ReadonlyMap<number, Tie | null>, a: number, b: number, closing: number): number[] {
  const up = (node: number) => {
    const path: Tie[] = [];
    for (let tie = tieOf.get(node); tie; tie = tieOf.get(tie.to)) path.push(tie);
    return path;
  };
  const [pathA, pathB] = [up(a), up(b)];
  const own = (path: Tie[], other: Tie[]) => path.filter((tie) => !other.includes(tie)).map(({ source }) => source);
  return [...own(pathA, pathB), ...own(pathB, pathA), closing];
}

function contradiction(elements: readonly Element[], sources: readonly number[]): CircuitError {
  const names = [...new Set(sources)].sort((a, b) => a - b).map((source) => elements[source]?.id);
  return new CircuitError(
    `Sources contradict each other; look at ${names.join(", ")}: nothing limits the current between them.`,
  );
}
