import type { RailwayRecord } from "../record/kinds.ts";
import { type Block, type Border, blocksOnLine } from "./blocks.ts";
import { followsFrom } from "./follows.ts";
import { type LineLayout, lineLayout, type Stretch } from "./layout.ts";
import { portLabel } from "./rails.ts";
import { type Port, turnoutPort } from "./topology.ts";

/** A section that is turned round while a train is in it. */
export interface Section {
  /** The link that has to be parted. */
  link: readonly [Port, Port];
  stretch: Stretch;
  /** Steps of the stretch on which both rails are parted. */
  gaps: number[];
  /** What lies between the gaps; the whole stretch as long as there are not two. */
  metres: number;
  /** The block between the gaps, once there are two. */
  block: Block | null;
  /** Other sections that it meets with nothing between. */
  touches: Section[];
  /** The way round, in words, each rail followed from where it starts. */
  walk: string[];
}

/**
 * The sections that turn trains, with what each is long, what it touches, and how the rails come to meet their opposites. Where
 * there are more than two gaps, the section is the longest piece between two that follow each other.
 */
export function sectionsOf(record: RailwayRecord): Section[] {
  const layout = lineLayout(record);
  const blocks = blocksOnLine(record);
  const { turning } = followsFrom(record);
  const sections = turning.cut.flatMap((link): Section[] => {
    const stretch = layout.stretches.find(({ from, to }) => from === link[0] && to === link[1]);
    if (!stretch) return [];
    const gaps = [...blocks.rails.gaps(stretch)].flatMap(([step, rails]) => (rails === "both" ? [step] : []));
    gaps.sort((a, b) => a - b);
    const perStep = stretch.metres / Math.max(1, stretch.points.length - 1);
    const pairs = gaps.slice(1).map((to, index) => [gaps[index] as number, to] as const);
    const longest = pairs.sort((a, b) => b[1] - b[0] - (a[1] - a[0]))[0];
    return [
      {
        ...{ link, stretch, gaps, touches: [] },
        metres: longest ? (longest[1] - longest[0]) * perStep : stretch.metres,
        block: longest ? blocks.at(stretch, longest[0]) : null,
        walk: walkRound(
          record,
          layout,
          link,
          turning.cut.filter((other) => other !== link),
        ),
      },
    ];
  });
  for (const section of sections)
    section.touches = sections.filter(
      (other) => other !== section && section.block !== null && meets(section.block, other.block),
    );
  return sections;
}

/** Whether two blocks meet at a gap, with no other track between. */
function meets(one: Block, other: Block | null): boolean {
  return other !== null && one.borders.some(({ before, after }: Border) => before === other || after === other);
}

/**
 * A way round over a link, turnout by turnout. A rail keeps its side from a toe to a leg; from leg to leg one goes back on oneself,
 * and it changes sides.
 */
function walkRound(
  record: RailwayRecord,
  { line }: LineLayout,
  link: readonly [Port, Port],
  others: readonly (readonly [Port, Port])[],
): string[] {
  const [a, b] = link;
  const ignored = new Set([link, ...others].flat());
  const way = wayRound(
    line.links.filter(([port]) => !ignored.has(port)),
    link,
  );
  const words = [`Follow the rail on the left as one leaves ${portLabel(record, a)} towards ${portLabel(record, b)}.`];
  let isLeft = true;
  let at: Port = b;
  for (const [out, into] of way) {
    const isTurn = turnoutPort(at)?.leg !== "toe" && turnoutPort(out)?.leg !== "toe";
    if (isTurn) isLeft = !isLeft;
    const side = isLeft ? "left" : "right";
    words.push(
      isTurn
        ? `In at ${portLabel(record, at)} and back out at ${portLabel(record, out)}: now it is on the ${side}.`
        : `In at ${portLabel(record, at)} and out at ${portLabel(record, out)}: it is on the ${side} still.`,
    );
    at = into;
  }
  const side = isLeft ? "left" : "right";
  words.push(
    `It comes in at ${portLabel(record, at)} on the ${side}. Facing the points of ${turnoutOf(record, at)} that is its ${facing(at, isLeft, false)} rail, and it left as the ${facing(a, true, true)} one: each rail meets the other.`,
  );
  return words;
}

function turnoutOf(record: RailwayRecord, port: Port): string {
  return portLabel(record, port).replace(/ (toe|normal|reverse)$/, "");
}

/** The side of a rail as one faces the points from the toe, of one that lies so as one goes in or out by a port. */
function facing(port: Port, isLeft: boolean, goesOut: boolean): "left" | "right" {
  const goesWithPoints = (turnoutPort(port)?.leg === "toe") !== goesOut;
  return isLeft === goesWithPoints ? "left" : "right";
}

/** The shortest way from the far side of a link back to its near side on which a rail comes back as the other one. */
function wayRound(links: readonly (readonly [Port, Port])[], [a, b]: readonly [Port, Port]): [out: Port, into: Port][] {
  const around = new Map<string, [Port, Port][]>();
  for (const [one, other] of links)
    for (const [out, into] of [
      [one, other],
      [other, one],
    ] as [Port, Port][]) {
      const id = turnoutPort(out)?.id;
      if (id === undefined || !turnoutPort(into)) continue;
      around.set(id, [...(around.get(id) ?? []), [out, into]]);
    }
  const home = turnoutPort(a)?.id;
  /** Whether left and right as seen from the toe change places from one port to another over a link. */
  const swaps = (out: Port, into: Port) => (turnoutPort(out)?.leg === "toe") === (turnoutPort(into)?.leg === "toe");
  interface Seen {
    at: Port;
    swapped: boolean;
    way: [Port, Port][];
  }
  const seen = new Set<string>();
  const open: Seen[] = [{ at: b, swapped: swaps(a, b), way: [] }];
  for (let next = open.shift(); next; next = open.shift()) {
    const { at, swapped, way } = next;
    const id = turnoutPort(at)?.id ?? "";
    if (id === home && swapped) return way;
    const name = `${id} ${swapped}`;
    if (seen.has(name)) continue;
    seen.add(name);
    for (const [out, into] of around.get(id) ?? [])
      open.push({ at: into, swapped: swapped !== swaps(out, into), way: [...way, [out, into]] });
  }
  return [];
}
