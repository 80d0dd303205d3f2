import { figureValue } from "../catalogue/catalogue.ts";
import type { OutputKind } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Position } from "../record/schemas.ts";
import { type StockRail, wantedRail } from "../schematic/recipes/frogFeed.ts";
import {
  type Fitted,
  supplyOf,
  type Thread,
  type ThreadFrog,
  type ThreadLamp,
  type ThreadMotor,
} from "../schematic/thread.ts";
import { ownOf } from "../units/ownOf.ts";
import type { Circuitry } from "./circuitry.ts";
import { storesPulse } from "./models.ts";
import { type Pulse, voltsShareFor } from "./pulse.ts";
import { secondsToRecover } from "./recharge.ts";
import { bothHalves, EVERY, type Moment, type RailwayState } from "./states.ts";

export interface MotorReading {
  motorId: string;
  /** Volts across the winding, or across the coil that carries more. */
  volts: number;
  /** Amps in the winding, or in each coil. */
  amps: { N: number; R: number };
  goesTo: Position | null;
  /** The pulse in the coil that was thrown, while it is thrown. */
  pulse: Pulse | null;
  /** How long its unit charges until it throws firmly again, seconds; null where it does not throw, or no unit gives the pulse. */
  again: number | null;
}

export interface ThreadReading {
  /** Volts and amps of driver and motors are effective values of an alternating supply. */
  alternating: boolean;
  position: Position;
  moment: Moment;
  motors: MotorReading[];
  /** Volts A to B of the decoder output, or across the discharge unit; null without a driver. */
  driverVolts: number | null;
  /** Amps that the driver gives this thread. */
  driverAmps: number | null;
  /** The lamps of its turnouts, in their order. */
  lamps: LampReading[];
  /** The frogs of its turnouts, in their order. */
  frogs: FrogReading[];
}

export interface LampReading {
  deviceId: string;
  /** Amps in what is lit at normal and in what is lit at reverse: on track power in the half cycle that lights it, on AC the mean of the cycle. */
  normal: number;
  reverse: number;
  /** Volts across the supply at its contact, or across the board's supply; null for a lamp without one. */
  contactVolts: number | null;
  /** The most that an LED sees backwards. */
  backwardsVolts: number;
  /** Position that a semaphore's arm, a flag or a box with an input shows; null for lamps. */
  arm: Position | null;
}

export interface FrogReading {
  turnoutId: string;
  /** Volts from the frog to the left and to the right stock rail, while J is positive. */
  toLeft: number;
  toRight: number;
  /** Rail whose polarity it carries; null for a dead frog, or without power. */
  carries: StockRail | null;
  /** Rail that it must carry for the road to which the blades lie; null while nobody knows how they lie, or its hand. */
  wanted: StockRail | null;
  /** A polarity unit feeds it: after a throw it carries what it did, until a wheel bridges it and the unit changes over. */
  byWheel: boolean;
}

/** Everything at rest, all turnouts standing alike. */
export const AT_REST: Record<Position, RailwayState> = {
  N: { asked: {}, otherwise: "N", moment: "rest", acting: null, off: false },
  R: { asked: {}, otherwise: "R", moment: "rest", acting: null, off: false },
};

const moved = (otherwise: Position): RailwayState => {
  return { asked: {}, otherwise, moment: "throwing", acting: EVERY, off: false };
};
/** All turnouts on their way at once, to normal or to reverse. */
export const ALL_MOVING: Record<Position, RailwayState> = { N: moved("N"), R: moved("R") };

/** What flows with everything at rest and while all turnouts move: of each the greater of all normal and all reverse. */
export function restAndMoving(given: (state: RailwayState) => number): { rest: number; moving: number } {
  const most = ({ N, R }: Record<Position, RailwayState>) => Math.max(given(N), given(R));
  return { rest: most(AT_REST), moving: most(ALL_MOVING) };
}

/**
 * State in which a thread is asked for a position: thrown or held, all others stand at normal; at rest, all stand where
 * it does, so that one solution serves all threads.
 * @param by the control that asks, by its assignment; the thread's first when not said
 */
