import { typeOf } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { traitsOf, usualSupply } from "../catalogue/traits.ts";
import { assignmentsOfDevice } from "../record/find.ts";
import type { Device } from "../record/schemas.ts";
import type { Draft } from "./draft.ts";
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
  const has = (role: "supply" | "commands") =>
    assignmentsOfDevice(draft.record, device.id).some((a) => a.role === role && a.toDeviceId === device.id);
  const supply = usualSupply(type);
  if (supply && !has("supply")) {
    draft.assign("supply", { deviceId: source(draft, supply).id, toDeviceId: device.id });
  }
  const commands = usualCommands(type);
  if (commands && !has("commands")) {
    draft.assign("commands", { deviceId: source(draft, commands).id, toDeviceId: device.id });
  }
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
