import { edit } from "../catalogue/edit.ts";
import { blocksOnLine } from "../line/blocks.ts";
import { lineLayout } from "../line/layout.ts";
import { isMarked, turnMark } from "../line/marks.ts";
import { feederWords, type RailPiece } from "../line/rails.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { MarkOf } from "../record/line.ts";
import { rule } from "./rule.ts";

interface Against {
  feeders: MarkOf<"feeder">[];
}

export const feedersAgainst = rule<Against>({
  id: "feeders-against",
  stage: "line",
  column: null,
  severity: "stop",
  title: "Feeders give one rail both sides of the bus",
  about:
    "All feeders of a rail have to come from one side of the bus; where one is exchanged, the two sides meet in the rail: a dead short, whatever stands on the track. Follow one rail from feeder to feeder and look that it always is the same wire.",
  look: ({ record }) => {
    const told = new Map(against(record).map(({ feeders }) => [names(feeders), { feeders }]));
    return [...told.values()];
  },
  subject: ({ feeders }) => names(feeders).slice(0, 80),
  where: ({ feeders: [first] }) => (first ? `${first.x}, ${first.y}` : ""),
  turnouts: () => [],
  why: ({ feeders }) =>
    `${feeders.map((each) => `At ${each.x}, ${each.y} a feeder gives ${feederWords(each)}`).join("; ")}, as seen from there: along one rail both sides of the bus meet.`,
  remedies: ({ feeders }, { record }) => {
    const now = against(record).length;
    return feeders.flatMap(({ id, x, y }) => {
      const group = turnMark(record, id);
      if (!group || against(edit(record, group.edits).record).length >= now) return [];
      return [{ label: `Exchange the wires of the feeder at ${x}, ${y}`, group }];
    });
  },
});

/** Pieces that get both; not where a rail meets its opposite anyway, which has to be mended first. */
function against(record: RailwayRecord): RailPiece[] {
  if (!isMarked(record, "feeder")) return [];
  const { rails } = blocksOnLine(record);
  const both = rails.pieces.filter(({ gets }) => gets.size > 1);
  if (both.length === 0) return [];
  const meeting = new Set(
    lineLayout(record).stretches.flatMap((stretch) =>
      [-1, ...rails.gaps(stretch).keys()].flatMap((step) => {
        const left = rails.at(stretch, step, "left");
        return left === rails.at(stretch, step, "right") ? [left] : [];
      }),
    ),
  );
  return both.filter((piece) => !meeting.has(piece));
}

function names(feeders: readonly MarkOf<"feeder">[]): string {
  return feeders
    .map(({ id }) => id)
    .sort()
    .join("-");
}
