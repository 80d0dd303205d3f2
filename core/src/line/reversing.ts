import { type Line, type Port, turnoutPort } from "./topology.ts";

/** Whether a line turns trains so that rails meet their opposites, and links that have to be cut for none to. */
export interface Reversing {
  conflict: boolean;
  /** A smallest set of links; empty without a conflict. */
  cut: [Port, Port][];
  /** Whether no smaller set was left untried. */
  isSmallest: boolean;
  /** A shortest way round on which each rail meets its opposite, link by link; empty without one. */
  loop: [Port, Port][];
}

/** A link between two turnouts, by their places in the list, and whether left and right change places on it. */
interface Edge {
  a: number;
  b: number;
  swaps: boolean;
  /** Within one place, where there is no rail to cut. */
  within: boolean;
  link: [Port, Port];
}

/** Links that may still be looked at before a search is given up. */
interface Patience {
  left: number;
}

/**
 * Looks for reversing sections. Going out by a leg and in by a toe, or out by a toe and in by a leg, keeps left and right; toe
 * to toe or leg to leg swaps them. A way round that swaps them an odd number of times joins each rail to the other, wherever
 * it has no gap. Links to ends never conflict; links within a place are not cut.
 *
 * The smallest set of links that meets all such ways is found by branching on the links of a shortest one, never below as many
 * as lie apart from each other: quick where few cuts are needed, as on railways. Source of the problem: edge bipartization,
 * as in Guo, Gramm, Hueffner, Niedermeier, Wernicke, "Compression-based fixed-parameter algorithms", 2006.
 *
 * @param most how often a link may be looked at before the search for a smaller set is given up
 */
export function reversing({ turnouts, links, within }: Line, most = Number.POSITIVE_INFINITY): Reversing {
  const at = new Map(turnouts.map(({ id }, index) => [id, index]));
  const inPlace = new Set(within?.flat());
  const edges = links.flatMap(([from, to]): Edge[] => {
    const [a, b] = [turnoutPort(from), turnoutPort(to)];
    const [first, second] = [at.get(a?.id ?? ""), at.get(b?.id ?? "")];
    if (!a || !b || first === undefined || second === undefined) return [];
    const swaps = (a.leg === "toe") === (b.leg === "toe");
    return [{ a: first, b: second, swaps, within: inPlace.has(from), link: [from, to] }];
  });
  const patience = { left: most };
  const cut = partsOf(edges, turnouts.length).flatMap((part) => smallestCut(part, turnouts.length, patience));
  const loop = cut.length > 0 ? (oddWay(edges, turnouts.length, new Set()) ?? []) : [];
  return {
    ...{ conflict: cut.length > 0, isSmallest: patience.left > 0 },
    ...{ cut: cut.map(({ link }) => link), loop: loop.map(({ link }) => link) },
  };
}

/** Links that hang together; what is cut in one part is nothing to the others. */
function partsOf(edges: readonly Edge[], size: number): Edge[][] {
  const root = Int32Array.from({ length: size }, (_, index) => index);
  const rootOf = (node: number): number => {
    let at = node;
    while (root[at] !== at) {
      root[at] = root[root[at] as number] as number;
      at = root[at] as number;
    }
    return at;
  };
  for (const { a, b } of edges) root[rootOf(a)] = rootOf(b);
  const parts = new Map<number, Edge[]>();
  for (const edge of edges) parts.set(rootOf(edge.a), [...(parts.get(rootOf(edge.a)) ?? []), edge]);
  return [...parts.values()];
}

/** Links at which left and right can no longer be told alike, gone over one after the other; none when they can be told all over. */
function unsound(edges: readonly Edge[], size: number): Edge[] {
  const root = Int32Array.from({ length: size }, (_, index) => index);
  /** Whether left and right of a turnout are those of the one that it hangs on. */
  const swapped = new Uint8Array(size);
  const topOf = (node: number): { top: number; swaps: number } => {
    let [top, swaps] = [node, 0];
    while (root[top] !== top) {
      swaps ^= swapped[top] as number;
      top = root[top] as number;
    }
    return { top, swaps };
  };
  // what is within a place comes first, so that it is never among them
  const inOrder = [...edges.filter(({ within }) => within), ...edges.filter(({ within }) => !within)];
  return inOrder.filter(({ a, b, swaps }) => {
    const [one, other] = [topOf(a), topOf(b)];
    const turns = one.swaps ^ other.swaps ^ Number(swaps);
    if (one.top === other.top) return turns === 1;
    root[one.top] = other.top;
    swapped[one.top] = turns;
    return false;
  });
}

