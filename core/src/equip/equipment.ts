import { blockOf, typeOf } from "../catalogue/catalogue.ts";
import { traitsOf, usualSupply } from "../catalogue/traits.ts";
import { assignmentsOfDevice, assignmentsOfTurnout, deviceOf, find, turnoutOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { Device, Turnout } from "../record/schemas.ts";
import { threadLedBy } from "../schematic/thread.ts";
import { setControls } from "./controls.ts";
import { removeDeviceFrom } from "./devices.ts";
import type { Draft } from "./draft.ts";
import { feed } from "./feed.ts";
import { requireType } from "./typeMeant.ts";

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
    // one without electronics of its own takes neither supply nor address
    if (!usualSupply(type)) {
      draft.unassign((a) => (a.role === "supply" || a.role === "commands") && a.toDeviceId === device.id);
      draft.unassign((a) => a.role === "address" && a.deviceId === device.id);
    }
    feed(draft, device, type);
    return;
  }
  const motor = draft.addDevice(typeId, type.prefix, type.place, turnout.label);
  draft.assign("motor", { deviceId: motor.id, turnoutId, crossed: false, opposite: false });
  feed(draft, motor, type);
  const leader = turnout.movesWith;
  const driver = leader ? driverOfTurnout(draft.record, leader) : undefined;
  if (driver) draft.assign("driver", { deviceId: driver.deviceId, way: driver.way, motorId: motor.id });
}

/** Whether a turnout that moves with another, both thrown by pulses of a unit, may have a unit of its own. */
export function mayHaveUnit(record: RailwayRecord, { id, movesWith }: Turnout): boolean {
  const [motor] = assignmentsOfTurnout(record, id, "motor");
  const driver = movesWith === null ? undefined : driverOfTurnout(record, movesWith);
  if (!motor || !driver) return false;
  const kind = (deviceId: string) => traitsOf(typeOf(record, deviceOf(record, deviceId)));
  return kind(motor.deviceId).movedBy === "pulse" && kind(driver.deviceId).gives === "pulse";
}

/** Puts the motor of one turnout on a discharge unit, whatever drives those that move with it. */
export function setUnit(draft: Draft, turnoutId: string, unitId: string): void {
  for (const { deviceId } of assignmentsOfTurnout(draft.record, turnoutId, "motor")) {
    draft.unassign((a) => a.role === "driver" && a.motorId === deviceId);
    draft.assign("driver", { deviceId: unitId, way: null, motorId: deviceId });
  }
}

/** Puts a turnout's motor, and those that move with it, on a driver; null takes them off. A unit of one's own stays beside another unit. */
export function setDriver(
  draft: Draft,
  turnoutId: string,
  driver: { deviceId: string; way: number | null } | null,
): void {
  const thread = threadLedBy(draft.record, turnoutId);
  if (!thread)
    throw recordError("A turnout that moves with another is driven with it. Change the driver of the leading one.");
  if (thread.motors.length === 0) throw recordError(`${thread.label} has no motor yet. Choose a motor first.`);
  const [first] = thread.motors;
  const givesPulse =
    driver && traitsOf(typeOf(draft.record, deviceOf(draft.record, driver.deviceId))).gives === "pulse";
  for (const motor of thread.motors) {
    const own = motor.driver !== null && motor.driver.device.id !== first?.driver?.device.id;
    if (own && givesPulse && motor.driver?.way === null) continue;
    draft.unassign((a) => a.role === "driver" && a.motorId === motor.device.id);
    if (driver) draft.assign("driver", { ...driver, motorId: motor.device.id });
  }
  if (driver) {
    const device = find(draft.record, "device", driver.deviceId);
    if (device) feed(draft, device, typeOf(draft.record, device));
  }
}

/** Gives a turnout one control, new of a type or an existing one; null takes all away. */
export function setControl(
  draft: Draft,
  turnoutId: string,
  control: { typeId: string } | { deviceId: string } | null,
): void {
  setControls(draft, turnoutId, control ? [{ device: control }] : []);
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

/** What holds the address of a turnout: an output of its driver, or its motor that has a decoder built in; null for neither. */
export function addressedAt(record: RailwayRecord, turnoutId: string): { device: Device; way: number } | null {
  const [motor] = assignmentsOfTurnout(record, turnoutId, "motor");
  const itself = motor && deviceOf(record, motor.deviceId);
  if (itself && traitsOf(typeOf(record, itself)).movedBy === "commands") return { device: itself, way: 1 };
  const driver = driverOfTurnout(record, turnoutId);
  return driver && driver.way !== null ? { device: deviceOf(record, driver.deviceId), way: driver.way } : null;
}

/**
 * Sets the address of a decoder output, and those of outputs that get theirs with it, in a row; null lets them go back to
 * the factory's.
 * @throws {RecordError} when the first of the row would get none
 */
export function setAddress(draft: Draft, deviceId: string, way: number, address: number | null): void {
  const device = find(draft.record, "device", deviceId);
  const block = device ? blockOf(typeOf(draft.record, device), way) : [way];
  draft.unassign((a) => a.role === "address" && a.deviceId === deviceId && block.includes(a.way));
  if (address === null) return;
  const [first = way] = block;
  if (address < way - first)
    throw recordError(
      `${device?.label}-${way} gets its address with ${block.length - 1} others, in a row: it is ${way - first + 1} at least.`,
    );
  for (const each of block) draft.assign("address", { deviceId, way: each, address: address + each - way });
}
