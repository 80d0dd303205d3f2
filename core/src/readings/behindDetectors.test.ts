// What hangs on rails that are fed through a detector: what it takes flows through the zone.
import { describe, expect, it } from "vitest";
import { drafted, findingsOf, remedied, retyped, withFigures } from "../../testing/build.ts";
import { LINE_MISTAKES } from "../../testing/lines.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { addBoard } from "../equip/devices.ts";
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
    // what insulation leaves between the rails of the block
    expect(through(undrawn())).toBeLessThan(20e-9);
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

describe("an axle with a resistor", () => {
  const record = LINE_MISTAKES["detector-misses-axle"]!();
  /** Amps through a zone with axles in some zones, the greater of the two half cycles. */
  const withAxles = (of: RailwayRecord, way: number, standing: readonly number[]) => {
    const { circuitry } = new Derived(of);
    const number = circuitry.piece(`bd1:${way}i`)!;
    const { members } = circuitry.pieces[number]!;
    const flows = ([1, -1] as const).map((half) => {
      const states = circuitry
        .statesOf(circuitry.pieces[number]!, { ...AT_REST.N, half })
        .map((state, place) =>
          members[place]!.device.id === "bd1" ? { ...state, standing: new Set(standing) } : state,
        );
      return Math.abs(circuitry.solveAs(number, states).amps(`bd1.${way}.sense`)!);
    });
    return Math.max(...flows);
  };

  // derived: (15 V - 0.45 V in the zone's diodes at that current) / 10 kohm
  it.each([
    [10_000, 1.455],
    [4700, 3.09],
    [22_000, 0.663],
  ])("of %d ohm takes %d mA through its zone, and none through another", (axleOhms, milliamps) => {
    const fitted = withFigures(record, "BD1", { axleOhms });
    expect(Math.abs(withAxles(fitted, 1, [1]) * 1000 - milliamps)).toBeLessThan(0.02 * milliamps);
    expect(withAxles(fitted, 2, [1])).toBeLessThan(20e-9);
    expect(withAxles(fitted, 2, [1, 2])).toBeGreaterThan(0.6e-3);
  });

  it("that takes too little is told of, with the resistor that is seen for sure", () => {
    const [finding] = findingsOf(record, "detector-misses-axle");
    expect(finding?.why).toMatch(
      /^An axle with 22\.00 kohm in A takes 0\.7 mA through BD1-1, which may tell a train only from 1\.3 mA\.$/,
    );
    const [remedy] = finding!.remedies;
    // the calculator's own: (15 V - 0.45 V) / (2 x 1 mA), E24
    expect(remedy?.label).toBe("Fit resistors of 6.80 kohm to the axles");
    expect(findingsOf(remedied(record, finding!, /axles/), "detector-misses-axle")).toEqual([]);
    expect(findingsOf(withFigures(record, "BD1", { axleOhms: 10_000 }), "detector-misses-axle")).toEqual([]);
  });

  it("is told of less track volts, and not where nothing feeds the track", () => {
    const on = (volts: number) => withFigures(withFigures(record, "BD1", { axleOhms: 10_000 }), "TB1", { volts });
    expect(findingsOf(on(12), "detector-misses-axle")).toHaveLength(1);
    const unfed = drafted(record, (draft) => {
      draft.unassign((a) => a.role === "commands" && a.toDeviceId === "bd1");
    });
    expect(findingsOf(unfed, "detector-misses-axle")).toEqual([]);
    // what brings the track its commands has no source of its own
    expect(findingsOf(retyped(record, "TB1", "reverser-coil"), "detector-misses-axle")).toEqual([]);
  });
});

describe("lamps behind a zone", () => {
  const output = (record: RailwayRecord) => {
    const { circuitry } = new Derived(record);
    const number = circuitry.piece("bd1.O1")!;
    const place = circuitry.pieces[number]!.members.findIndex(({ device }) => device.id === "bd1");
    return circuitry.statesOf(circuitry.pieces[number]!, AT_REST.N)[place]!;
  };

  it("close the detector's output with no train there, as long as it is sensitive enough", () => {
    expect([...output(lit()).on]).toEqual([1]);
    expect([...output(lit()).standing]).toEqual([]);
    expect([...output(withFigures(lit(), "BD1", { detectAmps: 0.05 })).on]).toEqual([]);
    expect([...output(undrawn()).on]).toEqual([]);
  });

  it("are lit by contacts instead, where the motor has one free, and taken away where it has none", () => {
    const [finding] = findingsOf(lit(), "detector-sees-load");
    expect(finding!.remedies.map(({ label }) => label)).toEqual(["Light LP1 by S2 of B1"]);
    expect(findingsOf(remedied(lit(), finding!, /S2/), "detector-sees-load")).toEqual([]);
    const bare = drafted(lit(), (draft) => {
      const lamp = draft.record.assignments.find((each) => each.role === "lamp")!;
      const motor = draft.record.assignments.find((each) => each.role === "motor")!;
      const second = draft.addDevice("lamp-two-colour", "LP", "panel");
      draft.put("assignment", { ...lamp, id: "lamp-s2", deviceId: second.id, fromId: motor.deviceId, way: 2 });
    });
    const [other] = findingsOf(bare, "detector-sees-load");
    expect(other!.remedies.map(({ label }) => label)).toEqual(["Take LP1 away"]);
    expect(findingsOf(remedied(bare, other!, /away/), "detector-sees-load")).toEqual([]);
  });

  it("come to the same after edits as anew, whoever asks by the zone", () => {
    const asked = edit(lit(), addBoard(lit(), "input-decoder-4").edits).record;
    const sensitive = (detectAmps: number) => withFigures(asked, "BD1", { detectAmps });
    let before: Derived | undefined;
    for (const record of [sensitive(0.001), sensitive(0.05), asked, undrawn(), lit()]) {
      before = new Derived(record, before);
      const anew = new Derived(record);
      expect(before.findings.map(({ why }) => why)).toEqual(anew.findings.map(({ why }) => why));
    }
  });
});
