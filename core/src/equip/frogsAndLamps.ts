import { typeOf } from "../catalogue/catalogue.ts";
import { traitsOf, usualSupply } from "../catalogue/traits.ts";
import { assignmentsOfTurnout, deviceOf, find, turnoutOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { Device, Turnout } from "../record/schemas.ts";
import { deviceCalled, wayOf } from "./controls.ts";
import { removeDeviceFrom } from "./devices.ts";
import type { Draft } from "./draft.ts";
import { driverOfTurnout } from "./equipment.ts";
import { feed } from "./feed.ts";
import { requireType, typeMeant } from "./typeMeant.ts";

/** What feeds a frog or lights a lamp: a device, and which of its ways. */
export interface Source {
  deviceId: string;
  way: number | null;
}

/** Gives a turnout a frog fed by a source, a dead one for null, or states none for undefined. */
export function setFrog(draft: Draft, turnoutId: string, from: Source | null | undefined, crossed = false): void {
  const [present] = assignmentsOfTurnout(draft.record, turnoutId, "frog");
  if (from === undefined) {
    if (present) removeDeviceFrom(draft, present.deviceId);
    if (present?.fromId) removeHelper(draft, present.fromId);
    return;
  }
  const device = present ? deviceOf(draft.record, present.deviceId) : addFrog(draft, turnoutId);
  const old = present?.fromId;
  if (present) draft.remove("assignment", present.id);
  draft.assign("frog", {
    deviceId: device.id,
    turnoutId,
    fromId: from?.deviceId ?? null,
    way: from?.way ?? null,
    crossed,
  });
  if (old && old !== from?.deviceId) removeHelper(draft, old);
}

function addFrog(draft: Draft, turnoutId: string): Device {
  const frog = draft.addDevice("frog", "F", "layout", `${turnoutOf(draft.record, turnoutId).label}F`);
  feed(draft, frog, requireType(draft.record, "frog"));
  return frog;
}

/** A polarity unit or relay that feeds and lights nothing any more goes. */
function removeHelper(draft: Draft, deviceId: string): void {
  const device = find(draft.record, "device", deviceId);
  const traits = traitsOf(device && typeOf(draft.record, device));
  const used = draft.record.assignments.some((a) => (a.role === "frog" || a.role === "lamp") && a.fromId === deviceId);
  if (!used && (traits.inTrack === "polarity-unit" || traits.relay !== null)) {
    removeDeviceFrom(draft, deviceId);
  }
}

/** What feeds a turnout's frog, as text: "S2", "RY1-S1", "FP1", "dead"; with " crossed" where the rails are exchanged. */
export function readFrog(record: RailwayRecord, turnout: Turnout): string {
  const [frog] = assignmentsOfTurnout(record, turnout.id, "frog");
  if (!frog) return "";
  if (frog.fromId === null) return "dead";
  const source = sourceText(record, turnout, { deviceId: frog.fromId, way: frog.way });
  return frog.crossed ? `${source} crossed` : source;
}

/** Writes what `readFrog` reads; "polarity unit", "relay" or a relay board's name add one. @throws {RecordError} */
export function writeFrog(draft: Draft, turnoutId: string, text: string): void {
  const crossed = /\scrossed$/i.test(text);
  const name = text.replace(/\scrossed$/i, "").trim();
  if (name === "" || name.toLowerCase() === "none") setFrog(draft, turnoutId, undefined);
  else if (name.toLowerCase() === "dead") setFrog(draft, turnoutId, null);
  else setFrog(draft, turnoutId, sourceMeant(draft, turnoutId, name), crossed);
}

/**
 * Gives a turnout a lamp of a type, or an existing one; null takes it away. Without a source it is lit as its kind
 * usually is: by the first contact of the motor, by the frog, by an output of the motor's own board.
 */
export function setLamp(
  draft: Draft,
  turnoutId: string,
  lamp: { typeId: string } | { deviceId: string } | null,
  source?: Source,
): void {
  const [present] = assignmentsOfTurnout(draft.record, turnoutId, "lamp");
  if (lamp === null) {
    if (!present) return;
    removeDeviceFrom(draft, present.deviceId);
    removeHelper(draft, present.fromId);
    return;
  }
  const old = present && deviceOf(draft.record, present.deviceId);
  const device = lampDevice(draft, lamp, old);
  const type = typeOf(draft.record, device);
  const usual = present && old?.id === device.id && typeOf(draft.record, old).model === type.model ? present : null;
  const from =
    source ??
    (usual
      ? { deviceId: usual.fromId, way: usual.way }
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
  });
  if (present && present.fromId !== from.deviceId) removeHelper(draft, present.fromId);
  const fromType = typeOf(draft.record, deviceOf(draft.record, from.deviceId));
  const byContact = fromType.contactSets > 0 || fromType.family === "motor";
  if (byContact && usualSupply(type)) feed(draft, device, type);
  else draft.unassign((a) => a.role === "supply" && a.toDeviceId === device.id);
}

