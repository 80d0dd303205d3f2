import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Wire as Fact } from "../record/made.ts";
import { terminalName } from "../schematic/nets.ts";
import { screwName } from "./wire.ts";

/** What is written at the two ends of a wire of the record; for a loose end, what was written there. */
export function endNames(record: RailwayRecord, fact: Fact): { from: string; to: string } {
  const { fromDeviceId, fromTerminal, fromStripId, fromWay, toDeviceId, toTerminal, toStripId, toWay } = fact;
  const name = (deviceId: string | null, terminal: string | null, stripId: string | null, way: number | null) => {
    const device = deviceId === null ? undefined : find(record, "device", deviceId);
    if (device) return terminalName(device.label, terminal ?? "");
    const strip = stripId === null ? undefined : find(record, "strip", stripId);
    return strip ? screwName(strip, way ?? 0) : (terminal ?? "nothing");
  };
  return {
    from: name(fromDeviceId, fromTerminal, fromStripId, fromWay),
    to: name(toDeviceId, toTerminal, toStripId, toWay),
  };
}
