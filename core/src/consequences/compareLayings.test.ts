// The common of many coils, laid in each of the three ways.
import { expect, it } from "vitest";
import { coilStation, drafted } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { completed } from "../loom/completion.ts";
import { layNet, layZone } from "../loom/laying.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { compareLayings } from "./compareLayings.ts";

/** A station of coil motors on one discharge unit, one every `step` metres along the trunk line. */
function station(motors: number, step: number): RailwayRecord {
  const record = coilStation(motors);
  return drafted(record, (draft) => {
    for (const [index, turnout] of record.turnouts.entries()) {
      const number = Number(turnout.label.slice(1));
      draft.put("turnout", { ...turnout, runMetres: number * step, zoneId: null, order: index });
    }
  });
}

const COMMON = "cd1:−";

it("takes as much wire, as many joints and as many ohms as the lengths say", () => {
  const laid = compareLayings(new Derived(completed(station(4, 1))), COMMON);
  const by = Object.fromEntries(laid.map((each) => [each.topology, each]));
  // derived: runs of 1, 2, 3 and 4 m; 0.025 m more at each end of a wire
  expect(by.star).toMatchObject({ splices: 0, joints: { bench: 0, underneath: 8 } });
  expect(by.star!.metres).toBeCloseTo(1 + 2 + 3 + 4 + 4 * 0.05, 6);
  // 1 m to the first; from there 0.3 m down, 1 m along and 0.3 m up to each next
  expect(by.chain!.metres).toBeCloseTo(1 + 3 * 1.6 + 4 * 0.05, 6);
  // a trunk of 0.7, 1, 1 and 1.3 m, and three droppers of 0.3 m
  expect(by.bus!.metres).toBeCloseTo(0.7 + 1 + 1 + 1.3 + 3 * 0.3 + 7 * 0.05, 6);
  expect(by.bus).toMatchObject({ splices: 3, joints: { bench: 0, underneath: 14 }, present: true });
  // IEC 60228, class 5: 39.0 ohm/km for 0.5 mm2, 13.3 for 1.5 mm2
  expect(by.star!.farthest.ohms).toBeCloseTo(4 * 0.039, 6);
  expect(by.chain!.farthest.ohms).toBeCloseTo((1 + 3 * 1.6) * 0.039, 6);
  expect(by.bus!.farthest.ohms).toBeCloseTo(4 * 0.0133, 6);
});

it("gives the last of nineteen coils more by a trunk than from motor to motor", () => {
  const laid = compareLayings(new Derived(completed(station(19, 0.3))), COMMON);
  const joules = Object.fromEntries(laid.map(({ topology, weakest }) => [topology, weakest!.joules]));
  expect(joules.bus).toBeGreaterThan(joules.star!);
  expect(joules.star).toBeGreaterThan(joules.chain!);
  expect(joules.bus).toBeGreaterThan(1.1 * joules.chain!);
  const metres = Object.fromEntries(laid.map((each) => [each.topology, each.metres]));
  expect(metres.bus).toBeLessThan(metres.star! / 3);
});

it("is laid as somebody chose for the net, before the zone, before the railway", () => {
  const record = drafted(station(4, 1), (draft) => {
    draft.put("zone", { id: "z", label: "Station", name: "", order: 1, commons: null });
    for (const turnout of draft.record.turnouts) draft.put("turnout", { ...turnout, zoneId: "z" });
  });
  const topology = (now: RailwayRecord) =>
    compareLayings(new Derived(now), COMMON).find(({ present }) => present)?.topology;
  expect(topology(record)).toBe("bus");
  const chained = { ...record, railway: { ...record.railway, commons: "chain" as const } };
  expect(topology(chained)).toBe("chain");
  const group = layZone(chained, "z", "star")!;
  expect(group.words).toBe("Laid commons of Station as a wire to each");
  const zoned = edit(chained, group.edits).record;
  expect(topology(zoned)).toBe("star");
  const net = new Derived(zoned).schematic.nets.find(({ id }) => id === COMMON)!;
  const own = edit(zoned, layNet(zoned, net, "bus")!.edits).record;
  expect(topology(own)).toBe("bus");
  const back = layNet(own, net, null)!;
  expect(back.words).toBe("Laid CD1− as usual");
  expect(edit(own, back.edits).record).toEqual(zoned);
  expect(layNet(zoned, net, null)).toBeNull();
  expect(layZone(zoned, "z", "star")).toBeNull();
  expect(compareLayings(new Derived(record), "nothing")).toEqual([]);
});

it("leaves all that is made where it is when it is to be laid in another way", () => {
  const record = completed(station(5, 1));
  const net = new Derived(record).schematic.nets.find(({ id }) => id === COMMON)!;
  const made = record.wires.map((wire) => ({ ...wire, cutAt: "2026-05-12T20:00:00.000Z" }));
  const firm = edit(
    record,
    made.map((value) => ({ op: "put" as const, kind: "wire" as const, value })),
  ).record;
  const chained = completed(edit(firm, layNet(firm, net, "chain")!.edits).record);
  expect(chained.wires).toEqual(firm.wires);
  expect(new Derived(chained).loom.idle).toEqual([]);
});
