import { assignmentsOfDevice, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Problem } from "../record/problems.ts";
import type { Assignment, AssignmentOf, Device } from "../record/schemas.ts";
import { ownOf } from "../units/ownOf.ts";
import { findType, genericType } from "./catalogue.ts";
import { type DeviceType, type Family, readingInputs } from "./deviceType.ts";
import { traitsOf } from "./traits.ts";

/** Which family each role asks of the device that plays it. */
const PLAYS: Record<Assignment["role"], readonly Family[]> = {
  motor: ["motor"],
  driver: ["driver", "supply"],
  control: ["control", "reader", "driver"],
  lamp: ["lamp"],
  frog: ["track"],
  // a diode board takes its buttons at numbered terminals too
  input: ["reader", "driver"],
  block: ["reader", "driver"],
  resistor: ["wiring"],
  lock: ["lock", "reader", "driver"],
  // a discharge unit feeds diode boards
  supply: ["supply", "driver"],
  commands: ["supply", "driver", "lock"],
  address: ["driver", "motor"],
};

/** The lists that these rules look at. */
const LOOKED_AT = ["types", "devices", "assignments", "routeControls", "boardParts"] as const;

/**
 * The rules between the record and the catalogue: types exist, own figures make sense, a device plays a part it can play.
 *
 * @param sound a record that breaks none of them; where the lists that they look at are the same nothing is looked at again
 * @returns the problems found, empty when there are none; at most ten
 */
export function checkTypes(record: RailwayRecord, sound?: RailwayRecord): Problem[] {
  if (sound && LOOKED_AT.every((list) => record[list] === sound[list])) return [];
  const problems: Problem[] = [];
  for (const [index, own] of record.types.entries()) {
    const at = ["types", index];
    const base = genericType(own.basedOn);
    if (own.basedOn === own.id && !genericType(own.id)) {
      problems.push({
        path: [...at, "basedOn"],
        message: `Own type ${own.name} is based on itself. Base it on a type of the catalogue.`,
      });
      continue;
    }
    if (!base) {
      problems.push({
        path: [...at, "basedOn"],
        message: `Own type ${own.name} is based on "${own.basedOn}", which the catalogue does not hold.`,
      });
      continue;
    }
    if (genericType(own.id))
      problems.push({
        path: [...at, "id"],
        message: `"${own.id}" is a type of the catalogue. Give the own type another identifier.`,
      });
    for (const [name, value] of Object.entries(own.figures))
      problems.push(...figureProblems(base, name, value, [...at, "figures", name]));
    problems.push(...orderProblems(base, own.figures, at));
    for (const terminal of Object.keys(own.printed)) {
      if (!base.terminals.some(({ name }) => name === terminal))
        problems.push({
          path: [...at, "printed", terminal],
          message: `${base.name} has no terminal "${terminal}". Its terminals are ${base.terminals.map(({ name }) => name).join(", ")}.`,
        });
    }
  }
  for (const [index, device] of record.devices.entries()) {
    if (!findType(record, device.typeId)) {
      problems.push({
        path: ["devices", index, "typeId"],
        message: `Device ${device.label} is of type "${device.typeId}", which does not exist.`,
      });
    }
  }
  for (const [index, assignment] of record.assignments.entries()) {
    const problem = partProblem(record, assignment) ?? readTwice(record, assignment);
    if (problem) problems.push({ path: ["assignments", index], message: problem });
  }
  problems.push(...routeProblems(record));
  return problems.slice(0, 10);
}

/** What is wrong with one figure of an own type. */
export function figureProblems(base: DeviceType, name: string, value: number, path: Problem["path"]): Problem[] {
  const known = ownOf(base.figures, name);
  if (!known) return [{ path, message: `${base.name} has no figure "${name}".` }];
  if (value >= known.min && value <= known.max) return [];
  const range = `${Number(known.min.toPrecision(3))} to ${Number(known.max.toPrecision(3))} ${known.unit}`.trim();
  return [{ path, message: `${name} (${known.about}) must be ${range}, not ${value}.` }];
}

/** Figures of which the first must not be above the second. */
const IN_ORDER: readonly [string, string][] = [
  ["leastVolts", "mostVolts"],
  ["dropOutVolts", "pullInVolts"],
  ["thresholdVolts", "inputVolts"],
  ["outputAmps", "boardAmps"],
  ["leastAmps", "ratedAmps"],
];

/** What is wrong between the figures of an own type: a limit below what it limits, a range upside down. */
function orderProblems(base: DeviceType, own: Readonly<Record<string, number>>, at: Problem["path"]): Problem[] {
  return IN_ORDER.flatMap(([lower, upper]): Problem[] => {
    const [low, high] = [base.figures[lower], base.figures[upper]];
    if (!low || !high || (own[lower] === undefined && own[upper] === undefined)) return [];
    const [a, b] = [own[lower] ?? low.value, own[upper] ?? high.value];
    if (a <= b) return [];
    const message = `${lower} (${low.about}) is ${a} ${low.unit}, above ${upper} (${high.about}), ${b} ${high.unit}. Change one of them.`;
    return [{ path: [...at, "figures", lower], message }];
  });
}

