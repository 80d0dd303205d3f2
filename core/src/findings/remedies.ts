import { CATALOGUE, findType } from "../catalogue/catalogue.ts";
import type { Model } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { addBoardTo, changeType, copyType } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { setDriver } from "../equip/equipment.ts";
import { changeLamp } from "../equip/lamps.ts";
import { freeContact } from "../equip/ways.ts";
import { NAME_LENGTH } from "../record/fields.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { AssignmentOf, Device } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import type { Fitted, Thread, ThreadLamp, ThreadMotor } from "../schematic/thread.ts";
import { amps } from "../units/format.ts";
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

/** A remedy made on a draft. */
export function made(record: RailwayRecord, label: string, make: (draft: Draft) => void): Remedy {
  const draft = new Draft(record);
  make(draft);
  return { label, group: draft.group(label) };
}

/** The first discharge unit there is, or a new one. */
export function dischargeUnit(draft: Draft): Device {
  const isUnit = ({ typeId }: Device) => traitsOf(findType(draft.record, typeId)).gives === "pulse";
  return draft.record.devices.find(isUnit) ?? addBoardTo(draft, "cdu");
}

/** Puts a thread on a discharge unit, the first there is or a new one. */
export function putOnDischargeUnit(record: RailwayRecord, thread: Thread): Remedy {
  const draft = new Draft(record);
  const unit = dischargeUnit(draft);
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
  const words = `Lay all ${field === "cableGauge" ? "cables" : "wires"} in ${gauge}`;
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

/** Usual ratings of plug-in supplies, amps (common practice). */
const USUAL_AMPS = [0.1, 0.25, 0.5, 1, 1.5, 2, 3, 4, 5, 6, 8, 10];

/** A supply of the same volts, strong enough to give a current for ever with a fifth to spare, as an own type. */
export function strongerSupply(record: RailwayRecord, { device, type }: Fitted, gives: number): Remedy[] {
  const { ratedAmps, tripAmps } = type.figures;
  const wanted = USUAL_AMPS.find((each) => each * SPARE >= gives && each > (ratedAmps?.value ?? 0));
  if (wanted === undefined || !ratedAmps) return [];
  const draft = new Draft(record);
  // one that shuts down far above its rating has a figure of the owner's own
  const trips = tripAmps ? { tripAmps: Math.min(tripAmps.value / ratedAmps.value, 2) * wanted } : {};
  fitWithFigures(draft, { device, type }, amps(wanted), { ratedAmps: wanted, ...trips });
  const label = `Take a supply of ${amps(wanted)} for ${device.label}`;
  return [{ label, group: draft.group(label) }];
}

/** Puts a fuse of a size behind a supply, as an own type of it. */
export function fuseBehind(record: RailwayRecord, { device, type }: Fitted, size: number): Remedy {
  const { group, id } = copyType(record, type.id, `${type.name}, fused ${amps(size)}`.slice(0, NAME_LENGTH));
  const draft = new Draft(record);
  for (const edit of group.edits) {
    if (edit.op === "put" && edit.kind === "type") {
      draft.put("type", { ...edit.value, figures: { ...edit.value.figures, fuseAmps: size } });
    }
  }
  draft.put("device", { ...device, typeId: id });
  // a fuse in the whole bus is one for the trains as well
  const also = traitsOf(type).gives === "track" ? ", for the trains as well" : "";
  const words = `Put a fuse of ${amps(size)} behind ${device.label}${also}`;
  return { label: words, group: draft.group(words) };
}

/** Share of a supply's rating that is used (common practice). */
const SPARE = 0.8;

/** A sentence's part as its beginning. @example sentence("with T1 at N") // "With T1 at N" */
export function sentence(words: string): string {
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}`;
}

/**
 * Fits an own type in a device's place, like its own but for some figures: one that is there by its name, else a copy.
 * @param what tells it from others, after the first words of the type's name
 * @param figures in SI units
 */
export function fitWithFigures(
  draft: Draft,
  { device, type }: Fitted,
  what: string,
  figures: Readonly<Record<string, number>>,
): void {
  const first = type.name.split(",")[0] ?? type.name;
  const name = `${first.slice(0, NAME_LENGTH - what.length - 2)}, ${what}`;
  const known = draft.record.types.find((own) => own.name === name);
  const copy = known ? null : copyType(draft.record, type.id, name);
  for (const edit of copy?.group.edits ?? [])
    if (edit.op === "put" && edit.kind === "type")
      draft.put("type", { ...edit.value, figures: { ...edit.value.figures, ...figures } });
  draft.put("device", { ...device, typeId: known?.id ?? copy?.id ?? type.id });
}

/** Usual values of large capacitors, farads (IEC 60063, E6). */
const USUAL_FARADS = [1000, 1500, 2200, 3300, 4700, 6800, 10_000, 15_000, 22_000, 33_000, 47_000].map(
  (value) => value * 1e-6,
);

/**
 * A larger capacitor in a discharge unit, as an own type: the next usual value that gives so many times the energy, and the
 * one after it.
 * @param times how many times as much energy a coil wants; what one gets grows with the capacitor
 */
export function largerCapacitor(record: RailwayRecord, { device, type }: Fitted, times: number): Remedy[] {
  const { farads } = type.figures;
  if (!farads) return [];
  return USUAL_FARADS.filter((each) => each >= farads.value * times * 0.98 && each > farads.value * 1.01)
    .slice(0, 2)
    .map((value): Remedy => {
      const microfarads = `${Math.round(value * 1e6)} µF`;
      const draft = new Draft(record);
      fitWithFigures(draft, { device, type }, microfarads, { farads: value });
      return {
        label: `Raise ${device.label} to ${microfarads}`,
        group: draft.group(`${device.label} holds ${microfarads}`),
      };
    });
}

/** A charging resistor so many times smaller in a discharge unit, a usual value, as an own type. */
export function strongerCharging(record: RailwayRecord, { device, type }: Fitted, times: number): Remedy[] {
  const { chargeOhms } = type.figures;
  const value = USUAL_OHMS.find((each) => chargeOhms && each <= chargeOhms.value / times && each >= chargeOhms.min);
  if (!chargeOhms || value === undefined) return [];
  const draft = new Draft(record);
  fitWithFigures(draft, { device, type }, `charged by ${value} ohm, ${device.label}`, { chargeOhms: value });
  const label = `Charge ${device.label} through ${value} ohm`;
  return [{ label, group: draft.group(label) }];
}

/** Usual resistors, ohms, the greatest first (IEC 60063, E12). */
const USUAL_OHMS = [100, 82, 68, 56, 47, 39, 33, 27, 22, 18, 15, 12, 10];

/** Lights a lamp by a contact of its turnout's motor that nothing uses yet. @returns the contact, "S2 of M4"; null when none is free */
export function lightByContact(draft: Draft, { motors }: Thread, { turnout, device }: ThreadLamp): string | null {
  const motor = motors.find((each) => each.turnout.id === turnout.id);
  const way = motor ? freeContact(draft.record, motor.device.id) : null;
  if (!motor || way === null) return null;
  changeLamp(draft, turnout.id, device.id, {
    lamp: { typeId: "lamp-two-colour" },
    source: { deviceId: motor.device.id, way },
  });
  return `S${way} of ${motor.device.label}`;
}
