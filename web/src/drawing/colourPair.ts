import type { WireColour } from "@alderman/core";

/** The two colours of a wire: its own and that of its stripe, the same for a plain one. */
export function colourPair(colour: WireColour): [string, string] {
  return [`var(--w-${colour.slice(0, 2)})`, `var(--w-${colour.slice(-2)})`];
}
