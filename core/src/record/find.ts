import { devicesOf, differenceOf } from "./difference.ts";
import { KIND_ENTRIES, type Kind, type RailwayRecord, thingsOf, type ValueOf } from "./kinds.ts";
import type { Assignment, AssignmentOf, Device, Role, Turnout } from "./schemas.ts";

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
  for (const [kind] of KIND_ENTRIES) {
    for (const thing of thingsOf(record, kind)) index.things.set(`${kind}:${thing.id}`, thing);
  }
  for (const assignment of record.assignments) addAssignment(index, assignment);
  indexes.set(record, index);
  return index;
}

/**
 * Hands the index of a record that is given up on to the one that an edit made of it, brought up to date; for drafts,
 * which make thousands of records one after the other.
 */
export function inheritIndex(from: RailwayRecord, to: RailwayRecord, kind: Kind, id: string): void {
  const index = indexOf(from);
  const key = `${kind}:${id}`;
  const old = index.things.get(key);
  const now = thingsOf(to, kind).find((thing) => thing.id === id);
  if (kind === "assignment" && old) forgetAssignment(index, old as Assignment);
  if (now) index.things.set(key, now);
  else index.things.delete(key);
  if (kind === "assignment" && now) insertAssignment(index, now as Assignment);
  indexes.delete(from);
  indexes.set(to, index);
}

function addAssignment(index: Index, assignment: Assignment): void {
  if ("turnoutId" in assignment) push(index.byTurnout, assignment.turnoutId, assignment);
  for (const id of new Set(devicesOf(assignment))) push(index.byDevice, id, assignment);
}

/** The same in the order of identifiers, as an index made anew has them; lists that other indexes may share are left alone. */
function insertAssignment(index: Index, assignment: Assignment): void {
  const insert = (map: Map<string, Assignment[]>, key: string) => {
    const list = map.get(key) ?? [];
    const later = list.findIndex(({ id }) => id > assignment.id);
    const at = later < 0 ? list.length : later;
    map.set(key, [...list.slice(0, at), assignment, ...list.slice(at)]);
  };
  if ("turnoutId" in assignment) insert(index.byTurnout, assignment.turnoutId);
  for (const id of new Set(devicesOf(assignment))) insert(index.byDevice, id);
}

function forgetAssignment(index: Index, assignment: Assignment): void {
  const forget = (map: Map<string, Assignment[]>, key: string) => {
    map.set(
      key,
      (map.get(key) ?? []).filter(({ id }) => id !== assignment.id),
    );
  };
  if ("turnoutId" in assignment) forget(index.byTurnout, assignment.turnoutId);
  for (const id of devicesOf(assignment)) forget(index.byDevice, id);
}

function push(map: Map<string, Assignment[]>, key: string, value: Assignment): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}

/**
 * Makes the index of a record out of the one of a record before an edit, which keeps its own; of little use where the two
 * have little in common.
 */
export function indexAfter(record: RailwayRecord, before: RailwayRecord): void {
  const known = indexes.get(before);
  if (!known || indexes.has(record)) return;
  const index: Index = {
    things: new Map(known.things),
    byTurnout: new Map(known.byTurnout),
    byDevice: new Map(known.byDevice),
  };
  for (const [kind] of KIND_ENTRIES) {
    const { gone, come } = differenceOf(before, record, kind);
    for (const { id } of gone) index.things.delete(`${kind}:${id}`);
    for (const thing of come) index.things.set(`${kind}:${thing.id}`, thing);
  }
  const { gone, come } = differenceOf(before, record, "assignment");
  const left = new Set<Assignment>(gone);
  const remade = (map: Map<string, Assignment[]>, keys: readonly string[]) => {
    for (const key of new Set(keys))
      map.set(
        key,
        (map.get(key) ?? []).filter((each) => !left.has(each)),
      );
  };
  const ofTurnouts = (all: readonly Assignment[]) => all.flatMap((a) => ("turnoutId" in a ? [a.turnoutId] : []));
  remade(index.byTurnout, ofTurnouts([...gone, ...come]));
  remade(index.byDevice, [...gone, ...come].flatMap(devicesOf));
  for (const assignment of come) insertAssignment(index, assignment);
  indexes.set(record, index);
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

/** Identifier of the device that feeds a device, or brings its commands; null for none. */
export function feederOf(record: RailwayRecord, deviceId: string, role: "supply" | "commands"): string | null {
  for (const a of assignmentsOfDevice(record, deviceId))
    if (a.role === role && a.toDeviceId === deviceId) return a.deviceId;
  return null;
}
