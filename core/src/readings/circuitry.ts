import { typeOf } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Element, Netlist } from "../circuit/elements.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import { laidWires } from "../loom/laidWires.ts";
import type { Loom } from "../loom/wire.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device, Position } from "../record/schemas.ts";
import type { Steps } from "../record/steps.ts";
import { isWiredAlike, turnsAlike } from "../record/unchanged.ts";
import type { Schematic } from "../schematic/schematic.ts";
import type { ThreadLamp } from "../schematic/thread.ts";
import { Behaviour } from "./behaviour.ts";
import { CoilPulses } from "./coilPulses.ts";
import { type Cut, cutAfter, cutIntoPieces, devicesToCut, isCutAlike, withWires } from "./cut.ts";
import type { DeviceState, FedBy } from "./kit.ts";
import { Noting } from "./noting.ts";
import type { Member, Piece, Throw } from "./piece.ts";
import { LEAKAGE_AMPS, NO_PULSE, type Pulse, type PulseCurve, type Pulses } from "./pulse.ts";
import { Roles } from "./roles.ts";
import type { Solver } from "./solver.ts";
import { type Extra, Solving } from "./solving.ts";
import { changingIn, NO_CHANGING, type Solved, type Spread } from "./spread.ts";
import { Spreads } from "./spreads.ts";
import { type RailwayState, RESTING } from "./states.ts";
import { windingOf } from "./throws.ts";

/** What something was found out from: a piece of the circuit, or what was joined to nothing, by its name there. */
export type Asked = Piece | string;

/** What an edit changed in the circuit. */
interface Changes {
  /** Devices in pieces that are new or otherwise than before. */
  touched: ReadonlySet<string>;
  /** Those of them that are themselves others, or do something else. */
  remade: ReadonlySet<string>;
  /** Pieces that are as they were. */
  standing: ReadonlySet<Piece>;
}

/**
 * The railway as a circuit that can be solved in any state, piece by piece: pieces are what is joined by wires or
 * elements whatever the state. Solutions are kept, so asking twice costs nothing, and those of pieces that an edit did not
 * touch are taken over from the railway before it.
 */
export class Circuitry implements Solver {
  private readonly cut: Cut;
  private readonly roles: Roles;
  private readonly behaviour: Behaviour;
  private readonly solving: Solving;
  private readonly spreads = new Spreads();
  private readonly live = new WeakMap<OperatingPoint, readonly string[]>();
  private readonly pulses: CoilPulses;
  /** Numbers of the pieces that are new or otherwise than before an edit; null where nothing is known to be as it was. */
  private readonly changed: Set<number> | null = null;

  /** @param previous the same railway before an edit, whose solutions can be taken over where they still hold */
  constructor(
    readonly record: RailwayRecord,
    readonly schematic: Schematic,
    readonly loom: Loom,
    previous?: Circuitry,
  ) {
    this.pulses = new CoilPulses(
      (deviceId) => this.roles.types.get(deviceId),
      (coil, state) => {
        const number = this.piece(coil);
        return number === undefined ? null : this.solving.conducting(number, state);
      },
      previous?.pulses,
    );
    if (
      previous &&
      previous.schematic.nets === schematic.nets &&
      isWiredAlike(record, previous.record) &&
      isLaidAlike(loom, previous.loom)
    ) {
      this.roles = previous.roles;
      this.behaviour = new Behaviour(this.roles, this);
      const { cut, changed } = withWires(previous.cut, previous.loom, loom);
      this.cut = cut;
      this.solving = new Solving(cut, this.roles, this.behaviour);
      this.changed = changed;
      return;
    }
    this.roles = new Roles(record, schematic, previous?.roles);
    this.behaviour = new Behaviour(this.roles, this);
    // what turnouts share decides how others stand while one is thrown, in pieces of which it is no part
    const sharesAlike = previous?.roles.bonds.text === this.roles.bonds.text;
    const devices = devicesToCut(
      record.devices.map((device) => ({ device, type: this.typeOfDevice(device) })),
      previous?.cut.devices,
      (id) => this.roles.describe(id),
      (id) => this.outputsInUse(id),
      (id) => this.roles.fedBy(id),
      (id) => this.roles.railsOf(id),
    );
    this.cut = previous && sharesAlike ? cutAfter(previous.cut, devices, loom) : cutIntoPieces(devices, loom);
    this.solving = new Solving(this.cut, this.roles, this.behaviour);
    if (previous && sharesAlike && turnsAlike(record, previous.record) && liesAlike(record, previous.record))
      this.changed = this.changedSince(previous);
  }

