import type { Position } from "../record/schemas.ts";
import { controlsOf, type Thread, type ThreadControl } from "../schematic/thread.ts";
import { ownOf } from "../units/ownOf.ts";

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
  /** Control by which the acting turnout is thrown or held, by its assignment; its first one when not said. */
  by?: string;
  /**
   * Leaders of turnouts that are thrown along with the acting one, and the assignment of the control that does it; null
   * for those that hang on its output.
   */
  also?: ReadonlyMap<string, string | null>;
}

/** Nothing touched, everything at normal. */
export const RESTING: RailwayState = { asked: {}, moment: "rest", acting: null, off: false };

/** In place of one turnout: all of them at once, as at the start of a day. */
export const EVERY = "*";

/** Of a control that has just been pressed, nothing else touched. */
export const PRESSED = { moment: "throwing", off: false } as const;

const names = new WeakMap<RailwayState, string>();

/** The same for states that ask for the same, whatever order their turnouts are named in; found out once for a state. */
export function nameOfState(state: RailwayState): string {
  const known = names.get(state);
  if (known !== undefined) return known;
  const { asked, otherwise = "N", moment, acting, off, half = 1, by = "", also = [] } = state;
  const others = Object.entries(asked).filter(([, position]) => position !== otherwise);
  const name = `${others.map(([id]) => id).sort()}|${otherwise}|${moment}|${acting}|${off}|${half}|${by}|${[...also]}`;
  names.set(state, name);
  return name;
}

const otherHalves = new WeakMap<RailwayState, RailwayState>();

/** A state in its own half cycle and in the other one; the same two for the same state. */
export function bothHalves(state: RailwayState): [RailwayState, RailwayState] {
  const other: RailwayState = otherHalves.get(state) ?? { ...state, half: state.half === -1 ? 1 : -1 };
  otherHalves.set(state, other);
  return [state, other];
}

/** Position asked of a turnout by its leader's identifier. */
export function askedOf(state: RailwayState, leaderId: string): Position {
  return ownOf(state.asked, leaderId) ?? state.otherwise ?? "N";
}

/** Whether a turnout is being thrown or held. */
export function isActing({ acting, also }: RailwayState, leader: string): boolean {
  return acting === leader || acting === EVERY || (also?.has(leader) ?? false);
}

/** The control by which a turnout is thrown, by its assignment; undefined for its first one, null for none of its own. */
export function heldBy({ acting, by, also }: RailwayState, leader: string): string | null | undefined {
  return acting === leader ? by : also?.get(leader);
}

/** Whether a control is the one that asks for a position: the one named by its assignment, or any that can. */
export function acts({ assignment }: ThreadControl, asked: Position, by: string | null | undefined): boolean {
  return (assignment.to === null || assignment.to === asked) && (by === undefined || by === assignment.id);
}

/** The control of a thread that asks for a position, if any. @param by the one that is held, as `heldBy` tells */
export function actsFor(thread: Thread, asked: Position, by: string | null | undefined): ThreadControl | undefined {
  return controlsOf(thread).find((control) => acts(control, asked, by));
}

/** A position, or the other one when it is turned. */
export function turnedIf(turned: boolean, position: Position): Position {
  if (!turned) return position;
  return position === "N" ? "R" : "N";
}
