import { CATALOGUE } from "../catalogue/catalogue.ts";
import type { Model } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { addBoardTo, changeType } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { setDriver } from "../equip/equipment.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { AssignmentOf } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import type { Fitted, Thread, ThreadMotor } from "../schematic/thread.ts";
import { GAUGES, type Gauge, ohmsPerMetre } from "../units/gauge.ts";
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
  return (traitsOf(type).movedBy === "pulse" ? ["N", "R"] : ["+", "−"]).map((terminal) =>
    terminalName(device.label, terminal),
  );
}

/** The next gauge of at most half the resistance, for the wires or the cable; none when there is no thicker one. */
export function layThicker(record: RailwayRecord, field: "wireGauge" | "cableGauge"): Remedy[] {
  const present = ohmsPerMetre(record.railway[field]);
  const [gauge] = GAUGES.filter((each) => ohmsPerMetre(each) <= present / 2).sort(
    (a, b) => ohmsPerMetre(b) - ohmsPerMetre(a),
  );
  return gauge ? [layWires(record, field, gauge)] : [];
}

/** Another gauge for all of the railway's wires or cables. */
export function layWires(record: RailwayRecord, field: "wireGauge" | "cableGauge", gauge: Gauge): Remedy {
  const words = `Lay ${field === "cableGauge" ? "cables" : "wires"} of ${gauge}`;
  return { label: words, group: { words, edits: [{ op: "railway", value: { ...record.railway, [field]: gauge } }] } };
}

/** Moves half of what hangs on a supply, the later half of the list, to a second one of its kind. */
export function splitSupply(record: RailwayRecord, { device, type }: Fitted): Remedy[] {
  const fed = record.assignments.filter(
    (a): a is AssignmentOf<"supply"> => a.role === "supply" && a.deviceId === device.id,
  );
  if (fed.length < 2) return [];
  const draft = new Draft(record);
  const second = addBoardTo(draft, type.id);
  for (const assignment of fed.slice(Math.ceil(fed.length / 2)))
    draft.put("assignment", { ...assignment, deviceId: second.id });
  return [
    {
      label: `Move half of it to a second supply, ${second.label}`,
      group: draft.group(`Added ${second.label} beside ${device.label}`),
    },
  ];
}
