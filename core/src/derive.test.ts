// Whatever an owner enters, everything that follows from it can be worked out, and no number is without sense.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { clubRailway, onSharedSupplies } from "../../scripts/clubRailway.ts";
import { railway, smallRailway, typed } from "../testing/build.ts";
import { busDeeds, type Deed, deeds, done } from "../testing/exhibits.ts";
import { MISTAKES } from "../testing/mistakes.ts";
import { DRIVING, FROGS, LAMPS, onBus, semaphore } from "../testing/recipes.ts";
import { edit } from "./catalogue/edit.ts";
import { Derived } from "./derive.ts";
import { COLUMNS } from "./equip/columns.ts";
import { addTurnout, writeCell } from "./equip/write.ts";
import { completed } from "./loom/completion.ts";
import { reachFrom, wiresByEnd, wiresByNet } from "./loom/reach.ts";
import type { RailwayRecord } from "./record/kinds.ts";
import { RecordError } from "./record/problems.ts";
import { readRailwayFile, writeRailwayFile } from "./record/railwayFile.ts";
import { endKey } from "./schematic/nets.ts";

/** Every number below a value, with where it stands. */
function numbers(value: unknown, path = ""): [string, number][] {
  if (typeof value === "number") return [[path, value]];
  if (value === null || typeof value !== "object" || value instanceof Map || value instanceof Set) return [];
  return Object.entries(value).flatMap(([key, inner]) => numbers(inner, `${path}.${key}`));
}

it("works out anything that can be entered, in plain numbers, and reads its file back", { timeout: 120_000 }, () => {
  fc.assert(
    fc.property(fc.array(deeds, { maxLength: 25 }), (all) => {
      let record = smallRailway();
      for (const each of all) {
        try {
          const group = done(record, each);
          if (group) record = edit(record, group.edits).record;
        } catch (error) {
          // refused with a sentence, which is as good
          if (!(error instanceof RecordError)) throw error;
          expect(error.message).toMatch(/^\S.*\.$/s);
        }
      }
      const derived = new Derived(record);
      const shown = {
        loom: derived.loom,
        addresses: derived.addresses,
        findings: derived.findings.map(({ why, title }) => ({ why, title })),
        loads: derived.loads,
        sheets: derived.schematic.threads.map(({ turnout }) => derived.sheet(turnout.id)),
        readings: derived.schematic.threads.flatMap((thread) =>
          (["N", "R"] as const).flatMap((position) =>
            (["rest", "throwing"] as const).map((moment) => derived.reading(thread, position, moment)),
          ),
        ),
      };
      for (const [path, number] of numbers(shown)) expect(Number.isFinite(number), path).toBe(true);
      for (const { why } of shown.findings) expect(why).not.toMatch(/NaN|undefined|null|Infinity|: \.| {2}/);
      expect(readRailwayFile(writeRailwayFile(record))).toEqual(record);
    }),
    {
      numRuns: 80,
      examples: [
        // a coil motor on a board for stall motors, which takes more than the board gives
        [
          [
            [3, 32, 4],
            [4, 22, 41],
          ],
        ],
        // one button on a discharge unit, which reaches one coil
        [[[7, 6, 57]]],
      ],
    },
  );
});

