import { traitsOf } from "../../catalogue/traits.ts";
import type { Joiner } from "../nets.ts";
import type { Fitted, Thread, ThreadMotor } from "../thread.ts";
import { leads } from "./outputToMotor.ts";

/**
 * A relay that lends contacts to a frog or lamp has its coil beside the motor: across a stall motor's leads so that it
 * picks up at reverse, or coil beside coil of a twin-coil motor.
 */
export function relayBesideMotor(thread: Thread, joiner: Joiner): void {
  for (const { relay, motor } of relaysOf(thread)) {
    const [first, second] = leads(motor);
    const pairs: [string, string][] =
      traitsOf(relay.type).relay === "held"
        ? [
            [second, "A1"],
            [first, "A2"],
          ]
        : [
            [first, "N"],
            ["C", "C"],
            [second, "R"],
          ];
    for (const [index, [atMotor, atRelay]] of pairs.entries()) {
      const purpose = index === 0 ? "to-reverse" : "to-normal";
      joiner.join(purpose, motor.turnout.id, [
        { deviceId: motor.device.id, terminal: atMotor },
        { deviceId: relay.device.id, terminal: atRelay },
      ]);
    }
  }
}

/** The relays that feed a thread's frogs or lamp, each with the motor it lies beside. */
export function relaysOf(thread: Thread): { relay: Fitted; motor: ThreadMotor }[] {
  const found = new Map<string, { relay: Fitted; motor: ThreadMotor }>();
  const add = (from: Fitted | null, turnoutId: string) => {
    const motor = thread.motors.find(({ turnout }) => turnout.id === turnoutId) ?? thread.motors[0];
    if (!from || !motor || !isRelay(from) || found.has(from.device.id)) return;
    const fits = (traitsOf(from.type).relay === "held") === (traitsOf(motor.type).movedBy === "reversal");
    if (fits) found.set(from.device.id, { relay: from, motor });
  };
  for (const frog of thread.frogs) add(frog.from, frog.turnout.id);
  for (const lamp of thread.lamps) add(lamp.from, lamp.turnout.id);
  return [...found.values()];
}

export function isRelay({ type }: Fitted): boolean {
  return traitsOf(type).relay === "held" || traitsOf(type).relay === "latching";
}
