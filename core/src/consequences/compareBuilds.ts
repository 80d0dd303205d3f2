import { figureValue, typeOf } from "../catalogue/catalogue.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { type RoutePress, routePress } from "../diodes/pressed.ts";
import { buttonWords } from "../diodes/words.ts";
import { setConstruction } from "../equip/diodeBoards.ts";
import { commandRoutes, ROUTE_SCHOOLS, type RouteSchool } from "../equip/routeSchools.ts";
import { progressOf } from "../loom/progress.ts";
import { deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { RecordError } from "../record/problems.ts";
import { CONSTRUCTIONS, type ConstructionKind } from "../record/routes.ts";
import { type Matrix, matricesOf, matrixOfBoard, movingWith } from "../routes/boards.ts";
import { controlsOf, inputOf, isLeftOn } from "../schematic/thread.ts";
import { count } from "../units/format.ts";

/** A way to build the diode boards, with every button pressed in the solved circuit. */
export interface BuiltAs {
  kind: ConstructionKind;
  isPresent: boolean;
  diodes: number;
  wires: number;
  /** Most diodes one after the other. */
  mostDrops: number;
  /** Rough price of the diodes. */
  cost: number;
  /** The coil that gets least of what it needs, over all buttons. */
  weakest: { label: string; joules: number; least: number } | null;
  contactAmps: number;
  diodeAmps: number;
  surgeAmps: number;
  /** What a build does not do, by button; empty for one that does all that is wanted. */
  faults: string[];
}

/** The three constructions for a matrix, as if nothing lay on its boards yet, each proved by solving. @yields them one by one */
export function* compareBuilds(before: Derived, boardId: string): Generator<BuiltAs> {
  const bare: RailwayRecord = { ...before.record, boardParts: [] };
  for (const kind of CONSTRUCTIONS) {
    const group = setConstruction(bare, kind);
    const derived = new Derived(group ? edit(bare, group.edits).record : bare, before);
    const matrix = matrixOfBoard(derived.record, boardId);
    if (matrix) yield builtAs(derived, matrix, kind, before.record.railway.matrixBy === kind);
  }
}

function builtAs(derived: Derived, matrix: Matrix, kind: ConstructionKind, isPresent: boolean): BuiltAs {
  const { record, circuitry, schematic } = derived;
  const presses = matrix.rows.flatMap((row) => {
    const pressed = routePress(record, circuitry, schematic.threads, matrix, row.key);
    return pressed ? [{ ...pressed, button: buttonWords(record, row) }] : [];
  });
  const asked = presses.flatMap(({ coils }) => coils.filter(({ isWanted }) => isWanted));
  const [weakest] = asked.sort((a, b) => a.joules / a.least - b.joules / b.least);
  const most = (of: (press: RoutePress) => number) => Math.max(0, ...presses.map(of));
  const diodes = diodesOf(matrix);
  const emptied = leftOnAt(derived, matrix);
  return {
    ...{ kind, isPresent, diodes, wires: matrix.joins.length - diodes, cost: diodes * diodePrice(record, matrix) },
    mostDrops: matrix.construction.mostDrops,
    weakest: weakest ? { label: weakest.label, joules: weakest.joules, least: weakest.least } : null,
    contactAmps: most(({ contactAmps }) => contactAmps),
    diodeAmps: most(({ diodeAmps }) => diodeAmps),
    surgeAmps: most(({ surgeAmps }) => surgeAmps),
    faults: emptied
      ? [`${emptied} is left on at one of the coils and empties the unit: put that right first.`]
      : matrix.unplaced.length > 0
        ? [`No rows are free for ${count(matrix.unplaced.length, "wire")} that buttons share: it takes a larger board.`]
        : presses.flatMap(({ button, faults }) => faults.map((fault) => `${button}: ${fault}`)),
  };
}

/** A control that goes on sending current to a coil of a matrix; null for none. */
function leftOnAt({ schematic }: Derived, { coils }: Matrix): string | null {
  const own = new Set(coils.map(({ turnoutId }) => turnoutId));
  const thread = schematic.threads.find((each) => own.has(each.turnout.id) && isLeftOn(each));
  return thread ? (controlsOf(thread).find(({ type }) => type.maintained)?.device.label ?? null) : null;
}

const diodesOf = ({ joins }: Matrix) => joins.filter((join) => join.with === "diode").length;

/** Rough price of one diode of a matrix's boards. */
function diodePrice(record: RailwayRecord, { boards: [board] }: Matrix): number {
  return board ? figureValue(typeOf(record, board), "diodePrice") : 0;
}

/** What it means to have routes asked for in one way of the trade. */
export interface RouteSchoolCompared {
  school: RouteSchool;
  isPresent: boolean;
  /** Buttons, switches and boards more than there are without anything that asks for the routes. */
  parts: { name: string; count: number }[];
  cost: number;
  diodes: number;
  wires: number;
  joints: number;
  /** What works without a computer or command station. */
  without: string;
  /** Why it cannot be done, or what would be wrong. */
  wrong: string[];
}

const WITHOUT: Record<RouteSchool, string> = {
  buttons: "everything: there is no computer in it",
  "entry-exit": "everything: there is no computer in it",
  rotary: "everything: there is no computer in it",
  macro: "nothing: the command station sends the commands",
  message: "nothing: the computer passes the buttons on",
};

/** The ways of the trade to ask for some routes, side by side. @yields them one by one */
export function* compareRouteSchools(before: Derived, routeIds: readonly string[]): Generator<RouteSchoolCompared> {
  const ids = new Set(routeIds);
  const { record } = before;
  for (const school of ROUTE_SCHOOLS) {
    const own = record.routeControls.filter(({ routeId }) => ids.has(routeId));
    try {
      const made = edit(record, commandRoutes(record, routeIds, school).edits).record;
      yield schoolCompared(before, made, school, own.length > 0 && isSameWay(record, made, ids));
    } catch (error) {
      if (!(error instanceof RecordError)) throw error;
      const none = { parts: [], cost: 0, diodes: 0, wires: 0, joints: 0 };
      yield { school, isPresent: false, ...none, without: WITHOUT[school], wrong: [error.message] };
    }
  }
}

function schoolCompared(
  before: Derived,
  made: RailwayRecord,
  school: RouteSchool,
  isPresent: boolean,
): RouteSchoolCompared {
  const derived = new Derived(made, before);
  const counts = new Map<string, { name: string; count: number; cost: number }>();
  const set = new Set(made.routeTurnouts.flatMap(({ turnoutId }) => movingWith(made, turnoutId)));
  const controls = new Set([
    ...made.routeControls.flatMap(({ deviceId, throughId }) => [deviceId, throughId]),
    ...derived.schematic.threads.flatMap(({ motors }) =>
      motors.flatMap(({ turnout, driver }) => (driver && set.has(turnout.id) ? [driver.device.id] : [])),
    ),
  ]);
  for (const device of made.devices) {
    if (!controls.has(device.id)) continue;
    const { id, name, figures } = typeOf(made, device);
    if (!figures.price) continue;
    const known = counts.get(id) ?? { name, count: 0, cost: 0 };
    counts.set(id, { name, count: known.count + 1, cost: known.cost + figures.price.value });
  }
  const used = matricesOf(made).filter(({ rows }) => rows.length > 0);
  const diodes = used.reduce((sum, matrix) => sum + diodesOf(matrix), 0);
  const priceOfDiodes = used.reduce((sum, matrix) => sum + diodesOf(matrix) * diodePrice(made, matrix), 0);
  const { bench, front, underneath } = progressOf(derived.loom.wires);
  const was = new Set(before.findings.map(({ key }) => key));
  return {
    school,
    isPresent,
    parts: [...counts.values()].map(({ name, count }) => ({ name, count })),
    cost: [...counts.values()].reduce((sum, { cost }) => sum + cost, 0) + priceOfDiodes,
    diodes,
    wires: derived.loom.wires.length,
    joints: bench.of + front.of + underneath.of,
    without: WITHOUT[school],
    wrong: derived.findings.filter(({ severity, key }) => severity === "stop" && !was.has(key)).map(({ why }) => why),
  };
}

/** Whether routes are asked for by the same kinds of things in two records. */
function isSameWay(a: RailwayRecord, b: RailwayRecord, ids: ReadonlySet<string>): boolean {
  const kinds = (record: RailwayRecord) =>
    record.routeControls
      .filter(({ routeId }) => ids.has(routeId))
      .map(({ routeId, deviceId, way, throughId }) => {
        const { model } = typeOf(record, deviceOf(record, deviceId));
        return `${routeId} ${model} ${throughId !== null} ${inputOf(record, deviceId, way) !== undefined}`;
      })
      .sort()
      .join();
  return kinds(a) === kinds(b);
}
