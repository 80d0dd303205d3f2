import { assignmentsOfRole } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { MarkOf } from "../record/line.ts";
import type { AssignmentOf } from "../record/schemas.ts";
import { UNWATCHED, type WatchedRails } from "../schematic/watched.ts";
import { Joined } from "./joined.ts";
import { isCircle, type Junction, type LineEnd, type LineLayout, lineLayout, type Stretch } from "./layout.ts";
import { isBlock } from "./marks.ts";
import { fedFrogs, frogKindOf, innerRail, otherSide, type Rails, railsOf, type Side } from "./rails.ts";
import { portOf, turnoutPort } from "./topology.ts";
import { metresOfStep, partsBetween } from "./walk.ts";

/** All track around a place as far as the next gaps, whichever rail they part; a joint behind a frog in one rail is no edge. */
export interface Block {
  /** The first mark's identifier; of a section without a mark made of a place of it. */
  id: string;
  name: string | null;
  marks: MarkOf<"block">[];
  /** Zones of detectors that watch it, by its name. */
  zones: AssignmentOf<"block">[];
  /** Where it lies on stretches, in steps from their first points; a gap is in the middle of its step. */
  parts: { stretch: Stretch; from: number; to: number }[];
  metres: number;
  hiddenMetres: number;
  junctions: Junction[];
  ends: LineEnd[];
  borders: Border[];
}

/** Where two blocks meet, at a gap. */
export interface Border {
  stretch: Stretch;
  /** The step of the stretch that the gap is on. */
  step: number;
  rails: "both" | "left" | "right";
  /** The block on the side of the stretch's first point, and the other. */
  before: Block;
  after: Block;
}

export interface Blocks {
  blocks: readonly Block[];
  borders: readonly Border[];
  /** The block that a step of a stretch lies in; a gap's own step lies in the one beyond it. */
  at: (stretch: Stretch, step: number) => Block;
  named: (name: string) => Block | undefined;
  /** Gaps of a stretch that are edges of blocks, by their steps. */
  edges: Rails["gaps"];
  rails: Rails;
}

const known = new WeakMap<LineLayout, { looked: readonly unknown[]; blocks: Blocks }>();

/** The blocks of a record's line; worked out anew only when something of it is another. */
export function blocksOnLine(record: RailwayRecord): Blocks {
  const layout = lineLayout(record);
  const looked = [record.marks, ...assignmentsOfRole(record, "block"), ...assignmentsOfRole(record, "frog")];
  const before = known.get(layout);
  const isSame = before?.looked.length === looked.length && looked.every((each, n) => each === before.looked[n]);
  if (before && isSame) return before.blocks;
  const blocks = blocksIn(record, layout);
  known.set(layout, { looked, blocks });
  return blocks;
}

