import { typeOf } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import type { Element, Netlist } from "../circuit/elements.ts";
import { Groups } from "../circuit/groups.ts";
import { type OperatingPoint, operatingPoint } from "../circuit/operatingPoint.ts";
import type { Loom } from "../loom/loom.ts";
import type { Device, Position, RailwayRecord } from "../record/schemas.ts";
import type { Schematic } from "../schematic/schematic.ts";
import type { Thread, ThreadMotor } from "../schematic/thread.ts";
import { type DeviceState, elementsOf } from "./models.ts";

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
}

/** A change of one figure of one device, as a factor; used to find tolerances. */
export interface Tweak {
  deviceId: string;
  figure: string;
  factor: number;
}

/** More elements than the railway's own, such as a meter between two terminals. */
export interface Extra {
  key: string;
  elements: Element[];
}

/** Coil current that is taken for a throw, in multiples of what the coil bears for ever. */
const THROW_SHARE = 20;
interface Piece {
  devices: Device[];
  wires: Element[];
}

/**
 * The railway as a circuit that can be solved in any state, piece by piece: pieces are what is joined by wires or
 * elements whatever the state. Solutions are kept, so asking twice costs nothing.
 */
export class Circuitry {
  private readonly pieceOf = new Map<string, number>();
  private readonly pieces: Piece[] = [];
  /** Set while it is being found out where a motor goes: contacts then count as following what was asked. */
  private finding = false;
  private readonly types: Map<string, DeviceType>;
  private readonly threadOf = new Map<string, Thread>();
  private readonly motorOf = new Map<string, ThreadMotor>();
  private readonly outputsOf = new Map<string, Map<number, string>>();
  private readonly kept = new Map<string, OperatingPoint>();
  private alternating: Set<string> | null = null;
  private readonly restPositions = new Map<string, Position | null>();

  constructor(
    readonly record: RailwayRecord,
    readonly schematic: Schematic,
    readonly loom: Loom,
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
    this.cutIntoPieces();
  }

  /** Number of the piece a terminal belongs to, or undefined when nothing is joined to it. */
  piece(key: string): number | undefined {
    return this.pieceOf.get(key);
  }

  /** Whether a terminal carries what an alternating supply gives, not behind a rectifier. */
  isAlternating(key: string): boolean {
    if (this.alternating === null) {
      const groups = new Groups();
      const supplies = this.record.devices.filter(({ id }) => this.types.get(id)?.model === "ac-supply");
      for (const { id } of supplies) {
        for (const { kind, nodes } of this.netlist(`${id}:~1`, RESTING).elements) {
          if (kind !== "diode") groups.join(nodes[0], nodes[1]);
        }
      }
      const numbered = groups.numbered();
      const fed = new Set(supplies.flatMap(({ id }) => [numbered.get(`${id}:~1`), numbered.get(`${id}:~2`)]));
      this.alternating = new Set([...numbered].filter(([, group]) => fed.has(group)).map(([name]) => name));
    }
    return this.alternating.has(key);
  }

  /** Devices with a part in the piece that holds a terminal. */
  devicesWith(key: string): readonly Device[] {
    return this.pieces[this.pieceOf.get(key) ?? -1]?.devices ?? [];
  }

  /** Solves the piece that holds a terminal. */
  solve(key: string, state: RailwayState, tweak?: Tweak, extra?: Extra): OperatingPoint | undefined {
    const piece = this.pieceOf.get(key);
    return piece === undefined ? undefined : this.solvePiece(piece, state, tweak, extra);
  }

  /** Amps through a part of a device, from its first terminal to its second; 0 when the device is joined to nothing. */
  amps(deviceId: string, part: string, state: RailwayState, tweak?: Tweak): number {
    const piece = this.pieceOf.get(`${deviceId}.${part}`);
    return piece === undefined ? 0 : (this.solvePiece(piece, state, tweak).amps.get(`${deviceId}.${part}`) ?? 0);
  }