describe("comes to the same after any series of edits as from the record anew", () => {
  const run = COLUMNS.findIndex(({ id }) => id === "run");
  const deed: fc.Arbitrary<Deed> = fc.oneof(
    deeds,
    // lengths most of all: they take the short way
    fc.tuple(fc.constant(run + COLUMNS.length), fc.nat(60), fc.nat(60)),
  );
  const starts = [smallRailway, semaphore, ...[DRIVING, FROGS, LAMPS].flatMap((recipes) => Object.values(recipes))];
  const said = ({ findings, loads, schematic, reading, loom, complete }: Derived) => ({
    findings: findings.map(({ key, why }) => `${key} ${why}`),
    loads: loads.map(({ deviceId, worst }) => `${deviceId} ${worst.toPrecision(6)}`),
    readings: schematic.threads.map((thread) => {
      const { motors, lamps, frogs } = reading(thread, "R", "rest");
      const { driverAmps } = reading(thread, "R", "throwing");
      const figures = [driverAmps, ...lamps.map(({ reverse }) => reverse), ...motors.map(({ volts }) => volts)];
      return [
        ...[motors.map(({ goesTo }) => goesTo), lamps.map(({ arm }) => arm), frogs.map(({ carries }) => carries)],
        // what only leaks, millionths, may go another way where a wire that carries no more has changed
        ...figures.map((figure) => (Math.round((figure ?? 0) * 1e6) / 1e6 || 0).toPrecision(5)),
      ];
    }),
    wires: loom.wires.map(({ label, from, to, metres }) => `${label} ${from.name} ${to.name} ${metres}`),
    // what is in use of strips and cables, and what serves nothing, is carried on from one loom to the next
    inUse: [
      ...[...loom.strips, ...loom.cables].map(({ label }) => label),
      ...loom.passages.map(({ panel, layout, cable, core }) => `${panel.name} ${layout.name} ${cable} ${core}`),
      ...loom.idle.map(({ fact, why }) => `${fact.id} ${why}`),
    ],
    complete,
    // groups of wires, and ways along them, are carried on from one loom to the next
    ends: [wiresByNet(loom), wiresByEnd(loom)].map((groups) =>
      [...groups].map(([key, wires]) => `${key} ${wires.map(({ label }) => label)}`).sort(),
    ),
    reached: schematic.nets.map(({ ends: [end] }) =>
      end ? [...reachFrom(loom, endKey(end)).values()].reduce((sum, ohms) => sum + ohms, 0).toPrecision(9) : "",
    ),
  });
  /** After how many steps of its checking the next edit comes, for each; null when all is looked at before. */
  const pauses = fc.array(fc.option(fc.nat(60)), { minLength: 8, maxLength: 8 });
  const NO_PAUSES: null[] = [];
  const series = (from: readonly (() => RailwayRecord)[], of: fc.Arbitrary<Deed>) =>
    fc.property(fc.constantFrom(...from), fc.array(of, { minLength: 2, maxLength: 8 }), pauses, (start, all, after) => {
      let record = start();
      let derived = new Derived(record);
      void said(derived);
      for (const [number, [kind, which, what]] of all.entries()) {
        try {
          const turnout = record.turnouts[which % Math.max(1, record.turnouts.length)];
          const group =
            kind % COLUMNS.length === run && turnout
              ? writeCell(record, turnout.id, "run", String(1 + what))
              : done(record, [kind, which, what]);
          if (group) record = edit(record, group.edits).record;
        } catch (error) {
          if (!(error instanceof RecordError)) throw error;
        }
        derived = new Derived(record, derived);
        const pause = after[number] ?? null;
        let steps = 0;
        if (pause === null) void said(derived);
        else derived.checking.go(() => ++steps > pause);
      }
      expect(said(derived)).toEqual(said(new Derived(record)));
    });

  it("of any kind", { timeout: 120_000 }, () => {
    // a supply that shuts down when both coils of a pair are thrown, and no longer does so behind a longer wire
    const shut: Deed[] = [
      [23, 0, 9],
      [3, 20, 40],
      [23, 33, 6],
    ];
    const parallel = () =>
      railway(
        ["A", "", "twin-coil-surface", "cdu", "toggle-centre-off + toggle-centre-off inverse"],
        ["B", "A", "twin-coil-surface"],
      );
    fc.assert(series([parallel, ...starts], deed), { numRuns: 120, examples: [[parallel, shut, NO_PAUSES]] });
  });

  it("of a club's railway, whose boards share supplies and the track bus", { timeout: 240_000 }, () => {
    const club = completed(clubRailway(400, 40));
    const anywhere = fc.tuple(fc.nat(COLUMNS.length + 9), fc.nat(2000), fc.nat(60));
    fc.assert(series([() => club], anywhere), { numRuns: 5 });
  });

  it("names motors that get too little once, however often the list is looked at", () => {
    const fed = edit(
      railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "A", "stall-motor"]),
      done(railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "A", "stall-motor"]), [15, 18, 39])?.edits ?? [],
    ).record;
    const before = new Derived(fed);
    void before.findings;
    const after = new Derived(edit(fed, addTurnout(fed, "N0").edits).record, before);
    expect(said(after).findings).toEqual(said(new Derived(after.record)).findings);
  });

  it("of events on a bus", { timeout: 120_000 }, () => {
    const onBusses = [
      () => onBus("push-pair", "toggle-latching"),
      () => onBus("toggle-latching"),
      ...["lamp-event-opposite", "event-loop", "output-two-masters"].flatMap((id) => MISTAKES[id] ?? []),
    ];
    // both coils of a motor in a row across an output, of which either may carry the last digit more
    const inRow: Deed[] = [
      [21, 33, 20],
      [3, 0, 0],
      [20, 27, 5],
    ];
    const [first] = onBusses;
    fc.assert(series(onBusses, busDeeds), { numRuns: 80, examples: first ? [[first, inRow, NO_PAUSES]] : [] });
  });
});

