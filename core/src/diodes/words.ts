import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { MatrixCoil, MatrixRow } from "../routes/boards.ts";
import { wayName } from "../schematic/nets.ts";
import { list } from "../units/format.ts";

/** The button of a row. @example buttonWords(record, row) // "B3", or "RS1-4" */
export function buttonWords(record: RailwayRecord, { controlId, way }: MatrixRow): string {
  return wayName(find(record, "device", controlId)?.label ?? controlId, way);
}

/** The routes of a row as they are named, with the button. @example rowWords(record, row) // "Road 3 (B3)" */
export function rowWords(record: RailwayRecord, row: MatrixRow): string {
  const routes = list(row.routeIds.map((id) => find(record, "route", id)?.label ?? id));
  const button = buttonWords(record, row);
  return routes === "" ? button : `${routes} (${button})`;
}

/** A coil by the turnout and position that it throws. @example coilWords(record, coil) // "Y2 N" */
export function coilWords(record: RailwayRecord, { turnoutId, side }: MatrixCoil): string {
  return `${find(record, "turnout", turnoutId)?.label ?? turnoutId} ${side}`;
}
