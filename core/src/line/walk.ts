import { isCircle, type LineLayout, type Stretch } from "./layout.ts";
import { type Leg, type Lie, linkedTo, type Port, portOf, turnoutPort, waysOn } from "./topology.ts";

/** Where something is on the line and which way it looks: between two points of a stretch, by the first one's number. */
export interface Heading {
  stretch: Stretch;
  step: number;
  /** From the stretch's first point to its last. */
  along: boolean;
}

/** What comes after the last step of a stretch. */
export type Beyond =
  | { what: "track"; at: Heading; passed: readonly { id: string; entered: Leg; left: Leg }[] }
  /** Blades that lie for the other leg. */
  | { what: "blades"; id: string }
  | { what: "end"; id: string }
  | { what: "nothing" };

/** Ways over a line, from step to step. */
export class Ways {
  private readonly links: ReadonlyMap<Port, Port>;
  private readonly byPort: LineLayout["byPort"];
  private readonly ends: ReadonlySet<string>;

  constructor(private readonly layout: Pick<LineLayout, "line" | "byPort" | "at">) {
    const { line, byPort } = layout;
    this.links = linkedTo({ links: line.within ?? [] });
    this.ends = new Set(line.ends);
    this.byPort = byPort;
  }

  /** The first step of the track that one leaves a port by; null where there is none. */
  leaving(port: Port): Heading | null {
    const found = this.byPort.get(port);
    if (!found) return null;
    const { stretch, isFrom } = found;
    return { stretch, step: isFrom ? 0 : stretch.points.length - 2, along: isFrom };
  }

  /** The port that a heading leads to at the end of its stretch. */
  portAhead({ stretch, along }: Heading): Port | null {
    return along ? stretch.to : stretch.from;
  }

  /**
   * What comes next: another step, or what follows the stretch.
   * @param lies how blades lie, by their identifiers; null for all ways that there are
   */
  next(heading: Heading, lies: ((id: string) => Lie) | null): Beyond[] {
    const { stretch, step, along } = heading;
    const on = step + (along ? 1 : -1);
    if (on >= 0 && on < stretch.points.length - 1)
      return [{ what: "track", at: { stretch, step: on, along }, passed: [] }];
    const port = this.portAhead(heading);
    if (port !== null) return this.through(port, lies, []);
    if (!isCircle(this.layout, stretch)) return [{ what: "nothing" }];
    return [{ what: "track", at: { stretch, step: along ? 0 : stretch.points.length - 2, along }, passed: [] }];
  }

  /** Through blades that are entered by a port, and through those that follow in the same place. */
  private through(
    port: Port,
    lies: ((id: string) => Lie) | null,
    passed: readonly { id: string; entered: Leg; left: Leg }[],
  ): Beyond[] {
    if (this.ends.has(port)) return [{ what: "end", id: port }];
    const entered = turnoutPort(port);
    if (!entered) return [{ what: "nothing" }];
    const { id, leg } = entered;
    const lie = lies?.(id);
    if (lie !== undefined && leg !== "toe" && leg !== lie) return [{ what: "blades", id }];
    const out = lie === undefined ? waysOn(leg) : leg === "toe" ? [lie] : (["toe"] as const);
    return out.flatMap((left): Beyond[] => {
      const now = [...passed, { id, entered: leg, left }];
      const by = portOf(id, left);
      const within = this.links.get(by);
      // blades of one place: a train that goes round in them would have been there before
      if (within !== undefined) return passed.length > 2 ? [] : this.through(within, lies, now);
      const at = this.leaving(by);
      return at ? [{ what: "track", at, passed: now }] : [{ what: "nothing" }];
    });
  }
}

/** More steps than a stretch can have. */
const MOST_STEPS_EACH = 2 ** 20;

/** A number by which a heading is known again. */
export function nameOfHeading({ stretch, step, along }: Heading): number {
  return (stretch.index * MOST_STEPS_EACH + step) * 2 + (along ? 1 : 0);
}

/** The parts of a stretch between gaps, in steps from its first point; a gap is in the middle of its step. */
export function partsBetween(cuts: readonly number[], last: number): [from: number, to: number][] {
  const at = cuts.map((cut) => cut + 0.5);
  return [0, ...at].map((from, index) => [from, at[index] ?? last]);
}

/** Metres of one step of a stretch, on the average. */
export function metresOfStep({ metres, points }: Stretch): number {
  return metres / Math.max(1, points.length - 1);
}
