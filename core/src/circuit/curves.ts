import { type Element, THERMAL_VOLTS } from "./elements.ts";
import type { Elimination } from "./elimination.ts";
import { junctionSlope, limiterSlope, limitJunction, type Slope } from "./junction.ts";

/** Lines and curves agree within this share of the current. */
const RELATIVE = 1e-7;
/** At first only elements that are wrong by more amps than this are laid anew, so that leakage waits until what conducts is near. */
export const COARSE_AMPS = 1e-6;
/** Figures kept of each curved element: of a diode IS, n kT/q and RS; of a limiter the mark below, its ohms and its limit. */
const FIGURES = 3;
const IS_LIMITER = -1;

type Curved = Extract<Element, { kind: "diode" | "limiter" }>;

/** Whether an element's current is no straight line of its voltage. */
export function isCurved(element: Element): element is Curved {
  return element.kind === "diode" || element.kind === "limiter";
}

/** Where an element stands in the elimination: the places of its two ends, and its branch; -1 when a source shorts it. */
export interface Stand {
  first: number;
  second: number;
  branch: number;
}

/**
 * The curved elements of a circuit, diodes and limiters, each with the line by which it stands: amps = siemens x volts +
 * offset, touching its curve at one point. What the iteration reads is kept together as plain numbers, one for each curve.
 */
export class Curves {
  /** Index of each curve among all elements. */
  readonly indices: Int32Array;
  /** Junction voltage of a diode, or voltage across a limiter, at which its line touches. */
  readonly touch: Float64Array;
  /** Volts that ideal sources add between the two ends of each. */
  readonly tied: Float64Array;
  private readonly numberOf: Int32Array;
  private readonly first: Int32Array;
  private readonly second: Int32Array;
  private readonly branch: Int32Array;
  private readonly siemens: Float64Array;
  private readonly offset: Float64Array;
  private readonly figures: Float64Array;
  /** Volts across each diode up to which it carries next to nothing beside `COARSE_AMPS`. */
  private readonly calm: Float64Array;
  /** Slope of each at nothing, siemens, and the conductance beside the junctions for which that is known. */
  private readonly atRest: Float64Array;
  private restGmin = Number.NaN;
  private readonly slope: Slope = { amps: 0, siemens: 0 };

  constructor(
    elements: readonly Element[],
    private readonly elimination: Elimination,
    standOf: (index: number) => Stand,
  ) {
    this.indices = Int32Array.from(elements.flatMap((element, index) => (isCurved(element) ? [index] : [])));
    const count = this.indices.length;
    this.numberOf = new Int32Array(elements.length);
    for (const [c, index] of this.indices.entries()) this.numberOf[index] = c;
    const stands = [...this.indices].map(standOf);
    this.first = Int32Array.from(stands, ({ first }) => first);
    this.second = Int32Array.from(stands, ({ second }) => second);
    this.branch = Int32Array.from(stands, ({ branch }) => branch);
    this.touch = new Float64Array(count);
    this.tied = new Float64Array(count);
    this.siemens = new Float64Array(count);
    this.offset = new Float64Array(count);
    this.figures = new Float64Array(count * FIGURES);
    this.calm = new Float64Array(count);
    this.atRest = new Float64Array(count);
  }

  /** Takes over an element's figures. */
  take(index: number, element: Curved): void {
    const figures =
      element.kind === "diode"
        ? [element.model.is, element.model.n * THERMAL_VOLTS, element.model.rs]
        : [IS_LIMITER, element.ohms, element.limitAmps];
    const c = this.numberOf[index] as number;
    this.figures.set(figures, c * FIGURES);
    if (element.kind === "diode")
      this.calm[c] = element.model.n * THERMAL_VOLTS * Math.log1p(COARSE_AMPS / (4 * element.model.is));
    this.restGmin = Number.NaN;
  }

  /** Lays all lines where they touch. */
  layAll(gmin: number): void {
    for (let c = 0; c < this.touch.length; c++) this.layOne(c, gmin);
  }

  /** Lays all lines where their curves pass through nothing: from there the iteration of a steady state begins. */
  layAtRest(gmin: number): void {
    const { touch, siemens, offset, atRest } = this;
    if (this.restGmin !== gmin) {
      this.restGmin = gmin;
      touch.fill(0);
      this.layAll(gmin);
      atRest.set(siemens);
      return;
    }
    for (let c = 0; c < touch.length; c++) {
      touch[c] = 0;
      if (siemens[c] !== atRest[c] || offset[c] !== 0) this.lay(c, atRest[c] as number, 0);
    }
  }

