// What somebody has made with their hands: it stays as it is whatever is edited elsewhere, and what no longer serves is named.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { coilStation, mounted, railway, smallRailway, typed } from "../../testing/build.ts";
import { after, type Deed, deeds, EXHIBITS, randomRailway } from "../../testing/exhibits.ts";
import { edit } from "../catalogue/edit.ts";
import { consequencesOf } from "../consequences/consequences.ts";
import { Derived } from "../derive.ts";
import { removeDevice } from "../equip/devices.ts";
import { addTurnout, writeCell } from "../equip/write.ts";
import type { Edit } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Wire as Fact, standingOfWire, WIRE_STEPS } from "../record/made.ts";
import { RecordError } from "../record/problems.ts";
import { MOTOR_TAILS, TOPOLOGIES } from "../record/schemas.ts";
import { isSame } from "../record/unchanged.ts";
import { endKey, type Net } from "../schematic/nets.ts";
import { complete, completed, completionOf } from "./completion.ts";
import { addStrip, endAt, moveCore, moveWay, setCable, setStrip, setWire, takeAway } from "./hand.ts";
import { giveTail } from "./handTails.ts";
import { layNet } from "./laying.ts";
import { loomOf } from "./loom.ts";
import { setLaying, type WaysOfLaying } from "./proposing.ts";
import { factEnds, type Loom } from "./wire.ts";
import { freeNumbers, keepWires, moveWires, proposeAnew, takeWiresOut, tickWires } from "./work.ts";

const AT = "2026-05-12T20:00:00.000Z";
const LATER = "2026-06-01T20:00:00.000Z";

const six = () =>
  railway(
    ...["A", "B", "C", "D", "E", "F"].map((label, index) => [
      label,
      "",
      "twin-coil-surface",
      index === 0 ? "cdu" : "CD1",
      "toggle-centre-off",
      index % 2 ? "lamp-two-colour" : "",
      index % 2 ? "" : "polarity unit",
    ]),
  );

const loomIn = (record: RailwayRecord) => new Derived(record).loom;
const isFirm = (fact: Fact) => ["made", "kept"].includes(standingOfWire(fact));

/** Ticks a step off for wires chosen by what they are called. */
function ticked(
  record: RailwayRecord,
  labels: readonly string[],
  ...steps: (typeof WIRE_STEPS)[number][]
): RailwayRecord {
  return steps.reduce((now, step) => {
    const loom = loomIn(now);
    const ids = loom.wires.filter(({ label }) => labels.includes(label)).map(({ id }) => id);
    const group = tickWires(now, loom, ids, step, AT);
    return group ? completed(edit(now, group.edits).record) : now;
  }, record);
}

const putRailway = ({ railway }: RailwayRecord, change: Partial<RailwayRecord["railway"]>): Edit => ({
  op: "railway",
  value: { ...railway, ...change },
});

/**
 * Something done to wires, chosen by numbers: a tick, a tick taken back, kept, let go, taken out, freed, all proposed anew,
 * laid in another way.
 */
function worked(record: RailwayRecord, [kind, which, what]: Deed): RailwayRecord {
  const loom = loomIn(record);
  const some = loom.wires.filter((_, index) => (index + which) % 5 < 2).map(({ id }) => id);
  const facts = record.wires.map(({ id }) => id).filter((_, index) => (index + which) % 7 === 0);
  const step = WIRE_STEPS[what % WIRE_STEPS.length] ?? "cutAt";
  const topology = TOPOLOGIES[what % TOPOLOGIES.length] ?? "bus";
  const { nets } = new Derived(record).schematic;
  const net = nets[which % Math.max(1, nets.length)] ?? { id: "", purpose: "frog", ends: [] };
  const groups = [
    () => tickWires(record, loom, some, step, AT),
    () => tickWires(record, loom, some, step, AT),
    () => tickWires(record, loom, facts, step, null),
    () => keepWires(record, loom, some, what % 2 === 0),
    () => takeWiresOut(record, facts, LATER),
    () => freeNumbers(record, facts),
    () => proposeAnew(record),
    () => ({ edits: [putRailway(record, { commons: topology, feeders: topology })] }),
    () => layNet(record, net, topology),
    () => byHand(record, loom, which, what),
    () => byHand(record, loom, what, which),
    () => setLaying(record, loom, placing(which, what)),
  ];
  const group = groups[kind % groups.length]?.();
  return group ? edit(record, group.edits).record : record;
}

