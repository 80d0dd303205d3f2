import { typeOf } from "../catalogue/catalogue.ts";
import { gate } from "../catalogue/gate.ts";
import { setControls, type WantedControl } from "../equip/controls.ts";
import { addBoardTo, removeDeviceFrom } from "../equip/devices.ts";
import type { Draft } from "../equip/draft.ts";
import { driverOfTurnout, setAddress, setDriver, setMotor } from "../equip/equipment.ts";
import { firstOfType } from "../equip/feed.ts";
import { setFrog, writeFrog } from "../equip/frogs.ts";
import { setLamps } from "../equip/lamps.ts";
import { requireType } from "../equip/typeMeant.ts";
import { freeInput, freeWays } from "../equip/ways.ts";
import { assignmentsOfDevice, assignmentsOfTurnout, deviceOf, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { RecordError } from "../record/problems.ts";
import type { AssignmentOf, Device, Turnout } from "../record/schemas.ts";

/** What a turnout is equipped with by one school of practice; types by their identifiers. */
export interface Fitting {
  motor: string;
  /** How its motors are driven: by one driver for all, one beside each motor, outputs of boards, or by nothing but what is inside. */
  driver: { shared: string } | { each: string } | { board: string } | null;
  control: string | null;
  /** The board with numbered inputs that reads the control. */
  reader?: string;
  /** As in the frog column of the list: a contact, "polarity unit", or null for none. */
  frog: string | null;
  /** Type of lamp, lit as its kind usually is. */
  lamp: string | null;
}

/**
 * Equips a turnout and those that move with it, taking free outputs and inputs of what is there before adding boards. A
 * lamp that can be lit by what there is then stays, and so does the address.
 */
export function fit(draft: Draft, turnout: Turnout, fitting: Fitting): void {
  const together = [turnout, ...draft.record.turnouts.filter(({ movesWith }) => movesWith === turnout.id)];
  const address = addressOf(draft.record, turnout.id);
  const lamps = together.map(({ id }) => lampsOf(draft.record, id));
  strip(draft, together);
  for (const each of together) setMotor(draft, each.id, fitting.motor);
  drive(draft, turnout, together, fitting);
  if (address) readdress(draft, turnout.id, address);
  if (fitting.control) setControls(draft, turnout.id, [control(draft, fitting.control, fitting.reader)]);
  if (fitting.frog) for (const each of together) writeFrog(draft, each.id, fitting.frog);
  for (const [place, { id }] of together.entries()) {
    const lit: Device[] = [];
    for (const lamp of lamps[place] ?? []) {
      if (isLit(draft, id, lit, lamp)) lit.push(lamp);
      else removeDeviceFrom(draft, lamp.id);
    }
    if (lit.length === 0 && fitting.lamp && id === turnout.id)
      setLamps(draft, id, [{ lamp: { typeId: fitting.lamp } }]);
  }
}

/** Address that was stated for the output of a turnout. */
function addressOf(record: RailwayRecord, turnoutId: string) {
  const driver = driverOfTurnout(record, turnoutId);
  if (!driver || driver.way === null) return null;
  const stated = assignmentsOfDevice(record, driver.deviceId).find((a) => a.role === "address" && a.way === driver.way);
  return stated?.role === "address" ? stated : null;
}

/** The address goes with the turnout, where its new output can have one. */
function readdress(draft: Draft, turnoutId: string, { id, address }: AssignmentOf<"address">): void {
  const now = driverOfTurnout(draft.record, turnoutId);
  const board = now && find(draft.record, "device", now.deviceId);
  if (!now || now.way === null || !board || !typeOf(draft.record, board).figures.factoryAddress) return;
  if (find(draft.record, "assignment", id)) draft.remove("assignment", id);
  setAddress(draft, now.deviceId, now.way, address);
}

function lampsOf(record: RailwayRecord, turnoutId: string): Device[] {
  return assignmentsOfTurnout(record, turnoutId, "lamp").map(({ deviceId }) => deviceOf(record, deviceId));
}

/** Lights a lamp that was there, beside those lit before, as its kind usually is; false when nothing that there is now can. */
function isLit(draft: Draft, turnoutId: string, before: readonly Device[], lamp: Device): boolean {
  const type = typeOf(draft.record, lamp);
  try {
    setLamps(
      draft,
      turnoutId,
      [...before, lamp].map(({ id }) => ({ lamp: { deviceId: id } })),
    );
  } catch (error) {
    if (error instanceof RecordError) return false;
    throw error;
  }
  const assigned = assignmentsOfTurnout(draft.record, turnoutId, "lamp").find(({ deviceId }) => deviceId === lamp.id);
  const from = assigned && find(draft.record, "device", assigned.fromId);
  if (!assigned || !from) return false;
  const lampFrom = typeOf(draft.record, from);
  const isFree = assigned.way === null || !usedTwice(draft.record, assigned);
  return isFree && gate({ lamp: type, lampFrom }).fits === "fits";
}

/** Whether the contact that lights a lamp feeds a frog as well. */
function usedTwice(record: RailwayRecord, { id, fromId, way }: AssignmentOf<"lamp">): boolean {
  return assignmentsOfDevice(record, fromId).some(
    (a) => (a.role === "lamp" || a.role === "frog") && a.fromId === fromId && a.way === way && a.id !== id,
  );
}

/** Takes away what commands, feeds and shows; motors stay, to be changed, and so do lamps, to be lit anew. */
function strip(draft: Draft, together: readonly Turnout[]): void {
  for (const { id, movesWith } of together) {
    draft.unassign((a) => a.role === "lamp" && a.turnoutId === id);
    setFrog(draft, id, undefined);
    if (movesWith === null) setControls(draft, id, []);
    for (const { deviceId } of assignmentsOfTurnout(draft.record, id, "motor"))
      draft.unassign((a) => a.role === "driver" && a.motorId === deviceId);
  }
}

function drive(draft: Draft, turnout: Turnout, together: readonly Turnout[], { driver }: Fitting): void {
  if (!driver) return;
  if ("shared" in driver) {
    const type = requireType(draft.record, driver.shared);
    const unit = type.family === "supply" ? firstOfType(draft, type.id) : unitOfType(draft, type.id);
    setDriver(draft, turnout.id, { deviceId: unit.id, way: null });
  } else if ("board" in driver) setDriver(draft, turnout.id, freeWay(draft, driver.board));
  else {
    for (const { id } of together) {
      const [motor] = assignmentsOfTurnout(draft.record, id, "motor");
      if (!motor) continue;
      const unit = spareUnit(draft, driver.each) ?? addBoardTo(draft, driver.each);
      draft.unassign((a) => a.role === "driver" && a.motorId === motor.deviceId);
      draft.assign("driver", { deviceId: unit.id, way: null, motorId: motor.deviceId });
    }
  }
}

/** A unit of a type that drives nothing. */
function spareUnit(draft: Draft, typeId: string) {
  return draft.record.devices.find(
    (device) =>
      device.typeId === typeId &&
      !assignmentsOfDevice(draft.record, device.id).some((a) => a.role === "driver" && a.deviceId === device.id),
  );
}

function unitOfType(draft: Draft, typeId: string) {
  const known = draft.record.devices.find((device) => device.typeId === typeId);
  return known ?? addBoardTo(draft, typeId);
}

/** The first free output of the boards of a type, or of a new one. */
export function freeWay(draft: Draft, typeId: string): { deviceId: string; way: number } {
  for (const device of draft.record.devices.filter((each) => each.typeId === typeId)) {
    const [way] = freeWays(draft.record, device.id, typeOf(draft.record, device).outputs);
    if (way !== undefined) return { deviceId: device.id, way };
  }
  return { deviceId: addBoardTo(draft, typeId).id, way: 1 };
}

function control(draft: Draft, typeId: string, reader: string | undefined): WantedControl {
  return { device: { typeId }, by: reader === undefined ? null : freeInputs(draft, reader, 2) };
}

/** The first run of free inputs of the boards of a type, or of a new one. */
function freeInputs(draft: Draft, typeId: string, inputs: number): { deviceId: string; way: number } {
  for (const device of draft.record.devices.filter((each) => each.typeId === typeId)) {
    const way = freeInput(draft.record, device.id, inputs);
    if (way !== null) return { deviceId: device.id, way };
  }
  return { deviceId: addBoardTo(draft, typeId).id, way: 1 };
}
