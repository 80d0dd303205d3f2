import { type Adjoint, adjointOf } from "./adjoint.ts";
import { COARSE_AMPS, Curves } from "./curves.ts";
import { CircuitError, type Element, type Netlist, requireSensible } from "./elements.ts";
import { Elimination } from "./elimination.ts";
import { GMIN } from "./junction.ts";
import { layoutOf } from "./layout.ts";
import { Regulators } from "./regulators.ts";
import type { Part, Rows } from "./rows.ts";
import { type Names, OperatingPoint } from "./solution.ts";
import { SourceCurrents } from "./sourceCurrents.ts";
import { type Topology, topologyOf } from "./topology.ts";

const MOST_ITERATIONS = 150;
/** Changes of controlled switches and breakers before the circuit counts as one that never comes to rest. */
const MOST_FLIPS = 60;
/**
 * The iteration has settled when at each curved element the line that was solved and the curve agree within this. Voltage differences alone do not show convergence: a part that only blocked diodes hold has none to many digits.
 */
const ABSOLUTE_AMPS = 1e-19;
const COARSE_ITERATIONS = 2;
/** Current into a floating part, amps, above which it is a contradiction and not rounding. */
const STRAY_AMPS = 1e-9;

/** `steady`: capacitors are open, coils only their resistance. `moving`: both stand as lines that a transient sets. */
export type Mode = "steady" | "moving";

/**
 * A circuit whose wiring is fixed and whose values change: switches and figures. The order of
 * elimination is worked out once, and only what depends on a changed value is eliminated anew.
 *
 * Every element stands as a line, amps = siemens x volts + offset, for which curved elements are replaced by their
 * tangents until lines and curves agree (Newton's iteration with limited junctions; Nagel, "SPICE2", 1975).
 */
export class Circuit {
  readonly topology: Topology;
  private elements: readonly Element[];
  private readonly elimination: Elimination;
  private readonly rows: Rows;
  private readonly branchOf: Int32Array;
  /** Line of each row. */
  private readonly siemens: Float64Array;
  private readonly offset: Float64Array;
  private readonly curves: Curves;
  private readonly feeding: Int32Array;
  private readonly currents: Int32Array;
  private readonly reacting: readonly number[];
  private readonly regulators: Regulators;
  /** Places in the order of elimination that curved elements can reach, and the others. */
  private readonly active: Int32Array;
  private readonly inactive: Int32Array;
  private readonly sources: SourceCurrents;
  private readonly nodeVolts: Float64Array;
  private readonly rowAmps: Float64Array;
  /** Nodes that stand within no row. */
  private readonly outer: Int32Array;
  private readonly tieVolts: Float64Array;
  private readonly placeVolts: Float64Array;
  private readonly base: Float64Array;
  private readonly work: Float64Array;
  /** Present state of controlled switches (closed) and breakers (not tripped). */
  private readonly made: Uint8Array;
  private readonly place: Int32Array;
  /** Iterations of Newton that the last solution took. */
  iterations = 0;

