// Ways to lay a loom, each derived and solved: what is said of one holds when the railway is laid so.
import { describe, expect, it } from "vitest";
import { coilStation, drafted, railway, withFigures } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { completed } from "../loom/completion.ts";
import { progressOf } from "../loom/progress.ts";
import { totalsOf } from "../loom/totals.ts";
import { tickWires } from "../loom/work.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type LaidWay, layAs, ranked, waysToLay } from "./pathfinder.ts";

/** Coil motors of two zones, near the boards and far off. */
function zoned(motors: number): RailwayRecord {
  const record = coilStation(motors);
  return completed(
    drafted(record, (draft) => {
      for (const id of ["q", "y"])
        draft.put("zone", { id, label: id.toUpperCase(), name: "", order: 1, commons: null, plasticJoints: 0 });
      for (const [index, turnout] of record.turnouts.entries())
        draft.put("turnout", { ...turnout, zoneId: index % 2 ? "q" : "y", runMetres: index % 2 ? 2 : 7 });
    }),
  );
}

const allWays = (record: RailwayRecord) => [...waysToLay(record)].map(({ way }) => way);
const layed = (record: RailwayRecord, way: LaidWay) => {
  const group = layAs(record, way.fields);
  return completed(group ? edit(record, group.edits).record : record);
};

describe("ways to lay", () => {
  const record = zoned(6);
  const ways = allWays(record);

  it("are all that differ, and one of them is the present one", () => {
    // strips at two places, motors by wires or two kinds of tails, commons in four ways
    expect(ways.filter(({ fields }) => fields.cableGauge === record.railway.cableGauge)).toHaveLength(24);
    expect(new Set(ways.map(({ id }) => id)).size).toBe(ways.length);
    expect(ways.filter(({ present }) => present).map(({ fields }) => fields)).toEqual([
      { stripsAt: "boards", motorTails: "wires", commons: "bus", cableGauge: "AWG 24" },
    ]);
    // of a single motor without zones and pulses only this can be said: by wires or by a tail
    const plain = completed(railway(["A", "", "stall-motor", "stall-decoder-8"]));
    expect(allWays(plain).map(({ fields }) => fields.motorTails)).toEqual(["wires", "one"]);
  });

  it("take what is said of them when the railway is laid so", () => {
    for (const way of ways.filter((_, index) => index % 4 === 0)) {
      const now = layed(record, way);
      const { loom, findings } = new Derived(now);
      const sums = new Map(totalsOf(now, loom).map(({ id, sum }) => [id, sum]));
      expect(sums.get("wire")).toBeCloseTo(way.wire, 6);
      expect(sums.get("cable")).toBeCloseTo(way.cable, 6);
      const { bench, underneath } = progressOf(loom.wires);
      expect([bench.of, underneath.of]).toEqual([way.joints.bench, way.joints.underneath]);
      const titles = new Set(findings.map(({ title }) => title));
      for (const beyond of way.beyond) expect(titles).toContain(beyond.slice(0, beyond.indexOf(":")));
      expect(layAs(now, way.fields)).toBeNull();
    }
  });

  it("come with the fewest beyond their limits first, then the least wire with the fewest joints underneath", () => {
    const [best, ...others] = ranked(ways) as [LaidWay, ...LaidWay[]];
    expect(best.beyond.length).toBe(Math.min(...ways.map(({ beyond }) => beyond.length)));
    const metres = (way: LaidWay) => way.wire + way.cable;
    for (const other of others.filter(({ beyond }) => beyond.length === best.beyond.length)) {
      const isMore = metres(other) > metres(best) / 1.05 - 1e-9;
      expect(isMore).toBe(true);
      if (metres(other) <= metres(best)) expect(other.joints.underneath).toBeGreaterThanOrEqual(best.joints.underneath);
    }
    expect(best.fields.motorTails).not.toBe("wires");
    expect(best.fields.stripsAt).toBe("zones");
  });

  it("leave what is made as it is", () => {
    const { loom } = new Derived(record);
    const some = loom.wires.filter((_, index) => index % 3 === 0).map(({ id }) => id);
    const made = edit(record, tickWires(record, loom, some, "toJoinedAt", "2026-05-12T20:00:00.000Z")!.edits).record;
    const facts = (of: RailwayRecord) => of.wires.filter(({ toJoinedAt }) => toJoinedAt !== null);
    const ways = allWays(made).filter(({ fields }) => fields.stripsAt === "zones" && fields.motorTails === "two");
    for (const way of ways) {
      const now = layed(made, way);
      expect(facts(now)).toEqual(facts(made));
      expect(new Derived(now).loom.idle).toHaveLength(way.unused);
    }
    // a dropper that is made has its place on a trunk, and none where each coil has a wire of its own
    expect(ways.map(({ fields, unused }) => [fields.commons, unused > 0])).toContainEqual(["bus", false]);
  });
});

it("tries thicker cores for the best ways where cores are too thin", () => {
  const thin = withFigures(zoned(4), "Y1", { pulseJoules: 0.4 });
  const record = { ...thin, railway: { ...thin.railway, cableGauge: "AWG 28" as const, cableMetres: 20 } };
  const ways = allWays(completed(record));
  const gauges = new Set(ways.map(({ fields }) => fields.cableGauge));
  expect([...gauges]).toEqual(["AWG 28", "AWG 26", "AWG 24"]);
  const fewest = (gauge: string) =>
    Math.min(...ways.filter(({ fields }) => fields.cableGauge === gauge).map(({ beyond }) => beyond.length));
  expect(fewest("AWG 24")).toBeLessThan(fewest("AWG 28"));
});
