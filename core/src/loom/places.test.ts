// Where strips stand, and tails of motors: what the loom makes of it, in lengths, cores and joints.
import { expect, it } from "vitest";
import { coilStation, drafted, railway } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { removal } from "../record/cascade.ts";
import type { EditGroup } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { complete, completed } from "./completion.ts";
import { addStrip, setCable, setStrip, takeAway } from "./hand.ts";
import { giveTail, intoTail, tailsWithRoom } from "./handTails.ts";
import { alongOf, amid, cableMetres, isInReach, placeWords, wireFrom } from "./places.ts";
import { progressOf } from "./progress.ts";
import { setLaying } from "./proposing.ts";
import { coreEnds, coresOf } from "./reach.ts";
import { totalsOf } from "./totals.ts";
import { keepWires } from "./work.ts";

/** The record after an edit, with what is proposed then written down. */
const after = (record: RailwayRecord, group: EditGroup | null) =>
  completed(group ? edit(record, group.edits).record : record);
const loomOf = (record: RailwayRecord) => new Derived(record).loom;

/** Coil motors on toggles of two zones, one near the boards and one far off. */
function twoZones(count: number): RailwayRecord {
  const record = coilStation(count);
  const placed = drafted(record, (draft) => {
    for (const [index, id] of ["q", "y"].entries())
      draft.put("zone", { id, label: id.toUpperCase(), name: "", order: index, commons: null, plasticJoints: 0 });
    for (const [index, turnout] of record.turnouts.entries()) {
      const isFar = index * 2 >= count;
      draft.put("turnout", { ...turnout, zoneId: isFar ? "y" : "q", runMetres: (isFar ? 6 : 1) + index * 0.1 });
    }
  });
  return completed(placed);
}

it("puts strips among the turnouts of their zone, with cables as long as that, and short wires from there", () => {
  const together = twoZones(8);
  const record = after(together, setLaying(together, loomOf(together), { stripsAt: "zones" }));
  const loom = loomOf(record);
  const strips = new Map(loom.strips.map((strip) => [strip.id, strip]));
  // throwing wires go from toggles to coils of one zone: their strips stand there
  for (const { layout, metres, net } of loom.passages) {
    const strip = strips.get(layout.stripId)!;
    const zones = loom.wires.flatMap((wire) => {
      const turnout = wire.net === net ? record.turnouts.find(({ id }) => id === wire.turnoutId) : undefined;
      return turnout?.zoneId ?? [];
    });
    if (strip.zoneId) expect(new Set(zones)).toEqual(new Set([strip.zoneId]));
    expect(metres).toBeCloseTo(record.railway.cableMetres + alongOf(strip), 9);
  }
  const zoned = loom.strips.filter(({ place, zoneId }) => place === "layout" && zoneId !== null);
  expect(zoned.map(({ zoneId, runMetres }) => [zoneId, runMetres]).sort()).toEqual([
    ["q", 1.1],
    ["y", 6.5],
  ]);
  // no wire from such a strip is longer than what is between it and the turnout, or than a tail
  for (const wire of loom.wires.filter(
    ({ run, from }) => run === "layout" && strips.get(from.key.split("/")[0]!)?.zoneId,
  )) {
    const run = record.turnouts.find(({ id }) => id === wire.turnoutId)!.runMetres!;
    const along = alongOf(strips.get(wire.from.key.split("/")[0]!)!);
    expect(wire.metres).toBeCloseTo(Math.max(Math.abs(run - along), record.railway.tailMetres), 9);
  }
  const single = (of: RailwayRecord) =>
    loomOf(of).wires.reduce((sum, { core, metres }) => (core ? sum : sum + metres), 0);
  expect(single(record)).toBeLessThan(single(together));
  // and back again, all is as it was
  const back = after(record, setLaying(record, loom, { stripsAt: "boards" }));
  const sums = (of: RailwayRecord) => totalsOf(of, loomOf(of)).map(({ name, sum }) => [name, sum]);
  expect(sums(back)).toEqual(sums(together));
});

