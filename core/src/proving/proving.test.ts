import { expect, it } from "vitest";
import { drafted, mounted, railway, retyped, smallRailway, threadOf, typed } from "../../testing/build.ts";
import { DRIVING, FROGS, LAMPS } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import { completed } from "../loom/completion.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { TestResult } from "../record/schemas.ts";
import { changedSince, changeWords } from "./chain.ts";
import { testResult } from "./testResult.ts";
import { type TestStep, testSteps } from "./testSteps.ts";
import { verdictOf } from "./verdict.ts";

const steps = (record: RailwayRecord, label: string) => {
  const derived = new Derived(record);
  return testSteps(derived.circuitry, threadOf(derived, label));
};
const step = (record: RailwayRecord, label: string, key: string): TestStep =>
  steps(record, label).find((each) => each.key === key)!;
const recorded = (record: RailwayRecord, of: TestStep, at: string, read: number | null): RailwayRecord =>
  drafted(record, (draft) =>
    draft.put("test", {
      ...({
        position: null,
        unit: of.unit,
        seen: null,
        instrument: "",
        note: "",
        low: of.low,
        high: of.high,
        expected: of.expected,
        chain: of.chain,
      } as Pick<
        TestResult,
        "position" | "unit" | "seen" | "instrument" | "note" | "low" | "high" | "expected" | "chain"
      >),
      id: `t-${at.slice(11, 13)}`,
      turnoutId: of.turnoutId,
      step: of.key,
      read,
      verdict: verdictOf(of, { read }),
      at,
    }),
  );
const standing = (record: RailwayRecord, leader: string, key: string) =>
  new Derived(record).sheet(leader).find((each) => each.step.key === key)!.standing;

it("makes a sheet for each kind of thread, windings before power before throwing before lamps", () => {
  expect(steps(smallRailway(), "Y1").map(({ key }) => key)).toEqual([
    "coil-n-y1",
    "coil-r-y1",
    "charge-y1",
    "throw-n-y1",
    "throw-r-y1",
    "contact-n-1-y1",
    "contact-r-1-y1",
    "lamp-n-lp1",
    "lamp-r-lp1",
  ]);
  expect(steps(smallRailway(), "M1/M2")).toHaveLength(14);
  expect(steps(railway(["A", "", "stall-motor", "", "", ""]), "A")).toEqual([]);
});

it("throws a turnout by each of its controls, asks for each contact in use once, and offers the colours that a lamp has", () => {
  const two = DRIVING["two toggles for a crossover, one inverse"]!();
  expect(
    steps(two, "A/B")
      .filter(({ key }) => key.startsWith("throw"))
      .map(({ title }) => title),
  ).toEqual([
    "A goes to normal by T1",
    "A goes to reverse by T1",
    "A goes to normal by T2",
    "A goes to reverse by T2",
    "B goes to normal by T1",
    "B goes to reverse by T1",
    "B goes to normal by T2",
    "B goes to reverse by T2",
  ]);
  for (const make of Object.values({ ...DRIVING, ...FROGS, ...LAMPS })) {
    const derived = new Derived(make());
    const keys = testSteps(derived.circuitry, derived.schematic.threads[0]!).map(({ key }) => key);
    expect(new Set(keys).size).toBe(keys.length);
  }
  const dwarf = steps(LAMPS["a dwarf signal"]!(), "A").filter(({ key }) => key.startsWith("lamp"));
  expect(dwarf.map(({ wanted, sees }) => [wanted, sees.includes(wanted!)])).toEqual([
    ["green", true],
    ["red", true],
  ]);
  const contact = step(LAMPS["a contact"]!(), "A", "contact-r-1-a");
  expect(contact).toMatchObject({ unit: "ohm", position: "R", probes: { redName: "A-S1c", blackName: "A-S1r" } });
  expect(contact.expected).toBeLessThan(1);
});

it("expects of a frog with a polarity unit what a wheel makes it carry, whether or not the blades moved", () => {
  for (const toggle of ["toggle-centre-off", "toggle-latching"]) {
    const unit = railway(["A", "", "twin-coil-surface", "cdu", toggle, "", "polarity unit"]);
    const frog = (position: string) => step(unit, "A", `frog-${position}-a`);
    // right hand: at normal the right rail, a track's voltage from the left one
    expect(frog("n").expected).toBeCloseTo(15, 0);
    expect(frog("n").how).toMatch(
      /^Bridge the frog to the right rail for a moment, as a wheel does: FP1 changes over\./,
    );
    expect(frog("r").expected).toBe(0);
  }
});

