import { traitsOf } from "../../catalogue/traits.ts";
import { assignmentsOfRole } from "../../record/find.ts";
import type { RailwayRecord } from "../../record/kinds.ts";
import type { Joiner } from "../nets.ts";
import type { Fitted } from "../thread.ts";
import type { RailZone } from "../watched.ts";

/** The bus, or the reverser of a loop, feeds a block through a zone of a detector, in the rail that was chosen for it. */
export function blockFeed(record: RailwayRecord, track: (detectorId: string) => Fitted | null, joiner: Joiner): void {
  for (const { deviceId, way, rail } of assignmentsOfRole(record, "block")) {
    const bus = track(deviceId);
    if (!bus) continue;
    const [forJ, forK] = traitsOf(bus.type).inTrack === "reverser" ? ["A", "B"] : ["J", "K"];
    joiner.join(rail === "J" ? "track-j" : "track-k", null, [
      { deviceId: bus.device.id, terminal: rail === "J" ? forJ : forK },
      { deviceId, terminal: `${way}i` },
    ]);
  }
}

/** The rails at a turnout in a watched block: each that a zone lies in the feed of hangs on that zone, so that what stands there is seen. */
export function railsBehindZones(bus: Fitted, frog: Fitted, zones: readonly RailZone[], joiner: Joiner): void {
  for (const [rail, terminal, purpose] of [
    ["J", "L", "track-j"],
    ["K", "R", "track-k"],
  ] as const) {
    const zone = zones.find((each) => each.rail === rail);
    const from = zone
      ? { deviceId: zone.deviceId, terminal: `${zone.way}o` }
      : { deviceId: bus.device.id, terminal: rail };
    joiner.join(purpose, null, [from, { deviceId: frog.device.id, terminal }]);
  }
}
