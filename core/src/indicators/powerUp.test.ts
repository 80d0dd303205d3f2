import { expect, it } from "vitest";
import { drafted, railway, withFigures } from "../../testing/build.ts";
import { LAMPS, onReversingToggle } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { movesWords, powerUpTable, startOfDay } from "./powerUp.ts";

const rows = (record: RailwayRecord) => powerUpTable(record, new Derived(record).schematic.threads);
const row = (record: RailwayRecord, label: string) => rows(record).find((each) => each.label === label);

it("says what each board does after power, a short, a reset and a restart", () => {
  const record = railway(["A", "", "stall-motor", "stall-decoder-8"]);
  expect(row(record, "D1")).toMatchObject({
    power: "as it was",
    short: "as it was; hears nothing while it lasts",
    reset: "factory: address 1, sense as drawn",
    computer: "as it was",
    moves: [],
  });
  const onTrack = drafted(record, (draft) => {
    const track = record.devices.find(({ typeId }) => typeId === "track-bus")!;
    draft.unassign((a) => a.role === "supply" && a.toDeviceId === "d1");
    draft.assign("supply", { deviceId: track.id, toDeviceId: "d1" });
  });
  expect(row(onTrack, "D1")?.short).toBe("as it was: the short takes its power");
  expect(movesWords(rows(record))).toBe("Nothing moves by itself when power returns.");
});

it("lets a short on the track be felt only by what lives on the track", () => {
  expect(row(railway(["A", "", "servo", "servo-board-4", "push-button"]), "SB1")?.short).toBe("as it was");
  expect(row(LAMPS["outputs of a node that pull down"]!(), "ON1")?.short).toBe("as it was");
  const loop = drafted(railway(["A", "", "stall-motor", "stall-decoder-8"]), (draft) => {
    const track = draft.record.devices.find(({ typeId }) => typeId === "track-bus")!;
    const { id } = draft.addDevice("reverser", "LR", "layout");
    draft.assign("supply", { deviceId: track.id, toDeviceId: id });
  });
  expect(row(loop, "LR1")).toMatchObject({ power: "joins the loop as drawn until a train comes", moves: [] });
});

it("names the turnouts that move by themselves: reversers, and toggles that were thrown meanwhile", () => {
  expect(row(railway(["A", "", "stall-motor", "reverser-stall"]), "LR1")).toMatchObject({
    power: "throws to normal",
    moves: ["A"],
  });
  const servo = railway(["A", "", "servo", "servo-board-4", "toggle-latching"]);
  expect(row(servo, "SB1")).toMatchObject({
    power: "as it was, then as its toggles stand; its servos may twitch until their pulses come",
    moves: ["A"],
  });
  expect(row(railway(["A", "", "servo", "servo-board-4", "push-button"]), "SB1")?.moves).toEqual([]);
  const direct = onReversingToggle("toggle-reversing", ["A", "", "stall-motor"]);
  expect(row(direct, "T1")).toMatchObject({ moves: ["A"] });
  expect(movesWords(rows(direct))).toBe("A may move by itself when power returns: look before you switch on.");
});

it("names the lamps that are dark until the first event", () => {
  expect(row(LAMPS["outputs of a node that pull down"]!(), "ON1")).toMatchObject({
    power: "off until told",
    lamps: ["LP1"],
  });
});

it("staggers a start of day within the supply, and lets units charge", () => {
  const stall = railway(
    ...Array.from({ length: 8 }, (_, i) => [`A${i}`, "", "stall-motor", i ? `D1-${i + 1}` : "stall-decoder-8"]),
  );
  const derived = new Derived(stall);
  // a supply of 2 A moves eight motors of 15 mA at once, in the 3 s of one
  expect(startOfDay(stall, derived.schematic.threads, derived.loads)).toEqual([
    { label: "PS1", turnouts: 8, atOnce: 8, seconds: 3 },
  ]);
  const coils = railway(
    ["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"],
    ["B", "", "twin-coil-surface", "CD1", "toggle-centre-off"],
  );
  const of = new Derived(coils);
  // two charges of 4700 uF through 100 ohm, to 95 %: three time constants each
  const [unit] = startOfDay(coils, of.schematic.threads, of.loads);
  expect(unit).toMatchObject({ label: "CD1", turnouts: 2, atOnce: 1 });
  expect(unit?.seconds).toBeCloseTo(2.82, 10);
});

it("gives each motor of a start of day its own time and current, and waits only where the supply asks for it", () => {
  // four servos of 0.2 A and eight stall motors on 2 A: all at once, in the 3 s of the slowest
  const mixed = railway(
    ...Array.from({ length: 4 }, (_, i) => [`S${i}`, "", "servo", i ? `SB1-${i + 1}` : "servo-board-4", "push-button"]),
    ...Array.from({ length: 8 }, (_, i) => [`A${i}`, "", "stall-motor", i ? `D1-${i + 1}` : "stall-decoder-8"]),
  );
  const starts = (record: RailwayRecord) => {
    const derived = new Derived(record);
    return startOfDay(record, derived.schematic.threads, derived.loads);
  };
  expect(starts(mixed)).toEqual([{ label: "PS1", turnouts: 12, atOnce: 12, seconds: 3 }]);
  // a supply of 0.5 A leaves room for one servo at a time beside what lies at rest
  const [weak] = starts(withFigures(mixed, "PS1", { ratedAmps: 0.5 }));
  expect(weak?.atOnce).toBeLessThan(12);
  expect(weak?.seconds).toBeGreaterThan(8);
  // two coils that are thrown together wait for one charge
  const pair = railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"], ["B", "A", "twin-coil-surface"]);
  expect(starts(pair)[0]).toMatchObject({ turnouts: 2, seconds: expect.closeTo(1.41, 5) });
});