  /** Numbers of the pieces that were cut anew, or in which a device does something else than before an edit. */
  private changedSince(previous: Circuitry): Set<number> {
    const kept = new Set(previous.cut.pieces);
    const isOtherwise = ({ members }: Piece) =>
      members.some(({ device }) => this.roles.whole(device.id) !== previous.roles.whole(device.id));
    return new Set(
      this.cut.pieces.flatMap((piece, number) => (kept.has(piece) && !isOtherwise(piece) ? [] : [number])),
    );
  }

  /**
   * Takes over what was found out before an edit, in the pieces that it left alone. What goes on in a piece depends on
   * others through where motors go, what boards hear and which relays pick up: pieces in which contacts follow a motor that
   * goes elsewhere now are looked at anew as well, and so on; where boards or relays could do something else, everything is.
   * Nothing may be asked of the circuit before that is done.
   */
  *takingOver(previous: Circuitry): Steps<void> {
    if (this.changed) yield* this.takeOver(previous, this.changed);
    this.roles.forgetBefore();
  }

  private *takeOver(previous: Circuitry, changed: Set<number>): Steps<void> {
    const touches = (key: string) => changed.has(this.cut.pieceOf.get(key) ?? -1);
    for (;;) {
      const now = [...changed].flatMap((number) => this.cut.pieces[number]?.members ?? []);
      const relays = now.filter(({ type }) => switchedBy(type) !== null);
      const elsewhere = yield* this.behaviour.takingOver(previous.behaviour, touches);
      if (!elsewhere) return;
      const followers = [...elsewhere].flatMap((id) => this.roles.following(id));
      const before = changed.size;
      for (const number of this.contactPiecesOf([...followers, ...relays.map(({ device }) => device.id)]))
        changed.add(number);
      if (changed.size === before) break;
    }
    this.solving.takeOver(previous.solving, (number) => changed.has(number));
    const standing = new Set(this.cut.pieces);
    const gone = previous.cut.pieces.filter((piece) => !standing.has(piece));
    const otherwise = [...changed].flatMap((number) => this.cut.pieces[number] ?? []);
    const members = [...otherwise, ...gone].flatMap((piece) => piece.members.map(({ device }) => device.id));
    const touched = new Set(members);
    const isRemade = (id: string) =>
      !isCutAlike(this.cut.devices.get(id), previous.cut.devices.get(id)) ||
      this.roles.whole(id) !== previous.roles.whole(id);
    const remade = new Set(members.filter(isRemade));
    for (const piece of otherwise) standing.delete(piece);
    this.changes = { touched, remade, standing };
    for (const [what, each] of previous.remembered)
      if (each.asked.every((asked) => this.stands(asked))) this.remembered.set(what, each);
  }

  /** Numbers of the pieces in which devices have contacts; of a relay's coil and a detector's zones nothing else follows. */
  private contactPiecesOf(deviceIds: readonly string[]): number[] {
    return deviceIds.flatMap((id) => {
      const cut = this.cut.devices.get(id);
      const prefix = cut ? switchedBy(cut.type) : null;
      return (cut?.elements ?? []).flatMap((element) =>
        prefix !== null && !element.id.startsWith(`${id}.${prefix}`) ? [] : (this.cut.pieceOf.get(element.id) ?? []),
      );
    });
  }

  /** What the last edit changed, when everything else is as it was before it; null when nothing is known to be. */
  changes: Changes | null = null;

  /** What was asked of the circuit: while an edit leaves all of that as it was, what was found out by it stands. */
  readonly asked = new Noting<Asked>();

  private readonly remembered = new Map<string, { made: unknown; asked: readonly Asked[] }>();

  /** What follows from nothing but what is asked of the circuit meanwhile: found out once, and kept while an edit leaves that as it was. */
  remember<T>(what: string, make: () => T): T {
    const known = this.remembered.get(what) ?? this.asked.during(make);
    this.remembered.set(what, known);
    for (const each of known.asked) this.asked.note(each);
    return known.made as T;
  }

  /** Whether something that was asked before the last edit is as it was then. */
  stands(asked: Asked): boolean {
    if (typeof asked === "string") return this.cut.pieceOf.get(asked) === undefined;
    return this.changes?.standing.has(asked) ?? false;
  }

  /** Number of the piece a terminal or element belongs to, or undefined when nothing is joined to it. */
  piece(key: string): number | undefined {
    const number = this.cut.pieceOf.get(key);
    this.asked.note((number === undefined ? undefined : this.cut.pieces[number]) ?? key);
    return number;
  }

  /** Number of pieces, and how many of them were solved at least once; for measuring. */
  get counts(): { pieces: number; solved: number } {
    const { pieces } = this.cut;
    return { pieces: pieces.length, solved: pieces.filter(({ circuit }) => circuit).length };
  }

