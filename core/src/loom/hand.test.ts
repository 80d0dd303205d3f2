import { describe, expect, it } from "vitest";
import { coilStation, drafted, smallRailway } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import type { EditGroup } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { standingOfWire } from "../record/made.ts";
import { CORE_COLOURS } from "./colours.ts";
import { completed } from "./completion.ts";
import { addCable, addStrip, endAt, moveCore, moveWay, setCable, setStrip, setWire, takeAway } from "./hand.ts";
import { screwKey } from "./wire.ts";
import { keepWires, tickWires } from "./work.ts";

const AT = "2026-05-12T20:00:00.000Z";
const loomIn = (record: RailwayRecord) => new Derived(record).loom;
const done = (record: RailwayRecord, group: EditGroup | null) => completed(edit(record, group!.edits).record);
const small = () => completed(smallRailway());
const namesAt = (record: RailwayRecord, name: string) =>
  loomIn(record)
    .wires.filter(({ from, to }) => [from.name, to.name].includes(name))
    .map(({ label }) => label)
    .sort();

/** The record with all wires at a screw joined there. */
function joinedAt(record: RailwayRecord, name: string): RailwayRecord {
  let now = record;
  for (const end of ["from", "to"] as const) {
    const loom = loomIn(now);
    const ids = loom.wires.filter((wire) => wire[end].name === name).map(({ id }) => id);
    const group = tickWires(now, loom, ids, `${end}JoinedAt`, AT);
    if (group) now = edit(now, group.edits).record;
  }
  return now;
}

describe("a way of a strip", () => {
  it("goes with all its wires to a free one, joints and all, and stays there", () => {
    const record = joinedAt(small(), "P1-2");
    const wires = namesAt(record, "P1-2");
    expect(wires).toHaveLength(2);
    const now = done(record, moveWay(record, loomIn(record), { stripId: "p1", way: 2 }, { stripId: "p1", way: 12 }));
    expect(namesAt(now, "P1-12")).toEqual(wires);
    expect(namesAt(now, "P1-2")).toEqual([]);
    const loom = loomIn(now);
    expect(loom.idle).toEqual([]);
    for (const { label, fact } of loom.wires)
      if (wires.includes(label)) expect(fact?.fromJoinedAt ?? fact?.toJoinedAt).toBe(AT);
  });

  it("changes places with one that is taken", () => {
    const record = small();
    const [two, three] = [namesAt(record, "K1-2"), namesAt(record, "K1-3")];
    const group = moveWay(record, loomIn(record), { stripId: "k1", way: 2 }, { stripId: "k1", way: 3 });
    expect(group?.words).toBe("Exchanged K1-2 and K1-3");
    const now = done(record, group);
    expect([namesAt(now, "K1-2"), namesAt(now, "K1-3")]).toEqual([three, two]);
    expect(loomIn(now).idle).toEqual([]);
  });

  it("is let go again: the plan has it where it would have it", () => {
    const record = small();
    const moved = done(record, moveWay(record, loomIn(record), { stripId: "p1", way: 2 }, { stripId: "p1", way: 12 }));
    const ids = moved.wires.filter((fact) => standingOfWire(fact) === "kept").map(({ id }) => id);
    expect(ids).toHaveLength(2);
    const free = done(moved, keepWires(moved, loomIn(moved), ids, false));
    expect(free.wires.every((fact) => standingOfWire(fact) === "proposed")).toBe(true);
  });

  it.each([
    [{ stripId: "p1", way: 13 }, /P1 has ways 1 to 12; there is no way 13/],
    [{ stripId: "k1", way: 3 }, /P1-2 and K1-3 are not on the same side/],
    [{ stripId: "p9", way: 3 }, /no such strip/],
  ])("is not moved to %o", (to, why) => {
    const record = small();
    expect(() => moveWay(record, loomIn(record), { stripId: "p1", way: 2 }, to)).toThrow(why);
  });
});

it("writes down where a wire was joined by mistake, and names it as what it is", () => {
  const record = joinedAt(small(), "K1-2");
  const loom = loomIn(record);
  const wire = loom.wires.find(({ from, run }) => run === "layout" && from.key === screwKey("k1", 2))!;
  const now = done(record, endAt(record, loom, wire.id, "from", { stripId: "k1", way: 3 }));
  const { findings } = new Derived(now);
  const found = findings.find(({ ruleId }) => ruleId === "made-serves-nothing");
  expect(found?.why).toContain(wire.label);
  // the plan goes on without it
  const again = loomIn(now);
  expect(again.wires.some(({ from }) => from.key === screwKey("k1", 2))).toBe(true);
});

describe("a core", () => {
  const cores = (record: RailwayRecord) => loomIn(record).wires.filter(({ core }) => core !== null);

  it("exchanges its number and colour with another one's, and its screws stay", () => {
    const record = small();
    const [a, b] = cores(record);
    const now = done(record, moveCore(record, loomIn(record), a!.id, b!.core!.cableId, b!.core!.number));
    const after = new Map(cores(now).map((wire) => [wire.id, wire]));
    expect(after.get(a!.id)).toMatchObject({ core: b!.core, colour: b!.colour, from: a!.from });
    expect(after.get(b!.id)).toMatchObject({ core: a!.core, colour: a!.colour, from: b!.from });
  });

  it("has its gauge and length from its cable", () => {
    const record = small();
    const [core] = cores(record);
    expect(() => setWire(record, loomIn(record), core!.id, { metres: 3 })).toThrow(/is a core of C1/);
    const now = done(
      record,
      setCable(record, loomIn(record), "c1", { metres: 3.5, gauge: "0.5 mm2", colours: "pairs" }),
    );
    expect(cores(now)[0]).toMatchObject({ metres: 3.5, gauge: "0.5 mm2", colour: "WHBU" });
    expect(() => moveCore(record, loomIn(record), core!.id, "c1", 9)).toThrow(/no core 9 in C1/);
  });
});