/** How strips, cores and tails may be proposed, chosen by numbers. */
function placing(which: number, what: number): Partial<WaysOfLaying> {
  return {
    stripsAt: which % 2 ? "zones" : "boards",
    coresBy: what % 2 ? "role" : "number",
    motorTails: MOTOR_TAILS[what % MOTOR_TAILS.length] ?? "one",
    tailCores: 3 + (which % 8),
    reachMetres: 1 + (what % 4),
  };
}

/** The railway with its turnouts in two zones and at places along the trunk line, chosen by a number. */
function placed(record: RailwayRecord, which: number): RailwayRecord {
  const zones = ["Q", "R"].map((label, order): Edit => {
    const value = { id: label.toLowerCase(), label, name: "", order: 90 + order, commons: null, plasticJoints: 0 };
    return { op: "put", kind: "zone", value };
  });
  const turnouts = record.turnouts.map((turnout, index): Edit => {
    const zoneId = ["q", "r", null][(index + which) % 3] ?? null;
    const runMetres = [0.5, 2.5, 4, 6, null][(index * which) % 5] ?? null;
    return { op: "put", kind: "turnout", value: { ...turnout, zoneId, runMetres } };
  });
  return edit(record, [...zones, ...turnouts]).record;
}

/** Something changed by hand, chosen by numbers: a way, a core, an end, a strip, a cable, a wire, spare ways; null when it is refused. */
function byHand(record: RailwayRecord, loom: Loom, which: number, what: number) {
  const screws = loom.strips.filter(({ kind }) => kind === "screws");
  const strip = screws[which % Math.max(1, screws.length)];
  const other = screws[what % Math.max(1, screws.length)];
  const cores = loom.wires.filter(({ core }) => core !== null);
  const [core, wire] = [cores[which % Math.max(1, cores.length)], loom.wires[what % Math.max(1, loom.wires.length)]];
  const cable = loom.cables[what % Math.max(1, loom.cables.length)];
  const at = { stripId: strip?.id ?? "", way: 1 + (what % 12) };
  const zone = record.zones[what % (record.zones.length + 1)];
  const makings = [
    () => moveWay(record, loom, { stripId: other?.id ?? "", way: 1 + (which % 12) }, at),
    () => moveCore(record, loom, core?.id ?? "", cable?.id ?? "", 1 + (what % 8)),
    () => endAt(record, loom, wire?.id ?? "", what % 2 ? "from" : "to", at),
    () => setStrip(record, loom, strip?.id ?? "", { ways: 6 + (what % 12) }),
    () => setCable(record, loom, cable?.id ?? "", { cores: 4 + (which % 9), colours: "pairs", metres: 3 }),
    () => setWire(record, loom, wire?.id ?? "", { colour: "BK", metres: 1 + what }),
    () => addStrip(record, what % 2 ? "panel" : "layout"),
    () => ({ edits: [putRailway(record, { spareShare: (what % 5) / 10 })] }),
    () => takeAway(record, "strip", strip?.id ?? ""),
    () => setStrip(record, loom, strip?.id ?? "", { zoneId: zone?.id ?? null, runMetres: 1 + which }),
    () =>
      giveTail(
        record,
        loom,
        record.assignments
          .filter(({ role }) => role === "motor")
          .map(({ deviceId }) => deviceId)
          .slice(which % 3, (which % 3) + 2),
      ),
    () => takeAway(record, "cable", cable?.id ?? ""),
  ];
  try {
    return makings[(which + what) % makings.length]?.() ?? null;
  } catch (error) {
    if (error instanceof RecordError) return null;
    throw error;
  }
}

/** The railway with a turnout more. */
const withTurnout = (record: RailwayRecord, label: string) => edit(record, addTurnout(record, label).edits).record;

