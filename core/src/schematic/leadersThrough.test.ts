import { expect, it } from "vitest";
import { smallRailway } from "../../testing/build.ts";
import { DRIVING } from "../../testing/recipes.ts";
import { leadersThrough } from "./leadersThrough.ts";
import { devicesOfThread, threadsOf } from "./thread.ts";

it("finds the threads of a turnout, a control, a unit and what feeds it", () => {
  const record = smallRailway();
  const through = (id: string, way?: number) =>
    leadersThrough(record, { kind: "device", id, ...(way === undefined ? {} : { way }) });
  expect(leadersThrough(record, { kind: "turnout", id: "m2" })).toEqual(["m1"]);
  expect(through("cd1")).toEqual(["y1", "y2"]);
  expect(through("ps1")).toEqual(["y1", "y2"]);
  expect(through("d1")).toEqual(["m1"]);
  expect([through("d1", 1), through("d1", 2)]).toEqual([["m1"], []]);
  expect(leadersThrough(record, { kind: "device", id: "nowhere" })).toEqual([]);
});

it("finds every thread through each of the devices that it runs through, whatever it is driven by", () => {
  for (const make of Object.values(DRIVING)) {
    const record = make();
    for (const thread of threadsOf(record)) {
      for (const id of devicesOfThread(thread))
        expect(leadersThrough(record, { kind: "device", id })).toContain(thread.turnout.id);
    }
  }
});
