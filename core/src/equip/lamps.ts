import { typeOf } from "../catalogue/catalogue.ts";
import { traitsOf, usualSupply } from "../catalogue/traits.ts";
import { assignmentsOfTurnout, deviceOf, find, turnoutOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { AssignmentOf, Device, Position, Turnout } from "../record/schemas.ts";
import { deviceCalled } from "./controls.ts";
import { removeDeviceFrom } from "./devices.ts";
import type { Draft } from "./draft.ts";
import { feed } from "./feed.ts";
import { setFrog } from "./frogs.ts";
import { singleBlanks } from "./singleBlanks.ts";
import { removeHelper, type Source, sourceMeant, sourceText } from "./sources.ts";
import { requireType, typeMeant } from "./typeMeant.ts";

/** A lamp that a turnout is to have: a new one of a type or one that is there, and what lights it when that is not the usual. */
export interface WantedLamp {
  lamp: { typeId: string } | { deviceId: string };
  source?: Source | undefined;
}

/**
 * Gives a turnout lamps instead of those it has. Without a source each is lit as its kind usually is: by the first contact
 * of the motor, by the frog, by an output of the motor's own board.
 */
export function setLamps(draft: Draft, turnoutId: string, wanted: readonly WantedLamp[]): void {
  const present = assignmentsOfTurnout(draft.record, turnoutId, "lamp");
  const named = new Set(wanted.flatMap(({ lamp }) => ("deviceId" in lamp ? [lamp.deviceId] : [])));
  const others = present.filter(({ deviceId }) => !named.has(deviceId));
  for (const each of wanted) {
    const { lamp } = each;
    const same = "deviceId" in lamp ? present.find(({ deviceId }) => deviceId === lamp.deviceId) : undefined;
    putLamp(draft, turnoutId, each, same ?? others.shift());
  }
  for (const { id } of others) takeLampAway(draft, id);
}

/** Gives a turnout one lamp, new of a type or an existing one; null takes all away. */
export function setLamp(draft: Draft, turnoutId: string, lamp: WantedLamp["lamp"] | null, source?: Source): void {
  setLamps(draft, turnoutId, lamp ? [{ lamp, source }] : []);
}

/** Puts another lamp in the place of one of a turnout's. */
export function changeLamp(draft: Draft, turnoutId: string, deviceId: string, lamp: WantedLamp): void {
  const before = assignmentsOfTurnout(draft.record, turnoutId, "lamp").find((each) => each.deviceId === deviceId);
  putLamp(draft, turnoutId, lamp, before);
}

/** Takes one lamp away, with the helper that lit nothing else. */
export function takeLampAway(draft: Draft, assignmentId: string): void {
  const lamp = find(draft.record, "assignment", assignmentId);
  if (lamp?.role !== "lamp") return;
  removeDeviceFrom(draft, lamp.deviceId);
  removeHelper(draft, lamp.fromId);
}

function putLamp(
  draft: Draft,
  turnoutId: string,
  { lamp, source }: WantedLamp,
  present: AssignmentOf<"lamp"> | undefined,
): void {
  const old = present && deviceOf(draft.record, present.deviceId);
  const device = lampDevice(draft, lamp, old);
  const type = typeOf(draft.record, device);
  const usual = present && old?.id === device.id && typeOf(draft.record, old).model === type.model ? present : null;
  const from =
    source ??
    (usual
      ? { deviceId: usual.fromId, way: usual.way, coveredAt: usual.coveredAt }
      : usualSource(draft, turnoutOf(draft.record, turnoutId), device));
  if (present) {
    draft.remove("assignment", present.id);
    if (old && old.id !== device.id) removeDeviceFrom(draft, old.id);
  }
  draft.assign("lamp", {
    deviceId: device.id,
    turnoutId,
    fromId: from.deviceId,
    way: from.way,
    crossed: present?.crossed ?? false,
    coveredAt: from.coveredAt ?? null,
  });
  if (present && present.fromId !== from.deviceId) removeHelper(draft, present.fromId);
  const fromType = typeOf(draft.record, deviceOf(draft.record, from.deviceId));
  const needsOwn = fromType.contactSets > 0 || fromType.family === "motor" || traitsOf(type).shows === "box";
  if (needsOwn && usualSupply(type)) feed(draft, device, type);
  else draft.unassign((a) => a.role === "supply" && a.toDeviceId === device.id);
}

function lampDevice(draft: Draft, lamp: WantedLamp["lamp"], old: Device | undefined): Device {
  if ("deviceId" in lamp) {
    const known = find(draft.record, "device", lamp.deviceId);
    if (!known) throw recordError(`There is no device "${lamp.deviceId}".`);
    return known;
  }
  const type = requireType(draft.record, lamp.typeId);
  // a label that tells the kind would be wrong on another
  if (!old || typeOf(draft.record, old).prefix !== type.prefix)
    return draft.addDevice(type.id, type.prefix, type.place);
  draft.put("device", { ...old, typeId: type.id, place: type.place });
  return deviceOf(draft.record, old.id);
}

/** Where a lamp of its kind is usually lit from. @throws {RecordError} when the turnout has nothing of the sort */
function usualSource(draft: Draft, turnout: Turnout, device: Device): Source {
  const { record } = draft;
  const type = typeOf(record, device);
  const [motor] = assignmentsOfTurnout(record, turnout.id, "motor");
  if (traitsOf(type).shows === "frog-leds") {
    if (assignmentsOfTurnout(record, turnout.id, "frog").length === 0) setFrog(draft, turnout.id, null);
    const [frog] = assignmentsOfTurnout(draft.record, turnout.id, "frog");
    if (frog) return { deviceId: frog.deviceId, way: null };
  }
  if (traitsOf(type).movedBy === "signal") {
    throw recordError(`Say which output moves ${device.label}, as "${type.name} from SB1-2".`);
  }
  if (!motor) {
    throw recordError(`${turnout.label} has no motor yet, and the lamp needs its contact. Choose a motor first.`);
  }
  return { deviceId: motor.deviceId, way: traitsOf(type).shows === "flag" ? null : 1 };
}

/**
 * A turnout's lamps as text, several parted by " + ": each its label, and what lights it when that is not the motor's first
 * contact.
 * @example "LP1", "LP1 + DS1 from D1-3", "FB1 from IR1 at N"
 */
export function readLamps(record: RailwayRecord, turnout: Turnout): string {
  return assignmentsOfTurnout(record, turnout.id, "lamp")
    .map(({ deviceId, fromId, way, coveredAt }) => {
      const { label } = deviceOf(record, deviceId);
      const source = sourceText(record, turnout, { deviceId: fromId, way });
      const usual = source === "S1" || source === "frog" || (way === null && coveredAt === null);
      return usual ? label : `${label} from ${source}${coveredAt ? ` at ${coveredAt}` : ""}`;
    })
    .join(" + ");
}

/** Writes what `readLamps` reads; a type's name in place of a label fits a new one. @throws {RecordError} */
export function writeLamps(draft: Draft, turnoutId: string, text: string): void {
  const none = text === "" || text.toLowerCase() === "none";
  const parts = none ? [] : text.split(/\s\+\s/);
  setLamps(
    draft,
    turnoutId,
    parts.map((part) => lampMeant(draft, turnoutId, part.trim())),
  );
}

function lampMeant(draft: Draft, turnoutId: string, given: string): WantedLamp {
  const text = singleBlanks(given);
  const [, name = "", from] = /^(.*?)(?: from (\S.*))?$/i.exec(text) ?? [];
  // a type's own name may hold the word
  const whole = from !== undefined && isLampType(draft.record, text);
  const called = deviceCalled(draft.record, whole ? text : name);
  const lamp =
    called && typeOf(draft.record, called).family === "lamp"
      ? { deviceId: called.id }
      : { typeId: typeMeant(draft.record, "lamp", whole ? text : name).id };
  return { lamp, source: from && !whole ? lightMeant(draft, turnoutId, from.trim()) : undefined };
}

/** What lights a lamp; for a sensor at the throw bar, as "IR1 at N", also where it is covered. */
function lightMeant(draft: Draft, turnoutId: string, text: string): Source {
  const [, name = "", at] = /^(.*?)(?: at ([nr]))?$/i.exec(text) ?? [];
  const source = sourceMeant(draft, turnoutId, name);
  const { inTrack } = traitsOf(typeOf(draft.record, deviceOf(draft.record, source.deviceId)));
  if (inTrack !== "spot-sensor") {
    if (at)
      throw recordError(`Only a sensor at the throw bar is covered at one position; type "${name}" without "at".`);
    return source;
  }
  return { ...source, coveredAt: (at?.toUpperCase() ?? "R") as Position };
}

function isLampType(record: RailwayRecord, text: string): boolean {
  try {
    return typeMeant(record, "lamp", text) !== undefined;
  } catch {
    return false;
  }
}