function smallestCut(edges: readonly Edge[], size: number, patience: Patience): Edge[] {
  const some = unsound(edges, size);
  if (some.length === 0) return [];
  for (let most = apart(edges, size); most < some.length; most++) {
    const cut = cutWithin(edges, size, most, new Set(), patience);
    if (cut) return cut;
    if (patience.left <= 0) break;
  }
  return some;
}

/** A cut of at most so many links, none of them one that has to stay; null when there is none, or patience is at its end. */
function cutWithin(
  edges: readonly Edge[],
  size: number,
  most: number,
  stays: ReadonlySet<Edge>,
  patience: Patience,
): Edge[] | null {
  const way = oddWay(edges, size, stays, patience);
  if (!way) return [];
  if (patience.left <= 0 || apart(edges, size, patience) > most) return null;
  const kept = new Set(stays);
  for (const edge of way) {
    if (edge.within || kept.has(edge)) continue;
    const rest = cutWithin(
      edges.filter((each) => each !== edge),
      size,
      most - 1,
      kept,
      patience,
    );
    if (rest) return [edge, ...rest];
    // tried with all that it could do: a cut without it is looked for
    kept.add(edge);
  }
  return null;
}

/** How many odd ways are found that share no link that can be cut: so many cuts are needed at least. */
function apart(edges: readonly Edge[], size: number, patience?: Patience): number {
  let left = edges;
  for (let count = 0; ; count++) {
    const way = oddWay(left, size, new Set(), patience);
    if (!way) return count;
    left = left.filter((edge) => edge.within || !way.includes(edge));
  }
}

/**
 * A way round that swaps left and right an odd number of times, with the fewest links that may be cut; null when there is none.
 * Looked for as a way from a turnout to itself seen from its other side.
 */
function oddWay(
  edges: readonly Edge[],
  size: number,
  stays: ReadonlySet<Edge>,
  patience: Patience = { left: 0 },
): Edge[] | null {
  const around: { edge: Edge; to: number }[][] = Array.from({ length: size }, () => []);
  for (const edge of edges) {
    around[edge.a]?.push({ edge, to: edge.b });
    if (edge.a !== edge.b) around[edge.b]?.push({ edge, to: edge.a });
  }
  let best: Edge[] | null = null;
  let least = Number.POSITIVE_INFINITY;
  for (let start = 0; start < size; start++) {
    if (around[start]?.length === 0) continue;
    const found = wayFrom(start, least);
    if (!found) continue;
    best = found.way;
    least = found.cost;
    if (least === 0) break;
  }
  return best;

  /** Turnouts seen from one side and from the other have places start and start + size. */
  function wayFrom(start: number, below: number): { way: Edge[]; cost: number } | null {
    const cost = new Float64Array(2 * size).fill(Number.POSITIVE_INFINITY);
    const by: (Edge | undefined)[] = [];
    const from = new Int32Array(2 * size).fill(-1);
    cost[start] = 0;
    const open = [start];
    for (let head = 0; head < open.length; head++) {
      const at = open[head] as number;
      const [node, side] = [at % size, at < size ? 0 : 1];
      const so = cost[at] as number;
      for (const { edge, to } of around[node] ?? []) {
        const next = to + size * (edge.swaps ? 1 - side : side);
        patience.left--;
        const then = so + (edge.within || stays.has(edge) ? 0 : 1);
        if (then >= (cost[next] as number) || then >= below) continue;
        cost[next] = then;
        by[next] = edge;
        from[next] = at;
        open.push(next);
      }
    }
    const end = start + size;
    if ((cost[end] as number) >= below) return null;
    const way = new Set<Edge>();
    for (let at = end; at !== start; at = from[at] as number) way.add(by[at] as Edge);
    return { way: [...way], cost: cost[end] as number };
  }
}
