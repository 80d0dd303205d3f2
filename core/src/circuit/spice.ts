import type { Netlist } from "./elements.ts";

/**
 * A netlist in SPICE text, for checking with a general-purpose circuit simulator.
 *
 * Elements and nodes are numbered in the order in which they stand (node 0 is the ground).
 * @returns the text, and the number of each node and the SPICE name of each element
 */
export function toSpice(
  netlist: Netlist,
  title = "circuit",
): { text: string; nodes: Map<string, number>; names: string[] } {
  const nodes = new Map([[netlist.ground, 0]]);
  const numberOf = (name: string) => {
    if (!nodes.has(name)) nodes.set(name, nodes.size);
    return nodes.get(name);
  };
  const names: string[] = [];
  const lines = [`* ${title}`];
  for (const [index, element] of netlist.elements.entries()) {
    const ends = element.nodes.map(numberOf).join(" ");
    const name = `${{ resistor: "R", voltage: "V", current: "I", diode: "D" }[element.kind]}${index + 1}`;
    names.push(name);
    if (element.kind === "resistor") lines.push(`${name} ${ends} ${element.ohms}`);
    else if (element.kind === "voltage") lines.push(`${name} ${ends} DC ${element.volts}`);
    else if (element.kind === "current") lines.push(`${name} ${ends} DC ${element.amps}`);
    else {
      const { is, n, rs } = element.model;
      lines.push(`${name} ${ends} M${index + 1}`, `.model M${index + 1} D(IS=${is} N=${n} RS=${rs})`);
    }
  }
  return { text: `${lines.join("\n")}\n`, nodes, names };
}
