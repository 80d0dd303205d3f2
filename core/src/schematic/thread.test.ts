import { describe, expect, it } from "vitest";
import { mounted, railway, retyped, typed } from "../../testing/build.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { withUnchanged } from "../record/unchanged.ts";
import { restsOn } from "./restsOn.ts";
import { devicesOfThread, isSameThread, threadsOf } from "./thread.ts";

const shelf = () =>
  railway(
    ["A", "", "stall-motor", "input-decoder-4", "toggle-centre-off", "lamp-two-colour", "S2"],
    ["B", "", "stall-motor", "D1-2", "toggle-centre-off", "lamp-two-colour", "polarity unit"],
    ["M1", "", "twin-coil-under-board", "cdu", "toggle-centre-off"],
    ["M2", "M1", "twin-coil-under-board"],
  );
/** Labels of the threads that an edit leaves the same, after the record was copied as between threads of the browser. */
const same = (change: (record: RailwayRecord) => RailwayRecord) => {
  const before = shelf();
  const after = withUnchanged(structuredClone(change(before)), before);
  const now = new Map(threadsOf(after).map((thread) => [thread.turnout.id, thread]));
  return threadsOf(before)
    .filter((thread) => {
      const other = now.get(thread.turnout.id);
      return other !== undefined && isSameThread(thread, other);
    })
    .map(({ label }) => label);
};

describe("two threads are the same", () => {
  it("when nothing of them was changed", () => {
    expect(same((record) => record)).toEqual(["A", "B", "M1/M2"]);
  });

  it.each<[string, (record: RailwayRecord) => RailwayRecord, string[]]>([
    ["its run", (record) => typed(record, "a", "run", "3"), ["B", "M1/M2"]],
    ["a follower's hand", (record) => typed(record, "m2", "hand", "left"), ["A", "B"]],
    ["a lamp taken away", (record) => typed(record, "b", "lamp", ""), ["A", "M1/M2"]],
    ["a control of another kind", (record) => retyped(record, "T1", "toggle-latching"), ["B", "M1/M2"]],
    ["crossed leads", (record) => mounted(record, "m2", { crossed: true }), ["A", "B"]],
    ["a board that both are on", (record) => retyped(record, "D1", "output-node-8"), ["M1/M2"]],
    ["a note on a turnout of another", (record) => typed(record, "m1", "name", "West"), ["A", "B"]],
  ])("but not after %s", (_, change, wanted) => {
    expect(same(change)).toEqual(wanted);
  });
});

it("runs through the devices between finger and lamp, supplies apart", () => {
  const [a] = threadsOf(shelf());
  expect([...devicesOfThread(a!)].sort()).toEqual(["a", "a", "a", "af", "d1", "lp1", "t1"].sort());
});

it("rests on a fact about a type wherever a device of it stands, and about a device on that one only", () => {
  const record = shelf();
  const threads = threadsOf(record);
  const fact = { id: "f", text: "x", standing: "heard", figure: null, source: "", at: "" } as const;
  const labels = (typeId: string | null, deviceId: string | null) =>
    restsOn(record, threads, { ...fact, typeId, deviceId }).map(({ label }) => label);
  expect(labels("stall-motor", null)).toEqual(["A", "B"]);
  expect(labels("polarity-unit", null)).toEqual(["B"]);
  expect(labels(null, "cd1")).toEqual(["M1/M2"]);
  expect(labels("servo", null)).toEqual([]);
  expect(labels(null, null)).toEqual([]);
});