  /** @throws {CircuitError} when figures make no sense or ideal sources are joined with nothing between them */
  constructor(
    netlist: Netlist,
    readonly mode: Mode = "steady",
  ) {
    const { elements } = netlist;
    for (const element of elements) requireSensible(element);
    this.elements = elements;
    const conducts = ({ kind }: Element) => kind !== "current" && (kind !== "capacitor" || mode === "moving");
    this.topology = topologyOf(netlist, (element) => partIn(element, mode), conducts);
    const { rows, unknownOf, unknowns } = this.topology;
    this.rows = rows;

    const { branchOf, branches, late, feeding, currents, reacting } = layoutOf(elements, this.topology, conducts);
    this.branchOf = branchOf;
    this.feeding = feeding;
    this.currents = currents;
    this.reacting = reacting;
    this.elimination = new Elimination(unknowns, branches, late);
    this.place = Int32Array.from(unknownOf, (unknown) =>
      unknown < 0 ? -1 : (this.elimination.place[unknown] as number),
    );
    this.siemens = new Float64Array(rows.count);
    this.offset = new Float64Array(rows.count);
    this.rowAmps = new Float64Array(rows.count);
    this.made = new Uint8Array(elements.length).fill(1);
    const place = (node: number | undefined) => this.place[node ?? 0] as number;
    this.curves = new Curves(elements, this.elimination, (index) => {
      const row = rows.of[index] as number;
      const sign = rows.signOf(index);
      const [left, right] = [rows.left[row] as number, rows.right[row] as number];
      const [from, to] = sign > 0 ? [left, right] : [right, left];
      return { row, sign, from, to, first: place(from), second: place(to), branch: this.branchOf[row] as number };
    });
    this.regulators = new Regulators(elements);
    this.active = this.elimination.dependents(late);
    const isActive = new Set(this.active);
    this.inactive = Int32Array.from({ length: unknowns }, (_, k) => k).filter((k) => !isActive.has(k));
    this.outer = Int32Array.from(unknownOf.keys()).filter((node) => rows.within[node] === -1);
    this.sources = new SourceCurrents(this.topology);
    this.nodeVolts = new Float64Array(this.topology.nodes.size);
    this.tieVolts = new Float64Array(this.topology.nodes.size);
    this.placeVolts = new Float64Array(unknowns + 1);
    this.base = new Float64Array(unknowns + 1);
    this.work = new Float64Array(unknowns + 1);
    for (const [index, element] of elements.entries()) this.take(index, element);
  }

  /** Unknowns and entries of the eliminated network, for measuring. */
  get size(): { unknowns: number; entries: number } {
    return { unknowns: this.topology.unknowns, entries: this.elimination.entries };
  }

  /**
   * Operating point with these values.
   * @param elements those of the netlist, alike in order, kind and nodes; elements that are the same objects as last
   *   time cost nothing
   * @throws {CircuitError} when it does not settle, a relay chatters, or a current source feeds a part with no way back
   */
  operatingPoint(elements: readonly Element[] = this.elements): OperatingPoint {
    this.give(elements);
    this.settle(true);
    return this.point();
  }

  /** Replaces the elements' values. */
  give(elements: readonly Element[]): void {
    const old = this.elements;
    if (elements !== old) {
      if (elements.length !== old.length) throw new CircuitError("Another circuit's elements were given.");
      // all are looked at before any is taken, so that a refused one leaves the circuit as it was
      const changed: number[] = [];
      for (let index = 0; index < elements.length; index++) if (elements[index] !== old[index]) changed.push(index);
      for (const index of changed) requireSensible(elements[index] as Element);
      this.elements = elements;
      for (const index of changed) this.take(index, elements[index] as Element);
    }
    for (const index of this.reacting) this.setMade(index, startsMade(elements[index] as Element));
  }

  /**
   * Solves with the present values.
   * @param react whether controlled switches and breakers answer to what is found
   */
  settle(react: boolean): void {
    this.regulators.begin(this.elements);
    for (let flips = 0; ; flips++) {
      this.solve();
      if (react) this.regulators.hold(this.nodeAt, () => this.solve());
      const flipped = react && this.reacting.length > 0 ? this.react() : [];
      if (flipped.length === 0) return;
      if (flips >= MOST_FLIPS) {
        const names = flipped.map((index) => this.elements[index]?.id).join(", ");
        throw new CircuitError(
          `${names} never comes to rest: what it switches takes away what holds it. Feed its coil from before its contact.`,
        );
      }
    }
  }

  private readonly nodeAt = (name: string): number => this.nodeVolts[this.topology.nodes.get(name) ?? 0] ?? 0;

  /** Whether a regulator holds its output now, and is not down at its drop-out. */
  isHolding(index: number): boolean {
    return this.regulators.isHolding(index);
  }

