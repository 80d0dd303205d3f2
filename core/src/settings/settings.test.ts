// Settings of devices: wanted, read back, the order of writing them, and as a table both ways.
import { describe, expect, it } from "vitest";
import { railway } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { changeType } from "../equip/devices.ts";
import { resetBoard } from "../numbers/answers.ts";
import type { EditGroup } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { senseAt } from "../sense/ledger.ts";
import {
  faultOf,
  likeLines,
  readSetting,
  readSettingRows,
  settingLines,
  settingRows,
  settingRowsFromJson,
  settingSteps,
  wantSetting,
  wantSettings,
} from "./settings.ts";

const AT = "2026-05-12T20:14:00.000Z";
const servos = () =>
  railway(["A", "", "servo", "servo-board-4"], ["B", "", "servo", "SB1"], ["C", "", "stall-motor", "stall-decoder-8"]);
const line = (record: RailwayRecord, of: string, name: string) =>
  settingLines(record).find((each) => each.of === of && each.setting.name === name)!;
const after = (record: RailwayRecord, group: EditGroup | null) => edit(record, group!.edits).record;

describe("settings", () => {
  it("are the factory's until something else is wanted, and agree when they were read back so", () => {
    const record = servos();
    expect(line(record, "SB1-2", "speed")).toMatchObject({ wanted: "5", isOwn: false, standing: "bought" });
    const wanted = after(record, wantSetting(record, line(record, "SB1-2", "speed"), "3"));
    expect(line(wanted, "SB1-2", "speed")).toMatchObject({ wanted: "3", isOwn: true, standing: "due" });
    expect(line(wanted, "SB1-1", "speed").standing).toBe("bought");
    const read = after(wanted, readSetting(wanted, line(wanted, "SB1-2", "speed"), "3", AT));
    expect(line(read, "SB1-2", "speed")).toMatchObject({ standing: "agrees", readAt: AT });
    const typed = after(wanted, readSetting(wanted, line(wanted, "SB1-2", "speed"), " 3", AT));
    expect(line(typed, "SB1-2", "speed").standing).toBe("agrees");
    // another board in its place knows nothing of what was read from this one
    const other = edit(read, changeType(read, "sb1", "servo-decoder-4").edits).record;
    expect(other.settings).toEqual([]);
    const otherwise = after(wanted, readSetting(wanted, line(wanted, "SB1-2", "speed"), "5", AT));
    expect(line(otherwise, "SB1-2", "speed").standing).toBe("differs");
    // reset, all is the factory's again
    const reset = after(read, resetBoard(read, "sb1", "", AT));
    expect(line(reset, "SB1-2", "speed")).toMatchObject({ read: "5", standing: "differs" });
    expect(line(reset, "SB1-1", "speed")).toMatchObject({ read: "5", standing: "agrees" });
  });

  it("are wanted alike for all of a kind as one edit, which one undo takes back", () => {
    const record = servos();
    const all = likeLines(settingLines(record), line(record, "SB1-1", "speed"));
    expect(all.map(({ of }) => of)).toEqual(["SB1-1", "SB1-2", "SB1-3", "SB1-4"]);
    const group = wantSettings(record, all, "2")!;
    expect(group.words).toBe("speed of 4 outputs: 2");
    const { record: now, inverses } = edit(record, group.edits);
    expect(likeLines(settingLines(now), line(now, "SB1-1", "speed")).every(({ wanted }) => wanted === "2")).toBe(true);
    expect(edit(now, inverses).record).toEqual(record);
  });

  it("that turn a sense are its place in the ledger, whichever of the two is written", () => {
    const record = servos();
    const sense = line(record, "D1-1", "sense");
    expect(sense.wanted).toBe("as drawn");
    const turned = after(record, wantSetting(record, sense, "reversed"));
    expect(senseAt(turned, { link: "setting", deviceId: "d1", way: 1 })).toMatchObject({ inverts: true });
    expect(turned.settings).toEqual([]);
    expect(line(turned, "D1-1", "sense")).toMatchObject({ wanted: "reversed", standing: "due" });
    expect(line(turned, "D1-2", "sense").wanted).toBe("as drawn");
  });

  it("cannot be what the device has not", () => {
    const speed = line(servos(), "SB1-1", "speed");
    expect(faultOf(speed, "10")).toBe('speed of SB1-1 cannot be "10"; it may be 1 to 9.');
    expect(faultOf(speed, "")).toBe("Say what speed of SB1-1 is to be.");
    expect(faultOf(speed, "9")).toBeNull();
  });
});

