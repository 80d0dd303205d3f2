import type { DeviceType } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { Circuit } from "../circuit/circuit.ts";
import type { Element } from "../circuit/elements.ts";
import { Groups } from "../circuit/groups.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import type { Behaviour } from "./behaviour.ts";
import { type Cut, partsIn } from "./cut.ts";
import { type DevicePart, type DeviceState, OPEN_OHMS } from "./kit.ts";
import { stateThatMatters } from "./models.ts";
import { type Member, type Piece, stateKey } from "./piece.ts";
import { LEAKAGE_AMPS } from "./pulse.ts";
import type { Roles } from "./roles.ts";
import { opened, shutDownsOf, solvedWithin } from "./shutDown.ts";
import type { Solved } from "./spread.ts";
import { Standing } from "./standing.ts";
import { nameOfState, type RailwayState, RESTING } from "./states.ts";

/** What is put into the circuit besides the railway itself: a meter, or a change of a wire. */
export interface Extra {
  elements: readonly Element[];
  /** A wire, by its name in the circuit, that has this resistance more, ohms. */
  added?: { wire: string; ohms: number };
  /** Terminals that have come loose: the wires at them are open. */
  loose?: ReadonlySet<string>;
  /** How the elements of one build differ from their figures. */
  build?: (element: Element) => Element;
  /** What would flow is wanted, before any supply shuts down. */
  unlimited?: true;
}

/** How the devices of a piece stand in one of the railway's states. */
interface Stood {
  /** The same for states in which they all do the same. */
  key: string;
  /** Until they are solved. */
  states: readonly DeviceState[];
  point: OperatingPoint | null;
}

/**
 * Solves the pieces of a railway: its devices as they stand in a state, or as they are said to, or with something more between them.
 * Solutions are kept with the pieces, by how their devices stand.
 */
export class Solving {
  /** How pieces stand in the railway's states, so that the states of devices need not be worked out again. */
  private readonly stood = new Map<Piece, Map<string, Stood>>();
  private readonly stands: Standing;

  constructor(
    private readonly cut: Cut,
    private readonly roles: Roles,
    private readonly behaviour: Behaviour,
  ) {
    this.stands = new Standing(roles, behaviour);
  }

  /** Takes over how pieces stood before an edit. @param isOtherwise whether the piece of a number may stand otherwise now */
  takeOver(previous: Solving, isOtherwise: (number: number) => boolean): void {
    for (const [number, piece] of this.cut.pieces.entries()) {
      const known = isOtherwise(number) ? undefined : previous.stood.get(piece);
      if (!known) continue;
      this.stood.set(piece, known);
      this.stands.takeOver(previous.stands, piece);
    }
  }

  /** How the devices of a piece stand in a state of the railway. */
  statesOf(piece: Piece, state: RailwayState): readonly DeviceState[] {
    return this.stands.in(piece, state).states;
  }

  /** Elements of a device in a state, those that lie in a piece. @param piece its number */
  elementsIn(piece: number, member: Member, state: DeviceState): Element[] {
    const { state: own, key } = inPart(member.type, state);
    return partsIn(this.cut, piece, member, own, key).map(({ element }) => element);
  }

  /** Solves a piece whose devices stand as given, whatever may have brought them there. @param number of the piece */
  solveAs(number: number, states: readonly DeviceState[]): OperatingPoint {
    const piece = this.cut.pieces[number] as Piece;
    const own = states.map((state, index) => inPart((piece.members[index] as Member).type, state));
    return this.run(
      number,
      piece,
      own.map(({ state }) => state),
      own.map(({ key }) => key),
    );
  }

  /** Solves a piece in a state of the railway. @param number of the piece */
  at(number: number, asked: RailwayState): OperatingPoint {
    const piece = this.cut.pieces[number] as Piece;
    const stood = this.standing(piece, asked);
    if (stood.point) return stood.point;
    const point = piece.solutions.get(stood.key) ?? this.run(number, piece, stood.states, stood.states.map(stateKey));
    piece.solutions.set(stood.key, point);
    stood.point = point;
    // those of many states are many, and are not asked for again
    stood.states = [];
    return point;
  }

  /** How the devices of a piece stand in a state, worked out once. */
  standing(piece: Piece, asked: RailwayState): Stood {
    const state = this.roles.bonds.settle(asked);
    const inPiece = this.stood.get(piece) ?? new Map<string, Stood>();
    this.stood.set(piece, inPiece);
    const name = `${this.behaviour.inquiry} ${nameOfState(state)}`;
    const known = inPiece.get(name);
    if (known) return known;
    const { states, keys } = this.stands.in(piece, state);
    const stood = { key: keys.join("|"), states, point: null };
    inPiece.set(name, stood);
    return stood;
  }

  private run(number: number, piece: Piece, states: readonly DeviceState[], keys: readonly string[]): OperatingPoint {
    const elements: Element[] = [];
    for (const [index, member] of piece.members.entries()) {
      const state = states[index] as DeviceState;
      for (const { element } of partsIn(this.cut, number, member, state, keys[index] ?? "")) elements.push(element);
    }
    elements.push(...piece.wires);
    const circuit = this.circuitOf(piece, elements);
    return this.within(piece, elements, (each) => circuit.operatingPoint(each));
  }

