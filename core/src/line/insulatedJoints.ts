import type { RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";
import { type Blocks, type Border, blocksOnLine } from "./blocks.ts";
import { followsFrom } from "./follows.ts";
import { type Junction, type LineLayout, lineLayout, type Stretch } from "./layout.ts";
import { isMarked } from "./marks.ts";
import {
  fedFrogs,
  frogKindOf,
  innerRail,
  innerSide,
  otherSide,
  portLabel,
  type RailPiece,
  type Rails,
  type Side,
} from "./rails.ts";
import { type Lie, type Port, portOf, turnoutPort } from "./topology.ts";
import { turningOf } from "./turning.ts";

/** Insulated joints that belong at a place, made or wanting. */
export interface InsulatedJoint {
  why: "frog" | "turns" | "block";
  /** As "Y3 reverse, behind the frog". */
  where: string;
  /** The step of the line that they are on, or where they fit best. */
  stretch: Stretch;
  step: number;
  /** Left and right as one goes along the stretch from its first point. */
  rails: "both" | Side;
  made: boolean;
  /** Of a frog's joint: whose. */
  junction: Junction | null;
}

/**
 * The insulated joints of a line: behind each frog that is fed by a contact or by the blades, in the inner rail of each leg that
 * something else feeds; at both ends of each section that turns trains, in both rails; and at the edges of blocks. An insulated frog
 * needs none. Common practice.
 */
export function insulatedJoints(record: RailwayRecord): readonly InsulatedJoint[] {
  const isPlain =
    fedFrogs(record).size === 0 && !record.spots.some(({ powerRouting }) => powerRouting) && !isMarked(record, "gap");
  if (isPlain && !followsFrom(record).turning.conflict) return [];
  const blocks = blocksOnLine(record);
  const before = known.get(blocks);
  if (before) return before;
  const joints = jointsIn(record, lineLayout(record), blocks);
  known.set(blocks, joints);
  return joints;
}

/** What was worked out once for the blocks of a line. */
const known = new WeakMap<Blocks, readonly InsulatedJoint[]>();

function jointsIn(record: RailwayRecord, layout: LineLayout, { borders }: Blocks): InsulatedJoint[] {
  const found: InsulatedJoint[] = [];
  const used = new Set<string>();
  const nameOf = ({ index }: Stretch, step: number) => `${index} ${step}`;
  for (const junction of layout.junctions)
    for (const wanted of frogJoints(record, layout, junction)) {
      if (wanted.made) used.add(nameOf(wanted.stretch, wanted.step));
      found.push(wanted);
    }
  const { sections, single } = turningOf(record);
  const turns = (stretch: Stretch, step: number, made: boolean) => {
    const where = [stretch.from, stretch.to].map((port) => portLabel(record, port ?? "")).join(" to ");
    if (made && used.has(`turns ${nameOf(stretch, step)}`)) return;
    if (made) used.add(nameOf(stretch, step)).add(`turns ${nameOf(stretch, step)}`);
    found.push({ why: "turns", where, stretch, step, rails: "both", made, junction: null });
  };
  for (const { stretch, step } of [...sections.flatMap(({ gaps }) => gaps), ...single]) turns(stretch, step, true);
  for (const { stretch, step } of single) {
    const [near, far] = endsOf(stretch) as [number, number];
    turns(stretch, Math.abs(near - step) > Math.abs(far - step) ? near : far, false);
  }
  for (const link of followsFrom(record).shorted.cut) {
    const stretch = layout.byPort.get(link[0])?.stretch;
    if (stretch) for (const step of endsOf(stretch)) turns(stretch, step, false);
  }
  const rest = borders.filter(({ stretch, step }) => !used.has(nameOf(stretch, step)));
  for (const { stretch, step, rails: gapped, before, after } of rest)
    found.push({
      ...{ why: "block", where: borderWords({ before, after }), stretch, step, rails: gapped, made: true },
      junction: null,
    });
  return found;
}

function borderWords({ before, after }: Pick<Border, "before" | "after">): string {
  const names = [before, after].map(({ name }) => name ?? "track without a block");
  return before === after ? `within ${names[0]}` : `${names[0]} to ${names[1]}`;
}

/** Steps a little way from both ends of a stretch: as much as there is stays between them. */
export function endsOf({ points }: Stretch): number[] {
  return points.length < 5 ? [0, points.length - 2] : [1, points.length - 3];
}

/** Joints that a turnout's kind of frog wants in the inner rails of its legs. */
export function frogJoints(record: RailwayRecord, layout: LineLayout, junction: Junction): InsulatedJoint[] {
  if (frogKindOf(fedFrogs(record), junction) === "insulated") return [];
  const { rails } = blocksOnLine(record);
  return (["normal", "reverse"] as const).flatMap((leg): InsulatedJoint[] => {
    const found = innerRail(layout, rails.gaps, junction, leg);
    if (!found) return [];
    const { stretch, side, isFrom, gap } = found;
    const port = portOf(junction.id, leg);
    const where = `${portLabel(record, port)}, behind the frog`;
    if (gap !== null) return [{ why: "frog", where, stretch, step: gap, rails: side, made: true, junction }];
    if (!isFedOtherwise(layout, rails.gaps, rails.beside(port, innerSide(junction, leg)), junction, leg)) return [];
    const last = stretch.points.length - 2;
    const step = isFrom ? Math.min(1, last) : Math.max(0, last - 1);
    return [{ why: "frog", where, stretch, step, rails: side, made: false, junction }];
  });
}

/** Whether something other than the frog gives a piece of rail its side of the bus, whatever the blades do. */
function isFedOtherwise(
  layout: LineLayout,
  gaps: Rails["gaps"],
  piece: RailPiece | null,
  junction: Junction,
  leg: Lie,
): boolean {
  if (!piece) return false;
  if (piece.gets.size > 0 || piece.frogs.some(({ id }) => id !== junction.id)) return true;
  return comesTogether(layout, gaps, portOf(junction.id, leg), innerSide(junction, leg), new Set());
}

/** Whether a rail that one goes out along by a port comes together with other track: there is another way for current to come. */
function comesTogether(layout: LineLayout, gaps: Rails["gaps"], port: Port, side: Side, seen: Set<Port>): boolean {
  if (seen.has(port)) return false;
  seen.add(port);
  const own = layout.byPort.get(port);
  const rail = own?.isFrom ? side : otherSide(side);
  if (own && [...gaps(own.stretch).values()].some((gapped) => gapped === "both" || gapped === rail)) return false;
  const other = own ? (own.isFrom ? own.stretch.to : own.stretch.from) : linkedWithin(layout, port);
  const entered = other === null ? null : turnoutPort(other);
  if (!entered) return false;
  if (entered.leg !== "toe") return true;
  return (["normal", "reverse"] as const).some((leg) =>
    comesTogether(layout, gaps, portOf(entered.id, leg), side, seen),
  );
}

/** Joints of single rails: a gap in both counts as two, one that serves two purposes once. */
export function countJoints(joints: readonly InsulatedJoint[]): number {
  const sides = joints.flatMap(({ stretch, step, rails }) =>
    (rails === "both" ? ["left", "right"] : [rails]).map((side) => `${stretch.index} ${step} ${side}`),
  );
  return new Set(sides).size;
}

/** The port that one comes to within a place. */
function linkedWithin({ line }: LineLayout, port: Port): Port | null {
  const link = line.within?.find((each) => each.includes(port));
  return link ? (link[0] === port ? link[1] : link[0]) : null;
}

/** Points between which a joint lies. */
export function pointsOf({ stretch, step }: Pick<InsulatedJoint, "stretch" | "step">): [Point, Point] {
  return [stretch.points[step] as Point, stretch.points[step + 1] as Point];
}
