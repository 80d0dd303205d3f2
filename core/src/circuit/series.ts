import { type Element, nodesWatched } from "./elements.ts";

type Resistor = Extract<Element, { kind: "resistor" }>;

/** Resistors in a row, as one. */
export interface Row {
  element: Resistor;
  members: readonly Resistor[];
}

/**
 * The same circuit with resistors in a row made one: between two that meet at a node where nothing else does, the same current
 * flows through both. What each member takes follows from its share of the ohms.
 * @param kept nodes that must stay; those by whose volts a switch is worked stay as well
 * @returns the elements that are no resistors, with the rows that take the place of the others
 */
export function withoutRows(
  elements: readonly Element[],
  kept: ReadonlySet<string>,
): { others: Element[]; rows: Row[] } {
  const watched = new Set(kept);
  for (const each of elements) for (const node of nodesWatched(each)) watched.add(node);
  const at = new Map<string, Element[]>();
  for (const element of elements)
    for (const node of element.nodes) {
      const known = at.get(node);
      if (known) known.push(element);
      else at.set(node, [element]);
    }
  /** The other resistor at a node that joins nothing but two of them. */
  const beyond = (node: string, from: Resistor): Resistor | null => {
    if (watched.has(node)) return null;
    const around = at.get(node) ?? [];
    const other = around.find((each) => each !== from);
    return around.length === 2 && other?.kind === "resistor" ? other : null;
  };
  const done = new Set<Resistor>();
  const rows: Row[] = [];
  for (const first of elements) {
    if (first.kind !== "resistor" || done.has(first)) continue;
    done.add(first);
    const members = [first];
    const ends = first.nodes.map((start) => {
      let node = start;
      let from = first;
      for (let next = beyond(node, from); next && !done.has(next); next = beyond(node, from)) {
        done.add(next);
        members.push(next);
        node = next.nodes[0] === node ? next.nodes[1] : next.nodes[0];
        from = next;
      }
      return node;
    });
    const ohms = members.reduce((sum, each) => sum + each.ohms, 0);
    const [a = "", b = ""] = ends;
    rows.push({ element: members.length === 1 ? first : { ...first, nodes: [a, b], ohms }, members });
  }
  return { others: elements.filter(({ kind }) => kind !== "resistor"), rows };
}