it("lets nothing hang on a strip that is out of its reach: beyond it there is another one", () => {
  const record = twoZones(16);
  const near = after(record, setLaying(record, loomOf(record), { stripsAt: "zones", reachMetres: 0.3 }));
  expect(new Derived(near).findings.filter(({ ruleId }) => ruleId === "strip-out-of-reach")).toEqual([]);
  const layout = loomOf(near).strips.filter(({ place, zoneId }) => place === "layout" && zoneId);
  expect(layout.length).toBeGreaterThan(2);
});

it("puts a strip by hand where it is wanted, and what is proposed for its zone goes through it", () => {
  const record = twoZones(4);
  const added = after(record, addStrip(record, "layout"));
  const strip = added.strips.find(({ kept }) => kept)!;
  const placed = after(added, setStrip(added, loomOf(added), strip.id, { zoneId: "y", runMetres: 6.2, front: true }));
  const loom = loomOf(placed);
  const through = loom.passages.filter(({ layout }) => layout.stripId === strip.id);
  expect(through.length).toBeGreaterThan(0);
  expect(through.every(({ layout }) => layout.work === "front" && layout.along === 6.2)).toBe(true);
  expect(progressOf(loom.wires).front.of).toBe(2 * through.length);
  expect(placeWords(placed, placed.strips.find(({ id }) => id === strip.id)!)).toBe("zone Y, 6.2 m along, in front");
  // a zone that goes leaves its strip where it is
  const gone = edit(placed, removal(placed, "zone", "y")).record;
  expect(gone.strips.find(({ id }) => id === strip.id)).toMatchObject({ zoneId: null, runMetres: 6.2 });
});

it("keeps what was said of a strip a moment ago, although nothing was derived since", () => {
  const record = twoZones(4);
  const added = after(record, addStrip(record, "layout"));
  const loom = loomOf(added);
  const { id } = added.strips.find(({ kept }) => kept)!;
  const placed = edit(added, setStrip(added, loom, id, { runMetres: 2.4 })!.edits).record;
  const front = edit(placed, setStrip(placed, loom, id, { front: true })!.edits).record;
  expect(front.strips.find((strip) => strip.id === id)).toMatchObject({ runMetres: 2.4, front: true });
  const [cable] = loom.cables;
  const longer = edit(front, setCable(front, loom, cable!.id, { metres: 3 })!.edits).record;
  const named = edit(longer, setCable(longer, loom, cable!.id, { label: "Main" })!.edits).record;
  expect(named.cables.find((each) => each.id === cable!.id)).toMatchObject({ metres: 3, label: "Main" });
});

it("joins motors by tails, one each or two to one, which are joined to them at the bench", () => {
  const record = completed(
    railway(...[..."ABCD"].map((label) => [label, "", "stall-motor", "stall-decoder-8", "", "", ""])),
  );
  const motors = record.assignments.flatMap((each) => (each.role === "motor" ? [each.deviceId] : []));
  const joints = (of: RailwayRecord) => progressOf(loomOf(of).wires);
  for (const [motorTails, tails] of [
    ["one", 4],
    ["two", 2],
  ] as const) {
    const now = after(record, setLaying(record, loomOf(record), { motorTails, tailCores: 4 }));
    const loom = loomOf(now);
    expect(loom.cables.map(({ tail, cores }) => [tail, cores])).toEqual(Array(tails).fill([true, 4]));
    // two leads of each motor: what was joined underneath at it is joined at the bench
    expect(joints(now).bench.of).toBe(joints(record).bench.of + 2 * motors.length);
    expect(joints(now).underneath.of).toBe(joints(record).underneath.of - 2 * motors.length);
    for (const cable of loom.cables)
      for (const wire of coresOf(loom, cable.id).values())
        expect(motors).toContain(coreEnds(cable, wire).far.of?.deviceId);
    expect(after(now, setLaying(now, loom, { motorTails: "wires" })).wires).toEqual(record.wires);
  }
});