it("says beside a charge that is next to nothing what drains the unit", () => {
  const unit = (toggle: string) => railway(["A", "", "twin-coil-surface", "cdu", toggle]);
  const charge = (toggle: string) => step(unit(toggle), "A", "charge-a");
  expect(charge("toggle-centre-off")).toMatchObject({ how: "CD1 fed, controls let go." });
  expect(charge("toggle-centre-off").expected).toBeGreaterThan(20);
  expect(charge("toggle-latching").how).toBe("CD1 fed, controls let go. Few volts, since T1 stays made and drains it.");
  expect(charge("toggle-latching").expected).toBeLessThan(3);
});

it("has a step for each lock, at which nothing may move", () => {
  const locked = steps(DRIVING["toggle and discharge unit, locked out by a key"]!(), "A").find(({ key }) =>
    key.startsWith("lock-"),
  );
  expect(locked).toMatchObject({
    title: "T1 locked out",
    how: "KS1 turned off. Throw by T1; nothing moves.",
    wanted: "no change",
  });
});

it("counts where steps stand without working out those that have no result", () => {
  const coil = step(smallRailway(), "Y1", "coil-n-y1");
  const record = recorded(smallRailway(), coil, "2026-05-12T20:00:00.000Z", 4.1);
  const derived = new Derived(typed(record, "m1", "lamp", ""));
  for (const thread of derived.schematic.threads) {
    const states = derived.sheet(thread.turnout.id).map(({ standing }) => standing.state);
    expect(derived.standings(thread)).toEqual(states);
  }
  expect(derived.standings(threadOf(derived, "Y1"))).toContain("passed");
});

it("expects what the circuit gives", () => {
  expect(step(smallRailway(), "Y1", "coil-n-y1")).toMatchObject({
    unit: "ohm",
    probes: { redName: "Y1-N", blackName: "Y1-C" },
  });
  expect(step(smallRailway(), "Y1", "coil-n-y1").expected).toBeCloseTo(4, 1);
  expect(step(smallRailway(), "M1/M2", "polarity-r-m2").expected).toBeCloseTo(-8.86, 1);
  expect(step(smallRailway(), "Y1", "lamp-r-lp1").wanted).toBe("yellow");
});

it("judges a reading by its band, and takes 'already there' for neither passed nor failed", () => {
  const coil = step(smallRailway(), "Y1", "coil-n-y1");
  expect([4.4, 5, null].map((read) => verdictOf(coil, { read }))).toEqual(["passed", "failed", "failed"]);
  const throwing = step(smallRailway(), "Y1", "throw-n-y1");
  expect(["N", "R", "no change"].map((seen) => verdictOf(throwing, { seen }))).toEqual([
    "passed",
    "failed",
    "no-change",
  ]);
});

it("counts the latest result of a step", () => {
  const coil = step(smallRailway(), "Y1", "coil-n-y1");
  const record = recorded(
    recorded(smallRailway(), coil, "2026-05-12T20:00:00.000Z", 9),
    coil,
    "2026-05-12T21:00:00.000Z",
    4.1,
  );
  expect(standing(record, "y1", "coil-n-y1")).toMatchObject({ state: "passed", result: { read: 4.1 } });
  expect(standing(record, "y1", "coil-r-y1").state).toBe("open");
});

it("goes stale when something in the chain changes, and says what", () => {
  const coil = step(completed(smallRailway()), "Y1", "coil-n-y1");
  const record = recorded(completed(smallRailway()), coil, "2026-05-12T20:00:00.000Z", 4.1);
  expect(standing(record, "y1", "coil-n-y1").state).toBe("passed");
  expect(standing(mounted(record, "y1", { crossed: true }), "y1", "coil-n-y1").changes).toContain("Y1 was changed");
  expect(standing(retyped(record, "T1", "toggle-latching"), "y1", "coil-n-y1").changes).toEqual(["T1 was changed"]);
  const longer = standing(typed(record, "y1", "run", "3"), "y1", "coil-n-y1");
  expect(longer.state).toBe("stale");
  expect(longer.changes).toContain("wire K1-2 to Y1-N was changed");
  // from the farther contact its lamp's supply goes on by way of the nearer one
  expect(longer.changes.every((change) => change.startsWith("wire "))).toBe(true);
  // what does not belong to the chain leaves it alone, a renumbering of wires too
  expect(standing(typed(record, "m1", "lamp", ""), "y1", "coil-n-y1").state).toBe("passed");
});

