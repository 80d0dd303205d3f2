import { describe, expect, it, vi } from "vitest";
import {
  coilStation,
  drafted,
  mounted,
  retyped,
  smallRailway,
  threadOf,
  typed,
  withFigures,
} from "../../testing/build.ts";
import { Derived } from "../derive.ts";
import { completed } from "../loom/completion.ts";
import { laidWires } from "../loom/laidWires.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { turnAt } from "../sense/edits.ts";
import { CoilPulses } from "./coilPulses.ts";
import { measure, uncertainty } from "./meter.ts";

const EDITS: [string, (record: RailwayRecord) => RailwayRecord][] = [
  ["a longer run", (record) => typed(record, "y1", "run", "9.5")],
  ["a latching toggle", (record) => retyped(record, "T1", "toggle-latching")],
  ["a motor mounted the other way", (record) => mounted(record, "m2", { opposite: true })],
  ["crossed leads", (record) => mounted(record, "y1", { crossed: true })],
  ["another label", (record) => typed(record, "y2", "label", "Yard 2")],
  ["a weaker supply", (record) => withFigures(record, "PS1", { volts: 3 })],
  ["a lamp taken away", (record) => typed(record, "y1", "lamp", "")],
  ["a stiffer motor", (record) => withFigures(record, "Y1", { pulseJoules: 2 })],
  ["a place that was found to turn", (record) => turned(record, "contact", "y1")],
  ["a setting reversed", (record) => turned(record, "setting", "d1", 1)],
  ["another resistor", (record) => withFigures(record, "LP1", { resistorOhms: 100 })],
];

function turned(record: RailwayRecord, link: "contact" | "setting", deviceId: string, way: number | null = null) {
  return drafted(record, (draft) => turnAt(draft, { link, deviceId, way }, true, { known: "seen" }));
}

function everything(derived: Derived) {
  const { threads } = derived.schematic;
  return {
    findings: derived.findings,
    loads: derived.loads,
    readings: threads.flatMap((thread) =>
      (["N", "R"] as const).flatMap((position) =>
        (["rest", "throwing", "held"] as const).map((moment) => derived.reading(thread, position, moment)),
      ),
    ),
  };
}

/** Numbers to nine digits: what is carried over may differ in the last ones. */
const rounded = (value: unknown) =>
  JSON.parse(JSON.stringify(value), (_, each) => (typeof each === "number" ? Number(each.toPrecision(6)) : each));

describe("what is carried over from before an edit", () => {
  it.each(EDITS)("is as if worked out anew after %s, and after it is undone", (_, change) => {
    const before = new Derived(smallRailway());
    everything(before);
    const changed = change(before.record);
    const after = new Derived(changed, before);
    expect(rounded(everything(after))).toEqual(rounded(everything(new Derived(changed))));
    const undone = new Derived(before.record, after);
    expect(rounded(everything(undone))).toEqual(rounded(everything(before)));
  });

  it("solves nothing anew where the edit touched nothing", () => {
    const before = new Derived(smallRailway());
    everything(before);
    const after = new Derived(typed(before.record, "m1", "name", "West end"), before);
    expect(after.circuitry.counts).toEqual(before.circuitry.counts);
  });
});

/** As many coil motors as asked for on one supply, all throws found out. */
function station(motors: number): Derived {
  const derived = new Derived(completed(coilStation(motors)));
  everything(derived);
  return derived;
}

describe("solutions of a piece in which a wire has changed", () => {
  const before = station(6);
  const after = new Derived(typed(before.record, "y6", "run", "1.9"), before);
  const solutionsOf = ({ circuitry }: Derived) =>
    circuitry.pieces.flatMap(({ solutions, structure }) =>
      [...solutions].map(([key, point]) => ({ name: `${structure}\n${key}`, point })),
    );
  const kept = solutionsOf(after);

  it("are those of states in which nothing flows through it", () => {
    const changed = before.circuitry.pieces.filter((piece) => !after.circuitry.pieces.includes(piece));
    const solved = new Set(changed.flatMap(({ solutions }) => [...solutions.values()]));
    const [known, lost] = [kept.filter(({ point }) => solved.has(point)), solved.size];
    expect(known.length).toBeGreaterThan(5);
    expect(known.length).toBeLessThan(lost);
  });

  it("are what they come to when they are solved anew", () => {
    const anew = new Derived(after.record);
    everything(anew);
    const again = new Map(solutionsOf(anew).map(({ name, point }) => [name, point]));
    let compared = 0;
    for (const { name, point } of kept)
      for (const wire of laidWires(after.loom)) {
        const other = again.get(name)?.amps(wire.element);
        if (other === undefined) continue;
        expect(point.amps(wire.element)).toBeCloseTo(other, 5);
        compared++;
      }
    expect(compared).toBeGreaterThan(100);
  });
});

