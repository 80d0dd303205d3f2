import { typeOf } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { Circuit } from "../circuit/circuit.ts";
import type { Element, Netlist } from "../circuit/elements.ts";
import { Groups } from "../circuit/groups.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import type { Loom } from "../loom/loom.ts";
import type { Device, Position, RailwayRecord } from "../record/schemas.ts";
import type { Schematic } from "../schematic/schematic.ts";
import type { Thread, ThreadMotor } from "../schematic/thread.ts";
import { type DeviceState, type Part, stateThatMatters } from "./models.ts";
import { type Cut, cutIntoPieces, type Member, type Piece, partsIn, stateKey, type Throw } from "./pieces.ts";
import { type Pulse, pulseThrough } from "./pulse.ts";

/**
 * The moment at which the railway is looked at: nothing touched for a while; the chosen turnout being thrown (a stall
 * motor on its way; the first instant of a coil's pulse); or its control still held long after.
 */
export type Moment = "rest" | "throwing" | "held";

export interface RailwayState {
  /** Position asked of turnouts by their leader's identifier. */
  asked: Readonly<Record<string, Position>>;
  /** Position of all turnouts not named; normal when not said. */
  otherwise?: Position;
  moment: Moment;
  /** Leader of the turnouts being thrown; needed when throwing. */
  acting: string | null;
  /** Supplies off, as for measuring ohms. */
  off: boolean;
  /** Half cycle of alternating supplies; the positive one when not said. */
  half?: 1 | -1;
}

/** What is put into the circuit besides the railway itself: a meter, or a change of a wire. */
export interface Extra {
  elements: readonly Element[];
  /** A wire, by its name in the circuit, that has this resistance more, ohms. */
  added?: { wire: string; ohms: number };
}

const RESTING: RailwayState = { asked: {}, moment: "rest", acting: null, off: false };

/**
 * The railway as a circuit that can be solved in any state, piece by piece: pieces are what is joined by wires or
 * elements whatever the state. Solutions are kept, so asking twice costs nothing, and those of pieces that an edit did not
 * touch are taken over from the railway before it.
 */
export class Circuitry {
  private readonly cut: Cut;
  /** Set while it is being found out where a motor goes: contacts then count as following what was asked. */
  private finding = false;
  private readonly types: ReadonlyMap<string, DeviceType>;
  private readonly threadOf = new Map<string, Thread>();
  private readonly motorOf = new Map<string, ThreadMotor>();
  private readonly outputsOf = new Map<string, Map<number, string>>();
  /** Solutions by piece and railway's state, so that the states of devices need not be worked out again. */
  private readonly solved = new Map<string, OperatingPoint>();
  private readonly stateNames = new WeakMap<RailwayState, string>();
  private alternating: Set<string> | null = null;
  private readonly charges = new Map<string, number>();
  /** Pulses by the circuit through which they went, handed on from one railway to the next. */
  private readonly pulses: Map<string, Pulse>;
  private readonly pulsesBefore: ReadonlyMap<string, Pulse>;

  /** @param previous the same railway before an edit, whose solutions are taken over where they still hold */
  constructor(
    readonly record: RailwayRecord,
    readonly schematic: Schematic,
    readonly loom: Loom,
    previous?: Circuitry,
  ) {
    this.types = new Map(record.devices.map((device) => [device.id, typeOf(record, device)]));
    for (const thread of schematic.threads) {
      if (thread.control) this.threadOf.set(thread.control.device.id, thread);
      for (const motor of thread.motors) {
        this.threadOf.set(motor.device.id, thread);
        this.motorOf.set(motor.device.id, motor);
        const { driver } = motor;
        if (!driver || driver.way === null) continue;
        const outputs = this.outputsOf.get(driver.device.id) ?? new Map<number, string>();
        if (!outputs.has(driver.way)) outputs.set(driver.way, thread.turnout.id);
        this.outputsOf.set(driver.device.id, outputs);
      }
    }
    const before = new Map(previous?.cut.pieces.map((piece) => [piece.structure, piece]));
    this.pulsesBefore = previous?.pulses ?? new Map();
    this.pulses = new Map();
    this.cut = cutIntoPieces(
      record.devices.map((device) => ({ device, type: this.typeOfDevice(device) })),
      loom,
      (id) => this.roleOf(id),
      (id) => this.outputsAsked(id, RESTING),
      before,
    );
  }

