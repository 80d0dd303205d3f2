import { typeOf } from "../catalogue/catalogue.ts";
import { numbered } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { assignmentsOfDevice, assignmentsOfTurnout, deviceOf, feederOf, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { BoardPart } from "../record/routes.ts";
import type { AssignmentOf, Device } from "../record/schemas.ts";
import { isRoutedAlike } from "../record/unchanged.ts";
import { type Construction, constructionOf } from "./constructions.ts";
import type { Wish } from "./matrix.ts";
import { routesInOrder, turnoutsOfRoute } from "./routes.ts";

/** A diode or a plain wire between two terminals of a diode board: proposed, kept by the owner, or made. */
export interface BoardJoin {
  boardId: string;
  from: string;
  to: string;
  with: "wire" | "diode";
  /** The diode's band is at the wrong end. */
  turned: boolean;
  standing: "proposed" | "kept" | "made";
  /** What says so in the record; null for what is proposed. */
  partId: string | null;
}

/** Diode boards that the same buttons reach: one matrix, wherever its parts lie. */
export interface Matrix {
  /** Boards in the order of their labels. */
  boards: Device[];
  /** Discharge units that feed it: one for each board at most. */
  unitIds: string[];
  /** What each row has to energise; buttons are called by `rowKey`, coils by `coilKey`. */
  wishes: Wish[];
  rows: MatrixRow[];
  /** Controls of single turnouts that reach coils past the boards: wires to them, without a terminal of their own on a board. */
  directs: MatrixRow[];
  coils: MatrixCoil[];
  /** The construction that is proposed, over all boards. */
  construction: Construction;
  joins: BoardJoin[];
  /** Links that no board can have, because a button has no terminal on the board of a coil. */
  unwired: { row: MatrixRow; coil: MatrixCoil }[];
  /** Wires that buttons are to share for which no row of a board is free. */
  unplaced: string[];
}

/** A button, or one contact of it, as far as it is joined to boards. */
export interface MatrixRow {
  key: string;
  controlId: string;
  way: number | null;
  /** Terminal of each board that it is joined to. */
  terminals: Map<string, string>;
  routeIds: string[];
}

export interface MatrixCoil {
  key: string;
  boardId: string;
  terminal: string;
  turnoutId: string;
  motorId: string;
  side: "N" | "R";
}

export function rowKey(controlId: string, way: number | null): string {
  return `${controlId} ${way ?? ""}`.trimEnd();
}

export function coilKey(boardId: string, terminal: string): string {
  return `${boardId}:${terminal}`;
}

let last: { record: RailwayRecord; matrices: Matrix[] } | null = null;

/** The diode matrices of a railway, with what lies on their boards: what was made as it was made, the rest as proposed. */
export function matricesOf(record: RailwayRecord): Matrix[] {
  if (
    last &&
    isRoutedAlike(last.record, record) &&
    last.record.assignments === record.assignments &&
    last.record.devices === record.devices &&
    last.record.types === record.types &&
    last.record.turnouts === record.turnouts
  )
    return last.matrices;
  const matrices = makeMatrices(record);
  last = { record, matrices };
  return matrices;
}

/** The matrix that a board belongs to. */
export function matrixOfBoard(record: RailwayRecord, boardId: string): Matrix | undefined {
  return matricesOf(record).find(({ boards }) => boards.some(({ id }) => id === boardId));
}

/** What lies on one diode board. */
export function joinsOnBoard(record: RailwayRecord, boardId: string): BoardJoin[] {
  return matrixOfBoard(record, boardId)?.joins.filter((join) => join.boardId === boardId) ?? [];
}

function makeMatrices(record: RailwayRecord): Matrix[] {
  const boards = record.devices.filter((device) => typeOf(record, device).drives === "matrix");
  if (boards.length === 0) return [];
  const inputs = boards.flatMap(({ id }) => inputsOf(record, id));
  return groupsOf(boards, inputs).map((group) => matrixOf(record, group, inputs));
}

function inputsOf(record: RailwayRecord, boardId: string): AssignmentOf<"input">[] {
  return assignmentsOfDevice(record, boardId).filter(
    (a): a is AssignmentOf<"input"> => a.role === "input" && a.deviceId === boardId,
  );
}

/** Boards that share a button belong together. */
function groupsOf(boards: readonly Device[], inputs: readonly AssignmentOf<"input">[]): Device[][] {
  const group = new Map(boards.map((board) => [board.id, new Set([board])]));
  const byButton = new Map<string, string>();
  for (const { deviceId, controlId } of inputs) {
    const known = byButton.get(controlId);
    byButton.set(controlId, known ?? deviceId);
    const [one, other] = [group.get(known ?? deviceId), group.get(deviceId)];
    if (!one || !other || one === other) continue;
    for (const board of other) {
      one.add(board);
      group.set(board.id, one);
    }
  }
  const byLabel = (a: Device, b: Device) => a.label.localeCompare(b.label, "en", { numeric: true });
  return [...new Set(group.values())]
    .map((each) => [...each].sort(byLabel))
    .sort(([a], [b]) => (a && b ? byLabel(a, b) : 0));
}

function matrixOf(record: RailwayRecord, boards: Device[], inputs: readonly AssignmentOf<"input">[]): Matrix {
  const ids = new Set(boards.map(({ id }) => id));
  const rows = rowsOf(
    record,
    inputs.filter(({ deviceId }) => ids.has(deviceId)),
  );
  const coils = coilsOf(record, ids);
  const byTurnout = new Map<string, MatrixCoil[]>();
  for (const coil of coils) byTurnout.set(coil.turnoutId, [...(byTurnout.get(coil.turnoutId) ?? []), coil]);
  // a toggle at the coils themselves is a button with a wire to each, where current may not go back up into a row
  const directs = directWishes(record, coils);
  const wishes: Wish[] = directs.map(({ wish }) => wish);
  const unwired: Matrix["unwired"] = [];
  for (const row of rows) {
    const wanted = new Map<string, MatrixCoil>();
    for (const routeId of row.routeIds)
      for (const { turnoutId, to } of turnoutsOfRoute(record, routeId))
        for (const each of movingWith(record, turnoutId))
          for (const coil of byTurnout.get(each) ?? []) if (coil.side === to) wanted.set(coil.key, coil);
    for (const coil of wanted.values()) {
      if (row.terminals.has(coil.boardId)) continue;
      wanted.delete(coil.key);
      unwired.push({ row, coil });
    }
    if (wanted.size > 0)
      wishes.push({ button: row.key, coils: coils.flatMap(({ key }) => (wanted.has(key) ? [key] : [])) });
  }
  const boardOf = new Map(coils.map(({ key, boardId }) => [key, boardId]));
  const several = boards.length > 1;
  const construction = constructionOf(
    record.railway.matrixBy,
    wishes,
    several ? (key) => boardOf.get(key) ?? "" : undefined,
  );
  const unitIds = [...new Set(boards.flatMap(({ id }) => feederOf(record, id, "supply") ?? []))];
  const { joins, unplaced } = joinsOf(record, boards, rows, coils, construction);
  return {
    boards,
    unitIds,
    wishes,
    rows,
    directs: directs.map(({ row }) => row),
    coils,
    construction,
    joins,
    unwired,
    unplaced,
  };
}

/** The coils that controls of single turnouts reach past the boards, each side by itself. */
function directWishes(record: RailwayRecord, coils: readonly MatrixCoil[]): { wish: Wish; row: MatrixRow }[] {
  const wishes = new Map<string, { controlId: string; way: number | null; coils: Set<string> }>();
  for (const { key, turnoutId, side } of coils) {
    const leader = find(record, "turnout", turnoutId)?.movesWith ?? turnoutId;
    for (const { id, to, inverse, deviceId, way } of assignmentsOfTurnout(record, leader, "control")) {
      if (to !== null && to !== side) continue;
      const { asks } = traitsOf(typeOf(record, deviceOf(record, deviceId)));
      if (asks === null || asks === "poles" || asks === "signal") continue;
      // a press is one wish, whatever it asks; a toggle has one for each side
      const made = inverse === (side === "N") ? "R" : "N";
      const at = `${DIRECT}${deviceId} ${way ?? ""} ${asks === "press" ? id : made}`;
      const wish = wishes.get(at) ?? { controlId: deviceId, way, coils: new Set() };
      wish.coils.add(key);
      wishes.set(at, wish);
    }
  }
  return [...wishes].map(([key, { controlId, way, coils: those }]) => ({
    wish: { button: key, coils: [...those] },
    row: { key, controlId, way, terminals: new Map(), routeIds: [] },
  }));
}

const DIRECT = "direct ";

/** Whether a wish is that of a control which reaches the coils past the boards. */
export function isDirect({ button }: Wish): boolean {
  return button.startsWith(DIRECT);
}

/** A turnout with its leader and all that follow it. */
export function movingWith(record: RailwayRecord, turnoutId: string): string[] {
  const leader = find(record, "turnout", turnoutId)?.movesWith ?? turnoutId;
  return [leader, ...record.turnouts.flatMap(({ id, movesWith }) => (movesWith === leader ? [id] : []))];
}

/** Rows in the order of their routes. */
function rowsOf(record: RailwayRecord, inputs: readonly AssignmentOf<"input">[]): MatrixRow[] {
  const rows = new Map<string, MatrixRow>();
  for (const { deviceId, way, controlId, controlWay } of inputs) {
    const key = rowKey(controlId, controlWay);
    const row = rows.get(key) ?? { key, controlId, way: controlWay, terminals: new Map(), routeIds: [] };
    row.terminals.set(deviceId, `I${way}`);
    rows.set(key, row);
  }
  const order = new Map(routesInOrder(record).map(({ id }, index) => [id, index]));
  for (const { routeId, deviceId, way } of record.routeControls) {
    const row = rows.get(rowKey(deviceId, way));
    if (row && !row.routeIds.includes(routeId)) row.routeIds.push(routeId);
  }
  const first = ({ routeIds }: MatrixRow) =>
    Math.min(Number.POSITIVE_INFINITY, ...routeIds.map((id) => order.get(id) ?? 0));
  for (const row of rows.values()) row.routeIds.sort((a, b) => (order.get(a) ?? 0) - (order.get(b) ?? 0));
  return [...rows.values()].sort((a, b) => first(a) - first(b) || (a.key < b.key ? -1 : 1));
}

/** Both coils of every motor on the boards, in the order of their outputs. */
function coilsOf(record: RailwayRecord, boards: ReadonlySet<string>): MatrixCoil[] {
  const drivers = [...boards].flatMap((boardId) =>
    assignmentsOfDevice(record, boardId)
      .filter((a): a is AssignmentOf<"driver"> => a.role === "driver" && a.deviceId === boardId && a.way !== null)
      .sort((a, b) => (a.way ?? 0) - (b.way ?? 0)),
  );
  return drivers.flatMap(({ deviceId, way, motorId }) => {
    const turnoutId = assignmentsOfDevice(record, motorId).flatMap((a) => (a.role === "motor" ? [a.turnoutId] : []))[0];
    // what has no coils gets nothing through diodes
    if (turnoutId === undefined || traitsOf(typeOf(record, deviceOf(record, motorId))).movedBy !== "pulse") return [];
    return (["N", "R"] as const).map((side): MatrixCoil => {
      const terminal = `${way}${side}`;
      return { key: coilKey(deviceId, terminal), boardId: deviceId, terminal, turnoutId, motorId, side };
    });
  });
}

/** What was made and kept as it is, and of what is proposed that for which nothing is there yet. */
function joinsOf(
  record: RailwayRecord,
  boards: readonly Device[],
  rows: readonly MatrixRow[],
  coils: readonly MatrixCoil[],
  { joins, shared }: Construction,
): Pick<Matrix, "joins" | "unplaced"> {
  const byKey = new Map(rows.map((row) => [row.key, row]));
  const coilOf = new Map(coils.map((coil) => [coil.key, coil]));
  const ids = new Set(boards.map(({ id }) => id));
  const parts = record.boardParts.filter(({ deviceId }) => ids.has(deviceId));
  const sharedAt = placesOfShared(record, boards, rows, parts, shared, joins, coilOf);
  const proposed = joins.flatMap((join): BoardJoin[] => {
    const boardId =
      coilOf.get(join.to)?.boardId ??
      sharedAt.get(join.to)?.boardId ??
      sharedAt.get(join.from)?.boardId ??
      boardOfBoth(byKey, join);
    const terminal = (name: string) =>
      coilOf.get(name)?.terminal ?? sharedAt.get(name)?.terminal ?? byKey.get(name)?.terminals.get(boardId ?? "");
    const [from, to] = [terminal(join.from), terminal(join.to)];
    if (!boardId || !from || !to) return [];
    return [{ boardId, from, to, with: join.with, turned: false, standing: "proposed", partId: null }];
  });
  const there = new Set(parts.map((part) => placeOf(part.deviceId, part)));
  return {
    joins: [...parts.map(asJoin), ...proposed.filter((join) => !there.has(placeOf(join.boardId, join)))],
    unplaced: shared.filter((name) => !sharedAt.has(name)),
  };
}

function asJoin({ id, deviceId, from, to, turned, madeAt, with: by }: BoardPart): BoardJoin {
  return { boardId: deviceId, from, to, with: by, turned, standing: madeAt === null ? "kept" : "made", partId: id };
}

/** Between which two terminals something lies, whichever way round. */
export function placeOf(boardId: string, { from, to }: { from: string; to: string }): string {
  return `${boardId} ${[from, to].sort().join(" ")}`;
}

/** A board on which two buttons have their terminals. */
function boardOfBoth(
  rows: ReadonlyMap<string, MatrixRow>,
  { from, to }: { from: string; to: string },
): string | undefined {
  const [one, other] = [rows.get(from), rows.get(to)];
  return [...(one?.terminals.keys() ?? [])].find((id) => other?.terminals.has(id));
}

/** Free rows of the boards for wires that several buttons feed. */
function placesOfShared(
  record: RailwayRecord,
  boards: readonly Device[],
  rows: readonly MatrixRow[],
  parts: readonly BoardPart[],
  shared: readonly string[],
  joins: Construction["joins"],
  coilOf: ReadonlyMap<string, MatrixCoil>,
): Map<string, { boardId: string; terminal: string }> {
  const places = new Map<string, { boardId: string; terminal: string }>();
  if (shared.length === 0) return places;
  const taken = new Set([
    ...rows.flatMap(({ terminals }) => [...terminals].map(([boardId, terminal]) => coilKey(boardId, terminal))),
    ...parts.flatMap(({ deviceId, from, to }) => [coilKey(deviceId, from), coilKey(deviceId, to)]),
  ]);
  const boardOf = (name: string, seen = new Set<string>()): string | undefined => {
    if (seen.has(name)) return undefined;
    seen.add(name);
    for (const { from, to } of joins) {
      if (from !== name) continue;
      const found = coilOf.get(to)?.boardId ?? boardOf(to, seen);
      if (found) return found;
    }
    return undefined;
  };
  for (const name of shared) {
    const board = boards.find(({ id }) => id === boardOf(name));
    if (!board) continue;
    const { inputs = 0 } = typeOf(record, deviceOf(record, board.id));
    const free = numbered(inputs).find((way) => !taken.has(coilKey(board.id, `I${way}`)));
    if (free === undefined) continue;
    taken.add(coilKey(board.id, `I${free}`));
    places.set(name, { boardId: board.id, terminal: `I${free}` });
  }
  return places;
}
