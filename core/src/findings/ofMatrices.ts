import { type Matrix, type MatrixCoil, matricesOf } from "../routes/boards.ts";
import { isLeftOn, type Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import type { Look } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

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

/** Labels of a matrix's boards, as "X1 and X2". */
export function boardWords({ boards }: Matrix): string {
  return list(boards.map(({ label }) => label));
}

/** The threads of the turnouts that coils throw. */
export function threadsOfCoils(threads: readonly Thread[], coils: readonly Pick<MatrixCoil, "turnoutId">[]): Thread[] {
  return threadsOfTurnouts(threads, new Set(coils.map(({ turnoutId }) => turnoutId)));
}
