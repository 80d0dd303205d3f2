import type { Assignment, AssignmentOf, Device, Kind, RailwayRecord, Role, Turnout, ValueOf } from "./schemas.ts";
import { LISTS } from "./schemas.ts";

interface Index {
  things: Map<string, { id: string }>;
  byTurnout: Map<string, Assignment[]>;
  byDevice: Map<string, Assignment[]>;
}

const indexes = new WeakMap<RailwayRecord, Index>();

/** The record's things by identifier and its assignments by what they concern; made once for each record. */
function indexOf(record: RailwayRecord): Index {
  const known = indexes.get(record);
  if (known) return known;
  const index: Index = { things: new Map(), byTurnout: new Map(), byDevice: new Map() };
  for (const [kind, list] of Object.entries(LISTS)) {
    for (const thing of record[list]) index.things.set(`${kind}:${thing.id}`, thing);
  }
  for (const assignment of record.assignments) {
    if ("turnoutId" in assignment) push(index.byTurnout, assignment.turnoutId, assignment);
    for (const field of ["deviceId", "toDeviceId", "motorId"] as const) {
      const id = (assignment as Partial<Record<typeof field, string>>)[field];
      if (id) push(index.byDevice, id, assignment);
    }
  }
  indexes.set(record, index);
  return index;
}

function push(map: Map<string, Assignment[]>, key: string, value: Assignment): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}

/** The thing of a kind with an identifier, or undefined. */
export function find<K extends Kind>(record: RailwayRecord, kind: K, id: string): ValueOf<K> | undefined {
  return indexOf(record).things.get(`${kind}:${id}`) as ValueOf<K> | undefined;
}

/** The device with an identifier that an assignment holds. @throws {Error} when the record is broken */
export function deviceOf(record: RailwayRecord, id: string): Device {
  const device = find(record, "device", id);
  if (!device) throw new Error(`Record: device "${id}" is assigned but not in the list of devices.`);
  return device;
}

/** The turnout with an identifier that an assignment holds. @throws {Error} when the record is broken */
export function turnoutOf(record: RailwayRecord, id: string): Turnout {
  const turnout = find(record, "turnout", id);
  if (!turnout) throw new Error(`Record: turnout "${id}" is assigned but not in the list of turnouts.`);
  return turnout;
}

/** The assignments of a role for a turnout. */
export function assignmentsOfTurnout<R extends Role>(
  record: RailwayRecord,
  turnoutId: string,
  role: R,
): AssignmentOf<R>[] {
  return (indexOf(record).byTurnout.get(turnoutId) ?? []).filter((a): a is AssignmentOf<R> => a.role === role);
}

/** All assignments in which a device takes part, in whatever capacity. */
export function assignmentsOfDevice(record: RailwayRecord, deviceId: string): Assignment[] {
  return indexOf(record).byDevice.get(deviceId) ?? [];
}

/** The assignments of a role, in the order of identifiers. */
export function assignmentsOfRole<R extends Role>(record: RailwayRecord, role: R): AssignmentOf<R>[] {
  return record.assignments.filter((a): a is AssignmentOf<R> => a.role === role);
}

/** Turnouts in the owner's order. */
export function turnoutsInOrder(record: RailwayRecord): Turnout[] {
  return [...record.turnouts].sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));
}

/**
 * An identifier that no thing of the kind has yet.
 * @example freshId(record, "device", "D1") // "d1", or "d1-2" when taken
 */
export function freshId(
  record: RailwayRecord,
  kind: Kind,
  wish: string,
  taken: ReadonlySet<string> = new Set(),
): string {
  const stem =
    wish
      .toLowerCase()
      .replaceAll(/[^a-z0-9]+/g, "-")
      .replaceAll(/^-+|-+$/g, "")
      .slice(0, 30) || kind;
  const things = indexOf(record).things;
  for (let number = 1; ; number++) {
    const id = number === 1 ? stem : `${stem}-${number}`;
    if (!things.has(`${kind}:${id}`) && !taken.has(id)) return id;
  }
}
