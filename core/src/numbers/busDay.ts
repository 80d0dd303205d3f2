import { eventPlan } from "../events/plan.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread } from "../schematic/thread.ts";
import { busNodes } from "../settings/nodes.ts";
import { frameBits } from "./busLoad.ts";

/** Bit rate that is usual on layouts (common practice). */
const BIT_RATE = 125_000;
/** Nodes that one segment bears, and metres that it may be long at that rate (common practice). */
export const MOST_NODES = 110;
export const MOST_METRES = 100;
/** Bytes of a frame that carries an event, with a 29-bit identifier: 64-bit event identifiers (NMRA S-9.7). */
const EVENT_BYTES = 8;

/** What a control bus carries when all that is on it asks how it stands. */
export interface BusDay {
  nodes: number;
  /** Inputs that produce events, and outputs and lamps that consume them. */
  producers: number;
  consumers: number;
  /** Frames of a start of day: each consumer asks, and is answered. */
  frames: number;
  /** How long these take at worst, milliseconds. */
  milliseconds: number;
  /** Frames that the bus carries in a second at worst. */
  framesPerSecond: number;
}

/** The load of a start of day, of what turnouts use of the nodes. */
export function busDay(record: RailwayRecord, threads: readonly Thread[]): BusDay {
  const { events, outputs } = eventPlan(record, threads);
  const producers = new Set(events.flatMap(({ inputs }) => inputs.map(({ label }) => label)));
  const bits = frameBits(29, EVENT_BYTES);
  const frames = 2 * outputs.length;
  return {
    nodes: busNodes(record).length,
    producers: producers.size,
    consumers: outputs.length,
    ...{ frames, milliseconds: ((frames * bits) / BIT_RATE) * 1000, framesPerSecond: BIT_RATE / bits },
  };
}
