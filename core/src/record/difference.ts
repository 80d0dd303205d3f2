import { DEVICE_FIELDS, type Kind, LISTS, type RailwayRecord, thingsOf, type ValueOf } from "./kinds.ts";
import type { Assignment } from "./schemas.ts";

/** What an edit took away and what it put in: a thing that was changed is in both. */
export interface Change<T> {
  gone: readonly T[];
  come: readonly T[];
}

/**
 * The things of a kind in which two records differ. Things that an edit left alone are the same objects, and lists are in
 * the order of their identifiers, so that both are gone through once, side by side.
 */
export function differenceOf<K extends Kind>(before: RailwayRecord, now: RailwayRecord, kind: K): Change<ValueOf<K>> {
  if (before[LISTS[kind]] === now[LISTS[kind]]) return NOTHING;
  const old = thingsOf(before, kind);
  const fresh = thingsOf(now, kind);
  const gone: { id: string }[] = [];
  const come: { id: string }[] = [];
  for (let a = 0, b = 0; a < old.length || b < fresh.length; ) {
    const [left, right] = [old[a], fresh[b]];
    if (left === right) {
      a++;
      b++;
    } else if (left && (!right || left.id <= right.id)) {
      gone.push(left);
      a++;
      if (right && left.id === right.id) {
        come.push(right);
        b++;
      }
    } else if (right) {
      come.push(right);
      b++;
    }
  }
  return { gone, come } as unknown as Change<ValueOf<K>>;
}

const NOTHING = { gone: [], come: [] };

/** Identifiers of the devices that an assignment is about. */
export function devicesOf(assignment: Assignment): string[] {
  const fields = assignment as unknown as Record<string, string | null | undefined>;
  return DEVICE_FIELDS.flatMap((field) => fields[field] ?? []);
}

/** What an edit can have changed the wiring of: devices and turnouts by identifier. */
export interface Touched {
  devices: ReadonlySet<string>;
  turnouts: ReadonlySet<string>;
}

/** Devices and turnouts that two records say something different of, in whatever list. */
export function touchedBetween(before: RailwayRecord, now: RailwayRecord): Touched {
  const devices = new Set<string>();
  const turnouts = new Set<string>();
  const both = <T>({ gone, come }: Change<T>) => [...gone, ...come];
  for (const assignment of both(differenceOf(before, now, "assignment"))) {
    for (const id of devicesOf(assignment)) devices.add(id);
    if ("turnoutId" in assignment) turnouts.add(assignment.turnoutId);
  }
  for (const { id } of both(differenceOf(before, now, "device"))) devices.add(id);
  const types = new Set(both(differenceOf(before, now, "type")).map(({ id }) => id));
  if (types.size > 0) for (const { id, typeId } of now.devices) if (types.has(typeId)) devices.add(id);
  for (const { id, movesWith } of both(differenceOf(before, now, "turnout"))) {
    turnouts.add(id);
    if (movesWith) turnouts.add(movesWith);
  }
  touchedByRoutes(before, now, devices, turnouts);
  return { devices, turnouts };
}

/** What routes and parts of diode boards say otherwise: their boards and controls, and the turnouts that they set. */
function touchedByRoutes(before: RailwayRecord, now: RailwayRecord, devices: Set<string>, turnouts: Set<string>): void {
  const both = <T>({ gone, come }: Change<T>) => [...gone, ...come];
  for (const { deviceId } of both(differenceOf(before, now, "boardPart"))) devices.add(deviceId);
  const routes = new Set(both(differenceOf(before, now, "route")).map(({ id }) => id));
  for (const { routeId, deviceId, throughId } of both(differenceOf(before, now, "routeControl"))) {
    routes.add(routeId);
    devices.add(deviceId);
    if (throughId) devices.add(throughId);
  }
  for (const { routeId, turnoutId } of both(differenceOf(before, now, "routeTurnout"))) {
    routes.add(routeId);
    turnouts.add(turnoutId);
  }
  if (routes.size === 0) return;
  for (const record of [before, now])
    for (const { routeId, turnoutId } of record.routeTurnouts) if (routes.has(routeId)) turnouts.add(turnoutId);
}