  /** Number of the piece a terminal belongs to, or undefined when nothing is joined to it. */
  piece(key: string): number | undefined {
    return this.cut.pieceOf.get(key);
  }

  /** Number of pieces, and how many of them were solved at least once; for measuring. */
  get counts(): { pieces: number; solved: number } {
    const { pieces } = this.cut;
    return { pieces: pieces.length, solved: pieces.filter(({ circuit }) => circuit).length };
  }

  /** Whether a terminal carries what an alternating supply gives, not behind a rectifier. */
  isAlternating(key: string): boolean {
    this.alternating ??= this.findAlternating();
    return this.alternating.has(key);
  }

  private findAlternating(): Set<string> {
    const groups = new Groups();
    const fed: string[] = [];
    const pieces = new Set<number>();
    for (const { id } of this.record.devices) {
      if (this.types.get(id)?.model !== "ac-supply") continue;
      fed.push(`${id}:~1`, `${id}:~2`);
      const piece = this.cut.pieceOf.get(`${id}:~1`);
      if (piece !== undefined) pieces.add(piece);
    }
    for (const piece of pieces) {
      for (const { kind, nodes } of this.elementsOf(piece, RESTING))
        if (kind !== "diode") groups.join(nodes[0], nodes[1]);
    }
    const numbered = groups.numbered();
    const numbers = new Set(fed.map((key) => numbered.get(key)));
    return new Set([...numbered].filter(([, group]) => numbers.has(group)).map(([name]) => name));
  }

  private pieceWith(key: string): Piece | undefined {
    return this.cut.pieces[this.cut.pieceOf.get(key) ?? -1];
  }

  /** Solves the piece that holds a terminal; undefined when nothing is joined to it. */
  solve(key: string, state: RailwayState): OperatingPoint | undefined {
    const number = this.cut.pieceOf.get(key);
    return number === undefined ? undefined : this.solvePiece(number, state);
  }

  /** Solves the piece that holds a terminal with something more in it. */
  solveWith(key: string, state: RailwayState, extra: Extra): { circuit: Circuit; parts: Part[] } | undefined {
    const number = this.cut.pieceOf.get(key);
    const piece = number === undefined ? undefined : this.cut.pieces[number];
    if (number === undefined || !piece) return undefined;
    const parts = this.partsOfPiece(number, state);
    const { added } = extra;
    const wires = piece.wires.map((wire) =>
      added && wire.id === added.wire && wire.kind === "resistor" ? { ...wire, ohms: wire.ohms + added.ohms } : wire,
    );
    const circuit = new Circuit({
      ground: this.groundOf(piece),
      elements: [...parts.map(({ element }) => element), ...wires, ...extra.elements],
    });
    circuit.operatingPoint();
    return { circuit, parts };
  }

  /** Amps through a part of a device, from its first terminal to its second; 0 when the device is joined to nothing. */
  amps(deviceId: string, part: string, state: RailwayState): number {
    const id = `${deviceId}.${part}`;
    return this.solve(id, state)?.amps(id) ?? 0;
  }

  /** Volts from one terminal to another of the same piece; undefined when nothing holds them together. */
  volts(plus: string, minus: string, state: RailwayState): number | undefined {
    return this.solve(plus, state)?.between(plus, minus);
  }

  /** The pulse that a motor's coil gets when its turnout is thrown to a position, by a transient of what then conducts. */
  pulse(motorId: string, coil: Position, state: RailwayState): Pulse | null {
    const number = this.cut.pieceOf.get(`${motorId}.${coil}`);
    if (number === undefined) return null;
    const piece = this.cut.pieces[number];
    const name = `${motorId}.${coil} ${this.nameOf(state)}`;
    const found = piece?.pulses.get(name);
    if (found) return found;
    const first = this.solvePiece(number, state);
    const elements = this.partsOfPiece(number, state).map((part) => this.withStores(part));
    const wires = this.cut.pieces[number]?.wires ?? [];
    const { key, run } = pulseThrough([...elements, ...wires], (id) => first?.amps(id) ?? 0, `${motorId}.${coil}`);
    const pulse = this.pulses.get(key) ?? this.pulsesBefore.get(key) ?? run();
    this.pulses.set(key, pulse);
    piece?.pulses.set(name, pulse);
    return pulse;
  }

