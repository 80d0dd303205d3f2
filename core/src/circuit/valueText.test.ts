import { expect, it } from "vitest";
import type { Element } from "./elements.ts";
import { valueText } from "./valueText.ts";

const nodes = ["a", "b"] as const;
const model = { is: 1e-9, n: 2, rs: 0 };
const control = { nodes, onVolts: 3, offVolts: 1 };

/** Elements of which no two have the same values. */
const OTHERS: readonly Element[] = [
  { kind: "resistor", id: "R", nodes, ohms: 1 },
  { kind: "resistor", id: "R", nodes, ohms: 2 },
  { kind: "diode", id: "D", nodes, model },
  { kind: "diode", id: "D", nodes, model: { ...model, rs: 1 } },
  { kind: "capacitor", id: "C", nodes, farads: 1e-3 },
  { kind: "capacitor", id: "C", nodes, farads: 1e-3, volts: 1 },
  { kind: "coil", id: "L", nodes, henries: 1e-3, ohms: 4 },
  { kind: "coil", id: "L", nodes, henries: 1e-3, ohms: 4, amps: 1 },
  { kind: "switch", id: "S", nodes, closed: true, onOhms: 1, offOhms: 1e9 },
  { kind: "switch", id: "S", nodes, closed: false, onOhms: 1, offOhms: 1e9 },
  { kind: "switch", id: "S", nodes, closed: false, onOhms: 1, offOhms: 1e9, control },
  { kind: "switch", id: "S", nodes, closed: false, onOhms: 1, offOhms: 1e9, control: { ...control, onVolts: 4 } },
  { kind: "voltage", id: "V", nodes, volts: 1 },
  { kind: "voltage", id: "V", nodes, volts: 1, holds: { nodes, volts: 5, dropOut: 1 } },
  { kind: "current", id: "I", nodes, amps: 1 },
  { kind: "limiter", id: "M", nodes, ohms: 1, limitAmps: 1 },
  { kind: "breaker", id: "B", nodes, ohms: 1, tripAmps: 1, seconds: 1 },
];

it("tells elements apart by each of their values", () => {
  expect(new Set(OTHERS.map(valueText)).size).toBe(OTHERS.length);
});

it("is the same whatever an element is called and lies between, and whatever the nodes it looks at are called", () => {
  for (const each of OTHERS) {
    const text = JSON.stringify({ ...each, id: "other" }).replaceAll('"nodes":["a","b"]', '"nodes":["c","d"]');
    expect(valueText(JSON.parse(text))).toBe(valueText(each));
  }
});

it("is empty for none", () => {
  expect(valueText(undefined)).toBe("");
});
