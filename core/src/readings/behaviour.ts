import { type DeviceType, numbered } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Told } from "../events/told.ts";
import type { Device, Position } from "../record/schemas.ts";
import type { Steps } from "../record/steps.ts";
import { sideMade } from "../schematic/recipes/controlSides.ts";
import { wantedRail } from "../schematic/recipes/frogFeed.ts";
import type { Thread, ThreadLamp, ThreadMotor } from "../schematic/thread.ts";
import { Hearing } from "./hearing.ts";
import type { DeviceState } from "./kit.ts";
import { inputNode, stateThatMatters, storeNode, storesPulse } from "./models.ts";
import { secondsAbove } from "./pulse.ts";
import type { Commands, Roles, Watched } from "./roles.ts";
import type { Solver } from "./solver.ts";
import {
  actsFor,
  askedOf,
  bothHalves,
  EVERY,
  heldBy,
  isActing,
  PRESSED,
  type RailwayState,
  RESTING,
  turnedIf,
} from "./states.ts";
import { servoGoesTo, thrownTo, windingOf } from "./throws.ts";

/**
 * What the devices of a railway do in a state: where motors go, what boards hear from controls, which relays pick up, and
 * so which contacts are made and which outputs are on. Each follows from the solved circuit, which in turn follows from
 * it; while one thing is being found out, the others count as doing what was asked.
 */
export class Behaviour {
  /** Set while it is being found out where a motor goes: contacts then count as following what was asked. */
  private finding = false;
  /** Relays whose coils are being looked at. */
  private readonly picking = new Set<string>();
  /** Where motors go, by motor, what is asked and by which control; found out once for a railway. */
  private readonly went = new Map<string, Went>();
  /** Throws by pulses that were solved, and not known of a piece; others take a fifth of the time. */
  private pulsed = 0;
  private readonly charges = new Map<string, number>();

  /** While it is being found out what boards hear, outputs count as following what was asked. */
  private readonly hearing: Hearing;

  constructor(
    private readonly roles: Roles,
    private readonly solver: Solver,
  ) {
    this.hearing = new Hearing(roles, solver);
  }

  /** What is being found out just now: solutions found meanwhile are of their own kind. */
  get inquiry(): string {
    const picking = this.picking.size > 0 ? [...this.picking].join() : "";
    return `${this.finding ? "f" : " "}${this.hearing.isListening ? "l" : " "}${picking}`;
  }

  /**
   * Takes over what was found out before an edit: a step for each motor that it touched.
   * @param touches whether the edit touched the piece that holds an element
   * @returns the motors that are still there and go elsewhere now, or may, where so many throws are to be solved that the rest are
   *   left until each is asked for; null when boards hear something else, so that nothing is known
   */
  *takingOver(previous: Behaviour, touches: (elementId: string) => boolean): Steps<Set<string> | null> {
    this.went.clear();
    this.hearing.forget();
    this.charges.clear();
    const elsewhere = new Set<string>();
    for (const [key, { motorId, asked, by, to }] of previous.went) {
      const found = this.roles.motorOf.get(motorId);
      // a motor that is gone has left no contact in a piece that the edit did not touch
      if (!found) continue;
      const { motor, thread } = found;
      const same = previous.roles.motorOf.get(motorId)?.thread === thread;
      const untouched = same && !touches(`${motorId}.${windingOf(motor)}`);
      if (!untouched && this.pulsed > MOST_ANEW) {
        elsewhere.add(motorId);
        continue;
      }
      const now = untouched ? to : this.findOutGoesTo(motor, thread, asked, by);
      if (!untouched) yield;
      this.went.set(key, { motorId, asked, by, to: now });
      if (now !== to) elsewhere.add(motorId);
    }
    if (!this.hearing.takeOver(previous.hearing, touches)) {
      this.went.clear();
      return null;
    }
    for (const [deviceId, volts] of previous.charges) {
      if (this.roles.types.has(deviceId) && !touches(`${deviceId}.capacitor`)) this.charges.set(deviceId, volts);
    }
    return elsewhere;
  }

  /**
   * Position to which a motor goes when its turnout is asked for one, by the solved circuit and the way it is mounted.
   * @returns null when it gets too little to move, or when nothing hears what was asked
   */
  motorGoesTo(motorId: string, state: RailwayState): Position | null {
    const found = this.roles.motorOf.get(motorId);
    if (!found) return null;
    const { motor, thread } = found;
    const asked = askedOf(state, thread.turnout.id);
    const by = this.byOf(thread, state);
    const short = `${motorId} ${asked} ${by ?? ""}`;
    const known = this.went.get(short);
    if (known !== undefined) return known.to;
    const to = this.findOutGoesTo(motor, thread, asked, by);
    this.went.set(short, { motorId, asked, by, to });
    return to;
  }