  /** Whether a terminal carries what an alternating supply gives, not behind a rectifier. */
  isAlternating(key: string): boolean {
    const number = this.piece(key);
    return number === undefined ? false : this.solving.alternatingIn(number).has(key);
  }

  /** Whether a terminal lies in a piece fed by a track bus, whose two half cycles differ. */
  isOnTrack(key: string): boolean {
    return this.pieceWith(key)?.onTrack ?? false;
  }

  /** The pieces into which the railway falls. */
  get pieces(): readonly Piece[] {
    return this.cut.pieces;
  }

  /** How the devices of a piece stand in a state of the railway. */
  statesOf(piece: Piece, state: RailwayState): readonly DeviceState[] {
    return this.solving.statesOf(piece, state);
  }

  /** Elements of a device in a state, those that lie in a piece. @param piece its number */
  elementsIn(piece: number, member: Member, state: DeviceState): Element[] {
    return this.solving.elementsIn(piece, member, state);
  }

  /** Solves a piece whose devices stand as given, whatever may have brought them there. @param number of the piece */
  solveAs(number: number, states: readonly DeviceState[]): OperatingPoint {
    return this.solving.solveAs(number, states);
  }

  /** What the supply of a device is made to give, volts; 0 without one. */
  fedVolts(deviceId: string): number {
    return this.roles.fedVolts(deviceId);
  }

  /** How a device gets its power. */
  fedBy(deviceId: string): FedBy {
    return this.roles.fedBy(deviceId);
  }

  /** The supply that feeds a device, if any does. */
  feederOf(deviceId: string): string | undefined {
    return this.roles.feederOf(deviceId);
  }

  private pieceWith(key: string): Piece | undefined {
    return this.cut.pieces[this.piece(key) ?? -1];
  }

  /** Solves the piece that holds a terminal; undefined when nothing is joined to it. */
  solve(key: string, state: RailwayState): OperatingPoint | undefined {
    const number = this.piece(key);
    return number === undefined ? undefined : this.solving.at(number, state);
  }

  /** Solves the piece that holds a terminal with something more in it. */
  solveWith(key: string, state: RailwayState, extra: Extra): Solved | undefined {
    const number = this.piece(key);
    return number === undefined ? undefined : this.solving.with(number, state, extra);
  }

  /** Volts from one terminal to another, and how far single parts may bring them from that; undefined when nothing holds them together. */
  spreadOf(plus: string, minus: string, state: RailwayState): { volts: number; spread: Spread } | undefined {
    const point = this.solve(plus, state);
    const volts = point?.between(plus, minus);
    if (!point || volts === undefined) return undefined;
    const spread = this.spreads.at(point, plus, minus, () => {
      const number = this.piece(plus);
      return number === undefined ? NO_CHANGING : changingIn(this.record, this.solving.inPlace(number, state));
    });
    return { volts, spread };
  }

  /** Devices and wires of the piece that holds an element through which more than leakage flows, or would before a supply shuts down. */
  liveIn(elementId: string, state: RailwayState): readonly string[] {
    const ownerOf = this.pieceWith(elementId)?.ownerOf;
    const point = this.solve(elementId, state);
    if (!point) return [];
    const known = this.live.get(point);
    if (known) return known;
    const names = new Set<string>();
    for (const each of new Set([point, point.prospective]))
      for (const id of each.carrying(LEAKAGE_AMPS)) names.add(ownerOf?.get(id) ?? id);
    const live = [...names];
    this.live.set(point, live);
    return live;
  }

  /** Amps through a part of a device, from its first terminal to its second; 0 when the device is joined to nothing. */
  amps(deviceId: string, part: string, state: RailwayState): number {
    const id = `${deviceId}.${part}`;
    return this.solve(id, state)?.amps(id) ?? 0;
  }

  /** The same before any supply shuts down: what burns a part in an instant. */
  prospectiveAmps(deviceId: string, part: string, state: RailwayState): number {
    const id = `${deviceId}.${part}`;
    return this.solve(id, state)?.prospective.amps(id) ?? 0;
  }

  /** Volts from one terminal to another of the same piece; undefined when nothing holds them together. */
  volts(plus: string, minus: string, state: RailwayState): number | undefined {
    return this.solve(plus, state)?.between(plus, minus);
  }

