import { typeOf } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { assignmentsOfTurnout, deviceOf, find, turnoutOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { Position, Turnout } from "../record/schemas.ts";
import { deviceCalled, wayOf } from "./controls.ts";
import { removeDeviceFrom } from "./devices.ts";
import type { Draft } from "./draft.ts";
import { driverOfTurnout } from "./equipment.ts";
import { feed } from "./feed.ts";
import { typeMeant } from "./typeMeant.ts";

/** What feeds a frog or lights a lamp: a device, and which of its ways. */
export interface Source {
  deviceId: string;
  way: number | null;
  /** Position at which the throw bar covers it, when it is a sensor. */
  coveredAt?: Position | null;
}

/** A polarity unit or relay that feeds and lights nothing any more goes. */
export function removeHelper(draft: Draft, deviceId: string): void {
  const device = find(draft.record, "device", deviceId);
  const traits = traitsOf(device && typeOf(draft.record, device));
  const used = draft.record.assignments.some((a) => (a.role === "frog" || a.role === "lamp") && a.fromId === deviceId);
  if (!used && (traits.inTrack === "polarity-unit" || traits.relay !== null)) {
    removeDeviceFrom(draft, deviceId);
  }
}

/** A source as text, as its turnout calls it: "S2", "frog", "driver", "RY1-S1", "IR1". */
export function sourceText(record: RailwayRecord, turnout: Turnout, { deviceId, way }: Source): string {
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
export function sourceMeant(draft: Draft, turnoutId: string, text: string): Source {
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
  const wanted = text.toLowerCase() === "relay" ? (coil ? "relay-latching" : "relay-dpdt-9") : text;
  const family = /relay board/i.test(wanted) || wanted.startsWith("relay-board") ? "driver" : "reader";
  const type = typeMeant(draft.record, family, wanted);
  const device = draft.addDevice(type.id, type.prefix, type.place);
  feed(draft, device, type);
  return { deviceId: device.id, way: type.contactSets > 0 ? 1 : null };
}
