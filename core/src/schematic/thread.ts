import { typeOf } from "../catalogue/catalogue.ts";
import { type DeviceType, readingInputs } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Touched } from "../record/difference.ts";
import {
  assignmentsOfDevice,
  assignmentsOfTurnout,
  deviceOf,
  feederOf,
  find,
  turnoutsInOrder,
} from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Route } from "../record/routes.ts";
import type { AssignmentOf, Device, Turnout } from "../record/schemas.ts";
import { routesOver } from "../routes/routes.ts";

/** A device together with its type. */
export interface Fitted {
  device: Device;
  type: DeviceType;
}

export interface ThreadMotor extends Fitted {
  turnout: Turnout;
  assignment: AssignmentOf<"motor">;
  driver: (Fitted & { way: number | null; assignment: AssignmentOf<"driver"> }) | null;
  /**
   * What gives the current that controls switch themselves: a discharge unit or bare supply as driver, or that which feeds the
   * diode board; null where a board does the switching.
   */
  unit: Fitted | null;
}

/** A control of a thread, and the board whose numbered inputs read it, if one does. */
export interface ThreadControl extends Fitted {
  assignment: AssignmentOf<"control">;
  reader: (Fitted & { way: number }) | null;
  /** What decides whether it is listened to: a key switch, a relay's contact, a board's setting. */
  lock: (Fitted & { way: number | null }) | null;
  /** The route that it asks for, with whatever turnouts that sets; null for a control of this thread's own. */
  route: Route | null;
  /** The button that has to be held as well. */
  through: Fitted | null;
}

/** A frog with what feeds it. */
export interface ThreadFrog extends Fitted {
  turnout: Turnout;
  assignment: AssignmentOf<"frog">;
  from: Fitted | null;
}

export interface ThreadLamp extends Fitted {
  /** The turnout that it tells of. */
  turnout: Turnout;
  assignment: AssignmentOf<"lamp">;
  /** What lights it. */
  from: Fitted;
  /** Piece of a resistor board in its common lead. */
  resistor: (Fitted & { way: number }) | null;
}

/** All that stands between the finger and the lamp of one turnout, or of two that move together. */
export interface Thread {
  /** The turnout, or the leading one of a crossover. */
  turnout: Turnout;
  followers: Turnout[];
  /** Label of the turnout or of the pair, as "M1/M2". */
  label: string;
  /** Motors of the leader and its followers, in that order; a turnout without a motor has none here. */
  motors: ThreadMotor[];
  /** The first of its controls, by which it is asked for a position when nothing else is said. */
  control: ThreadControl | null;
  moreControls: ThreadControl[];
  /** Frogs of the leader and its followers. */
  frogs: ThreadFrog[];
  /** Lamps, arms and flags of the leader and its followers. */
  lamps: ThreadLamp[];
}

/**
 * The threads of a railway in the owner's order, one for each turnout that follows no other.
 * @param known threads that an edit cannot have changed, by their leader
 */
export function threadsOf(record: RailwayRecord, known: ReadonlyMap<string, Thread> = NONE_KNOWN): Thread[] {
  const followers = new Map<string, Turnout[]>();
  const leaders: Turnout[] = [];
  for (const turnout of turnoutsInOrder(record)) {
    if (!turnout.movesWith) leaders.push(turnout);
    else followers.set(turnout.movesWith, [...(followers.get(turnout.movesWith) ?? []), turnout]);
  }
  return leaders.map((turnout) => known.get(turnout.id) ?? threadFor(record, turnout, followers.get(turnout.id) ?? []));
}

const NONE_KNOWN: ReadonlyMap<string, Thread> = new Map();

/** Those of the threads of an earlier record of which an edit touched neither a turnout nor a device, by their leader. */
export function untouchedThreads(threads: readonly Thread[], { devices, turnouts }: Touched): Map<string, Thread> {
  const isTouched = (thread: Thread) =>
    [thread.turnout, ...thread.followers].some(({ id }) => turnouts.has(id)) ||
    devicesOfThread(thread).some((id) => devices.has(id));
  return new Map(threads.flatMap((thread) => (isTouched(thread) ? [] : [[thread.turnout.id, thread] as const])));
}

/** The thread that a turnout leads, or undefined when it follows another or does not exist. */
export function threadLedBy(record: RailwayRecord, turnoutId: string): Thread | undefined {
  const turnout = find(record, "turnout", turnoutId);
  if (!turnout || turnout.movesWith) return undefined;
  const followers = record.turnouts.filter((each) => each.movesWith === turnoutId);
  return threadFor(
    record,
    turnout,
    followers.sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1)),
  );
}