  /**
   * A dead short between two terminals, everything else at rest: what would flow before any supply shuts down.
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
    const point = this.solveWith(plus, RESTING, { elements: [element], unlimited: true })?.point;
    if (!point) return null;
    const found = { amps: Math.abs(point.amps("short") ?? 0), volts: point.between(watch[0], watch[1]) ?? 0 };
    piece.shorts.set(key, found);
    return found;
  }

  /** The pulse that a motor's coil gets when its turnout is thrown to a position, by a transient of what then conducts. */
  pulse(motorId: string, side: Position, asked: RailwayState): Pulse | null {
    const coil = `${motorId}.${side}`;
    const piece = this.pieceWith(coil);
    if (!piece) return null;
    const { key } = this.solving.standing(piece, asked);
    const known = piece.pulses.get(key);
    if (known) return known.coils.get(coil) ?? NO_PULSE;
    const coils = this.pulses.thrownWith(coil, this.roles.bonds.settle(asked));
    if (!coils) return null;
    piece.pulses.set(key, { coils, live: this.liveIn(coil, asked) });
    return coils.get(coil) ?? NO_PULSE;
  }

  /**
   * The pulse that coils get in a state, through time.
   * @param side of the coil of a motor, any of those that take part
   * @param stop seconds that are shown
   * @returns null where the coil is joined to nothing
   */
  pulseCurve(motorId: string, side: Position, asked: RailwayState, stop: number): PulseCurve | null {
    return this.pulses.curve(`${motorId}.${side}`, this.roles.bonds.settle(asked), stop);
  }

  /**
   * The pulse that coils would get in a state from another capacitor.
   * @param farads of all discharge units that take part
   */
  pulsesWith(motorId: string, side: Position, asked: RailwayState, farads: number): Pulses {
    return this.pulses.thrownFrom(farads, `${motorId}.${side}`, this.roles.bonds.settle(asked));
  }

  /** Position to which a motor goes when its turnout is asked for one; null when it does not move. */
  motorGoesTo(motorId: string, state: RailwayState): Position | null {
    const found = this.roles.motorOf.get(motorId);
    if (found) this.piece(`${motorId}.${windingOf(found.motor)}`);
    return this.behaviour.motorGoesTo(motorId, this.roles.bonds.settle(state));
  }

  /** Positions to which a turnout goes when it is thrown, with all that share the control or the output that does it. */
  along(leader: string, position: Position, by?: string): Record<string, Position> {
    return Object.fromEntries(this.roles.bonds.along(leader, position, by));
  }

  /** Position that a thread's board understands when a control asks for one; null when it understands none. */
  hears(leader: string, asked: Position, by?: string): Position | null {
    return this.behaviour.hears(leader, asked, by);
  }

  /** Aspect that a box with an input shows; null without power. */
  boxShows(lamp: ThreadLamp, state: RailwayState): Position | null {
    return this.behaviour.boxShows(lamp, state);
  }

  /** Position that a semaphore's arm shows; null when its servo gets no power or no pulses. */
  semaphoreShows(lamp: ThreadLamp, state: RailwayState): Position | null {
    return this.behaviour.semaphoreShows(lamp, state);
  }

  throwsOf(elementId: string): Map<string, Throw> | undefined {
    return this.pieceWith(elementId)?.goesTo;
  }

  /** The netlist of the piece that holds a terminal, as it is solved; for export and for checks against other solvers. */
  netlist(key: string, state: RailwayState): Netlist {
    const number = this.piece(key) ?? -1;
    const piece = this.cut.pieces[number];
    return piece
      ? { ground: this.solving.groundOf(piece), elements: this.solving.elementsOf(number, state) }
      : { ground: "0", elements: [] };
  }

  private typeOfDevice(device: Device): DeviceType {
    return this.roles.types.get(device.id) ?? typeOf(this.record, device);
  }

  private outputsInUse(deviceId: string): Map<number, Position> {
    return new Map([...(this.roles.outputsOf.get(deviceId)?.keys() ?? [])].map((way) => [way, "N" as const]));
  }
}

/** How the contacts are called of what switches by itself, by what flows through it: a relay, a detector; null for anything else. */
function switchedBy(type: DeviceType): "S" | "O" | null {
  if (type.drives === "contact" || traitsOf(type).relay !== null) return "S";
  return traitsOf(type).inTrack === "detector" ? "O" : null;
}

/** Whether two looms have wires between the same ends, in the same order. */
function isLaidAlike(loom: Loom, before: Loom): boolean {
  const [wires, earlier] = [laidWires(loom), laidWires(before)];
  return (
    wires === earlier ||
    (wires.length === earlier.length && wires.every((wire, index) => wire.element === earlier[index]?.element))
  );
}

/** Whether the turnouts that are in both records follow the same others. */
function liesAlike(a: RailwayRecord, b: RailwayRecord): boolean {
  if (a.turnouts === b.turnouts) return true;
  const before = new Map(b.turnouts.map((turnout) => [turnout.id, turnout]));
  return a.turnouts.every(({ id, movesWith }) => {
    const other = before.get(id);
    return !other || other.movesWith === movesWith;
  });
}

/** A wheel or a coin across two rails, ohms (common practice). */
export const SHORT_OHMS = 0.01;
