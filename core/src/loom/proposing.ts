import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { assignmentsOfRole, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Wire as Fact, standingOfWire } from "../record/made.ts";
import type { Railway } from "../record/schemas.ts";
import type { Loom, Wire } from "./wire.ts";

/** Takes proposed wires of nets back, of which one wire is as asked: they are proposed anew. */
export function proposeNets(draft: Draft, loom: Loom, isAsked: (wire: Wire) => boolean): void {
  const nets = new Set(loom.wires.flatMap((wire) => (isAsked(wire) ? [wire.net] : [])));
  for (const wire of loom.wires) {
    const fact = nets.has(wire.net) ? find(draft.record, "wire", wire.id) : undefined;
    if (fact && standingOfWire(fact) === "proposed") draft.remove("wire", fact.id);
  }
}

/** What of the railway says how it is laid, and how proposals go through strips, cables and tails. */
export type WaysOfLaying = Pick<
  Railway,
  "stripsAt" | "reachMetres" | "coresBy" | "motorTails" | "tailCores" | "commons" | "cableGauge"
>;

/**
 * Says how all is laid, and proposes all anew that goes through strips, cables and tails; facts stay.
 * @returns null when nothing changes
 */
export function setLaying(record: RailwayRecord, loom: Loom, fields: Partial<WaysOfLaying>): EditGroup | null {
  if (!differs(record.railway, fields)) return null;
  const draft = new Draft(record);
  const motors = motorsOf(record);
  proposeNets(
    draft,
    loom,
    ({ core, from, to }) => core !== null || [from, to].some(({ of }) => of && motors.has(of.deviceId)),
  );
  const firm = new Set(
    firmFacts(record).flatMap(({ fromStripId, toStripId, cableId }) => [fromStripId, toStripId, cableId]),
  );
  for (const { id, kind, kept, fixedAt } of record.strips)
    if (kind === "screws" && !kept && fixedAt === null && !firm.has(id)) draft.removeWhole("strip", id);
  for (const { id, kept, laidAt } of record.cables)
    if (!kept && laidAt === null && !firm.has(id)) draft.removeWhole("cable", id);
  const value = { ...record.railway, ...fields };
  return {
    words: "Changed how the loom is laid",
    edits: [{ op: "railway", value }, ...draft.edits],
  };
}

/** Every motor. */
export function motorsOf(record: RailwayRecord): Set<string> {
  return new Set(assignmentsOfRole(record, "motor").map(({ deviceId }) => deviceId));
}

/** Wires that are made or kept. */
export function firmFacts({ wires }: RailwayRecord): Fact[] {
  return wires.filter((fact) => ["made", "kept"].includes(standingOfWire(fact)));
}

/** Whether fields would make another thing of one. */
export function differs<T extends object>(thing: T, fields: Partial<T>): boolean {
  return (Object.keys(fields) as (keyof T)[]).some((field) => thing[field] !== fields[field]);
}