function partProblem(record: RailwayRecord, assignment: Assignment): string | undefined {
  const device = find(record, "device", assignment.deviceId);
  const type = device && findType(record, device.typeId);
  if (!device || !type) return undefined;
  if (!PLAYS[assignment.role].includes(type.family) || !isAble(type, assignment.role)) {
    return `${device.label} (${type.name}) cannot serve as ${assignment.role}.`;
  }
  if (assignment.role === "supply") {
    const fed = find(record, "device", assignment.toDeviceId);
    const fedType = fed && findType(record, fed.typeId);
    if (fed && fedType && !takesSupply(fedType)) return notFed(device.label, fed.label, fedType);
    if (fed && traitsOf(type).gives === "pulse" && fedType?.drives !== "matrix")
      return `${device.label} (${type.name}) gives pulses to coils; it cannot feed ${fed.label}.`;
  }
  const way = "way" in assignment ? assignment.way : null;
  if (assignment.role === "driver" || (assignment.role === "address" && type.outputs > 0)) {
    if (type.outputs > 0 && way === null) return `${device.label} has ${type.outputs} outputs; say which one.`;
    if (way !== null && way > type.outputs)
      return `${device.label} has ${type.outputs} outputs; there is no output ${way}.`;
  }
  if (assignment.role === "control" && way !== null && way > waysToCommand(type))
    return noSuchWay(device.label, type, way);
  if (assignment.role === "resistor" && assignment.way > (type.pieces ?? 0))
    return `${device.label} has pieces 1 to ${type.pieces}; there is no ${device.label}-${assignment.way}.`;
  if (assignment.role === "lock") return lockProblem(record, device, type, assignment);
  if (assignment.role === "block" && assignment.way > (type.zones ?? 1))
    return noSuchWay(device.label, type, assignment.way);
  if (assignment.role === "input" && assignment.controlWay !== null) {
    const control = find(record, "device", assignment.controlId);
    const read = control && findType(record, control.typeId);
    // a motor tells by its contacts
    const ways =
      read && (read.family === "motor" ? read.contactSets : Math.max(waysToCommand(read), waysForRoutes(read) ?? 0));
    if (control && read && assignment.controlWay > (ways ?? 0))
      return noSuchWay(control.label, read, assignment.controlWay);
  }
  if (assignment.role === "input" && assignment.way > (type.inputs ?? 0)) {
    return `${device.label} has inputs 1 to ${type.inputs}; there is no input ${assignment.way}.`;
  }
  return undefined;
}

/** A control is read by one board only; the wire of a route button leads to as many diode boards as there are. */
function readTwice(record: RailwayRecord, assignment: Assignment): string | undefined {
  if (assignment.role !== "input") return undefined;
  const { id, controlId, controlWay } = assignment;
  const isMatrix = (deviceId: string) => {
    const board = find(record, "device", deviceId);
    return board !== undefined && findType(record, board.typeId)?.drives === "matrix";
  };
  if (isMatrix(assignment.deviceId)) return undefined;
  const other = assignmentsOfDevice(record, controlId).find(
    (a) =>
      a.role === "input" &&
      a.id < id &&
      a.controlId === controlId &&
      a.controlWay === controlWay &&
      !isMatrix(a.deviceId),
  );
  return other && "A control is read by one board only.";
}

/** What asks for routes can do so, and parts lie between terminals that their board has. */
function routeProblems(record: RailwayRecord): Problem[] {
  const problems: Problem[] = [];
  const add = (path: Problem["path"], message: string) => problems.push({ path, message });
  for (const [index, { deviceId, way, throughId }] of record.routeControls.entries()) {
    const device = find(record, "device", deviceId);
    const type = device && findType(record, device.typeId);
    if (!device || !type) continue;
    const at = ["routeControls", index];
    const most = waysForRoutes(type);
    if (most === null) add(at, `${device.label} (${type.name}) cannot ask for a route.`);
    else if (most === 0 && way !== null) add([...at, "way"], `${device.label} has one contact; it has no number.`);
    else if (most > 0 && (way === null || way > most))
      add([...at, "way"], `${device.label} has numbers 1 to ${most}; say which one asks for the route.`);
    const through = throughId ? find(record, "device", throughId) : undefined;
    const button = through && findType(record, through.typeId);
    if (through && button && (waysForRoutes(button) !== 0 || traitsOf(button).asks !== "press"))
      add([...at, "throughId"], `${through.label} (${button.name}) is no push button of one pole.`);
  }
  for (const [index, { deviceId, from, to }] of record.boardParts.entries()) {
    const device = find(record, "device", deviceId);
    const type = device && findType(record, device.typeId);
    if (!device || !type) continue;
    if (type.drives !== "matrix") {
      add(["boardParts", index], `${device.label} (${type.name}) is no diode board.`);
      continue;
    }
    const missing = [from, to].find((terminal) => !type.terminals.some(({ name }) => name === terminal));
    if (missing) add(["boardParts", index], `${device.label} has no terminal ${missing}.`);
  }
  return problems;
}

