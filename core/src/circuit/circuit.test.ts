import { describe, expect, it } from "vitest";
import { capacitor, coil, contact, diode, load, resistor, source } from "../../testing/elements.ts";
import { Circuit } from "./circuit.ts";
import { type Element, ledModel } from "./elements.ts";
import { operatingPoint } from "./operatingPoint.ts";

it("solves a divider and counts a source's current into its first terminal", () => {
  const point = operatingPoint({
    ground: "0",
    elements: [source("v", "a", "0", 12), resistor("r1", "a", "b", 120), resistor("r2", "b", "0", 680)],
  });
  expect(point.volts("b")).toBeCloseTo(10.2, 9);
  expect(point.amps("r1")).toBeCloseTo(0.015, 12);
  expect(point.amps("v")).toBeCloseTo(-0.015, 12);
});

// derived: 5 V, 450 ohm, red LED of 2.0 V at 10 mA: about 6.67 mA, not 11.1
it("lets an LED take its own forward voltage", () => {
  const led: Element = { kind: "diode", id: "led", nodes: ["b", "0"], model: ledModel(2.0, 0.01) };
  const point = operatingPoint({
    ground: "0",
    elements: [source("v", "a", "0", 5), resistor("r", "a", "b", 450), led],
  });
  expect(point.amps("led")).toBeGreaterThan(0.0065);
  expect(point.amps("led")).toBeLessThan(0.0068);
});

it("blocks a diode that is the wrong way round", () => {
  const led: Element = { kind: "diode", id: "led", nodes: ["0", "b"], model: ledModel(2.0, 0.01) };
  const point = operatingPoint({
    ground: "0",
    elements: [source("v", "a", "0", 5), resistor("r", "a", "b", 450), led],
  });
  expect(Math.abs(point.amps("led") ?? 1)).toBeLessThan(1e-9);
});

it("settles where only blocked diodes hold a part of the circuit", () => {
  // a sagging alternating supply before a bridge whose capacitor is still charged
  const bridge = [diode("d1", "a", "p"), diode("d2", "0", "p"), diode("d3", "m", "a"), diode("d4", "m", "0")];
  const point = operatingPoint({
    ground: "0",
    elements: [source("v", "a", "0", 9), ...bridge, source("c", "p", "m", 21), resistor("bleed", "p", "m", 10_000)],
  });
  expect((point.volts("p") ?? 0) - (point.volts("m") ?? 0)).toBeCloseTo(21, 9);
  for (const { id } of bridge) expect(Math.abs(point.amps(id) ?? 1)).toBeLessThan(1e-7);
  expect(point.volts("p")).toBeGreaterThan(9);
  expect(point.volts("m")).toBeLessThan(0);
});

it("has no voltage between parts that nothing joins, and never NaN", () => {
  const point = operatingPoint({
    ground: "0",
    elements: [source("v", "a", "0", 5), resistor("r", "a", "0", 10), resistor("loose", "x", "y", 1)],
  });
  expect(point.between("x", "a")).toBeUndefined();
  expect(point.between("x", "y")).toBe(0);
  expect(point.isGrounded("a")).toBe(true);
  expect(point.isGrounded("x")).toBe(false);
  expect(point.volts("x")).toBe(0);
});

it.each([
  [
    "two sources joined",
    [source("v1", "a", "0", 5), source("v2", "a", "0", 6)],
    /Sources contradict each other; look at v1, v2/,
  ],
  ["a shorted source", [source("v1", "a", "a", 5)], /v1 is shorted/],
  ["negative ohms", [resistor("r9", "a", "0", -1)], /r9: -1 ohm is no resistance/],
  ["volts that are no number", [source("v3", "a", "0", Number.NaN)], /v3: its volts are no number/],
])("names the parts of %s", (_what, elements, message) => {
  expect(() => operatingPoint({ ground: "0", elements: elements as Element[] })).toThrow(message);
});

