import { typeOf } from "../catalogue/catalogue.ts";
import { assignmentsOfDevice, assignmentsOfTurnout, find, turnoutOf } from "../record/find.ts";
import { recordError } from "../record/problems.ts";
import type { Device, RailwayRecord } from "../record/schemas.ts";
import { threadLedBy } from "../schematic/thread.ts";
import { feed, firstOfType, LAMP_SUPPLY, removeDeviceFrom, requireType } from "./devices.ts";
import type { Draft } from "./draft.ts";

/** Gives a turnout a motor of a type, instead of the one it has; null takes it away. A motor that stays keeps its driver and lamp. */
export function setMotor(draft: Draft, turnoutId: string, typeId: string | null): void {
  const turnout = turnoutOf(draft.record, turnoutId);
  const [fitted] = assignmentsOfTurnout(draft.record, turnoutId, "motor");
  const device = fitted && find(draft.record, "device", fitted.deviceId);
  if (typeId === null) {
    if (device) removeDeviceFrom(draft, device.id);
    return;
  }
  const type = requireType(draft.record, typeId);
  if (device) {
    draft.put("device", { ...device, typeId });
    return;
  }
  const motor = draft.addDevice(typeId, type.prefix, type.place, turnout.label);
  draft.assign("motor", { deviceId: motor.id, turnoutId, crossed: false, opposite: false });
  const leader = turnout.movesWith;
  const driver = leader ? driverOfTurnout(draft.record, leader) : undefined;
  if (driver) draft.assign("driver", { deviceId: driver.deviceId, way: driver.way, motorId: motor.id });
}

/** Puts a turnout's motor, and those that move with it, on a driver; null takes them off. */
export function setDriver(
  draft: Draft,
  turnoutId: string,
  driver: { deviceId: string; way: number | null } | null,
): void {
  const thread = threadLedBy(draft.record, turnoutId);
  if (!thread)
    throw recordError("A turnout that moves with another is driven with it. Change the driver of the leading one.");
  if (thread.motors.length === 0) throw recordError(`${thread.label} has no motor yet. Choose a motor first.`);
  for (const motor of thread.motors) {
    draft.unassign((a) => a.role === "driver" && a.motorId === motor.device.id);
    if (driver) draft.assign("driver", { ...driver, motorId: motor.device.id });
  }
  if (driver) {
    const device = find(draft.record, "device", driver.deviceId);
    if (device) feed(draft, device, typeOf(draft.record, device));
  }
}

/** Gives a turnout a new control of a type, or an existing one; null takes it away. A control that commands nothing any more goes. */
export function setControl(
  draft: Draft,
  turnoutId: string,
  control: { typeId: string } | { deviceId: string } | null,
): void {
  const device = replaceSole(draft, turnoutId, "control", control);
  if (device) draft.assign("control", { deviceId: device.id, turnoutId });
}

/** Gives a turnout a new lamp of a type, or an existing one, on the first contact of its motor; null takes it away. */
export function setLamp(draft: Draft, turnoutId: string, lamp: { typeId: string } | { deviceId: string } | null): void {
  const [motor] = assignmentsOfTurnout(draft.record, turnoutId, "motor");
  if (lamp && !motor) {
    throw recordError(
      `${turnoutOf(draft.record, turnoutId).label} has no motor yet, and the lamp needs its contact. Choose a motor first.`,
    );
  }
  const device = replaceSole(draft, turnoutId, "lamp", lamp);
  if (!device || !motor) return;
  draft.assign("lamp", { deviceId: device.id, turnoutId, motorId: motor.deviceId, way: 1, crossed: false });
  if (!draft.record.assignments.some((a) => a.role === "supply" && a.toDeviceId === device.id)) {
    draft.assign("supply", { deviceId: firstOfType(draft, LAMP_SUPPLY).id, toDeviceId: device.id });
  }
}

/** Takes the turnout's present control or lamp away and gives the device to be used instead, new or existing. */
function replaceSole(
  draft: Draft,
  turnoutId: string,
  role: "control" | "lamp",
  wanted: { typeId: string } | { deviceId: string } | null,
): Device | null {
  const [present] = assignmentsOfTurnout(draft.record, turnoutId, role);
  const device = present && find(draft.record, "device", present.deviceId);
  if (wanted && "deviceId" in wanted && wanted.deviceId === present?.deviceId) return null;
  if (wanted && "typeId" in wanted && device) {
    draft.put("device", { ...device, typeId: wanted.typeId });
    return null;
  }
  if (present) draft.remove("assignment", present.id);
  if (device && !draft.record.assignments.some((a) => a.role === role && a.deviceId === device.id)) {
    removeDeviceFrom(draft, device.id);
  }
  if (!wanted) return null;
  if ("typeId" in wanted) {
    const type = requireType(draft.record, wanted.typeId);
    return draft.addDevice(type.id, type.prefix, type.place);
  }
  const other = find(draft.record, "device", wanted.deviceId);
  if (!other) throw recordError(`There is no device "${wanted.deviceId}".`);
  return other;
}

/** The driver and output of a turnout's motor, if any. */
export function driverOfTurnout(
  record: RailwayRecord,
  turnoutId: string,
): { deviceId: string; way: number | null } | undefined {
  const [motor] = assignmentsOfTurnout(record, turnoutId, "motor");
  const driver = motor && assignmentsOfDevice(record, motor.deviceId).find((a) => a.role === "driver");
  return driver?.role === "driver" ? { deviceId: driver.deviceId, way: driver.way } : undefined;
}

/** Sets the address of a decoder output; null lets it go back to the factory's. */
export function setAddress(draft: Draft, deviceId: string, way: number, address: number | null): void {
  draft.unassign((a) => a.role === "address" && a.deviceId === deviceId && a.way === way);
  if (address !== null) draft.assign("address", { deviceId, way, address });
}
