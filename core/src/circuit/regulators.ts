import type { Element, VoltageSource } from "./elements.ts";

type Regulator = VoltageSource & { holds: NonNullable<VoltageSource["holds"]> };

/** What one regulator took, and the volts at its output with that. */
interface Step {
  takes: number;
  gives: number;
}

/** Rounds in which regulators come to hold their outputs, and how near that has to be, volts. */
const MOST_ROUNDS = 24;
const WITHIN = 1e-9;

/** A regulator that takes a volt more gives about a volt less; slopes beyond these come of rounding, or of another that moved. */
const USUAL_SLOPE = -1;
const STEEPEST = -3;
const FLATTEST = -0.2;

/** Of two steps that lie nearer to each other no slope can be told, volts. */
const TOO_NEAR = 1e-10;

/**
 * The regulators of a circuit: sources that take as many volts as keep another node at its own. Each is brought there by the slope
 * that its last two steps show (secant method), from the same beginning each time, so that a solution never depends on what was
 * solved before.
 */
export class Regulators {
  private readonly sources: readonly number[];
  private places: readonly number[] = [];
  private readonly takes = new Map<number, number>();

  constructor(private elements: readonly Element[]) {
    this.sources = elements.flatMap(({ kind }, place) => (kind === "voltage" ? [place] : []));
  }

  /**
   * Takes values anew, and lets each regulator begin with what its element says. Which sources are regulators may change with the
   * values: one whose supply is off holds nothing.
   */
  begin(elements: readonly Element[]): void {
    this.elements = elements;
    this.places = this.sources.filter((place) => isRegulator(elements[place]));
    this.takes.clear();
    for (const place of this.places) this.takes.set(place, (elements[place] as Regulator).volts);
  }

  /** What the source at a place of the circuit takes now, volts; null when it is no regulator. */
  takenAt(place: number): number | null {
    return this.takes.get(place) ?? null;
  }

  /** Whether the source at a place holds its output now, and is not down at its drop-out. */
  isHolding(place: number): boolean {
    const element = this.elements[place];
    return isRegulator(element) && (this.takes.get(place) ?? 0) > element.holds.dropOut + WITHIN;
  }

  /**
   * Brings all outputs to their volts.
   * @param voltsAt of a node by its name, in the last solution
   * @param solve the circuit with what the regulators take now
   */
  hold(voltsAt: (node: string) => number, solve: () => void): void {
    if (this.places.length === 0) return;
    const before = new Map<number, Step>();
    for (let round = 0; round < MOST_ROUNDS; round++) {
      let furthest = 0;
      for (const place of this.places) {
        const { nodes, holds } = this.elements[place] as Regulator;
        const [plus, minus] = holds.nodes;
        const now: Step = { takes: this.takes.get(place) ?? 0, gives: voltsAt(plus) - voltsAt(minus) };
        // it takes its drop-out at least, and of less than that all: it never turns its output round
        const least = Math.min(holds.dropOut, voltsAt(nodes[0]) - voltsAt(minus));
        const wanted = Math.max(least, now.takes + (holds.volts - now.gives) / slopeOf(before.get(place), now));
        furthest = Math.max(furthest, Math.abs(wanted - now.takes));
        before.set(place, now);
        this.takes.set(place, wanted);
      }
      if (furthest < WITHIN) return;
      solve();
    }
  }
}

function isRegulator(element: Element | undefined): element is Regulator {
  return element?.kind === "voltage" && element.holds !== undefined;
}

/** By how much less a regulator gives for each volt more that it takes, as its last two steps show. */
function slopeOf(before: Step | undefined, now: Step): number {
  if (!before || Math.abs(now.takes - before.takes) < TOO_NEAR) return USUAL_SLOPE;
  const slope = (now.gives - before.gives) / (now.takes - before.takes);
  return slope >= STEEPEST && slope <= FLATTEST ? slope : USUAL_SLOPE;
}
