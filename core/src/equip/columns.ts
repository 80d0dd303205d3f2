import { findType, typeOf } from "../catalogue/catalogue.ts";
import { drivesMotors } from "../catalogue/checkTypes.ts";
import { traitsOf } from "../catalogue/traits.ts";
import {
  assignmentsOfDevice,
  assignmentsOfTurnout,
  deviceOf,
  find,
  freshId,
  turnoutOf,
  turnoutsInOrder,
} from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import { HANDS, type Turnout } from "../record/schemas.ts";
import { wayName } from "../schematic/nets.ts";
import { type Choice, controlChoices, driverChoices, frogChoices, lampChoices, motorChoices } from "./choices.ts";
import { readControls, writeControls } from "./controls.ts";
import { addBoardTo } from "./devices.ts";
import type { Draft } from "./draft.ts";
import {
  addressedAt,
  driverOfTurnout,
  mayHaveUnit,
  setAddress,
  setControl,
  setDriver,
  setMotor,
  setUnit,
} from "./equipment.ts";
import { readFrog, writeFrog } from "./frogs.ts";
import { readLamps, writeLamps } from "./lamps.ts";
import { turnoutCalled } from "./turnouts.ts";
import { typeMeant } from "./typeMeant.ts";
import { freeWays } from "./ways.ts";

/** One column of the turnout list: what a cell shows, what may be typed there, and what typing does. */
export interface Column {
  id: string;
  title: string;
  /** Other headings that a table from elsewhere may use. */
  aliases: readonly string[];
  read: (record: RailwayRecord, turnout: Turnout) => string;
  /** What is drawn where room is scarce, when that is not the text. */
  short?: (record: RailwayRecord, turnout: Turnout) => string;
  choices?: (record: RailwayRecord, turnout: Turnout) => Choice[];
  /** @throws {RecordError} with a sentence that says what may be typed */
  write: (draft: Draft, turnoutId: string, text: string) => void;
  /** Said of the leading turnout for all that move with it. */
  leaderOnly?: boolean;
  /** Whether a turnout that moves with another may say something of its own here all the same. */
  ownOf?: (record: RailwayRecord, turnout: Turnout) => boolean;
}

/** Whether a cell is that of a turnout that moves with another, of which its leader's cell tells. */
export function isToldByLeader({ leaderOnly, ownOf }: Column, record: RailwayRecord, turnout: Turnout): boolean {
  return leaderOnly === true && turnout.movesWith !== null && !ownOf?.(record, turnout);
}

/** The columns of the turnout list, as the keyboard grid shows them and as a table from a spreadsheet may bring them. */
export const COLUMNS: readonly Column[] = [
  {
    id: "label",
    title: "Turnout",
    aliases: ["turnout", "no", "number"],
    read: (_, turnout) => turnout.label,
    write: rename,
  },
  {
    id: "name",
    title: "Name",
    aliases: ["description"],
    read: (_, turnout) => turnout.name,
    write: (draft, id, text) => draft.put("turnout", { ...turnoutOf(draft.record, id), name: text }),
  },
  {
    id: "hand",
    title: "Hand",
    aliases: [],
    read: (_, turnout) => (turnout.hand === "unknown" ? "" : turnout.hand),
    choices: () =>
      HANDS.slice(0, 3).map((hand) => ({
        text: hand,
        hint: hand === "wye" ? "both legs curve" : `diverges to the ${hand}`,
      })),
    write: writeHand,
  },
  {
    id: "zone",
    title: "Zone",
    aliases: ["area"],
    read: (record, turnout) => (turnout.zoneId ? (find(record, "zone", turnout.zoneId)?.label ?? "") : ""),
    choices: (record) => record.zones.map((zone) => ({ text: zone.label, hint: zone.name })),
    write: writeZone,
  },
  {
    id: "with",
    title: "Moves with",
    aliases: ["moves with", "crossover", "pair"],
    read: (record, turnout) => (turnout.movesWith ? turnoutOf(record, turnout.movesWith).label : ""),
    choices: (record, turnout) =>
      turnoutsInOrder(record)
        .filter((other) => other.id !== turnout.id && !other.movesWith)
        .map((other) => ({ text: other.label, hint: other.name })),
    write: writeMovesWith,
  },
  {
    id: "motor",
    title: "Motor",
    aliases: [],
    read: (record, turnout) => typeNameOf(record, turnout, "motor"),
    short: (record, turnout) => {
      const [motor] = assignmentsOfTurnout(record, turnout.id, "motor");
      return motor ? typeOf(record, deviceOf(record, motor.deviceId)).short : "";
    },
    choices: motorChoices,
    write: (draft, id, text) => setMotor(draft, id, text === "" ? null : typeMeant(draft.record, "motor", text).id),
  },
  {
    id: "driver",
    title: "Driver",
    aliases: ["output"],
    read: readDriver,
    choices: driverChoices,
    write: writeDriver,
    leaderOnly: true,
    ownOf: mayHaveUnit,
  },
  {
    id: "control",
    title: "Control",
    aliases: ["toggle", "switch"],
    read: readControls,
    choices: controlChoices,
    write: writeControls,
    leaderOnly: true,
  },
  {
    id: "frog",
    title: "Frog",
    aliases: ["frog polarity"],
    read: readFrog,
    choices: frogChoices,
    write: writeFrog,
  },
  {
    id: "lamp",
    title: "Lamp",
    aliases: ["indicator"],
    read: readLamps,
    choices: lampChoices,
    write: writeLamps,
  },
  {
    id: "address",
    title: "Address",
    aliases: ["dcc address", "accessory address"],
    read: readAddress,
    write: writeAddress,
    leaderOnly: true,
  },
  {
    id: "run",
    title: "Run, m",
    aliases: ["run", "wire", "run m"],
    read: (_, turnout) => (turnout.runMetres === null ? "" : String(turnout.runMetres)),
    write: writeRun,
  },
];