it("finds what the record alone tells before loom and circuit are made, whether an edit comes meanwhile or not", () => {
  const record = MISTAKES["address-duplicate"]!();
  const derived = new Derived(record);
  derived.checking.go(() => derived.checking.isAtCircuit);
  expect(derived.checking.findings.map(({ ruleId }) => ruleId)).toContain("address-duplicate");
  expect(derived.isCut).toBe(false);
  const after = new Derived(edit(record, addTurnout(record, "N0").edits).record, derived);
  expect([derived.isCut, after.isCut]).toEqual([false, false]);
  expect(after.findings).toEqual(new Derived(after.record).findings);
  expect(after.isCut).toBe(true);
});

it("takes over in steps what an edit left as it was, from before the edits that were passed over", () => {
  const record = completed(onSharedSupplies(clubRailway(400, 40)));
  const before = new Derived(record);
  void before.findings;
  const motor = typed(record, "a5", "motor", "twin-coil-surface");
  const passed = new Derived(motor, before);
  passed.checking.go(() => true);
  expect([passed.isReady, passed.checking.share]).toEqual([false, 0]);
  const after = new Derived(typed(motor, "a6", "motor", "twin-coil-surface"), passed);
  let steps = 0;
  after.checking.go(() => ++steps > 10);
  expect(after.isReady).toBe(false);
  after.checking.go(() => after.isReady);
  expect(after.findings).toEqual(new Derived(after.record).findings);
  // whoever asks for something has it at once
  expect(passed.circuitry.pieces).toHaveLength(new Derived(motor).circuitry.pieces.length);
  expect(passed.isReady).toBe(true);
});

it("leaves nothing behind of an edit that was only tried", () => {
  const record = completed(smallRailway());
  const derived = new Derived(record);
  void derived.findings;
  const [thread] = derived.schematic.threads;
  derived.remember(thread!, "known", () => "before");
  const tried = new Derived(edit(record, addTurnout(record, "N0").edits).record, derived);
  expect(tried.remember(thread!, "known", () => "anew")).toBe("before");
  expect(tried.remember(thread!, "tried", () => "there")).toBe("there");
  expect(derived.remember(thread!, "tried", () => "here")).toBe("here");
});

it("works each part out once", () => {
  const derived = new Derived(smallRailway());
  expect(derived.findings).toBe(derived.findings);
  expect(derived.sheet("y1")).toBe(derived.sheet("y1"));
  expect(derived.sheet("nothing")).toEqual([]);
  expect(derived.complete).toEqual(["y1", "y2", "m1"]);
});

it("knows what each supply gives at rest and at its worst", () => {
  const loads = new Map(new Derived(smallRailway()).loads.map((load) => [load.deviceId, load]));
  // the unit's charging resistor lets 0.2 A through a held coil; effective value of the peak
  expect(loads.get("ps1")!.worst).toBeGreaterThan(10 * loads.get("ps1")!.rest);
  expect(loads.get("ps1")!.when).toBe("with T1 and T2 held at N");
  // two motors and the board itself: 26 mA and 20 mA
  expect(loads.get("ps2")!.rest).toBeCloseTo(0.046, 3);
  // two engines of 500 mA through what the bus loses in itself
  expect(loads.get("tb1")!.rest).toBeLessThan(0.001);
  expect(loads.get("tb1")!.worst).toBeCloseTo(1 / (1 + 0.2 / 15), 3);
  expect(loads.get("tb1")!.when).toBe("with 2 engines on TB1 running");
});
