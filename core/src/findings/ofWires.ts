import type { Wire } from "../loom/wire.ts";
import { devicesOfThread, type Thread } from "../schematic/thread.ts";

/** The threads for whose sake some wires are laid, or at whose devices they end. */
export function threadsOfWires(threads: readonly Thread[], wires: readonly Wire[]): Thread[] {
  const turnouts = new Set(wires.map(({ turnoutId }) => turnoutId));
  const devices = new Set(wires.flatMap(({ from, to }) => [from.of?.deviceId, to.of?.deviceId]));
  return threads.filter(
    (thread) =>
      [thread.turnout, ...thread.followers].some(({ id }) => turnouts.has(id)) ||
      devicesOfThread(thread).some((id) => devices.has(id)),
  );
}
