import { typeOf, typesOfFamily } from "../catalogue/catalogue.ts";
import { drivesMotors } from "../catalogue/checkTypes.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { gate, type Kinds, type Verdict } from "../catalogue/gate.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { assignmentsOfTurnout, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Turnout } from "../record/schemas.ts";
import { driverOfTurnout } from "./equipment.ts";

/** Something that may be typed into a cell, and what it is. */
export interface Choice {
  text: string;
  hint: string;
  /** Whether it goes together with what the turnout has already; the reason stands in the hint. */
  fits?: Verdict["fits"];
}

/** Motors that a turnout may have. */
export function motorChoices(record: RailwayRecord, turnout: Turnout): Choice[] {
  return typeChoices(record, turnout, "motor");
}

/** Controls that a turnout may have: new ones by type, and those that are there. */
export function controlChoices(record: RailwayRecord, turnout: Turnout): Choice[] {
  return [...typeChoices(record, turnout, "control"), ...deviceChoices(record, turnout, "control")];
}

/** Lamps that a turnout may have. */
export function lampChoices(record: RailwayRecord, turnout: Turnout): Choice[] {
  return typeChoices(record, turnout, "lamp");
}

/** Drivers that a turnout may be put on: free outputs first, new boards, bare supplies, outputs in use; last what cannot be. */
export function driverChoices(record: RailwayRecord, turnout: Turnout): Choice[] {
  const checked = (type: DeviceType, choice: Choice) => gated(record, turnout, "driver", type, choice);
  const existing = record.devices.flatMap((device): Choice[] => {
    const type = typeOf(record, device);
    if (type.family !== "driver" || !drivesMotors(type)) return [];
    if (type.outputs === 0) return [checked(type, { text: device.label, hint: type.name })];
    const used = new Set(
      record.assignments.map((a) => (a.role === "driver" && a.deviceId === device.id ? a.way : null)),
    );
    const ways = Array.from({ length: type.outputs }, (_, index) => index + 1);
    return ways.map((way) =>
      checked(type, {
        text: `${device.label}-${way}`,
        hint: used.has(way) ? IN_USE : `free output of ${type.short}`,
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

const IN_USE = "in use";

function rankOf({ fits, hint }: Choice): number {
  if (fits === "cannot") return 2;
  return hint === IN_USE ? 1 : 0;
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

function deviceChoices(record: RailwayRecord, turnout: Turnout, family: "control"): Choice[] {
  return record.devices
    .filter((device) => typeOf(record, device).family === family)
    .map((device) =>
      gated(record, turnout, family, typeOf(record, device), { text: device.label, hint: "share this one" }),
    );
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
  const [motor] = assignmentsOfTurnout(record, turnout.id, "motor");
  const [control] = assignmentsOfTurnout(record, leader, "control");
  return {
    motor: typeAt(motor?.deviceId),
    driver: typeAt(driverOfTurnout(record, leader)?.deviceId),
    control: typeAt(control?.deviceId),
  };
}
