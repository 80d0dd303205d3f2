// Each supply looks at the wires under its own screws: together they are those of all nets in which it has a terminal.
import fc from "fast-check";
import { expect, it } from "vitest";
import { EXHIBITS, randomRailway } from "../../testing/exhibits.ts";
import { typeOf } from "../catalogue/catalogue.ts";
import { flowsForEver, protectionOf } from "../catalogue/protection.ts";
import { Derived } from "../derive.ts";
import { bearsOf } from "../loom/bears.ts";
import type { RailwayRecord } from "../record/kinds.ts";

/** Labels of supplies in whose nets a wire bears less than what flows for ever behind them. */
function unprotected({ record, loom, schematic }: Derived): string[] {
  return record.devices.flatMap((device) => {
    const type = typeOf(record, device);
    if (type.family !== "supply" || !type.figures.tripAmps) return [];
    const nets = schematic.nets.filter(({ ends }) => ends.some(({ deviceId }) => deviceId === device.id));
    const ids = new Set(nets.map(({ id }) => id));
    const wires = loom.wires.filter(({ net }) => ids.has(net));
    const flows = flowsForEver(protectionOf(type));
    return wires.some((wire) => bearsOf(loom, wire) < flows * (1 - 1e-9)) ? [device.label] : [];
  });
}

function expectNamed(record: RailwayRecord): void {
  const derived = new Derived(record);
  const named = derived.findings.filter(({ ruleId }) => ruleId === "wire-not-protected").map(({ where }) => where);
  expect(named.sort()).toEqual(unprotected(derived).sort());
}

it.each(Object.entries(EXHIBITS))("names the supplies that can burn a wire of their nets in %s", (_, make) => {
  expectNamed(make());
});

it("names them on any railway", { timeout: 120_000 }, () => {
  fc.assert(fc.property(randomRailway(), expectNamed), { numRuns: 25 });
});