describe("the order of setting", () => {
  it("goes from mid by horn and link to the ends and the speed, and is done when all is read back", () => {
    let record = servos();
    for (const [name, value] of [
      ["speed", "2"],
      ["reverse end", "1.7 ms"],
      ["mid", "1.45 ms"],
      ["normal end", "1.3 ms"],
    ] as const)
      record = after(record, wantSetting(record, line(record, "SB1-1", name), value));
    expect(settingSteps(record, "sb1").map(({ text }) => text)).toEqual([
      "SB1-1: set mid to 1.45 ms, and read it back.",
      "Fit the horn square to the linkage at mid, then the link, with the blades in the middle.",
      "SB1-1: set normal end to 1.3 ms, and read it back.",
      "SB1-1: set reverse end to 1.7 ms, and read it back.",
      "Throw both ways: the blades close, and the servo does not hum.",
      "SB1-1: set speed to 2, and read it back.",
    ]);
    record = after(record, readSetting(record, line(record, "SB1-1", "mid"), "1.45 ms", AT));
    expect(settingSteps(record, "sb1").filter(({ done }) => done)).toHaveLength(1);
    for (const each of settingLines(record).filter(({ standing }) => standing === "due"))
      record = after(record, readSetting(record, each, each.wanted, AT));
    expect(settingSteps(record, "sb1")).toEqual([]);
    expect(() => settingSteps(record, "nothing")).toThrow('There is no device "nothing".');
  });

  it("opens a lock before anything is written, and sets it to nobody's key afterwards", () => {
    const record = railway(["A", "", "slow-motor-decoder"]);
    const force = settingLines(record).find(({ setting }) => setting.name === "force")!;
    const now = after(record, wantSetting(record, force, "6"));
    expect(settingSteps(now, force.device.id).map(({ text }) => text)).toEqual([
      "A: set its lock to its own key.",
      "A: set force to 6, and read it back.",
      "A: set its lock to another value, which is nobody else's key.",
    ]);
  });
});

describe("settings as a table", () => {
  it("read back to the same, in any order of columns", () => {
    const record = servos();
    const now = after(record, wantSetting(record, line(record, "SB1-2", "speed"), "3"));
    const rows = settingRows(settingLines(now));
    expect(readSettingRows(now, rows)).toEqual({ group: null, refused: [] });
    const [head, ...body] = rows;
    const turned = [head!.toReversed(), ...body.map((row) => row.toReversed())];
    const { group, refused } = readSettingRows(record, turned);
    expect(refused).toEqual([]);
    expect(settingLines(after(record, group)).map(({ wanted }) => wanted)).toEqual(
      settingLines(now).map(({ wanted }) => wanted),
    );
  });

  it("read back from JSON as well, and refuse what is none", () => {
    const record = servos();
    const text = JSON.stringify([
      { device: "SB1", output: 2, setting: "speed", wanted: "3" },
      { device: "SB1", output: null, setting: "speed", wanted: "3" },
      "nothing",
    ]);
    const { group, refused } = readSettingRows(record, settingRowsFromJson(text));
    expect(group!.edits).toHaveLength(1);
    expect(refused).toEqual([{ row: 3, why: 'There is no setting "speed" of SB1.' }]);
    expect(() => settingRowsFromJson("[{")).toThrow("The file is no JSON: it seems to be cut short.");
    expect(() => settingRowsFromJson("{}")).toThrow("The file holds no list of settings.");
  });

  it("say of each row that cannot be taken over where it is and why, and take the others", () => {
    const record = servos();
    const table = [
      ["device", "output", "setting", "wanted"],
      ["SB1", "1", "speed", "99"],
      ["SB9", "1", "speed", "3"],
      ["sb1", "2", "speed", "3"],
      ["", "", "", ""],
    ];
    const { group, refused } = readSettingRows(record, table);
    expect(refused).toEqual([
      { row: 2, why: 'speed of SB1-1 cannot be "99"; it may be 1 to 9.' },
      { row: 3, why: 'There is no setting "speed" of SB9-1.' },
    ]);
    expect(group!.edits).toHaveLength(1);
    expect(() => readSettingRows(record, [["a", "b"]])).toThrow('The table has no column "device".');
  });
});

it("names what was read back otherwise, and wants it so when that is chosen", () => {
  const record = servos();
  const wanted = after(record, wantSetting(record, line(record, "SB1-2", "speed"), "3"));
  const read = after(wanted, readSetting(wanted, line(wanted, "SB1-2", "speed"), "5", AT));
  const finding = new Derived(read).findings.find(({ ruleId }) => ruleId === "setting-differs")!;
  expect(finding).toMatchObject({ where: "SB1-2", turnoutIds: ["b"] });
  const cured = after(read, finding.remedies[0]!.group);
  expect(new Derived(cured).findings.some(({ ruleId }) => ruleId === "setting-differs")).toBe(false);
});
