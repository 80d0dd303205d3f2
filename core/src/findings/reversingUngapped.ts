import { Draft } from "../equip/draft.ts";
import { followsFrom } from "../line/follows.ts";
import { endsOf } from "../line/insulatedJoints.ts";
import { lineLayout, type Stretch } from "../line/layout.ts";
import { setGap } from "../line/marking.ts";
import { portLabel } from "../line/rails.ts";
import { turnoutPort } from "../line/topology.ts";
import { type BothGap, turningOf } from "../line/turning.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";
import type { Thread } from "../schematic/thread.ts";
import { type Remedy, rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

interface Ungapped {
  stretch: Stretch;
  /** The one gap that there is; null where there is none. */
  gap: BothGap | null;
  /** As "B1 normal to B1 reverse". */
  between: string;
  threads: Thread[];
}

export const reversingUngapped = rule<Ungapped>({
  id: "reversing-ungapped",
  stage: "line",
  column: null,
  severity: ({ gap }) => (gap === null ? "stop" : "look"),
  title: "A section that turns trains is not parted from the rest",
  about:
    "Where a train comes back facing the other way, each rail meets its opposite: a dead short, unless both rails are parted at both ends of a section that has a feed of its own, turned round while the train is in it. One gap keeps the rails apart; a reverser needs two, with the longest train between them.",
  look: ({ record, threads }) => {
    const { shorted } = followsFrom(record);
    const { stretches } = lineLayout(record);
    const open = shorted.cut.flatMap(([a, b]) => stretches.filter(({ from, to }) => from === a && to === b));
    const once = turningOf(record).single;
    return [
      ...open.map((stretch) => ({ stretch, gap: null })),
      ...once.map((gap) => ({ stretch: gap.stretch, gap })),
    ].map(({ stretch, gap }): Ungapped => {
      const ports = [stretch.from, stretch.to].flatMap((port) => port ?? []);
      const ids = new Set(ports.flatMap((port) => turnoutPort(port)?.id ?? []));
      const between = ports.map((port) => portLabel(record, port)).join(" to ");
      return { stretch, gap, between, threads: threadsOfTurnouts(threads, ids) };
    });
  },
  subject: ({ stretch }) => `${stretch.from}-${stretch.to}`.replaceAll(/[^a-z0-9-]+/gi, "-").slice(0, 80),
  where: ({ between }) => between,
  turnouts: ({ threads }) => threads,
  why: ({ between, gap, stretch: { metres } }) =>
    gap === null
      ? `From ${between}, ${metres.toFixed(2)} m of track join each rail to its opposite; there is no gap in it.`
      : `From ${between} there is one gap in ${metres.toFixed(2)} m; a section that is turned round needs one at each end.`,
  remedies: ({ stretch, gap }, { record }) => gapRemedies(record, stretch, gap),
});

/** Gaps in both rails, one step away from the blades at each end: as much of the stretch as there is stays between them. */
function gapRemedies(record: RailwayRecord, stretch: Stretch, gap: BothGap | null): Remedy[] {
  const { points } = stretch;
  if (points.length < 5) return [];
  const ends = endsOf(stretch);
  const far = [...ends].sort((a, b) => Math.abs(b - (gap?.step ?? 0)) - Math.abs(a - (gap?.step ?? 0))).slice(0, 1);
  const draft = new Draft(record);
  for (const step of gap === null ? ends : far)
    draft.take(setGap(draft.record, points[step] as Point, points[step + 1] as Point, "both"));
  const label = gap === null ? "Part both rails at both ends" : "Part both rails at the other end too";
  return [{ label, group: draft.group(label) }];
}