it("has made cores that are as their cable, when that turns out otherwise than was planned", () => {
  const record = joinedAt(small(), "P1-2");
  const now = done(
    record,
    setCable(record, loomIn(record), "c1", { metres: 3.5, gauge: "0.75 mm2", colours: "ribbon" }),
  );
  const cores = loomIn(now).wires.filter(({ core }) => core?.cableId === "c1");
  expect(new Set(cores.map(({ standing }) => standing))).toEqual(new Set(["made", "proposed"]));
  for (const { metres, gauge, colour, core } of cores) {
    expect([metres, gauge]).toEqual([3.5, "0.75 mm2"]);
    expect(colour).toBe(CORE_COLOURS.ribbon[core!.number - 1]);
  }
});

it("keeps colour and length that somebody chose for a wire, whatever is edited elsewhere", () => {
  const record = small();
  const wire = loomIn(record).wires.find(({ run }) => run === "layout")!;
  const now = done(record, setWire(record, loomIn(record), wire.id, { colour: "GY", metres: 4.2 }));
  const more = completed({ ...now, railway: { ...now.railway, runMetres: 9 } });
  const after = loomIn(more).wires.find(({ id }) => id === wire.id);
  expect(after).toMatchObject({ colour: "GY", metres: 4.2, standing: "kept" });
  expect(setWire(now, loomIn(now), wire.id, { colour: "GY" })).toBeNull();
});

describe("a strip", () => {
  it("is not made shorter than what ends on it, and says which", () => {
    const record = joinedAt(small(), "K1-3");
    const [first] = namesAt(record, "K1-3");
    expect(() => setStrip(record, loomIn(record), "k1", { ways: 2 })).toThrow(
      new RegExp(`cannot have 2 ways: .*${first}`),
    );
    const longer = done(record, setStrip(record, loomIn(record), "k1", { ways: 16, label: "Yard 1" }));
    expect(loomIn(longer).strips.find(({ id }) => id === "k1")).toMatchObject({
      ways: 16,
      label: "Yard 1",
      kept: true,
    });
  });

  it("is taken away: what was made at it is loose and named, and what is proposed goes another way", () => {
    const record = joinedAt(small(), "K1-3");
    const made = record.wires.filter((fact) => standingOfWire(fact) === "made");
    const now = done(record, takeAway(record, "strip", "k1"));
    const { loom, schematic } = new Derived(now);
    for (const { id } of made) expect(loom.idle.map(({ fact }) => fact.id)).toContain(id);
    expect(loom.passages).toHaveLength(new Derived(record).loom.passages.length);
    expect(schematic.nets.length).toBeGreaterThan(0);
  });

  it("of the owner's own is used before a new one, and so is a cable", () => {
    const record = drafted(smallRailway(), () => {});
    const withStrip = done(record, addStrip(record, "panel"));
    expect(withStrip.strips.filter(({ place }) => place === "panel").map(({ label }) => label)).toEqual(["P1"]);
    const withCable = done(record, addCable(record));
    expect(withCable.cables.map(({ label, kept }) => [label, kept])[0]).toEqual(["C1", true]);
  });
});

describe("spare ways", () => {
  it.each([
    [0, 12, 8],
    [0.1, 11, 7],
    [0.25, 9, 6],
  ])("at a share of %f, strips are filled to %i of 12 and cables to %i of 8", (spareShare, ways, cores) => {
    const station = coilStation(19);
    const { loom } = new Derived({ ...station, railway: { ...station.railway, spareShare } });
    const perStrip = new Map<string, number>();
    const perCable = new Map<string, number>();
    for (const { panel, cableId } of loom.passages) {
      perStrip.set(panel.stripId, (perStrip.get(panel.stripId) ?? 0) + 1);
      perCable.set(cableId, (perCable.get(cableId) ?? 0) + 1);
    }
    expect(Math.max(...perStrip.values())).toBe(ways);
    expect(Math.max(...perCable.values())).toBe(cores);
    expect(loom.passages).toHaveLength(39);
  });
});

describe("colours", () => {
  it("follow the owner's custom where nothing is made yet", () => {
    const record = joinedAt(small(), "K1-2");
    const custom = { id: "c", purpose: "to-normal", deviceId: null, terminal: null, colour: "RD" } as const;
    const now = completed({ ...record, customs: [custom] });
    const made = new Set(record.wires.filter((fact) => standingOfWire(fact) === "made").map(({ id }) => id));
    for (const wire of loomIn(now).wires) {
      if (wire.purpose !== "to-normal" || wire.core) continue;
      expect(wire.colour).toBe(made.has(wire.id) ? "BU" : "RD");
    }
  });

  // ANSI/TIA-568: of pairs 1 to 4 blue, orange, green, brown, the white one of each first
  it("of network cable are those of its four pairs", () => {
    expect(CORE_COLOURS.pairs).toEqual(["WHBU", "BU", "WHOG", "OG", "WHGN", "GN", "WHBN", "BN"]);
  });

  // IEC 60062: 1 brown, 2 red, 3 orange, 4 yellow, 5 green, 6 blue, 7 violet, 8 grey, 9 white, 0 black
  it("of flat cable are those of the resistor code", () => {
    expect(CORE_COLOURS.ribbon).toEqual(["BN", "RD", "OG", "YE", "GN", "BU", "VT", "GY", "WH", "BK"]);
  });
});
