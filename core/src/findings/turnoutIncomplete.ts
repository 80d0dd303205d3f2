import { findType, genericType, typesOfFamily } from "../catalogue/catalogue.ts";
import type { OutputKind } from "../catalogue/deviceType.ts";
import { type MovedBy, traitsOf, usualSupply } from "../catalogue/traits.ts";
import { takeControlAway } from "../equip/controls.ts";
import { addBoardTo } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { setControl, setDriver, setMotor } from "../equip/equipment.ts";
import { feed, usualCommands } from "../equip/feed.ts";
import { writeFrog } from "../equip/frogs.ts";
import { takeLampAway } from "../equip/lamps.ts";
import { freeWays } from "../equip/ways.ts";
import { feederOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { wayName } from "../schematic/nets.ts";
import { asksBy, controlSides, switchesCurrent } from "../schematic/recipes/controlSides.ts";
import { heardAt } from "../schematic/recipes/controlToInputs.ts";
import { outputEnds } from "../schematic/recipes/lampFromOutput.ts";
import { isFedByTrack } from "../schematic/recipes/supplyToBoard.ts";
import {
  controlsOf,
  drivesItself,
  type Fitted,
  supplyOf,
  type Thread,
  type ThreadControl,
  type ThreadLamp,
} from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { type Look, POSITIONS, type Remedy, rule } from "./rule.ts";

/** One thing that a turnout lacks, and what would provide it. */
interface Missing {
  words: string;
  /** Column of the turnout list where it is put right. */
  column: "motor" | "driver" | "control" | "frog" | "lamp";
  remedies: (record: RailwayRecord) => Remedy[];
}

interface Incomplete {
  thread: Thread;
  missing: Missing[];
}

export const turnoutIncomplete = rule<Incomplete>({
  id: "turnout-incomplete",
  stage: "equip",
  severity: "look",
  title: "A turnout is not completely equipped",
  about:
    "A turnout is complete when each of its motors has a driver, the driver has its supply and its commands, a switched driver has a control, and a lamp that is fitted has a contact and a supply. No lamp at all is a choice, and complete.",
  look: ({ record, inThreads }) =>
    inThreads("incomplete", (thread) => {
      const missing = missingParts(record, thread);
      return missing.length > 0 ? [{ thread, missing }] : [];
    }),
  subject: ({ thread }) => thread.turnout.id,
  where: ({ thread }) => thread.label,
  turnouts: ({ thread }) => [thread],
  column: ({ missing: [first] }) => first?.column ?? "motor",
  why: ({ thread, missing }) => `${thread.label} ${list(missing.map(({ words }) => words))}.`,
  remedies: ({ missing }, { record }) => missing.flatMap(({ remedies }) => remedies(record)).slice(0, 3),
});

/** Whether a thread lacks a part; found out once, while edits leave it alone. */
export function lacks({ record, remember }: Pick<Look, "record" | "remember">, thread: Thread): boolean {
  return remember(thread, "lacks", () => missingParts(record, thread).length > 0);
}

/** What a thread still lacks; empty when it is complete. */
export function missingParts(record: RailwayRecord, thread: Thread): Missing[] {
  const without = [thread.turnout, ...thread.followers].filter(
    (turnout) => !thread.motors.some((motor) => motor.turnout.id === turnout.id),
  );
  if (without.length > 0) {
    return without.map((turnout) => ({
      column: "motor" as const,
      words: thread.followers.length > 0 ? `has no motor at ${turnout.label}` : "has no motor",
      remedies: () =>
        typesOfFamily(record, "motor")
          .slice(0, 3)
          .map((type) =>
            remedy(
              record,
              `Fit a ${type.name.split(",")[0]?.toLowerCase()}${type.contactSets === 0 ? ", no contact" : ""}`,
              (draft) => setMotor(draft, turnout.id, type.id),
            ),
          ),
    }));
  }
  return [
    ...missingDriver(record, thread),
    ...missingControl(thread),
    ...missingForFrogs(thread),
    ...thread.lamps.flatMap((lamp) => missingForLamp(record, lamp)),
  ];
}

function missingDriver(record: RailwayRecord, thread: Thread): Missing[] {
  const driver = thread.motors.find((motor) => !drivesItself(motor))?.driver;
  if (thread.motors.every(drivesItself)) return missingTrack(record, thread);
  if (!driver || thread.motors.some((motor) => !motor.driver && !drivesItself(motor))) {
    return [{ column: "driver", words: "has no driver", remedies: () => driverRemedies(record, thread) }];
  }
  const missing: Missing[] = [];
  const { device, type } = driver;
  const feeding = (draft: Draft) => feed(draft, device, type);
  if (type.family === "driver" && usualSupply(type) && !supplyOf(record, device.id)) {
    missing.push({
      column: "driver" as const,
      words: `has a driver, ${device.label}, without a supply`,
      remedies: () => [remedy(record, `Feed ${device.label}`, feeding)],
    });
  }
  const hears = feederOf(record, device.id, "commands") !== null;
  const needs = usualCommands(type);
  const byTrack = isFedByTrack(driver, supplyOf(record, device.id));
  if (needs && !hears && !byTrack) {
    missing.push({
      column: "driver" as const,
      words: `has a ${type.short}, ${device.label}, that hears no commands`,
      remedies: () => [
        remedy(record, `Join ${device.label} to the ${type.hears === "bus" ? "control" : "track"} bus`, feeding),
      ],
    });
  }
  return missing;
}

/** Motors with their decoder inside need the track bus only. */
function missingTrack(record: RailwayRecord, { motors }: Thread): Missing[] {
  return motors
    .filter(({ device }) => !supplyOf(record, device.id))
    .map(({ device, type }) => ({
      column: "motor" as const,
      words: `has a motor, ${device.label}, that is not joined to the track bus`,
      remedies: () => [remedy(record, `Join ${device.label} to the track bus`, (draft) => feed(draft, device, type))],
    }));
}

/** Whether a control reaches a board's inputs, or the motors themselves. */
function isRead(thread: Thread, control: ThreadControl): boolean {
  if (heardAt(thread, control)) return true;
  const direct = (thread.motors[0]?.unit ?? null) !== null;
  return direct && (switchesCurrent(control) || asksBy(control) === "poles");
}

function unreadBecause({ device, type }: Fitted): string {
  if (type.outputs === 0) return `it switches no current, and ${device.label} has no inputs`;
  return `${device.label} takes commands from the ${type.hears === "bus" ? "control bus" : "track"} only`;
}

function missingControl(thread: Thread): Missing[] {
  const { control, motors, turnout } = thread;
  const driver = motors[0]?.driver;
  if (!driver) return [];
  if (driver.type.drives === "matrix" && !control) {
    return [
      {
        column: "control" as const,
        words: `hangs on ${driver.device.label}, but no route sets it that has a button`,
        remedies: () => [],
      },
    ];
  }
  if (driver.type.outputs === 0 && !control) {
    return [
      {
        column: "control" as const,
        words: "has no control",
        remedies: (record) => [
          remedy(record, "Fit a centre-off momentary toggle", (draft) =>
            setControl(draft, turnout.id, { typeId: "toggle-centre-off" }),
          ),
        ],
      },
    ];
  }
  if (driver.type.ownInputs && !driver.type.hears && !control) {
    return [
      {
        column: "control" as const,
        words: `has no control, and ${driver.device.label} takes commands at its inputs only`,
        remedies: (record) => [
          remedy(record, "Fit a latching toggle", (draft) =>
            setControl(draft, turnout.id, { typeId: "toggle-latching" }),
          ),
        ],
      },
    ];
  }
  const unread = controlsOf(thread).find((each) => !isRead(thread, each));
  if (unread) {
    return [
      {
        column: "control" as const,
        words: `has a control, ${unread.device.label}, that nothing reads: ${unreadBecause(driver)}`,
        remedies: (record) => [
          remedy(record, `Take ${unread.device.label} away`, (draft) =>
            takeControlAway(draft, turnout.id, unread.assignment.id),
          ),
        ],
      },
    ];
  }
  return missingSide(thread);
}

/** A side to which nothing throws a coil motor whose current its controls switch: one button reaches one coil. */
function missingSide(thread: Thread): Missing[] {
  const { control, motors, turnout } = thread;
  const isSwitched = motors.some(({ type, unit }) => unit !== null && traitsOf(type).movedBy === "pulse");
  if (!isSwitched || !control) return [];
  const sides = controlsOf(thread).flatMap((each) => (switchesCurrent(each) ? [controlSides(each)] : []));
  const reached = { N: sides.some(({ N, press }) => N ?? press), R: sides.some(({ R }) => R) };
  const side = POSITIONS.find((position) => !reached[position]);
  if (!side) return [];
  return [
    {
      column: "control" as const,
      words: `has nothing that throws it to ${side}: ${control.device.label} reaches one coil only`,
      remedies: (record) => [
        remedy(record, "Fit a centre-off momentary toggle", (draft) =>
          setControl(draft, turnout.id, { typeId: "toggle-centre-off" }),
        ),
      ],
    },
  ];
}

/** Frogs on a contact that is not there. */
function missingForFrogs({ frogs }: Thread): Missing[] {
  return frogs.flatMap(({ from, assignment, turnout }): Missing[] => {
    const way = assignment.way ?? 1;
    if (!from || traitsOf(from.type).inTrack === "polarity-unit" || way <= from.type.contactSets) return [];
    return [
      {
        column: "frog" as const,
        words: `has a frog at ${turnout.label} on contact S${way}, which ${from.device.label} does not have`,
        remedies: (record) => [
          remedy(record, "Fit an automatic polarity unit", (draft) => writeFrog(draft, turnout.id, "polarity unit")),
        ],
      },
    ];
  });
}

function missingForLamp(record: RailwayRecord, lamp: ThreadLamp): Missing[] {
  const { turnout } = lamp;
  const { device: motor, type } = lamp.from;
  const byContact = type.family === "motor" || type.contactSets > 0;
  if (!lamp.type.leads || !byContact) return missingSource(record, lamp);
  const way = lamp.assignment.way ?? 1;
  const takeAway = () => [
    remedy(record, `Take ${lamp.device.label} away`, (draft) => takeLampAway(draft, lamp.assignment.id)),
  ];
  if (way > type.contactSets) {
    return [
      {
        column: "lamp" as const,
        words: `has a lamp, ${lamp.device.label}, but ${motor.label} has no contact for it`,
        remedies: () => {
          const withContact = typesOfFamily(record, "motor").find(
            (each) => each.model === type.model && each.contactSets > 0,
          );
          const fit = withContact
            ? [remedy(record, "Fit a motor with contact", (draft) => setMotor(draft, turnout.id, withContact.id))]
            : [];
          return [...fit, ...takeAway()];
        },
      },
    ];
  }
  if (!supplyOf(record, lamp.device.id)) {
    return [
      {
        column: "lamp" as const,
        words: `has a lamp, ${lamp.device.label}, without a supply`,
        remedies: () => [
          remedy(
            record,
            `Feed ${lamp.device.label} with ${usualSupply(lamp.type) === "dc-12" ? 12 : 5} V DC`,
            (draft) => feed(draft, lamp.device, lamp.type),
          ),
        ],
      },
    ];
  }
  return [];
}

/** A box with an input and the sensor that tells it, each without a supply. */
function missingPower(record: RailwayRecord, things: readonly Fitted[]): Missing[] {
  return things
    .filter(({ device }) => !supplyOf(record, device.id))
    .map(({ device, type }) => ({
      column: "lamp" as const,
      words: `has ${device.label} without a supply`,
      remedies: () => [remedy(record, `Feed ${device.label} with 12 V DC`, (draft) => feed(draft, device, type))],
    }));
}

/** What a lamp lacks that is lit by something else than a contact. */
function missingSource(record: RailwayRecord, lamp: ThreadLamp): Missing[] {
  const { from, device, type } = lamp;
  const { movedBy, shows } = traitsOf(type);
  if (shows === "flag" || traitsOf(from.type).inTrack === "frog") return [];
  if (shows === "box" && traitsOf(from.type).inTrack === "spot-sensor") return missingPower(record, [lamp, from]);
  const fits = movedBy === "signal" ? from.type.drives === "servo" : shows === "leds" && outputEnds(lamp, 1) !== null;
  if (fits) return [];
  return [
    {
      column: "lamp" as const,
      words: `has ${traitsOf(type).movedBy === "signal" ? "an arm" : "a lamp"}, ${device.label}, that ${from.device.label} cannot ${traitsOf(type).movedBy === "signal" ? "move" : "light"}`,
      remedies: () => [remedy(record, `Take ${device.label} away`, (draft) => takeLampAway(draft, lamp.assignment.id))],
    },
  ];
}

/** A free output of a board of the right kind, or the discharge unit that is there. */
function driverRemedies(record: RailwayRecord, thread: Thread): Remedy[] {
  const kind = DRIVEN_BY[traitsOf(thread.motors[0]?.type).movedBy ?? "pulse"] ?? "coil";
  const free = onBoards(record, thread, kind);
  const typeId = USUAL_BOARD[kind];
  if (free.length > 0 || !typeId) return free;
  const label = `Put it on a new ${genericType(typeId)?.short ?? "board"}`;
  return [
    remedy(record, label, (draft) => {
      const board = addBoardTo(draft, typeId);
      setDriver(draft, thread.turnout.id, { deviceId: board.id, way: typeId === "cdu" ? null : 1 });
    }),
  ];
}

/** The board that is added for a motor when there is none. */
const USUAL_BOARD: Partial<Record<OutputKind, string>> = {
  pair: "stall-decoder-8",
  coil: "cdu",
  servo: "servo-board-4",
};

function onBoards(record: RailwayRecord, thread: Thread, kind: OutputKind): Remedy[] {
  return record.devices.flatMap((device) => {
    const type = findType(record, device.typeId);
    if (!type || !(type.drives === kind || (kind === "coil" && traitsOf(type).gives === "pulse"))) return [];
    const way = type.outputs === 0 ? null : freeWays(record, device.id, type.outputs)[0];
    if (way === undefined) return [];
    const label = wayName(device.label, way);
    return [
      remedy(record, `Put it on ${label}`, (draft) =>
        setDriver(draft, thread.turnout.id, { deviceId: device.id, way }),
      ),
    ];
  });
}

/** What an output has to give for a motor. */
const DRIVEN_BY: Partial<Record<MovedBy, OutputKind>> = { pulse: "coil", reversal: "pair", signal: "servo" };

function remedy(record: RailwayRecord, label: string, make: (draft: Draft) => void): Remedy {
  const draft = new Draft(record);
  make(draft);
  return { label, group: draft.group(label) };
}