  /** Lets the next solution begin as a new circuit's would, whatever was solved before: in a transient each begins at the one before it. */
  forget(): void {
    this.curves.touch.fill(0);
  }

  /** Sets the line by which a capacitor or coil stands in a transient. */
  setLine(index: number, siemens: number, offset: number): void {
    const row = this.rows.of[index] as number;
    this.siemens[row] = siemens;
    this.offset[row] = offset;
    const branch = this.branchOf[row] as number;
    if (branch >= 0) this.elimination.setConductance(branch, siemens);
  }

  /** Lets a controlled switch or breaker be made or not. */
  setMade(index: number, made: boolean): void {
    if (this.made[index] === (made ? 1 : 0)) return;
    this.made[index] = made ? 1 : 0;
    this.take(index, this.elements[index] as Element);
  }

  isMade(index: number): boolean {
    return this.made[index] === 1;
  }

  /** Volts across an element, first node against second. */
  voltsAcross(index: number): number {
    const { first, second } = this.topology;
    return (this.nodeVolts[first[index] as number] as number) - (this.nodeVolts[second[index] as number] as number);
  }

  /** Amps through an element that is no ideal source. */
  ampsThrough(index: number): number {
    return this.rows.signOf(index) * (this.rowAmps[this.rows.of[index] as number] as number);
  }

  private readonly through = (index: number) => this.ampsThrough(index);

  /** What the last solution found. */
  point(): OperatingPoint {
    const { nodeVolts, rowAmps } = this;
    const rowsFrom = nodeVolts.length;
    const tiesFrom = rowsFrom + rowAmps.length;
    const found = new Float64Array(tiesFrom + this.topology.ties.length);
    found.set(nodeVolts);
    found.set(rowAmps, rowsFrom);
    this.sources.find(this.through, (tie, amps) => {
      found[tiesFrom + tie] = amps;
    });
    const open =
      this.reacting.length === 0
        ? NO_NAMES
        : this.reacting.filter((index) => !this.isMade(index)).map((index) => this.elements[index]?.id ?? "");
    return new OperatingPoint(this.topology, this.names, found, open);
  }

  /**
   * How the voltage between two nodes answers to small changes elsewhere, about the last solution.
   * @returns volts across and amps through each element for one amp fed into `plus` and taken out of `minus`, all sources dead
   */
  adjoint(plus: string, minus: string): Adjoint {
    const { topology, elimination, place, siemens, sources } = this;
    const at = (node: string) => topology.nodes.get(node) ?? 0;
    return adjointOf({ topology, elimination, place, siemens, sources }, at(plus), at(minus));
  }

  private namesKept: Names | null = null;

  private get names(): Names {
    if (this.namesKept) return this.namesKept;
    const ids = this.elements.map(({ id }) => id);
    this.namesKept = { ids, indexOf: new Map(ids.map((id, index) => [id, index])) };
    return this.namesKept;
  }

  /** Index of each element by its name. */
  get indexOf(): ReadonlyMap<string, number> {
    return this.names.indexOf;
  }

  /** Which controlled switches and breakers would be otherwise, with the present voltages. */
  wantsToFlip(index: number): boolean {
    const element = this.elements[index] as Element;
    if (element.kind === "breaker") return this.isMade(index) && Math.abs(this.ampsThrough(index)) > element.tripAmps;
    if (element.kind !== "switch" || !element.control) return false;
    const [plus, minus] = element.control.nodes;
    const across = this.nodeAt(plus) - this.nodeAt(minus);
    return this.isMade(index) ? across < element.control.offVolts : across > element.control.onVolts;
  }

  /** Indices of the elements that answer to voltages or currents by switching. */
  get switching(): readonly number[] {
    return this.reacting;
  }

  private react(): number[] {
    const flipping = this.reacting.filter((index) => this.wantsToFlip(index));
    for (const index of flipping) this.setMade(index, !this.isMade(index));
    return flipping;
  }