it("names all sources of a loop, however long, and leaves others out", () => {
  const elements = [
    source("v1", "a", "0", 5),
    source("v2", "b", "a", 1),
    source("v3", "b", "0", 6),
    source("v4", "c", "0", 9),
  ];
  expect(() => operatingPoint({ ground: "0", elements })).toThrow(/look at v1, v2, v3:/);
});

it("says of a current that it has no way back", () => {
  const elements = [
    source("v", "a", "0", 5),
    resistor("r", "a", "0", 10),
    load("i", "0", "x", 1),
    resistor("rx", "x", "y", 1),
  ];
  expect(() => operatingPoint({ ground: "0", elements })).toThrow(/i: the current has no way back/);
});

// derived: sources in a row on a node between them; 3 V and 9 V through 100 ohm give 120 mA
it("adds up sources in a row and tells the current of each", () => {
  const point = operatingPoint({
    ground: "0",
    elements: [
      source("v1", "a", "0", 3),
      source("v2", "b", "a", 9),
      resistor("r", "b", "0", 100),
      resistor("r2", "a", "0", 30),
    ],
  });
  expect(point.volts("b")).toBeCloseTo(12, 12);
  expect(point.amps("v2")).toBeCloseTo(-0.12, 12);
  expect(point.amps("v1")).toBeCloseTo(-0.22, 12);
});

it("keeps its digits with milliohms beside gigaohms", () => {
  const elements = [
    source("v", "a", "0", 12),
    resistor("wire", "a", "b", 0.001),
    contact("open", "b", "c", false),
    resistor("wire2", "c", "d", 0.001),
    resistor("meter", "d", "0", 10e6),
  ];
  // derived: a divider of 1 Gohm and 10 Mohm
  expect(operatingPoint({ ground: "0", elements }).volts("d")).toBeCloseTo((12 * 10e6) / (1e9 + 10e6 + 0.002), 12);
});

describe("one circuit in many states", () => {
  const elements: Element[] = [
    source("v", "p", "0", 12),
    contact("left", "p", "a", false),
    contact("right", "p", "b", false),
    resistor("ra", "a", "0", 100),
    diode("d", "b", "a"),
  ];
  const circuit = new Circuit({ ground: "0", elements });
  const pressed = (id: string) =>
    elements.map((each) => (each.id === id ? { ...each, closed: true } : each)) as Element[];

  it("gives the same answer whatever was solved before", () => {
    const first = circuit.operatingPoint(pressed("right")).volts("a");
    circuit.operatingPoint(pressed("left"));
    circuit.operatingPoint(elements);
    expect(circuit.operatingPoint(pressed("right")).volts("a")).toBe(first);
    expect(first).toBe(operatingPoint({ ground: "0", elements: pressed("right") }).volts("a"));
  });

  it("lets the diode conduct one way only", () => {
    expect(circuit.operatingPoint(pressed("right")).amps("d")).toBeGreaterThan(0.1);
    const other = circuit.operatingPoint(pressed("left"));
    expect(other.volts("a")).toBeCloseTo(12, 2);
    expect(Math.abs(other.amps("d") ?? 1)).toBeLessThan(1e-6);
  });

  it("refuses another circuit's elements, and figures that make no sense", () => {
    expect(() => circuit.operatingPoint(elements.slice(1))).toThrow(/Another circuit/);
    const wrong = elements.map((each) => (each.id === "ra" ? resistor("ra", "a", "0", -5) : each));
    expect(() => circuit.operatingPoint(wrong)).toThrow(/ra: -5 ohm is no resistance/);
    // and stays as it was: another value further down the refused list has not half got in
    const both = elements.map((each) =>
      each.id === "left" ? resistor("left", "p", "a", -1) : each.id === "ra" ? resistor("ra", "a", "0", 7) : each,
    );
    expect(() => circuit.operatingPoint(both)).toThrow(/left/);
    expect(circuit.operatingPoint(pressed("left")).amps("ra")).toBeCloseTo(12 / 100.02, 9);
  });
});