/** The supply that feeds a device, or null. */
export function supplyOf(record: RailwayRecord, deviceId: string): Fitted | null {
  const id = feederOf(record, deviceId, "supply");
  return id === null ? null : fitted(record, id);
}

function threadFor(record: RailwayRecord, turnout: Turnout, followers: Turnout[]): Thread {
  const motors = [turnout, ...followers].flatMap((each) =>
    assignmentsOfTurnout(record, each.id, "motor").map((assignment): ThreadMotor => {
      const driver = driverOf(record, assignment.deviceId);
      return {
        ...fitted(record, assignment.deviceId),
        ...{ turnout: each, assignment, driver },
        unit:
          driver?.type.drives === "matrix" ? supplyOf(record, driver.device.id) : driver?.way === null ? driver : null,
      };
    }),
  );
  const own = assignmentsOfTurnout(record, turnout.id, "control").map(
    (assignment): ThreadControl => ({
      ...fitted(record, assignment.deviceId),
      assignment,
      reader: readerOf(record, assignment.deviceId, assignment.way),
      lock: lockOf(record, assignment.deviceId, assignment.way),
      route: null,
      through: null,
    }),
  );
  const onBoard = motors.some(({ driver }) => driver?.type.drives === "matrix");
  const [control, ...moreControls] = [...own, ...(onBoard ? routeControls(record, turnout, followers) : [])];
  const frogs = [turnout, ...followers].flatMap((each) =>
    assignmentsOfTurnout(record, each.id, "frog").map((assignment): ThreadFrog => {
      const { fromId } = assignment;
      return {
        ...fitted(record, assignment.deviceId),
        turnout: each,
        assignment,
        from: fromId === null ? null : fitted(record, fromId),
      };
    }),
  );
  const lamps = [turnout, ...followers].flatMap((each) =>
    assignmentsOfTurnout(record, each.id, "lamp").map((assignment): ThreadLamp => {
      const { deviceId, fromId } = assignment;
      return {
        ...fitted(record, deviceId),
        turnout: each,
        assignment,
        from: fitted(record, fromId),
        resistor: resistorOf(record, deviceId),
      };
    }),
  );
  return {
    turnout,
    followers,
    label: [turnout, ...followers].map((each) => each.label).join("/"),
    motors,
    control: control ?? null,
    moreControls,
    frogs,
    lamps,
  };
}

/** What asks for the routes over a turnout whose motor hangs on a diode board: each asks it for one position. */
function routeControls(record: RailwayRecord, turnout: Turnout, followers: readonly Turnout[]): ThreadControl[] {
  const ids = [turnout, ...followers].map(({ id }) => id);
  return routesOver(record, ids).flatMap(({ route, to, controls }) =>
    controls.flatMap(({ id, deviceId, way, throughId }): ThreadControl[] => {
      const control = fitted(record, deviceId);
      if (traitsOf(control.type).asks === null) return [];
      return [
        {
          ...control,
          assignment: {
            ...{ id, role: "control", deviceId, turnoutId: turnout.id },
            ...{ way, to, inverse: false, follows: false },
          },
          reader: null,
          lock: lockOf(record, deviceId, way),
          route,
          through: throughId === null ? null : fitted(record, throughId),
        },
      ];
    }),
  );
}

function driverOf(record: RailwayRecord, motorId: string): ThreadMotor["driver"] {
  for (const assignment of assignmentsOfDevice(record, motorId)) {
    if (assignment.role === "driver" && assignment.motorId === motorId) {
      return { ...fitted(record, assignment.deviceId), way: assignment.way, assignment };
    }
  }
  return null;
}

/** The board whose numbered inputs read a control or one of its ways, and the first of them. */
function readerOf(record: RailwayRecord, controlId: string, controlWay: number | null): ThreadControl["reader"] {
  const input = inputOf(record, controlId, controlWay);
  return input ? { ...fitted(record, input.deviceId), way: input.way } : null;
}

function lockOf(record: RailwayRecord, controlId: string, controlWay: number | null): ThreadControl["lock"] {
  const lock = assignmentsOfDevice(record, controlId).find(
    (a): a is AssignmentOf<"lock"> => a.role === "lock" && a.controlId === controlId && a.controlWay === controlWay,
  );
  return lock ? { ...fitted(record, lock.deviceId), way: lock.way } : null;
}

function resistorOf(record: RailwayRecord, lampId: string): ThreadLamp["resistor"] {
  const piece = assignmentsOfDevice(record, lampId).find(
    (a): a is AssignmentOf<"resistor"> => a.role === "resistor" && a.lampId === lampId,
  );
  return piece ? { ...fitted(record, piece.deviceId), way: piece.way } : null;
}