export function stateFor(thread: Thread, position: Position, moment: Moment, by?: string): RailwayState {
  const own = states.get(thread) ?? new Map<string, RailwayState>();
  states.set(thread, own);
  const key = `${position} ${moment} ${by ?? ""}`;
  const state = own.get(key) ?? makeState(thread.turnout.id, position, moment, by);
  own.set(key, state);
  return state;
}

/** The states of a thread that were asked for: the same objects, so that what is known of them need not be named anew. */
const states = new WeakMap<Thread, Map<string, RailwayState>>();

function makeState(leader: string, position: Position, moment: Moment, by: string | undefined): RailwayState {
  const asked = { [leader]: position };
  if (moment === "rest") return { ...AT_REST[position], asked };
  const state = { asked, moment, acting: leader, off: false };
  return by === undefined ? state : { ...state, by };
}

/** Computed volts and amps along a thread in one position and moment; effective values where the supply alternates. */
export function threadReading(
  circuitry: Circuitry,
  thread: Thread,
  position: Position,
  moment: Moment,
  by?: string,
): ThreadReading {
  const state = stateFor(thread, position, moment, by);
  const driver = thread.motors[0]?.driver;
  const motors = thread.motors.map((motor) => motorReading(circuitry, motor, state));
  return {
    alternating: driver
      ? circuitry.isAlternating(`${driver.device.id}:~1`) && traitsOf(driver.type).gives !== "pulse"
      : false,
    position,
    moment,
    motors,
    ...driverReading(circuitry, thread, state),
    lamps: thread.lamps.map((lamp) => lampReading(circuitry, lamp, flagOf(thread, lamp, motors), state)),
    frogs: thread.frogs.map((frog) => frogReading(circuitry, frog, motors, thread, state)),
  };
}

/** Both half cycles where the track bus is in the circuit, else the one. */
function halves(circuitry: Circuitry, key: string, state: RailwayState): RailwayState[] {
  return circuitry.isOnTrack(key) ? bothHalves(state) : [state];
}

/**
 * Mean current of an LED behind a resistor on a sine over its whole cycle, by its current at the peak: it conducts in one half only,
 * and there only while the sine is above its forward volts.
 *
 * Derived: the integral of (V sin x - F) / R from asin(F / V) to pi - asin(F / V), over two pi.
 * @param peakAmps current at the sine's peak, through volts of which the LED keeps a share
 * @param share forward volts over the sine's peak, 0 to 1
 * @example halfWaveMean(0.0379, 0.13) // 0.0111
 */
export function halfWaveMean(peakAmps: number, share: number): number {
  if (share >= 1) return 0;
  const conducts = 2 * Math.sqrt(1 - share ** 2) - share * (Math.PI - 2 * Math.asin(share));
  return (peakAmps * conducts) / (2 * Math.PI * (1 - share));
}

/** Where a flag on a turnout's throw bar stands. */
function flagOf(thread: Thread, { turnout }: ThreadLamp, motors: readonly MotorReading[]): Position | null {
  const index = thread.motors.findIndex((motor) => motor.turnout.id === turnout.id);
  return motors[index]?.goesTo ?? null;
}

/** What a lamp does, by the reading of its thread; undefined for a lamp of another thread. */
export function lampIn({ lamps }: ThreadReading, { device }: Fitted): LampReading | undefined {
  return lamps.find(({ deviceId }) => deviceId === device.id);
}

