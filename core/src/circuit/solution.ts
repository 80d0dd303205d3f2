import type { Topology } from "./topology.ts";

/** A solved circuit: volts of nodes, amps through elements. */
export class OperatingPoint {
  constructor(
    private readonly topology: Topology,
    private readonly indexOf: ReadonlyMap<string, number>,
    private readonly nodeVolts: Float64Array,
    private readonly elementAmps: Float64Array,
    /** Controlled switches that are open and breakers that have tripped. */
    readonly open: readonly string[],
  ) {}

  /** Volts of a node against the 0 V of its part; undefined when there is no such node. */
  volts(node: string): number | undefined {
    const number = this.topology.nodes.get(node);
    return number === undefined ? undefined : this.nodeVolts[number];
  }

  /** Volts from one node to another; undefined when nothing joins them, so that a meter would read "open". */
  between(plus: string, minus: string): number | undefined {
    const { nodes, partOf } = this.topology;
    const a = nodes.get(plus);
    const b = nodes.get(minus);
    if (a === undefined || b === undefined || partOf[a] !== partOf[b]) return undefined;
    return (this.nodeVolts[a] ?? 0) - (this.nodeVolts[b] ?? 0);
  }

  /** Amps through an element from its first node to its second; undefined when there is no such element. */
  amps(id: string): number | undefined {
    const index = this.indexOf.get(id);
    return index === undefined ? undefined : this.elementAmps[index];
  }

  /** Names of the elements that carry more than a current either way. */
  carrying(amps: number): string[] {
    const names: string[] = [];
    for (const [id, index] of this.indexOf) if (Math.abs(this.elementAmps[index] ?? 0) > amps) names.push(id);
    return names;
  }

  /** Whether a node hangs together with the ground, so that its volts mean something to the others. */
  isGrounded(node: string): boolean {
    const number = this.topology.nodes.get(node);
    return number !== undefined && this.topology.partOf[number] === this.topology.partOf[0];
  }
}
