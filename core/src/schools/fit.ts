import { typeOf } from "../catalogue/catalogue.ts";
import { setControls, type WantedControl } from "../equip/controls.ts";
import { addBoardTo } from "../equip/devices.ts";
import type { Draft } from "../equip/draft.ts";
import { setDriver, setMotor } from "../equip/equipment.ts";
import { firstOfType } from "../equip/feed.ts";
import { setFrog, setLamp, writeFrog } from "../equip/frogsAndLamps.ts";
import { requireType } from "../equip/typeMeant.ts";
import { freeInput, freeWays } from "../equip/ways.ts";
import { assignmentsOfDevice, assignmentsOfTurnout } from "../record/find.ts";
import type { Turnout } from "../record/schemas.ts";

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

/** Equips a turnout and those that move with it, taking free outputs and inputs of what is there before adding boards. */
export function fit(draft: Draft, turnout: Turnout, fitting: Fitting): void {
  const together = [turnout, ...draft.record.turnouts.filter(({ movesWith }) => movesWith === turnout.id)];
  strip(draft, together);
  for (const each of together) setMotor(draft, each.id, fitting.motor);
  drive(draft, turnout, together, fitting);
  if (fitting.control) setControls(draft, turnout.id, [control(draft, fitting.control, fitting.reader)]);
  if (fitting.frog) for (const each of together) writeFrog(draft, each.id, fitting.frog);
  if (fitting.lamp) setLamp(draft, turnout.id, { typeId: fitting.lamp });
}

/** Takes away what commands, feeds and shows; motors stay, to be changed. */
function strip(draft: Draft, together: readonly Turnout[]): void {
  for (const { id, movesWith } of together) {
    setLamp(draft, id, null);
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
