import type { Topology } from "./topology.ts";

/** The elements of a circuit by their names, and their names by number. */
export interface Names {
  indexOf: ReadonlyMap<string, number>;
  ids: readonly string[];
}

/** A solved circuit: volts of nodes, amps through elements. */
export class OperatingPoint {
  /** What would flow if nothing shut down; the same point where nothing does. */
  readonly prospective: OperatingPoint;
  /** Elements that have been opened since it does. */
  readonly shut: ReadonlySet<string>;

  constructor(
    private readonly topology: Topology,
    private readonly names: Names,
    /** Volts of the nodes, then amps along the rows, then amps through the ideal sources that tie nodes. */
    private readonly found: Float64Array,
    /** Controlled switches that are open and breakers that have tripped. */
    readonly open: readonly string[],
    asked?: { prospective: OperatingPoint; shut: ReadonlySet<string> },
  ) {
    this.prospective = asked?.prospective ?? this;
    this.shut = asked?.shut ?? NONE_SHUT;
  }

  /** The same point, as what is left of another one after elements were opened. */
  insteadOf(prospective: OperatingPoint, shut: ReadonlySet<string>): OperatingPoint {
    return new OperatingPoint(this.topology, this.names, this.found, this.open, { prospective, shut });
  }

  /** Volts of a node against the 0 V of its part; undefined when there is no such node. */
  volts(node: string): number | undefined {
    const number = this.topology.nodes.get(node);
    return number === undefined ? undefined : this.found[number];
  }

  /** Volts from one node to another; undefined when nothing joins them, so that a meter would read "open". */
  between(plus: string, minus: string): number | undefined {
    const { nodes, partOf } = this.topology;
    const a = nodes.get(plus);
    const b = nodes.get(minus);
    if (a === undefined || b === undefined || partOf[a] !== partOf[b]) return undefined;
    return (this.found[a] ?? 0) - (this.found[b] ?? 0);
  }

  /** Amps through an element from its first node to its second; undefined when there is no such element. */
  amps(id: string): number | undefined {
    const index = this.names.indexOf.get(id);
    return index === undefined ? undefined : this.ampsAt(index);
  }

  /** Names of the elements that carry more than a current either way. */
  carrying(amps: number): string[] {
    const { nodes, rows, ties } = this.topology;
    const names: string[] = [];
    const carries = (index: number) => Math.abs(this.found[nodes.size + index] ?? 0) > amps;
    const name = (element: number) => names.push(this.names.ids[element] ?? "");
    for (let row = 0; row < rows.count; row++) if (carries(row)) rows.elementsOf(row).forEach(name);
    for (const [tie, { source }] of ties.entries()) if (carries(rows.count + tie)) name(source);
    return names;
  }

  /** Amps through an element by its place among the circuit's. */
  ampsAt(index: number): number {
    const { nodes, rows, tieOf } = this.topology;
    const row = rows.of[index] as number;
    if (row < 0) return this.found[nodes.size + rows.count + (tieOf[index] as number)] ?? 0;
    return rows.signOf(index) * (this.found[nodes.size + row] ?? 0);
  }

  /** Whether a node hangs together with the ground, so that its volts mean something to the others. */
  isGrounded(node: string): boolean {
    const number = this.topology.nodes.get(node);
    return number !== undefined && this.topology.partOf[number] === this.topology.partOf[0];
  }
}

const NONE_SHUT: ReadonlySet<string> = new Set();
