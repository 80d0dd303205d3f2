import type { FoundWay, RailwayRecord, Wanted } from "@alderman/core";
import { wrap } from "comlink";
import { useEffect, useState } from "react";
import type { WaysWorker } from "./ways.worker.ts";

/** What was found so far; null while it is looked for. */
export type Found = { ways: FoundWay[]; isAll: boolean } | { failed: string } | null;

/** Ways between two places, looked for in a thread of its own: another wish, or another line, ends it. */
export function useWays(record: RailwayRecord, wanted: Wanted | null): Found {
  const [found, setFound] = useState<Found>(null);
  const { from = "", to = "", via = [] } = wanted ?? {};
  const over = via.join();
  const { tracks, spots, marks, turnouts, assignments } = record;
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the ways follow from; the rest of the record is nothing to them
  useEffect(() => {
    setFound(null);
    if (from === "" || to === "") return;
    const thread = new Worker(new URL("./ways.worker.ts", import.meta.url), { type: "module" });
    let isWanted = true;
    const failed = () => isWanted && setFound({ failed: "Looking for ways ended by itself. Choose them once more." });
    thread.addEventListener("error", failed);
    wrap<WaysWorker>(thread)
      .find(
        { ...record, wires: [], tests: [], readings: [], photos: [] },
        { from, to, via: over === "" ? [] : over.split(",") },
      )
      .then((all) => isWanted && setFound(all))
      .catch(failed)
      .finally(() => thread.terminate());
    return () => {
      isWanted = false;
      thread.terminate();
    };
  }, [from, to, over, tracks, spots, marks, turnouts, assignments]);
  return found;
}
