import { COLUMNS, type RailwayRecord, type Turnout } from "@alderman/core";

const known = new WeakMap<RailwayRecord, Map<string, readonly string[]>>();

/** What the cells of a turnout say, in the order of columns; read once for each record. */
export function textsOf(record: RailwayRecord, turnout: Turnout): readonly string[] {
  const rows = known.get(record) ?? new Map<string, readonly string[]>();
  known.set(record, rows);
  const texts = rows.get(turnout.id) ?? COLUMNS.map(({ read }) => read(record, turnout));
  rows.set(turnout.id, texts);
  return texts;
}
