import { type BoardJoin, coilKey, type Matrix, type MatrixCoil, type MatrixRow } from "./boards.ts";

/** One step of current on boards: from a terminal to another, by what lies between. */
export interface Step {
  boardId: string;
  from: string;
  to: string;
  with: BoardJoin["with"];
}

/** Where the current of a button comes to, by what lies on the boards: along wires both ways, through diodes as they lie. */
export interface Reach {
  row: MatrixRow;
  /** Coils that it comes to though it does not ask them, with the way to each. */
  astray: { coil: MatrixCoil; way: Step[] }[];
  /** Coils that it asks and does not come to. */
  missed: MatrixCoil[];
}

/** Follows the current of every button over the boards of a matrix, as built. */
export function reachesOf(matrix: Matrix): Reach[] {
  const next = stepsFrom(matrix);
  return [...matrix.rows, ...matrix.directs].flatMap((row): Reach[] => {
    const wish = matrix.wishes.find(({ button }) => button === row.key);
    if (!wish) return [];
    const starts = [...row.terminals].map(([boardId, terminal]) => coilKey(boardId, terminal));
    const cameBy = new Map<string, Step | null>((starts.length > 0 ? starts : wish.coils).map((key) => [key, null]));
    for (const at of cameBy.keys())
      for (const { to, step } of next.get(at) ?? []) if (!cameBy.has(to)) cameBy.set(to, step);
    const wanted = new Set(wish.coils);
    return [
      {
        row,
        astray: matrix.coils.flatMap((coil) =>
          cameBy.has(coil.key) && !wanted.has(coil.key) ? [{ coil, way: wayTo(coil.key, cameBy) }] : [],
        ),
        missed: matrix.coils.filter(({ key }) => wanted.has(key) && !cameBy.has(key)),
      },
    ];
  });
}

/** Steps that current can take from each place; a button's wire joins its rows on all boards. */
function stepsFrom({ joins, rows }: Matrix): Map<string, { to: string; step: Step | null }[]> {
  const next = new Map<string, { to: string; step: Step | null }[]>();
  const add = (from: string, to: string, step: Step | null) => {
    const known = next.get(from);
    if (known) known.push({ to, step });
    else next.set(from, [{ to, step }]);
  };
  for (const { boardId, from, to, turned, with: by } of joins) {
    const [a, b] = [coilKey(boardId, from), coilKey(boardId, to)];
    if (by === "wire" || !turned) add(a, b, { boardId, from, to, with: by });
    if (by === "wire" || turned) add(b, a, { boardId, from: to, to: from, with: by });
  }
  for (const { terminals } of rows) {
    const keys = [...terminals].map(([boardId, terminal]) => coilKey(boardId, terminal));
    for (const a of keys) for (const b of keys) if (a !== b) add(a, b, null);
  }
  return next;
}

function wayTo(key: string, cameBy: ReadonlyMap<string, Step | null>): Step[] {
  const way: Step[] = [];
  for (let step = cameBy.get(key); step; step = cameBy.get(coilKey(step.boardId, step.from))) {
    way.unshift(step);
    if (way.length > cameBy.size) break;
  }
  return way;
}
