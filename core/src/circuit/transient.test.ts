import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { capacitor, coil, contact, diode, resistor, source } from "../../testing/elements.ts";
import type { Element } from "./elements.ts";
import { energy, integral, movingCircuit, transient, waveAt } from "./transient.ts";

/** Value of a kept series at a moment, between its steps. */
function at(times: readonly number[], values: readonly number[], moment: number): number {
  const after = times.findIndex((time) => time >= moment);
  const [t0, t1] = [times[after - 1]!, times[after]!];
  return values[after - 1]! + ((values[after]! - values[after - 1]!) * (moment - t0)) / (t1 - t0);
}

describe("a capacitor discharging into coils", () => {
  // derived: RC discharge; 4700 uF at 22 V into two coils of 4 ohm with 1.01 ohm of wire each: 0.454 J in each coil
  it("gives each coil its share of the energy", () => {
    const branch = (name: string): Element[] => [resistor(`w${name}`, "p", name, 1.01), resistor(name, name, "0", 4)];
    const { times, elements } = transient(
      { ground: "0", elements: [capacitor("c", "p", "0", 4700e-6, 22), ...branch("a"), ...branch("b")] },
      { stop: 0.2, begin: "stated", watch: { elements: ["a", "b"] } },
    );
    const a = elements.get("a")!;
    expect(energy(times, a)).toBeCloseTo(0.454, 3);
    expect(Math.max(...a.amps)).toBeCloseTo(22 / 5.01, 2);
    expect(at(times, a.amps, 0.0118)).toBeCloseTo((22 / 5.01) * Math.exp(-0.0118 / (2.505 * 4700e-6)), 2);
  });

  // derived: 95 % at 3 RC: 4700 uF through 100 ohm: 1.41 s
  it("charges again by the exponential law", () => {
    const { times, nodes } = transient(
      {
        ground: "0",
        elements: [source("v", "s", "0", 20), resistor("r", "s", "c", 100), capacitor("c", "c", "0", 4700e-6, 0)],
      },
      { stop: 2, begin: "stated", watch: { nodes: ["c"] } },
    );
    expect(at(times, nodes.get("c")!, 1.41)).toBeCloseTo(20 * (1 - Math.exp(-1.41 / 0.47)), 2);
  });
});

describe("coils", () => {
  // derived: i = V/R (1 - exp(-t R/L))
  it("lets the current in a coil rise by L/R", () => {
    const { times, elements } = transient(
      {
        ground: "0",
        elements: [source("v", "a", "0", 12), contact("s", "a", "b", false), coil("l", "b", "0", 0.02, 4)],
      },
      {
        stop: 0.03,
        begin: "rest",
        watch: { elements: ["l"] },
        changes: [
          {
            at: 0.005,
            elements: [source("v", "a", "0", 12), contact("s", "a", "b", true), coil("l", "b", "0", 0.02, 4)],
          },
        ],
      },
    );
    const { amps } = elements.get("l")!;
    expect(Math.abs(at(times, amps, 0.004))).toBeLessThan(1e-6);
    expect(at(times, amps, 0.01)).toBeCloseTo((12 / 4.02) * (1 - Math.exp((-0.005 * 4.02) / 0.02)), 2);
  });

  it("lets a diode across the coil take the kick when its contact opens", () => {
    const state = (closed: boolean) => [
      source("v", "a", "0", 12),
      contact("s", "a", "b", closed),
      coil("l", "b", "0", 0.02, 40),
      diode("d", "0", "b"),
    ];
    const { nodes, times } = transient(
      { ground: "0", elements: state(true) },
      { stop: 0.01, begin: "rest", watch: { nodes: ["b"] }, changes: [{ at: 0.001, elements: state(false) }] },
    );
    expect(at(times, nodes.get("b")!, 0.0005)).toBeCloseTo(12, 1);
    expect(Math.min(...nodes.get("b")!)).toBeGreaterThan(-1.2);
    expect(Math.min(...nodes.get("b")!)).toBeLessThan(-0.7);
  });

  // derived: an undamped circuit keeps its energy: f = 1/(2 pi sqrt(L C)), amplitude stays
  it("swings with a capacitor at the right pace and loses next to nothing", () => {
    const period = 2 * Math.PI * Math.sqrt(1e-3 * 1e-6);
    const { times, nodes } = transient(
      { ground: "0", elements: [capacitor("c", "a", "0", 1e-6, 10), coil("l", "a", "0", 1e-3)] },
      { stop: 5 * period, begin: "stated", watch: { nodes: ["a"] }, accuracy: 1e-6 },
    );
    expect(at(times, nodes.get("a")!, 4.999 * period)).toBeCloseTo(10, 1);
    expect(at(times, nodes.get("a")!, 4.5 * period)).toBeCloseTo(-10, 1);
  });
});