  /** Volts from one terminal to another of the same piece; undefined when nothing holds them together. */
  volts(plus: string, minus: string, state: RailwayState, tweak?: Tweak, extra?: Extra): number | undefined {
    const solved = this.solve(plus, state, tweak, extra);
    if (!solved || solved.part.get(plus) === undefined || solved.part.get(plus) !== solved.part.get(minus))
      return undefined;
    return (solved.volts.get(plus) ?? 0) - (solved.volts.get(minus) ?? 0);
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
    const key = `${motorId} ${asked}`;
    const known = this.restPositions.get(key);
    if (known !== undefined) return known;
    const before = this.finding;
    this.finding = true;
    try {
      const thrown = this.thrownTo(motor, thread, asked);
      this.restPositions.set(key, thrown);
      return thrown;
    } finally {
      this.finding = before;
    }
  }

  /** A coil goes by its pulse; a stall motor by the volts that hold it, all others asked for the same. */
  private thrownTo(motor: ThreadMotor, thread: Thread, asked: Position): Position | null {
    const leader = thread.turnout.id;
    const id = motor.device.id;
    const flip = (position: Position): Position =>
      motor.assignment.opposite ? (position === "N" ? "R" : "N") : position;
    if (motor.type.model === "stall-motor") {
      const holding: RailwayState = { asked: {}, otherwise: asked, moment: "rest", acting: null, off: false };
      const volts = this.volts(`${id}:+`, `${id}:−`, holding) ?? 0;
      if (Math.abs(volts) < (motor.type.figures.leastVolts?.value ?? 0)) return null;
      return flip(volts > 0 ? "N" : "R");
    }
    const pulse: RailwayState = { asked: { [leader]: asked }, moment: "throwing", acting: leader, off: false };
    const least = (motor.type.figures.restAmps?.value ?? 0) * THROW_SHARE;
    const normal = Math.abs(this.amps(id, "N", pulse));
    const reverse = Math.abs(this.amps(id, "R", pulse));
    if (Math.max(normal, reverse) < least || Math.abs(normal - reverse) < least) return null;
    return flip(normal > reverse ? "N" : "R");
  }

  private solvePiece(piece: number, state: RailwayState, tweak?: Tweak, extra?: Extra): OperatingPoint {
    const key = `${piece}|${this.finding}|${stateKey(state)}|${tweak ? Object.values(tweak) : ""}|${extra?.key ?? ""}`;
    const known = this.kept.get(key);
    if (known) return known;
    const states = (this.pieces[piece]?.devices ?? []).map((device) => this.stateOf(device, state, tweak));
    const solved = operatingPoint(this.netlistOf(piece, states, extra?.elements ?? []));
    this.kept.set(key, solved);
    return solved;
  }

  /** The netlist of the piece that holds a terminal, as it is solved; for checks against other solvers. */
  netlist(key: string, state: RailwayState): Netlist {
    const piece = this.pieceOf.get(key) ?? -1;
    return this.netlistOf(
      piece,
      (this.pieces[piece]?.devices ?? []).map((device) => this.stateOf(device, state)),
      [],
    );
  }

  private netlistOf(number: number, states: readonly DeviceState[], extra: readonly Element[]): Netlist {
    const { devices, wires } = this.pieces[number] ?? { devices: [], wires: [] };
    const elements = devices.flatMap((device, index) => {
      const type = this.types.get(device.id);
      const state = states[index];
      if (!type || !state) return [];
      return elementsOf(device.id, type, state).filter(({ nodes }) => this.pieceOf.get(nodes[0]) === number);
    });
    const ground = this.groundOf(number) ?? elements[0]?.nodes[1] ?? "none";
    return { ground, elements: [...elements, ...wires, ...extra] };
  }

  /** 0 V of a piece: the minus of its first supply; without one, any terminal will do. */
  private groundOf(piece: number): string | undefined {
    for (const device of this.pieces[piece]?.devices ?? []) {
      const type = this.types.get(device.id);
      const minus = type?.family === "supply" ? type.terminals[1]?.name : undefined;
      if (minus && this.pieceOf.get(`${device.id}:${minus}`) === piece) return `${device.id}:${minus}`;
    }
    return undefined;
  }