  private findOutGoesTo(motor: ThreadMotor, thread: Thread, asked: Position, by: string | undefined): Position | null {
    const motorId = motor.device.id;
    const heard = this.hears(thread.turnout.id, asked, by);
    if (heard === null) return null;
    const kept = this.solver.throwsOf(`${motorId}.${windingOf(motor)}`);
    // what events tell an output is no part of the circuit that keeps its throws
    const told = motor.driver && JSON.stringify(this.roles.toldAt(motor.driver.device.id, motor.driver.way ?? 1));
    const key = `${motorId} ${asked} ${heard} ${by ?? ""} ${motor.assignment.opposite} ${told ?? ""}`;
    const known = kept?.get(key);
    if (known) return known.to;
    if (traitsOf(motor.type).movedBy === "pulse") this.pulsed++;
    const before = this.finding;
    this.finding = true;
    try {
      const linked = this.roles.isTurned(motorId, null, "linkage", "setting");
      const thrown = thrownTo(this.solver, motor, thread, { asked, by, turned: motor.assignment.opposite !== linked });
      kept?.set(key, thrown);
      return thrown.to;
    } finally {
      this.finding = before;
    }
  }

  /** The control that acts on a thread when it is not its first one. */
  private byOf(thread: Thread, state: RailwayState): string | undefined {
    const by = heldBy(state, thread.turnout.id);
    return by && by !== thread.control?.assignment.id ? by : undefined;
  }

  /** Position that a thread's board understands when a control asks for one. */
  hears(leader: string, asked: Position, by?: string): Position | null {
    return this.hearing.hears(leader, asked, by);
  }

  /** Position that a semaphore's arm shows; null when its servo gets no power or no pulses. */
  semaphoreShows({ device, type, from }: ThreadLamp, state: RailwayState): Position | null {
    return servoGoesTo(this.solver, { device, type, driver: from }, state);
  }

  /** Aspect that a box with an input shows; null without power. */
  boxShows({ device, type, assignment }: ThreadLamp, state: RailwayState): Position | null {
    const volts = (plus: string) => this.solver.volts(`${device.id}:${plus}`, `${device.id}:−`, state) ?? 0;
    const input = inputNode(type, "I");
    if (volts("+") < (type.figures.leastVolts?.value ?? 0)) return null;
    const covered = assignment.coveredAt ?? "R";
    return turnedIf(volts(input) >= (type.figures.thresholdVolts?.value ?? 0) !== assignment.crossed, covered);
  }

  /** Position that each output stands for: what its board understood, or the other one when it heard nothing. */
  private outputsAsked(deviceId: string, state: RailwayState): ReadonlyMap<number, Position> {
    const used = this.roles.outputsOf.get(deviceId);
    if (!used) return NO_OUTPUTS;
    const outputs = new Map<number, Position>();
    for (const [way, { leaders, commands }] of used) {
      // the one that is being thrown sends the command
      const leader = leaders.find((each) => isActing(state, each)) ?? leaders[0];
      if (leader === undefined) {
        // nobody commands a free output: it stands as after its first power-on
        outputs.set(way, "N");
        continue;
      }
      const asked = askedOf(state, leader);
      const direct = this.hearing.isListening || commands;
      const told = direct ? undefined : this.roles.toldAt(deviceId, way);
      if (told) {
        const turned = this.roles.isTurned(deviceId, way, "setting", "end-points");
        outputs.set(way, turnedIf(turned, this.isOn(told, state) ? "R" : "N"));
        continue;
      }
      const turned = this.roles.isTurned(deviceId, way, "event", "setting", "end-points");
      outputs.set(way, direct ? asked : turnedIf(turned, this.understood(leader, asked, state)));
    }
    return outputs;
  }

  /**
   * Whether an output that events reach is on: as the last of them left it, that of the turnout which is being thrown, else
   * that of the first. What does nothing to it leaves it as the other position did; off when nothing ever switched it.
   */
  private isOn(told: readonly Told[], state: RailwayState): boolean {
    const isBy = ({ leader, controlId }: Told) => {
      const by = heldBy(state, leader) ?? this.roles.led.get(leader)?.control?.assignment.id;
      return by === controlId;
    };
    const acting = told.filter(({ leader }) => isActing(state, leader));
    const last = acting.find(isBy) ?? acting[0] ?? told.find(isBy) ?? told[0];
    if (!last) return false;
    const position = this.understood(last.leader, askedOf(state, last.leader), state);
    return last[position] ?? last[turnedIf(true, position)] ?? false;
  }