function lampReading(circuitry: Circuitry, lamp: ThreadLamp, flag: Position | null, state: RailwayState): LampReading {
  const id = lamp.device.id;
  const { leads } = lamp.type;
  const dark = { deviceId: id, normal: 0, reverse: 0, contactVolts: null, backwardsVolts: 0, arm: null };
  if (traitsOf(lamp.type).movedBy === "signal") return { ...dark, arm: circuitry.semaphoreShows(lamp, state) };
  if (traitsOf(lamp.type).shows === "box") return { ...dark, arm: circuitry.boxShows(lamp, state) };
  if (!leads) return { ...dark, arm: flag };
  const supply = supplyOf(circuitry.record, id) ?? supplyOf(circuitry.record, lamp.from.device.id);
  const isSine = supply !== null && circuitry.isAlternating(`${id}:${leads[0]}`);
  const states = isSine ? bothHalves(state) : halves(circuitry, `${id}.${leads[0]}`, state);
  const most = (value: (at: RailwayState) => number) => Math.max(0, ...states.map(value));
  const backwards = (lead: string, at: RailwayState) => {
    const [anode, cathode] = lamp.type.commonPlus ? [leads[2], `${lead}a`] : [`${lead}a`, leads[2]];
    return circuitry.volts(`${id}:${cathode}`, `${id}:${anode}`, at) ?? 0;
  };
  const rated = lamp.type.figures.ratedAmps?.value ?? Number.POSITIVE_INFINITY;
  const lit = (lead: string) => {
    // what burns it does so before a supply shuts down
    const peak = most((at) => {
      const first = circuitry.prospectiveAmps(id, lead, at);
      return first > rated ? first : circuitry.amps(id, lead, at);
    });
    if (!isSine || peak === 0) return peak;
    const [one, other] = traitsOf(supply.type).power.map((terminal) => `${supply.device.id}:${terminal}`);
    const forward = Math.max(0, ...states.map((at) => -backwards(lead, at)));
    const whole = Math.abs(circuitry.volts(one ?? "", other ?? "", state) ?? 0);
    return whole > 0 ? halfWaveMean(peak, forward / whole) : 0;
  };
  return {
    deviceId: id,
    normal: lit(leads[0]),
    reverse: lit(leads[1]),
    contactVolts: voltsAtContact(circuitry, lamp, state),
    backwardsVolts: most((at) => Math.max(backwards(leads[0], at), backwards(leads[1], at))),
    arm: null,
  };
}

/** Volts between what feeds a lamp's contact and the lamp's common. */
function voltsAtContact(circuitry: Circuitry, { device, type, assignment, from }: ThreadLamp, state: RailwayState) {
  const supply = supplyOf(circuitry.record, device.id);
  if (!supply || from.type.contactSets === 0 || traitsOf(from.type).inTrack === "frog") return null;
  const contact = `${from.device.id}:S${assignment.way ?? 1}c`;
  const [plus, minus] = traitsOf(supply.type).power.map((terminal) => `${supply.device.id}:${terminal}`) as [
    string,
    string,
  ];
  const volts = type.commonPlus ? circuitry.volts(plus, contact, state) : circuitry.volts(contact, minus, state);
  return (volts ?? 0) * effective(circuitry, contact);
}

/** A frog within this share of the rails' voltage of one rail carries it. */
const CARRIES_WITHIN = 0.1;

function frogReading(
  circuitry: Circuitry,
  { device, turnout, from }: ThreadFrog,
  motors: readonly MotorReading[],
  thread: Thread,
  state: RailwayState,
): FrogReading {
  const volts = (rail: StockRail) => circuitry.volts(`${device.id}:F`, `${device.id}:${rail}`, state) ?? 0;
  const [toLeft, toRight] = [volts("L"), volts("R")];
  const between = Math.abs(toLeft - toRight);
  const at = (each: number) => between > 1 && Math.abs(each) < between * CARRIES_WITHIN;
  const index = thread.motors.findIndex((motor) => motor.turnout.id === turnout.id);
  const lies = index < 0 ? ownOf(state.asked, thread.turnout.id) : motors[index]?.goesTo;
  return {
    turnoutId: turnout.id,
    toLeft,
    toRight,
    carries: at(toLeft) ? "L" : at(toRight) ? "R" : null,
    // while the blades move nobody knows what the frog should carry
    wanted: lies && state.moment !== "throwing" && turnout.hand !== "unknown" ? wantedRail(turnout.hand, lies) : null,
    byWheel: traitsOf(from?.type).inTrack === "polarity-unit",
  };
}

/** Factor from the solved peak to the effective value where the supply alternates. */
function effective(circuitry: Circuitry, key: string): number {
  return circuitry.isAlternating(key) ? Math.SQRT1_2 : 1;
}

function motorReading(circuitry: Circuitry, motor: ThreadMotor, state: RailwayState): MotorReading {
  const id = motor.device.id;
  const goesTo = circuitry.motorGoesTo(id, state);
  if (traitsOf(motor.type).movedBy !== "pulse") {
    const [plus, minus] = traitsOf(motor.type).movedBy === "commands" ? ["J", "K"] : ["+", "−"];
    const amps = circuitry.amps(id, "motor", state);
    return {
      motorId: id,
      volts: circuitry.volts(`${id}:${plus}`, `${id}:${minus}`, state) ?? 0,
      amps: { N: amps, R: amps },
      goesTo,
      ...{ pulse: null, again: null },
    };
  }
  const { amps, pulse } = coilAmps(circuitry, motor, state);
  const volts = amps[busierOf(amps)] * figureValue(motor.type, "coilOhms");
  return { motorId: id, volts, amps, goesTo, pulse, again: pulse && againAfter(motor, pulse) };
}

