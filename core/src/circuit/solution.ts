import type { Topology } from "./topology.ts";

/** A solved circuit: volts of nodes, amps through elements. */
export class OperatingPoint {
  /** What would flow if nothing shut down; the same point where nothing does. */
  readonly prospective: OperatingPoint;
  /** Elements that have been opened since it does. */
  readonly shut: ReadonlySet<string>;

  constructor(
    private readonly topology: Topology,
    private readonly indexOf: ReadonlyMap<string, number>,
    /** Volts of the nodes, then amps through the elements. */
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
    return new OperatingPoint(this.topology, this.indexOf, this.found, this.open, { prospective, shut });
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
    const index = this.indexOf.get(id);
    return index === undefined ? undefined : this.ampsAt(index);
  }

  /** Names of the elements that carry more than a current either way. */
  carrying(amps: number): string[] {
    const names: string[] = [];
    for (const [id, index] of this.indexOf) if (Math.abs(this.ampsAt(index)) > amps) names.push(id);
    return names;
  }

  private ampsAt(index: number): number {
    return this.found[this.topology.nodes.size + index] ?? 0;
  }

  /** Whether a node hangs together with the ground, so that its volts mean something to the others. */
  isGrounded(node: string): boolean {
    const number = this.topology.nodes.get(node);
    return number !== undefined && this.topology.partOf[number] === this.topology.partOf[0];
  }
}

const NONE_SHUT: ReadonlySet<string> = new Set();
