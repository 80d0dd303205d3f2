import { emptyRecord, KINDS, type Kind, LISTS, Railway, type RailwayRecord, type ValueOf } from "@alderman/core";
import type Database from "better-sqlite3";
import { type Codec, codecOf, type Row } from "./codec.ts";

type Thing = ValueOf<Kind>;

/** How each kind of thing is kept; its table is called as the kind. */
export const CODECS = Object.fromEntries(
  Object.entries(KINDS).map(([kind, { schema }]) => [kind, codecOf<Thing>(kind, schema as never)]),
) as Record<Kind, Codec<Thing>>;

/** How the railway's own fields are kept. */
export const RAILWAY_CODEC = codecOf("railway", Railway);

const quoted = (names: readonly string[]) => names.map((name) => `"${name}"`);

/** Statements that read and write the record's tables, prepared once. */
export function recordStatements(database: Database.Database) {
  const kinds = Object.keys(CODECS) as Kind[];
  const prepare = (kind: Kind) => {
    const names = CODECS[kind].columns.map(({ name }) => name);
    return {
      all: database.prepare(`SELECT ${quoted(names).join(", ")} FROM "${kind}" WHERE railway_id = ? ORDER BY id`),
      remove: database.prepare(`DELETE FROM "${kind}" WHERE railway_id = ? AND id = ?`),
      insert: database.prepare(
        `INSERT INTO "${kind}" (railway_id, ${quoted(names).join(", ")}) VALUES (?${", ?".repeat(names.length)})`,
      ),
    };
  };
  const prepared = Object.fromEntries(kinds.map((kind) => [kind, prepare(kind)])) as Record<
    Kind,
    ReturnType<typeof prepare>
  >;
  const names = quoted(RAILWAY_CODEC.columns.map(({ name }) => name));
  const railway = {
    one: database.prepare(`SELECT id, ${names.join(", ")} FROM railway WHERE id = ?`),
    insert: database.prepare(
      `INSERT INTO railway (id, revision, changed_at, ${names.join(", ")}) VALUES (?, 0, ?${", ?".repeat(names.length)})`,
    ),
    update: database.prepare(`UPDATE railway SET ${names.map((name) => `${name} = ?`).join(", ")} WHERE id = ?`),
  };

  return {
    remove: (railwayId: string, kind: Kind, id: string) => prepared[kind].remove.run(railwayId, id),
    insert: (railwayId: string, kind: Kind, value: Thing) =>
      prepared[kind].insert.run(railwayId, ...CODECS[kind].toCells(value)),
    setRailway: (id: string, value: Railway) => railway.update.run(...RAILWAY_CODEC.toCells(value), id),
    insertRailway: (id: string, value: Railway, at: string) =>
      railway.insert.run(id, at, ...RAILWAY_CODEC.toCells(value)),

    /** All rows of a railway by their tables, as they are; undefined when there is none. */
    rows(railwayId: string): Record<string, unknown[]> | undefined {
      const own = railway.one.get(railwayId);
      if (!own) return undefined;
      return { railway: [own], ...Object.fromEntries(kinds.map((kind) => [kind, prepared[kind].all.all(railwayId)])) };
    },

    /**
     * The whole record of a railway, or undefined when there is none.
     * @throws {UnreadableRowError} naming the row that is not what the program writes
     */
    load(railwayId: string): RailwayRecord | undefined {
      const row = railway.one.get(railwayId) as Row | undefined;
      if (!row) return undefined;
      const own = RAILWAY_CODEC.fromRow(row);
      const lists = kinds.map((kind) => [
        LISTS[kind],
        (prepared[kind].all.all(railwayId) as Row[]).map((each) => CODECS[kind].fromRow(each)),
      ]);
      return { ...emptyRecord(own.name), railway: own, ...Object.fromEntries(lists) };
    },
  };
}
