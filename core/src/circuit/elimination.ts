import { patternOf } from "./pattern.ts";

/**
 * Solves a network of conductances between numbered nodes and a ground, again and again with other values.
 *
 * Nodes are eliminated one by one by the star-mesh transformation: the star of a node's conductances is replaced by a
 * mesh between its neighbours. Only sums of positive numbers occur, so each conductance keeps its full precision however
 * far apart they lie (milliohms of wire beside gigaohms of an open contact), any order is stable, and a part which nothing
 * joins to ground is recognised by a sum of exactly zero.
 *
 * The order and the pattern (symbolic factorisation) are worked out once. When conductances change, only the columns
 * that depend on them are eliminated anew: the changed ones and those on their way to the root of the elimination tree.
 *
 * Sources: Grassmann, Taksar, Heyman, "Regenerative analysis and steady state distributions for Markov chains", 1985
 * (elimination without subtraction); George, Liu, "The evolution of the minimum degree ordering algorithm", 1989; Liu,
 * "The role of elimination trees in sparse factorization", 1990.
 */
export class Elimination {
  /** Place of each node in the order of elimination. */
  readonly place: Int32Array;
  /** Column that follows each one in the elimination tree; the number of nodes at a root. */
  readonly parent: Int32Array;
  private readonly size: number;
  private readonly siemens: Float64Array;
  /** Column that a branch belongs to, and its slot there; slot -1 is to ground. */
  private readonly columnOf: Int32Array;
  private readonly slotOf: Int32Array;
  private readonly branchStart: Int32Array;
  private readonly branches: Int32Array;
  private readonly start: Int32Array;
  private readonly row: Int32Array;
  private readonly value: Float64Array;
  private readonly toGround: Float64Array;
  /** Sum of what joins each eliminated node to ground and to later ones, siemens; and one over it, 0 where nothing does. */
  private readonly sum: Float64Array;
  private readonly inverse: Float64Array;
  /** For each column, the slots of earlier columns that add to it, and where their rows land. */
  private readonly updateStart: Int32Array;
  private readonly updateColumn: Int32Array;
  private readonly updateSlot: Int32Array;
  private readonly landStart: Int32Array;
  private readonly land: Int32Array;
  /**
   * First of the places where an update lands, when they follow one another and the next three updates land on the same ones,
   * as in a dense part: four are then done at once; -1 when they do not.
   */
  private readonly fourFrom: Int32Array;
  private readonly dirty: Uint8Array;
  private firstDirty = 0;

  /**
   * @param size number of nodes; the ground has this number
   * @param branches the two nodes of each branch, different from one another
   * @param late nodes whose conductances change with each step of an iteration: a few are put off, so that few columns
   *   depend on them
   */
  constructor(size: number, branches: readonly (readonly [number, number])[], late: ReadonlySet<number> = new Set()) {
    this.size = size;
    const pattern = patternOf(size, branches, late);
    this.place = pattern.place;
    this.parent = pattern.parent;
    this.start = pattern.start;
    this.row = pattern.row;
    this.columnOf = pattern.columnOf;
    this.slotOf = pattern.slotOf;
    this.branches = pattern.branches;
    this.branchStart = pattern.branchStart;
    this.updateStart = pattern.updateStart;
    this.updateColumn = pattern.updateColumn;
    this.updateSlot = pattern.updateSlot;
    this.landStart = pattern.landStart;
    this.land = pattern.land;
    this.fourFrom = pattern.fourFrom;
    this.siemens = new Float64Array(branches.length);
    this.value = new Float64Array(this.row.length);
    this.toGround = new Float64Array(size);
    this.sum = new Float64Array(size);
    this.inverse = new Float64Array(size);
    this.dirty = new Uint8Array(size).fill(1);
  }

  /** Entries of the eliminated network, a measure of its fill. */
  get entries(): number {
    return this.row.length;
  }

  /** Sets a branch's conductance in siemens; takes effect with the next `eliminate`. */
  setConductance(branch: number, siemens: number): void {
    if (this.siemens[branch] === siemens) return;
    this.siemens[branch] = siemens;
    const column = this.columnOf[branch] as number;
    this.dirty[column] = 1;
    if (column < this.firstDirty) this.firstDirty = column;
  }