  private understood(leader: string, asked: Position, state: RailwayState): Position {
    const thread = this.roles.led.get(leader);
    const by = thread && this.byOf(thread, state);
    return this.hears(leader, asked, by) ?? turnedIf(true, asked);
  }

  /** Whether volts or amps in the state itself say how a device stands: a relay's coil, a zone behind which lamps hang. */
  followsWhatFlows({ device, type }: { device: Device; type: DeviceType }): boolean {
    const isHeld = traitsOf(type).relay === "held" && this.roles.besideOf.has(device.id);
    return isHeld || type.drives === "contact" || this.roles.litZones(device.id).length > 0;
  }

  stateOf({ device, type }: { device: Device; type: DeviceType }, state: RailwayState): DeviceState {
    const [thread] = this.roles.threadsOf.get(device.id) ?? [];
    const asked = thread ? askedOf(state, thread.turnout.id) : "N";
    const held = state.moment !== "rest" && thread !== undefined && isActing(state, thread.turnout.id);
    const moving = held && state.moment === "throwing";
    return stateThatMatters(type, {
      off: state.off,
      half: state.half ?? 1,
      made: this.madeOn(device.id, type, state),
      contacts: this.contactsOf(device.id, type, state, asked, moving),
      moving,
      blocked: false,
      outputs: this.outputsAsked(device.id, state),
      on: this.waysOn(device.id, type, state),
      standing: type.zones ? this.occupied(device.id, state) : NOTHING_ON,
      rails: this.roles.railsOf(device.id),
      fedBy: this.roles.fedBy(device.id),
      fedVolts: this.roles.fedVolts(device.id),
      charged: storesPulse(type) && state.moment === "throwing" ? this.charge(device.id, type) : null,
    });
  }

  /**
   * Side on which a control is made: one that stays put always, another while it is the one that is held. While another
   * control throws its turnout, one that stays put still stands as it did.
   */
  private madeOn(deviceId: string, type: DeviceType, state: RailwayState): Position | null {
    // a key that cuts controls off is on while they are free; one that picks up relays is off then
    if (type.family === "lock") return this.roles.keysOn.has(deviceId) ? "N" : null;
    if ((this.roles.heldWith.get(deviceId) ?? []).some((commands) => this.isHeld(commands, state))) return "N";
    for (const commands of this.roles.commandsOf.get(deviceId) ?? []) {
      const isHeld = this.isHeld(commands, state);
      // where a rotary switch stands says which of its positions is made
      if (commands.control.route && type.maintained) continue;
      if (!type.maintained && !isHeld) continue;
      const { control, thread } = commands;
      const asked = turnedIf(!isHeld && isThrownSingly(state, thread), askedOf(state, thread.turnout.id));
      const { to } = control.assignment;
      if (to !== null && to !== asked) continue;
      return turnedIf(this.roles.isTurned(deviceId, null, "label", "control"), sideMade(control, asked));
    }
    return null;
  }

  /** The position of a route at which a rotary switch stands: the one that is being asked for, else the first that has any. */
  private standsAt(deviceId: string, { maintained }: DeviceType, state: RailwayState): ReadonlySet<number> {
    const routes = (this.roles.commandsOf.get(deviceId) ?? []).filter(({ control }) => control.route);
    if (!maintained || routes.length === 0) return NOTHING_ON;
    const held = routes.find((commands) => this.isHeld(commands, state));
    const way = held
      ? held.control.assignment.way
      : Math.min(...routes.map(({ control }) => control.assignment.way ?? 1));
    return new Set([way ?? 1]);
  }

  /** Whether a control is the one by which its thread is being thrown or held. */
  private isHeld({ control, thread }: Commands, state: RailwayState): boolean {
    const leader = thread.turnout.id;
    if (state.moment === "rest" || !isActing(state, leader)) return false;
    return actsFor(thread, askedOf(state, leader), heldBy(state, leader)) === control;
  }

