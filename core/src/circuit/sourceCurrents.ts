import type { Tie, Topology } from "./topology.ts";

/**
 * Currents of ideal sources. The solved network knows nothing of them, since the nodes that a source ties share one unknown:
 * a source carries what leaves the nodes beyond it through everything else.
 */
export class SourceCurrents {
  /** Elements other than ideal sources at nodes that those tie. */
  private readonly beside: Int32Array;
  /** Currents that leave each node, while those of sources are being found. */
  private readonly leaving: Float64Array;

  constructor(private readonly topology: Topology) {
    const { ties, first, second } = topology;
    const sources = new Set(ties.map(({ source }) => source));
    const tied = new Set(ties.map(({ node }) => node));
    const isBeside = (index: number) =>
      !sources.has(index) && (tied.has(first[index] as number) || tied.has(second[index] as number));
    this.beside = Int32Array.from([...first.keys()].filter(isBeside));
    this.leaving = new Float64Array(topology.nodes.size);
  }

  /**
   * Finds the currents of all ideal sources.
   * @param through amps through another element
   * @param tell is given the amps of each source, by its number among the ties
   * @param fed nodes between which one amp is fed in from outside
   */
  find(
    through: (element: number) => number,
    tell: (tie: number, amps: number) => void,
    fed?: { into: number; outOf: number },
  ): void {
    const { first, second, ties } = this.topology;
    const { leaving, beside } = this;
    if (ties.length === 0) return;
    leaving.fill(0);
    if (fed) {
      leaving[fed.into] = (leaving[fed.into] as number) - 1;
      leaving[fed.outOf] = (leaving[fed.outOf] as number) + 1;
    }
    for (let number = 0; number < beside.length; number++) {
      const index = beside[number] as number;
      const a = first[index] as number;
      const b = second[index] as number;
      const amps = through(index);
      leaving[a] = (leaving[a] as number) + amps;
      leaving[b] = (leaving[b] as number) - amps;
    }
    // from the leaves of the trees inwards
    for (let number = ties.length - 1; number >= 0; number--) {
      const { node, to, sign } = ties[number] as Tie;
      const out = leaving[node] as number;
      tell(number, -sign * out);
      leaving[to] = (leaving[to] as number) + out;
    }
  }
}