/** What flows in the coils of a motor: effective amps of an alternating supply, and the peak of a pulse. */
export function coilAmps(
  circuitry: Circuitry,
  { device: { id }, type }: ThreadMotor,
  state: RailwayState,
): Pick<MotorReading, "amps" | "pulse"> {
  const scale = effective(circuitry, `${id}:C`);
  const amps = { N: circuitry.amps(id, "N", state) * scale, R: circuitry.amps(id, "R", state) * scale };
  const busier = busierOf(amps);
  const thrown = state.moment === "throwing" && Math.abs(amps[busier]) > figureValue(type, "restAmps");
  const pulse = thrown ? circuitry.pulse(id, busier, state) : null;
  // its inductance lets the current rise in time: what counts is the peak, not the first instant
  if (pulse) amps[busier] = Math.sign(amps[busier]) * pulse.peakAmps * scale;
  return { amps, pulse };
}

function busierOf({ N, R }: MotorReading["amps"]): Position {
  return Math.abs(N) >= Math.abs(R) ? "N" : "R";
}

function againAfter({ type, unit, driver }: ThreadMotor, pulse: Pulse): number | null {
  const store = [unit, driver].find((each) => each && storesPulse(each.type));
  const share = voltsShareFor(pulse, figureValue(type, "pulseJoules"));
  return store && share !== null && share < 1 ? secondsToRecover(store.type, share) : null;
}

function driverReading(circuitry: Circuitry, thread: Thread, state: RailwayState) {
  const [motor] = thread.motors;
  // through a diode board goes what its discharge unit gives
  const driver = motor?.unit ? { ...motor.unit, way: null } : motor?.driver;
  if (!driver) return { driverVolts: null, driverAmps: null };
  const id = driver.device.id;
  if (driver.way !== null) {
    const [first, second] = OUTPUT_ENDS[driver.type.drives ?? "pair"];
    return {
      driverVolts: circuitry.volts(`${id}:${driver.way}${first}`, `${id}:${driver.way}${second}`, state) ?? 0,
      driverAmps: outputAmps(circuitry, driver, state),
    };
  }
  const [plus, minus] =
    traitsOf(driver.type).gives === "pulse" ? ["+", "−"] : driver.type.terminals.map((terminal) => terminal.name);
  const onThis = thread.motors.filter(({ driver: own, unit }) => (unit ?? own)?.device.id === id);
  const scale = effective(circuitry, `${id}:${plus}`);
  const amps = onThis.map((each) => {
    if (traitsOf(each.type).movedBy !== "pulse") {
      return Math.abs(circuitry.amps(each.device.id, "motor", state)) * scale;
    }
    const { N, R } = coilAmps(circuitry, each, state).amps;
    return Math.abs(N) + Math.abs(R);
  });
  return {
    driverVolts: (circuitry.volts(`${id}:${plus}`, `${id}:${minus}`, state) ?? 0) * scale,
    driverAmps: amps.reduce((sum, each) => sum + each, 0),
  };
}

/** Letters of the terminals between which an output's volts are told. */
const OUTPUT_ENDS: Record<OutputKind, readonly [string, string]> = {
  pair: ["A", "B"],
  coil: ["C", "N"],
  servo: ["+", "−"],
  matrix: ["N", "R"],
  contact: ["c", "n"],
  sink: ["L", "L"],
};

/** Amps that an output lets through, whichever way round it stands. */
function outputAmps(circuitry: Circuitry, driver: NonNullable<ThreadMotor["driver"]>, state: RailwayState): number {
  const parts = { pair: ["A+", "B+"], coil: ["C"], servo: ["+"], matrix: [], contact: [], sink: ["L"] }[
    driver.type.drives ?? "pair"
  ];
  return Math.max(0, ...parts.map((part) => Math.abs(circuitry.amps(driver.device.id, `${driver.way}${part}`, state))));
}
