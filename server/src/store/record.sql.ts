import {
  emptyRecord,
  KINDS,
  type Kind,
  LISTS,
  Railway,
  type RailwayRecord,
  type Steps,
  type ValueOf,
} from "@alderman/core";
import type Database from "better-sqlite3";
import { type Codec, type Column, codecOf, type Row } from "./codec.ts";
import { Recent } from "./recent.ts";

type Thing = ValueOf<Kind>;

/** How each kind of thing is kept; its table is called as the kind. */
export const CODECS = Object.fromEntries(
  Object.entries(KINDS).map(([kind, { schema }]) => [kind, codecOf<Thing>(kind, schema as never)]),
) as Record<Kind, Codec<Thing>>;

/** How the railway's own fields are kept. */
export const RAILWAY_CODEC = codecOf("railway", Railway);

/** A column in which a thing is another than before, and what it holds now. */
interface Difference extends Pick<Column, "name"> {
  cell: unknown;
}

/** Rows that are read in one step, some thousandths of a second: whoever asks for the scripts of a page meanwhile waits for a few of them. */
const ROWS_IN_STEP = 100;

/** Statements that are kept of those that write some columns of a row; each change of a kind has its own. */
const UPDATES_KEPT = 300;

const quoted = (names: readonly string[]) => names.map((name) => `"${name}"`);

/** Columns of a table that no two rows may have alike, or on which it depends whether they may; the identifier apart. */
function uniqueColumns(database: Database.Database, table: string): Set<string> {
  const columns = database.prepare("SELECT name FROM pragma_table_info(?)").pluck().all(table) as string[];
  const indexes = database
    .prepare(`SELECT list.name, master.sql FROM pragma_index_list(?) AS list
              LEFT JOIN sqlite_master AS master ON master.name = list.name
              WHERE list."unique" = 1 AND list.origin <> 'pk'`)
    .all(table) as { name: string; sql: string | null }[];
  const used = indexes.flatMap(({ name, sql }) => {
    const own = database.prepare("SELECT name FROM pragma_index_info(?)").pluck().all(name) as string[];
    // an index of some rows says of which after WHERE
    const words = new Set(sql?.match(/\w+/g) ?? []);
    return [...own, ...columns.filter((column) => words.has(column))];
  });
  return new Set(used.filter((column) => column !== "railway_id"));
}

/** Statements that read and write the record's tables, prepared once. */
export function recordStatements(database: Database.Database) {
  const kinds = Object.keys(CODECS) as Kind[];
  const prepare = (kind: Kind) => {
    const names = CODECS[kind].columns.map(({ name }) => name);
    const from = `FROM "${kind}" WHERE railway_id = ? ORDER BY id`;
    const set = quoted(names.filter((name) => name !== "id")).map((name) => `${name} = excluded.${name}`);
    const insert = `INSERT INTO "${kind}" (railway_id, ${quoted(names).join(", ")}) VALUES (?${", ?".repeat(names.length)})`;
    return {
      all: database.prepare(`SELECT ${quoted(names).join(", ")} ${from}`),
      // a row as one text comes a few times faster than cell by cell; strict tables hold nothing that has no text
      texts: database.prepare(`SELECT json_array(${quoted(names).join(", ")}) ${from}`).pluck(),
      remove: database.prepare(`DELETE FROM "${kind}" WHERE railway_id = ? AND id = ?`),
      insert: database.prepare(insert),
      put: database.prepare(`${insert} ON CONFLICT (railway_id, id) DO UPDATE SET ${set.join(", ")}`),
      unique: uniqueColumns(database, kind),
    };
  };
  const prepared = Object.fromEntries(kinds.map((kind) => [kind, prepare(kind)])) as Record<
    Kind,
    ReturnType<typeof prepare>
  >;
  /** Statements that write some columns of a kind over, by the kind and the columns. */
  const updates = new Recent<Database.Statement>(UPDATES_KEPT);
  const updateOf = (kind: Kind, columns: readonly Pick<Column, "name">[]): Database.Statement => {
    const set = quoted(columns.map(({ name }) => name)).map((name) => `${name} = ?`);
    const sql = `UPDATE "${kind}" SET ${set.join(", ")} WHERE railway_id = ? AND id = ?`;
    const known = updates.get(sql) ?? database.prepare(sql);
    updates.set(sql, known);
    return known;
  };
  const put = (railwayId: string, kind: Kind, value: Thing) =>
    prepared[kind].put.run(railwayId, ...CODECS[kind].toCells(value));
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
    /** Writes a thing, in the place of the one that is there. */
    put,
    /** Writes a thing of a railway that has none of its identifier; without looking for one, that takes half the time. */
    insert: (railwayId: string, kind: Kind, value: Thing) =>
      prepared[kind].insert.run(railwayId, ...CODECS[kind].toCells(value)),
    /** What of a thing is another than before. */
    differences(kind: Kind, before: Thing, now: Thing): Difference[] {
      const [a, b] = [CODECS[kind].toCells(before), CODECS[kind].toCells(now)];
      return CODECS[kind].columns.flatMap(({ name }, at) => (a[at] === b[at] ? [] : [{ name, cell: b[at] }]));
    },
    /** Whether it differs in what no two of its kind may have alike, so that one may stand in the way of a third. */
    changesHands: (kind: Kind, differences: readonly Difference[]) =>
      differences.some(({ name }) => prepared[kind].unique.has(name)),
    /** Writes over what differs: of what stays, no index has to be looked through. */
    change(railwayId: string, kind: Kind, now: Thing, differences: readonly Difference[]): void {
      if (differences.length === 0) return;
      const cells = differences.map(({ cell }) => cell);
      const { changes } = updateOf(kind, differences).run(...cells, railwayId, now.id);
      // what somebody took out of the table by other means is there again
      if (changes === 0) put(railwayId, kind, now);
    },
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
     * The whole record of a railway, or undefined when there is none; in steps, which have to follow each other without an edit between.
     * @throws {UnreadableRowError} naming the row that is not what the program writes
     */
    *loading(railwayId: string): Steps<RailwayRecord | undefined> {
      const row = railway.one.get(railwayId) as Row | undefined;
      if (!row) return undefined;
      const own = RAILWAY_CODEC.fromCells(
        RAILWAY_CODEC.columns.map(({ name }) => row[name]),
        railwayId,
      );
      const lists: [string, Thing[]][] = [];
      for (const kind of kinds) {
        const texts = prepared[kind].texts.all(railwayId) as string[];
        const things: Thing[] = [];
        for (const [index, text] of texts.entries()) {
          if (index % ROWS_IN_STEP === ROWS_IN_STEP - 1) yield;
          things.push(CODECS[kind].fromCells(JSON.parse(text)));
        }
        lists.push([LISTS[kind], things]);
      }
      return { ...emptyRecord(own.name), railway: own, ...Object.fromEntries(lists) };
    },
  };
}
