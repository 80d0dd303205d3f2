import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted, findingsOf, railway, remedied, threadOf, typed, withFigures } from "../../testing/build.ts";
import { DRIVING } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";

/** The record with boards and supplies so far along the trunk line, by their labels. */
function standing(record: RailwayRecord, metres: Record<string, number | null>): RailwayRecord {
  return drafted(record, (draft) => {
    for (const device of record.devices)
      if (device.label in metres) draft.put("device", { ...device, runMetres: metres[device.label] ?? null });
  });
}

const decoder = railway(["A", "", "stall-motor", "stall-decoder-8"]);

/** Metres of wire between two terminals by the loom, which join them directly. */
function metresBetween(record: RailwayRecord, from: string, to: string): number | undefined {
  const { wires } = new Derived(record).loom;
  return wires.find((wire) => wire.from.name === from && wire.to.name === to)?.metres;
}

describe("a board that stands apart", () => {
  it("has its feeds as long as it is away, and its turnout's wires as before", () => {
    const far = standing(decoder, { D1: 18 });
    expect(metresBetween(decoder, "TB1-J", "D1-J")).toBe(0.5);
    expect(metresBetween(far, "TB1-J", "D1-J")).toBe(18);
    expect(metresBetween(far, "PS1+", "D1+")).toBe(18);
    expect(metresBetween(far, "D1-1A", "A+")).toBe(1.5);
  });

  it("has a second one beside it, and a third further on, fed from the one before", () => {
    const three = railway(
      ["A", "", "stall-motor", "stall-decoder-8"],
      ["B", "", "stall-motor", "dual-control-board", "toggle-centre-off"],
      ["C", "", "stall-motor", "dual-control-board", "toggle-centre-off"],
    );
    const apart = standing(three, { D1: 6, DB1: 6, DB2: 10 });
    const wires = new Derived(apart).loom.wires.filter(({ from, to }) =>
      [from, to].some(({ name }) => /-J$/.test(name)),
    );
    expect(wires.map(({ from, to, metres }) => `${from.name} ${to.name} ${metres}`)).toEqual([
      "TB1-J D1-J 6",
      "DB1-J DB2-J 4",
      "D1-J DB1-J 0.5",
    ]);
  });

  // worked example: 15 V behind 0.2 ohm through 18 m of AWG 24 there and back, 36 x 0.0842 ohm, leave 4.6 A: no trip at 5 A
  it("may be too far for a short at it to trip the breaker", () => {
    const thin = { ...standing(decoder, { D1: 18 }), railway: { ...decoder.railway, wireGauge: "AWG 24" as const } };
    const [finding] = findingsOf(thin, "short-would-not-trip");
    expect(finding!.why).toBe("A short at D1 draws 4.63 A through 3.2 ohm of supply and wire; TB1 trips at 5.00 A.");
    // nearer, or by thicker wire, it does
    expect(findingsOf(standing(thin, { D1: 1.5 }), "short-would-not-trip")).toEqual([]);
    const cured = remedied(thin, finding!, /^Lay all wires in/);
    expect(findingsOf(cured, "short-would-not-trip")).toEqual([]);
  });

  it("draws less and less by a short the further it stands", () => {
    const amps = [1, 5, 20, 40].map((metres) => {
      const record = withFigures(standing(decoder, { D1: metres }), "TB1", { tripAmps: 500 });
      return Number(/draws ([\d.]+) A/.exec(findingsOf(record, "short-would-not-trip")[0]!.why)![1]);
    });
    expect(amps).toEqual([...amps].sort((a, b) => b - a));
    expect(amps[0]! / amps[3]!).toBeGreaterThan(5);
  });

  it("takes its turnouts along: what they share with others is as long as they are apart", () => {
    const two = railway(
      ["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"],
      ["B", "", "twin-coil-surface", "cdu", "toggle-centre-off"],
    );
    const apart = standing(two, { CD2: 9 });
    const derived = new Derived(apart);
    const far = derived.reading(threadOf(derived, "B"), "N", "throwing").motors[0]!;
    const near = derived.reading(threadOf(derived, "A"), "N", "throwing").motors[0]!;
    expect(derived.loom.wires.find(({ from, to }) => from.name === "CD2-−" && to.name === "B-C")?.metres ?? 1.5).toBe(
      1.5,
    );
    expect(far.pulse!.joules).toBeLessThan(near.pulse!.joules);
    expect(far.goesTo).toBe("N");
  });
});

it("comes to the same wires after boards were moved as from the record anew, for every way of driving", () => {
  const names = Object.keys(DRIVING);
  fc.assert(
    fc.property(
      fc.constantFrom(...names),
      fc.array(fc.tuple(fc.nat(20), fc.option(fc.integer({ min: 1, max: 30 }))), { minLength: 1, maxLength: 4 }),
      fc.double({ min: 0.3, max: 9, noNaN: true }),
      (name, moves, run) => {
        let record = DRIVING[name]!();
        let derived = new Derived(record);
        for (const [place, metres] of moves) {
          const boards = record.devices.filter((device) => device.place === "layout");
          const board = boards[place % boards.length];
          if (!board) return;
          record = standing(record, { [board.label]: metres });
          derived = new Derived(record, derived);
        }
        const [turnout] = record.turnouts;
        record = typed(record, turnout!.id, "run", String(Math.round(run * 10) / 10));
        derived = new Derived(record, derived);
        const told = (each: Derived) => each.loom.wires.map(({ from, to, metres }) => [from.name, to.name, metres]);
        expect(told(derived)).toEqual(told(new Derived(record)));
      },
    ),
    { numRuns: 60 },
  );
});
