import { typeOf } from "../catalogue/catalogue.ts";
import { takesSupply } from "../catalogue/checkTypes.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { traitsOf, usualSupply } from "../catalogue/traits.ts";
import type { EditGroup } from "../record/edits.ts";
import { deviceOf, feederOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import { Draft } from "./draft.ts";
import { requireType } from "./typeMeant.ts";

/** What brings a type its commands, or a detector its blocks' feed; null when nothing does but its supply. */
export function usualCommands(type: DeviceType): string | null {
  if (traitsOf(type).inTrack === "detector") return "track-bus";
  if (usualSupply(type) === "track-bus") return null;
  switch (type.hears) {
    case "track":
      return "track-bus";
    case "bus":
      return "control-bus";
    case "pins":
      return "controller";
    default:
      return null;
  }
}

/** Gives a device its usual supply and what commands it; takes what is there before adding new. */
export function feed(draft: Draft, device: Device, type: DeviceType): void {
  const has = (role: "supply" | "commands") => feederOf(draft.record, device.id, role) !== null;
  const supply = usualSupply(type);
  if (supply && !has("supply")) {
    draft.assign("supply", { deviceId: source(draft, supply).id, toDeviceId: device.id });
  }
  const commands = usualCommands(type);
  if (commands && !has("commands")) {
    draft.assign("commands", { deviceId: source(draft, commands).id, toDeviceId: device.id });
  }
}

/** Devices that may feed a device: supplies that are none of a bus only, and the track for what takes its power there. */
export function possibleSupplies(record: RailwayRecord, type: DeviceType): Device[] {
  if (!takesSupply(type)) return [];
  return record.devices.filter((device) => {
    const { family, model } = typeOf(record, device);
    const { gives } = traitsOf({ model });
    if (type.drives === "matrix") return gives === "pulse" || gives === "ac" || gives === "dc";
    if (family !== "supply" || gives === "bus") return false;
    return gives !== "track" || type.hears === "track" || usualSupply(type) === "track-bus";
  });
}

/** Devices that may bring a device its commands. */
export function possibleCommands(record: RailwayRecord, type: DeviceType): Device[] {
  const usual = usualCommands(type);
  const wanted = usual && traitsOf(requireType(record, usual)).gives;
  const detects = traitsOf(type).inTrack === "detector";
  return record.devices.filter((device) => {
    const source = traitsOf(typeOf(record, device));
    if (traitsOf(type).relay === "held") return typeOf(record, device).family === "lock";
    return (wanted && source.gives === wanted) || (detects && source.inTrack === "reverser");
  });
}

/** Has a device fed by another one than before, or brought its commands; null for none. */
export function setFeeder(draft: Draft, deviceId: string, role: "supply" | "commands", fromId: string | null): void {
  draft.unassign((a) => a.role === role && a.toDeviceId === deviceId);
  if (fromId !== null) draft.assign(role, { deviceId: fromId, toDeviceId: deviceId });
}

/** The same as an edit of its own. */
export function feedFrom(
  record: RailwayRecord,
  device: Device,
  role: "supply" | "commands",
  fromId: string | null,
): EditGroup {
  const draft = new Draft(record);
  setFeeder(draft, device.id, role, fromId);
  const from = fromId === null ? "nothing" : deviceOf(record, fromId).label;
  return draft.group(
    role === "supply"
      ? `${device.label} is fed by ${from}`
      : traitsOf(typeOf(record, device)).inTrack === "detector"
        ? `${device.label} feeds its blocks from ${from}`
        : `${device.label} is commanded by ${from}`,
  );
}

/** The first device of a type in the railway, added when there is none. */
export function firstOfType(draft: Draft, typeId: string): Device {
  const type = requireType(draft.record, typeId);
  const known = draft.record.devices.find((device) => device.typeId === typeId);
  return known ?? draft.addDevice(typeId, type.prefix, type.place);
}

/** The first device of a type, or a new one, itself fed: a controller needs its 5 V. */
function source(draft: Draft, typeId: string): Device {
  const device = firstOfType(draft, typeId);
  const type = typeOf(draft.record, device);
  if (type.family !== "supply") feed(draft, device, type);
  return device;
}