describe("what switches by itself", () => {
  it("trips a breaker after its time, and tells when", () => {
    const { trips, times, elements } = transient(
      {
        ground: "0",
        elements: [
          source("v", "a", "0", 15),
          { kind: "breaker", id: "f", nodes: ["a", "b"], ohms: 0.01, tripAmps: 5, seconds: 0.05 },
          contact("short", "b", "c", false),
          resistor("loop", "c", "0", 1),
        ],
      },
      {
        stop: 0.2,
        begin: "rest",
        watch: { elements: ["loop"] },
        changes: [
          {
            at: 0.02,
            elements: [
              source("v", "a", "0", 15),
              { kind: "breaker", id: "f", nodes: ["a", "b"], ohms: 0.01, tripAmps: 5, seconds: 0.05 },
              contact("short", "b", "c", true),
              resistor("loop", "c", "0", 1),
            ],
          },
        ],
      },
    );
    expect(trips.map(({ id }) => id)).toEqual(["f"]);
    expect(trips[0]!.at).toBeCloseTo(0.07, 2);
    expect(at(times, elements.get("loop")!.amps, 0.05)).toBeGreaterThan(14);
    expect(Math.abs(at(times, elements.get("loop")!.amps, 0.15))).toBeLessThan(1e-5);
  });

  it("pulls a relay in when its coil's voltage has risen", () => {
    const { times, elements } = transient(
      {
        ground: "0",
        elements: [
          source("v", "s", "0", 12),
          resistor("r", "s", "c", 1000),
          capacitor("delay", "c", "0", 100e-6, 0),
          {
            kind: "switch",
            id: "no",
            nodes: ["s", "lamp"],
            closed: false,
            onOhms: 0.05,
            offOhms: 1e9,
            control: { nodes: ["c", "0"], onVolts: 6, offVolts: 2 },
          },
          resistor("load", "lamp", "0", 100),
        ],
      },
      { stop: 0.3, begin: "stated", watch: { elements: ["load"] } },
    );
    // derived: half of 12 V after RC ln 2 = 69 ms
    const { amps } = elements.get("load")!;
    expect(at(times, amps, 0.065)).toBeLessThan(1e-6);
    expect(at(times, amps, 0.075)).toBeCloseTo(0.12, 3);
  });
});

it("follows a sine and the corners of a pulse", () => {
  const sine = { kind: "sine", offset: 1, amplitude: 2, hertz: 50 } as const;
  expect(waveAt(sine, 0.005)).toBeCloseTo(3, 12);
  const pulse = {
    kind: "pulse",
    low: -15,
    high: 15,
    delay: 1e-3,
    rise: 0,
    fall: 0,
    width: 1e-3,
    period: 2e-3,
  } as const;
  expect([0, 0.0015, 0.0025, 0.0035].map((time) => waveAt(pulse, time))).toEqual([-15, 15, -15, 15]);
  const { times, nodes } = transient(
    {
      ground: "0",
      elements: [{ kind: "voltage", id: "v", nodes: ["a", "0"], volts: 0, wave: pulse }, resistor("r", "a", "0", 10)],
    },
    { stop: 0.01, begin: "rest", watch: { nodes: ["a"] } },
  );
  expect(at(times, nodes.get("a")!, 0.0045)).toBeCloseTo(-15, 6);
  expect(at(times, nodes.get("a")!, 0.0055)).toBeCloseTo(15, 6);
  expect(integral([0, 1, 3], [0, 2, 4])).toBe(7);
});

it("refuses a length of nothing and an element that is not there", () => {
  const netlist = { ground: "0", elements: [source("v", "a", "0", 1), resistor("r", "a", "0", 1)] };
  expect(() => transient(netlist, { stop: 0, begin: "rest", watch: {} })).toThrow(/no length of time/);
  expect(() => transient(netlist, { stop: 1, begin: "rest", watch: { elements: ["x"] } })).toThrow(/no element x/);
});

describe("a circuit that is used again", () => {
  const ohms = fc.double({ min: 0.01, max: 50, noNaN: true });
  /** A unit that discharges through a contact and a diode into two coils, one of which may be let go on the way. */
  const parts = fc.record({
    volts: fc.double({ min: -24, max: 24, noNaN: true }),
    wire: ohms,
    coil: ohms,
    made: fc.boolean(),
  });
  const netlist = ({ volts, wire, coil: inside, made }: typeof parts extends fc.Arbitrary<infer T> ? T : never) => ({
    ground: "0",
    elements: [
      capacitor("c", "p", "0", 4700e-6, volts),
      contact("s", "p", "a", true),
      resistor("w", "a", "b", wire),
      diode("d", "b", "x"),
      coil("l", "x", "0", 0.003, inside),
      contact("t", "b", "y", made),
      coil("m", "y", "0", 0.002, inside),
    ],
  });
  const request = { stop: 0.02, begin: "stated", watch: { nodes: ["b"], elements: ["l", "m", "d"] } } as const;

  it("finds what a new one finds, to the last digit", () => {
    fc.assert(
      fc.property(fc.array(parts, { minLength: 2, maxLength: 4 }), (all) => {
        const [first] = all;
        const circuit = movingCircuit(netlist(first!));
        for (const each of all)
          expect(transient(netlist(each), request, circuit)).toEqual(transient(netlist(each), request));
      }),
      { numRuns: 30 },
    );
  });
});