  /** Parts of a piece, as they are in a state; of some devices only. */
  private partsOfPiece(number: number, asked: RailwayState, wanted?: ReadonlySet<string | undefined>): DevicePart[] {
    const piece = this.cut.pieces[number] as Piece;
    const { states, keys } = this.stands.in(piece, this.roles.bonds.settle(asked));
    return piece.members.flatMap((member, place) =>
      !wanted || wanted.has(member.device.id)
        ? partsIn(this.cut, number, member, states[place] as DeviceState, keys[place] ?? "")
        : [],
    );
  }

  /** Elements of a piece, as they are in a state. */
  elementsOf(number: number, state: RailwayState): Element[] {
    const parts = this.partsOfPiece(number, state);
    return [...parts.map(({ element }) => element), ...(this.cut.pieces[number]?.wires ?? [])];
  }

  /** 0 V of a piece: the minus of its first supply; without one, any terminal will do. */
  groundOf(piece: Piece): string {
    if (piece.ground !== "") return piece.ground;
    const [member] = piece.members;
    const [wire] = piece.wires;
    return wire?.nodes[0] ?? (member ? `${member.device.id}:${member.type.terminals[0]?.name}` : "0");
  }

  /** Solves a piece with something more in it. */
  with(number: number, state: RailwayState, extra: Extra): Solved {
    const piece = this.cut.pieces[number] as Piece;
    const parts = this.partsOfPiece(number, state);
    const { added, loose, build } = extra;
    const built = (elements: readonly Element[]) => (build ? elements.map(build) : elements);
    const wires = built(piece.wires).map((wire) => {
      if (wire.kind !== "resistor") return wire;
      if (loose && wire.nodes.some((node) => loose.has(node))) return { ...wire, ohms: OPEN_OHMS };
      return added && wire.id === added.wire ? { ...wire, ohms: wire.ohms + added.ohms } : wire;
    });
    const elements = [...built(parts.map(({ element }) => element)), ...wires, ...extra.elements];
    const circuit = new Circuit({ ground: this.groundOf(piece), elements });
    const solve = (each: readonly Element[]) => circuit.operatingPoint(each);
    const point = extra.unlimited ? solve(elements) : this.within(piece, elements, solve);
    // what a meter puts in a wire's way is no copper
    return { circuit, point, parts, wires: added ? wires.filter(({ id }) => id !== added.wire) : wires };
  }

  /** A piece solved by the circuit that is kept with it, which may be solved otherwise afterwards. */
  inPlace(number: number, state: RailwayState): Solved {
    const piece = this.cut.pieces[number] as Piece;
    const parts = this.partsOfPiece(number, state);
    let elements: readonly Element[] = [...parts.map(({ element }) => element), ...piece.wires];
    const circuit = this.circuitOf(piece, elements);
    const point = this.within(piece, elements, (each) => {
      elements = each;
      return circuit.operatingPoint(each);
    });
    return { circuit, point, parts, wires: piece.wires, bringBack: () => void circuit.operatingPoint(elements) };
  }

  private circuitOf(piece: Piece, elements: readonly Element[]): Circuit {
    piece.circuit ??= new Circuit({ ground: this.groundOf(piece), elements });
    return piece.circuit;
  }

  private within(piece: Piece, elements: readonly Element[], solve: (elements: readonly Element[]) => OperatingPoint) {
    piece.shutDowns ??= shutDownsOf(piece.members);
    return solvedWithin(elements, piece.shutDowns, solve);
  }

  /** The elements of a piece that conduct in a state. @param state a settled one */
  conducting(number: number, state: RailwayState): Element[] {
    const piece = this.cut.pieces[number] as Piece;
    const first = this.at(number, state);
    // most of a piece lies behind open contacts: only what conducts is made
    const names = new Set(first.carrying(LEAKAGE_AMPS));
    const owners = new Set([...names].map((id) => piece.ownerOf.get(id)));
    const elements = this.partsOfPiece(number, state, owners).map(({ element }) => opened(element, first.shut));
    return [...elements, ...piece.wires].filter(({ id }) => names.has(id));
  }

  /** Terminals of a piece that an alternating supply reaches without a diode between. */
  alternatingIn(number: number): ReadonlySet<string> {
    const piece = this.cut.pieces[number] as Piece;
    piece.alternating ??= this.findAlternating(number, piece);
    return piece.alternating;
  }

  private findAlternating(number: number, { members }: Piece): Set<string> {
    const fed = members.flatMap(({ device, type }) =>
      traitsOf(type).gives === "ac" ? [`${device.id}:~1`, `${device.id}:~2`] : [],
    );
    if (fed.length === 0) return new Set();
    const groups = new Groups();
    for (const { kind, nodes } of this.elementsOf(number, RESTING))
      if (kind !== "diode") groups.join(nodes[0], nodes[1]);
    const numbered = groups.numbered();
    const numbers = new Set(fed.map((key) => numbered.get(key)));
    return new Set([...numbered].filter(([, group]) => numbers.has(group)).map(([name]) => name));
  }
}

/** A state without what its type does not depend on, and its key. */
interface InPart {
  type: DeviceType;
  state: DeviceState;
  key: string;
}

const inParts = new WeakMap<DeviceState, InPart>();

/** What of a device's state matters: found out once for a state of a device, as which most stand through many states of their piece. */
function inPart(type: DeviceType, state: DeviceState): InPart {
  const known = inParts.get(state);
  if (known?.type === type) return known;
  const own = stateThatMatters(type, state);
  const made = { type, state: own, key: stateKey(own) };
  inParts.set(state, made);
  return made;
}
