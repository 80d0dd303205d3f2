import type { Position } from "../record/schemas.ts";
import type { Throw } from "./piece.ts";
import type { Pulse } from "./pulse.ts";
import type { RailwayState } from "./states.ts";

/** What the behaviour of devices is found out from: the solved circuit. */
export interface Solver {
  /** Devices and wires through which more than leakage flows, of the piece that holds an element. */
  liveIn(elementId: string, state: RailwayState): readonly string[];
  amps(deviceId: string, part: string, state: RailwayState): number;
  volts(plus: string, minus: string, state: RailwayState): number | undefined;
  pulse(motorId: string, coil: Position, state: RailwayState): Pulse | null;
  /** What is known of where motors go, kept with the piece that holds an element. */
  throwsOf(elementId: string): Map<string, Throw> | undefined;
}