/**
 * How many routes one device can ask for by numbers: poles of a button, positions of a rotary switch, macros of a board; 0 for
 * a button of one pole, null for what can ask for none.
 */
export function waysForRoutes(type: DeviceType): number | null {
  const { asks } = traitsOf(type);
  if (asks === "press") return type.poles ?? 0;
  if (asks === "position") return type.terminals.length - 1;
  if (type.zones !== undefined) return type.zones;
  return type.figures.macros?.value ?? null;
}

/** A relay locks by one of its contacts; and only what closes a contact to ask can be locked out. */
function lockProblem(
  record: RailwayRecord,
  { label }: Device,
  { contactSets, family }: DeviceType,
  { way, controlId, deviceId }: AssignmentOf<"lock">,
): string | undefined {
  const control = find(record, "device", controlId);
  const locked = control && findType(record, control.typeId);
  if (way !== null && way > contactSets) return `${label} has no contact S${way} to lock ${control?.label} out with.`;
  const { asks } = traitsOf(locked);
  const wired = family === "lock" || way !== null;
  const picksUp = record.assignments.some((a) => a.role === "commands" && a.deviceId === deviceId);
  if (family === "lock" && picksUp)
    return `${label} picks up relays, and is off while nobody is locked out: it cannot cut the common of ${control?.label} as well.`;
  if (wired && control && (asks === null || asks === "signal"))
    return `${control.label} (${locked?.name}) has no common of its own that ${label} could cut.`;
  return undefined;
}

/** How many zones, outputs or poles of a type can each command turnouts of their own; 0 for a control without any. */
export function waysToCommand(type: DeviceType): number {
  if (type.zones !== undefined) return type.zones;
  if (type.drives === "pair") return type.outputs;
  return traitsOf(type).asks === "poles" ? 2 : 0;
}

/** What those are called. */
export function namedWays(type: DeviceType): "zones" | "outputs" | "poles" {
  if (type.zones !== undefined) return "zones";
  return traitsOf(type).asks === "poles" ? "poles" : "outputs";
}

function noSuchWay(label: string, type: DeviceType, way: number): string {
  const what = namedWays(type);
  const most = waysToCommand(type);
  return most === 0
    ? `${label} has no numbered ${what}.`
    : `${label} has ${what} 1 to ${most}; there is no ${label}-${way}.`;
}

/** Whether a type has terminals for a supply: boards, lamps, frogs' rails, motors and controls with electronics. */
export function takesSupply(type: DeviceType): boolean {
  return type.family === "lamp" || traitsOf(type).takesSupply;
}

function notFed(supply: string, fed: string, type: DeviceType): string {
  if (type.family === "supply") {
    return `${supply} cannot feed ${fed}, which is a supply itself. Feed boards from one supply each, and join no two.`;
  }
  return `${supply} cannot feed ${fed} (${type.name}): it has no terminals for a supply.`;
}

/** Whether a type of the right family has what a role asks of it. */
function isAble(type: DeviceType, role: Assignment["role"]): boolean {
  switch (role) {
    case "driver":
      return drivesMotors(type);
    case "control":
      return type.family === "control" || type.zones !== undefined || type.drives === "pair";
    case "input":
      return type.inputs !== undefined;
    case "block":
      return (type.zones ?? 0) > 1 || traitsOf(type).inTrack === "reverser";
    case "supply":
      return type.family === "supply" ? traitsOf(type).gives !== "bus" : traitsOf(type).gives === "pulse";
    case "commands":
      return (
        traitsOf(type).inTrack === "reverser" ||
        (type.hears === undefined && (type.family !== "driver" || traitsOf(type).gives === "pins"))
      );
    case "resistor":
      return type.pieces !== undefined;
    case "lock":
      return type.family === "lock" || traitsOf(type).relay === "held" || listens(type);
    case "address":
      return type.figures.factoryAddress !== undefined;
    default:
      return true;
  }
}

/** Whether a board has inputs for controls, of which its settings may lock some out. */
export function listens(type: DeviceType): boolean {
  return readingInputs(type) > 0 || type.ownInputs === true;
}

/** Whether motors can be put on a type: numbered outputs for them, a discharge unit, or a bare supply. */
export function drivesMotors(type: DeviceType): boolean {
  const { drives } = type;
  if (drives) return drives === "pair" || drives === "coil" || drives === "servo" || drives === "matrix";
  const { gives } = traitsOf(type);
  return gives === "pulse" || gives === "ac" || gives === "dc";
}
