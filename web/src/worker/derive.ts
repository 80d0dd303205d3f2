import type { RailwayRecord } from "@alderman/core";
import { type Remote, wrap } from "comlink";
import { useEffect, useSyncExternalStore } from "react";
import { useAppSelector } from "../store/store.ts";
import type { DeriveWorker, Focus, FocusResult, Overview, ProvingCounts } from "./derive.worker.ts";

/** The latest results; a part is null until it has been worked out once. */
export interface Results {
  /** Record that the overview belongs to. */
  record: RailwayRecord | null;
  overview: Overview | null;
  focus: FocusResult | null;
  proving: ProvingCounts | null;
  /** Sentence for the owner when something could not be worked out. */
  failure: string | null;
  busy: boolean;
}

let results: Results = { record: null, overview: null, focus: null, proving: null, failure: null, busy: false };
const listeners = new Set<() => void>();
let remote: Remote<DeriveWorker> | null = null;
let wanted: { record: RailwayRecord | null; focus: Focus | null } = { record: null, focus: null };
let done: { record: RailwayRecord | null; focus: Focus | null; proving: RailwayRecord | null } = {
  record: null,
  focus: null,
  proving: null,
};
let running = false;

function publish(change: Partial<Results>): void {
  results = { ...results, ...change };
  for (const listener of listeners) listener();
}

/**
 * Works out what is wanted, the newest only: whatever was asked for while the worker was busy is passed over when
 * something newer has come in since.
 */
async function work(): Promise<void> {
  if (running) return;
  running = true;
  remote ??= wrap<DeriveWorker>(new Worker(new URL("./derive.worker.ts", import.meta.url), { type: "module" }));
  try {
    for (;;) {
      const { record, focus } = wanted;
      if (record && record !== done.record) {
        publish({ busy: true });
        const overview = await remote.overview(record);
        done = { record, focus: null, proving: null };
        if (wanted.record === record) publish({ record, overview, failure: null });
      } else if (record && focus && focus !== done.focus) {
        const result = await remote.focus(focus);
        done.focus = focus;
        if (wanted.focus === focus) publish({ focus: result, busy: false });
      } else if (record && done.proving !== record) {
        const proving = await remote.proving();
        done.proving = record;
        publish({ proving, busy: false });
      } else break;
    }
  } catch (error) {
    done = { record: wanted.record, focus: wanted.focus, proving: wanted.record };
    publish({ failure: error instanceof Error ? error.message : String(error), busy: false });
  } finally {
    running = false;
    publish({ busy: false });
  }
}

/** Keeps the worker at what the store shows; to be used once, by the frame. */
export function useDeriving(): void {
  const record = useAppSelector((state) => state.railway.record);
  const view = useAppSelector((state) => state.view);
  const { asked, moment, red, black, range } = view;
  const turnoutId = useLeader();
  useEffect(() => {
    wanted = {
      record,
      focus: { turnoutId, asked, moment, red: red?.key ?? null, black: black?.key ?? null, range },
    };
    if (record === null) {
      done = { record: null, focus: null, proving: null };
      publish({ record: null, overview: null, focus: null, proving: null });
    } else void work();
  }, [record, turnoutId, asked, moment, red, black, range]);
}

/** Leader of the chosen turnout, or null when none is chosen or it is gone. */
export function useLeader(): string | null {
  return useAppSelector(({ railway, view }) => {
    const turnout = railway.record?.turnouts.find((each) => each.id === view.turnoutId);
    return turnout ? (turnout.movesWith ?? turnout.id) : null;
  });
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
