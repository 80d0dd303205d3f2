import { typeOf } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { EditGroup } from "../record/edits.ts";
import { assignmentsOfDevice, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { AssignmentOf } from "../record/schemas.ts";
import { heardAt } from "../schematic/recipes/controlToInputs.ts";
import type { Thread, ThreadControl } from "../schematic/thread.ts";
import { removeDeviceFrom } from "./devices.ts";
import { Draft } from "./draft.ts";
import { firstOfType } from "./feed.ts";
import { requireType } from "./typeMeant.ts";

/** What may lock a control out: something that is there, or something that is added for it. */
export type LockWith = { deviceId: string; way: number | null } | "new key switch" | "new relay";

export interface LockChoice {
  /** Tells it from the others of its control. */
  key: string;
  text: string;
  hint: string;
  lock: LockWith;
}

/** What may lock a control of a thread out: key switches, contacts of relays that a key picks up, the settings of its board. */
export function lockChoices(record: RailwayRecord, thread: Thread, control: ThreadControl): LockChoice[] {
  const { asks } = traitsOf(control.type);
  // what asks by electronics of its own, or a board's output, has no common that could be cut
  const wired = control.type.family === "control" && asks !== "signal" && asks !== null;
  // a key that picks relays up is off while nobody is locked out, and so cannot cut anything
  const keys = record.devices.filter(
    (device) => typeOf(record, device).family === "lock" && !picksUpRelays(record, device.id),
  );
  const choices: LockChoice[] = [];
  if (wired) {
    for (const { id, label } of keys)
      choices.push({ key: id, text: label, hint: "cuts its common", lock: { deviceId: id, way: null } });
    choices.push({ key: "key", text: "a new key switch", hint: "cuts its common", lock: "new key switch" });
    for (const { deviceId, way } of freeContacts(record, control)) {
      const text = `${deviceOf(record, deviceId).label}-S${way}`;
      choices.push({ key: `${deviceId} ${way}`, text, hint: "cuts its common", lock: { deviceId, way } });
    }
    choices.push({ key: "relay", text: "a new relay", hint: "picked up by a key switch", lock: "new relay" });
  }
  const board = heardAt(thread, control)?.board;
  if (board) {
    const lock = { deviceId: board.device.id, way: null };
    choices.push({ key: board.device.id, text: `a setting of ${board.device.label}`, hint: "no wire", lock });
  }
  return choices;
}

/** Contacts of relays that lock something out, which are free or this control's own. */
function freeContacts(record: RailwayRecord, { lock }: ThreadControl): { deviceId: string; way: number }[] {
  return record.devices.flatMap((device) => {
    const locks = assignmentsOfDevice(record, device.id).filter((a) => a.role === "lock" && a.deviceId === device.id);
    const type = typeOf(record, device);
    if (traitsOf(type).relay !== "held" || locks.length === 0) return [];
    const used = new Set(locks.map((a) => (a.role === "lock" ? a.way : null)));
    const own = lock?.device.id === device.id ? lock.way : null;
    return Array.from({ length: type.contactSets }, (_, index) => index + 1)
      .filter((way) => !used.has(way) || way === own)
      .map((way) => ({ deviceId: device.id, way }));
  });
}

/** Has a control locked out by something, instead of what did before; null for nothing. A relay that locks nothing any more goes. */
export function setLock(
  record: RailwayRecord,
  { controlId, controlWay }: Pick<AssignmentOf<"lock">, "controlId" | "controlWay">,
  lock: LockWith | null,
): EditGroup {
  const draft = new Draft(record);
  const { label } = deviceOf(record, controlId);
  const before = record.assignments.filter(
    (a): a is AssignmentOf<"lock"> => a.role === "lock" && a.controlId === controlId && a.controlWay === controlWay,
  );
  for (const { id } of before) draft.remove("assignment", id);
  const at = lock && lockDevice(draft, lock);
  if (at) draft.assign("lock", { deviceId: at.deviceId, way: at.way, controlId, controlWay });
  for (const { deviceId } of before) removeIdleRelay(draft, deviceId);
  return draft.group(
    at ? `${label} is locked out by ${deviceOf(draft.record, at.deviceId).label}` : `Nothing locks ${label} out`,
  );
}

function lockDevice(draft: Draft, lock: LockWith): { deviceId: string; way: number | null } {
  if (lock === "new key switch") return { deviceId: addOf(draft, "key-switch").id, way: null };
  if (lock !== "new relay") return lock;
  const relay = addOf(draft, "relay-dpdt");
  draft.assign("supply", { deviceId: firstOfType(draft, "dc-12").id, toDeviceId: relay.id });
  draft.assign("commands", { deviceId: keyForRelays(draft).id, toDeviceId: relay.id });
  return { deviceId: relay.id, way: 1 };
}

function addOf(draft: Draft, typeId: string) {
  const type = requireType(draft.record, typeId);
  return draft.addDevice(typeId, type.prefix, type.place);
}

/** A key switch that picks up relays already, or a new one: one that cuts commons is on when nobody is locked out, and so cannot. */
function keyForRelays(draft: Draft) {
  const { record } = draft;
  const known = record.devices.find(
    (device) => typeOf(record, device).family === "lock" && picksUpRelays(record, device.id),
  );
  return known ?? addOf(draft, "key-switch");
}

function picksUpRelays(record: RailwayRecord, keyId: string): boolean {
  return assignmentsOfDevice(record, keyId).some((a) => a.role === "commands" && a.deviceId === keyId);
}

function removeIdleRelay(draft: Draft, deviceId: string): void {
  const { record } = draft;
  const used = assignmentsOfDevice(record, deviceId).some((a) => a.role === "lock" && a.deviceId === deviceId);
  if (!used && traitsOf(typeOf(record, deviceOf(record, deviceId))).relay === "held") removeDeviceFrom(draft, deviceId);
}
