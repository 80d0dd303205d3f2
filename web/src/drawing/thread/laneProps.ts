import type { Finding, Thread, ThreadReading } from "@alderman/core";
import type { Wiring } from "./wiring.ts";

/** Number of the blades among the links; contact and lamp follow. */
export interface Numbered {
  first: number;
}

/** What a lane of the thread is drawn from. */
export interface LaneProps {
  thread: Thread;
  reading: ThreadReading | null;
  wiring: Wiring;
  findings: readonly Finding[];
}

/** Heights of the conductors on the way out and on the way back. */
export const OUT_ROWS = [84, 124, 164];
export const BACK_ROWS = [330, 370, 410];
