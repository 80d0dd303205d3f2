import { assignmentsOfDevice } from "../record/find.ts";
import type { RailwayRecord } from "../record/schemas.ts";

/** Numbers of a board's outputs that nothing uses: no motor, lamp, frog or board commanded by it. */
export function freeWays(record: RailwayRecord, deviceId: string, outputs: number): number[] {
  const used = new Set<number | null>();
  for (const a of assignmentsOfDevice(record, deviceId)) {
    if ((a.role === "driver" || a.role === "control") && a.deviceId === deviceId) used.add(a.way);
    if ((a.role === "lamp" || a.role === "frog") && a.fromId === deviceId) used.add(a.way);
  }
  return Array.from({ length: outputs }, (_, index) => index + 1).filter((way) => !used.has(way));
}
