import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Matrix, type MatrixCoil, type MatrixRow, matricesOf } from "../routes/boards.ts";
import { wayName } from "../schematic/nets.ts";
import { isLeftOn, type Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import type { Look } from "./rule.ts";

/** Something about a diode matrix of a railway, found for each of them. */
export function ofMatrices<S>({ record }: Look, look: (matrix: Matrix) => S[]): S[] {
  return matricesOf(record).flatMap(look);
}

/** The same of those whose discharge unit nothing empties: a control that is left on at one of their coils has a finding of its own. */
export function ofChargedMatrices<S>(look: Look, find: (matrix: Matrix) => S[]): S[] {
  return ofMatrices(look, (matrix) => {
    const own = threadsOfCoils(look.threads, matrix.coils);
    return own.some(isLeftOn) ? [] : find(matrix);
  });
}

/** The routes of a row as they are named, with the button. @example rowWords(record, row) // "Road 3 (B3)" */
export function rowWords(record: RailwayRecord, { routeIds, controlId, way }: MatrixRow): string {
  const routes = list(routeIds.map((id) => find(record, "route", id)?.label ?? id));
  const button = wayName(find(record, "device", controlId)?.label ?? controlId, way);
  return routes === "" ? button : `${routes} (${button})`;
}

/** A coil by the turnout and position that it throws. @example coilWords(record, coil) // "Y2 N" */
export function coilWords(record: RailwayRecord, { turnoutId, side }: MatrixCoil): string {
  return `${find(record, "turnout", turnoutId)?.label ?? turnoutId} ${side}`;
}

/** Labels of a matrix's boards, as "X1 and X2". */
export function boardWords({ boards }: Matrix): string {
  return list(boards.map(({ label }) => label));
}

/** The threads of the turnouts that coils throw. */
export function threadsOfCoils(threads: readonly Thread[], coils: readonly Pick<MatrixCoil, "turnoutId">[]): Thread[] {
  const ids = new Set(coils.map(({ turnoutId }) => turnoutId));
  return threads.filter(({ turnout, followers }) => [turnout, ...followers].some(({ id }) => ids.has(id)));
}
