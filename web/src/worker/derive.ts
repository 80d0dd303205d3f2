import type { Consequence, EditGroup, Thread } from "@alderman/core";
import { wrap } from "comlink";
import { useEffect, useMemo, useSyncExternalStore } from "react";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { choose } from "../store/view.ts";
import type { DeriveWorker } from "./derive.worker.ts";
import { type AskWorker, Deriver, NO_RESULTS, type Results } from "./deriver.ts";

let results = NO_RESULTS;
const listeners = new Set<() => void>();
let remote: AskWorker | null = null;

function worker(): AskWorker {
  remote ??= wrap<DeriveWorker>(
    new Worker(new URL("./derive.worker.ts", import.meta.url), { type: "module" }),
  ) as AskWorker;
  return remote;
}

const deriver = new Deriver(worker, (latest) => {
  results = latest;
  for (const listener of listeners) listener();
});

/** What an edit would do to the findings, asked of the worker before it is made. */
export function askConsequences(group: EditGroup): Promise<Consequence | null> {
  return worker().consequences(group);
}

/** Keeps the worker at what the store shows; to be used once, by the frame. */
export function useDeriving(): void {
  const whole = useAppSelector((state) => state.railway.record);
  // pictures weigh more than everything else, and nothing is derived from them
  const record = useMemo(() => whole && { ...whole, photos: [] }, [whole]);
  const { asked, by, moment, red, black, range, lamp } = useAppSelector((state) => state.view);
  const turnoutId = useLeader();
  const control = (turnoutId && by[turnoutId]) ?? null;
  useEffect(() => {
    deriver.want(record, {
      turnoutId,
      asked,
      by: control,
      moment,
      red: red?.key ?? null,
      black: black?.key ?? null,
      range,
      lamp,
    });
  }, [record, turnoutId, asked, control, moment, red, black, range, lamp]);
}

/** Leader of the chosen turnout, or null when none is chosen or it is gone. */
export function useLeader(): string | null {
  return useAppSelector(({ railway, view }) => {
    const turnout = railway.record?.turnouts.find((each) => each.id === view.turnoutId);
    return turnout ? (turnout.movesWith ?? turnout.id) : null;
  });
}

/** The thread of the chosen turnout; the first one is chosen when none is. */
export function useChosenThread(): Thread | undefined {
  const { overview } = useResults();
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const first = overview?.threads[0]?.turnout.id;
  useEffect(() => {
    if (leader === null && first) dispatch(choose(first));
  }, [leader, first, dispatch]);
  return overview?.threads.find(({ turnout }) => turnout.id === leader);
}

/** The latest results of the worker. */
export function useResults(): Results {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => results,
  );
}
