// Railways whose turnouts are set by routes: a yard through diodes, and what can go wrong with it.
import { edit } from "../src/catalogue/edit.ts";
import { makeParts } from "../src/equip/diodeBoards.ts";
import { commandRoutes, type RouteSchool } from "../src/equip/routeSchools.ts";
import { addRoutes, setInRoute, type WantedRoute } from "../src/equip/routes.ts";
import type { RailwayRecord } from "../src/record/kinds.ts";
import { matricesOf } from "../src/routes/boards.ts";
import { drafted, railway, retyped, withFigures } from "./build.ts";
import { laid } from "./lines.ts";

const AT = "2026-05-12T19:30:00.000Z";

/** The roads of a ladder: road k has the turnouts before it at normal and its own at reverse, the last one all at normal. */
export function ladderRoads(roads: number, turnout = (number: number) => `y${number}`): WantedRoute[] {
  return Array.from({ length: roads }, (_, index) => ({
    label: `Road ${index + 1}`,
    settings: Array.from({ length: Math.min(index + 1, roads - 1) }, (_, at) => ({
      turnoutId: turnout(at + 1),
      to: at === index ? ("R" as const) : ("N" as const),
    })),
  }));
}

/** A ladder of so many roads on coil motors and one strong discharge unit, without anything that throws them. */
export function ladderYard(roads: number): RailwayRecord {
  const rows = Array.from({ length: roads - 1 }, (_, index) => [
    ...[`Y${index + 1}`, "", "twin-coil-surface", index === 0 ? "cdu" : "CD1", ""],
  ]);
  const record = railway(...rows);
  return withFigures(
    { ...record, railway: { ...record.railway, cableGauge: "0.5 mm2", wireGauge: "1 mm2", runMetres: 0.5 } },
    "CD1",
    { farads: roads * 2200e-6, chargeOhms: 33 },
  );
}

/** The same with its roads as routes, asked for in one of the ways of the trade. */
export function routedYard(roads: number, school: RouteSchool = "buttons"): RailwayRecord {
  const yard = ladderYard(roads);
  const record = edit(yard, addRoutes(yard, ladderRoads(roads)).edits).record;
  return edit(
    record,
    commandRoutes(
      record,
      record.routes.map(({ id }) => id),
      school,
    ).edits,
  ).record;
}

/** Everything on its boards soldered as it was proposed. */
export function soldered(record: RailwayRecord): RailwayRecord {
  return matricesOf(record).reduce(
    (now, { joins }) => edit(now, makeParts(now, joins, AT)?.edits ?? []).record,
    record,
  );
}

/** One part of a board otherwise than it was made. */
function otherwise(
  record: RailwayRecord,
  from: string,
  to: string,
  how: Partial<RailwayRecord["boardParts"][number]>,
): RailwayRecord {
  const part = record.boardParts.find((each) => each.from === from && each.to === to);
  return drafted(record, (draft) => part && draft.put("boardPart", { ...part, ...how }));
}

/** A yard of three roads on the line, of which one route asks for a turnout that no train passes then. */
function notOnLine(): RailwayRecord {
  const drawn = laid(
    railway(["A"], ["B"]),
    [
      [
        [0, 0],
        [12, 0],
      ],
    ],
    [
      [
        [2, 0],
        [4, -2],
        [12, -2],
      ],
      "a",
    ],
    [
      [
        [6, 0],
        [7, -1],
        [12, -1],
      ],
      "b",
    ],
  );
  const settings = [
    { turnoutId: "a", to: "R" as const },
    { turnoutId: "b", to: "R" as const },
  ];
  return edit(drawn, addRoutes(drawn, [{ label: "Upper", settings }]).edits).record;
}

/** Two routes on the button of the first of them. */
function onOneButton(record: RailwayRecord, first: string, second: string): RailwayRecord {
  return drafted(record, (draft) => {
    const [one, other] = [first, second].map((id) => draft.record.routeControls.find(({ routeId }) => routeId === id));
    if (one && other) draft.put("routeControl", { ...other, deviceId: one.deviceId, way: one.way });
  });
}

/** Routes over two turnouts that have nothing to do with each other, each with its button. */
function apart(): RailwayRecord {
  const yard = ladderYard(3);
  const record = edit(
    yard,
    addRoutes(yard, [
      { label: "East", settings: [{ turnoutId: "y1", to: "N" }] },
      { label: "West", settings: [{ turnoutId: "y2", to: "R" }] },
    ]).edits,
  ).record;
  return edit(record, commandRoutes(record, ["east", "west"], "buttons").edits).record;
}

/** One mistake for each rule of routes. */
export const ROUTE_MISTAKES: Record<string, () => RailwayRecord> = {
  "route-impossible": () => {
    const yard = routedYard(3);
    return drafted(yard, (draft) => draft.removeWhole("device", "y1"));
  },
  "route-not-on-line": notOnLine,
  "route-asks-both": () => onOneButton(routedYard(3), "road-1", "road-2"),
  "route-button-shared": () => onOneButton(apart(), "east", "west"),
  "route-sneak": () => otherwise(soldered(routedYard(4)), "I2", "1N", { with: "wire" }),
  "diode-turned": () => otherwise(soldered(routedYard(4)), "I3", "2N", { turned: true }),
  "route-unreached": () =>
    drafted(routedYard(3), (draft) => draft.unassign((a) => a.role === "input" && a.deviceId === "x1" && a.way === 2)),
  "route-coil-weak": () => withFigures(routedYard(6), "CD1", { farads: 2200e-6, chargeOhms: 33 }),
  "diode-over-surge": () => withFigures(routedYard(3), "X1", { surgeAmps: 3 }),
  "route-contact-amps": () => withFigures(routedYard(6), "B6", { ratedAmps: 1 }),
  "route-before-recharge": () => withFigures(routedYard(4), "CD1", { farads: 6800e-6, chargeOhms: 330 }),
  "route-unasked": () => {
    const yard = ladderYard(3);
    return edit(yard, addRoutes(yard, ladderRoads(3)).edits).record;
  },
};

/** Yards on routes that are right, one for each way of the trade that goes through diodes. */
export const ROUTED: Record<string, () => RailwayRecord> = {
  "a yard on route buttons": () => routedYard(4),
  "a yard by entry and exit": () => routedYard(3, "entry-exit"),
  "a yard by a rotary switch": () => retyped(routedYard(3, "rotary"), "PS1", "ac-12"),
  "a yard with its board soldered": () => soldered(routedYard(3)),
  "a route that leaves a turnout alone": () => {
    const yard = routedYard(3);
    return edit(yard, setInRoute(yard, "road-3", "y1", null)?.edits ?? []).record;
  },
};
