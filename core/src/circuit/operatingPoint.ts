import { type DiodeModel, type Element, type Netlist, THERMAL_VOLTS } from "./elements.ts";
import { Groups } from "./groups.ts";
import { addTo, type SparseRows, solveSparse } from "./sparse.ts";

/** Conductance across each diode, siemens: keeps a blocked one from cutting its nodes off. */
const GMIN = 1e-12;
const MOST_ITERATIONS = 200;
/**
 * The iteration has settled when at each diode the line that was solved and the curve agree within this, relative and in
 * amps. Voltages are no measure of it: a part that only blocked diodes hold has none to many digits.
 */
const RELATIVE = 1e-9;
const ABSOLUTE_AMPS = 1e-12;

export interface OperatingPoint {
  /** Volts of each node against its part's 0 V. */
  volts: Map<string, number>;
  /** Amps through each element from its first node to its second. */
  amps: Map<string, number>;
  /** Which galvanically joined part each node belongs to; readings between parts are "open". */
  part: Map<string, number>;
}

/** A circuit that has no operating point; names the elements to look at. */
export class CircuitError extends Error {
  override readonly name = "CircuitError";
}

/**
 * DC operating point by modified nodal analysis with Newton iteration and junction limiting.
 *
 * Sources: Ho, Ruehli, Brennan, "The modified nodal approach to network analysis", 1975; Nagel, "SPICE2", 1975, for
 * the limiting of junction voltages.
 * @throws {CircuitError} when an element's value is impossible, sources contradict each other or Newton does not settle
 */
export function operatingPoint(netlist: Netlist): OperatingPoint {
  for (const element of netlist.elements) requireSensible(element);
  const system = number(netlist);
  const solved = newton(netlist, system, new Map(), GMIN) ?? bySteps(netlist, system);
  if (solved) return results(netlist, system, solved.x, solved.junctions);
  throw new CircuitError(
    `The circuit did not settle in ${MOST_ITERATIONS} steps. Look for diodes fed by impossible values.`,
  );
}

type Junctions = Map<Element, number>;

/** Newton's iteration from given junction voltages; undefined when it does not settle. */
function newton(netlist: Netlist, system: System, start: Junctions, gmin: number) {
  const junctions = new Map(start);
  for (let iteration = 1; iteration <= MOST_ITERATIONS; iteration++) {
    const next = solveOnce(netlist, system, junctions, gmin);
    if (limitJunctions(netlist, system, next, junctions, gmin)) return { x: next, junctions };
  }
  return undefined;
}

/** From leaky diodes, which always settle, to good ones: each solution is where the next one begins (gmin stepping). */
function bySteps(netlist: Netlist, system: System) {
  let solved = newton(netlist, system, new Map(), 1e-2);
  for (let gmin = 1e-3; solved && gmin > GMIN / 2; gmin /= 10) solved = newton(netlist, system, solved.junctions, gmin);
  return solved;
}

interface System {
  node: Map<string, number>;
  branch: Map<Element, number>;
  part: Map<string, number>;
  size: number;
}

/** Numbers nodes and branch currents; the ground node, and one node of each part without it, is 0 V and has no number. */
function number({ ground, elements }: Netlist): System {
  const part = parts(elements);
  const node = new Map<string, number>([[ground, -1]]);
  const grounded = new Set([part.get(ground) ?? -1]);
  let size = 0;
  for (const { nodes } of elements) {
    for (const name of nodes) {
      if (node.has(name)) continue;
      const itsPart = part.get(name) ?? -1;
      if (grounded.has(itsPart)) node.set(name, size++);
      else {
        grounded.add(itsPart);
        node.set(name, -1);
      }
    }
  }
  const branch = new Map<Element, number>();
  for (const element of elements) if (element.kind === "voltage") branch.set(element, size++);
  return { node, branch, part, size };
}

function parts(elements: readonly Element[]): Map<string, number> {
  const groups = new Groups();
  for (const { nodes } of elements) groups.join(nodes[0], nodes[1]);
  return groups.numbered();
}

function solveOnce(
  netlist: Netlist,
  system: System,
  junctions: ReadonlyMap<Element, number>,
  gmin: number,
): Float64Array {
  const rows: SparseRows = Array.from({ length: system.size }, () => new Map());
  const b = new Float64Array(system.size);
  const inject = (row: number, amps: number) => {
    if (row >= 0) b[row] = (b[row] ?? 0) + amps;
  };
  const conduct = (p: number, q: number, siemens: number) => {
    if (p >= 0) addTo(rows, p, p, siemens);
    if (q >= 0) addTo(rows, q, q, siemens);
    if (p >= 0 && q >= 0) {
      addTo(rows, p, q, -siemens);
      addTo(rows, q, p, -siemens);
    }
  };
  for (const element of netlist.elements) {
    const p = system.node.get(element.nodes[0]) ?? -1;
    const q = system.node.get(element.nodes[1]) ?? -1;
    if (element.kind === "resistor") conduct(p, q, 1 / element.ohms);
    else if (element.kind === "current") {
      inject(p, -element.amps);
      inject(q, element.amps);
    } else if (element.kind === "diode") {
      const { siemens, amps, volts } = linearised(element.model, junctions.get(element) ?? 0, gmin);
      conduct(p, q, siemens);
      inject(p, siemens * volts - amps);
      inject(q, amps - siemens * volts);
    } else {
      const row = system.branch.get(element) ?? 0;
      for (const [end, sign] of [
        [p, 1],
        [q, -1],
      ] as const) {
        if (end < 0) continue;
        addTo(rows, row, end, sign);
        addTo(rows, end, row, sign);
      }
      b[row] = element.volts;
      if (p === q) throw new CircuitError(`Source ${element.id} is shorted to itself.`);
    }
  }
  try {
    return solveSparse(rows, b);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    const sources = netlist.elements.filter(({ kind }) => kind === "voltage" || kind === "current").map(({ id }) => id);
    throw new CircuitError(`Sources contradict each other; look at ${sources.join(", ")}.`);
  }
}

