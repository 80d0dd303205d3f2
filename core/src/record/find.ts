import { ChangedMap } from "./changedMap.ts";
import { devicesOf, differenceOf } from "./difference.ts";
import { type Kind, type RailwayRecord, thingsOf, type ValueOf } from "./kinds.ts";
import type { Assignment, AssignmentOf, Device, Role, Turnout } from "./schemas.ts";

/** Things of a list by identifier. Lists are never changed in place, so one holds for as long as its list is there. */
const byId = new WeakMap<readonly unknown[], Index<{ id: string }>>();

/** Things by what they are asked for; carried on by what an edit changes. */
type Index<T> = Map<string, T> | ChangedMap<string, T>;

function thingsById(record: RailwayRecord, kind: Kind): Index<{ id: string }> {
  const list = thingsOf(record, kind);
  const known = byId.get(list) ?? new Map(list.map((thing) => [thing.id, thing]));
  byId.set(list, known);
  return known;
}

/** Assignments by what they concern. */
interface Concerns {
  byTurnout: Index<Assignment[]>;
  byDevice: Index<Assignment[]>;
}

const concerns = new WeakMap<readonly unknown[], Concerns>();

function concernsOf({ assignments }: RailwayRecord): Concerns {
  const known = concerns.get(assignments);
  if (known) return known;
  const made: Concerns = { byTurnout: new Map(), byDevice: new Map() };
  for (const assignment of assignments) {
    if ("turnoutId" in assignment) push(made.byTurnout, assignment.turnoutId, assignment);
    for (const id of new Set(devicesOf(assignment))) push(made.byDevice, id, assignment);
  }
  concerns.set(assignments, made);
  return made;
}

/**
 * Hands what is known of a list on to the one that an edit of one thing made of it, brought up to date; for drafts, which make
 * thousands of lists one after the other.
 * @param first the record with which the draft began, which keeps its own
 */
export function inheritIndex(
  first: RailwayRecord,
  from: RailwayRecord,
  to: RailwayRecord,
  kind: Kind,
  id: string,
): void {
  const [before, list, now] = [thingsOf(first, kind), thingsOf(from, kind), thingsOf(to, kind)];
  const isOwn = list !== before;
  const things = isOwn ? thingsById(from, kind) : new ChangedMap(thingsById(from, kind));
  const old = things.get(id);
  const thing = now.find((each) => each.id === id);
  if (thing) things.set(id, thing);
  else things.delete(id);
  if (isOwn) byId.delete(list);
  byId.set(now, things);
  if (kind !== "assignment") return;
  const known = isOwn ? concernsOf(from) : copyOf(concernsOf(from));
  if (old) forget(known, [old as Assignment]);
  if (thing) insert(known, thing as Assignment);
  if (isOwn) concerns.delete(list);
  concerns.set(now, known);
}

function copyOf({ byTurnout, byDevice }: Concerns): Concerns {
  return { byTurnout: new ChangedMap(byTurnout), byDevice: new ChangedMap(byDevice) };
}

/** Puts one in where a list made anew has it, by its identifier; lists that others may share are left alone. */
function insert({ byTurnout, byDevice }: Concerns, assignment: Assignment): void {
  const into = (map: Index<Assignment[]>, key: string) => {
    const list = map.get(key) ?? [];
    const later = list.findIndex(({ id }) => id > assignment.id);
    const at = later < 0 ? list.length : later;
    map.set(key, [...list.slice(0, at), assignment, ...list.slice(at)]);
  };
  if ("turnoutId" in assignment) into(byTurnout, assignment.turnoutId);
  for (const id of new Set(devicesOf(assignment))) into(byDevice, id);
}

function forget({ byTurnout, byDevice }: Concerns, gone: readonly Assignment[]): void {
  const left = new Set(gone);
  const without = (map: Index<Assignment[]>, keys: readonly string[]) => {
    for (const key of new Set(keys))
      map.set(
        key,
        (map.get(key) ?? []).filter((each) => !left.has(each)),
      );
  };
  without(
    byTurnout,
    gone.flatMap((a) => ("turnoutId" in a ? [a.turnoutId] : [])),
  );
  without(byDevice, gone.flatMap(devicesOf));
}

function push(map: Index<Assignment[]>, key: string, value: Assignment): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}

/**
 * Makes what is known of a record's assignments out of what was known before an edit, which keeps its own; of little use
 * where the two have little in common.
 */
export function indexAfter(record: RailwayRecord, before: RailwayRecord): void {
  const known = concerns.get(before.assignments);
  if (!known || concerns.has(record.assignments)) return;
  const now = copyOf(known);
  const { gone, come } = differenceOf(before, record, "assignment");
  forget(now, gone);
  for (const assignment of come) insert(now, assignment);
  concerns.set(record.assignments, now);
}

/** The thing of a kind with an identifier, or undefined. */
export function find<K extends Kind>(record: RailwayRecord, kind: K, id: string): ValueOf<K> | undefined {
  return thingsById(record, kind).get(id) as ValueOf<K> | undefined;
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
  return (concernsOf(record).byTurnout.get(turnoutId) ?? []).filter((a): a is AssignmentOf<R> => a.role === role);
}

/** All assignments in which a device takes part, in whatever capacity. */
export function assignmentsOfDevice(record: RailwayRecord, deviceId: string): Assignment[] {
  return concernsOf(record).byDevice.get(deviceId) ?? [];
}

const roles = new WeakMap<readonly unknown[], Map<string, Assignment[]>>();

/** The assignments of a role, in the order of identifiers; the same list for as long as the record's is. */
export function assignmentsOfRole<R extends Role>({ assignments }: RailwayRecord, role: R): readonly AssignmentOf<R>[] {
  let known = roles.get(assignments);
  if (!known) {
    known = new Map();
    for (const assignment of assignments) push(known, assignment.role, assignment);
    roles.set(assignments, known);
  }
  return (known.get(role) ?? NONE) as readonly AssignmentOf<R>[];
}

const NONE: readonly Assignment[] = [];

/** Turnouts in the owner's order. */
export function turnoutsInOrder({ turnouts }: Pick<RailwayRecord, "turnouts">): Turnout[] {
  return [...turnouts].sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));
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
  const things = thingsById(record, kind);
  for (let number = 1; ; number++) {
    const id = number === 1 ? stem : `${stem}-${number}`;
    if (!things.has(id) && !taken.has(id)) return id;
  }
}

/** Identifier of the device that feeds a device, or brings its commands; null for none. */
export function feederOf(record: RailwayRecord, deviceId: string, role: "supply" | "commands"): string | null {
  for (const a of assignmentsOfDevice(record, deviceId))
    if (a.role === role && a.toDeviceId === deviceId) return a.deviceId;
  return null;
}
