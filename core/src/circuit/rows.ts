/**
 * What an element is in a row. `straight`: amps are volts over ohms, so that others may stand before and behind it. `curved`: the
 * same, of which a row bears one. `alone`: a row by itself, as a capacitor.
 */
export type Part = "straight" | "curved" | "alone";

/**
 * The elements of a circuit in rows. Between two that meet at a node where nothing else does the same current flows through both, so
 * that a row of wires, contacts and at most one diode is one branch, and the nodes within are no unknowns: most of a railway's
 * circuit is wires that go on as other wires.
 */
export class Rows {
  readonly count: number;
  /** Row of each element; -1 of an ideal source. */
  readonly of: Int32Array;
  /** Nodes at which each row begins and ends. */
  readonly left: Int32Array;
  readonly right: Int32Array;
  /** Row within which a node stands, so that its volts follow from those of the row's ends; -1 of a node at an end. */
  readonly within: Int32Array;
  /** Places of each row's elements, from its left to its right. */
  private readonly start: Int32Array;
  private readonly element: Int32Array;
  /** 1 when an element's first node is its left one, -1 when it is its right one. */
  private readonly sign: Int8Array;
  /** Node to the right of each place. */
  private readonly after: Int32Array;
  private readonly placeOf: Int32Array;
  private readonly ohms: Float64Array;
  /** Place of each row that most of its volts fall at: its curved element, or the one of most ohms. */
  private readonly turn: Int32Array;
  private readonly curved: Int32Array;

  /**
   * @param nodes number of nodes; 0 is the ground
   * @param first first node of each element, and `second` its second
   * @param parts what each element is in a row; null of an ideal source
   */
  constructor(nodes: number, first: Int32Array, second: Int32Array, parts: readonly (Part | null)[]) {
    const count = parts.length;
    // the two elements at a node that joins nothing but two which others may stand beside
    const one = new Int32Array(nodes).fill(-1);
    const other = new Int32Array(nodes).fill(-1);
    const isEnd = new Uint8Array(nodes);
    isEnd[0] = 1;
    const meet = (node: number, index: number, part: Part | null) => {
      if (part === null || part === "alone" || other[node] !== -1) isEnd[node] = 1;
      else if (one[node] === -1) one[node] = index;
      else other[node] = index;
    };
    for (let index = 0; index < count; index++) {
      meet(first[index] as number, index, parts[index] as Part | null);
      meet(second[index] as number, index, parts[index] as Part | null);
    }
    this.of = new Int32Array(count).fill(-1);
    this.within = new Int32Array(nodes).fill(-1);
    const beyond = (node: number, index: number) => (one[node] === index ? other[node] : one[node]) as number;
    const opposite = (index: number, node: number) => (first[index] === node ? second[index] : first[index]) as number;
    const seeds = new Int32Array(count);
    const lefts = new Int32Array(count);
    const starts = new Int32Array(count + 1);
    let rows = 0;
    for (let index = 0; index < count; index++) {
      if (parts[index] === null || this.of[index] !== -1) continue;
      this.of[index] = rows;
      let hasCurve = parts[index] === "curved";
      let length = 1;
      let outmost = index;
      /** Goes on from a node of the first element as long as nothing else meets there. @returns the node at the end */
      const goOn = (from: number): number => {
        let node = from;
        outmost = index;
        while (isEnd[node] === 0 && other[node] !== -1) {
          const next = beyond(node, outmost);
          const isCurve = parts[next] === "curved";
          if (this.of[next] !== -1 || (hasCurve && isCurve)) break;
          hasCurve ||= isCurve;
          this.of[next] = rows;
          this.within[node] = rows;
          node = opposite(next, node);
          outmost = next;
          length++;
        }
        return node;
      };
      goOn(second[index] as number);
      lefts[rows] = goOn(first[index] as number);
      seeds[rows] = outmost;
      starts[rows + 1] = (starts[rows] as number) + length;
      rows++;
    }
    this.count = rows;
    this.left = lefts.slice(0, rows);
    this.right = new Int32Array(rows);
    this.start = starts.slice(0, rows + 1);
    const places = starts[rows] as number;
    this.element = new Int32Array(places);
    this.sign = new Int8Array(places);
    this.after = new Int32Array(places);
    this.placeOf = new Int32Array(count).fill(-1);
    this.ohms = new Float64Array(places);
    this.turn = this.start.slice(0, rows);
    this.curved = new Int32Array(rows).fill(-1);
    for (let row = 0; row < rows; row++) {
      let index = seeds[row] as number;
      let at = lefts[row] as number;
      for (let place = starts[row] as number; place < (starts[row + 1] as number); place++) {
        if (place > (starts[row] as number)) index = beyond(at, index);
        this.element[place] = index;
        this.placeOf[index] = place;
        this.sign[place] = first[index] === at ? 1 : -1;
        at = opposite(index, at);
        this.after[place] = at;
        if (parts[index] !== "curved") continue;
        this.curved[row] = index;
        this.turn[row] = place;
      }
      this.right[row] = at;
    }
  }