/** The input that reads a control, or one zone, output or pole of it; the rows of diode boards read nothing. */
export function inputOf(
  record: RailwayRecord,
  controlId: string,
  controlWay: number | null,
): AssignmentOf<"input"> | undefined {
  return assignmentsOfDevice(record, controlId).find(
    (a): a is AssignmentOf<"input"> =>
      a.role === "input" &&
      a.controlId === controlId &&
      a.controlWay === controlWay &&
      readingInputs(typeOf(record, deviceOf(record, a.deviceId))) > 0,
  );
}

/** The controls of a thread, the leading one first. */
export function controlsOf({ control, moreControls }: Thread): ThreadControl[] {
  return control ? [control, ...moreControls] : [];
}

/** Whether a control of a thread goes on sending current when nobody touches it; a rotary switch that waits for its button does not. */
export function isLeftOn(thread: Thread): boolean {
  return controlsOf(thread).some(({ type, through }) => type.maintained === true && through === null);
}

/** Whether two threads have the same control, or the same zone, output or pole of one. */
export function isSameControl(a: ThreadControl, b: ThreadControl): boolean {
  return a.device.id === b.device.id && a.assignment.way === b.assignment.way && a.route?.id === b.route?.id;
}

const devicesFound = new WeakMap<Thread, readonly string[]>();

/** Identifiers of all devices that a thread runs through, supplies apart. */
export function devicesOfThread(thread: Thread): readonly string[] {
  const known = devicesFound.get(thread) ?? findDevices(thread);
  devicesFound.set(thread, known);
  return known;
}

function findDevices(thread: Thread): string[] {
  const { motors, lamps, frogs } = thread;
  const fitted: (Fitted | null)[] = [
    ...motors.flatMap((motor) => [motor, motor.driver, motor.unit]),
    ...controlsOf(thread).flatMap((control) => [control, control.reader, control.lock, control.through]),
    ...frogs.flatMap((frog) => [frog, frog.from]),
    ...lamps.flatMap((lamp) => [lamp, lamp.from, lamp.resistor]),
  ];
  return fitted.flatMap((each) => (each ? [each.device.id] : []));
}

/** Whether two threads run through the same things, none of which was changed (the same objects). */
export function isSameThread(a: Thread, b: Thread): boolean {
  const [before, now] = [thingsOnce(a), thingsOnce(b)];
  return before.length === now.length && before.every((thing, index) => thing === now[index]);
}

const things = new WeakMap<Thread, unknown[]>();

function thingsOnce(thread: Thread): unknown[] {
  const known = things.get(thread) ?? thingsOf(thread);
  things.set(thread, known);
  return known;
}

/** All that a thread is made of, in an order that tells who is who. */
function thingsOf(thread: Thread): unknown[] {
  const { turnout, followers, motors, frogs, lamps } = thread;
  const controls = controlsOf(thread);
  const fittedThings = (each: Fitted | null | undefined) => [each?.device, each?.type];
  return [
    ...[turnout, ...followers],
    ...[followers.length, motors.length, controls.length, frogs.length, lamps.length],
    ...motors.flatMap((motor) => [
      ...[...fittedThings(motor), motor.assignment],
      ...[...fittedThings(motor.driver), motor.driver?.assignment, ...fittedThings(motor.unit)],
    ]),
    ...controls.flatMap((control) => [
      ...[...fittedThings(control), control.route ? control.route.id : control.assignment],
      ...[control.assignment.way, control.assignment.to, ...fittedThings(control.through)],
      ...[...fittedThings(control.reader), control.reader?.way],
      ...[...fittedThings(control.lock), control.lock?.way],
    ]),
    ...frogs.flatMap((frog) => [...fittedThings(frog), frog.assignment, ...fittedThings(frog.from)]),
    ...lamps.flatMap((lamp) => [
      ...[...fittedThings(lamp), lamp.assignment, ...fittedThings(lamp.from)],
      ...[...fittedThings(lamp.resistor), lamp.resistor?.way],
    ]),
  ];
}

/** A motor that has its driver inside. */
export function drivesItself({ type }: Fitted): boolean {
  return traitsOf(type).movedBy === "commands";
}

/** A device with its type. @throws {Error} when the record is broken */
export function fitted(record: RailwayRecord, deviceId: string): Fitted {
  const device = deviceOf(record, deviceId);
  return { device, type: typeOf(record, device) };
}

/** Label of the turnout that a device belongs to, for sentences; the device's own label when to none. */
export function turnoutLabel(record: RailwayRecord, turnoutId: string): string {
  return find(record, "turnout", turnoutId)?.label ?? turnoutId;
}