  private stateOf(device: Device, state: RailwayState, tweak?: Tweak): DeviceState {
    const type = this.types.get(device.id);
    const thread = this.threadOf.get(device.id);
    const asked = thread ? askedOf(state, thread.turnout.id) : "N";
    const held = state.moment !== "rest" && thread !== undefined && thread.turnout.id === state.acting;
    const moving = held && state.moment === "throwing";
    const outputs = new Map<number, Position>();
    for (const [way, leader] of this.outputsOf.get(device.id) ?? []) outputs.set(way, askedOf(state, leader));
    return {
      off: state.off,
      made: type?.model === "latching-toggle" || held ? asked : null,
      contacts: type?.contactSets ? this.contactsOf(device.id, state, asked, moving) : "N",
      moving,
      outputs,
      charged: type?.model === "cdu" && state.moment === "throwing" ? this.charge(device.id) : null,
      tweak: (figure) => (tweak && tweak.deviceId === device.id && tweak.figure === figure ? tweak.factor : 1),
    };
  }

  /** Contacts follow the arm; while it moves they are still on the side it comes from. */
  private contactsOf(motorId: string, state: RailwayState, asked: Position, acting: boolean): Position {
    const to = this.finding ? asked : (this.motorGoesTo(motorId, state) ?? "N");
    if (!acting) return to;
    return to === "N" ? "R" : "N";
  }

  /** Volts across a discharge unit's capacitor before the pulse, everything at rest and normal. */
  private charge(deviceId: string): number {
    return this.volts(`${deviceId}:+`, `${deviceId}:−`, RESTING) ?? 0;
  }

  /** Groups terminals that wires or elements join, whatever the state; a motor's contacts may lie in another piece than its winding. */
  private cutIntoPieces(): void {
    const groups = new Groups();
    const elements = new Map<Device, Element[]>();
    for (const device of this.record.devices) {
      const type = this.types.get(device.id);
      if (!type) continue;
      const outputs = new Map([...(this.outputsOf.get(device.id) ?? [])].map(([way]) => [way, "N"] as const));
      const own = elementsOf(device.id, type, { ...IDLE, outputs });
      elements.set(device, own);
      for (const { nodes } of own) groups.join(nodes[0], nodes[1]);
    }
    for (const wire of this.loom.wires) groups.join(wire.from.key, wire.to.key);
    for (const [name, piece] of groups.numbered()) {
      this.pieceOf.set(name, piece);
      this.pieces[piece] ??= { devices: [], wires: [] };
    }
    for (const [device, own] of elements) {
      for (const { id, nodes } of own) this.pieceOf.set(id, this.pieceOf.get(nodes[0]) ?? 0);
      for (const piece of new Set(own.map(({ nodes }) => this.pieceOf.get(nodes[0]) ?? 0))) {
        this.pieces[piece]?.devices.push(device);
      }
    }
    for (const { label, from, to, ohms } of this.loom.wires) {
      const piece = this.pieces[this.pieceOf.get(from.key) ?? -1];
      piece?.wires.push({ kind: "resistor", id: label, nodes: [from.key, to.key], ohms });
    }
  }
}

const RESTING: RailwayState = { asked: {}, moment: "rest", acting: null, off: false };

/** Any state in which every element of a device is there. */
const IDLE: DeviceState = {
  off: false,
  made: null,
  contacts: "N",
  moving: false,
  outputs: new Map(),
  charged: 0,
  tweak: () => 1,
};

function askedOf(state: RailwayState, leaderId: string): Position {
  return state.asked[leaderId] ?? state.otherwise ?? "N";
}

function stateKey({ asked, otherwise = "N", moment, acting, off }: RailwayState): string {
  const others = Object.entries(asked).filter(([, position]) => position !== otherwise);
  return `${others.map(([id]) => id).sort()}|${otherwise}|${moment}|${acting}|${off}`;
}