it("gives a motor a tail by hand, takes a wire that was kept beside it in, and takes the tail away again", () => {
  const record = completed(railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "", "stall-motor", "D1"]));
  const [first, second] = loomOf(record).wires.filter(({ to, from }) =>
    [from, to].some(({ of }) => of?.deviceId === "a"),
  );
  const kept = after(record, keepWires(record, loomOf(record), [first!.id], true));
  const setting = after(kept, setLaying(kept, loomOf(kept), { motorTails: "one" }));
  const [open] = tailsWithRoom(setting, loomOf(setting));
  expect(open).toMatchObject({ motor: { id: "a" }, wires: [{ id: first!.id }] });
  const taken = after(setting, intoTail(setting, loomOf(setting), open!.tail, open!.wires));
  expect(tailsWithRoom(taken, loomOf(taken))).toEqual([]);
  expect(taken.wires.find(({ id }) => id === first!.id)).toMatchObject({ kept: true, cableId: open!.tail.id });

  const given = after(record, giveTail(record, loomOf(record), ["a", "b"]));
  const tail = given.cables.find((cable) => cable.tail)!;
  expect(coresOf(loomOf(given), tail.id).size).toBe(4);
  expect(loomOf(given).wires.find(({ id }) => id === second!.id)).toMatchObject({ core: { cable: "TL1" } });
  expect(() => giveTail(given, loomOf(given), ["a"])).toThrow("No wire to A is left to be made");
  const small = { ...record, railway: { ...record.railway, tailCores: 3 } };
  expect(() => giveTail(small, loomOf(small), ["a", "b"])).toThrow("A and B need 4 cores; a tail has 3.");
  expect(after(given, takeAway(given, "cable", tail.id)).wires).toEqual(record.wires);
});

it("gives nets for the same purpose cores of the same colour, as far as there are such cores", () => {
  const record = twoZones(6);
  const byRole = after(record, setLaying(record, loomOf(record), { coresBy: "role", stripsAt: "zones" }));
  const colours = new Map<string, Set<string>>();
  for (const { core, purpose, colour } of loomOf(byRole).wires)
    if (core) colours.set(purpose, (colours.get(purpose) ?? new Set()).add(colour));
  // a return and six throws to each side in three cables: one core of its colour in each
  expect(colours.get("pulse-plus")?.size ?? colours.get("pulse-return")?.size).toBe(1);
  const first = loomOf(byRole).cables[0]!;
  const again = after(byRole, setCable(byRole, loomOf(byRole), first.id, { colours: "pairs" }));
  for (const wire of coresOf(loomOf(again), first.id).values()) expect(wire.colour).toMatch(/^(WH)?(BU|OG|GN|BN)$/);
});

it("reckons places along the trunk line", () => {
  const { railway } = twoZones(2);
  expect(amid([])).toBeNull();
  expect(amid([1, 2, 7])).toBe(2);
  expect(cableMetres(railway, { metres: null }, 3.5)).toBe(5.9);
  expect(cableMetres(railway, { metres: 4 }, 3.5)).toBe(4);
  // beside the boards the run of the turnout holds; elsewhere what is between, no less than a tail
  expect([wireFrom(railway, 0, 0.2), wireFrom(railway, 2, 5), wireFrom(railway, 2, 2.1)]).toEqual([0.2, 3, 0.6]);
  expect([isInReach(railway, 0, 40), isInReach(railway, 2, 4), isInReach(railway, 2, 4.1)]).toEqual([
    true,
    true,
    false,
  ]);
});

it("goes past what is joined already without a splice there", () => {
  // a chain is made; a trunk that is asked for later goes on from the last of it
  const record = completed(coilStation(6));
  const { loom } = complete(record).planned;
  expect(loom.strips.filter(({ kind }) => kind === "splice").length).toBeGreaterThan(0);
  for (const { id, kind } of loom.strips) {
    const at = loom.wires.filter(({ from, to }) => [from.key, to.key].includes(`${id}/1`));
    if (kind === "splice") expect(at.length).toBeGreaterThan(2);
  }
});