  /** Eliminates the columns that depend on a changed conductance. */
  eliminate(): void {
    // all columns in one loop, and its arrays as names of its own: most columns are short, and a call for each would cost as much
    const { size, dirty, parent, start, value, toGround, sum, inverse, siemens, slotOf } = this;
    const { branches, branchStart, updateStart, updateColumn, updateSlot, landStart, land, fourFrom } = this;
    for (let k = this.firstDirty; k < size; k++) {
      if (dirty[k] === 0) continue;
      dirty[k] = 0;
      const next = parent[k] as number;
      if (next < size) dirty[next] = 1;

      const from = start[k] as number;
      const to = start[k + 1] as number;
      for (let slot = from; slot < to; slot++) value[slot] = 0;
      let ground = 0;
      for (let index = branchStart[k] as number, end = branchStart[k + 1] as number; index < end; index++) {
        const branch = branches[index] as number;
        const slot = slotOf[branch] as number;
        if (slot < 0) ground += siemens[branch] as number;
        else value[slot] = (value[slot] as number) + (siemens[branch] as number);
      }
      for (let u = updateStart[k] as number, last = updateStart[k + 1] as number; u < last; u++) {
        const lands = fourFrom[u] as number;
        if (lands >= 0) {
          ground += this.updateFour(u, lands);
          u += 3;
          continue;
        }
        const j = updateColumn[u] as number;
        const slot = updateSlot[u] as number;
        const share = (value[slot] as number) * (inverse[j] as number);
        ground += share * (toGround[j] as number);
        let target = landStart[u] as number;
        for (let later = slot + 1, end = start[j + 1] as number; later < end; later++, target++) {
          const at = land[target] as number;
          value[at] = (value[at] as number) + share * (value[later] as number);
        }
      }
      toGround[k] = ground;
      let total = ground;
      for (let slot = from; slot < to; slot++) total += value[slot] as number;
      sum[k] = total;
      inverse[k] = total > 0 ? 1 / total : 0;
    }
    this.firstDirty = size;
  }

  /**
   * Four updates that land on the same places, which then are read and written once.
   * @param lands the first of these places
   * @returns what the four add towards ground
   */
  private updateFour(u: number, lands: number): number {
    const { start, value, toGround, inverse, updateColumn, updateSlot } = this;
    const [j1, j2, j3, j4] = [updateColumn[u], updateColumn[u + 1], updateColumn[u + 2], updateColumn[u + 3]] as [
      number,
      number,
      number,
      number,
    ];
    let at1 = updateSlot[u] as number;
    let at2 = updateSlot[u + 1] as number;
    let at3 = updateSlot[u + 2] as number;
    let at4 = updateSlot[u + 3] as number;
    const share1 = (value[at1] as number) * (inverse[j1] as number);
    const share2 = (value[at2] as number) * (inverse[j2] as number);
    const share3 = (value[at3] as number) * (inverse[j3] as number);
    const share4 = (value[at4] as number) * (inverse[j4] as number);
    for (let to = lands + (start[j1 + 1] as number) - at1 - 1, place = lands; place < to; place++) {
      value[place] =
        (value[place] as number) +
        share1 * (value[++at1] as number) +
        share2 * (value[++at2] as number) +
        share3 * (value[++at3] as number) +
        share4 * (value[++at4] as number);
    }
    return (
      share1 * (toGround[j1] as number) +
      share2 * (toGround[j2] as number) +
      share3 * (toGround[j3] as number) +
      share4 * (toGround[j4] as number)
    );
  }

  /**
   * Carries the currents fed into eliminated nodes over to those that follow.
   * @param amps current into each place, changed in place
   * @param columns places to do, ascending; all when not given
   */
  forward(amps: Float64Array, columns?: Int32Array): void {
    const { size, start, row, value, inverse } = this;
    const count = columns ? columns.length : size;
    for (let index = 0; index < count; index++) {
      const k = columns ? (columns[index] as number) : index;
      const share = (amps[k] as number) * (inverse[k] as number);
      if (share === 0) continue;
      for (let slot = start[k] as number, end = start[k + 1] as number; slot < end; slot++) {
        const target = row[slot] as number;
        amps[target] = (amps[target] as number) + share * (value[slot] as number);
      }
    }
  }

  /**
   * Voltages from the carried currents, last place first.
   * @param columns places to do, ascending; all when not given. Those they depend on must be among them or known.
   */
  back(amps: Float64Array, volts: Float64Array, columns?: Int32Array): void {
    const { size, start, row, value, inverse } = this;
    for (let index = (columns ? columns.length : size) - 1; index >= 0; index--) {
      const k = columns ? (columns[index] as number) : index;
      let total = amps[k] as number;
      for (let slot = start[k] as number, end = start[k + 1] as number; slot < end; slot++) {
        total += (value[slot] as number) * (volts[row[slot] as number] as number);
      }
      volts[k] = total * (inverse[k] as number);
    }
  }

  /**
   * Conductance that holds a place against ground and those that are eliminated after it, siemens: at most so much can flow
   * there for each volt. Infinite at the ground.
   */
  holding(place: number): number {
    return place < this.size ? (this.sum[place] as number) : Number.POSITIVE_INFINITY;
  }

  /** Whether nothing holds a place against ground or a later one: the root of a floating part. */
  isFloating(place: number): boolean {
    return (this.sum[place] as number) === 0;
  }

  /** The given nodes' places with all that depend on them, ascending. */
  dependents(nodes: Iterable<number>): Int32Array {
    const found = new Set<number>();
    for (const node of nodes) {
      for (let k = this.place[node] as number; k < this.size && !found.has(k); k = this.parent[k] as number)
        found.add(k);
    }
    return Int32Array.from(found).sort();
  }
}