/** Writes a text into a cell. @throws {RecordError} with a sentence that says what may be typed; for a formula too */
export function writeText(draft: Draft, column: Column, turnoutId: string, text: string): void {
  if (text.startsWith("="))
    throw recordError(
      `"${text.slice(0, 30)}" is a formula. Paste what it gives: in the spreadsheet, copy and paste values only.`,
    );
  column.write(draft, turnoutId, text);
}

/** The column that a heading means, whatever its case. */
export function columnCalled(heading: string): Column | undefined {
  const wanted = heading.trim().toLowerCase();
  return COLUMNS.find(({ id, title, aliases }) => [id, title.toLowerCase(), ...aliases].includes(wanted));
}

function rename(draft: Draft, id: string, label: string): void {
  const turnout = turnoutOf(draft.record, id);
  if (label === "") throw recordError("A turnout needs a label.");
  const other = turnoutCalled(draft.record, label);
  if (other && other.id !== id)
    throw recordError(`There is already a turnout called ${other.label}. Choose another label.`);
  draft.put("turnout", { ...turnout, label });
  const [motor] = assignmentsOfTurnout(draft.record, id, "motor");
  const device = motor && find(draft.record, "device", motor.deviceId);
  const taken = draft.record.devices.some((each) => each.label.toLowerCase() === label.toLowerCase());
  if (device && device.label === turnout.label && !taken) draft.put("device", { ...device, label });
}

function writeHand(draft: Draft, id: string, text: string): void {
  const wanted = text.toLowerCase();
  const hand = text === "" ? "unknown" : HANDS.find((each) => each === wanted || each[0] === wanted);
  if (!hand) throw recordError(`"${text}" is no hand; type left, right or wye.`);
  draft.put("turnout", { ...turnoutOf(draft.record, id), hand });
}

function writeZone(draft: Draft, id: string, text: string): void {
  const turnout = turnoutOf(draft.record, id);
  if (text === "") {
    draft.put("turnout", { ...turnout, zoneId: null });
    return;
  }
  let zone = draft.record.zones.find((each) => each.label.toLowerCase() === text.toLowerCase());
  if (!zone) {
    const order = Math.max(0, ...draft.record.zones.map((each) => each.order)) + 1;
    zone = { id: freshId(draft.record, "zone", text), label: text, name: "", order, commons: null, plasticJoints: 0 };
    draft.put("zone", zone);
  }
  draft.put("turnout", { ...turnout, zoneId: zone.id });
}

function writeMovesWith(draft: Draft, id: string, text: string): void {
  const turnout = turnoutOf(draft.record, id);
  if (text === "") {
    draft.put("turnout", { ...turnout, movesWith: null });
    return;
  }
  const leader = turnoutCalled(draft.record, text);
  if (!leader) throw recordError(`There is no turnout called ${text} for ${turnout.label} to move with.`);
  if (leader.id === id) throw recordError(`${turnout.label} cannot move with itself.`);
  if (leader.movesWith)
    throw recordError(
      `${leader.label} follows ${turnoutOf(draft.record, leader.movesWith).label} already; let ${turnout.label} follow that one.`,
    );
  if (draft.record.turnouts.some((each) => each.movesWith === id)) {
    throw recordError(`${turnout.label} leads another turnout, so it cannot follow one.`);
  }
  setControl(draft, id, null);
  draft.put("turnout", { ...turnout, movesWith: leader.id });
  const driver = driverOfTurnout(draft.record, leader.id);
  const hasMotor = assignmentsOfTurnout(draft.record, id, "motor").length > 0;
  if (driver && hasMotor) setDriver(draft, leader.id, driver);
}

