/** A piece to be cut. */
export interface Piece {
  name: string;
  /** Whole millimetres. */
  millimetres: number;
}

/** A reel, or what is left of one, with the pieces that are cut from it, in the order of cutting. */
export interface Reel {
  millimetres: number;
  pieces: Piece[];
  /** What is left over, millimetres. */
  rest: number;
}

export interface CuttingPlan {
  reels: Reel[];
  /** Longer than any reel. */
  tooLong: Piece[];
  /** No plan needs fewer whole reels. */
  isLeast: boolean;
}

/** A search for fewer reels gives up after so many steps, and is not begun for more pieces. */
const STEPS = 50_000;
const MOST_SEARCHED = 300;

/**
 * Cuts pieces from offcuts and reels with as few reels as it finds: the one-dimensional cutting-stock problem. Offcuts are
 * used first, the shortest that fits; the rest is packed best-fit decreasing, and a search tries to do with one reel less
 * as long as the sum of lengths does not forbid it.
 * @param reel length of a new reel, millimetres
 * @param offcuts lengths that are there, millimetres
 * @throws {RangeError} when a length is not positive
 */
export function cuttingPlan(pieces: readonly Piece[], reel: number, offcuts: readonly number[] = []): CuttingPlan {
  for (const length of [reel, ...offcuts, ...pieces.map(({ millimetres }) => millimetres)])
    if (!(length > 0)) throw new RangeError(`A length must be positive: ${length} mm is not.`);
  const sorted = [...pieces].sort((a, b) => b.millimetres - a.millimetres);
  const parts = offcuts.map((millimetres): Reel => ({ millimetres, pieces: [], rest: millimetres }));
  const tooLong: Piece[] = [];
  const left: Piece[] = [];
  for (const piece of sorted) {
    const part = tightest(parts, piece);
    if (part) put(part, piece);
    else if (piece.millimetres > reel) tooLong.push(piece);
    else left.push(piece);
  }
  let reels = bestFit(left, reel);
  const least = leastReels(left, reel);
  let isLeast = reels.length === least;
  while (!isLeast) {
    const found = searched(left, reel, reels.length - 1);
    if (found === "gave up") break;
    if (found === null) isLeast = true;
    else {
      reels = found;
      isLeast = reels.length === least;
    }
  }
  return { reels: [...parts.filter(({ pieces }) => pieces.length > 0), ...reels], tooLong, isLeast };
}

function put(reel: Reel, piece: Piece): void {
  reel.pieces.push(piece);
  reel.rest -= piece.millimetres;
}

/** The reel with the least left over on which a piece still fits. */
function tightest(reels: readonly Reel[], { millimetres }: Piece): Reel | undefined {
  let best: Reel | undefined;
  for (const reel of reels) if (reel.rest >= millimetres && (!best || reel.rest < best.rest)) best = reel;
  return best;
}

function bestFit(pieces: readonly Piece[], reel: number): Reel[] {
  const reels: Reel[] = [];
  for (const piece of pieces) {
    let on = tightest(reels, piece);
    if (!on) {
      on = { millimetres: reel, pieces: [], rest: reel };
      reels.push(on);
    }
    put(on, piece);
  }
  return reels;
}

/** Reels that are needed at least: by the sum of lengths, and by pieces of which no two fit on one. */
function leastReels(pieces: readonly Piece[], reel: number): number {
  const sum = pieces.reduce((all, { millimetres }) => all + millimetres, 0);
  const large = pieces.filter(({ millimetres }) => 2 * millimetres > reel).length;
  return Math.max(Math.ceil(sum / reel), large);
}

/** Pieces on so many reels; null when that cannot be done. */
function searched(pieces: readonly Piece[], reel: number, count: number): Reel[] | null | "gave up" {
  const reels = Array.from({ length: count }, (): Reel => ({ millimetres: reel, pieces: [], rest: reel }));
  let spare = count * reel - pieces.reduce((all, { millimetres }) => all + millimetres, 0);
  if (spare < 0) return null;
  if (pieces.length > MOST_SEARCHED) return "gave up";
  let steps = 0;
  const place = (index: number): boolean | "gave up" => {
    const piece = pieces[index];
    if (!piece) return true;
    if (++steps > STEPS) return "gave up";
    const tried = new Set<number>();
    for (const on of reels) {
      // two reels with as much left are as good as one
      if (on.rest < piece.millimetres || tried.has(on.rest)) continue;
      tried.add(on.rest);
      const { rest } = on;
      put(on, piece);
      const lost = on.rest < (pieces.at(-1)?.millimetres ?? 0) ? on.rest : 0;
      spare -= lost;
      const done = spare >= 0 && place(index + 1);
      if (done) return done;
      spare += lost;
      on.pieces.pop();
      on.rest = rest;
    }
    return false;
  };
  const done = place(0);
  return done === "gave up" ? done : done ? reels : null;
}
