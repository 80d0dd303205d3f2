import { RECTIFIER } from "../circuit/elements.ts";
import type { Derived } from "../derive.ts";
import { boardDrawing, PITCH } from "../diodes/boardDrawing.ts";
import { boardTests } from "../diodes/buildSheet.ts";
import { namedBoards, sheetOfBoard } from "../diodes/ofBoard.ts";
import { find, turnoutsInOrder } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { controlsOfRoute, routesInOrder, turnoutsOfRoute } from "../routes/routes.ts";
import { wayName } from "../schematic/nets.ts";
import { count } from "../units/format.ts";
import { column, heading, type Paper, type PaperPart, table } from "./paper.ts";

/** Routes with the turnouts that they set, and each diode board at true scale with the order of soldering and its tests. */
export function routeSheets({ record, loom }: Derived): Paper {
  const boards = namedBoards(record, loom);
  const parts: PaperPart[] = [
    heading("Routes", count(record.routes.length, "route")),
    ...routesTable(record),
    ...boards.flatMap((named): PaperPart[] => {
      const sheet = sheetOfBoard(named);
      const { board, construction } = named;
      const madeAt = new Map(named.joins.map((join) => [`${join.fromName} ${join.toName}`, join.standing === "made"]));
      return [
        heading(`Diode board ${board.label}`, `${construction.diodes} diodes, ${construction.wires} plain wires`, true),
        {
          kind: "text",
          text: `Terminals ${PITCH} mm apart. The ruler below has to measure 100 mm on the print. The band of each diode is its cathode, at the coil's side. Solder in the order of the numbers, with the unit discharged and nothing connected.`,
        },
        { kind: "drawing", drawing: boardDrawing(sheet) },
        heading(`${board.label}, in the order of soldering`),
        table(
          `Parts of ${board.label}`,
          [
            column("No.", "figures", 0.8),
            column("Part"),
            column("From"),
            column("To, band"),
            column("Layer", "figures"),
            column("Done", "box"),
          ],
          sheet.placed.map(({ number, with: by, from, to, layer }) => [
            ...[number, by === "wire" ? "plain wire, insulated" : "diode"],
            ...[from, to, layer + 1, madeAt.get(`${from} ${to}`) ?? false],
          ]),
        ),
        heading(`${board.label}, to be measured`, "with the meter's diode range, nothing connected"),
        table(
          `Tests of ${board.label}`,
          [column("Red on"), column("Black on"), column("Through"), column("Shows", "mono"), column("Good", "box")],
          boardTests(sheet, RECTIFIER).map(({ red, black, what, volts }) => [
            ...[red, black, what],
            ...[volts === null ? "open" : `${volts.toFixed(2)} V`, false],
          ]),
        ),
      ];
    }),
  ];
  const warnings = boards.length === 0 && record.routes.length > 0 ? ["No route goes through a diode board."] : [];
  return { id: "route-sheets", title: "Route sheets", parts, ...(warnings.length > 0 ? { warnings } : {}) };
}

function routesTable(record: RailwayRecord): PaperPart[] {
  const routes = routesInOrder(record);
  if (routes.length === 0) return [{ kind: "text", text: "There are no routes yet." }];
  const used = new Set(record.routeTurnouts.map(({ turnoutId }) => turnoutId));
  const labels = new Map(
    turnoutsInOrder(record).flatMap(({ id, label }) => (used.has(id) ? [[id, label] as const] : [])),
  );
  const rows = routes.map((route) => {
    const own = new Map(turnoutsOfRoute(record, route.id).map(({ turnoutId, to }) => [turnoutId, to]));
    const by = controlsOfRoute(record, route.id).map(({ deviceId, way, throughId }) => {
      const name = wayName(find(record, "device", deviceId)?.label ?? deviceId, way);
      return throughId === null ? name : `${name} with ${find(record, "device", throughId)?.label ?? throughId}`;
    });
    const settings = [...labels].flatMap(([id, label]) => (own.has(id) ? [`${label} ${own.get(id)}`] : []));
    return [route.label, settings.join(", "), by.join(", ")];
  });
  return [
    table(
      "Routes",
      [column("Route", "text", 2), column("Turnouts", "text", 6), column("Asked for by", "text", 2)],
      rows,
    ),
  ];
}
