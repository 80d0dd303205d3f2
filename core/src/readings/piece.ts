import type { DeviceType } from "../catalogue/deviceType.ts";
import type { Circuit } from "../circuit/circuit.ts";
import type { Element } from "../circuit/elements.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import type { Device, Position } from "../record/schemas.ts";
import type { DevicePart, DeviceState } from "./kit.ts";
import { LEAKAGE_AMPS, type Pulses } from "./pulse.ts";

/** A device as a piece of circuit holds it. */
export interface Member {
  device: Device;
  type: DeviceType;
  /** What its state depends on beyond its type: whose thread it is in, which outputs are in use. */
  role: string;
  /** Its parts in each state that was asked for, those that lie in this piece only. */
  parts: Map<string, DevicePart[]>;
  /** All its parts in each state that was asked for, the same for all pieces in which it lies and as long as no edit changes them. */
  all: Map<string, DevicePart[]>;
}

/**
 * What is joined by wires or elements whatever the state, as one circuit with all the solutions found for it. A piece that
 * an edit did not touch is taken over with its solutions.
 */
export interface Piece {
  /** All that its solutions depend on. */
  signature: string;
  /** The same without the values of wires and the figures of types: pieces alike in it share an order of elimination. */
  structure: string;
  /** Values by the name of a wire or the identifier of a device. */
  values: ReadonlyMap<string, number>;
  members: Member[];
  wires: Element[];
  ground: string;
  /** A track bus is among its members. */
  onTrack: boolean;
  /** Something in it may hold volts or drive a current; in the others, as of contacts that nothing is wired to, nothing can flow. */
  canFlow: boolean;
  /** Terminals that an alternating supply reaches; worked out when first asked for. */
  alternating: ReadonlySet<string> | null;
  /** Supplies that shut down by themselves, and from which current on; worked out when first asked for. */
  shutDowns: ReadonlyMap<string, number> | null;
  /** Made when first solved. */
  circuit: Circuit | null;
  /** Solutions by the states of the members. */
  solutions: Map<string, OperatingPoint>;
  /** Device that each element belongs to; wires belong to none. */
  ownerOf: Map<string, string>;
  /** Where its motors go, by motor and what is asked, as far as it was found out. */
  goesTo: Map<string, Throw>;
  /** Pulses through its coils, by the states of the members. */
  pulses: Map<string, Followed>;
  /** Currents of short circuits that were looked at, by their ends and the state. */
  shorts: Map<string, { amps: number; volts: number }>;
}

/** Where a motor goes, and the devices and wires that carried current while that was found out. */
export interface Throw {
  to: Position | null;
  live: readonly string[] | null;
}

/** What the coils of a piece get in a throw, and the devices and wires that carry current in its first instant. */
export interface Followed {
  coils: Pulses;
  live: readonly string[];
}

/** A piece of which nothing is known yet. */
export function emptyPiece(): Piece {
  return {
    signature: "",
    structure: "",
    values: new Map(),
    members: [],
    wires: [],
    ground: "",
    onTrack: false,
    canFlow: false,
    alternating: null,
    shutDowns: null,
    circuit: null,
    solutions: new Map(),
    ownerOf: new Map(),
    goesTo: new Map(),
    pulses: new Map(),
    shorts: new Map(),
  };
}

/** What still holds of a piece when some of its values have changed: its circuit, and solutions, throws and pulses through none of the changed ones. */
export function carriedOver(
  before: Piece,
  values: ReadonlyMap<string, number>,
): Pick<Piece, "circuit" | "goesTo" | "pulses" | "solutions"> {
  const changed = new Set(
    [...values].filter(([name, value]) => before.values.get(name) !== value).map(([name]) => name),
  );
  const stands = ({ live }: { live: readonly string[] | null }) =>
    live !== null && !live.some((name) => changed.has(name));
  const goesTo = [...before.goesTo].filter(([, thrown]) => stands(thrown));
  const pulses = [...before.pulses].filter(([, followed]) => stands(followed));
  const wires = before.wires.filter(({ id }) => changed.has(id));
  // another device may carry what this one did not: only wires through which nothing flows leave everything as it was
  const solutions = wires.length < changed.size ? [] : [...before.solutions].filter(([, at]) => isPastAll(wires, at));
  return { circuit: before.circuit, goesTo: new Map(goesTo), pulses: new Map(pulses), solutions: new Map(solutions) };
}

/** Whether no more than leakage flows through wires, before supplies shut down and after it. */
function isPastAll(wires: readonly Element[], at: OperatingPoint): boolean {
  const carries = (id: string, point: OperatingPoint) => Math.abs(point.amps(id) ?? 0) > LEAKAGE_AMPS;
  return !wires.some(({ id }) => carries(id, at) || carries(id, at.prospective));
}

/** A state in few characters, by which solutions are kept. */
export function stateKey({
  off,
  half,
  made,
  contacts,
  moving,
  blocked,
  outputs,
  on,
  standing,
  charged,
}: DeviceState): string {
  const asked = outputs.size > 0 ? [...outputs].map(([way, position]) => `${way}${position}`).join("") : "";
  const active = on.size > 0 ? `+${[...on].join(",")}` : "";
  const there = standing.size > 0 ? `#${[...standing].join(",")}` : "";
  return `${off ? 1 : 0}${half}${made ?? "-"}${contacts ?? "-"}${moving ? 1 : blocked ? 2 : 0}${asked}${active}${there}${charged ?? ""}`;
}
