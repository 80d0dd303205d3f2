// Feedback encoders: numbers of their inputs, what is at them, and who acts on their messages.
import { expect, it } from "vitest";
import { drafted } from "../../testing/build.ts";
import { MISTAKES } from "../../testing/mistakes.ts";
import { readBy } from "../../testing/recipes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { powerUpTable } from "../indicators/powerUp.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { threadsOf } from "../schematic/thread.ts";
import { worksWithout } from "../schools/compare.ts";
import { turnAt } from "../sense/edits.ts";
import { faultOf, settingLines, wantSetting } from "../settings/settings.ts";
import { feedbackInputs, freeStart } from "./feedback.ts";

const encoder = () => readBy("encoder-16");
const inputsOf = (record: RailwayRecord) => feedbackInputs(record, threadsOf(record));
const wanted = (record: RailwayRecord, name: string, value: string, of = "IN1") => {
  const line = settingLines(record).find((each) => each.of === of && each.setting.name === name)!;
  return edit(record, wantSetting(record, line, value)!.edits).record;
};

it("numbers the inputs of an encoder in a row from its start number, with what is at each and what it does", () => {
  const record = wanted(encoder(), "start number", "33");
  const inputs = inputsOf(record);
  expect(inputs.map(({ number }) => number)).toEqual(Array.from({ length: 16 }, (_, index) => 33 + index));
  expect(inputs[2]).toMatchObject({ label: "IN1-3", on: ["B1"], turnoutIds: ["a"], byStation: false, inverted: false });
  expect(inputs[2]!.does).toHaveLength(1);
  expect(inputs.filter(({ on }) => on.length > 0)).toHaveLength(1);
  const line = settingLines(record).find(({ setting }) => setting.isStart)!;
  expect(faultOf(line, "2034")).toBe("The start number of IN1 is a whole one from 1 to 2033.");
});

it("turns levels round where the sense ledger says so, one by one and all of a board", () => {
  const all = drafted(encoder(), (draft) => turnAt(draft, { link: "inputs", deviceId: "in1", way: null }, true, {}));
  expect(inputsOf(all).every(({ inverted }) => inverted)).toBe(true);
  const but = drafted(all, (draft) => turnAt(draft, { link: "input", deviceId: "in1", way: 3 }, true, {}));
  expect(inputsOf(but).flatMap(({ way, inverted }) => (inverted ? [] : [way]))).toEqual([3]);
});

it("names two encoders with the same numbers, and finds the next that are free", () => {
  const record = drafted(encoder(), (draft) => {
    const second = draft.addDevice("encoder-16", "FE", "layout");
    draft.assign("supply", { deviceId: "ps1", toDeviceId: second.id });
  });
  expect(inputsOf(record).every(({ sharedWith }) => sharedWith.length === 1)).toBe(true);
  expect(freeStart(inputsOf(record), "fe1")).toBe(17);
  const apart = wanted(record, "start number", "17", "FE1");
  expect(inputsOf(apart).every(({ sharedWith }) => sharedWith.length === 0)).toBe(true);
  expect(new Derived(apart).findings.some(({ ruleId }) => ruleId === "feedback-shared")).toBe(false);
});

it("says that the panel is dead without the computer, unless the command station acts by itself", () => {
  const record = MISTAKES["dead-without-computer"]!();
  const computer = (of: RailwayRecord) =>
    powerUpTable(of, threadsOf(of)).find(({ label }) => label === "IN1")!.computer;
  expect(worksWithout(record, threadsOf(record)[0]!)).toBe("nothing: the computer passes the buttons on");
  expect(computer(record)).toBe("the program acts on it again; until then the panel is dead for A");
  const station = wanted(record, "acted on by", "the command station");
  expect(worksWithout(station, threadsOf(station)[0]!)).toBe(
    "the panel, as long as the command station is on; no computer",
  );
  expect(computer(station)).toContain("the command station acts on it again");
  const found = (of: RailwayRecord) =>
    new Derived(of).findings.find(({ ruleId }) => ruleId === "dead-without-computer");
  expect(found(record)?.why).toBe("IN1 is acted on by a computer: while it is off, no button throws A.");
  expect(found(station)).toBeUndefined();
});
