// Findings looked for in steps are the same as at once, and what can be set is asked for only after it was swept.
import fc from "fast-check";
import { describe, expect, it, vi } from "vitest";
import { clubRailway, onSharedSupplies } from "../../../scripts/clubRailway.ts";
import { EXHIBITS, randomRailway } from "../../testing/exhibits.ts";
import { MISTAKES } from "../../testing/mistakes.ts";
import { Derived } from "../derive.ts";
import { sweeping, sweepsOf } from "../hands/hands.ts";
import { completed } from "../loom/completion.ts";
import { Behaviour } from "../readings/behaviour.ts";
import { Solving } from "../readings/solving.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { Checking, gravestFirst } from "./checking.ts";
import type { Look } from "./rule.ts";
import { BY_RECORD, RULES, SWEPT } from "./rules.ts";

/** A checking in which what is solved may be asked for only once nothing else is left, and what can be set only once it was swept. */
function strict(record: RailwayRecord) {
  const derived = new Derived(record);
  let swept = false;
  const { circuitry, addresses, remember, inThreads, schematic } = derived;
  const once = <T>(value: () => T): T => {
    if (!swept) throw new Error("Asked before it was swept.");
    return value();
  };
  const later = <T>(value: () => T): T => {
    if (!checking.isAtCircuit) throw new Error("Asked while rules are left for which nothing is solved.");
    return value();
  };
  const look: Look = {
    ...{ record, addresses, remember, inThreads, threads: schematic.threads },
    get circuitry() {
      return later(() => circuitry);
    },
    get reading() {
      return later(() => derived.reading);
    },
    get boards() {
      return later(() => derived.boards);
    },
    get loads() {
      return once(() => derived.loads);
    },
    get hands() {
      return once(() => derived.hands);
    },
  };
  function* sweep() {
    yield* sweeping(circuitry);
    swept = true;
  }
  const checking = new Checking(look, { takeOver: function* () {}, settle: () => derived.settling(), sweep });
  return { derived, checking };
}

describe.each(Object.keys({ ...EXHIBITS, ...MISTAKES }))("%s", (name) => {
  const make = { ...EXHIBITS, ...MISTAKES }[name]!;

  it("is looked at in steps with the same findings, and asks for nothing too early", () => {
    const { derived, checking } = strict(make());
    const shares: number[] = [];
    let before: readonly unknown[] = [];
    while (shares.at(-1) !== 1) {
      shares.push(checking.go(() => true));
      expect(checking.findings.length).toBeGreaterThanOrEqual(before.length);
      before = checking.findings;
    }
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares.length).toBeGreaterThan(RULES.length);
    expect(checking.looked.size).toBe(RULES.length);
    expect(checking.findings).toEqual(derived.findings);
  });
});

it("finds the same however often it is interrupted", () => {
  fc.assert(
    fc.property(randomRailway(10), fc.array(fc.nat(60), { maxLength: 8 }), (record, pauses) => {
      const { derived, checking } = strict(record);
      for (const pause of pauses) {
        let steps = 0;
        checking.go(() => ++steps > pause);
      }
      checking.go(() => false);
      expect(checking.findings).toEqual(derived.findings);
    }),
    { numRuns: 15 },
  );
});

it("looks at what is grave first, at what is solved later, and at what can be set last", () => {
  const { checking } = strict(EXHIBITS["small railway"]?.() ?? Object.values(EXHIBITS)[0]!());
  checking.go(() => checking.looked.size > 0);
  const first = RULES.find(({ id }) => checking.looked.has(id))!;
  expect(first.gravest).toBe("stop");
  expect(BY_RECORD.has(first)).toBe(true);
  checking.go(() => checking.isAtCircuit);
  expect(checking.looked).toEqual(new Set([...BY_RECORD].map(({ id }) => id)));
  expect(checking.isSwept).toBe(false);
  checking.go(() => checking.isSwept);
  const left = RULES.filter(({ id }) => !checking.looked.has(id));
  expect(left.every((rule) => SWEPT.has(rule))).toBe(true);
});

it("puts what the owner has accepted last, the gravest of the others first", () => {
  const finding = new Derived(MISTAKES["short-by-hands"]!()).findings[0]!;
  const as = (key: string, severity: "stop" | "look" | "note", kept: string | null) => ({
    ...finding,
    key,
    severity,
    kept,
  });
  const all = [as("a", "note", null), as("b", "look", "so"), as("c", "stop", null), as("d", "look", null)];
  expect(gravestFirst(all).map(({ key }) => key)).toEqual(["c", "d", "a", "b"]);
});

it("sweeps each piece once", () => {
  const { circuitry } = new Derived(MISTAKES["short-by-hands"]!());
  expect([...sweeping(circuitry)]).not.toEqual([]);
  expect([...sweeping(circuitry)]).toEqual([]);
  expect(sweepsOf(circuitry)).toHaveLength(circuitry.pieces.length);
});

it("finds out where the motors of one thread go in a step, so that an edit never waits for those of all", () => {
  const derived = new Derived(completed(clubRailway(400, 40)));
  const thrown = vi.spyOn(Behaviour.prototype, "findOutGoesTo" as "motorGoesTo");
  const inStep: number[] = [];
  derived.checking.go(() => {
    inStep.push(thrown.mock.calls.length);
    thrown.mockClear();
    return false;
  });
  thrown.mockRestore();
  const motors = derived.schematic.threads.map((thread) => thread.motors.length);
  expect(inStep.reduce((sum, each) => sum + each)).toBeGreaterThanOrEqual(2 * motors.length);
  // each motor both ways
  expect(Math.max(...inStep)).toBeLessThanOrEqual(2 * Math.max(...motors));
});

it("is never at its end when a step has failed", () => {
  const derived = new Derived(MISTAKES["short-by-hands"]!());
  vi.spyOn(derived, "settling").mockImplementation(() => {
    throw new Error("It cannot be solved.");
  });
  for (const _ of [1, 2]) expect(() => derived.findings).toThrow("It cannot be solved.");
  expect(derived.checking.share).toBeLessThan(1);
  vi.restoreAllMocks();
});

/** The most states that are solved in one step of the checking. @param turnouts of a railway on as few supplies as it can do with */
function mostInOneStep(turnouts: number): number {
  const derived = new Derived(completed(onSharedSupplies(clubRailway(400, turnouts))));
  const solved = vi.spyOn(Solving.prototype, "run" as "at");
  const inStep: number[] = [];
  derived.checking.go(() => {
    inStep.push(solved.mock.calls.length);
    solved.mockClear();
    return false;
  });
  solved.mockRestore();
  return Math.max(...inStep);
}

it("solves no more in a step on a railway of twice the size, so that an edit never waits long", () => {
  expect(mostInOneStep(80)).toBeLessThanOrEqual(mostInOneStep(40));
});