  /** Outputs that pulse or pull down, pins that are low, zones that are occupied. */
  private waysOn(deviceId: string, type: DeviceType, state: RailwayState): ReadonlySet<number> {
    if (type.drives === "contact") return this.relaysUp(deviceId, type, state);
    if (type.family === "control") return this.standsAt(deviceId, type, state);
    const lamp = this.roles.watchedBy.get(deviceId);
    if (lamp) return this.isCovered(lamp, state) ? COVERED : NOTHING_ON;
    if (type.drives !== "coil" && !type.zones && !this.roles.onAt.has(deviceId)) return NOTHING_ON;
    const on = new Set<number>();
    if (type.drives === "coil" && state.moment === "throwing") {
      for (const [way, { leaders }] of this.roles.outputsOf.get(deviceId) ?? [])
        if (leaders.some((leader) => isActing(state, leader))) on.add(way);
    }
    const follows = this.roles.onAt.get(deviceId);
    for (const position of ["N", "R"] as const) {
      for (const { way, leader, first } of follows?.[position] ?? []) {
        const told = this.hearing.isListening ? undefined : this.roles.toldAt(deviceId, way);
        if (told) {
          if (this.isOn(told, state)) on.add(way);
          continue;
        }
        const asked = askedOf(state, leader);
        const turned = this.roles.isTurned(deviceId, first, "event");
        if ((this.hearing.isListening ? asked : turnedIf(turned, this.understood(leader, asked, state))) === position)
          on.add(way);
      }
    }
    if (!type.zones) return on;
    for (const way of this.occupied(deviceId, state)) on.add(way);
    for (const way of this.roles.litZones(deviceId)) if (this.tells(deviceId, type, way, state)) on.add(way);
    return on;
  }

  /** Zones of a detector in which a train stands, by what follows them. */
  private occupied(deviceId: string, state: RailwayState): ReadonlySet<number> {
    const commands = (this.roles.commandsOf.get(deviceId) ?? []).filter((each) => this.isOccupied(each, state));
    return commands.length === 0
      ? NOTHING_ON
      : new Set(commands.map(({ control: { assignment } }) => assignment.way ?? 1));
  }

  /** Whether more flows through a zone, in either half cycle, than it takes to tell a train; its outputs stand off meanwhile. */
  private tells(deviceId: string, type: DeviceType, way: number, state: RailwayState): boolean {
    const least = type.figures.detectAmps?.value ?? Number.POSITIVE_INFINITY;
    return this.whilePicking(deviceId, false, () =>
      bothHalves(state).some((each) => Math.abs(this.solver.amps(deviceId, `${way}.sense`, each)) >= least),
    );
  }

  /** Whether a train stands where it asks: for as long as what follows it should stand so, else while it is thrown. */
  private isOccupied(commands: Commands, state: RailwayState): boolean {
    const { control, thread } = commands;
    if (!control.assignment.follows) return this.isHeld(commands, state);
    const isHeld = this.isHeld(commands, state);
    const asked = turnedIf(!isHeld && isThrownSingly(state, thread), askedOf(state, thread.turnout.id));
    return sideMade(control, asked) === "R";
  }

  /** Whether the throw bar of a turnout covers the sensor that lights a lamp. */
  private isCovered({ lamp, thread }: Watched, state: RailwayState): boolean {
    const asked = askedOf(state, thread.turnout.id);
    const motor = thread.motors.find(({ turnout }) => turnout.id === lamp.turnout.id);
    const following = this.finding || this.hearing.isListening || !motor;
    const lies = following ? asked : (this.motorGoesTo(motor.device.id, state) ?? "N");
    return lies === (lamp.assignment.coveredAt ?? "R");
  }

  /** Contacts follow the arm; while it moves they are still on the side it comes from. */
  private contactsOf(
    deviceId: string,
    type: DeviceType,
    state: RailwayState,
    asked: Position,
    acting: boolean,
  ): Position {
    const following = this.finding || this.hearing.isListening;
    const [frog] = this.roles.frogsOf.get(deviceId) ?? [];
    if (frog) {
      const [thread] = this.roles.threadsOf.get(deviceId) ?? [];
      const motor = thread?.motors.find(({ turnout }) => turnout.id === frog.turnout.id);
      const lies = motor && !following ? (this.motorGoesTo(motor.device.id, state) ?? "N") : asked;
      return wantedRail(frog.turnout.hand, lies) === "L" ? "N" : "R";
    }
    if (type.contactSets === 0) return "N";
    const beside = this.roles.besideOf.get(deviceId);
    if (beside) {
      if (following) return asked;
      return traitsOf(type).relay === "held"
        ? this.pickedUp(deviceId, type, state)
        : this.relayGoesTo(deviceId, type, asked);
    }
    const to = following ? asked : (this.motorGoesTo(deviceId, state) ?? "N");
    const turned = this.roles.isTurned(deviceId, null, "linkage", "contact");
    return turnedIf(turned !== acting, to);
  }