  /** For a transient: the charged source and contact that stand for a capacitor in its first instant become the capacitor. */
  private withStores({ element }: Part): Element {
    if (element.kind !== "voltage" || !element.id.endsWith(".capacitor")) return element;
    const device = element.id.slice(0, -".capacitor".length);
    const farads = this.types.get(device)?.figures.farads?.value ?? 0;
    return { kind: "capacitor", id: element.id, nodes: element.nodes, farads, volts: element.volts };
  }

  /**
   * Position to which a motor goes when its turnout is asked for one, by the solved circuit and the way it is mounted.
   * @returns null when it gets too little to move
   */
  motorGoesTo(motorId: string, state: RailwayState): Position | null {
    const motor = this.motorOf.get(motorId);
    const thread = this.threadOf.get(motorId);
    if (!motor || !thread) return null;
    const asked = askedOf(state, thread.turnout.id);
    const winding = motor.type.model === "stall-motor" ? "motor" : "N";
    const kept = this.pieceWith(`${motorId}.${winding}`)?.goesTo;
    const key = `${motorId} ${asked} ${motor.assignment.opposite}`;
    const known = kept?.get(key);
    if (known) return known.to;
    const before = this.finding;
    this.finding = true;
    try {
      const thrown = this.thrownTo(motor, thread, asked);
      kept?.set(key, thrown);
      return thrown.to;
    } finally {
      this.finding = before;
    }
  }

  /** A coil goes by the energy and length of its pulse; a stall motor by the volts that hold it, all others asked for the same. */
  private thrownTo(motor: ThreadMotor, thread: Thread, asked: Position): Throw {
    const leader = thread.turnout.id;
    const id = motor.device.id;
    const flip = (position: Position): Position =>
      motor.assignment.opposite ? (position === "N" ? "R" : "N") : position;
    if (motor.type.model === "stall-motor") {
      const volts = this.volts(`${id}:+`, `${id}:−`, asked === "N" ? ALL_NORMAL : ALL_REVERSE) ?? 0;
      const moves = Math.abs(volts) >= (motor.type.figures.leastVolts?.value ?? 0);
      return { to: moves ? flip(volts > 0 ? "N" : "R") : null, live: null };
    }
    const state: RailwayState = { asked: { [leader]: asked }, moment: "throwing", acting: leader, off: false };
    const live = this.solve(`${id}.N`, state)?.carrying(LIVE_AMPS) ?? [];
    const throws = (coil: Position) => {
      // the first instant tells whether there is anything to follow
      const first = Math.abs(this.amps(id, coil, state));
      if (first < (motor.type.figures.restAmps?.value ?? 0)) return 0;
      const pulse = this.pulse(id, coil, state);
      return pulse && isFirm(pulse, motor.type) ? pulse.joules : 0;
    };
    const normal = throws("N");
    const reverse = throws("R");
    if (normal === reverse || Math.min(normal, reverse) > 0) return { to: null, live };
    return { to: flip(normal > reverse ? "N" : "R"), live };
  }

  /** The netlist of the piece that holds a terminal, as it is solved; for export and for checks against other solvers. */
  netlist(key: string, state: RailwayState): Netlist {
    const number = this.cut.pieceOf.get(key) ?? -1;
    const piece = this.cut.pieces[number];
    return piece
      ? { ground: this.groundOf(piece), elements: this.elementsOf(number, state) }
      : { ground: "0", elements: [] };
  }

  private solvePiece(number: number, state: RailwayState): OperatingPoint | undefined {
    const piece = this.cut.pieces[number];
    if (!piece) return undefined;
    const name = `${number}${this.finding ? "f" : " "}${this.nameOf(state)}`;
    const known = this.solved.get(name);
    if (known) return known;
    const states = piece.members.map((member) => this.stateOf(member, state));
    const keys = states.map(stateKey);
    const all = keys.join("|");
    const point = piece.solutions.get(all) ?? this.run(number, piece, states, keys);
    piece.solutions.set(all, point);
    this.solved.set(name, point);
    return point;
  }

  private run(number: number, piece: Piece, states: readonly DeviceState[], keys: readonly string[]): OperatingPoint {
    const elements: Element[] = [];
    for (const [index, member] of piece.members.entries()) {
      const state = states[index] as DeviceState;
      for (const { element } of partsIn(this.cut, number, member, state, keys[index] ?? "")) elements.push(element);
    }
    elements.push(...piece.wires);
    piece.circuit ??= new Circuit({ ground: this.groundOf(piece), elements });
    return piece.circuit.operatingPoint(elements);
  }

