import { type Named, type OutputAddress, type RailwayRecord, readingInputs, typeOf } from "@alderman/core";
import { useCallback, useEffect, useMemo, useState, useSyncExternalStore } from "react";
import { useEvents } from "../../../derivation/useEvents.ts";
import { type LiveLine, lineOfRailway } from "../../../live/liveLine.ts";
import { LiveError } from "../../../live/liveServer.ts";

/** The line of the railway that is shown, what its messages name, and trying something with what went wrong in its place. */
export function useLive(railwayId: string, record: RailwayRecord, outputs: readonly OutputAddress[]) {
  const line: LiveLine = lineOfRailway(railwayId);
  useSyncExternalStore(line.subscribe, () => line.status);
  const [problem, setProblem] = useState<string | null>(null);
  const attempt = useCallback(async (work: () => Promise<unknown>) => {
    setProblem(null);
    try {
      await work();
    } catch (error) {
      if (!(error instanceof LiveError)) throw error;
      setProblem(error.message);
    }
  }, []);
  useEffect(() => {
    void attempt(() => line.look());
  }, [line, attempt]);
  const { plan } = useEvents(record);
  const named = useMemo((): Named => {
    const drives = new Map(outputs.flatMap(({ label, throws }) => (throws ? [[label, throws] as const] : [])));
    for (const { label, drives: what } of plan.outputs) if (what) drives.set(label, what);
    for (const event of plan.events)
      for (const { label, reads } of event.inputs) if (reads) drives.set(label, reads.replace(", made", ""));
    return { plan, shift: record.railway.addressShift, drives };
  }, [plan, outputs, record]);
  return { line, problem, clearProblem: () => setProblem(null), attempt, named };
}

/** Whether there is anything that could be live: decoders, nodes or encoders. */
export function canBeLive(record: RailwayRecord): boolean {
  return record.devices.some((device) => {
    const type = typeOf(record, device);
    return type.hears === "track" || type.hears === "bus" || readingInputs(type) > 0;
  });
}
