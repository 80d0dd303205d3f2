import type { DeviceType } from "../../catalogue/deviceType.ts";
import { type Asks, traitsOf } from "../../catalogue/traits.ts";
import type { AssignmentOf, Position } from "../../record/schemas.ts";
import type { ThreadControl } from "../thread.ts";

/** Terminals by which a control asks for a position of its turnout. */
export interface ControlSides {
  common: string;
  /** Made when it asks for the position; null when it cannot ask for it. */
  N: string | null;
  R: string | null;
  /** Made at each press, when one button asks for the other position each time. */
  press: string | null;
}

/** Where a control is made, by position of the turnout: a control labelled for the other line has its sides exchanged. */
export function controlSides(control: ThreadControl): ControlSides {
  const { type, assignment } = control;
  const { to, inverse, follows } = assignment;
  const way = assignment.way ?? 1;
  const single = (terminal: string, common: string): ControlSides => ({
    common,
    N: to === "N" || (follows && inverse) ? terminal : null,
    R: to === "R" || (follows && !inverse) ? terminal : null,
    press: to === null && !follows ? terminal : null,
  });
  // what is followed has one contact, made on its reverse side
  const both = (n: string, r: string, common: string): ControlSides =>
    follows ? single(r, common) : { common, N: inverse ? r : n, R: inverse ? n : r, press: null };
  const { asks, inTrack } = traitsOf(type);
  if (inTrack === "detector") return single(`O${way}`, "0");
  if (inTrack === "spot-sensor") return single("O1", "−");
  // the side of a reversed pair that stands low asks
  if (type.drives === "pair") return both(`${way}B`, `${way}A`, "−");
  switch (asks) {
    case "press":
      return type.poles === undefined ? single("N", "C") : single(`${way}N`, `${way}C`);
    case "poles":
      // each pole is a changeover of its own; a board's inputs need one of them
      return both(`${way}N`, `${way}R`, `${way}C`);
    case "position":
      return assignment.way === null ? both("1", "2", "C") : single(`${way}`, "C");
    case "signal":
      return both("N", "R", "−");
    default:
      return both("N", "R", "C");
  }
}

/**
 * Whether a control has one contact only to ask with, and so takes one input of a board that reads it: it asks for one
 * position, for the other one each time, or is followed.
 */
export function isSingle(type: DeviceType, { to, follows }: Pick<AssignmentOf<"control">, "to" | "follows">): boolean {
  const { asks, inTrack } = traitsOf(type);
  return follows || to !== null || asks === "press" || inTrack === "detector" || inTrack === "spot-sensor";
}

/** How a control asks its turnout: a toggle of two poles reverses with both, unless one of them is named. */
export function asksBy(control: Pick<ThreadControl, "type" | "assignment"> | null | undefined): Asks | null {
  const { asks } = traitsOf(control?.type);
  return asks === "poles" && control?.assignment.way !== null ? "side" : asks;
}

/** Whether a control goes on asking when nobody touches it: one that stays put, or the reversed pair of an output. */
export function staysMade({ type, assignment }: Pick<ThreadControl, "type" | "assignment">): boolean {
  return assignment.follows || type.maintained === true || type.drives === "pair";
}

/** On which of its own sides a control stands when it asks for a position of the turnout. */
export function sideMade({ assignment }: Pick<ThreadControl, "assignment">, asked: Position): Position {
  if (!assignment.inverse) return asked;
  return asked === "N" ? "R" : "N";
}

/** Whether a control sends current itself, instead of asking a board. */
export function switchesCurrent(control: ThreadControl): boolean {
  const asks = asksBy(control);
  return asks === "side" || asks === "press" || asks === "position";
}
