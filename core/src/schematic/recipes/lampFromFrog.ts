import { traitsOf } from "../../catalogue/traits.ts";
import type { Joiner } from "../nets.ts";
import type { Thread, ThreadLamp } from "../thread.ts";
import { wantedRail } from "./frogFeed.ts";

/**
 * Two lamps from the frog to either stock rail: the one lights whose rail the frog does not carry. They know the frog's
 * polarity, and both glow dimly when the frog is dead.
 */
export function lampFromFrog(thread: Thread, lamp: ThreadLamp, joiner: Joiner): void {
  if (!lamp.type.leads || traitsOf(lamp.from.type).inTrack !== "frog") return;
  const turnout = thread.frogs.find(({ device }) => device.id === lamp.from.device.id)?.turnout ?? lamp.turnout;
  const [normal, reverse, common] = lamp.type.leads;
  const carriedAtNormal = wantedRail(turnout.hand, "N");
  const otherAtNormal = carriedAtNormal === "L" ? "R" : "L";
  const { crossed } = lamp.assignment;
  for (const [purpose, terminal, rail] of [
    ["lamp-normal", crossed ? reverse : normal, otherAtNormal],
    ["lamp-reverse", crossed ? normal : reverse, carriedAtNormal],
    ["frog", common, "F"],
  ] as const) {
    joiner.join(purpose, lamp.turnout.id, [
      { deviceId: lamp.from.device.id, terminal: rail },
      { deviceId: lamp.device.id, terminal },
    ]);
  }
}