function lampDevice(draft: Draft, lamp: { typeId: string } | { deviceId: string }, old: Device | undefined): Device {
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

/** A turnout's lamp as text: its label, and what lights it when that is not the motor's first contact. */
export function readLamp(record: RailwayRecord, turnout: Turnout): string {
  const [lamp] = assignmentsOfTurnout(record, turnout.id, "lamp");
  if (!lamp) return "";
  const { label } = deviceOf(record, lamp.deviceId);
  const source = sourceText(record, turnout, { deviceId: lamp.fromId, way: lamp.way });
  const usual = source === "S1" || source === "frog" || lamp.way === null;
  return usual ? label : `${label} from ${source}`;
}

/** Writes what `readLamp` reads; a type's name in place of a label fits a new one. @throws {RecordError} */
export function writeLamp(draft: Draft, turnoutId: string, text: string): void {
  if (text === "" || text.toLowerCase() === "none") {
    setLamp(draft, turnoutId, null);
    return;
  }
  const [, name = "", from] = /^(.*?)(?:\s+from\s+(\S.*))?$/i.exec(text) ?? [];
  // a type's own name may hold the word
  const whole = from !== undefined && isLampType(draft.record, text);
  const called = deviceCalled(draft.record, whole ? text : name);
  const lamp =
    called && typeOf(draft.record, called).family === "lamp"
      ? { deviceId: called.id }
      : { typeId: typeMeant(draft.record, "lamp", whole ? text : name).id };
  setLamp(draft, turnoutId, lamp, from && !whole ? sourceMeant(draft, turnoutId, from.trim()) : undefined);
}

function isLampType(record: RailwayRecord, text: string): boolean {
  try {
    return typeMeant(record, "lamp", text) !== undefined;
  } catch {
    return false;
  }
}

function sourceText(record: RailwayRecord, turnout: Turnout, { deviceId, way }: Source): string {
  const device = deviceOf(record, deviceId);
  const type = typeOf(record, device);
  const [motor] = assignmentsOfTurnout(record, turnout.id, "motor");
  if (traitsOf(type).inTrack === "frog") return "frog";
  if (way === null) return device.label;
  if (motor?.deviceId === deviceId) return `S${way}`;
  const driver = driverOfTurnout(record, turnout.id);
  if (driver?.deviceId === deviceId && driver.way === way) return "driver";
  return type.contactSets > 0 ? `${device.label}-S${way}` : `${device.label}-${way}`;
}

/** What a text names as a source. @throws {RecordError} with what may be typed */
function sourceMeant(draft: Draft, turnoutId: string, text: string): Source {
  const { record } = draft;
  const turnout = turnoutOf(record, turnoutId);
  const [motor] = assignmentsOfTurnout(record, turnoutId, "motor");
  const contact = /^s(\d{1,2})$/i.exec(text);
  if (contact) {
    if (!motor)
      throw recordError(`${turnout.label} has no motor yet, so there is no contact ${text}. Choose a motor first.`);
    return { deviceId: motor.deviceId, way: Number(contact[1]) };
  }
  const lower = text.toLowerCase();
  if (lower === "driver") {
    const driver = driverOfTurnout(record, turnout.movesWith ?? turnoutId);
    if (!driver || driver.way === null)
      throw recordError(`${turnout.label} is on no numbered output that could light a lamp.`);
    return driver;
  }
  if (lower === "frog") {
    const [frog] = assignmentsOfTurnout(record, turnoutId, "frog");
    if (!frog) throw recordError(`${turnout.label} has no frog yet. Say first what feeds it, or "dead".`);
    return { deviceId: frog.deviceId, way: null };
  }
  const device = deviceCalled(record, text);
  if (device) {
    const { contactSets, outputs } = typeOf(record, device);
    return { deviceId: device.id, way: contactSets > 0 || outputs > 0 ? 1 : null };
  }
  const label = /^(.+)-S?\d{1,2}$/i.exec(text)?.[1];
  if (label && deviceCalled(record, label)) return wayOf(record, text, "output");
  return addedSource(draft, turnout, text);
}

/** A relay or polarity unit is fitted new for the turnout; a relay suits the kind of motor it lies beside. */
function addedSource(draft: Draft, turnout: Turnout, text: string): Source {
  const [motor] = assignmentsOfTurnout(draft.record, turnout.id, "motor");
  const coil = motor && traitsOf(typeOf(draft.record, deviceOf(draft.record, motor.deviceId))).movedBy === "pulse";
  const wanted = text.toLowerCase() === "relay" ? (coil ? "relay-latching" : "relay-dpdt") : text;
  const family = /relay board/i.test(wanted) || wanted.startsWith("relay-board") ? "driver" : "reader";
  const type = typeMeant(draft.record, family, wanted);
  const device = draft.addDevice(type.id, type.prefix, type.place);
  feed(draft, device, type);
  return { deviceId: device.id, way: type.contactSets > 0 ? 1 : null };
}
