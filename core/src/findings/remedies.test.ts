// Remedies that several rules offer, each looked at by what it changes.
import { describe, expect, it } from "vitest";
import { railway, smallRailway, threadOf } from "../../testing/build.ts";
import { chainedLamps } from "../../testing/mistakes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { fitted } from "../schematic/thread.ts";
import { GAUGES, type Gauge, ohmsPerMetre } from "../units/gauge.ts";
import { layThicker, leadNames, putOnDischargeUnit, splitSupply, swapLeads } from "./remedies.ts";
import type { Remedy } from "./rule.ts";

const after = (record: RailwayRecord, remedy: Remedy | undefined) => edit(record, remedy?.group?.edits ?? []).record;
const inGauge = (wireGauge: Gauge): RailwayRecord => {
  const record = smallRailway();
  return { ...record, railway: { ...record.railway, wireGauge } };
};

describe("thicker wire", () => {
  it.each(GAUGES)("has at most half the resistance, and no more copper than that takes: from %s", (gauge) => {
    const record = inGauge(gauge);
    const [remedy] = layThicker(record, "wireGauge");
    if (!remedy) {
      // nothing on the list is thick enough
      expect(GAUGES.filter((each) => ohmsPerMetre(each) <= ohmsPerMetre(gauge) / 2)).toEqual([]);
      return;
    }
    const chosen = after(record, remedy).railway.wireGauge;
    expect(ohmsPerMetre(chosen)).toBeLessThanOrEqual(ohmsPerMetre(gauge) / 2);
    for (const other of GAUGES.filter((each) => ohmsPerMetre(each) <= ohmsPerMetre(gauge) / 2))
      expect(ohmsPerMetre(other)).toBeLessThanOrEqual(ohmsPerMetre(chosen));
    expect(remedy.label).toBe(`Lay all wires in ${chosen}`);
  });

  it("of cables leaves the wires as they are", () => {
    const record = smallRailway();
    const changed = after(record, layThicker(record, "cableGauge")[0]);
    expect(changed.railway.wireGauge).toBe(record.railway.wireGauge);
    expect(changed.railway.cableGauge).not.toBe(record.railway.cableGauge);
  });
});

describe("a second supply", () => {
  it("takes over half of what hangs on the first, and is of its kind", () => {
    const record = chainedLamps(5);
    const lamps = record.devices.find(({ typeId }) => typeId.startsWith("own-ps"))!;
    const [remedy] = splitSupply(record, fitted(record, lamps.id));
    const changed = after(record, remedy);
    const fed = (id: string) => changed.assignments.filter((a) => a.role === "supply" && a.deviceId === id).length;
    const second = changed.devices.find(({ id, typeId }) => typeId === lamps.typeId && id !== lamps.id)!;
    expect([fed(lamps.id), fed(second.id)]).toEqual([8, 8]);
    expect(remedy?.label).toContain(second.label);
  });

  it("is not offered for a single thing", () => {
    const record = railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"]);
    const supply = record.devices.find(({ label }) => label === "PS1")!;
    expect(splitSupply(record, fitted(record, supply.id))).toEqual([]);
  });
});

it("swaps a motor's two leads, and back again", () => {
  const record = smallRailway();
  const motorOf = (each: RailwayRecord) => threadOf(new Derived(each), "M1/M2").motors[1]!;
  const once = after(record, swapLeads(record, motorOf(record), leadNames(motorOf(record))));
  expect(motorOf(once).assignment.crossed).toBe(true);
  const twice = after(once, swapLeads(once, motorOf(once), leadNames(motorOf(once))));
  expect(motorOf(twice).assignment.crossed).toBe(false);
  expect(leadNames(motorOf(record))).toEqual(["M2+", "M2−"]);
  expect(leadNames(threadOf(new Derived(record), "Y1").motors[0]!)).toEqual(["Y1-N", "Y1-R"]);
});

it("puts coils on the discharge unit that is there, or on a new one", () => {
  const record = smallRailway();
  const thread = threadOf(new Derived(record), "Y1");
  expect(putOnDischargeUnit(record, thread).label).toBe("Put Y1 on CD1");
  const bare = railway(["A", "", "twin-coil-surface", "", "toggle-centre-off"]);
  const remedy = putOnDischargeUnit(bare, threadOf(new Derived(bare), "A"));
  const changed = after(bare, remedy);
  expect(threadOf(new Derived(changed), "A").motors[0]!.driver?.device.label).toBe("CD1");
});
