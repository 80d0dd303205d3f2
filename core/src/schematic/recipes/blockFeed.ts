import { assignmentsOfRole } from "../../record/find.ts";
import type { RailwayRecord } from "../../record/kinds.ts";
import type { Joiner } from "../nets.ts";
import type { Fitted } from "../thread.ts";

/** The bus feeds a block through a zone of a detector, in the rail that was chosen for it. */
export function blockFeed(record: RailwayRecord, track: (detectorId: string) => Fitted | null, joiner: Joiner): void {
  for (const { deviceId, way, rail } of assignmentsOfRole(record, "block")) {
    const bus = track(deviceId);
    if (!bus) continue;
    joiner.join(rail === "J" ? "track-j" : "track-k", null, [
      { deviceId: bus.device.id, terminal: rail },
      { deviceId, terminal: `${way}i` },
    ]);
  }
}
