import { type Element, THERMAL_VOLTS } from "./elements.ts";
import type { Elimination } from "./elimination.ts";
import { criticalVolts, junctionSlope, limiterSlope, limitJunction, type Slope } from "./junction.ts";

/** Lines and curves agree within this share of the current. */
const RELATIVE = 1e-7;
/** At first only elements that are wrong by more amps than this are laid anew, so that leakage waits until what conducts is near. */
export const COARSE_AMPS = 1e-6;
/** Figures kept of each curved element: of a diode IS, n kT/q and all ohms of its row; of a limiter the mark below, its ohms and its limit. */
const FIGURES = 3;
const IS_LIMITER = -1;

/**
 * At its critical voltage a junction carries n kT/q over the root of 2 in amps, one for each volt; a line that carries no more than this
 * share of n kT/q there is far from its curve.
 */
const FAR_BELOW = 0.25;

type Curved = Extract<Element, { kind: "diode" | "limiter" }>;

/** Whether an element's current is no straight line of its voltage. */
export function isCurved(element: Element): element is Curved {
  return element.kind === "diode" || element.kind === "limiter";
}

/**
 * Where the row of an element stands in the elimination: the places of its two ends in the element's own direction, and its branch; -1
 * when a source shorts it.
 */
export interface Stand {
  row: number;
  /** 1 when it lets its current through in its row's direction, -1 against it. */
  sign: number;
  /** Nodes at the two ends. */
  from: number;
  to: number;
  first: number;
  second: number;
  branch: number;
}

/**
 * The curved elements of a circuit, diodes and limiters, each with the line by which its row stands: amps = siemens x volts +
 * offset, touching its curve at one point. What the iteration reads is kept together as plain numbers, one for each curve.
 */
export class Curves {
  /** Index of each curve among all elements. */
  readonly indices: Int32Array;
  /** Junction voltage of a diode, or voltage across a limiter, at which its line touches. */
  readonly touch: Float64Array;
  /** Volts that ideal sources add between the two ends of each one's row. */
  private readonly tied: Float64Array;
  private readonly numberOf: Int32Array;
  private readonly row: Int32Array;
  private readonly sign: Int8Array;
  /** Of a diode: ohms within it, and those of the straight elements of its row. */
  private readonly ownOhms: Float64Array;
  private readonly rowOhms: Float64Array;
  private readonly from: Int32Array;
  private readonly to: Int32Array;
  private readonly first: Int32Array;
  private readonly second: Int32Array;
  private readonly branch: Int32Array;
  private readonly siemens: Float64Array;
  private readonly offset: Float64Array;
  private readonly figures: Float64Array;
  /** Volts across each diode up to which it carries next to nothing beside `COARSE_AMPS`; below all volts of one that never does. */
  private readonly calm: Float64Array;
  /** Volts of each diode's junction up to which its exponential is tame. */
  private readonly critical: Float64Array;
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
    this.row = Int32Array.from(stands, ({ row }) => row);
    this.sign = Int8Array.from(stands, ({ sign }) => sign);
    this.ownOhms = new Float64Array(count);
    this.rowOhms = new Float64Array(count);
    this.from = Int32Array.from(stands, ({ from }) => from);
    this.to = Int32Array.from(stands, ({ to }) => to);
    this.first = Int32Array.from(stands, ({ first }) => first);
    this.second = Int32Array.from(stands, ({ second }) => second);
    this.branch = Int32Array.from(stands, ({ branch }) => branch);
    this.touch = new Float64Array(count);
    this.tied = new Float64Array(count);
    this.siemens = new Float64Array(count);
    this.offset = new Float64Array(count);
    this.figures = new Float64Array(count * FIGURES);
    this.calm = new Float64Array(count).fill(Number.NEGATIVE_INFINITY);
    this.critical = new Float64Array(count);
    this.atRest = new Float64Array(count);
  }

  /** Takes over an element's figures. */
  take(index: number, element: Curved): void {
    const c = this.numberOf[index] as number;
    const at = c * FIGURES;
    if (element.kind === "limiter") this.figures.set([IS_LIMITER, element.ohms, element.limitAmps], at);
    else {
      const { is, n, rs } = element.model;
      const scale = n * THERMAL_VOLTS;
      this.ownOhms[c] = rs;
      this.figures.set([is, scale, rs + (this.rowOhms[c] as number)], at);
      this.calm[c] = 4 * is < COARSE_AMPS ? scale * Math.log1p(COARSE_AMPS / (4 * is)) : Number.NEGATIVE_INFINITY;
      this.critical[c] = criticalVolts(is, scale);
    }
    this.restGmin = Number.NaN;
  }

  /** Sets the ohms of the straight elements in a diode's row. */
  setRowOhms(index: number, ohms: number): void {
    const c = this.numberOf[index] as number;
    if (this.rowOhms[c] === ohms) return;
    this.rowOhms[c] = ohms;
    this.figures[c * FIGURES + 2] = (this.ownOhms[c] as number) + ohms;
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

  /** Takes over what ideal sources add to the volts of the nodes. */
  tie(volts: Float64Array): void {
    for (let c = 0; c < this.tied.length; c++)
      this.tied[c] = (volts[this.from[c] as number] as number) - (volts[this.to[c] as number] as number);
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
    const { first, second, siemens, offset, tied, calm } = this;
    const isCoarse = within >= COARSE_AMPS;
    let agreed = true;
    for (let c = 0; c < offset.length; c++) {
      const across =
        (volts[first[c] as number] as number) - (volts[second[c] as number] as number) + (tied[c] as number);
      const onLine = (siemens[c] as number) * across + (offset[c] as number);
      // what is of no account yet need not be asked of the curve: a blocked diode carries its saturation current at most
      if (isCoarse && across < (calm[c] as number) && Math.abs(onLine) < within / 2) continue;
      if (!this.approachOne(c, across, onLine, gmin, within)) agreed = false;
    }
    return agreed;
  }

  /** What the surroundings of an element can give it at most, by what holds the ends of its row and by the ohms of that. */
  private mostAmps(c: number, across: number): number {
    const { elimination } = this;
    const held = Math.min(elimination.holding(this.first[c] as number), elimination.holding(this.second[c] as number));
    return across / (1 / held + (this.rowOhms[c] as number));
  }

  /** Writes the lines to where those of all rows are kept, each in its row's direction. */
  tell(siemens: Float64Array, offset: Float64Array): void {
    for (let c = 0; c < this.row.length; c++) {
      const row = this.row[c] as number;
      siemens[row] = this.siemens[c] as number;
      offset[row] = (this.sign[c] as number) * (this.offset[c] as number);
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
    const scale = figures[at + 1] as number;
    const seriesOhms = figures[at + 2] as number;
    const junction = across - onLine * seriesOhms;
    const critical = this.critical[c] as number;
    const old = touch[c] as number;
    // one that begins to conduct is far from its line, whatever the curve says
    const begins = old <= 0 && junction > critical && onLine < scale * FAR_BELOW;
    if (!begins) {
      junctionSlope(is, scale, junction, gmin, slope);
      const wrongBy = Math.abs(slope.amps - onLine);
      // far beyond its line the curve is infinite, which agrees with nothing
      if (wrongBy < Number.POSITIVE_INFINITY && wrongBy <= within + RELATIVE * Math.abs(slope.amps)) return true;
    }
    const limited = limitJunction(is, scale, junction, old, this.mostAmps(c, across), critical);
    touch[c] = limited;
    if (begins || limited !== junction) junctionSlope(is, scale, limited, gmin, slope);
    this.layTangent(c, seriesOhms, limited);
    return false;
  }
}