function readDriver(record: RailwayRecord, turnout: Turnout): string {
  const driver = driverOfTurnout(record, turnout.id) ?? driverOfTurnout(record, turnout.movesWith ?? turnout.id);
  if (!driver) return "";
  const label = find(record, "device", driver.deviceId)?.label ?? "";
  return wayName(label, driver.way);
}

/** A unit of its own beside a motor of a pair, or its leader's again. */
function writeUnit(draft: Draft, turnout: Turnout, text: string): void {
  const leader = turnoutOf(draft.record, turnout.movesWith ?? "");
  const refusal = `${turnout.label} is driven with ${leader.label}; it may have a discharge unit of its own, and nothing else.`;
  if (!mayHaveUnit(draft.record, turnout)) throw recordError(refusal);
  const shared = driverOfTurnout(draft.record, leader.id);
  if (text === "" && shared) {
    setUnit(draft, turnout.id, shared.deviceId);
    return;
  }
  const called = draft.record.devices.find(({ label }) => label.toLowerCase() === text.toLowerCase());
  const type = called ? typeOf(draft.record, called) : typeMeant(draft.record, "driver", text);
  if (traitsOf(type).gives !== "pulse") throw recordError(refusal);
  setUnit(draft, turnout.id, (called ?? addBoardTo(draft, type.id)).id);
}

function writeDriver(draft: Draft, id: string, text: string): void {
  const turnout = turnoutOf(draft.record, id);
  if (turnout.movesWith !== null) {
    writeUnit(draft, turnout, text);
    return;
  }
  if (text === "") {
    setDriver(draft, id, null);
    return;
  }
  const numbered = /^(.+)-(\d{1,2})$/.exec(text);
  const wanted = (numbered?.[1] ?? text).toLowerCase();
  const device = draft.record.devices.find((each) => each.label.toLowerCase() === wanted);
  const type = device && typeOf(draft.record, device);
  if (device && type && drivesMotors(type)) {
    if (type.outputs === 0 && numbered)
      throw recordError(`${device.label} has no numbered outputs; type ${device.label}.`);
    const way =
      type.outputs === 0
        ? null
        : numbered
          ? Number(numbered[2])
          : (freeWays(draft.record, device.id, type.outputs)[0] ?? null);
    if (way === null && type.outputs > 0)
      throw recordError(`All ${type.outputs} outputs of ${device.label} are in use.`);
    if (way !== null && (way < 1 || way > type.outputs)) {
      throw recordError(`${device.label} has outputs 1 to ${type.outputs}; there is no ${text}.`);
    }
    setDriver(draft, id, { deviceId: device.id, way });
    return;
  }
  if (numbered && !findType(draft.record, text))
    throw recordError(`There is no board called ${numbered[1]}. Add it first, or type the kind of driver.`);
  const added = typeMeant(draft.record, "driver", text);
  const board = addBoardTo(draft, added.id);
  setDriver(draft, id, { deviceId: board.id, way: added.outputs > 0 ? 1 : null });
}

function readAddress(record: RailwayRecord, turnout: Turnout): string {
  const at = addressedAt(record, turnout.id);
  if (!at) return "";
  const stated = assignmentsOfDevice(record, at.device.id).find((a) => a.role === "address" && a.way === at.way);
  if (stated?.role === "address") return String(stated.address);
  const factory = typeOf(record, at.device).figures.factoryAddress?.value;
  return factory === undefined ? "" : String(factory + at.way - 1);
}

function writeAddress(draft: Draft, id: string, text: string): void {
  const at = addressedAt(draft.record, id);
  if (text === "" && !at) return;
  if (!at)
    throw recordError("Only a decoder output, or a motor with a decoder built in, has an address. Choose one first.");
  const address = Number(text);
  if (text !== "" && !(Number.isInteger(address) && address >= 0 && address <= 65535)) {
    throw recordError(`"${text}" is no address; type a whole number, usually 1 to 2040.`);
  }
  setAddress(draft, at.device.id, at.way, text === "" ? null : address);
}

function writeRun(draft: Draft, id: string, text: string): void {
  const metres = Number(text.replace(",", "."));
  if (text !== "" && !(metres >= 0.05 && metres <= 200))
    throw recordError(`"${text}" is no length; type metres, 0.05 to 200.`);
  draft.put("turnout", { ...turnoutOf(draft.record, id), runMetres: text === "" ? null : metres });
}

function typeNameOf(record: RailwayRecord, turnout: Turnout, role: "motor"): string {
  const [assignment] = assignmentsOfTurnout(record, turnout.id, role);
  const device = assignment && find(record, "device", assignment.deviceId);
  return device ? typeOf(record, device).name : "";
}
