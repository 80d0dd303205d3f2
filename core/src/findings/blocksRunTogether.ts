import { type Block, blocksOnLine, runTogether } from "../line/blocks.ts";
import { setGap } from "../line/marking.ts";
import { isMarked } from "../line/marks.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { type Remedy, rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

interface Together {
  block: Block;
  names: string[];
  threads: Thread[];
}

export const blocksRunTogether = rule<Together>({
  id: "blocks-run-together",
  stage: "line",
  column: null,
  severity: "look",
  title: "A block ends nowhere",
  about:
    "A block goes as far as the next gaps. Where no gap lies between two, they are one piece of rail: a train in either is seen in both, and the signals between them tell nothing. One rail is enough to part, that in which the detectors sit.",
  look: ({ record, threads }) =>
    (isMarked(record, "block") ? runTogether(blocksOnLine(record)) : []).map((block) => ({
      block,
      names: [...new Set(block.marks.map(({ name }) => name))],
      threads: threadsOfTurnouts(threads, new Set(block.junctions.map(({ id }) => id))),
    })),
  subject: ({ block }) => block.id,
  where: ({ names }) => names.join("/").slice(0, 40),
  turnouts: ({ threads }) => threads,
  why: ({ names }) => `No gap parts ${list(names)} from each other: they are one block.`,
  remedies: ({ block }, { record }) => gapBetween(record, block),
});

/** A gap half way between two names that lie on one stretch. */
function gapBetween(record: RailwayRecord, block: Block): Remedy[] {
  const { rails } = blocksOnLine(record);
  const places = rails.marks.filter(({ mark }) => block.marks.some(({ id }) => id === mark.id));
  for (const one of places)
    for (const other of places) {
      if (one.stretch !== other.stretch || one.step >= other.step) continue;
      const [first, second] = [one.mark, other.mark];
      if (first.what !== "block" || second.what !== "block" || first.name === second.name) continue;
      const step = Math.ceil((one.step + other.step) / 2);
      const [a, b] = [one.stretch.points[step] as Point, one.stretch.points[step + 1] as Point];
      return [
        { label: `Part the rails between ${first.name} and ${second.name}`, group: setGap(record, a, b, "both") },
      ];
    }
  return [];
}
