import type { Loom } from "../loom/wire.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import { type BoardJoin, type Matrix, matricesOf } from "../routes/boards.ts";
import type { Construction } from "../routes/constructions.ts";
import { type BuildSheet, layBoard } from "./buildSheet.ts";
import { buttonWords, coilWords } from "./words.ts";

/** A diode board of a railway, with what its terminals are called on the sheet: "I4 Road 4, B4" and "2N Y2 N". */
export interface NamedBoard {
  board: Device;
  matrix: Matrix;
  joins: (BoardJoin & { fromName: string; toName: string })[];
  /** The same as a construction between named terminals, to be laid. */
  construction: Construction;
}

/** The diode boards of a railway by their labels. @param loom whose wires give their colours at the terminals */
export function namedBoards(record: RailwayRecord, loom?: Pick<Loom, "wires">): NamedBoard[] {
  const colours = new Map(
    loom?.wires.flatMap(({ from, to, colour, core }) =>
      [from, to].flatMap(({ key, of }) => (of && !core ? [[key, colour] as const] : [])),
    ),
  );
  return matricesOf(record).flatMap((matrix) =>
    matrix.boards.map((board): NamedBoard => {
      const joins = matrix.joins
        .filter(({ boardId }) => boardId === board.id)
        .map((join) => ({
          ...join,
          fromName: terminalWords(record, matrix, board.id, join.from, colours),
          toName: terminalWords(record, matrix, board.id, join.to, colours),
        }));
      const diodes = joins.filter((join) => join.with === "diode").length;
      const construction: Construction = {
        kind: matrix.construction.kind,
        joins: joins.map(({ fromName, toName, with: by, turned }) => ({
          from: fromName,
          to: toName,
          with: by,
          turned,
        })),
        ...{ shared: [], diodes, wires: joins.length - diodes, mostDrops: matrix.construction.mostDrops },
      };
      return { board, matrix, joins, construction };
    }),
  );
}

/** What is written beside a terminal of a board: its name, the route and button or the turnout that it serves, its wire's colour. */
export function terminalWords(
  record: RailwayRecord,
  matrix: Matrix,
  boardId: string,
  terminal: string,
  colours: ReadonlyMap<string, string> = new Map(),
): string {
  const colour = colours.get(`${boardId}:${terminal}`);
  return `${servedBy(record, matrix, boardId, terminal)}${colour ? ` ${colour}` : ""}`;
}

function servedBy(record: RailwayRecord, matrix: Matrix, boardId: string, terminal: string): string {
  const row = matrix.rows.find(({ terminals }) => terminals.get(boardId) === terminal);
  if (row) {
    const routes = row.routeIds.map((id) => find(record, "route", id)?.label ?? id).join(", ");
    return `${terminal} ${routes}, ${buttonWords(record, row)}`;
  }
  const coil = matrix.coils.find((each) => each.boardId === boardId && each.terminal === terminal);
  if (coil) return `${terminal} ${coilWords(record, coil)}`;
  return `${terminal} shared`;
}

/** A board laid out for soldering, at once. */
export function sheetOfBoard({ construction }: Pick<NamedBoard, "construction">): BuildSheet {
  const work = layBoard(construction);
  for (let step = work.next(); ; step = work.next()) if (step.done) return step.value;
}