function blocksIn(record: RailwayRecord, layout: LineLayout): Blocks {
  const rails = railsOf(record, layout);
  const edges = edgesOf(record, layout, rails);
  const joined = new Joined();
  const firstOf = new Map<Stretch, { first: number; cuts: number[] }>();
  for (const stretch of layout.stretches) {
    const cuts = [...edges(stretch).keys()].sort((a, b) => a - b);
    firstOf.set(stretch, { first: joined.add(cuts.length + 1), cuts });
  }
  const nodeAt = (stretch: Stretch, step: number): number => {
    const found = firstOf.get(stretch);
    return found ? found.first + found.cuts.filter((cut) => cut <= step).length : 0;
  };
  const atPort = new Map<string, number[]>();
  const touch = (port: string | null, node: number) => {
    const id = port === null ? null : turnoutPort(port)?.id;
    if (id != null) atPort.set(id, [...(atPort.get(id) ?? []), node]);
  };
  for (const stretch of layout.stretches) {
    touch(stretch.from, nodeAt(stretch, -1));
    touch(stretch.to, nodeAt(stretch, stretch.points.length));
    // a circle with nothing in it but gaps comes back to where it began
    if (isCircle(layout, stretch)) joined.join(nodeAt(stretch, -1), nodeAt(stretch, stretch.points.length));
  }
  for (const nodes of atPort.values()) for (const node of nodes) joined.join(nodes[0] ?? null, node);
  for (const [a, b] of layout.line.within ?? []) {
    const [one, other] = [a, b].map((port) => atPort.get(turnoutPort(port)?.id ?? "")?.[0] ?? null);
    joined.join(one ?? null, other ?? null);
  }

  const zones = assignmentsOfRole(record, "block");
  const blocks = new Map<number, Block>();
  const blockOf = (node: number): Block => {
    const root = joined.rootOf(node);
    const made: Block = blocks.get(root) ?? {
      ...{ id: `section-${root}`, name: null, marks: [], zones: [], parts: [], metres: 0, hiddenMetres: 0 },
      ...{ junctions: [], ends: [], borders: [] },
    };
    blocks.set(root, made);
    return made;
  };
  const at = (stretch: Stretch, step: number) => blockOf(nodeAt(stretch, step));
  const endOf = new Map(layout.ends.map((end) => [end.id, end]));
  for (const stretch of layout.stretches) {
    const last = stretch.points.length - 1;
    const { cuts = [] } = firstOf.get(stretch) ?? {};
    for (const [index, [from, to]] of partsBetween(cuts, last).entries()) {
      const block = blockOf((firstOf.get(stretch)?.first ?? 0) + index);
      block.parts.push({ stretch, from, to });
      block.metres += (to - from) * metresOfStep(stretch);
      block.hiddenMetres += ((to - from) / Math.max(1, last)) * stretch.hiddenMetres;
    }
    for (const [port, step] of [
      [stretch.from, -1],
      [stretch.to, last + 1],
    ] as const) {
      const end = port === null ? undefined : endOf.get(port);
      if (end) at(stretch, step).ends.push(end);
    }
  }
  for (const junction of layout.junctions) {
    const [node] = atPort.get(junction.id) ?? [];
    if (node !== undefined) blockOf(node).junctions.push(junction);
  }
  for (const { mark, stretch, step, along } of rails.marks) {
    if (mark.what !== "block") continue;
    // on a gap's own step it names what lies beyond, as the mark looks
    const block = at(stretch, along ? step : step - 1);
    if (block.marks.length === 0) Object.assign(block, { id: mark.id, name: mark.name });
    block.marks.push(mark);
    block.zones.push(...zones.filter(({ block: name }) => isBlock(name, mark.name)));
  }
  const borders: Border[] = [];
  for (const stretch of layout.stretches)
    for (const [step, gapped] of edges(stretch)) {
      const border: Border = { stretch, step, rails: gapped, before: at(stretch, step - 1), after: at(stretch, step) };
      borders.push(border);
      border.before.borders.push(border);
      if (border.after !== border.before) border.after.borders.push(border);
    }
  const byName = new Map([...blocks.values()].flatMap((block) => block.marks.map(({ name }) => [key(name), block])));
  return { blocks: [...blocks.values()], borders, at, named: (name) => byName.get(key(name)), edges, rails };
}

/** All gaps but those in one rail that only part it from a frog that is fed. */
function edgesOf(record: RailwayRecord, layout: LineLayout, rails: Rails): Rails["gaps"] {
  const fed = fedFrogs(record);
  const behindFrogs = new Map<Stretch, Set<number>>();
  for (const junction of layout.junctions) {
    if (frogKindOf(fed, junction) === "insulated") continue;
    for (const leg of ["normal", "reverse"] as const) {
      const found = innerRail(layout, rails.gaps, junction, leg);
      if (!found || found.gap === null || rails.gaps(found.stretch).get(found.gap) === "both") continue;
      behindFrogs.set(found.stretch, (behindFrogs.get(found.stretch) ?? new Set()).add(found.gap));
    }
  }
  const known = new Map<Stretch, ReturnType<Rails["gaps"]>>();
  return (stretch) => {
    const gaps = rails.gaps(stretch);
    const own = behindFrogs.get(stretch);
    if (!own) return gaps;
    const edges = known.get(stretch) ?? new Map([...gaps].filter(([step]) => !own.has(step)));
    known.set(stretch, edges);
    return edges;
  };
}

function key(name: string): string {
  return name.trim().toLowerCase();
}

/** The side of the bus that a rail at a turnout's toe has, as one faces the points; null where no feeder tells. */
export function busSideOf(record: RailwayRecord, { id }: Pick<Junction, "id">, rail: Side): "J" | "K" | null {
  const piece = blocksOnLine(record).rails.beside(portOf(id, "toe"), otherSide(rail));
  const [wire, other] = [...(piece?.gets ?? [])];
  return wire && !other ? wire : null;
}

/** Blocks with a name whose track runs on into that of another: what ends them is not drawn. */
export function runTogether({ blocks }: Blocks): Block[] {
  return blocks.filter(({ marks }) => new Set(marks.map(({ name }) => key(name))).size > 1);
}

const watchedKnown = new WeakMap<Blocks, WatchedRails>();

/** Zones of detectors in the feed of the rails at each turnout, by the block that it stands in on the line. */
export function watchedRails(record: RailwayRecord): WatchedRails {
  if (record.tracks.length === 0 || assignmentsOfRole(record, "block").length === 0) return UNWATCHED;
  const found = blocksOnLine(record);
  const before = watchedKnown.get(found);
  if (before) return before;
  const watched = new Map(
    found.blocks.flatMap(({ zones, junctions }) =>
      zones.length === 0 ? [] : junctions.flatMap(({ turnout }) => (turnout ? [[turnout.id, zones] as const] : [])),
    ),
  );
  watchedKnown.set(found, watched);
  return watched;
}