  /** The elements of a row, from its left to its right. */
  elementsOf(row: number): Int32Array {
    return this.element.subarray(this.start[row], this.start[row + 1]);
  }

  /** The curved element of a row; -1 when there is none. */
  curvedIn(row: number): number {
    return this.curved[row] as number;
  }

  /** Sign of an element's current by that of its row. */
  signOf(element: number): number {
    return this.sign[this.placeOf[element] as number] as number;
  }

  /** Ohms of a straight element; 0 before they are set. */
  ohmsOf(element: number): number {
    return this.ohms[this.placeOf[element] as number] as number;
  }

  /**
   * Sets the ohms of a straight element.
   * @returns those of its row, its curved element left out
   */
  setOhms(element: number, ohms: number): number {
    this.ohms[this.placeOf[element] as number] = ohms;
    const row = this.of[element] as number;
    const isCurved = this.curved[row] !== -1;
    const from = this.start[row] as number;
    let turn = isCurved ? (this.turn[row] as number) : from;
    let total = 0;
    for (let place = from; place < (this.start[row + 1] as number); place++) {
      const own = this.ohms[place] as number;
      total += own;
      if (!isCurved && own > (this.ohms[turn] as number)) turn = place;
    }
    this.turn[row] = turn;
    return total;
  }

  /**
   * Tells the volts of the nodes within the rows, from either end up to where most of a row's volts fall.
   * @param volts of the nodes, those of the rows' ends known
   * @param amps through each row, to its right
   */
  tellWithin(volts: Float64Array, amps: Float64Array): void {
    const { start, ohms, after, left, right, turn } = this;
    for (let row = 0; row < this.count; row++) {
      const from = start[row] as number;
      const to = start[row + 1] as number;
      if (to - from === 1) continue;
      const flows = amps[row] as number;
      const until = turn[row] as number;
      let at = volts[left[row] as number] as number;
      for (let place = from; place < until; place++) {
        at -= flows * (ohms[place] as number);
        volts[after[place] as number] = at;
      }
      at = volts[right[row] as number] as number;
      for (let place = to - 1; place > until; place--) {
        at += flows * (ohms[place] as number);
        volts[after[place - 1] as number] = at;
      }
    }
  }

  /** Tells the amps through each element, from those of the rows. */
  tellAmps(amps: Float64Array, through: Float64Array): void {
    const { start, element, sign } = this;
    for (let row = 0; row < this.count; row++) {
      const flows = amps[row] as number;
      for (let place = start[row] as number; place < (start[row + 1] as number); place++)
        through[element[place] as number] = (sign[place] as number) * flows;
    }
  }

  /**
   * By how much more current flows to a row's right, for each amp that is fed into a node within it while its ends stand: the share of
   * the row's ohms that lie to the left of the node. What is left of the amp flows to its left.
   * @param siemens of the whole row
   */
  shareToRight(node: number, siemens: number): number {
    const row = this.within[node] as number;
    let before = 0;
    for (let place = this.start[row] as number; ; place++) {
      before += this.ohmsAt(row, place, siemens);
      if (this.after[place] === node) return before * siemens;
    }
  }

  /**
   * Tells the volts and amps of a row into which currents are fed at nodes within it.
   * @param flows amps to the right at its left end
   * @param fed amps into nodes
   * @param volts of the nodes, that of the row's left end known
   * @param amps through the elements
   */
  tellFed(
    row: number,
    siemens: number,
    flows: number,
    fed: ReadonlyMap<number, number>,
    volts: Float64Array,
    amps: Float64Array,
  ): void {
    let at = volts[this.left[row] as number] as number;
    let now = flows;
    const last = (this.start[row + 1] as number) - 1;
    for (let place = this.start[row] as number; place <= last; place++) {
      amps[this.element[place] as number] = (this.sign[place] as number) * now;
      at -= now * this.ohmsAt(row, place, siemens);
      const after = this.after[place] as number;
      if (place < last) volts[after] = at;
      now += fed.get(after) ?? 0;
    }
  }

  /** Ohms at a place: of a curved element what the row's tangent leaves for it. */
  private ohmsAt(row: number, place: number, siemens: number): number {
    if (this.curved[row] === -1 || place !== this.turn[row]) return this.ohms[place] as number;
    let others = 0;
    for (let each = this.start[row] as number; each < (this.start[row + 1] as number); each++)
      if (each !== place) others += this.ohms[each] as number;
    return 1 / siemens - others;
  }
}