/** What joins each net, held against the net: no more and no less than its terminals, and screws that no other net has. */
function makesExactlyTheNets(loom: Loom, nets: readonly Net[]): void {
  const netAt = new Map<string, string>();
  for (const { net, from, to } of loom.wires) {
    for (const { key } of [from, to]) {
      expect(netAt.get(key) ?? net, key).toBe(net);
      netAt.set(key, net);
    }
  }
  for (const net of nets) {
    const wires = loom.wires.filter((wire) => wire.net === net.id);
    const reached = new Set([endKey(net.ends[0]!)]);
    for (let size = 0; size < reached.size; ) {
      size = reached.size;
      for (const { from, to } of wires)
        if (reached.has(from.key) || reached.has(to.key)) reached.add(from.key).add(to.key);
    }
    for (const end of net.ends) expect(reached, `${net.id} reaches ${endKey(end)}`).toContain(endKey(end));
    for (const { from, to } of wires) for (const { key } of [from, to]) expect(reached).toContain(key);
    const terminals = new Set(net.ends.map(endKey));
    for (const key of reached) if (!key.includes("/")) expect(terminals).toContain(key);
  }
}

/** Facts that are otherwise after an edit than before it, and that nothing names. */
function changedUnnamed(before: RailwayRecord, now: RailwayRecord, loom: Loom): string[] {
  const named = new Set(loom.idle.map(({ fact }) => fact.id));
  const known = new Map(now.wires.map((fact) => [fact.id, fact]));
  const serving = new Map(loom.wires.map((wire) => [wire.id, wire]));
  return before.wires.filter(isFirm).flatMap((fact) => {
    const after = known.get(fact.id);
    if (!after) return [`${fact.id} is gone`];
    if (!isSame(fact, after) && !named.has(fact.id)) return [`${fact.id} was changed`];
    const wire = serving.get(fact.id);
    if (!wire && !named.has(fact.id)) return [`${fact.id} is neither laid nor idle`];
    const ends = factEnds(after);
    return wire && [wire.from.key, wire.to.key].sort().join() !== [ends.from, ends.to].sort().join()
      ? [`${fact.id} was moved`]
      : [];
  });
}

/** Wires of nets that an edit left alone, and that are otherwise after it. */
function changedFarAway(before: Derived, now: Derived): string[] {
  const stands = ({ record }: Derived, net: Net) =>
    JSON.stringify([
      net.purpose,
      net.ends,
      net.ends.map(({ deviceId }) => record.devices.find(({ id }) => id === deviceId)),
      net.ends.map(({ turnoutId }) => record.turnouts.find(({ id }) => id === turnoutId)?.runMetres),
      net.ends.map(({ deviceId }) => {
        const at = record.assignments.find((a) => ["motor", "frog"].includes(a.role) && a.deviceId === deviceId);
        return at && "turnoutId" in at ? record.turnouts.find(({ id }) => id === at.turnoutId) : null;
      }),
    ]);
  const wiresOf = ({ loom }: Derived, net: Net) =>
    JSON.stringify(loom.wires.filter((wire) => wire.net === net.id).sort((a, b) => a.number - b.number));
  // where a made wire stands against it now, and is named, a net may have to go another way
  const inTheWay = new Set(now.loom.idle.map(({ fact }) => fact.id));
  const isDisturbed = (net: Net) => before.loom.wires.some(({ id, net: of }) => of === net.id && inTheWay.has(id));
  return now.schematic.nets.flatMap((net) => {
    const was = before.schematic.nets.find(({ id }) => id === net.id);
    const isLike = was && stands(before, was) === stands(now, net);
    return isLike && !isDisturbed(was) && wiresOf(before, was) !== wiresOf(now, net) ? [net.id] : [];
  });
}

