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
  underneath: Done;
  tested: Done;
}

/** Counts the work on wires. */
export function progressOf(wires: readonly Wire[]): Progress {
  const none = (): Done => ({ done: 0, of: 0 });
  const progress: Progress = { cut: none(), labelled: none(), bench: none(), underneath: none(), tested: none() };
  const count = (what: Done, at: string | null | undefined) => {
    what.of++;
    if (at) what.done++;
  };
  for (const { fact, from, to } of wires) {
    count(progress.cut, fact?.cutAt);
    count(progress.labelled, fact?.labelledAt);
    count(from.place === "panel" ? progress.bench : progress.underneath, fact?.fromJoinedAt);
    count(to.place === "panel" ? progress.bench : progress.underneath, fact?.toJoinedAt);
    count(progress.tested, fact?.testedAt);
  }
  return progress;
}
