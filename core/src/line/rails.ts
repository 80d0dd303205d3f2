import { assignmentsOfRole, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { MarkOf, Point } from "../record/line.ts";
import { Joined } from "./joined.ts";
import { nameOfStep } from "./lattice.ts";
import { isCircle, type Junction, type LineLayout, lineLayout, type Stretch } from "./layout.ts";
import { isOnStep, type StepMark, stepOfMark } from "./marks.ts";
import { type Leg, type Lie, type Port, portOf, turnoutPort } from "./topology.ts";
import { partsBetween } from "./walk.ts";

export type Side = "left" | "right";

/** How a turnout's frog gets its rail: not at all, by a contact, or by the blades. */
export type FrogKind = "insulated" | "live" | "power-routing";

/** Where on a stretch a mark lies: the step that it is on, counted from its first point, and whether it looks the same way. */
export interface MarkPlace {
  mark: StepMark;
  stretch: Stretch;
  /** From the stretch's point with this number to the next. */
  step: number;
  /** The mark's first point comes first on the stretch. */
  along: boolean;
}

/** Rails that are one piece of metal, or joined by the blades' own jumpers. */
export interface RailPiece {
  /** What feeders give it; both is a short. */
  gets: Set<"J" | "K">;
  feeders: MarkOf<"feeder">[];
  /** Frogs that it takes its rail from, where nothing else feeds it: behind them without a gap. */
  frogs: Junction[];
  metres: number;
  /** The longest part of it that lies on one stretch, in steps from the stretch's first point. */
  place: { stretch: Stretch; from: number; to: number; side: Side } | null;
}

/** Both rails of a line as pieces, parted at gaps. */
export interface Rails {
  pieces: readonly RailPiece[];
  /** The piece that a rail of a stretch is at a step, as one goes along it from its first point. */
  at: (stretch: Stretch, step: number, side: Side) => RailPiece;
  /** The piece of a rail beside blades, as one goes out by a leg of them. */
  beside: (port: Port, side: Side) => RailPiece | null;
  marks: readonly MarkPlace[];
  /** Gaps of a stretch by the step that they are on, as one goes along it. */
  gaps: (stretch: Stretch) => ReadonlyMap<number, "both" | Side>;
}

const OTHER: Record<Side, Side> = { left: "right", right: "left" };

/** A side of track that one goes along the other way. */
export function otherSide(side: Side): Side {
  return OTHER[side];
}

const fed = new WeakMap<readonly unknown[], ReadonlySet<string>>();

/** Turnouts whose frog is fed by something. */
export function fedFrogs(record: RailwayRecord): ReadonlySet<string> {
  const frogs = assignmentsOfRole(record, "frog");
  const known =
    fed.get(frogs) ?? new Set(frogs.flatMap(({ turnoutId, fromId }) => (fromId === null ? [] : [turnoutId])));
  fed.set(frogs, known);
  return known;
}

/** How the frog of blades gets its rail. A turnout whose frog is fed has a live one; the owner says which blades feed their own. */
export function frogKindOf(fed: ReadonlySet<string>, { turnout, spot }: Pick<Junction, "turnout" | "spot">): FrogKind {
  if (spot?.powerRouting) return "power-routing";
  return turnout && fed.has(turnout.id) ? "live" : "insulated";
}

/** Which of the two legs lies to the left, as one faces the points from the toe. */
export function leftLeg({ hand, spot }: Pick<Junction, "hand" | "spot">): Leg {
  // the reverse leg of a left-hand turnout bends to the left; a wye's normal leg is the left one
  const isNormalLeft = (hand === "left") === (spot?.turned ?? false);
  return hand === "wye" ? (spot?.turned ? "reverse" : "normal") : isNormalLeft ? "normal" : "reverse";
}

/** The side of a leg's inner rail, as one goes out by the leg. */
export function innerSide(junction: Pick<Junction, "hand" | "spot">, leg: Leg): Side {
  return leg === leftLeg(junction) ? "right" : "left";
}

/** The inner rail of a leg: on which stretch, on which side as one goes along it, and the step of the first gap in it. */
export function innerRail(
  { byPort }: Pick<LineLayout, "byPort">,
  gaps: Rails["gaps"],
  junction: Junction,
  leg: Lie,
): { stretch: Stretch; side: Side; isFrom: boolean; gap: number | null } | null {
  const found = byPort.get(portOf(junction.id, leg));
  if (!found) return null;
  const { stretch, isFrom } = found;
  const side = isFrom ? innerSide(junction, leg) : OTHER[innerSide(junction, leg)];
  const steps = [...gaps(stretch)].flatMap(([step, rails]) => (rails === "both" || rails === side ? [step] : []));
  return { stretch, side, isFrom, gap: steps.sort((a, b) => (isFrom ? a - b : b - a))[0] ?? null };
}

/** Marks of a record by the stretches that they lie on; those that lie on no track are left out. */
export function marksOn(record: RailwayRecord, { stretches }: LineLayout): MarkPlace[] {
  const marks = record.marks.filter(isOnStep);
  if (marks.length === 0) return [];
  const wanted = new Map<string, StepMark[]>();
  for (const mark of marks) wanted.set(stepOfMark(mark), [...(wanted.get(stepOfMark(mark)) ?? []), mark]);
  return stretches.flatMap((stretch) =>
    stretch.points.slice(1).flatMap((to, step): MarkPlace[] => {
      const from = stretch.points[step] as Point;
      return (wanted.get(nameOfStep(from, to)) ?? []).map((mark) => {
        return { mark, stretch, step, along: mark.x === from[0] && mark.y === from[1] };
      });
    }),
  );
}

/**
 * Parts the rails of a line at its gaps and joins them through its turnouts: the stock rails go through; the inner rails, between
 * the frog and a leg, belong to the frog where that is fed by a contact or by the blades, and are fed through where the frog is
 * insulated. What a piece gets follows from its feeders. Rails are left and right as one goes along.
 * @param outlined only gaps in both rails count, and all frogs as insulated: what is left are the sections of the line, two
 *   pieces each
 */
export function railsOf(record: RailwayRecord, layout = lineLayout(record), outlined = false): Rails {
  const marks = marksOn(record, layout);
  const gapsOf = new Map<Stretch, Map<number, "both" | Side>>();
  for (const { mark, stretch, step, along } of marks) {
    if (mark.what !== "gap" || (outlined && mark.rails !== "both")) continue;
    const rails = mark.rails === "both" || along ? mark.rails : OTHER[mark.rails];
    gapsOf.set(stretch, new Map([...(gapsOf.get(stretch) ?? []), [step, rails]]));
  }
  const none = new Map<number, "both" | Side>();
  const gaps = (stretch: Stretch) => gapsOf.get(stretch) ?? none;

  const joined = new Joined();
  const firstOf = new Map<Stretch, Record<Side, number>>();
  const cutsOf = new Map<Stretch, Record<Side, number[]>>();
  for (const stretch of layout.stretches) {
    const cuts: Record<Side, number[]> = { left: [], right: [] };
    for (const [step, rails] of [...gaps(stretch)].sort(([a], [b]) => a - b))
      for (const side of ["left", "right"] as const) if (rails === "both" || rails === side) cuts[side].push(step);
    cutsOf.set(stretch, cuts);
    const first = { left: joined.add(cuts.left.length + 1), right: joined.add(cuts.right.length + 1) };
    firstOf.set(stretch, first);
    if (isCircle(layout, stretch))
      for (const side of ["left", "right"] as const) joined.join(first[side], first[side] + cuts[side].length);
  }
  /** What lies on the gap's own step is beyond it. */
  const nodeAt = (stretch: Stretch, step: number, side: Side): number => {
    const cuts = cutsOf.get(stretch)?.[side] ?? [];
    return (firstOf.get(stretch)?.[side] ?? 0) + cuts.filter((cut) => cut <= step).length;
  };
  // between the pairs of blades of one place there is no stretch: two rails that nothing cuts
  const inner = new Map<Port, Record<Side, number>>();
  for (const [a, b] of layout.line.within ?? []) {
    const node = joined.add(2);
    inner.set(a, { left: node, right: node + 1 });
    inner.set(b, { left: node + 1, right: node });
  }
  /** The rail beside a port, as one goes out by it; null where there is no track. */
  const nodeBeside = (port: Port, side: Side): number | null => {
    const within = inner.get(port);
    if (within) return within[side];
    const found = layout.byPort.get(port);
    if (!found) return null;
    const { stretch, isFrom } = found;
    if (isFrom) return firstOf.get(stretch)?.[side] ?? null;
    const own = OTHER[side];
    return (firstOf.get(stretch)?.[own] ?? 0) + (cutsOf.get(stretch)?.[own].length ?? 0);
  };
  const fed = fedFrogs(record);
  const frogAt = new Map<number, Junction[]>();
  for (const junction of layout.junctions) {
    const left = leftLeg(junction);
    const right = left === "normal" ? "reverse" : "normal";
    const rail = (leg: Leg, side: Side) => nodeBeside(`${junction.id}.${leg}`, side);
    // as one faces the points from the toe, which one goes out by the other way
    const [stockLeft, stockRight] = [rail("toe", "right"), rail("toe", "left")];
    joined.join(stockLeft, rail(left, "left"));
    joined.join(stockRight, rail(right, "right"));
    const [innerOfLeft, innerOfRight] = [rail(left, "right"), rail(right, "left")];
    if (outlined || frogKindOf(fed, junction) === "insulated") {
      joined.join(stockRight, innerOfLeft);
      joined.join(stockLeft, innerOfRight);
    } else {
      const frog = joined.add(1);
      joined.join(frog, innerOfLeft);
      joined.join(frog, innerOfRight);
      frogAt.set(frog, [junction]);
    }
  }
  const pieces = new Map<number, RailPiece>();
  const pieceOf = (node: number): RailPiece => {
    const root = joined.rootOf(node);
    const known = pieces.get(root) ?? { gets: new Set(), feeders: [], frogs: [], metres: 0, place: null };
    pieces.set(root, known);
    return known;
  };
  for (const [node, junctions] of frogAt) pieceOf(node).frogs.push(...junctions);
  for (const stretch of layout.stretches)
    for (const side of ["left", "right"] as const) {
      const cuts = cutsOf.get(stretch)?.[side] ?? [];
      const perStep = stretch.metres / Math.max(1, stretch.points.length - 1);
      for (const [index, [from, to]] of partsBetween(cuts, stretch.points.length - 1).entries()) {
        const piece = pieceOf((firstOf.get(stretch)?.[side] ?? 0) + index);
        piece.metres += (to - from) * perStep;
        if (!piece.place || to - from > piece.place.to - piece.place.from) piece.place = { stretch, from, to, side };
      }
    }
  for (const { mark, stretch, step: on, along } of marks) {
    if (mark.what !== "feeder") continue;
    // on a gap's own step it feeds what lies beyond, as the mark looks
    const step = along ? on : on - 1;
    for (const side of ["left", "right"] as const) {
      if (mark.rails !== "both" && mark.rails !== side) continue;
      const piece = pieceOf(nodeAt(stretch, step, along ? side : OTHER[side]));
      piece.gets.add((side === "left") === (mark.leftGets === "J") ? "J" : "K");
      if (!piece.feeders.includes(mark)) piece.feeders.push(mark);
    }
  }
  return {
    pieces: [...pieces.values()],
    at: (stretch, step, side) => pieceOf(nodeAt(stretch, step, side)),
    beside: (port, side) => {
      const node = nodeBeside(port, side);
      return node === null ? null : pieceOf(node);
    },
    ...{ marks, gaps },
  };
}

/** Feeders that lie on blocks or loops, in words: "J on the left". */
export function feederWords({ leftGets, rails }: MarkOf<"feeder">): string {
  const other = leftGets === "J" ? "K" : "J";
  if (rails === "left") return `${leftGets} on the left rail`;
  if (rails === "right") return `${other} on the right rail`;
  return `${leftGets} on the left rail, ${other} on the right`;
}

/** The turnout of a port by its label. */
export function portLabel(record: RailwayRecord, port: Port): string {
  const own = turnoutPort(port);
  if (!own) {
    const mark = find(record, "mark", port);
    return mark && "name" in mark ? mark.name : "an end of track";
  }
  return `${find(record, "turnout", own.id)?.label ?? "blades without a turnout"} ${own.leg}`;
}
