import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { assignmentsOfRole, find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Cable, isJunction, newCable } from "../record/made.ts";
import { recordError } from "../record/problems.ts";
import type { Device } from "../record/schemas.ts";
import { count, list } from "../units/format.ts";
import { proposal } from "./completion.ts";
import { freeLabel } from "./hand.ts";
import { motorsOf } from "./proposing.ts";
import { coresOf } from "./reach.ts";
import { type Loom, screwIdOf, type Wire } from "./wire.ts";
import { putParts, wireNames } from "./work.ts";

// Tails that a person gives to motors: what is not made yet between them and strips or boards becomes cores of a cable.

/** Single wires that are not made, between a motor and a strip or boards: what a tail may take. */
function forTail(record: RailwayRecord, loom: Loom, motorIds: ReadonlySet<string>): { wire: Wire; motorId: string }[] {
  const here = new Set(
    [...assignmentsOfRole(record, "motor"), ...assignmentsOfRole(record, "frog")].map(({ deviceId }) => deviceId),
  );
  const splices = new Set(loom.strips.flatMap((strip) => (isJunction(strip) ? [strip.id] : [])));
  const motorAt = ({ of }: Wire["from"]) => (of && motorIds.has(of.deviceId) ? of.deviceId : undefined);
  const isStart = ({ of, key }: Wire["from"]) => (of ? !here.has(of.deviceId) : !splices.has(screwIdOf(key)));
  return loom.wires.flatMap((wire) => {
    const { standing, core, run, from, to } = wire;
    if (standing === "made" || core || run !== "layout") return [];
    const motorId = isStart(to) ? motorAt(from) : isStart(from) ? motorAt(to) : undefined;
    return motorId === undefined ? [] : [{ wire, motorId }];
  });
}

/** Motors to which single wires are still to be made that a tail may take. */
export function motorsWithoutTail(record: RailwayRecord, loom: Loom): Device[] {
  const open = new Set(forTail(record, loom, motorsOf(record)).map(({ motorId }) => motorId));
  return record.devices.filter(({ id }) => open.has(id));
}

/** Motors with a tail that has cores for wires that are still to be made beside it, as many as it has room for. */
export function tailsWithRoom(record: RailwayRecord, loom: Loom): { motor: Device; tail: Cable; wires: Wire[] }[] {
  const tails = loom.cables.filter(({ tail }) => tail);
  if (tails.length === 0) return [];
  const beside = forTail(record, loom, motorsOf(record));
  const room = new Map(tails.map(({ id, cores }) => [id, cores - coresOf(loom, id).size]));
  return record.devices.flatMap((motor) => {
    const wires = beside.flatMap(({ wire, motorId }) => (motorId === motor.id ? [wire] : []));
    const isAt = ({ of }: Wire["from"]) => of?.deviceId === motor.id;
    const tail = tails.find(({ id }) => [...coresOf(loom, id).values()].some(({ from, to }) => isAt(from) || isAt(to)));
    const free = tail ? (room.get(tail.id) ?? 0) : 0;
    if (!tail || wires.length === 0 || free === 0) return [];
    const taken = wires.slice(0, free);
    room.set(tail.id, free - taken.length);
    return [{ motor, tail, wires: taken }];
  });
}

/** Takes wires that are not made through free cores of a tail; they are proposed, or kept as they were. */
export function intoTail(record: RailwayRecord, loom: Loom, tail: Cable, wires: readonly Wire[]): EditGroup {
  const draft = new Draft(record);
  takeIntoTail(draft, loom, tail, wires);
  return draft.group(`Took ${wireNames(wires)} through ${tail.label}`);
}

function takeIntoTail(draft: Draft, loom: Loom, tail: Cable, wires: readonly Wire[]): void {
  const taken = new Set(coresOf(loom, tail.id).keys());
  const left = [...wires];
  for (let core = 1; core <= tail.cores && left.length > 0; core++) {
    const wire = taken.has(core) ? undefined : left.shift();
    if (!wire) continue;
    const fact = wire.fact ?? proposal(wire);
    putParts(draft, loom, fact);
    // what a core is follows from its cable
    draft.put("wire", { ...fact, cableId: tail.id, core, colour: null, gauge: null, metres: null });
  }
}

/**
 * One motor or two get a tail of their own: what is not made between them and a strip or boards becomes cores of it.
 * @throws {RecordError} when nothing is left to be joined to them, or when it is more than the tail has cores
 */
export function giveTail(record: RailwayRecord, loom: Loom, motorIds: readonly string[]): EditGroup {
  const wires = forTail(record, loom, new Set(motorIds)).map(({ wire }) => wire);
  const names = list(motorIds.map((id) => find(record, "device", id)?.label ?? id));
  const { tailCores } = record.railway;
  if (wires.length === 0) throw recordError(`No wire to ${names} is left to be made: there is nothing for a tail.`);
  if (wires.length > tailCores)
    throw recordError(
      `${names} need ${count(wires.length, "core")}; a tail has ${tailCores}. Give each its own, or set tails of more cores in the railway's settings.`,
    );
  const label = freeLabel(record.cables, "TL");
  const first = assignmentsOfRole(record, "motor").find(({ deviceId }) => motorIds.includes(deviceId));
  const zoneId = find(record, "turnout", first?.turnoutId ?? "")?.zoneId ?? null;
  const tail = { ...newCable(freshId(record, "cable", label), label, tailCores), tail: true, zoneId, kept: true };
  const draft = new Draft(record);
  draft.put("cable", tail);
  takeIntoTail(draft, loom, tail, wires);
  return draft.group(`Gave ${names} the tail ${label}`);
}
