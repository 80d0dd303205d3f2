import { KIND_ENTRIES, type RailwayRecord, thingsOf } from "./kinds.ts";

/**
 * The record with every thing that is as it was in an earlier one replaced by the earlier object, and whole lists where
 * nothing in them changed. What is derived can then tell by identity what an edit left alone, even after the record has
 * been copied between threads.
 */
export function withUnchanged(record: RailwayRecord, before: RailwayRecord): RailwayRecord {
  const result = { ...record };
  for (const [kind, { list }] of KIND_ENTRIES) {
    const old = thingsOf(before, kind);
    const now = thingsOf(record, kind);
    if (now === old) continue;
    const known = new Map(old.map((thing) => [thing.id, thing]));
    const kept = now.map((thing) => {
      const earlier = known.get(thing.id);
      return earlier && isSame(earlier, thing) ? earlier : thing;
    });
    const untouched = kept.length === old.length && kept.every((thing, index) => thing === old[index]);
    Object.assign(result, { [list]: untouched ? old : kept });
  }
  if (isSame(record.railway, before.railway)) result.railway = before.railway;
  return result;
}

/** Whether two plain things hold the same, at any depth and in whatever order their fields stand. */
export function isSame(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const keys = Object.keys(a);
  if (keys.length !== Object.keys(b).length) return false;
  return keys.every((key) => isSame((a as Record<string, unknown>)[key], (b as Record<string, unknown>)[key]));
}

/** Whether the same places turn normal into reverse in two records. */
export function turnsAlike(a: RailwayRecord, b: RailwayRecord): boolean {
  return a.senses === b.senses || turning(a) === turning(b);
}

/** Whether the same is said and taught of events in two records. */
function tellsAlike(a: RailwayRecord, b: RailwayRecord): boolean {
  if (a.events !== b.events || a.producers !== b.producers || a.consumers !== b.consumers) return false;
  // what was taught is told by the numbers of nodes, which are settings
  return a.taught === b.taught && (a.taught.length === 0 || a.settings === b.settings);
}

/** Whether two records have the same routes, asked for by the same things, and the same on diode boards. */
export function isRoutedAlike(a: RailwayRecord, b: RailwayRecord): boolean {
  return (
    a.routes === b.routes &&
    a.routeTurnouts === b.routeTurnouts &&
    a.routeControls === b.routeControls &&
    a.boardParts === b.boardParts &&
    a.railway.matrixBy === b.railway.matrixBy
  );
}

/** The places that turn normal into reverse, as text. */
function turning({ senses }: RailwayRecord): string {
  return senses.flatMap(({ link, deviceId, way, inverts }) => (inverts ? [`${link} ${deviceId} ${way}`] : [])).join();
}

/**
 * Whether two records are wired alike: the same devices, types and assignments (the same objects), and turnouts that differ
 * only in name and wire length.
 */
export function isWiredAlike(a: RailwayRecord, b: RailwayRecord): boolean {
  if (a.devices !== b.devices || a.assignments !== b.assignments || a.types !== b.types) return false;
  if (!turnsAlike(a, b) || !tellsAlike(a, b) || !isRoutedAlike(a, b)) return false;
  if (a.turnouts === b.turnouts) return true;
  return (
    a.turnouts.length === b.turnouts.length &&
    a.turnouts.every((turnout, index) => {
      const other = b.turnouts[index];
      if (turnout === other) return true;
      return (
        other !== undefined &&
        turnout.id === other.id &&
        turnout.label === other.label &&
        turnout.hand === other.hand &&
        turnout.movesWith === other.movesWith &&
        turnout.order === other.order
      );
    })
  );
}
