import type { Element, Netlist } from "./elements.ts";

export interface SpiceText {
  text: string;
  /** Number of each node; the ground is 0. */
  nodes: Map<string, number>;
  /** SPICE name of each element, in order. */
  names: string[];
}

const LETTERS: Record<Element["kind"], string> = {
  resistor: "R",
  voltage: "V",
  current: "I",
  diode: "D",
  switch: "R",
  limiter: "R",
  breaker: "R",
  capacitor: "C",
  coil: "L",
};

/**
 * A netlist in SPICE text (R C L V I D S and .model), for other circuit simulators.
 *
 * Nodes are numbered in the order in which they stand; comment lines say which is which. A contact without control is a
 * resistor of its present value. A limiter or breaker, for which the format has no element, is the resistor it is below
 * its limit, with a comment line.
 * @param analysis last line, as `.op` or `.tran 1u 20m uic`
 */
export function toSpice(netlist: Netlist, title = "circuit", analysis = ".op"): SpiceText {
  const nodes = new Map([[netlist.ground, 0]]);
  const numberOf = (name: string): number => {
    if (!nodes.has(name)) nodes.set(name, nodes.size);
    return nodes.get(name) ?? 0;
  };
  const names: string[] = [];
  const lines: string[] = [];
  for (const [index, element] of netlist.elements.entries()) {
    const letter = letterOf(element);
    const name = `${letter}${index + 1}`;
    names.push(name);
    lines.push(...linesOf(name, element, numberOf));
  }
  const table = [...nodes].map(([name, number]) => `* node ${number} is ${name.replace(/[^\x20-\x7e]/g, "-")}`);
  return { text: `${[`* ${title}`, ...table, ...lines, analysis, ".end"].join("\n")}\n`, nodes, names };
}

/** A source that holds other nodes is an expression, and a switch with a control one of its own. */
function letterOf(element: Element): string {
  if (element.kind === "switch" && element.control) return "S";
  return element.kind === "voltage" && element.holds ? "B" : LETTERS[element.kind];
}

function linesOf(name: string, element: Element, numberOf: (node: string) => number): string[] {
  const [a, b] = [numberOf(element.nodes[0]), numberOf(element.nodes[1])];
  const ends = `${a} ${b}`;
  switch (element.kind) {
    case "resistor":
      return [`${name} ${ends} ${element.ohms}`];
    case "limiter":
      return [`* ${name} lets no more than ${element.limitAmps} A through`, `${name} ${ends} ${element.ohms}`];
    case "breaker":
      return [
        `* ${name} opens above ${element.tripAmps} A for ${element.seconds} s`,
        `${name} ${ends} ${element.ohms}`,
      ];
    case "voltage":
      if (element.holds) {
        // what a linear regulator takes: all above its volts, its drop-out at least, and no more than comes in
        const { volts, dropOut, nodes } = element.holds;
        const comesIn = `v(${a})-v(${numberOf(nodes[1])})`;
        return [`${name} ${ends} V=max(min(${dropOut}, ${comesIn}), ${comesIn}-${volts})`];
      }
      return [`${name} ${ends} DC ${element.volts}${waveText(element.wave)}`];
    case "current":
      return [`${name} ${ends} DC ${element.amps}`];
    case "diode": {
      const { is, n, rs } = element.model;
      return [`${name} ${ends} M${name}`, `.model M${name} D(IS=${is} N=${n} RS=${rs})`];
    }
    case "switch": {
      const { control, closed, onOhms, offOhms } = element;
      if (!control) return [`${name} ${ends} ${closed ? onOhms : offOhms}`];
      const middle = (control.onVolts + control.offVolts) / 2;
      const half = (control.onVolts - control.offVolts) / 2;
      return [
        `${name} ${ends} ${control.nodes.map(numberOf).join(" ")} M${name} ${closed ? "ON" : "OFF"}`,
        `.model M${name} SW(VT=${middle} VH=${half} RON=${onOhms} ROFF=${offOhms})`,
      ];
    }
    case "capacitor":
      return [`${name} ${ends} ${element.farads}${element.volts === undefined ? "" : ` IC=${element.volts}`}`];
    case "coil": {
      const start = element.amps === undefined ? "" : ` IC=${element.amps}`;
      if (element.ohms === 0) return [`${name} ${ends} ${element.henries}${start}`];
      const inner = numberOf(`${name}'s inside`);
      return [`${name} ${a} ${inner} ${element.henries}${start}`, `R${name} ${inner} ${b} ${element.ohms}`];
    }
  }
}

function waveText(wave: Extract<Element, { kind: "voltage" }>["wave"]): string {
  if (!wave) return "";
  if (wave.kind === "sine") return ` SIN(${wave.offset} ${wave.amplitude} ${wave.hertz})`;
  const { low, high, delay, rise, fall, width, period } = wave;
  return ` PULSE(${[low, high, delay, rise, fall, width, period].join(" ")})`;
}
