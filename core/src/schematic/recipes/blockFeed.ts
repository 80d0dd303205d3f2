import { traitsOf } from "../../catalogue/traits.ts";
import { assignmentsOfRole } from "../../record/find.ts";
import type { RailwayRecord } from "../../record/kinds.ts";
import type { Joiner } from "../nets.ts";
import type { Fitted } from "../thread.ts";

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