  private take(index: number, element: Element): void {
    switch (element.kind) {
      case "resistor":
        this.setOhms(index, element.ohms);
        break;
      case "switch": {
        const closed = element.control ? this.isMade(index) : element.closed;
        this.setOhms(index, closed ? element.onOhms : element.offOhms);
        break;
      }
      case "breaker":
        this.setOhms(index, this.isMade(index) ? element.ohms : TRIPPED_OHMS);
        break;
      case "current":
        this.setLine(index, 0, element.amps);
        break;
      case "coil":
        if (this.mode === "steady" && element.ohms > 0) this.setOhms(index, element.ohms);
        break;
      case "diode":
      case "limiter":
        this.curves.take(index, element);
        break;
    }
  }

  /** Sets the ohms of an element that others may stand in a row with. */
  private setOhms(index: number, ohms: number): void {
    if (this.rows.ohmsOf(index) === ohms) return;
    const row = this.rows.of[index] as number;
    const all = this.rows.setOhms(index, ohms);
    const curved = this.rows.curvedIn(row);
    if (curved >= 0) this.curves.setRowOhms(curved, all);
    else this.setLine(index, 1 / all, 0);
  }

  private solve(): void {
    this.iterations = 0;
    // a steady state begins from nothing, so that it never depends on what was solved before
    if (this.mode === "steady") this.curves.layAtRest(GMIN);
    else this.curves.layAll(GMIN);
    if (this.newton(GMIN, 1)) return;
    this.curves.layAtRest(GMIN);
    if (this.curves.indices.length > 0 && (this.newton(GMIN, 1) || this.byLeakage() || this.byRaising())) return;
    throw new CircuitError(
      `The circuit did not settle in ${MOST_ITERATIONS} steps. Look for diodes fed by impossible values.`,
    );
  }

  /** From leaky diodes, which always settle, to good ones: each solution is where the next one begins (gmin stepping). */
  private byLeakage(): boolean {
    this.curves.touch.fill(0);
    for (let gmin = 1e-2; gmin > GMIN / 1.5; gmin /= 10) {
      this.curves.layAll(gmin);
      if (!this.newton(gmin, 1)) return false;
    }
    return true;
  }

  /** From no sources to full ones, in steps that halve when one fails (source stepping). */
  private byRaising(): boolean {
    this.curves.layAtRest(GMIN);
    let reached = 0;
    let step = 0.1;
    let good = this.curves.touch.slice();
    while (reached < 1) {
      const next = Math.min(1, reached + step);
      if (this.newton(GMIN, next)) {
        reached = next;
        step *= 1.5;
        good = this.curves.touch.slice();
      } else {
        this.curves.touch.set(good);
        this.curves.layAll(GMIN);
        step /= 4;
        if (step < 1e-6) return false;
      }
    }
    return true;
  }

  /**
   * Newton's iteration from the lines as they lie. Columns that no curved element can reach are done once.
   * @param gmin conductance across each diode, siemens
   * @param scale share of the sources' full values
   * @returns whether it settled
   */
  private newton(gmin: number, scale: number): boolean {
    const { elimination, base, work, placeVolts, active, inactive, curves } = this;
    this.tie(scale);
    this.inject(scale);
    elimination.eliminate();
    elimination.forward(base, inactive);
    let within = COARSE_AMPS;
    let settled = false;
    for (let iteration = 0; iteration < MOST_ITERATIONS && !settled; iteration++) {
      this.iterations++;
      work.set(base);
      curves.feed(work);
      elimination.forward(work, active);
      elimination.back(work, placeVolts, active);
      if (iteration === COARSE_ITERATIONS) within = ABSOLUTE_AMPS;
      settled = curves.approach(placeVolts, gmin, within);
      if (settled && within > ABSOLUTE_AMPS) {
        within = ABSOLUTE_AMPS;
        settled = curves.approach(placeVolts, gmin, within);
      }
      if (!settled) elimination.eliminate();
    }
    if (!settled) return false;
    curves.tell(this.siemens, this.offset);
    elimination.back(work, placeVolts, inactive);
    this.requireWayBack(work);
    this.tellNodes();
    return true;
  }

