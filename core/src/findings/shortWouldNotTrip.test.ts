// Only as many shorts are solved as are needed: whatever is left out would have shut its supply down, too.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { EXHIBITS, randomRailway } from "../../testing/exhibits.ts";
import { MISTAKES } from "../../testing/mistakes.ts";
import { typeOf } from "../catalogue/catalogue.ts";
import { opensFrom, protectionOf } from "../catalogue/protection.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { Derived } from "../derive.ts";
import { reachFrom } from "../loom/reach.ts";
import { deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { powerTerminals } from "../schematic/recipes/supplyToBoard.ts";
import { fitted } from "../schematic/thread.ts";

/** Supplies of which a short at something that hangs on them by wire alone draws too little, each short solved. */
function silent({ record, circuitry, loom }: Derived): string[] {
  return record.devices.flatMap((supply): string[] => {
    const type = typeOf(record, supply);
    const trips = opensFrom(protectionOf(type));
    if (type.family !== "supply" || !Number.isFinite(trips)) return [];
    const ends = powerTerminals(fitted(record, supply.id)).map((name) => `${supply.id}:${name}`);
    const [plus, minus] = ends.map((end) => reachFrom(loom, end));
    const fed = record.assignments.flatMap((a) =>
      a.role === "supply" && a.deviceId === supply.id ? [a.toDeviceId] : [],
    );
    const draws = fed.flatMap((id): number[] => {
      const at = fitted(record, id);
      if (at.type.family === "lamp" || traitsOf(at.type).inTrack !== null) return [];
      const keys = powerTerminals(at).map((name) => `${deviceOf(record, id).id}:${name}`) as [string, string];
      if (!plus?.has(keys[0]) || !minus?.has(keys[1])) return [];
      const amps = circuitry.short(keys[0], keys[1], keys)?.amps ?? 0;
      const scale = traitsOf(type).gives === "ac" ? Math.SQRT1_2 : 1;
      return amps < 1e-3 ? [] : [amps * scale];
    });
    return Math.min(Number.POSITIVE_INFINITY, ...draws) < trips ? [supply.id] : [];
  });
}

const told = ({ findings }: Derived) =>
  findings.filter(({ ruleId }) => ruleId === "short-would-not-trip").map(({ key }) => key.split(":")[1]);

function expectTold(record: RailwayRecord): void {
  const derived = new Derived(record);
  const named = told(derived);
  for (const supply of silent(derived)) expect(named, supply).toContain(supply);
}

const GAUGES = ["AWG 24", "AWG 28", "0.5 mm2"] as const;

/** The same with other wire, and boards about as far from their supplies, so that more than one is among the farthest. */
function wired(start: RailwayRecord, wireGauge: (typeof GAUGES)[number], run: number): RailwayRecord {
  const devices = start.devices.map((each, index) => {
    return each.place === "layout" ? { ...each, runMetres: run * (1 - 0.03 * (index % 6)) } : each;
  });
  const turnouts = start.turnouts.map((each) => ({ ...each, runMetres: run }));
  return { ...start, devices, turnouts, railway: { ...start.railway, wireGauge, busGauge: wireGauge } };
}

describe("a supply that a short would not shut down is named", () => {
  const all = { ...EXHIBITS, ...MISTAKES };

  it.each(Object.entries(all))("in %s", (_, make) => {
    expectTold(make());
    expectTold(wired(make(), "AWG 28", 120));
  });

  it("on any railway, however thin and long its wires", { timeout: 120_000 }, () => {
    fc.assert(
      fc.property(
        randomRailway(8),
        fc.constantFrom(...GAUGES),
        fc.constantFrom(1.5, 12, 40, 120),
        (start, wireGauge, run) => expectTold(wired(start, wireGauge, run)),
      ),
      { numRuns: 25 },
    );
  });

  it("which there are to be named", () => {
    const thin = Object.values(all).map((make) => new Derived(wired(make(), "AWG 28", 120)));
    expect(thin.filter((each) => silent(each).length > 0).length).toBeGreaterThan(10);
  });
});
