import { type Element, THERMAL_VOLTS } from "./elements.ts";
import { junctionSlope, limiterSlope, limitJunction, type Slope } from "./junction.ts";

/** Lines and curves agree within this share of the current. */
const RELATIVE = 1e-7;
/** Figures kept of each curved element: of a diode IS, n kT/q and RS; of a limiter the mark below, its ohms and its limit. */
const FIGURES = 3;
const IS_LIMITER = -1;

/**
 * The curved elements of a circuit, diodes and limiters: at each the point where its line touches its curve. Their figures
 * are kept as plain numbers, since the iteration reads nothing else.
 */
export class Curves {
  /** Indices of the curved elements among all. */
  readonly indices: Int32Array;
  /** Junction voltage of a diode, or voltage across a limiter, at which its line touches. */
  readonly touch: Float64Array;
  private readonly figures: Float64Array;
  private readonly slope: Slope = { amps: 0, siemens: 0 };

  /** @param lay takes the line laid for an element: amps = siemens x volts + offset */
  constructor(
    elements: readonly Element[],
    private readonly lay: (index: number, siemens: number, offset: number) => void,
  ) {
    this.indices = Int32Array.from(
      elements.flatMap(({ kind }, index) => (kind === "diode" || kind === "limiter" ? [index] : [])),
    );
    this.touch = new Float64Array(elements.length);
    this.figures = new Float64Array(elements.length * FIGURES);
  }

  /** Takes over an element's figures. */
  take(index: number, element: Extract<Element, { kind: "diode" | "limiter" }>): void {
    const figures =
      element.kind === "diode"
        ? [element.model.is, element.model.n * THERMAL_VOLTS, element.model.rs]
        : [IS_LIMITER, element.ohms, element.limitAmps];
    this.figures.set(figures, index * FIGURES);
  }

  /** Lays all lines where they touch. */
  layAll(gmin: number): void {
    for (let c = 0; c < this.indices.length; c++) this.layAt(this.indices[c] as number, gmin);
  }

  private layAt(index: number, gmin: number): void {
    const { slope, figures, touch } = this;
    const at = index * FIGURES;
    const volts = touch[index] as number;
    if (figures[at] === IS_LIMITER) {
      limiterSlope(figures[at + 1] as number, figures[at + 2] as number, volts, slope);
      this.lay(index, slope.siemens, slope.amps - slope.siemens * volts);
    } else {
      junctionSlope(figures[at] as number, figures[at + 1] as number, volts, gmin, slope);
      this.layTangent(index, figures[at + 2] as number, volts);
    }
  }

  /** The tangent of a diode whose junction's slope has been found, in the voltage across junction and series resistance. */
  private layTangent(index: number, seriesOhms: number, junction: number): void {
    const { amps, siemens } = this.slope;
    const whole = siemens / (1 + siemens * seriesOhms);
    this.lay(index, whole, amps - whole * (junction + amps * seriesOhms));
  }

  /**
   * Compares an element's line with its curve at a solution. Where they part, the line is laid anew at a touching point
   * moved towards the solution; where they agree it stays, and with it all that depends on it.
   * @param across volts across the element
   * @param onLine its current by its line, amps
   * @param within amps by which they may differ
   * @returns whether they agree
   */
  approach(index: number, across: number, onLine: number, gmin: number, within: number): boolean {
    const { slope, figures, touch } = this;
    const at = index * FIGURES;
    if (figures[at] === IS_LIMITER) {
      limiterSlope(figures[at + 1] as number, figures[at + 2] as number, across, slope);
      if (Math.abs(slope.amps - onLine) <= within + RELATIVE * Math.abs(slope.amps)) return true;
      touch[index] = across;
      this.lay(index, slope.siemens, slope.amps - slope.siemens * across);
      return false;
    }
    const is = figures[at] as number;
    const scale = figures[at + 1] as number;
    const seriesOhms = figures[at + 2] as number;
    // a blocked diode carries its saturation current at most: no need to ask the curve while that is of no account
    if (across < 0 && 2 * is < within && Math.abs(onLine) < within / 2) return true;
    const junction = across - onLine * seriesOhms;
    junctionSlope(is, scale, junction, gmin, slope);
    const wrongBy = Math.abs(slope.amps - onLine);
    // far beyond its line the curve is infinite, which agrees with nothing
    if (wrongBy < Number.POSITIVE_INFINITY && wrongBy <= within + RELATIVE * Math.abs(slope.amps)) return true;
    const limited = limitJunction(is, scale, junction, touch[index] as number);
    touch[index] = limited;
    if (limited !== junction) junctionSlope(is, scale, limited, gmin, slope);
    this.layTangent(index, seriesOhms, limited);
    return false;
  }
}
