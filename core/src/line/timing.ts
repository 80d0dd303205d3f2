import { typeOf } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { assignmentsOfRole, deviceOf, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { AssignmentOf, Position, Railway } from "../record/schemas.ts";
import { type Block, type Border, blocksOnLine } from "./blocks.ts";
import { type LineLayout, lineLayout } from "./layout.ts";
import { isMarked } from "./marks.ts";
import { type Leg, type Lie, type Port, portOf } from "./topology.ts";
import { type Heading, metresOfStep, nameOfHeading, Ways } from "./walk.ts";

/** Metres a second on the layout of a train that runs so many km/h in the original. */
export function metresPerSecond({ scale, trainKmh }: Pick<Railway, "scale" | "trainKmh">): number {
  return trainKmh / 3.6 / scale;
}

/** What coils take to throw, seconds; from memory, common practice. */
const SNAP_SECONDS = 0.05;
/** What motors take of which nothing is stated. */
const USUAL_SECONDS = 3;

/** Seconds until the blades of a turnout lie otherwise: the slowest of its motors and of those that move with it. */
export function throwSeconds(record: RailwayRecord, turnoutId: string): number | null {
  const leader = find(record, "turnout", turnoutId)?.movesWith ?? turnoutId;
  const moved = new Set(record.turnouts.flatMap(({ id, movesWith }) => (movesWith === leader ? [id] : [])));
  const motors = assignmentsOfRole(record, "motor").filter((each) => [leader, ...moved].includes(each.turnoutId));
  if (motors.length === 0) return null;
  return Math.max(
    ...motors.map(({ deviceId }) => {
      const type = typeOf(record, deviceOf(record, deviceId));
      if (traitsOf(type).movedBy === "pulse") return SNAP_SECONDS;
      return type.figures.moveSeconds?.value ?? USUAL_SECONDS;
    }),
  );
}

/** A turnout that a train throws: in which block it is seen, and what it asks for. */
export interface AutomaticThrow {
  control: AssignmentOf<"control">;
  block: Block;
  turnoutId: string;
  to: Position;
  /** How trains that enter the block come to the blades; none where no way leads there. */
  arrivals: Arrival[];
  /** From the train's first axle in the block until the blades lie, seconds; null without a motor. */
  seconds: number | null;
}

/** A train's way from the edge of a block to blades. */
export interface Arrival {
  border: Border;
  leg: Leg;
  metres: number;
  seconds: number;
  /** The steps from the gap to the blades. */
  way: Heading[];
}

/** Turnouts that detectors throw, where the block is on the line. A zone that the turnout only follows is none of them. */
export function automaticThrows(record: RailwayRecord): AutomaticThrow[] {
  if (!isMarked(record, "block")) return [];
  const layout = lineLayout(record);
  const blocks = blocksOnLine(record);
  const watched = assignmentsOfRole(record, "block");
  const delayOf = (deviceId: string) => typeOf(record, deviceOf(record, deviceId)).figures.detectSeconds?.value ?? 0;
  const controls = assignmentsOfRole(record, "control");
  const blockOf = ({ deviceId, way }: AssignmentOf<"control">) => {
    const zone = watched.find((each) => each.deviceId === deviceId && each.way === way);
    return zone ? blocks.named(zone.block) : undefined;
  };
  return controls.flatMap((control): AutomaticThrow[] => {
    const { deviceId, turnoutId, to, inverse, follows } = control;
    const block = blockOf(control);
    if (!block || to === null || follows) return [];
    const moves = throwSeconds(record, turnoutId);
    // what goes on into a block that throws it too is that block's matter
    const others = controls.flatMap((other) => {
      const own = other === control || other.turnoutId !== turnoutId ? undefined : blockOf(other);
      return own && own !== block ? [own] : [];
    });
    return [
      {
        ...{ control, block, turnoutId, to: inverse ? (to === "N" ? "R" : "N") : to },
        arrivals: arrivalsAt(record, layout, block, turnoutId, others),
        seconds: moves === null ? null : delayOf(deviceId) + moves,
      },
    ];
  });
}

/**
 * How trains that enter a block over one of its gaps come to a turnout, by the shortest way each.
 * @param others blocks beyond which one does not look
 */
export function arrivalsAt(
  record: RailwayRecord,
  layout: LineLayout,
  block: Block,
  turnoutId: string,
  others: readonly Block[] = [],
): Arrival[] {
  const ways = new Ways(layout);
  const { at: blockAt } = blocksOnLine(record);
  const isBeyond = ({ stretch, step, along }: Heading) => others.includes(blockAt(stretch, along ? step : step - 1));
  const speed = metresPerSecond(record.railway);
  return block.borders.flatMap((border): Arrival[] => {
    const found = ([true, false] as const).flatMap((along): Arrival[] => {
      const into = along ? border.after : border.before;
      if (into !== block) return [];
      const way = wayTo(ways, { stretch: border.stretch, step: border.step, along }, turnoutId, isBeyond);
      return way ? [{ border, ...way, seconds: way.metres / speed }] : [];
    });
    return found.sort((a, b) => a.metres - b.metres).slice(0, 1);
  });
}

/** The shortest way on from a gap to blades: by which leg it comes in, and metres from the middle of the gap's step. */
function wayTo(
  ways: Ways,
  from: Heading,
  turnoutId: string,
  isBeyond: (at: Heading) => boolean,
): { leg: Leg; metres: number; way: Heading[] } | null {
  const seen = new Set<number>();
  interface Reached {
    at: Heading;
    metres: number;
    before: Reached | null;
  }
  let open: Reached[] = [{ at: from, metres: metresOfStep(from.stretch) / 2, before: null }];
  while (open.length > 0) {
    open.sort((a, b) => a.metres - b.metres);
    const [nearest, ...rest] = open as [Reached];
    open = rest;
    const name = nameOfHeading(nearest.at);
    if (seen.has(name)) continue;
    seen.add(name);
    for (const next of ways.next(nearest.at, null)) {
      if (next.what !== "track") continue;
      const passed = next.passed.find(({ id }) => id === turnoutId);
      if (passed) {
        const way: Heading[] = [];
        for (let at: Reached | null = nearest; at; at = at.before) way.unshift(at.at);
        return { leg: passed.entered, metres: nearest.metres, way };
      }
      if (isBeyond(next.at)) continue;
      open.push({ at: next.at, metres: nearest.metres + metresOfStep(next.at.stretch), before: nearest });
    }
  }
  return null;
}

/** Whether a throw serves a train that comes in by a leg: it has to lie for that leg, or the train comes in by the toe. */
export function serves({ to }: Pick<AutomaticThrow, "to">, { leg }: Pick<Arrival, "leg">): boolean {
  return leg === "toe" || lieOf(to) === leg;
}

export function lieOf(position: Position): Lie {
  return position === "N" ? "normal" : "reverse";
}

/** The port at which a position leads out. */
export function portOfPosition(turnoutId: string, position: Position): Port {
  return portOf(turnoutId, lieOf(position));
}
