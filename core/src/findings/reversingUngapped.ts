import { Draft } from "../equip/draft.ts";
import { followsFrom, gapsIn } from "../line/follows.ts";
import { lineLayout, type Stretch } from "../line/layout.ts";
import { setGap } from "../line/marking.ts";
import { type Port, turnoutPort } from "../line/topology.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";
import type { Thread } from "../schematic/thread.ts";
import { threadsOfTurnouts } from "./handDiffers.ts";
import { type Remedy, rule } from "./rule.ts";

interface Ungapped {
  stretch: Stretch;
  gaps: number;
  /** As "B1 normal to B1 reverse". */
  between: string;
  threads: Thread[];
}

export const reversingUngapped = rule<Ungapped>({
  id: "reversing-ungapped",
  stage: "line",
  column: null,
  severity: ({ gaps }) => (gaps === 0 ? "stop" : "look"),
  title: "A section that turns trains is not parted from the rest",
  about:
    "Where a train comes back facing the other way, each rail meets its opposite: a dead short, unless both rails are parted at both ends of a section that has a feed of its own, turned round while the train is in it. One gap keeps the rails apart; a reverser needs two, with the longest train between them.",
  look: ({ record, threads }) => {
    const { turning } = followsFrom(record);
    const { stretches } = lineLayout(record);
    return turning.cut.flatMap(([a, b]): Ungapped[] => {
      const stretch = stretches.find(({ from, to }) => from === a && to === b);
      if (!stretch) return [];
      const gaps = gapsIn(record, stretch);
      if (gaps > 1) return [];
      const between = `${portWords(record, a)} to ${portWords(record, b)}`;
      const ids = new Set([a, b].flatMap((port) => turnoutPort(port)?.id ?? []));
      return [{ stretch, gaps, between, threads: threadsOfTurnouts(threads, ids) }];
    });
  },
  subject: ({ stretch }) => `${stretch.from}-${stretch.to}`.replaceAll(/[^a-z0-9-]+/gi, "-").slice(0, 80),
  where: ({ between }) => between,
  turnouts: ({ threads }) => threads,
  why: ({ between, gaps, stretch: { metres } }) =>
    gaps === 0
      ? `From ${between}, ${metres.toFixed(2)} m of track join each rail to its opposite; there is no gap in it.`
      : `From ${between} there is one gap in ${metres.toFixed(2)} m; a section that is turned round needs one at each end.`,
  remedies: ({ stretch, gaps }, { record }) => gapRemedies(record, stretch, gaps),
});

function portWords(record: RailwayRecord, port: Port): string {
  const own = turnoutPort(port);
  return own ? `${find(record, "turnout", own.id)?.label ?? "blades without a turnout"} ${own.leg}` : port;
}

/** Gaps in both rails, one step away from the blades at each end: as much of the stretch as there is stays between them. */
function gapRemedies(record: RailwayRecord, { points }: Stretch, gaps: number): Remedy[] {
  if (points.length < 5) return [];
  const steps: [Point, Point][] = [
    [points[1] as Point, points[2] as Point],
    [points.at(-2) as Point, points.at(-3) as Point],
  ];
  const draft = new Draft(record);
  for (const [a, b] of steps) draft.take(setGap(draft.record, a, b, "both"));
  const label = gaps === 0 ? "Part both rails at both ends" : "Part both rails at the other end too";
  return [{ label, group: draft.group(label) }];
}
