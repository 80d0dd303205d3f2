import type {
  Consequence,
  EditGroup,
  Finding,
  LaidAs,
  Loom,
  Remedy,
  RoutePress,
  Thread,
  UnitDesign,
} from "@alderman/core";
import { useEffect, useState } from "react";
import { useRecord } from "../session/hooks.ts";
import { type AppThunk, useAppDispatch, useAppSelector } from "../store/store.ts";
import { choose } from "../store/view.ts";
import type { FocusResult } from "./derive.worker.ts";
import type { Results } from "./deriver.ts";
import { leaderOf } from "./focus.ts";
import { loomIn, type Overview } from "./overview.ts";

/** The latest results of the worker. What needs one of them only asks for that, so that it is not drawn anew for the others. */
export function useResults(): Results {
  return useAppSelector(({ derivation }) => derivation);
}

/** What was worked out of the whole railway; null before it is there. */
export function useOverview(): Overview | null {
  return useAppSelector(({ derivation }) => derivation.overview);
}

/** The loom as it was worked out; null before all of it is there. */
export function useLoom(): Loom | null {
  return loomIn(useOverview());
}

/** What was worked out of the thread that is looked at. */
export function useFocusResult(): FocusResult | null {
  return useAppSelector(({ derivation }) => derivation.focus);
}

/** Leader of the chosen turnout, or null when none is chosen or it is gone. */
export function useLeader(): string | null {
  return useAppSelector(leaderOf);
}

/** The thread of the chosen turnout; the first one is chosen when none is. */
export function useChosenThread(): Thread | undefined {
  const overview = useOverview();
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const first = overview?.threads[0]?.turnout.id;
  useEffect(() => {
    if (leader === null && first) dispatch(choose({ kind: "turnout", id: first }));
  }, [leader, first, dispatch]);
  return overview?.threads.find(({ turnout }) => turnout.id === leader);
}

/** What an edit would do to the findings, before it is made. */
export function askConsequences(group: EditGroup): AppThunk<Promise<Consequence | null>> {
  return (_dispatch, _getState, { checker }) => checker.consequences(group);
}

/** A net laid in each way, with what it takes and what arrives. @param id of the net */
export function askLayings(of: { netId: string } | { zoneId: string }): AppThunk<Promise<LaidAs[]>> {
  return (_dispatch, _getState, { checker }) => checker.layings(of);
}

/** The button of a route pressed, as the railway is built now. */
export function askRoutePress(boardId: string, key: string): AppThunk<Promise<RoutePress | null>> {
  return (_dispatch, _getState, { checker }) => checker.routePress(boardId, key);
}

/** What the discharge units of routes could be. */
export function askUnitDesigns(): AppThunk<Promise<UnitDesign[]>> {
  return (_dispatch, _getState, { checker }) => checker.unitDesigns();
}

/**
 * The remedies of a finding that cure it, in their order, as far as they were made and solved; those of no use here are
 * among them.
 */
export function useCures(finding: Finding): { cures: Remedy[]; solving: boolean } {
  const dispatch = useAppDispatch();
  const record = useRecord();
  const [known, setKnown] = useState<{ of: Finding; verdicts: ReadonlyMap<string, boolean> } | null>(null);
  useEffect(() => {
    let gone = false;
    // of the same finding the earlier verdicts stand until they are known anew
    setKnown((now) => (now?.of === finding ? now : { of: finding, verdicts: new Map() }));
    if (!record) return;
    for (const { label, group } of finding.remedies) {
      if (!group) continue;
      void dispatch(askCures(finding.key, label)).then((cures) => {
        if (gone || cures === null) return;
        setKnown((now) =>
          now?.of === finding ? { of: finding, verdicts: new Map(now.verdicts).set(label, cures) } : now,
        );
      });
    }
    return () => {
      gone = true;
    };
  }, [finding, record, dispatch]);
  const verdicts = known?.of === finding ? known.verdicts : NO_VERDICTS;
  return {
    cures: finding.remedies.filter(({ label, group }) => !group || verdicts.get(label)),
    solving: finding.remedies.some(({ label, group }) => group && !verdicts.has(label)),
  };
}

const NO_VERDICTS: ReadonlyMap<string, boolean> = new Map();

function askCures(key: string, label: string): AppThunk<Promise<boolean | null>> {
  return (_dispatch, _getState, { checker }) => checker.cures(key, label);
}

/** Starts the worker anew after it failed. */
export function checkAgain(): AppThunk {
  return (_dispatch, _getState, { checker }) => checker.restart();
}
