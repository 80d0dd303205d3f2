import { typeOf, typesOfFamily } from "../catalogue/catalogue.ts";
import { drivesMotors, waysToCommand } from "../catalogue/checkTypes.ts";
import { type DeviceType, numbered } from "../catalogue/deviceType.ts";
import { gate, type Kinds, type Verdict } from "../catalogue/gate.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { assignmentsOfDevice, assignmentsOfTurnout, deviceOf, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { AssignmentOf, Turnout } from "../record/schemas.ts";
import { inputOf, turnoutLabel } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { driverOfTurnout } from "./equipment.ts";

/** Something that may be typed into a cell, and what it is. */
export interface Choice {
  text: string;
  hint: string;
  /** Whether it goes together with what the turnout has already; the reason stands in the hint. */
  fits?: Verdict["fits"];
  /** Other turnouts have it as well. */
  shared?: boolean;
}

/** Motors that a turnout may have. */
export function motorChoices(record: RailwayRecord, turnout: Turnout): Choice[] {
  return typeChoices(record, turnout, "motor");
}

/** Controls that a turnout may have: new ones by type, and those that are there. */
export function controlChoices(record: RailwayRecord, turnout: Turnout): Choice[] {
  return [...typeChoices(record, turnout, "control"), ...presentControls(record, turnout)];
}

/** Lamps that a turnout may have. */
export function lampChoices(record: RailwayRecord, turnout: Turnout): Choice[] {
  return typeChoices(record, turnout, "lamp");
}

/** Drivers that a turnout may be put on: free outputs first, new boards, bare supplies, outputs in use; last what cannot be. */
export function driverChoices(record: RailwayRecord, turnout: Turnout): Choice[] {
  if (turnout.movesWith !== null) return unitChoices(record, turnout);
  const checked = (type: DeviceType, choice: Choice) => gated(record, turnout, "driver", type, choice);
  const existing = record.devices.flatMap((device): Choice[] => {
    const type = typeOf(record, device);
    if (type.family !== "driver" || !drivesMotors(type)) return [];
    if (type.outputs === 0) return [checked(type, { text: device.label, hint: type.name })];
    const used = turnoutsByWay(record, device.id);
    const ways = Array.from({ length: type.outputs }, (_, index) => index + 1);
    return ways.map((way) =>
      checked(type, {
        text: `${device.label}-${way}`,
        hint: used.has(way)
          ? `in use by ${list(used.get(way) ?? [])}: they move together`
          : `free output of ${type.short}`,
        shared: used.has(way),
      }),
    );
  });
  const added = typesOfFamily(record, "driver")
    .filter(drivesMotors)
    .map((type) => checked(type, { text: type.name, hint: "adds one" }));
  const bare = record.devices.filter((device) => ["ac", "dc"].includes(traitsOf(typeOf(record, device)).gives ?? ""));
  const supplies = bare.map(({ label }): Choice => ({ text: label, hint: "supply, no discharge unit" }));
  // sorting keeps the order of choices of like rank
  return [...existing, ...added, ...supplies].sort((a, b) => rankOf(a) - rankOf(b));
}

/** Discharge units for one motor of a pair: its leader's, others that are there, new ones. */
function unitChoices(record: RailwayRecord, turnout: Turnout): Choice[] {
  const isUnit = (type: DeviceType) => traitsOf(type).gives === "pulse";
  const leader = driverOfTurnout(record, turnout.movesWith ?? "")?.deviceId;
  return [
    ...record.devices
      .filter((device) => isUnit(typeOf(record, device)))
      .map(({ id, label }) => ({ text: label, hint: id === leader ? "the unit of the pair" : "a unit of its own" })),
    ...typesOfFamily(record, "driver")
      .filter(isUnit)
      .map(({ name }) => ({ text: name, hint: "adds one of its own" })),
  ];
}

/** Labels of the turnouts that have a motor on each output of a board. */
function turnoutsByWay(record: RailwayRecord, deviceId: string): Map<number, string[]> {
  const labels = new Map<number, string[]>();
  for (const a of assignmentsOfDevice(record, deviceId)) {
    if (a.role !== "driver" || a.deviceId !== deviceId || a.way === null) continue;
    const moved = assignmentsOfDevice(record, a.motorId).find((each) => each.role === "motor");
    const label = moved?.role === "motor" ? turnoutLabel(record, moved.turnoutId) : a.motorId;
    labels.set(a.way, [...(labels.get(a.way) ?? []), label]);
  }
  return labels;
}

