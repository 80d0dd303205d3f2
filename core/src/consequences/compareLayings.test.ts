// The common of many coils, laid in each of the three ways.
import { expect, it } from "vitest";
import { coilStation, drafted } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { completed } from "../loom/completion.ts";
import { commonsOf, layNet, layZone, setPlasticJoints } from "../loom/laying.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { needsOf } from "../stock/needs.ts";
import { compareLayings, compareLayingsIn } from "./compareLayings.ts";

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

it("goes from block to block, one in each zone, with a wire from there to each of its turnouts", () => {
  const record = drafted(station(6, 1), (draft) => {
    for (const [index, id] of ["near", "far"].entries())
      draft.put("zone", { id, label: id, name: "", order: index, commons: null, plasticJoints: 0 });
    for (const turnout of draft.record.turnouts)
      draft.put("turnout", { ...turnout, zoneId: (turnout.runMetres ?? 0) <= 3 ? "near" : "far" });
  });
  const blocks = compareLayings(new Derived(completed(record)), COMMON).find(({ topology }) => topology === "blocks")!;
  expect(blocks).toMatchObject({ blocks: 2, splices: 0, joints: { bench: 0, front: 0, underneath: 16 } });
  // derived: a trunk of 2 m to the middle of three turnouts 1 m apart, 3 m to that of the next three; from each block 0.3 m
  // to the turnout beside it and 1.3 m to its neighbours; 0.05 m of slack in each of eight wires
  expect(blocks.metres).toBeCloseTo(2 + 3 + 2 * (0.3 + 2 * 1.3) + 8 * 0.05, 6);
  // trunks in 1.5 mm2 (13.3 ohm/km), droppers in 0.5 mm2 (39.0), IEC 60228, class 5
  expect(blocks.farthest.ohms).toBeCloseTo(5 * 0.0133 + 1.3 * 0.039, 6);
});

it("adds up what all commons of a zone take, and what they cost", () => {
  const record = completed(
    drafted(station(4, 1), (draft) => {
      draft.put("zone", { id: "z", label: "Station", name: "", order: 1, commons: null, plasticJoints: 0 });
      for (const turnout of draft.record.turnouts) draft.put("turnout", { ...turnout, zoneId: "z" });
    }),
  );
  const before = new Derived(record);
  const own = commonsOf(record, before.schematic.nets, "z");
  expect(own.map(({ purpose }) => purpose).sort()).toEqual(["pulse-plus", "pulse-return"]);
  const [star, , bus] = compareLayingsIn(before, "z");
  const each = own.map(({ id }) => compareLayings(before, id));
  expect(star!.metres).toBeCloseTo(
    each.reduce((sum, [first]) => sum + first!.metres, 0),
    6,
  );
  expect(star!.cost).toBeCloseTo(
    each.reduce((sum, [first]) => sum + first!.cost, 0),
    6,
  );
  // a trunk is short and thick: less wire, dearer by the metre, and splices
  expect(bus!.metres).toBeLessThan(star!.metres);
  const dear = drafted(record, (draft) =>
    draft.put("stock", {
      ...{ id: "s", thing: "wire:WH:0.5 mm2", have: 99, price: 10, supplier: "" },
      at: "2026-05-12T20:00:00.000Z",
    }),
  );
  // what is on the shelf costs as much when it is used
  const metres = compareLayings(new Derived(dear), COMMON)[0]!;
  expect(metres.cost).toBeGreaterThan(10 * metres.metres);
  expect(compareLayingsIn(before, "nowhere")).toEqual([]);
});

it("puts the plastic joints of zones on the buy list", () => {
  const record = drafted(station(2, 1), (draft) =>
    draft.put("zone", { id: "z", label: "Station", name: "", order: 1, commons: null, plasticJoints: 0 }),
  );
  const joints = (now: RailwayRecord) => {
    const { loom, schematic } = new Derived(now);
    return needsOf({ record: now, loom, schematic }).flatMap(({ thing, needed }) =>
      thing === "joint" ? [needed] : [],
    );
  };
  expect(joints(record)).toEqual([]);
  const group = setPlasticJoints(record, "z", 4)!;
  expect(group.words).toBe("Plastic rail joints of Station: 4");
  expect(joints(edit(record, group.edits).record)).toEqual([4]);
  expect(setPlasticJoints(record, "z", 0)).toBeNull();
});

it("is laid as somebody chose for the net, before the zone, before the railway", () => {
  const record = drafted(station(4, 1), (draft) => {
    draft.put("zone", { id: "z", label: "Station", name: "", order: 1, commons: null, plasticJoints: 0 });
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