describe("an edit that changes the circuit of many throws", () => {
  it("solves no more of them than some tenth of a second takes before it lets itself be asked", () => {
    const before = station(60);
    const longer = before.record.turnouts.reduce((record, { id }) => typed(record, id, "run", "4.5"), before.record);
    const solved = vi.spyOn(CoilPulses.prototype, "thrownWith");
    const after = new Derived(longer, before);
    void after.circuitry;
    const atOnce = solved.mock.calls.length;
    solved.mockRestore();
    expect(atOnce).toBeGreaterThan(before.record.turnouts.length);
    expect(atOnce).toBeLessThan(before.record.turnouts.length * 1.5);
    expect(after.findings.map(({ key }) => key)).toEqual(new Derived(longer).findings.map(({ key }) => key));
  });
});

describe("the meter on milliamps", () => {
  const derived = new Derived(smallRailway());
  const state = { asked: {}, moment: "rest", acting: null, off: false } as const;
  const lead = derived.loom.wires.find(({ to }) => to.key === "m1:+")!;

  // derived: two motors of 680 ohm on an output of 12 V behind 120 ohm draw 26.1 mA; the meter's ohm takes a little of it
  it("reads the current in the wire whose place it takes, both ways round", () => {
    const reading = measure(derived.circuitry, lead.from.key, lead.to.key, "mA", state);
    expect(reading.value).toBeGreaterThan(0.0258);
    expect(reading.value).toBeLessThan(0.0261);
    expect(reading.reckoned).toContain(lead.label);
    expect(measure(derived.circuitry, lead.to.key, lead.from.key, "mA", state).value).toBeCloseTo(-reading.value!, 9);
    expect(reading.tolerance).toBeGreaterThan(0.001);
    expect(reading.tolerance).toBeLessThan(0.006);
  });

  it("reads nothing anywhere else, and says why it must not stand there", () => {
    const reading = measure(derived.circuitry, "ps2:+", "ps2:−", "mA", state);
    expect(reading.value).toBeNull();
    expect(reading.caution).toMatch(/short circuit/);
  });
});

// the spread that the adjoint network gives, against solving with each figure up by its tolerance
it("takes the tolerance from each figure as solving with it changed would", () => {
  const record = smallRailway();
  const derived = new Derived(record);
  const volts = (of: Derived) =>
    measure(of.circuitry, "m1:+", "m1:−", "V", { asked: {}, moment: "rest", acting: null, off: false });
  const nominal = volts(derived);
  const changes: [string, Record<string, number>][] = [
    ["D1", { outputOhms: 120 * 1.01 }],
    ["D1", { idleOhms: 600 * 1.02 }],
    ["PS2", { volts: 12 * 1.003 }],
    ["M1", { stalledOhms: 680 * 1.01 }],
    ["M2", { stalledOhms: 680 * 1.01 }],
  ];
  // a tenth of each tolerance, where the circuit is straight enough, times ten
  const spread = changes.reduce((sum, [label, figures]) => {
    const other = volts(new Derived(withFigures(record, label, figures)));
    return sum + 10 * Math.abs(other.value! - nominal.value!);
  }, 0);
  // copper is in it too: a few hundredths of an ohm beside hundreds
  expect(nominal.corner - uncertainty("V", nominal.value!)).toBeCloseTo(spread, 1);
  expect(nominal.tolerance).toBeLessThan(nominal.corner);
});

it("follows a coil's pulse to its energy and length", () => {
  const derived = new Derived(smallRailway());
  const { pulse } = derived.reading(threadOf(derived, "Y1"), "R", "throwing").motors[0]!;
  // derived: 4700 uF at 24.4 V hold 1.4 J, most of which the one coil gets in about RC ln 2 = 14 ms
  expect(pulse!.joules).toBeGreaterThan(1.1);
  expect(pulse!.joules).toBeLessThan(1.4);
  expect(pulse!.secondsAboveHalf).toBeGreaterThan(0.01);
  expect(pulse!.secondsAboveHalf).toBeLessThan(0.025);
  expect(pulse!.wires.size).toBeGreaterThan(3);
  expect(derived.reading(threadOf(derived, "Y1"), "R", "rest").motors[0]!.pulse).toBeNull();
});