  private partsOfPiece(number: number, state: RailwayState): Part[] {
    return (this.cut.pieces[number]?.members ?? []).flatMap((member) => {
      const own = this.stateOf(member, state);
      return partsIn(this.cut, number, member, own, stateKey(own));
    });
  }

  private elementsOf(number: number, state: RailwayState): Element[] {
    const parts = this.partsOfPiece(number, state);
    return [...parts.map(({ element }) => element), ...(this.cut.pieces[number]?.wires ?? [])];
  }

  /** 0 V of a piece: the minus of its first supply; without one, any terminal will do. */
  private groundOf(piece: Piece): string {
    if (piece.ground !== "") return piece.ground;
    const [member] = piece.members;
    const [wire] = piece.wires;
    return wire?.nodes[0] ?? (member ? `${member.device.id}:${member.type.terminals[0]?.name}` : "0");
  }

  private typeOfDevice(device: Device): DeviceType {
    return this.types.get(device.id) ?? typeOf(this.record, device);
  }

  private roleOf(deviceId: string): string {
    const outputs = [...(this.outputsOf.get(deviceId) ?? [])].map(([way, leader]) => `${way}=${leader}`);
    return `${this.threadOf.get(deviceId)?.turnout.id ?? ""} ${outputs.join(" ")}`;
  }

  private outputsAsked(deviceId: string, state: RailwayState): Map<number, Position> {
    const outputs = new Map<number, Position>();
    for (const [way, leader] of this.outputsOf.get(deviceId) ?? []) outputs.set(way, askedOf(state, leader));
    return outputs;
  }

  private stateOf({ device, type }: Member, state: RailwayState): DeviceState {
    const thread = this.threadOf.get(device.id);
    const asked = thread ? askedOf(state, thread.turnout.id) : "N";
    const held = state.moment !== "rest" && thread !== undefined && thread.turnout.id === state.acting;
    const moving = held && state.moment === "throwing";
    return stateThatMatters(type, {
      off: state.off,
      half: state.half ?? 1,
      made: type.model === "latching-toggle" || held ? asked : null,
      contacts: type.contactSets > 0 ? this.contactsOf(device.id, state, asked, moving) : "N",
      moving,
      outputs: this.outputsAsked(device.id, state),
      charged: type.model === "cdu" && state.moment === "throwing" ? this.charge(device.id) : null,
    });
  }

  /** Contacts follow the arm; while it moves they are still on the side it comes from. */
  private contactsOf(motorId: string, state: RailwayState, asked: Position, acting: boolean): Position {
    const to = this.finding ? asked : (this.motorGoesTo(motorId, state) ?? "N");
    if (!acting) return to;
    return to === "N" ? "R" : "N";
  }

  /** Volts across a discharge unit's capacitor before the pulse, everything at rest and normal. */
  private charge(deviceId: string): number {
    const known = this.charges.get(deviceId);
    if (known !== undefined) return known;
    // to nine digits, so that the rounding of an edit elsewhere does not make it another pulse
    const volts = Number((this.volts(`${deviceId}:+`, `${deviceId}:−`, RESTING) ?? 0).toPrecision(9));
    this.charges.set(deviceId, volts);
    return volts;
  }

  private nameOf(state: RailwayState): string {
    const known = this.stateNames.get(state);
    if (known !== undefined) return known;
    const { asked, otherwise = "N", moment, acting, off, half = 1 } = state;
    const others = Object.entries(asked).filter(([, position]) => position !== otherwise);
    const name = `${others.map(([id]) => id).sort()}|${otherwise}|${moment}|${acting}|${off}|${half}`;
    this.stateNames.set(state, name);
    return name;
  }
}

const ALL_NORMAL: RailwayState = { ...RESTING, otherwise: "N" };
const ALL_REVERSE: RailwayState = { ...RESTING, otherwise: "R" };

/** Current from which an element takes part in a throw, amps: more than what open contacts leak. */
const LIVE_AMPS = 1e-6;

/** Whether a pulse throws a motor of a type for certain: enough energy, and long enough (both figures of the type). */
export function isFirm(pulse: Pulse, type: DeviceType): boolean {
  const { pulseJoules, pulseSeconds } = type.figures;
  return pulse.joules >= (pulseJoules?.value ?? 0) && pulse.secondsAboveHalf >= (pulseSeconds?.value ?? 0);
}

function askedOf(state: RailwayState, leaderId: string): Position {
  return state.asked[leaderId] ?? state.otherwise ?? "N";
}