describe("elements that answer", () => {
  it("holds a limiter at its limit, and lets it be a resistor below", () => {
    const through = (ohms: number) =>
      operatingPoint({
        ground: "0",
        elements: [
          source("v", "a", "0", 12),
          { kind: "limiter", id: "out", nodes: ["a", "b"], ohms: 120, limitAmps: 0.04 },
          resistor("load", "b", "0", ohms),
        ],
      });
    expect(through(680).amps("out")).toBeCloseTo(0.015, 9);
    expect(through(680).volts("b")).toBeCloseTo(10.2, 6);
    expect(through(10).amps("out")).toBeCloseTo(0.04, 6);
    expect(through(10).volts("b")).toBeCloseTo(0.4, 5);
  });

  it("opens a breaker that carries more than it bears, and says so", () => {
    const with_ = (ohms: number) =>
      operatingPoint({
        ground: "0",
        elements: [
          source("v", "a", "0", 15),
          { kind: "breaker", id: "f1", nodes: ["a", "b"], ohms: 0.02, tripAmps: 5, seconds: 0.1 },
          resistor("loop", "b", "0", ohms),
        ],
      });
    // derived: 15 V trips 5 A below 3 ohm of loop
    expect(with_(2.9).open).toEqual(["f1"]);
    expect(with_(2.9).amps("loop")).toBeLessThan(1e-6);
    expect(with_(3.1).open).toEqual([]);
  });

  const relay = (coilFrom: string): Element[] => [
    source("v", "p", "0", 5),
    { kind: "coil", id: "winding", nodes: [coilFrom, "0"], ohms: 70, henries: 0.1 },
    {
      kind: "switch",
      id: "no",
      nodes: ["p", "out"],
      closed: false,
      onOhms: 0.05,
      offOhms: 1e9,
      control: { nodes: [coilFrom, "0"], onVolts: 3.5, offVolts: 0.5 },
    },
    resistor("load", "out", "0", 100),
  ];

  it("pulls a relay in by the volts across its coil", () => {
    expect(operatingPoint({ ground: "0", elements: relay("p") }).amps("load")).toBeCloseTo(0.05, 3);
  });

  it("says of a relay that takes its own supply away that it chatters", () => {
    const elements: Element[] = [
      source("v", "p", "0", 5),
      {
        kind: "switch",
        id: "nc",
        nodes: ["p", "coil"],
        closed: true,
        onOhms: 0.05,
        offOhms: 1e9,
        control: { nodes: ["0", "coil"], onVolts: -1, offVolts: -3 },
      },
      resistor("winding", "coil", "0", 70),
    ];
    expect(() => operatingPoint({ ground: "0", elements })).toThrow(/nc never comes to rest/);
  });

  it("takes a capacitor for open and an ideal coil for a wire in the steady state", () => {
    const point = operatingPoint({
      ground: "0",
      elements: [
        source("v", "a", "0", 6),
        coil("l", "a", "b", 1e-3),
        resistor("r", "b", "0", 60),
        capacitor("c", "b", "0", 1e-3),
      ],
    });
    expect(point.amps("l")).toBeCloseTo(0.1, 12);
    expect(point.amps("c")).toBe(0);
  });
});

it.each([
  ["a capacitor of nothing", capacitor("c", "a", "0", 0), /c: 0 F is no capacitance/],
  ["a coil of negative ohms", coil("l", "a", "0", 1, -1), /l: -1 ohm/],
  [
    "a switch that conducts better open",
    { ...contact("s", "a", "0", true), offOhms: 0.001 } as Element,
    /s: a switch needs/,
  ],
  [
    "a limiter without limit",
    { kind: "limiter", id: "x", nodes: ["a", "0"], ohms: 1, limitAmps: 0 } as Element,
    /x: 0 A/,
  ],
])("refuses %s", (_what, element, message) => {
  expect(() => operatingPoint({ ground: "0", elements: [source("v", "a", "0", 1), element] })).toThrow(message);
});
