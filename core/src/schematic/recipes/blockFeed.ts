import { traitsOf } from "../../catalogue/traits.ts";
import { assignmentsOfRole, feederOf } from "../../record/find.ts";
import type { RailwayRecord } from "../../record/kinds.ts";
import type { AssignmentOf } from "../../record/schemas.ts";
import type { End, Joiner } from "../nets.ts";
import { type Fitted, fitted } from "../thread.ts";
import type { RailZone } from "../watched.ts";

/** The bus, or the reverser of a loop, feeds a block through a zone of a detector, in the rail that was chosen for it. */
export function blockFeed(record: RailwayRecord, joiner: Joiner): void {
  for (const zone of assignmentsOfRole(record, "block")) {
    const rails = railsOfZone(record, zone);
    if (!rails) continue;
    const into = { deviceId: zone.deviceId, terminal: `${zone.way}i` };
    joiner.join(zone.rail === "J" ? "track-j" : "track-k", null, [rails.own, into]);
  }
}

/** Where the two rails of a block are fed from: the one that its zone lies in, ahead of the zone, and the other. */
export function railsOfZone(
  record: RailwayRecord,
  { deviceId, rail }: AssignmentOf<"block">,
): { own: End; other: End } | null {
  const bus = busOf(record, deviceId);
  if (!bus) return null;
  const [forJ, forK] = traitsOf(bus.type).inTrack === "reverser" ? ["A", "B"] : ["J", "K"];
  const [own, other] = rail === "J" ? [forJ, forK] : [forK, forJ];
  const at = (terminal: string): End => ({ deviceId: bus.device.id, terminal });
  return { own: at(own), other: at(other) };
}

/** The track bus that a detector's blocks are fed from. */
export function busOf(record: RailwayRecord, detectorId: string): Fitted | null {
  const id = feederOf(record, detectorId, "commands");
  return id === null ? null : fitted(record, id);
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
