// Circuit elements for tests, between named nodes.
import { type DiodeModel, type Element, RECTIFIER } from "../src/circuit/elements.ts";

export function resistor(id: string, a: string, b: string, ohms: number): Element {
  return { kind: "resistor", id, nodes: [a, b], ohms };
}

export function source(id: string, plus: string, minus: string, volts: number): Element {
  return { kind: "voltage", id, nodes: [plus, minus], volts };
}

/** A load that takes a steady current out of its first node. */
export function load(id: string, from: string, to: string, amps: number): Element {
  return { kind: "current", id, nodes: [from, to], amps };
}

export function diode(id: string, anode: string, cathode: string, model: DiodeModel = RECTIFIER): Element {
  return { kind: "diode", id, nodes: [anode, cathode], model };
}

export function contact(id: string, a: string, b: string, closed: boolean): Element {
  return { kind: "switch", id, nodes: [a, b], closed, onOhms: 0.02, offOhms: 1e9 };
}

export function capacitor(id: string, plus: string, minus: string, farads: number, volts?: number): Element {
  return { kind: "capacitor", id, nodes: [plus, minus], farads, ...(volts === undefined ? {} : { volts }) };
}

export function coil(id: string, a: string, b: string, henries: number, ohms = 0): Element {
  return { kind: "coil", id, nodes: [a, b], henries, ohms };
}