describe("what is made", () => {
  it("stays as it is through any series of edits and makings, and what no longer serves is named", () => {
    const series = fc.array(fc.tuple(fc.boolean(), deeds), { minLength: 2, maxLength: 9 });
    fc.assert(
      fc.property(randomRailway(5), fc.nat(9), series, (start, which, all) => {
        let derived = new Derived(completed(which % 3 ? placed(start, which) : start));
        for (const [isWork, deed] of all) {
          const plan = isWork ? worked(derived.record, deed) : after(derived.record, deed);
          const between = new Derived(plan, derived);
          if (!isWork) {
            expect(changedUnnamed(derived.record, plan, between.loom)).toEqual([]);
            expect(changedFarAway(derived, between)).toEqual([]);
          }
          makesExactlyTheNets(between.loom, between.schematic.nets);
          const proposed = completionOf(plan, between.loom);
          const now = new Derived(edit(plan, proposed).record, between);
          // writing the proposals down changes nothing of them
          expect(now.loom.wires).toEqual(between.loom.wires);
          expect(completionOf(now.record, now.loom)).toEqual([]);
          expect(now.loom).toEqual(loomOf(now.record, now.schematic));
          makesExactlyTheNets(now.loom, now.schematic.nets);
          // the ends that are ticked off are those that the record has first and last
          const held = new Map(now.record.wires.map((fact) => [fact.id, factEnds(fact)]));
          for (const { id, from, to } of now.loom.wires)
            expect([held.get(id)?.from, held.get(id)?.to], id).toEqual([from.key, to.key]);
          derived = now;
        }
      }),
      { numRuns: Number(process.env.LOOM_RUNS ?? 40) },
    );
  }, 60_000);

  it("a net keeps its core in the cable when it gets one of a tail as well, whichever has the lower number", () => {
    const lit = (labels: string[]) =>
      railway(...labels.map((label) => [label, "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour"]));
    const start = completed(lit(["M1", "M2"]));
    const loom = loomIn(start);
    const ways = setLaying(start, loom, { coresBy: "role", motorTails: "one", tailCores: 3 });
    const written = completed(edit(start, ways?.edits ?? []).record);
    const tails = new Set(written.cables.filter(({ tail }) => tail).map(({ id }) => id));
    expect(written.wires.some(({ cableId }) => cableId !== null && tails.has(cableId))).toBe(true);
    const last = written.wires.length + 1;
    // cores from the far end of the cable, which nobody would give out first
    const cable = written.cables.find(({ tail }) => !tail);
    const wires = written.wires.map((wire) => {
      const core = wire.cableId === cable?.id && wire.core !== null ? 9 - wire.core : wire.core;
      return { ...wire, number: last - wire.number, core };
    });
    const turned = { ...written, wires };
    expect(complete(turned).edits).toEqual([]);
  });

  it.each(Object.entries(EXHIBITS).filter(([, make]) => make().wires.length === 0))(
    "is as the plan has it, all of it made: %s",
    (_, make) => {
      const record = completed(make());
      const loom = loomIn(record);
      const group = tickWires(
        record,
        loom,
        loom.wires.map(({ id }) => id),
        "toJoinedAt",
        AT,
      );
      const made = group ? edit(record, group.edits).record : record;
      const now = loomIn(made);
      expect(now.idle).toEqual([]);
      expect(
        now.wires.map(({ element, label, gauge, colour, metres }) => [element, label, gauge, colour, metres]),
      ).toEqual(loom.wires.map(({ element, label, gauge, colour, metres }) => [element, label, gauge, colour, metres]));
      expect(complete(made).edits).toEqual([]);
    },
  );

  it("keeps every number, screw and core of the others when a turnout is added or a lamp taken away", () => {
    const station = completed(coilStation(5));
    const before = loomIn(station).wires;
    const fitted = typed(typed(withTurnout(station, "Y6"), "y6", "motor", "twin-coil-surface"), "y6", "driver", "CD1");
    const added = loomIn(typed(fitted, "y6", "control", "toggle-centre-off")).wires;
    const labels = new Map(added.map(({ element, label }) => [element, label]));
    const gone = before.filter(({ element, label }) => labels.get(element) !== label);
    // the trunk of the common ended at Y5, and goes on from there
    expect(gone.map(({ from, to }) => [from.name, to.name])).toEqual([["J4", "Y5-C"]]);
    expect(added.length).toBe(before.length + 9);

    const record = completed(smallRailway());
    const known = new Map(loomIn(record).wires.map(({ element, label }) => [element, label]));
    // the lamp's own wires go, and of the panel's chain one link is new
    const fewer = loomIn(typed(record, "y1", "lamp", "")).wires;
    for (const { element, label } of fewer) expect(known.get(element) ?? label).toBe(label);
    expect(fewer.filter(({ element }) => !known.has(element)).length).toBeLessThanOrEqual(3);
    expect(fewer.length).toBeLessThan(known.size - 4);
  });

  it("has length, gauge and colour of its own from the first tick, whatever the railway's become", () => {
    const record = ticked(completed(six()), ["W3"], "cutAt");
    const [was] = loomIn(record).wires.filter(({ label }) => label === "W3");
    const thicker = { ...record, railway: { ...record.railway, wireGauge: "2.5 mm2" as const, runMetres: 9 } };
    const now = loomIn(thicker).wires.find(({ label }) => label === "W3");
    expect(now).toMatchObject({ gauge: was!.gauge, metres: was!.metres, standing: "made" });
    // with the tick taken back it is a proposal again
    const back = tickWires(thicker, loomIn(thicker), [now!.id], "cutAt", null)!;
    const open = loomIn(edit(thicker, back.edits).record).wires.find(({ label }) => label === "W3");
    expect(open).toMatchObject({
      standing: "proposed",
      fact: null,
      ...(now!.run === "cable" ? {} : { gauge: "2.5 mm2" }),
    });
  });

  it("ticks off what was cut together with what was joined, and says what was done", () => {
    const record = completed(six());
    const loom = loomIn(record);
    const group = tickWires(record, loom, ["w1", "w2", "w3"], "fromJoinedAt", AT)!;
    expect(group.words).toBe("Joined at its first end: 3 wires, W1 to W3");
    const { wires } = edit(record, group.edits).record;
    expect(wires.find(({ id }) => id === "w2")).toMatchObject({ cutAt: AT, fromJoinedAt: AT, toJoinedAt: null });
    expect(tickWires(record, loom, ["w1"], "cutAt", null)).toBeNull();
    // what is labelled was cut; with that taken back nothing was done of it
    const labelled = edit(record, tickWires(record, loom, ["w5"], "labelledAt", AT)!.edits).record;
    expect(labelled.wires.find(({ id }) => id === "w5")).toMatchObject({ cutAt: AT, labelledAt: AT });
    const uncut = tickWires(labelled, loomIn(labelled), ["w5"], "cutAt", null)!;
    expect(edit(labelled, uncut.edits).record).toEqual(record);
    expect(keepWires(record, loom, ["w4", "w6", "w9"], true)!.words).toBe("Kept 3 wires, W4 and W6 to W9");
  });

  it("is named when its turnout's toggle goes, with what was written at its end, and takes no other place", () => {
    const before = completed(six());
    const tail = loomIn(before).wires.find(({ from, to }) => [from.name, to.name].includes("T3-N"))!;
    const made = ticked(before, [tail.label], "fromJoinedAt", "toJoinedAt");
    const gone = completed(edit(made, removeDevice(made, "t3").edits).record);
    const { idle, wires } = loomIn(gone);
    expect(idle.map(({ fact, why, from, to }) => [fact.id, why, [from, to]])).toEqual([
      [tail.id, "loose", [tail.from.name, tail.to.name]],
    ]);
    // its screw is taken as long as it hangs there
    const screw = [tail.from, tail.to].find(({ of }) => of === null)!;
    expect(wires.flatMap(({ from, to }) => [from.key, to.key])).not.toContain(screw.key);
    // taken out, it keeps its number, and its screw is free
    const out = completed(edit(gone, takeWiresOut(gone, [tail.id], LATER)!.edits).record);
    expect(loomIn(out).idle).toEqual([]);
    const fitted = typed(typed(withTurnout(out, "Z1"), "z1", "motor", "twin-coil-surface"), "z1", "driver", "CD1");
    const more = completed(typed(fitted, "z1", "control", "toggle-centre-off"));
    expect(more.wires.length).toBeGreaterThan(out.wires.length);
    expect(loomIn(more).wires.map(({ number }) => number)).not.toContain(tail.number);
    const freed = edit(out, freeNumbers(out, [tail.id])!.edits).record;
    expect(freed.wires.some(({ id }) => id === tail.id)).toBe(false);
  });

  it("is told of before an edit is made, with what is new and what goes", () => {
    const record = completed(smallRailway());
    const tail = loomIn(record).wires.find(({ from, to }) => [from.name, to.name].includes("LP1-G"))!;
    const made = ticked(record, [tail.label], "fromJoinedAt", "toJoinedAt");
    const words = consequencesOf(new Derived(made), writeCell(made, "y1", "lamp", "")!).loom;
    // the 5 V of the other lamp came by the panel's chain
    expect(words).toEqual([
      expect.stringMatching(/^New: W\d+/),
      expect.stringMatching(/^No longer needed: \d+ wires, W\d+ (to|and)/),
      `Made, and without use then: ${tail.label} from ${tail.from.name} to ${tail.to.name}`,
    ]);
    expect(consequencesOf(new Derived(made), addTurnout(made, "G")).loom).toEqual([]);
  });

  it("is moved to where the plan has it, all of it at once, with flags and joints there to be made again", () => {
    const record = completed(railway(["A", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour from S1", "S2"]));
    const all = loomIn(record).wires.map(({ label }) => label);
    const made = ticked(record, all, "labelledAt", "fromJoinedAt", "toJoinedAt");
    // lamp and frog change places, and the leads are exchanged
    const frog = typed(made, "a", "frog", "S1");
    const changed = mounted(typed(frog, "a", "lamp", "LP1 from S2"), "a", { crossed: true });
    const planned = loomIn(changed);
    expect(planned.idle.length).toBeGreaterThan(5);
    const moved = moveWires(
      changed,
      planned,
      planned.idle.map(({ fact }) => fact.id),
    )!;
    const now = completed(edit(changed, moved.edits).record);
    const loom = loomIn(now);
    expect(loom.idle).toEqual([]);
    expect(loom.wires.filter(({ fact }) => fact === null)).toEqual([]);
    for (const { fact } of planned.idle) {
      const after = now.wires.find(({ id }) => id === fact.id)!;
      expect([after.fromJoinedAt, after.toJoinedAt].filter((at) => at === null)).toHaveLength(1);
      expect(after).toMatchObject({ labelledAt: null, cutAt: AT, number: fact.number });
    }
    expect(moveWires(now, loom, all)).toBeNull();
  });

  it("goes through a spare core that is screwed at both ends before any new one", () => {
    const before = completed(six());
    const core = loomIn(before).wires.find(({ core }) => core?.number === 4 && core.cable === "C1")!;
    const made = ticked(before, [core.label], "fromJoinedAt", "toJoinedAt");
    // the toggle that used it goes; its core lies spare
    const net = loomIn(made).wires.find(({ net, run }) => net === core.net && run === "panel")!;
    const toggle = [net.from, net.to].find(({ of }) => of !== null)!.of!.deviceId;
    const gone = completed(edit(made, removeDevice(made, toggle).edits).record);
    expect(loomIn(gone).idle.map(({ fact, why }) => [fact.id, why])).toEqual([[core.id, "spare"]]);
    const again = completed(typed(gone, "b", "control", "toggle-centre-off"));
    const { idle, wires } = loomIn(again);
    expect(idle).toEqual([]);
    expect(wires.find(({ id }) => id === core.id)?.net).toBeDefined();
  });
});

it("says what contradicts itself in a record, and changes nothing", () => {
  const record = completed(smallRailway());
  const [one, other] = record.wires;
  const put = (wire: Fact) => () => edit(record, [{ op: "put", kind: "wire", value: wire }]);
  expect(put({ ...one!, number: other!.number })).toThrow(
    /Two wires are called W\d+\. Give one of them another number\./,
  );
  expect(put({ ...one!, fromStripId: "p1", fromWay: 1, fromDeviceId: "t1" })).toThrow(
    /cannot end at a device and at a strip/,
  );
  const core = record.wires.find(({ cableId }) => cableId !== null)!;
  expect(put({ ...core, core: 9 })).toThrow(/is core 9 of a cable of 8/);
  expect(put({ ...core, fromWay: 30 })).toThrow(/ends at way 30 of a strip of 12/);
  expect(put({ ...core, core: null })).toThrow(/is in a cable: say which core it is/);
});
