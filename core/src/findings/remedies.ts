import { CATALOGUE } from "../catalogue/catalogue.ts";
import type { Model } from "../catalogue/deviceType.ts";
import { addBoardTo, changeType } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { setDriver } from "../equip/equipment.ts";
import type { RailwayRecord } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import type { Thread, ThreadMotor } from "../schematic/thread.ts";
import type { Remedy } from "./rule.ts";

/** Fits a generic type in a device's place. */
export function fitInstead(
  record: RailwayRecord,
  device: { id: string; label: string },
  model: Model,
  what: string,
): Remedy {
  const typeId = CATALOGUE.find((type) => type.model === model)?.id ?? model;
  return { label: `Make ${device.label} ${what}`, group: changeType(record, device.id, typeId) };
}

/** Exchanges a motor's two leads. */
export function swapLeads(record: RailwayRecord, motor: ThreadMotor, terminals: readonly string[]): Remedy {
  const draft = new Draft(record);
  draft.put("assignment", { ...motor.assignment, crossed: !motor.assignment.crossed });
  return {
    label: `Swap the leads at ${terminals.join("/")}`,
    group: draft.group(`Swapped the leads at ${terminals.join(" and ")}`),
  };
}

/** Puts a thread on a discharge unit, the first there is or a new one. */
export function putOnDischargeUnit(record: RailwayRecord, thread: Thread, isCdu: (typeId: string) => boolean): Remedy {
  const draft = new Draft(record);
  const unit = record.devices.find((device) => isCdu(device.typeId)) ?? addBoardTo(draft, "cdu");
  setDriver(draft, thread.turnout.id, { deviceId: unit.id, way: null });
  return {
    label: `Put ${thread.label} on ${unit.label}`,
    group: draft.group(`${thread.label} is driven by ${unit.label}`),
  };
}

/** Terminals at which a motor's two leads end. */
export function leadNames({ device, type }: ThreadMotor): string[] {
  return (type.model === "twin-coil" ? ["N", "R"] : ["+", "−"]).map((terminal) => terminalName(device.label, terminal));
}