  /** Feeds into the places what the lines carry whatever the voltages there, amps. */
  feed(currents: Float64Array): void {
    const { first, second, siemens, offset, tied } = this;
    for (let c = 0; c < offset.length; c++) {
      const amps = (offset[c] as number) + (siemens[c] as number) * (tied[c] as number);
      if (amps === 0) continue;
      const a = first[c] as number;
      const b = second[c] as number;
      currents[a] = (currents[a] as number) - amps;
      currents[b] = (currents[b] as number) + amps;
    }
  }

  /**
   * Compares the lines with their curves at a solution. Where they part, a line is laid anew at a touching point moved
   * towards the solution; where they agree it stays, and with it all that depends on it.
   * @param volts of the places
   * @param within amps by which they may differ
   * @returns whether all agree
   */
  approach(volts: Float64Array, gmin: number, within: number): boolean {
    const { first, second, siemens, offset, tied } = this;
    let agreed = true;
    for (let c = 0; c < offset.length; c++) {
      const across =
        (volts[first[c] as number] as number) - (volts[second[c] as number] as number) + (tied[c] as number);
      const onLine = (siemens[c] as number) * across + (offset[c] as number);
      if (!this.approachOne(c, across, onLine, gmin, within)) agreed = false;
    }
    return agreed;
  }

  /** What the surroundings of an element can give it at most, by what holds its two ends. */
  private mostAmps(c: number, across: number): number {
    const { elimination } = this;
    return (
      across * Math.min(elimination.holding(this.first[c] as number), elimination.holding(this.second[c] as number))
    );
  }

  /** Writes the lines to where those of all elements are kept, by index among all. */
  tell(siemens: Float64Array, offset: Float64Array): void {
    for (let c = 0; c < this.indices.length; c++) {
      const index = this.indices[c] as number;
      siemens[index] = this.siemens[c] as number;
      offset[index] = this.offset[c] as number;
    }
  }

  private layOne(c: number, gmin: number): void {
    const { slope, figures } = this;
    const at = c * FIGURES;
    const volts = this.touch[c] as number;
    if (figures[at] === IS_LIMITER) {
      limiterSlope(figures[at + 1] as number, figures[at + 2] as number, volts, slope);
      this.lay(c, slope.siemens, slope.amps - slope.siemens * volts);
    } else {
      junctionSlope(figures[at] as number, figures[at + 1] as number, volts, gmin, slope);
      this.layTangent(c, figures[at + 2] as number, volts);
    }
  }

  private lay(c: number, siemens: number, offset: number): void {
    this.siemens[c] = siemens;
    this.offset[c] = offset;
    const branch = this.branch[c] as number;
    if (branch >= 0) this.elimination.setConductance(branch, siemens);
  }

  /** The tangent of a diode whose junction's slope has been found, in the voltage across junction and series resistance. */
  private layTangent(c: number, seriesOhms: number, junction: number): void {
    const { amps, siemens } = this.slope;
    const whole = siemens / (1 + siemens * seriesOhms);
    this.lay(c, whole, amps - whole * (junction + amps * seriesOhms));
  }

  private approachOne(c: number, across: number, onLine: number, gmin: number, within: number): boolean {
    const { slope, figures, touch } = this;
    const at = c * FIGURES;
    if (figures[at] === IS_LIMITER) {
      limiterSlope(figures[at + 1] as number, figures[at + 2] as number, across, slope);
      if (Math.abs(slope.amps - onLine) <= within + RELATIVE * Math.abs(slope.amps)) return true;
      touch[c] = across;
      this.lay(c, slope.siemens, slope.amps - slope.siemens * across);
      return false;
    }
    const is = figures[at] as number;
    // what is of no account yet need not be asked of the curve: a blocked diode carries its saturation current at most
    if (within >= COARSE_AMPS && across < (this.calm[c] as number) && 4 * is < within && Math.abs(onLine) < within / 2)
      return true;
    const scale = figures[at + 1] as number;
    const seriesOhms = figures[at + 2] as number;
    const junction = across - onLine * seriesOhms;
    junctionSlope(is, scale, junction, gmin, slope);
    const wrongBy = Math.abs(slope.amps - onLine);
    // far beyond its line the curve is infinite, which agrees with nothing
    if (wrongBy < Number.POSITIVE_INFINITY && wrongBy <= within + RELATIVE * Math.abs(slope.amps)) return true;
    const limited = limitJunction(is, scale, junction, touch[c] as number, this.mostAmps(c, across));
    touch[c] = limited;
    if (limited !== junction) junctionSlope(is, scale, limited, gmin, slope);
    this.layTangent(c, seriesOhms, limited);
    return false;
  }
}