/** What can be used alone comes first, what is shared then, what cannot be last. */
function rankOf({ fits, shared }: Choice): number {
  if (fits === "cannot") return 2;
  return shared ? 1 : 0;
}

/** What may feed a turnout's frog. */
export function frogChoices(record: RailwayRecord, turnout: Turnout): Choice[] {
  const [motor] = assignmentsOfTurnout(record, turnout.id, "motor");
  const device = motor && find(record, "device", motor.deviceId);
  const sets = device ? typeOf(record, device).contactSets : 0;
  return [
    ...Array.from({ length: sets }, (_, index) => ({
      text: `S${index + 1}`,
      hint: `contact ${index + 1} of the motor`,
    })),
    { text: "polarity unit", hint: "adds an automatic one" },
    { text: "relay", hint: "adds one beside the motor" },
    { text: "dead", hint: "insulated, nothing feeds it" },
  ];
}

function typeChoices(record: RailwayRecord, turnout: Turnout, family: "motor" | "control" | "lamp"): Choice[] {
  return typesOfFamily(record, family).map((type) =>
    gated(record, turnout, family, type, { text: type.name, hint: type.about }),
  );
}

/** Controls that are there: as they are, each pole of those that have two by itself, and without what reads them for all. */
function presentControls(record: RailwayRecord, turnout: Turnout): Choice[] {
  return record.devices.flatMap((device): Choice[] => {
    const type = typeOf(record, device);
    if (type.family !== "control") return [];
    const { shared, hint } = usersOf(record, device.id, turnout.id);
    const choice = (as: DeviceType, text: string, words: string) =>
      gated(record, turnout, "control", as, { text, hint: words, shared });
    const poles = numbered(waysToCommand(type));
    const reader = shared ? inputOf(record, device.id, null) : undefined;
    return [
      choice(type, device.label, hint),
      ...poles.map((pole) => choice(onePole(type), `${device.label}-${pole}`, `pole ${pole}, ${hint}`)),
      ...(reader
        ? [
            choice(
              type,
              `${device.label} by none`,
              `${deviceOf(record, reader.deviceId).label} reads it no more, for all`,
            ),
          ]
        : []),
    ];
  });
}

/** Whether other turnouts have a control, and which, in few words. */
function usersOf(record: RailwayRecord, deviceId: string, turnoutId: string): { shared: boolean; hint: string } {
  const all = assignmentsOfDevice(record, deviceId).flatMap((a) => (a.role === "control" ? [a.turnoutId] : []));
  const others = [...new Set(all)].filter((id) => id !== turnoutId).map((id) => turnoutLabel(record, id));
  if (others.length > 0) return { shared: true, hint: `shared with ${list(others)}: they move together` };
  return { shared: false, hint: all.length > 0 ? "as it is" : "nothing uses it yet" };
}

/** A toggle of two poles of which one is used: a changeover like any other. */
function onePole(type: DeviceType): DeviceType {
  return { ...type, model: type.maintained ? "latching-toggle" : "momentary-toggle" };
}

/** A choice with what the gate says of it beside what the turnout has already. */
function gated(
  record: RailwayRecord,
  turnout: Turnout,
  part: "motor" | "driver" | "control" | "lamp",
  type: DeviceType,
  choice: Choice,
): Choice {
  const kinds = { ...kindsOf(record, turnout), [part]: type };
  // a lamp that is chosen anew is lit as its kind usually is
  const { fits, why } = gate(part === "lamp" ? { motor: kinds.motor, lamp: type } : { ...kinds, lamp: undefined });
  if (!kinds.driver && !kinds.motor) return choice;
  return fits === "fits"
    ? { ...choice, fits }
    : { ...choice, fits, hint: `${fits === "cannot" ? "cannot" : "needs more"}: ${why}` };
}

/** The kinds of motor, driver and control that a turnout has. */
function kindsOf(record: RailwayRecord, turnout: Turnout): Kinds {
  const leader = turnout.movesWith ?? turnout.id;
  const typeAt = (deviceId: string | undefined) => {
    const device = deviceId === undefined ? undefined : find(record, "device", deviceId);
    return device && typeOf(record, device);
  };
  const controlType = (a: AssignmentOf<"control"> | undefined) => {
    const type = typeAt(a?.deviceId);
    return type && traitsOf(type).asks === "poles" && a?.way !== null ? onePole(type) : type;
  };
  const [motor] = assignmentsOfTurnout(record, turnout.id, "motor");
  const [control] = assignmentsOfTurnout(record, leader, "control");
  return {
    motor: typeAt(motor?.deviceId),
    driver: typeAt(driverOfTurnout(record, leader)?.deviceId),
    control: controlType(control),
  };
}
