// What hangs on rails that are fed through a detector: what it takes flows through the zone.
import { describe, expect, it } from "vitest";
import { drafted, findingsOf, withFigures } from "../../testing/build.ts";
import { LINE_MISTAKES } from "../../testing/lines.ts";
import { Derived } from "../derive.ts";
import { watchedRails } from "../line/blocks.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { schematicOf } from "../schematic/schematic.ts";
import { isWatchedAlike, UNWATCHED } from "../schematic/watched.ts";
import { measure } from "./meter.ts";
import { AT_REST } from "./threadReading.ts";

const lit = LINE_MISTAKES["detector-sees-load"]!;

/** The same with nothing on the line, so that nobody knows what stands in the block. */
const undrawn = (): RailwayRecord => ({ ...lit(), tracks: [], spots: [], marks: [] });

const through = (record: RailwayRecord) =>
  Math.max(
    ...(["N", "R"] as const).flatMap((position) =>
      ([1, -1] as const).map((half) =>
        Math.abs(new Derived(record).circuitry.amps("bd1", "1.sense", { ...AT_REST[position], half })),
      ),
    ),
  );

describe("a frog in a watched block", () => {
  it("hangs on its zone in the rail that the zone lies in, and on the bus in the other", () => {
    const record = lit();
    expect(
      [...watchedRails(record)].map(([id, zones]) => [id, zones.map(({ way, rail }) => `${way} ${rail}`)]),
    ).toEqual([["b1", ["1 J"]]]);
    const ends = (terminal: string) =>
      new Derived(record).schematic.nets
        .find(({ ends: all }) => all.some((end) => `${end.deviceId}:${end.terminal}` === terminal))
        ?.ends.map(({ deviceId, terminal: at }) => `${deviceId}:${at}`);
    const frog = record.assignments.find((each) => each.role === "frog")!.deviceId;
    expect(ends(`${frog}:L`)).toContain("bd1:1o");
    expect(ends(`${frog}:L`)).not.toContain("tb1:J");
    expect(ends(`${frog}:R`)).toContain("tb1:K");
  });

  it("hangs on the bus where nothing is on the line, where no zone watches, and on a bus of another detector", () => {
    expect(watchedRails(undrawn())).toBe(UNWATCHED);
    const nets = (record: RailwayRecord) =>
      schematicOf(record, watchedRails(record)).nets.filter(({ ends }) =>
        ends.some(({ deviceId, terminal }) => deviceId === "bd1" && terminal.endsWith("o")),
      );
    expect(nets(lit())).toHaveLength(1);
    expect(nets(undrawn())).toEqual([]);
    const elsewhere = drafted(lit(), (draft) => {
      draft.unassign((a) => a.role === "commands" && a.toDeviceId === "bd1");
    });
    expect(nets(elsewhere)).toEqual([]);
  });

  it("is told alike as long as the same zones watch the same turnouts", () => {
    const watched = watchedRails(lit());
    expect(isWatchedAlike(watched, watchedRails(lit()))).toBe(true);
    expect(isWatchedAlike(watched, UNWATCHED)).toBe(false);
    const other = new Map([["b1", [{ deviceId: "bd1", way: 2, rail: "J" as const }]]]);
    expect(isWatchedAlike(watched, other)).toBe(false);
  });

  // derived: 15 V less an LED's 2.2 V, another's diode 0.7 V and the zone's 0.6 V, through some 900 ohm: 13 mA
  it("is seen as a train by what its lamps take, and not by a meter", () => {
    expect(through(lit())).toBeGreaterThan(0.01);
    expect(through(lit())).toBeLessThan(0.016);
    expect(through(undrawn())).toBeLessThan(1e-9);
    const dark = drafted(lit(), (draft) => draft.removeWhole("device", "lp1"));
    expect(through(dark)).toBeLessThan(20e-6);
    expect(findingsOf(dark, "detector-sees-load")).toEqual([]);
  });

  it("is seen by a detector that tells less, and not by one that tells more than the lamps take", () => {
    const tells = (detectAmps: number) => findingsOf(withFigures(lit(), "BD1", { detectAmps }), "detector-sees-load");
    expect(tells(0.001)).toHaveLength(1);
    expect(tells(0.05)).toEqual([]);
  });

  it("loses in the detector what its diodes take", () => {
    const derived = new Derived(lit());
    const frog = lit().assignments.find((each) => each.role === "frog")!.deviceId;
    const volts = (half: 1 | -1) =>
      Math.abs(derived.circuitry.volts(`${frog}:L`, "tb1:J", { ...AT_REST.N, half }) ?? 0);
    expect(Math.max(volts(1), volts(-1))).toBeGreaterThan(0.4);
    expect(Math.max(volts(1), volts(-1))).toBeLessThan(0.75);
    const across = measure(derived.circuitry, "bd1:1i", "bd1:1o", "V", AT_REST.N);
    expect(across.value).not.toBeNull();
  });

  it("follows what is drawn on the line as everything anew does", () => {
    const renamed = {
      ...lit(),
      marks: lit().marks.map((mark) => (mark.what === "block" ? { ...mark, name: "C" } : mark)),
    };
    let before: Derived | undefined;
    for (const record of [lit(), undrawn(), lit(), renamed, { ...lit(), marks: [] }, lit()]) {
      before = new Derived(record, before);
      const anew = new Derived(record);
      expect(before.schematic.nets).toEqual(anew.schematic.nets);
      expect(before.findings.map(({ why }) => why)).toEqual(anew.findings.map(({ why }) => why));
    }
  });
});
