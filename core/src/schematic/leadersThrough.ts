import { assignmentsOfDevice, find, turnoutsInOrder } from "../record/find.ts";
import type { Kind, RailwayRecord } from "../record/kinds.ts";

/** Anything of a railway that can be looked at: a thing, or one numbered way of a device. */
export interface ThingRef {
  kind: Kind;
  id: string;
  /** Output, input, zone or contact set of a device; the whole of it when not said. */
  way?: number;
}

/**
 * Leaders of the threads that pass through a thing, in the owner's order: of a turnout its own, of a zone those of its
 * turnouts, of a device those that it moves, drives, commands, shows or feeds, directly or through other devices.
 * @example leadersThrough(record, { kind: "device", id: "cd1" }) // every turnout on that discharge unit
 */
export function leadersThrough(record: RailwayRecord, thing: ThingRef): string[] {
  const found = new Set<string>();
  const add = (turnoutId: string) => {
    const turnout = find(record, "turnout", turnoutId);
    if (turnout) found.add(turnout.movesWith ?? turnout.id);
  };
  if (thing.kind === "turnout") add(thing.id);
  else if (thing.kind === "zone") for (const { id, zoneId } of record.turnouts) zoneId === thing.id && add(id);
  else if (thing.kind === "device") throughDevice(record, thing.id, thing.way, add, new Map());
  return turnoutsInOrder(record).flatMap(({ id }) => (found.has(id) ? [id] : []));
}

/** Follows what a device or one of its ways does for turnouts and for other devices; each once. */
function throughDevice(
  record: RailwayRecord,
  deviceId: string,
  way: number | undefined,
  add: (turnoutId: string) => void,
  seen: Map<string, Set<number | undefined>>,
): void {
  const ways = seen.get(deviceId) ?? new Set();
  if (ways.has(way) || ways.has(undefined)) return;
  seen.set(deviceId, ways.add(way));
  for (const assignment of assignmentsOfDevice(record, deviceId)) {
    if (way !== undefined && "way" in assignment && assignment.way !== null && assignment.way !== way) continue;
    if ("turnoutId" in assignment) add(assignment.turnoutId);
    // what it drives, reads, feeds or commands; not what drives, reads, feeds or commands it
    if (assignment.deviceId !== deviceId) continue;
    if ("motorId" in assignment) throughDevice(record, assignment.motorId, undefined, add, seen);
    if ("toDeviceId" in assignment) throughDevice(record, assignment.toDeviceId, undefined, add, seen);
    if ("controlId" in assignment)
      throughDevice(record, assignment.controlId, assignment.controlWay ?? undefined, add, seen);
  }
}
