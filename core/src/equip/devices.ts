import { takesSupply } from "../catalogue/checkTypes.ts";
import type { EditGroup } from "../record/edits.ts";
import { assignmentsOfDevice, find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import { type Device, type OwnType, PLAIN_TYPE } from "../record/schemas.ts";
import { Draft } from "./draft.ts";
import { feed } from "./feed.ts";
import { requireType } from "./typeMeant.ts";

/** Adds a board or supply; a board gets the supply and, for a decoder, the track bus that it needs. */
export function addBoard(record: RailwayRecord, typeId: string): EditGroup {
  const draft = new Draft(record);
  const device = addBoardTo(draft, typeId);
  return draft.group(`Added ${device.label}, ${requireType(record, typeId).name}`);
}

/** Adds a board or supply to a draft, with what it needs. */
export function addBoardTo(draft: Draft, typeId: string): Device {
  const type = requireType(draft.record, typeId);
  const device = draft.addDevice(typeId, type.prefix, type.place);
  feed(draft, device, type);
  return device;
}

/** Removes a device and everything that was assigned to it. */
export function removeDevice(record: RailwayRecord, deviceId: string): EditGroup {
  const draft = new Draft(record);
  const device = find(record, "device", deviceId);
  if (!device) throw recordError(`There is no device "${deviceId}" to remove.`);
  removeDeviceFrom(draft, deviceId);
  return draft.group(`Removed ${device.label}`);
}

/** What is lost or left without when a device is removed, in words: motors that it drives, boards that it feeds, readings. */
export function hangsOn(record: RailwayRecord, deviceId: string): string[] {
  const label = (id: string) => find(record, "device", id)?.label ?? id;
  const words = assignmentsOfDevice(record, deviceId).flatMap((a): string[] => {
    switch (a.role) {
      case "driver":
        return a.deviceId === deviceId ? [`drives ${label(a.motorId)}`] : [];
      case "control":
        return [`commands ${find(record, "turnout", a.turnoutId)?.label ?? a.turnoutId}`];
      case "lamp":
        return a.fromId === deviceId ? [`lights ${label(a.deviceId)}`] : [];
      case "frog":
        return a.fromId === deviceId ? [`feeds ${label(a.deviceId)}`] : [];
      case "supply":
        return a.deviceId === deviceId ? [`feeds ${label(a.toDeviceId)}`] : [];
      case "commands":
        return a.deviceId === deviceId ? [`commands ${label(a.toDeviceId)}`] : [];
      case "input":
        return a.deviceId === deviceId ? [`reads ${label(a.controlId)}`] : [];
      case "resistor":
        return a.deviceId === deviceId ? [`holds the resistors of ${label(a.lampId)}`] : [];
      case "lock":
        return a.deviceId === deviceId ? [`locks out ${label(a.controlId)}`] : [];
      case "block":
        return [`${hasZones(record, a.deviceId) ? "watches" : "feeds"} ${a.block}`];
      default:
        return [];
    }
  });
  const asked = record.routeControls.filter((each) => each.deviceId === deviceId || each.throughId === deviceId);
  for (const { routeId } of asked) words.push(`asks for route ${find(record, "route", routeId)?.label ?? routeId}`);
  return [...new Set(words)];
}

function hasZones(record: RailwayRecord, deviceId: string): boolean {
  const device = find(record, "device", deviceId);
  return device !== undefined && requireType(record, device.typeId).zones !== undefined;
}

/** Removes a device with all that refers to it; a lamp that it lit goes with it. */
export function removeDeviceFrom(draft: Draft, deviceId: string): void {
  const lamps = assignmentsOfDevice(draft.record, deviceId).filter((a) => a.role === "lamp" && a.fromId === deviceId);
  draft.removeWhole("device", deviceId);
  for (const lamp of lamps) if (find(draft.record, "device", lamp.deviceId)) removeDeviceFrom(draft, lamp.deviceId);
}

/** Fits another type in a device's place; its wiring is derived anew. What needs no supply is fed by none; a control that does is fed. */
export function changeType(record: RailwayRecord, deviceId: string, typeId: string): EditGroup {
  const draft = new Draft(record);
  const device = find(record, "device", deviceId);
  if (!device) throw recordError(`There is no device "${deviceId}".`);
  const type = requireType(record, typeId);
  const now = { ...device, typeId };
  draft.put("device", now);
  if (!takesSupply(type)) draft.unassign((a) => a.role === "supply" && a.toDeviceId === deviceId);
  else if (type.family === "control") feed(draft, now, type);
  // another board is there: what was found of the one before is not true of it
  for (const { id } of record.answers.filter((answer) => answer.deviceId === deviceId)) draft.remove("answer", id);
  for (const { id } of record.taught.filter((each) => each.deviceId === deviceId)) draft.remove("taught", id);
  for (const { id } of record.settings.filter((setting) => setting.deviceId === deviceId)) draft.remove("setting", id);
  return draft.group(`${device.label} is now: ${type.name}`);
}

/** Copies a type of the catalogue so that its figures can be changed. */
export function copyType(record: RailwayRecord, typeId: string, name: string): { group: EditGroup; id: string } {
  const type = requireType(record, typeId);
  const own = find(record, "type", typeId);
  const id = freshId(record, "type", `own-${name}`);
  const copy: OwnType = { ...PLAIN_TYPE, figures: {}, ...own, id, basedOn: own?.basedOn ?? type.id, name };
  const draft = new Draft(record);
  draft.put("type", copy);
  return { group: draft.group(`Copied ${type.name} as ${name}`), id };
}

/** Sets one figure of an own type, in SI units; null lets it go back to the catalogue's. */
export function setFigure(record: RailwayRecord, typeId: string, figure: string, value: number | null): EditGroup {
  const own = find(record, "type", typeId);
  if (!own) throw recordError("Only an own type's figures can be changed. Copy the type first.");
  const figures = { ...own.figures };
  if (value === null) delete figures[figure];
  else figures[figure] = value;
  const draft = new Draft(record);
  draft.put("type", { ...own, figures });
  return draft.group(`${own.name}: ${figure} ${value === null ? "as in the catalogue" : `is ${value}`}`);
}