  /** A relay picks up when its coil gets volts enough in the state itself. */
  private pickedUp(relayId: string, type: DeviceType, state: RailwayState): Position {
    return this.whilePicking(relayId, "N", () => {
      const volts = this.solver.volts(`${relayId}:coil`, `${relayId}:A2`, state) ?? 0;
      return volts >= (type.figures.pullInVolts?.value ?? 0) ? "R" : "N";
    });
  }

  /** Relays of a board whose coils get volts enough. */
  private relaysUp(boardId: string, type: DeviceType, state: RailwayState): ReadonlySet<number> {
    return this.whilePicking<ReadonlySet<number>>(boardId, new Set(), () => {
      const least = type.figures.pullInVolts?.value ?? 0;
      const up = (way: number) => (this.solver.volts(`${boardId}:RV`, `${boardId}:coil${way}`, state) ?? 0) >= least;
      return new Set(numbered(type.outputs).filter(up));
    });
  }

  /** What a relay's contacts do follows from its coil's circuit, in which they count as dropped out meanwhile. */
  private whilePicking<T>(deviceId: string, meanwhile: T, find: () => T): T {
    if (this.picking.has(deviceId)) return meanwhile;
    this.picking.add(deviceId);
    try {
      return find();
    } finally {
      this.picking.delete(deviceId);
    }
  }

  /** A latching relay goes over when a coil gets volts enough in the first instant of the motor's pulse. */
  private relayGoesTo(relayId: string, type: DeviceType, asked: Position): Position {
    const leader = this.roles.threadsOf.get(relayId)?.[0]?.turnout.id;
    if (traitsOf(type).relay !== "latching" || leader === undefined) return asked;
    const before = this.finding;
    this.finding = true;
    try {
      const throwing: RailwayState = { asked: { [leader]: asked }, ...PRESSED, acting: leader };
      const across = (coil: string) => Math.abs(this.solver.volts(`${relayId}:${coil}`, `${relayId}:C`, throwing) ?? 0);
      const [normal, reverse] = [across("N"), across("R")];
      const least = type.figures.pullInVolts?.value ?? 0;
      const [weaker, stronger] = normal < reverse ? [normal, reverse] : [reverse, normal];
      // coils that pull alike against each other leave it where it is
      if (stronger < least || weaker > stronger * ALIKE) return "N";
      const coil: Position = normal > reverse ? "N" : "R";
      const motor = this.roles.besideOf.get(relayId);
      // its coils lie beside those of the motor that the leads go to
      const beside = motor && turnedIf(motor.assignment.crossed, coil);
      const pulse = motor && beside && this.solver.pulse(motor.device.id, beside, throwing);
      const lasts = pulse ? secondsAbove(pulse, least) : Number.POSITIVE_INFINITY;
      return lasts >= (type.figures.operateSeconds?.value ?? 0) ? coil : "N";
    } finally {
      this.finding = before;
    }
  }

  /** Volts across the capacitor that gives the pulse, before it, everything at rest and normal. */
  private charge(deviceId: string, type: DeviceType): number {
    const known = this.charges.get(deviceId);
    if (known !== undefined) return known;
    // to nine digits, so that the rounding of an edit elsewhere does not make it another pulse
    const solved = this.solver.volts(`${deviceId}:${storeNode(type)}`, `${deviceId}:−`, RESTING) ?? 0;
    const volts = Number(solved.toPrecision(9));
    this.charges.set(deviceId, volts);
    return volts;
  }
}

/** Share of the one coil's volts from which on the other pulls as strongly: windings differ by as much. */
const ALIKE = 0.95;

/** Throws by pulses that are solved at most to take over the others, some tenth of a second: twice those of a supply with twenty motors. */
const MOST_ANEW = 80;

/** Whether a turnout is being thrown by one of its controls, and not all of them at once as at the start of a day. */
function isThrownSingly(state: RailwayState, { turnout }: Thread): boolean {
  return state.moment !== "rest" && state.acting !== EVERY && isActing(state, turnout.id);
}

/** Where a motor went when its turnout was asked for a position, by a control or by its first one. */
interface Went {
  motorId: string;
  asked: Position;
  by: string | undefined;
  to: Position | null;
}

const NO_OUTPUTS: ReadonlyMap<number, Position> = new Map();
const NOTHING_ON: ReadonlySet<number> = new Set();
const COVERED: ReadonlySet<number> = new Set([1]);
