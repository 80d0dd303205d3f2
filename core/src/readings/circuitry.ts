import { typeOf } from "../catalogue/catalogue.ts";
import { type DeviceType, numbered } from "../catalogue/deviceType.ts";
import { Circuit } from "../circuit/circuit.ts";
import type { Element, Netlist } from "../circuit/elements.ts";
import { Groups } from "../circuit/groups.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import type { Loom } from "../loom/loom.ts";
import type { Device, Position, RailwayRecord } from "../record/schemas.ts";
import { isWiredAlike } from "../record/unchanged.ts";
import { controlSides, sideMade } from "../schematic/recipes/controlSides.ts";
import type { Heard } from "../schematic/recipes/controlToInputs.ts";
import { wantedRail } from "../schematic/recipes/frogFeed.ts";
import type { Schematic } from "../schematic/schematic.ts";
import type { Fitted, Thread, ThreadControl, ThreadLamp, ThreadMotor } from "../schematic/thread.ts";
import { controlsOf } from "../schematic/thread.ts";
import { type DeviceState, type Part, stateThatMatters, storeNode, storesPulse } from "./models.ts";
import {
  type Cut,
  cutIntoPieces,
  type Member,
  type Piece,
  partsIn,
  stateKey,
  type Throw,
  withWires,
} from "./pieces.ts";
import { type Pulse, pulseThrough } from "./pulse.ts";
import { Roles } from "./roles.ts";

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
  /** Control by which the acting turnout is thrown or held; its first one when not said. */
  by?: string;
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
  /** Set while it is being found out what boards hear from controls: outputs then count as following what was asked. */
  private listening = false;
  /** Where motors go, by motor, what is asked and by which control; found out once for a railway. */
  private readonly went = new Map<string, Position | null>();
  /** Relays whose coils are being looked at. */
  private readonly picking = new Set<string>();
  private readonly heard = new Map<string, Position | null>();
  private readonly roles: Roles;
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
    this.pulsesBefore = previous?.pulses ?? new Map();
    this.pulses = new Map();
    if (previous && previous.schematic.nets === schematic.nets && isWiredAlike(record, previous.record)) {
      this.roles = previous.roles;
      const { cut, changed } = withWires(previous.cut, previous.loom, loom);
      this.cut = cut;
      this.takeOver(previous, changed);
      return;
    }
    this.roles = new Roles(record, schematic);
    const before = new Map(previous?.cut.pieces.map((piece) => [piece.structure, piece]));
    this.cut = cutIntoPieces(
      record.devices.map((device) => ({ device, type: this.typeOfDevice(device) })),
      loom,
      (id) => this.roles.describe(id),
      (id) => this.outputsInUse(id),
      (id) => this.roles.fedBy(id),
      before,
    );
  }

  /**
   * Takes over what was found out before an edit of wires, in the pieces that have none of them. What goes on in a piece
   * depends on others through where motors go, what boards hear and which relays pick up; when an edit changes any of that,
   * or could, everything is looked at anew.
   */
  private takeOver(previous: Circuitry, changed: ReadonlySet<number>): void {
    const touches = (key: string) => changed.has(this.cut.pieceOf.get(key) ?? -1);
    for (const number of changed) {
      for (const { type } of this.cut.pieces[number]?.members ?? []) {
        const listens = type.ownInputs || type.inputs || type.drives === "contact";
        if (listens || type.model === "relay" || type.model === "latching-relay") return;
      }
    }
    for (const [key, to] of previous.went) {
      const [motorId = "", asked = "N", by = ""] = key.split(" ");
      const motor = this.roles.motorOf.get(motorId);
      const thread = this.roles.threadOf.get(motorId);
      const winding = motor?.type.model === "twin-coil" ? "N" : "motor";
      if (!motor || !thread || !touches(`${motorId}.${winding}`)) {
        this.went.set(key, to);
        continue;
      }
      const now = this.findOutGoesTo(motor, thread, asked as Position, by || undefined);
      this.went.set(key, now);
      if (now !== to) {
        this.went.clear();
        return;
      }
    }
    for (const [key, position] of previous.heard) this.heard.set(key, position);
    for (const [name, point] of previous.solved) {
      if (!changed.has(Number.parseInt(name, 10))) this.solved.set(name, point);
    }
    for (const [deviceId, volts] of previous.charges)
      if (!touches(`${deviceId}.capacitor`)) this.charges.set(deviceId, volts);
    this.alternating = previous.alternating;
    const members = [...changed].flatMap((number) => this.cut.pieces[number]?.members ?? []);
    this.touched = new Set(members.map(({ device }) => device.id));
  }

  /**
   * Devices in pieces that the last edit changed, when everything else is as it was before it; null when nothing is known
   * to be.
   */
  touched: ReadonlySet<string> | null = null;

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

  /** Whether a terminal lies in a piece fed by a track bus, whose two half cycles differ. */
  isOnTrack(key: string): boolean {
    return this.pieceWith(key)?.onTrack ?? false;
  }

  private findAlternating(): Set<string> {
    const groups = new Groups();
    const fed: string[] = [];
    const pieces = new Set<number>();
    for (const { id } of this.record.devices) {
      if (this.roles.types.get(id)?.model !== "ac-supply") continue;
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

  /**
   * A dead short between two terminals, everything else at rest.
   * @param watch two terminals whose volts are looked at while it lasts
   * @returns amps through it, and the volts; null when nothing joins the two
   */
  short(plus: string, minus: string, watch: readonly [string, string]): { amps: number; volts: number } | null {
    const piece = this.pieceWith(plus);
    if (!piece || piece !== this.pieceWith(minus)) return null;
    const key = `${plus} ${minus} ${watch.join(" ")}`;
    const known = piece.shorts.get(key);
    if (known) return known;
    const element: Element = { kind: "resistor", id: "short", nodes: [plus, minus], ohms: SHORT_OHMS };
    const point = this.solveWith(plus, RESTING, { elements: [element] })?.circuit.point();
    if (!point) return null;
    const found = { amps: Math.abs(point.amps("short") ?? 0), volts: point.between(watch[0], watch[1]) ?? 0 };
    piece.shorts.set(key, found);
    return found;
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
    const farads = this.roles.types.get(device)?.figures.farads?.value ?? 0;
    return { kind: "capacitor", id: element.id, nodes: element.nodes, farads, volts: element.volts };
  }

  /**
   * Position to which a motor goes when its turnout is asked for one, by the solved circuit and the way it is mounted.
   * @returns null when it gets too little to move, or when nothing hears what was asked
   */
  motorGoesTo(motorId: string, state: RailwayState): Position | null {
    const motor = this.roles.motorOf.get(motorId);
    const thread = this.roles.threadOf.get(motorId);
    if (!motor || !thread) return null;
    const asked = askedOf(state, thread.turnout.id);
    const by = this.byOf(thread, state);
    const short = `${motorId} ${asked} ${by ?? ""}`;
    const found = this.went.get(short);
    if (found !== undefined) return found;
    const to = this.findOutGoesTo(motor, thread, asked, by);
    this.went.set(short, to);
    return to;
  }

  private findOutGoesTo(motor: ThreadMotor, thread: Thread, asked: Position, by: string | undefined): Position | null {
    const motorId = motor.device.id;
    const heard = this.hears(thread.turnout.id, asked, by);
    if (heard === null) return null;
    const winding = motor.type.model === "twin-coil" ? "N" : "motor";
    const kept = this.pieceWith(`${motorId}.${winding}`)?.goesTo;
    const key = `${motorId} ${asked} ${heard} ${by ?? ""} ${motor.assignment.opposite}`;
    const known = kept?.get(key);
    if (known) return known.to;
    const before = this.finding;
    this.finding = true;
    try {
      const thrown = this.thrownTo(motor, thread, asked, by);
      kept?.set(key, thrown);
      return thrown.to;
    } finally {
      this.finding = before;
    }
  }

  /** The control that acts on a thread when it is not its first one. */
  private byOf(thread: Thread, { acting, by }: RailwayState): string | undefined {
    return acting === thread.turnout.id && by !== thread.control?.device.id ? by : undefined;
  }

  /**
   * Position that a thread's board understands when a control asks for one, from the solved volts of its inputs; what is
   * asked itself where no board listens; null when it hears nothing, or both at once.
   */
  hears(leader: string, asked: Position, by?: string): Position | null {
    const listeners = this.roles.heardOf.get(leader);
    const listener = listeners?.find(({ control }) => acts(control, asked, by));
    if (!listener) return asked;
    const key = `${leader} ${asked} ${by ?? ""}`;
    const known = this.heard.get(key);
    if (known !== undefined) return known;
    const before = this.listening;
    this.listening = true;
    try {
      const position = this.listen(listener, {
        asked: { [leader]: asked },
        ...PRESSED,
        acting: leader,
        ...(by ? { by } : {}),
      });
      this.heard.set(key, position);
      return position;
    } finally {
      this.listening = before;
    }
  }

  private listen({ control, heard }: Listener, state: RailwayState): Position | null {
    const { board } = heard;
    const asked = askedOf(state, state.acting ?? "");
    const threshold = board.type.figures.thresholdVolts?.value ?? 0;
    const closed = (input: string) => {
      const volts = this.volts(`${board.device.id}:${input}`, `${board.device.id}:−`, state);
      return volts !== undefined && volts < threshold;
    };
    const sides = controlSides(control);
    if (sides.press !== null) return closed(heard.press) ? asked : null;
    if (sides.N === null || sides.R === null)
      return closed(sides.N === null ? heard.R : heard.N) ? control.assignment.to : null;
    const [normal, reverse] = [closed(heard.N), closed(heard.R)];
    if (normal === reverse) return null;
    return normal ? "N" : "R";
  }

  /** A coil goes by the energy and length of its pulse, others by the volts that move and hold them. */
  private thrownTo(motor: ThreadMotor, thread: Thread, asked: Position, by: string | undefined): Throw {
    const leader = thread.turnout.id;
    const id = motor.device.id;
    const { model, figures } = motor.type;
    const least = figures.leastVolts?.value ?? 0;
    const flip = (position: Position): Position =>
      motor.assignment.opposite ? (position === "N" ? "R" : "N") : position;
    const state: RailwayState = { asked: { [leader]: asked }, ...PRESSED, acting: leader, ...(by ? { by } : {}) };
    if (model === "decoder-motor") {
      const moves = Math.abs(this.volts(`${id}:J`, `${id}:K`, RESTING) ?? 0) >= least;
      return { to: moves ? flip(asked) : null, live: null };
    }
    if (model === "servo") return { to: this.servoGoesTo(motor, state, flip), live: null };
    if (model === "stall-motor") {
      // one that its control lets go of again runs while it is held
      const sprung = thread.control?.type.model === "reversing-toggle" && !thread.control.type.maintained;
      const all = asked === "N" ? ALL_NORMAL : ALL_REVERSE;
      const volts = this.volts(`${id}:+`, `${id}:−`, by || sprung ? state : all) ?? 0;
      return { to: Math.abs(volts) >= least ? flip(volts > 0 ? "N" : "R") : null, live: null };
    }
    const live = this.solve(`${id}.N`, state)?.carrying(LIVE_AMPS) ?? [];
    const throws = (coil: Position) => {
      // the first instant tells whether there is anything to follow
      const first = Math.abs(this.amps(id, coil, state));
      if (first < (figures.restAmps?.value ?? 0)) return 0;
      const pulse = this.pulse(id, coil, state);
      return pulse && isFirm(pulse, motor.type) ? pulse.joules : 0;
    };
    const normal = throws("N");
    const reverse = throws("R");
    if (normal === reverse || Math.min(normal, reverse) > 0) return { to: null, live };
    return { to: flip(normal > reverse ? "N" : "R"), live };
  }

  /** Position that a semaphore's arm shows; null when its servo gets no power or no pulses. */
  semaphoreShows({ device, type, from }: ThreadLamp, state: RailwayState): Position | null {
    return this.servoGoesTo({ device, type, driver: from }, state, (position) => position);
  }

  /** A servo goes by the width of its pulses, which their average volts tell, when it has its 5 V. */
  private servoGoesTo(
    { device, type, driver }: Fitted & { driver: Fitted | null },
    state: RailwayState,
    flip: (position: Position) => Position,
  ): Position | null {
    const { signalVolts, frameSeconds, normalSeconds, reverseSeconds } = driver?.type.figures ?? {};
    if (!signalVolts || !frameSeconds || !normalSeconds || !reverseSeconds) return null;
    const power = this.volts(`${device.id}:+`, `${device.id}:−`, state) ?? 0;
    if (power < (type.figures.leastVolts?.value ?? 0)) return null;
    const width =
      ((this.volts(`${device.id}:S`, `${device.id}:−`, state) ?? 0) / signalVolts.value) * frameSeconds.value;
    if (width < SHORTEST_PULSE) return null;
    const towardsNormal = Math.abs(width - normalSeconds.value) < Math.abs(width - reverseSeconds.value);
    return flip(towardsNormal ? "N" : "R");
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
    const picking = this.picking.size > 0 ? [...this.picking].join() : "";
    const name = `${number}${this.finding ? "f" : " "}${this.listening ? "l" : " "}${picking} ${this.nameOf(state)}`;
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
    return this.roles.types.get(device.id) ?? typeOf(this.record, device);
  }

  private outputsInUse(deviceId: string): Map<number, Position> {
    return new Map([...(this.roles.outputsOf.get(deviceId)?.keys() ?? [])].map((way) => [way, "N" as const]));
  }

  /** Position that each output in use stands for: what its board understood, or the other one when it heard nothing. */
  private outputsAsked(deviceId: string, state: RailwayState): ReadonlyMap<number, Position> {
    const used = this.roles.outputsOf.get(deviceId);
    if (!used) return NO_OUTPUTS;
    const outputs = new Map<number, Position>();
    for (const [way, leader] of used) {
      const asked = askedOf(state, leader);
      const direct = this.listening || this.roles.commanding.has(`${deviceId} ${way}`);
      outputs.set(way, direct ? asked : this.understood(leader, asked, state));
    }
    return outputs;
  }

  private understood(leader: string, asked: Position, state: RailwayState): Position {
    const thread = this.roles.led.get(leader);
    const by = thread && this.byOf(thread, state);
    return this.hears(leader, asked, by) ?? (asked === "N" ? "R" : "N");
  }

  private stateOf({ device, type }: Member, state: RailwayState): DeviceState {
    const thread = this.roles.threadOf.get(device.id);
    const asked = thread ? askedOf(state, thread.turnout.id) : "N";
    const held = state.moment !== "rest" && thread !== undefined && isActing(state, thread.turnout.id);
    const moving = held && state.moment === "throwing";
    return stateThatMatters(type, {
      off: state.off,
      half: state.half ?? 1,
      made: this.madeOn(device.id, type, state, asked, held),
      contacts: this.contactsOf(device.id, type, state, asked, moving),
      moving,
      outputs: this.outputsAsked(device.id, state),
      on: this.waysOn(device.id, type, state),
      fedBy: this.roles.fedBy(device.id),
      fedVolts: this.roles.fedVolts(device.id),
      charged: storesPulse(type) && state.moment === "throwing" ? this.charge(device.id, type) : null,
    });
  }

  /** Side on which a control is made: one that stays put always, another while it is the one that is held. */
  private madeOn(
    deviceId: string,
    type: DeviceType,
    state: RailwayState,
    asked: Position,
    held: boolean,
  ): Position | null {
    const control = this.roles.controlOf.get(deviceId);
    if (!control) return null;
    const thread = this.roles.threadOf.get(deviceId);
    const acting = held && thread && controlsOf(thread).find((each) => acts(each, asked, state.by));
    if (!type.maintained && acting !== control) return null;
    const { to } = control.assignment;
    return to !== null && to !== asked ? null : sideMade(control, asked);
  }

  /** Outputs that pulse or pull down, pins that are low, zones that are occupied. */
  private waysOn(deviceId: string, type: DeviceType, state: RailwayState): ReadonlySet<number> {
    if (type.drives === "contact") return this.relaysUp(deviceId, type, state);
    if (type.drives !== "coil" && !type.zones && !this.roles.onAt.has(deviceId)) return NOTHING_ON;
    const on = new Set<number>();
    if (type.drives === "coil" && state.moment === "throwing") {
      for (const [way, leader] of this.roles.outputsOf.get(deviceId) ?? []) if (isActing(state, leader)) on.add(way);
    }
    const follows = this.roles.onAt.get(deviceId);
    for (const position of ["N", "R"] as const) {
      for (const { way, leader } of follows?.[position] ?? []) {
        const asked = askedOf(state, leader);
        if ((this.listening ? asked : this.understood(leader, asked, state)) === position) on.add(way);
      }
    }
    for (const { control, thread } of this.roles.zonesOf.get(deviceId) ?? []) {
      const { way } = control.assignment;
      const held = state.moment !== "rest" && isActing(state, thread.turnout.id);
      const asked = askedOf(state, thread.turnout.id);
      if (held && controlsOf(thread).find((each) => acts(each, asked, state.by)) === control) on.add(way ?? 1);
    }
    return on;
  }

  /** Contacts follow the arm; while it moves they are still on the side it comes from. */
  private contactsOf(
    deviceId: string,
    type: DeviceType,
    state: RailwayState,
    asked: Position,
    acting: boolean,
  ): Position {
    const following = this.finding || this.listening;
    const frog = this.roles.frogOf.get(deviceId);
    if (frog) {
      const motor = this.roles.threadOf.get(deviceId)?.motors.find(({ turnout }) => turnout.id === frog.turnout.id);
      const lies = motor && !following ? (this.motorGoesTo(motor.device.id, state) ?? "N") : asked;
      return wantedRail(frog.turnout.hand, lies) === "L" ? "N" : "R";
    }
    if (type.contactSets === 0) return "N";
    const beside = this.roles.besideOf.get(deviceId);
    if (beside) {
      if (following) return asked;
      return type.model === "relay" ? this.pickedUp(deviceId, type, state) : this.relayGoesTo(deviceId, type, asked);
    }
    const to = following ? asked : (this.motorGoesTo(deviceId, state) ?? "N");
    if (!acting) return to;
    return to === "N" ? "R" : "N";
  }

  /** A relay picks up when its coil gets volts enough in the state itself. */
  private pickedUp(relayId: string, type: DeviceType, state: RailwayState): Position {
    return this.whilePicking(relayId, "N", () => {
      const volts = this.volts(`${relayId}:coil`, `${relayId}:A2`, state) ?? 0;
      return volts >= (type.figures.pullInVolts?.value ?? 0) ? "R" : "N";
    });
  }

  /** Relays of a board whose coils get volts enough. */
  private relaysUp(boardId: string, type: DeviceType, state: RailwayState): ReadonlySet<number> {
    return this.whilePicking<ReadonlySet<number>>(boardId, new Set(), () => {
      const least = type.figures.pullInVolts?.value ?? 0;
      const up = (way: number) => (this.volts(`${boardId}:RV`, `${boardId}:coil${way}`, state) ?? 0) >= least;
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
    const leader = this.roles.threadOf.get(relayId)?.turnout.id;
    if (type.model !== "latching-relay" || leader === undefined) return asked;
    const before = this.finding;
    this.finding = true;
    try {
      const throwing: RailwayState = { asked: { [leader]: asked }, ...PRESSED, acting: leader };
      const across = (coil: string) => Math.abs(this.volts(`${relayId}:${coil}`, `${relayId}:C`, throwing) ?? 0);
      const [normal, reverse] = [across("N"), across("R")];
      if (Math.max(normal, reverse) < (type.figures.pullInVolts?.value ?? 0)) return "N";
      return normal > reverse ? "N" : "R";
    } finally {
      this.finding = before;
    }
  }

  /** Volts across the capacitor that gives the pulse, before it, everything at rest and normal. */
  private charge(deviceId: string, type: DeviceType): number {
    const known = this.charges.get(deviceId);
    if (known !== undefined) return known;
    // to nine digits, so that the rounding of an edit elsewhere does not make it another pulse
    const solved = this.volts(`${deviceId}:${storeNode(type)}`, `${deviceId}:−`, RESTING) ?? 0;
    const volts = Number(solved.toPrecision(9));
    this.charges.set(deviceId, volts);
    return volts;
  }

  private nameOf(state: RailwayState): string {
    const known = this.stateNames.get(state);
    if (known !== undefined) return known;
    const { asked, otherwise = "N", moment, acting, off, half = 1, by = "" } = state;
    const others = Object.entries(asked).filter(([, position]) => position !== otherwise);
    const name = `${others.map(([id]) => id).sort()}|${otherwise}|${moment}|${acting}|${off}|${half}|${by}`;
    this.stateNames.set(state, name);
    return name;
  }
}

/** A wheel or a coin across two rails, ohms (common practice). */
export const SHORT_OHMS = 0.01;
/** In place of one turnout: all of them at once, as at the start of a day. */
export const EVERY = "*";

const NO_OUTPUTS: ReadonlyMap<number, Position> = new Map();
const NOTHING_ON: ReadonlySet<number> = new Set();

/** Of a control that has just been pressed, nothing else touched. */
const PRESSED = { moment: "throwing", off: false } as const;
/** Pulses shorter than this move no servo, seconds (common practice: 0.5 to 2.5 ms do). */
const SHORTEST_PULSE = 0.0004;

type Listener = { control: ThreadControl; heard: Heard };

const ALL_NORMAL: RailwayState = { ...RESTING, otherwise: "N" };
const ALL_REVERSE: RailwayState = { ...RESTING, otherwise: "R" };

/** Current from which an element takes part in a throw, amps: more than what open contacts leak. */
const LIVE_AMPS = 1e-6;

/** Whether a pulse throws a motor of a type for certain: enough energy, and long enough (both figures of the type). */
export function isFirm(pulse: Pulse, type: DeviceType): boolean {
  const { pulseJoules, pulseSeconds } = type.figures;
  return pulse.joules >= (pulseJoules?.value ?? 0) && pulse.secondsAboveHalf >= (pulseSeconds?.value ?? 0);
}

/** Whether a control is the one that asks for a position: the one named, or any that can. */
function acts({ device, assignment }: ThreadControl, asked: Position, by: string | undefined): boolean {
  return (assignment.to === null || assignment.to === asked) && (by === undefined || by === device.id);
}

function isActing({ acting }: RailwayState, leader: string): boolean {
  return acting === leader || acting === EVERY;
}

function askedOf(state: RailwayState, leaderId: string): Position {
  return state.asked[leaderId] ?? state.otherwise ?? "N";
}
