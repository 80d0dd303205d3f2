import { expect, it } from "vitest";
import { coilStation, smallRailway, typed } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { completed } from "./completion.ts";
import { progressOf } from "./progress.ts";
import type { Loom } from "./wire.ts";
import { wireScheduleRows } from "./wireScheduleRows.ts";
import { tickWires } from "./work.ts";

const wireBetween = ({ wires }: Loom, a: string, b: string) =>
  wires.find(({ from, to }) => [from.name, to.name].sort().join() === [a, b].sort().join());

it("lays each control's wires through strip, cable and strip, and chains the commons", () => {
  const { loom } = new Derived(smallRailway());
  expect(wireBetween(loom, "T1-C", "T2-C")).toMatchObject({ run: "panel", colour: "VT" });
  const way = loom.passages.find(({ panel }) => wireBetween(loom, "T1-N", panel.name))!;
  expect(wireBetween(loom, way.panel.name, way.layout.name)).toMatchObject({
    run: "cable",
    gauge: "AWG 24",
    core: { cableId: way.cableId, cable: way.cable, number: way.core },
  });
  expect(wireBetween(loom, way.layout.name, "Y1-N")).toMatchObject({ run: "layout", colour: "BU" });
  expect(wireBetween(loom, "M1+", "M2+")).toMatchObject({ colour: "BU", turnoutId: "m2" });
});

// derived: wires that leave the panel for n coil motors on centre-off toggles, without lamps: two each and one common
it.each([4, 19])("takes 2n + 1 cores for %i coil motors whose unit stands under the layout", (n) => {
  const { loom } = new Derived(coilStation(n));
  expect(loom.passages).toHaveLength(2 * n + 1);
  // a tenth of eight cores is left spare: one
  expect(new Set(loom.passages.map(({ cable }) => cable)).size).toBe(Math.ceil((2 * n + 1) / 7));
});

it("joins all terminals of a net and none of different nets", () => {
  const { loom, schematic } = new Derived(smallRailway());
  for (const net of schematic.nets) {
    const wires = loom.wires.filter((wire) => wire.net === net.id);
    const reached = new Set([`${net.ends[0]!.deviceId}:${net.ends[0]!.terminal}`]);
    for (let round = 0; round < wires.length; round++) {
      for (const { from, to } of wires)
        if (reached.has(from.key) || reached.has(to.key)) reached.add(from.key).add(to.key);
    }
    for (const end of net.ends) expect(reached).toContain(`${end.deviceId}:${end.terminal}`);
    // a chain has one wire fewer than it has terminals
    expect(wires.length).toBe(reached.size - 1);
  }
});

it("takes a turnout's own run for what comes from the boards, and how far they are apart from one to the next", () => {
  const { loom } = new Derived(typed(smallRailway(), "m1", "run", "3.2"));
  // M2, whose run is the railway's 1.5 m, is the nearer one
  expect(wireBetween(loom, "D1-1A", "M2+")).toMatchObject({ metres: 1.5, cutMetres: 1.55 });
  // 1.7 m along the trunk line, and 0.3 m at each end to it
  expect(wireBetween(loom, "M2+", "M1+")?.metres).toBeCloseTo(2.3, 9);
  const alike = new Derived(smallRailway()).loom;
  expect(wireBetween(alike, "M1+", "M2+")?.metres).toBeCloseTo(0.9, 9);
});

it("flags each end with the far one, and writes the schedule as a table", () => {
  const { loom } = new Derived(smallRailway());
  const wire = wireBetween(loom, "D1-1A", "M1+")!;
  expect(wire.flags).toEqual([`${wire.label} to M1+`, `${wire.label} to D1-1A`]);
  const rows = wireScheduleRows(loom);
  expect(rows[0]?.join()).toBe(
    "wire,from,to,run,colour code,colour,gauge,cut mm,cable,core,flag at from,flag at to,standing,cut,labelled,joined at from,joined at to,tested",
  );
  expect(rows).toHaveLength(loom.wires.length + 1);
  expect(rows.map((row) => row.join())).toContain(
    `${wire.label},D1-1A,M1+,layout,BU,blue,0.5 mm2,1550,,,${wire.label} to M1+,${wire.label} to D1-1A,proposed,,,,,`,
  );
});

it("fills strips and cables of the sizes that the railway has", () => {
  const small = { ...smallRailway().railway, stripWays: 6, cableCores: 4, spareShare: 0 };
  const record = { ...smallRailway(), railway: small };
  const loom = new Derived(record).loom;
  const wayOf = ({ key }: { key: string }) => Number(key.split("/")[1]);
  expect(Math.max(...loom.passages.map(({ panel }) => wayOf(panel)))).toBe(6);
  expect(Math.max(...loom.passages.map(({ core }) => core))).toBe(4);
  expect(loom.strips.map(({ label }) => label)).toEqual(["P1", "P2", "K1", "K2"].slice(0, loom.strips.length));
  expect(loom.strips).toHaveLength(2 * Math.ceil(loom.passages.length / 6));
  expect(loom.cables).toHaveLength(Math.ceil(loom.passages.length / 4));
});

it("counts joints where they are made, and what of the work is done", () => {
  const record = completed(smallRailway());
  const { loom } = new Derived(record);
  const ids = loom.wires.filter(({ run }) => run === "cable").map(({ id }) => id);
  const group = tickWires(record, loom, ids, "fromJoinedAt", "2026-05-10T10:30:00.000Z")!;
  const { wires } = new Derived(edit(record, group.edits).record).loom;
  const { cut, bench, underneath, tested } = progressOf(wires);
  // a core begins at the panel, and is cut when it is joined
  expect([cut.done, bench.done, underneath.done, tested.done]).toEqual([ids.length, ids.length, 0, 0]);
  const runs = (run: string) => wires.filter((wire) => wire.run === run).length;
  expect([bench.of, underneath.of]).toEqual([2 * runs("panel") + runs("cable"), 2 * runs("layout") + runs("cable")]);
});
