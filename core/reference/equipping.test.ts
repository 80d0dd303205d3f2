// Worked values of the trade for equipping: common practice (no published source) and arithmetic on stated figures.
import { describe, expect, it } from "vitest";
import { allot } from "../src/allot/allot.ts";
import { usualOptions } from "../src/allot/wants.ts";
import { genericType } from "../src/catalogue/catalogue.ts";
import { edit } from "../src/catalogue/edit.ts";
import { gate } from "../src/catalogue/gate.ts";
import { Derived } from "../src/derive.ts";
import { setControls } from "../src/equip/controls.ts";
import { addBoardTo } from "../src/equip/devices.ts";
import { Draft } from "../src/equip/draft.ts";
import { freeInput } from "../src/equip/ways.ts";
import { addTurnout } from "../src/equip/write.ts";
import { emptyRecord, type RailwayRecord } from "../src/record/kinds.ts";
import { threadsOf } from "../src/schematic/thread.ts";
import { guessOf } from "../src/sense/advice.ts";
import { noteSense } from "../src/sense/edits.ts";
import { type Ledger, ledgerOf } from "../src/sense/ledger.ts";
import { railway } from "../testing/build.ts";

const kind = (id: string) => genericType(id)!;
const motors = (count: number, type: string) =>
  railway(...Array.from({ length: count }, (_, index) => [`T${index + 1}`, "", type]));

describe("outputs and boards", () => {
  // common practice: outputs of 40 mA, motors of 15 mA, boards of eight
  it("puts two motors of 15 mA on an output of 40 mA, and no third", () => {
    const pair = railway(["A", "", "stall-motor"], ["B", "A", "stall-motor"]);
    expect(allot(pair, usualOptions(pair)).places[0]?.ways).toEqual([1]);
    const three = railway(["A", "", "stall-motor"], ["B", "A", "stall-motor"], ["C", "A", "stall-motor"]);
    expect(allot(three, { ...usualOptions(three), split: false }).stopped[0]?.why).toContain("5.0 mA too much");
  });

  it("needs three boards of eight for twenty motors", () => {
    const record = motors(20, "stall-motor");
    expect(allot(record, usualOptions(record)).boards).toHaveLength(3);
  });

  it("says that two motors of 15 mA take 75 % of an output", () => {
    const { outputAmps } = kind("stall-decoder-8").figures;
    const { ratedAmps } = kind("stall-motor").figures;
    expect((2 * ratedAmps!.value) / outputAmps!.value).toBeCloseTo(0.75, 10);
    expect(gate({ motor: kind("stall-motor"), driver: kind("stall-decoder-8") }).why).toContain("up to 2");
  });

  // common practice: servo board 9-25 V, eight-output decoder 9-15 V, stall motor 7-12 V: 12 V fits all, 18 V the servo board only
  it("finds the one voltage that suits a decoder, a servo board and a stall motor", () => {
    const window = (id: string) => {
      const { leastVolts, mostVolts } = kind(id).figures;
      return [leastVolts!.value, mostVolts!.value] as const;
    };
    const suits = (id: string, volts: number) => volts >= window(id)[0] && volts <= window(id)[1];
    const all = ["servo-board-4", "stall-decoder-8", "stall-motor"];
    expect(all.every((id) => suits(id, 12))).toBe(true);
    expect(all.filter((id) => suits(id, 18))).toEqual(["servo-board-4"]);
    expect(gate({ motor: kind("stall-motor"), driver: kind("dc-18"), control: kind("toggle-reversing") }).fits).toBe(
      "cannot",
    );
  });
});

describe("inputs", () => {
  /** Turnouts whose buttons of a kind one board of sixteen inputs can read. */
  function readable(control: string, crossovers = 0): number {
    let record = emptyRecord("Inputs");
    const labels = Array.from({ length: 20 }, (_, index) => `T${index}`);
    for (const label of labels) record = edit(record, addTurnout(record, label).edits).record;
    const draft = new Draft(record);
    const board = addBoardTo(draft, "input-node-16");
    for (let pair = 0; pair < crossovers; pair++) {
      const second = draft.record.turnouts.find(({ label }) => label === `T${19 - pair}`)!;
      draft.put("turnout", { ...second, movesWith: `t${pair}` });
    }
    let count = 0;
    for (const { id, movesWith } of draft.record.turnouts) {
      if (movesWith) continue;
      const way = freeInput(draft.record, board.id, control === "push-button" ? 1 : 2);
      if (way === null) continue;
      setControls(draft, id, [{ device: { typeId: control }, by: { deviceId: board.id, way } }]);
      count++;
    }
    return count;
  }

  // derived: sixteen inputs read sixteen turnouts with one toggling button each, eight with two; a crossover counts once
  it("reads sixteen turnouts with one button each, eight with two buttons", () => {
    expect(readable("push-button")).toBe(16);
    expect(readable("push-pair")).toBe(8);
    expect(readable("push-pair", 3)).toBe(8);
  });
});

describe("guessing", () => {
  /** N turnouts of whose frogs nothing is known, and everything else is. */
  function onlyFrogsUnknown(count: number): Ledger[] {
    const rows = Array.from({ length: count }, (_, index) => [
      `T${index + 1}`,
      "",
      "stall-motor",
      index === 0 ? "stall-decoder-8" : `D1-${index + 1}`,
      "",
      "",
      "S1",
    ]);
    const record: RailwayRecord = threadsOf(railway(...rows))
      .flatMap((thread) => ledgerOf(railway(...rows), thread).links)
      .filter(({ link }) => link !== "frog")
      .reduce(
        (now, link) => edit(now, noteSense(now, link, false, "metered", "2026-05-12T20:14:00.000Z").edits).record,
        railway(...rows),
      );
    return threadsOf(record).map((thread) => ledgerOf(record, thread));
  }

  // derived: each guess is wrong half of the time, so N guesses cost N/2 swaps, and all are right with 0.5^N
  it.each([1, 3, 5, 8])("expects half of %d guessed frogs to be swapped", (count) => {
    const guess = guessOf(onlyFrogsUnknown(count));
    expect(guess).toMatchObject({ unknown: count, open: count, swaps: count / 2 });
  });
});

describe("energy of a shared unit", () => {
  // derived: 4700 uF at 25 V hold 1.469 J: 0.734, 0.294 and 0.245 J for each of two, five and six coils
  it.each([
    [2, 0.734],
    [5, 0.294],
    [6, 0.245],
  ])("shared by %d coils is %s J each", (coils, joules) => {
    const farads = kind("cdu").figures.farads!.value;
    expect((farads * 25 ** 2) / 2 / coils).toBeCloseTo(joules, 3);
  });

  it("fires two coils easily, as the solved circuit shows", () => {
    const pair = railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"], ["B", "A", "twin-coil-surface"]);
    const derived = new Derived(pair);
    const [thread] = derived.schematic.threads;
    const pulses = derived.reading(thread!, "R", "throwing").motors.map(({ pulse }) => pulse!.joules);
    const least = kind("twin-coil-surface").figures.pulseJoules!.value;
    expect(pulses.every((joules) => joules > 2 * least)).toBe(true);
  });
});
