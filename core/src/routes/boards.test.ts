// Diode boards of a railway: what is proposed, what was made, and what each button reaches.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted, typed } from "../../testing/build.ts";
import { ladderRoads, ladderYard, routedYard, soldered } from "../../testing/routes.ts";
import { edit } from "../catalogue/edit.ts";
import { setConstruction } from "../equip/diodeBoards.ts";
import { commandRoutes } from "../equip/routeSchools.ts";
import { addRoutes, removeRoutes, setInRoute } from "../equip/routes.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Position } from "../record/schemas.ts";
import { reachesOf } from "./asBuilt.ts";
import { matricesOf } from "./boards.ts";

const only = (record: RailwayRecord) => matricesOf(record)[0]!;

/** Any table of routes over four turnouts. */
const table = fc.array(
  fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 4 }), fc.constantFrom<Position>("N", "R")), {
    minLength: 1,
    maxLength: 4,
    selector: ([turnout]) => turnout,
  }),
  { minLength: 1, maxLength: 6 },
);

/** The routes of a table, each with a button of its own. */
function routed(wanted: readonly (readonly [number, Position][])[]): RailwayRecord {
  const yard = ladderYard(5);
  const routes = wanted.map((settings, index) => ({
    label: `Route ${index}`,
    settings: settings.map(([turnout, to]) => ({ turnoutId: `y${turnout}`, to })),
  }));
  const record = edit(yard, addRoutes(yard, routes).edits).record;
  return edit(
    record,
    commandRoutes(
      record,
      record.routes.map(({ id }) => id),
      "buttons",
    ).edits,
  ).record;
}

describe("what is proposed", () => {
  it("is a ladder's fourteen diodes and six wires for six roads, none to four a road", () => {
    const { joins, rows, construction } = only(routedYard(6));
    expect([joins.length, construction.diodes, construction.wires]).toEqual([20, 14, 6]);
    const diodesOf = (terminal: string) =>
      joins.filter(({ from, with: by }) => from === terminal && by === "diode").length;
    expect(rows.map(({ terminals }) => diodesOf(terminals.get("x1")!))).toEqual([0, 1, 2, 3, 4, 4]);
  });

  it("reaches from each button what its routes ask and nothing else, whatever the table and the construction", () => {
    fc.assert(
      fc.property(table, fc.constantFrom("fewest" as const, "full" as const, "cascaded" as const), (wanted, kind) => {
        const plain = routed(wanted);
        const group = setConstruction(plain, kind);
        const matrix = only(group ? edit(plain, group.edits).record : plain);
        // wires that buttons share take rows, which a board has only so many of
        if (matrix.unplaced.length > 0) return;
        for (const { astray, missed } of reachesOf(matrix)) expect([astray, missed]).toEqual([[], []]);
      }),
      { numRuns: 150 },
    );
  });

  it("keeps current from a toggle at the coil itself out of the rows", () => {
    const beside = typed(routedYard(4), "y2", "control", "toggle-centre-off");
    const matrix = only(beside);
    expect(matrix.directs).toHaveLength(2);
    for (const { astray, missed } of reachesOf(matrix)) expect([astray, missed]).toEqual([[], []]);
    // the link to that coil was a plain wire
    expect(matrix.construction.diodes).toBe(only(routedYard(4)).construction.diodes + 1);
  });
});

describe("what was made", () => {
  it("stays as it was made, whatever becomes of the routes", () => {
    const deed = fc.tuple(fc.nat(5), fc.integer({ min: 1, max: 4 }), fc.constantFrom("N", "R", null));
    fc.assert(
      fc.property(table, fc.array(deed, { maxLength: 5 }), (wanted, deeds) => {
        const made = soldered(routed(wanted));
        const after = deeds.reduce((record, [which, turnout, to]) => {
          const route = record.routes[which % Math.max(1, record.routes.length)];
          if (!route) return record;
          const group =
            turnout === 4 && to === null
              ? removeRoutes(record, [route.id])
              : setInRoute(record, route.id, `y${turnout}`, to as Position | null);
          return group ? edit(record, group.edits).record : record;
        }, made);
        expect(after.boardParts).toEqual(made.boardParts);
        const standing = matricesOf(after).flatMap(({ joins }) => joins.flatMap(({ partId }) => partId ?? []));
        expect(standing.sort()).toEqual(made.boardParts.map(({ id }) => id).sort());
      }),
      { numRuns: 60 },
    );
  });

  it("is told where it lets current astray, and the rest is proposed around it", () => {
    const made = soldered(routedYard(3));
    // road 1 is to set the second turnout as well: its plain wire to Y1 R is no harm, the new links are proposed
    const more = edit(made, setInRoute(made, "road-1", "y2", "R")!.edits).record;
    const { joins } = only(more);
    expect(joins.filter(({ standing }) => standing === "proposed")).toEqual([
      expect.objectContaining({ from: "I1", to: "2R", with: "diode" }),
    ]);
    const astray = reachesOf(only(more)).flatMap((reach) => reach.astray);
    expect(astray.map(({ coil, way }) => [coil.terminal, way.map(({ from, to }) => `${from}-${to}`)])).toEqual([
      ["1N", ["I1-2R", "2R-I2", "I2-1N"]],
    ]);
  });
});

describe("both ends of a yard", () => {
  /** The west end on one board, the east end on another, set by the same buttons. */
  function bothEnds(): RailwayRecord {
    const yard = ladderYard(5);
    const split = drafted(yard, (draft) => {
      for (const [index, ids] of [
        ["y1", "y2"],
        ["y3", "y4"],
      ].entries()) {
        const board = draft.addDevice("diode-board-8", "X", "layout");
        draft.assign("supply", { deviceId: "cd1", toDeviceId: board.id });
        for (const [place, motorId] of ids.entries()) {
          draft.unassign((a) => a.role === "driver" && a.motorId === motorId);
          draft.assign("driver", { deviceId: board.id, way: place + 1, motorId });
        }
        expect(board.label).toBe(`X${index + 1}`);
      }
    });
    const west = ladderRoads(3);
    const east = ladderRoads(3, (number) => `y${number + 2}`);
    const routes = west.map(({ label, settings }, index) => ({
      label,
      settings: [...settings, ...east[index]!.settings],
    }));
    const record = edit(split, addRoutes(split, routes).edits).record;
    return edit(
      record,
      commandRoutes(
        record,
        record.routes.map(({ id }) => id),
        "buttons",
      ).edits,
    ).record;
  }

  it("are one matrix with a row for each button on either board", () => {
    const matrix = only(bothEnds());
    expect(matrix.boards.map(({ label }) => label)).toEqual(["X1", "X2"]);
    expect(matrix.rows.map(({ terminals }) => [...terminals.keys()])).toEqual([
      ["x1", "x2"],
      ["x1", "x2"],
      ["x1", "x2"],
    ]);
    // each end by itself is a ladder of three roads
    expect(matrix.joins.filter(({ boardId }) => boardId === "x2")).toHaveLength(5);
    for (const { astray, missed } of reachesOf(matrix)) expect([astray, missed]).toEqual([[], []]);
  });

  it("reach nothing astray when cascaded, on whichever board the shared wires lie", () => {
    const record = bothEnds();
    const matrix = only(edit(record, setConstruction(record, "cascaded")!.edits).record);
    expect(matrix.unplaced).toEqual([]);
    for (const { astray, missed } of reachesOf(matrix)) expect([astray, missed]).toEqual([[], []]);
  });
});
