import type { Joiner } from "../nets.ts";
import { controlsOf, type Fitted, type Thread, type ThreadControl } from "../thread.ts";
import { controlSides, isSingle } from "./controlSides.ts";
import { joinThroughLock } from "./lockOut.ts";

/** Inputs at which a board hears a control: one for each position, or one for each press. */
export interface Heard {
  board: Fitted;
  /** Number of the input, or of the output that it stands beside. */
  way: number;
  /** 0 V of the inputs. */
  common: string;
  N: string;
  R: string;
  press: string;
}

/**
 * Where a control of a thread is heard: at numbered inputs, when a board reads it, else at the driver's own inputs
 * beside the output; null when nothing hears it.
 */
export function heardAt(thread: Thread, control: ThreadControl): Heard | null {
  const { reader } = control;
  if (reader) {
    const first = `I${reader.way}`;
    const single = isSingle(control.type, control.assignment);
    return {
      board: reader,
      way: reader.way,
      common: "0",
      N: first,
      R: single ? first : `I${reader.way + 1}`,
      press: first,
    };
  }
  const driver = thread.motors[0]?.driver;
  if (!driver?.type.ownInputs || driver.way === null) return null;
  const input = `I${driver.way}`;
  return { board: driver, way: driver.way, common: "0", N: `${input}N`, R: `${input}R`, press: `${input}T` };
}

/** A control closes a board's inputs to their common: one input for each position, or one for each press. */
export function controlToInputs(thread: Thread, joiner: Joiner): void {
  for (const control of controlsOf(thread)) {
    const heard = heardAt(thread, control);
    if (!heard) continue;
    const sides = controlSides(control);
    const id = thread.turnout.id;
    const join = (purpose: "ask-normal" | "ask-reverse" | "ask-other", from: string | null, to: string) => {
      if (from === null) return;
      const ends = [
        { deviceId: control.device.id, terminal: from },
        { deviceId: heard.board.device.id, terminal: to },
      ];
      joiner.join(purpose, id, ends);
    };
    join("ask-normal", sides.N, heard.N);
    join("ask-reverse", sides.R, heard.R);
    join("ask-other", sides.press, heard.press);
    const zero = { deviceId: heard.board.device.id, terminal: heard.common };
    const common = { deviceId: control.device.id, terminal: sides.common };
    joinThroughLock(control, joiner, "dc-zero", id, zero, [common, zero]);
  }
}
