import { traitsOf } from "../../catalogue/traits.ts";
import type { Joiner } from "../nets.ts";
import type { ThreadLamp } from "../thread.ts";
import { joinCommon } from "./lampFromContact.ts";

/**
 * A lamp lit by what drives the motor, or by a board of its own: it knows the last command, not the blades.
 *
 * On a pair each colour lies between one side and the board's 0 V (or its plus, for a common plus). On outputs that pull
 * down, normal is the output named and reverse the next one. A semaphore's servo is driven as a motor's would be.
 */
export function lampFromOutput(lamp: ThreadLamp, joiner: Joiner): void {
  const way = lamp.assignment.way ?? 1;
  const join = (
    purpose: "lamp-normal" | "lamp-reverse" | "dc-plus" | "dc-zero" | "servo-signal",
    out: string,
    to: string,
  ) => {
    const from = { deviceId: lamp.from.device.id, terminal: out };
    joiner.join(purpose, lamp.turnout.id, [from, { deviceId: lamp.device.id, terminal: to }]);
  };
  if (traitsOf(lamp.type).movedBy === "signal") {
    if (lamp.from.type.drives !== "servo") return;
    join("servo-signal", `${way}S`, "S");
    join("dc-plus", `${way}+`, "+");
    join("dc-zero", `${way}−`, "−");
    return;
  }
  const ends = outputEnds(lamp, way);
  if (!ends || !lamp.type.leads) return;
  const [normal, reverse] = lamp.type.leads;
  const { crossed } = lamp.assignment;
  join("lamp-normal", ends.normal, crossed ? reverse : normal);
  join("lamp-reverse", ends.reverse, crossed ? normal : reverse);
  const back = { deviceId: lamp.from.device.id, terminal: ends.common };
  joinCommon(lamp, joiner, ends.common === "+" ? "dc-plus" : "dc-zero", back);
}

/** Terminals of the board that light a lamp, or null when its outputs cannot. */
export function outputEnds({ type, from }: ThreadLamp, way: number) {
  const common = type.commonPlus ? "+" : "−";
  if (from.type.drives === "sink") return { normal: `${way}L`, reverse: `${way + 1}L`, common };
  if (from.type.drives !== "pair") return null;
  const [high, low] = [`${way}A`, `${way}B`];
  return type.commonPlus ? { normal: low, reverse: high, common } : { normal: high, reverse: low, common };
}
