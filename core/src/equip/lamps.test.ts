// The lamps of a turnout, as they are typed.
import { expect, it } from "vitest";
import { railway, threadOf, typed } from "../../testing/build.ts";
import { sensorAtThrowBar } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import { plannedSteps } from "../proving/testSteps.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { readLamps } from "./lamps.ts";

const cell = (record: RailwayRecord, id: string) => readLamps(record, find(record, "turnout", id)!);
const pair = () =>
  railway(
    ["A", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour"],
    ["B", "A", "stall-motor", "", "", "lamp-two-colour"],
  );

it("are several, each with what lights it, and read back as typed", () => {
  const record = typed(pair(), "a", "lamp", "LP1 + dwarf-signal from driver");
  expect(cell(record, "a")).toBe("DS1 from driver + LP1");
  expect(typed(record, "a", "lamp", cell(record, "a"))).toBe(record);
  const fewer = typed(record, "a", "lamp", "DS1 from driver");
  expect(fewer.devices.map(({ label }) => label)).not.toContain("LP1");
  expect(cell(fewer, "a")).toBe("DS1 from driver");
  expect(cell(typed(record, "a", "lamp", ""), "a")).toBe("");
});

it("belong to each turnout of a crossover, and tell of its own motor", () => {
  const derived = new Derived(pair());
  const thread = threadOf(derived, "A/B");
  expect(thread.lamps.map(({ device, turnout }) => `${device.label} ${turnout.label}`)).toEqual(["LP1 A", "LP2 B"]);
  const at = (position: "N" | "R") =>
    derived.reading(thread, position, "rest").lamps.map(({ reverse }) => reverse > 0.001);
  expect([at("N"), at("R")]).toEqual([
    [false, false],
    [true, true],
  ]);
  expect(plannedSteps(derived.record, thread).flatMap(({ title }) => (/^LP/.test(title) ? [title] : []))).toEqual([
    "LP1 at N",
    "LP1 at R",
    "LP2 at N",
    "LP2 at R",
  ]);
});

it("keep their lamps when two turnouts begin to move together", () => {
  const apart = typed(pair(), "b", "with", "");
  expect(cell(apart, "b")).toBe("LP2");
  expect(cell(typed(apart, "b", "with", "A"), "b")).toBe("LP2");
});

it("are told by a sensor on the side where the throw bar covers it", () => {
  for (const side of ["N", "R"] as const) {
    const record = sensorAtThrowBar(side);
    expect(cell(record, "a")).toBe(`FB1 from IR1 at ${side}`);
    const derived = new Derived(record);
    const rows = derived.situations(threadOf(derived, "A"))[0]?.rows ?? [];
    expect(rows.find(({ what }) => what === "all in order")).toMatchObject({ N: "N", R: "R" });
    // a wire that is open looks like a sensor that is clear
    const clear = side === "R" ? "N" : "R";
    expect(rows.find(({ what }) => what.startsWith("wire from IR1 open"))).toMatchObject({ N: clear, R: clear });
  }
});

it("refuse a side for what is no sensor, and a sensor for what shows two colours by two wires", () => {
  expect(() => typed(pair(), "a", "lamp", "LP1 from S2 at N")).toThrow(/Only a sensor at the throw bar/);
  const record = typed(sensorAtThrowBar(), "a", "lamp", "lamp-two-colour from IR1");
  const [finding] = new Derived(record).findings.filter(({ ruleId }) => ruleId === "turnout-incomplete");
  expect(finding?.why).toMatch(/that IR1 cannot light/);
});
