import { type Block, type Border, blocksOnLine } from "../line/blocks.ts";
import { setGap } from "../line/marking.ts";
import { isMarked } from "../line/marks.ts";
import { deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";
import type { AssignmentOf } from "../record/schemas.ts";
import { wayName } from "../schematic/nets.ts";
import { rule } from "./rule.ts";

interface Uncut {
  block: Block;
  zone: AssignmentOf<"block">;
  border: Border;
  label: string;
}

export const detectorRailUncut = rule<Uncut>({
  id: "detector-rail-uncut",
  stage: "line",
  column: null,
  severity: "look",
  title: "The rail in which a detector sits is not cut at the edge of its block",
  about:
    "A detector senses the current in one rail's feed. Where that rail runs on over the edge of the block, current comes in past the detector, and it sees less than there is, or trains of the next block too. The feeders on the line tell which rail is which.",
  look: ({ record }) => uncutIn(record),
  subject: ({ block, border: { stretch, step } }) =>
    `${block.id}-${(stretch.points[step] ?? []).join("-")}`.replaceAll("--", "-m").slice(0, 80),
  where: ({ block }) => block.name ?? "",
  turnouts: () => [],
  why: ({ block, zone, border, label }) =>
    `${label} sits in rail ${zone.rail} of ${block.name}; at ${(border.stretch.points[border.step] ?? []).join(", ")} only the other rail is parted.`,
  remedies: ({ border: { stretch, step } }, { record }) => {
    const [a, b] = [stretch.points[step] as Point, stretch.points[step + 1] as Point];
    return [{ label: "Part the other rail too", group: setGap(record, a, b, "both") }];
  },
});

function uncutIn(record: RailwayRecord): Uncut[] {
  if (!isMarked(record, "block") || !isMarked(record, "feeder")) return [];
  const { blocks, rails } = blocksOnLine(record);
  return blocks.flatMap((block) =>
    block.zones.flatMap((zone) =>
      block.borders.flatMap((border): Uncut[] => {
        const { stretch, step, rails: gapped, before, after } = border;
        if (gapped === "both" || before === after) return [];
        const inside = block === after ? step : step - 1;
        if (!rails.at(stretch, inside, gapped === "left" ? "right" : "left").gets.has(zone.rail)) return [];
        return [{ block, zone, border, label: wayName(deviceOf(record, zone.deviceId).label, zone.way) }];
      }),
    ),
  );
}
