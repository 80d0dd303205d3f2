import { WORK_PLACES, type WorkPlace } from "../loom/places.ts";
import { type Wire as Fact, WIRE_STEPS, type WireStep } from "../record/made.ts";

/** Something done to a wire, as it is timed. A joint at the bench is made sooner than one underneath. */
export type Action = "cut" | "label" | WorkPlace | "test";
export const ACTIONS: readonly Action[] = ["cut", "label", ...WORK_PLACES, "test"];

/** Minutes that one action takes, and whether that is the owner's own pace. */
export interface Pace {
  minutes: number;
  isOwn: boolean;
}

/** Minutes for one wire, or one joint, of somebody who has done a few (common practice). */
const USUAL: Record<Action, number> = { cut: 1, label: 2, bench: 2, front: 3, underneath: 4, test: 1 };

/** A longer pause between two ticks is a pause, minutes. */
const PAUSE = 30;
/** Ticks of which a pace can be told. */
const FEWEST = 5;

/**
 * How long the owner takes for each action, by the times of his own ticks: the median of the minutes from one tick to the
 * next of the same kind, pauses left out, shared among those ticked at once. Until there are enough, what is usual.
 * @param workOf where an end of a wire is joined
 */
export function paceOf(
  facts: readonly Fact[],
  workOf: (fact: Fact, end: "from" | "to") => WorkPlace,
): Record<Action, Pace> {
  const ticks: Record<Action, Map<number, number>> = {
    ...{ cut: new Map(), label: new Map(), bench: new Map(), front: new Map(), underneath: new Map(), test: new Map() },
  };
  for (const fact of facts) {
    for (const step of WIRE_STEPS) {
      const at = fact[step];
      if (at === null) continue;
      const times = ticks[actionOf(fact, step, workOf)];
      const minute = Date.parse(at) / 60_000;
      times.set(minute, (times.get(minute) ?? 0) + 1);
    }
  }
  return Object.fromEntries(ACTIONS.map((action) => [action, paceIn(ticks[action], USUAL[action])])) as Record<
    Action,
    Pace
  >;
}

function actionOf(fact: Fact, step: WireStep, workOf: (fact: Fact, end: "from" | "to") => WorkPlace): Action {
  if (step === "cutAt") return "cut";
  if (step === "labelledAt") return "label";
  if (step === "testedAt") return "test";
  return workOf(fact, step === "fromJoinedAt" ? "from" : "to");
}

function paceIn(ticks: ReadonlyMap<number, number>, usual: number): Pace {
  const times = [...ticks].sort(([a], [b]) => a - b);
  const gaps = times.flatMap(([at, count], index): number[] => {
    const before = times[index - 1]?.[0];
    if (before === undefined || at - before > PAUSE) return [];
    return Array.from({ length: count }, () => (at - before) / count);
  });
  if (gaps.length < FEWEST) return { minutes: usual, isOwn: false };
  const sorted = gaps.sort((a, b) => a - b);
  const middle = Math.floor(sorted.length / 2);
  const median = sorted.length % 2 ? sorted[middle] : ((sorted[middle - 1] ?? 0) + (sorted[middle] ?? 0)) / 2;
  return { minutes: Math.max(0.1, median ?? usual), isOwn: true };
}