it("goes stale when what should be read is no longer what it was, by a cause outside its chain", () => {
  const charge = step(smallRailway(), "Y1", "charge-y1");
  const record = recorded(smallRailway(), charge, "2026-05-12T20:00:00.000Z", 24.5);
  expect(standing(record, "y1", "charge-y1").state).toBe("passed");
  expect(standing(retyped(record, "T2", "toggle-latching"), "y1", "charge-y1").changes).toEqual([
    "what should be read has changed",
  ]);
});

it("tells of changes in one sentence", () => {
  expect(changeWords(["wire K1-1 to Y1-N was changed"])).toBe("Wire K1-1 to Y1-N was changed since.");
  expect(changeWords(["a is new", "b is gone", "c was changed", "d is new"])).toBe(
    "A is new, b is gone and 2 more since.",
  );
  const none = { chain: {}, expected: null, low: null, high: null };
  expect(
    changedSince({ chain: { a: "1" }, unit: "seen", expected: null } as unknown as TestResult, {
      ...none,
      chain: { b: "1" },
    }),
  ).toEqual(["a is gone", "b is new"]);
});

it("knows the wires of earlier tests by their ends, and says where a wire has gone that it knows by its identifier", () => {
  const none = { unit: "seen", expected: null } as const;
  const now = { expected: null, low: null, high: null };
  const changes = (before: Record<string, string>, after: Record<string, string>) =>
    changedSince({ ...none, chain: before } as unknown as TestResult, { ...now, chain: after });
  const laid = { "wire w7": "K1-1 to Y1-N: 0.5 mm2, 1.5 m, BU" };
  expect(changes({ "wire K1-1 to Y1-N": "0.5 mm2, 1.5 m, BU" }, laid)).toEqual([]);
  expect(changes({ "wire K1-1 to Y1-N": "0.5 mm2, 1.2 m, BU" }, laid)).toEqual(["wire K1-1 to Y1-N was changed"]);
  expect(changes({ "wire w7": "K1-9 to Y1-N: 0.5 mm2, 1.5 m, BU" }, laid)).toEqual([
    "wire K1-9 to Y1-N is K1-1 to Y1-N now",
  ]);
  expect(changes(laid, {})).toEqual(["wire K1-1 to Y1-N is gone"]);
});

it("records what was expected then, what was found, by which instrument, and what it rests on", () => {
  const coil = step(smallRailway(), "Y1", "coil-n-y1");
  const at = "2026-05-12T20:00:00.000Z";
  expect(testResult(coil, { read: 4.1 }, "a", at)).toMatchObject({
    id: "a",
    at,
    turnoutId: "y1",
    step: "coil-n-y1",
    unit: "ohm",
    expected: coil.expected,
    read: 4.1,
    seen: null,
    verdict: "passed",
    instrument: "hand-held meter",
    chain: coil.chain,
  });
  expect(testResult(coil, { read: null }, "b", at)).toMatchObject({ read: null, verdict: "failed" });
  const throwing = step(smallRailway(), "Y1", "throw-r-y1");
  expect(testResult(throwing, { seen: "N" }, "c", at)).toMatchObject({
    position: "R",
    read: null,
    seen: "N",
    verdict: "failed",
    instrument: "by eye",
  });
});

it("meters each fed frog against the left rail before a train is put on", () => {
  const derived = new Derived(railway(["A", "", "stall-motor", "stall-decoder-8", "", "", "S2"]));
  const steps = derived
    .sheet("a")
    .map(({ step }) => step)
    .filter(({ key }) => key.startsWith("frog"));
  // a hand that is not known counts as right: straight on the frog carries the right rail
  expect(steps.map(({ title, probes }) => `${title}: ${probes?.redName} ${probes?.blackName}`)).toEqual([
    "Frog at N: AF-F AF-L",
    "Frog at R: AF-F AF-L",
  ]);
  expect(steps[0]!.expected).toBeCloseTo(15, 0);
  expect(steps[1]!.expected).toBeCloseTo(0, 2);
  expect(new Derived(railway(["A", "", "stall-motor", "stall-decoder-8", "", "", "dead"])).sheet("a")).toHaveLength(5);
});
