import type { EventAction } from "../record/numbers.ts";
import type { Position } from "../record/schemas.ts";
import { controlSides, isSingle, staysMade } from "../schematic/recipes/controlSides.ts";
import type { ThreadControl } from "../schematic/thread.ts";

/** A message on the bus: the event of an input, in its on or its off form. */
export interface Message {
  way: number;
  form: "on" | "off";
}

/** An input that a control is read at, and what it is made for: a position, or each press. */
export interface ControlInput {
  way: number;
  makes: Position | "press";
}

/** The numbered inputs at which a control is read, as its sides are wired to them. */
export function inputsOf(control: ThreadControl): ControlInput[] {
  const { reader, type, assignment } = control;
  if (!reader) return [];
  const sides = controlSides(control);
  if (sides.press !== null) return [{ way: reader.way, makes: "press" }];
  const reverse = isSingle(type, assignment) ? reader.way : reader.way + 1;
  const inputs: ControlInput[] = [];
  if (sides.N !== null) inputs.push({ way: reader.way, makes: "N" });
  if (sides.R !== null) inputs.push({ way: reverse, makes: "R" });
  return inputs;
}

/**
 * What goes over the bus when a control asks for a position, in its order: one that stays put opens one input and closes the
 * other, one that lets go closes its input and opens it again, and an input that counts presses sends on and off in turn.
 */
export function messagesOf(control: ThreadControl, asked: Position): Message[] {
  const inputs = inputsOf(control);
  const stays = staysMade(control);
  const opened: Message[] = [];
  const closed: Message[] = [];
  for (const { way, makes } of inputs) {
    if (makes === "press") closed.push({ way, form: asked === "R" ? "on" : "off" });
    else if (makes === asked) closed.push({ way, form: "on" }, ...(stays ? [] : [{ way, form: "off" } as const]));
    else if (stays) opened.push({ way, form: "off" });
  }
  return [...opened, ...closed];
}

/**
 * What an output is after a message that it acts upon.
 * @returns null when it stays as it was
 */
export function afterMessage(action: EventAction, form: Message["form"]): boolean | null {
  switch (action) {
    case "acts":
      return form === "on";
    case "inverted":
      return form === "off";
    case "on":
      return form === "on" ? true : null;
    case "off":
      return form === "on" ? false : null;
  }
}

/** An action with its polarity turned. */
export function turned(action: EventAction): EventAction {
  return TURNED[action];
}

const TURNED: Record<EventAction, EventAction> = { acts: "inverted", inverted: "acts", on: "off", off: "on" };

/**
 * What an output is to do upon the event of an input so that it is on when a turnout lies in a position; null where another
 * input of the control says it already.
 * @param input of the control
 * @param onAt position at which the output is on
 */
export function plainAction(control: ThreadControl, input: ControlInput, onAt: Position): EventAction | null {
  const { makes } = input;
  if (makes === "press") return onAt === "R" ? "acts" : "inverted";
  if (!staysMade(control)) return makes === onAt ? "on" : "off";
  // one that stays put says all by one of its inputs: that of its reverse side, when it has one
  const says = inputsOf(control).at(-1)?.way;
  if (input.way !== says) return null;
  return makes === onAt ? "acts" : "inverted";
}
