import { Draft } from "../equip/draft.ts";
import { blocksOnLine } from "../line/blocks.ts";
import { isMarked } from "../line/marks.ts";
import { otherSide, type RailPiece, type Rails } from "../line/rails.ts";
import { freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";
import { type Remedy, rule } from "./rule.ts";

interface Unfed {
  piece: RailPiece;
  place: NonNullable<RailPiece["place"]>;
}

/** Shorter pieces are a wheel's length, as between two joints. */
const LEAST_METRES = 0.05;

export const railUnfed = rule<Unfed>({
  id: "rail-unfed",
  stage: "line",
  column: null,
  severity: "look",
  title: "A piece of rail has no feeder",
  about:
    "Each piece of rail between insulated joints needs current of its own: a feeder, or the frog in front of it where that is live. Without one an engine stops on it. The rule looks once feeders are marked on the line.",
  look: ({ record }) => {
    if (!isMarked(record, "feeder")) return [];
    return blocksOnLine(record).rails.pieces.flatMap((piece): Unfed[] => {
      const { gets, frogs, metres, place } = piece;
      return gets.size === 0 && frogs.length === 0 && metres > LEAST_METRES && place ? [{ piece, place }] : [];
    });
  },
  subject: ({ place: { stretch, from, side } }) =>
    `${stretch.points[Math.floor(from)]?.join("-")}-${stretch.points[Math.floor(from) + 1]?.join("-")}-${side}`.replaceAll(
      "--",
      "-m",
    ),
  where: ({ place: { stretch, from, to } }) => (stretch.points[Math.floor((from + to) / 2)] ?? []).join(", "),
  turnouts: () => [],
  why: ({ piece, place: { stretch, from, to, side } }) => {
    const [start, end] = [stretch.points[Math.ceil(from)], stretch.points[Math.floor(to)]];
    return `The ${side} rail from ${start?.join(", ")} to ${end?.join(", ")}, as one goes along, is parted from all feeders: ${piece.metres.toFixed(2)} m are dead.`;
  },
  remedies: ({ place }, { record }) => feed(record, place),
});

/** A feeder of the wire that the same rail has beyond the nearest joint, or that the other rail has not. */
function feed(record: RailwayRecord, { stretch, from, to, side }: Unfed["place"]): Remedy[] {
  const { rails } = blocksOnLine(record);
  const only = (piece: ReturnType<Rails["at"]> | null) => (piece?.gets.size === 1 ? [...piece.gets][0] : undefined);
  // beyond the gap at its first end, and at its other
  const beside = [
    from > 0 ? rails.at(stretch, Math.floor(from) - 1, side) : null,
    rails.at(stretch, Math.ceil(to), side),
  ];
  const step = Math.min(Math.floor((from + to) / 2), stretch.points.length - 2);
  const across = only(rails.at(stretch, step, otherSide(side)));
  const wire = only(beside[0] ?? null) ?? only(beside[1] ?? null) ?? (across && (across === "J" ? "K" : "J"));
  if (!wire) return [];
  const [a, b] = [stretch.points[step] as Point, stretch.points[step + 1] as Point];
  const draft = new Draft(record);
  const leftGets = (side === "left") === (wire === "J") ? "J" : "K";
  draft.put("mark", {
    ...{ id: freshId(record, "mark", "feeder-1"), what: "feeder" as const, leftGets, rails: side },
    ...{ x: a[0], y: a[1], toX: b[0], toY: b[1] },
  });
  const label = `Feed it from ${wire}`;
  return [{ label, group: draft.group(`A feeder of ${wire} at ${a[0]}, ${a[1]}`) }];
}
