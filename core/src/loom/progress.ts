import type { Wire } from "./wire.ts";

/** Something counted, and how much of it is done. */
export interface Done {
  done: number;
  of: number;
}

/** How far the work on some wires is: wires cut, labelled and tested, joints made by where they are made. */
export interface Progress {
  cut: Done;
  labelled: Done;
  bench: Done;
  front: Done;
  underneath: Done;
  tested: Done;
}

/** Joints wherever they are made. */
export function jointsOf({ bench, front, underneath }: Progress): Done {
  return { done: bench.done + front.done + underneath.done, of: bench.of + front.of + underneath.of };
}

const known = new WeakMap<readonly Wire[], Progress>();

/** Counts the work on wires; of the same list once. */
export function progressOf(wires: readonly Wire[]): Progress {
  const before = known.get(wires);
  if (before) return before;
  const counted = countWork(wires);
  known.set(wires, counted);
  return counted;
}

function countWork(wires: readonly Wire[]): Progress {
  const none = (): Done => ({ done: 0, of: 0 });
  const progress: Progress = {
    ...{ cut: none(), labelled: none(), tested: none() },
    ...{ bench: none(), front: none(), underneath: none() },
  };
  const count = (what: Done, at: string | null | undefined) => {
    what.of++;
    if (at) what.done++;
  };
  for (const { fact, from, to } of wires) {
    count(progress.cut, fact?.cutAt);
    count(progress.labelled, fact?.labelledAt);
    count(progress[from.work], fact?.fromJoinedAt);
    count(progress[to.work], fact?.toJoinedAt);
    count(progress.tested, fact?.testedAt);
  }
  return progress;
}