  /** Volts of the nodes, from their unknowns and what the sources between add, and amps along the rows. */
  private tellNodes(): void {
    const { nodeVolts, placeVolts, tieVolts, place, outer, rows, rowAmps, siemens, offset } = this;
    for (let number = 0; number < outer.length; number++) {
      const node = outer[number] as number;
      nodeVolts[node] = (placeVolts[place[node] as number] as number) + (tieVolts[node] as number);
    }
    const { left, right } = rows;
    for (let row = 0; row < rowAmps.length; row++) {
      const across = (nodeVolts[left[row] as number] as number) - (nodeVolts[right[row] as number] as number);
      rowAmps[row] = (siemens[row] as number) * across + (offset[row] as number);
    }
    rows.tellWithin(nodeVolts, rowAmps);
  }

  /** Volts of each tied node against the node at the root of its tree. */
  private tie(scale: number): void {
    let changed = false;
    for (const { node, to, source, sign } of this.topology.ties) {
      const element = this.elements[source] as Element;
      const volts = element.kind === "voltage" ? (this.regulators.takenAt(source) ?? element.volts) : 0;
      const tied = (this.tieVolts[to] as number) + sign * volts * scale;
      if (tied === this.tieVolts[node]) continue;
      this.tieVolts[node] = tied;
      changed = true;
    }
    // nothing is tied to anything at first, and curves begin as if at 0 V
    if (!changed) return;
    this.curves.tie(this.tieVolts);
  }

  /** Currents that straight rows feed into the unknowns, for what is tied and for their offsets. */
  private inject(scale: number): void {
    this.base.fill(0);
    for (let f = 0; f < this.feeding.length; f++) {
      this.feed(this.base, this.feeding[f] as number, this.mode === "steady" ? scale : 1);
    }
  }

  private feed(currents: Float64Array, row: number, scale: number): void {
    const left = this.rows.left[row] as number;
    const right = this.rows.right[row] as number;
    const tied = (this.tieVolts[left] as number) - (this.tieVolts[right] as number);
    const amps = (this.siemens[row] as number) * tied + (this.offset[row] as number) * scale;
    if (amps === 0) return;
    const a = this.place[left] as number;
    const b = this.place[right] as number;
    currents[a] = (currents[a] as number) - amps;
    currents[b] = (currents[b] as number) + amps;
  }

  private requireWayBack(currents: Float64Array): void {
    if (this.currents.length === 0) return;
    for (let k = 0; k < this.topology.unknowns; k++) {
      if (!this.elimination.isFloating(k) || Math.abs(currents[k] as number) <= STRAY_AMPS) continue;
      const names = Array.from(this.currents, (index) => this.elements[index]?.id);
      throw new CircuitError(
        `${names.join(", ")}: the current has no way back. Join the part it feeds to the rest of the circuit.`,
      );
    }
  }
}

/** What an element is in a row: ohms may stand before and behind it, or nothing may; null of what ties its two nodes. */
function partIn(element: Element, mode: Mode): Part | null {
  const { kind } = element;
  if (kind === "voltage") return null;
  if (element.kind === "coil" && mode === "steady") return element.ohms === 0 ? null : "straight";
  if (kind === "diode") return "curved";
  return kind === "resistor" || kind === "switch" || kind === "breaker" ? "straight" : "alone";
}

const NO_NAMES: readonly string[] = [];

/** Resistance of a breaker that has tripped, ohms (common practice: as an open contact). */
const TRIPPED_OHMS = 1e9;

function startsMade(element: Element): boolean {
  return element.kind === "breaker" || (element.kind === "switch" && element.closed);
}