/**
 * Current and slope of a diode with its series resistance, at a junction voltage.
 * @returns the line through the present point, in the voltage across the whole diode
 */
function linearised(model: DiodeModel, junction: number, gmin: number) {
  const scale = model.n * THERMAL_VOLTS;
  const amps = model.is * Math.expm1(junction / scale) + gmin * junction;
  const inner = (model.is / scale) * Math.exp(junction / scale) + gmin;
  const siemens = inner / (1 + inner * model.rs);
  return { siemens, amps, volts: junction + amps * model.rs };
}

/**
 * Moves each junction towards the new solution, at most so far that the exponential stays tame.
 * @returns true when none was held back and each line agrees with its curve
 */
function limitJunctions(
  netlist: Netlist,
  system: System,
  x: Float64Array,
  junctions: Junctions,
  gmin: number,
): boolean {
  let settled = true;
  for (const element of netlist.elements) {
    if (element.kind !== "diode") continue;
    const old = junctions.get(element) ?? 0;
    const across = voltsAt(system, x, element.nodes[0]) - voltsAt(system, x, element.nodes[1]);
    const line = linearised(element.model, old, gmin);
    const onLine = line.amps + line.siemens * (across - line.volts);
    const wanted = across - onLine * element.model.rs;
    const limited = limit(wanted, old, element.model);
    const onCurve = linearised(element.model, limited, gmin).amps;
    if (limited !== wanted || Math.abs(onCurve - onLine) > ABSOLUTE_AMPS + RELATIVE * Math.abs(onCurve))
      settled = false;
    junctions.set(element, limited);
  }
  return settled;
}

function limit(wanted: number, old: number, { is, n }: DiodeModel): number {
  const scale = n * THERMAL_VOLTS;
  const critical = scale * Math.log(scale / (Math.SQRT2 * is));
  if (wanted < 0) return Math.max(wanted, old > 0 ? -old - 1 : 2 * old - 1);
  if (wanted <= critical || Math.abs(wanted - old) <= 2 * scale) return wanted;
  if (old <= 0) return scale * Math.log(wanted / scale);
  const step = 1 + (wanted - old) / scale;
  return step > 0 ? old + scale * Math.log(step) : critical;
}

function voltsAt(system: System, x: Float64Array, name: string): number {
  const row = system.node.get(name) ?? -1;
  return row < 0 ? 0 : (x[row] ?? 0);
}

function results(
  netlist: Netlist,
  system: System,
  x: Float64Array,
  junctions: ReadonlyMap<Element, number>,
): OperatingPoint {
  const volts = new Map<string, number>();
  for (const name of system.node.keys()) volts.set(name, voltsAt(system, x, name));
  const amps = new Map<string, number>();
  for (const element of netlist.elements) {
    const across = (volts.get(element.nodes[0]) ?? 0) - (volts.get(element.nodes[1]) ?? 0);
    if (element.kind === "resistor") amps.set(element.id, across / element.ohms);
    else if (element.kind === "current") amps.set(element.id, element.amps);
    else if (element.kind === "voltage") amps.set(element.id, x[system.branch.get(element) ?? 0] ?? 0);
    else amps.set(element.id, linearised(element.model, junctions.get(element) ?? 0, GMIN).amps);
  }
  return { volts, amps, part: system.part };
}

function requireSensible(element: Element): void {
  const bad = (what: string) => new CircuitError(`${element.id}: ${what}.`);
  if (element.kind === "resistor" && !(element.ohms > 0 && element.ohms < Number.POSITIVE_INFINITY)) {
    throw bad(`${element.ohms} ohm is no resistance; it must be above zero`);
  }
  if (element.kind === "voltage" && !Number.isFinite(element.volts)) throw bad("its volts are no number");
  if (element.kind === "current" && !Number.isFinite(element.amps)) throw bad("its amps are no number");
  if (element.kind === "diode" && !(element.model.is > 0 && element.model.n > 0 && element.model.rs >= 0)) {
    throw bad("a diode needs IS > 0, N > 0 and RS >= 0");
  }
}
