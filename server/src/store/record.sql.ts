import {
  emptyRecord,
  type Kind,
  LISTS,
  Railway,
  type RailwayRecord,
  type TestResult,
  type ValueOf,
} from "@alderman/core";
import type Database from "better-sqlite3";
import { type Row, TABLES } from "./tables.ts";

type OwnSetting = ValueOf<"type">["settings"][number];

/** Statements that read and write the record's tables, prepared once. */
export function recordStatements(database: Database.Database) {
  const kinds = Object.keys(TABLES) as Kind[];
  const prepared = Object.fromEntries(
    kinds.map((kind) => {
      const { name, columns } = TABLES[kind];
      const places = columns.map(() => "?").join(", ");
      return [
        kind,
        {
          all: database.prepare(`SELECT * FROM ${name} WHERE railway_id = ? ORDER BY id`),
          remove: database.prepare(`DELETE FROM ${name} WHERE railway_id = ? AND id = ?`),
          insert: database.prepare(
            `INSERT INTO ${name} (railway_id, id, ${columns.join(", ")}) VALUES (?, ?, ${places})`,
          ),
        },
      ];
    }),
  ) as Record<Kind, { all: Database.Statement; remove: Database.Statement; insert: Database.Statement }>;
  const figures = {
    all: database.prepare("SELECT type_id, name, value FROM own_figure WHERE railway_id = ? ORDER BY type_id, name"),
    insert: database.prepare("INSERT INTO own_figure (railway_id, type_id, name, value) VALUES (?, ?, ?, ?)"),
  };
  const printed = {
    all: database.prepare("SELECT type_id, terminal, printed FROM own_printed WHERE railway_id = ?"),
    insert: database.prepare("INSERT INTO own_printed (railway_id, type_id, terminal, printed) VALUES (?, ?, ?, ?)"),
  };
  const settings = {
    all: database.prepare(
      "SELECT type_id, name, about, factory, range FROM own_setting WHERE railway_id = ? ORDER BY type_id, place",
    ),
    insert: database.prepare(
      "INSERT INTO own_setting (railway_id, type_id, place, name, about, factory, range) VALUES (?, ?, ?, ?, ?, ?, ?)",
    ),
  };
  const links = {
    all: database.prepare("SELECT test_id, name, was FROM test_link WHERE railway_id = ? ORDER BY test_id, place"),
    insert: database.prepare("INSERT INTO test_link (railway_id, test_id, place, name, was) VALUES (?, ?, ?, ?, ?)"),
  };
  const railway = {
    one: database.prepare("SELECT * FROM railway WHERE id = ?"),
    insert: database.prepare(
      `INSERT INTO railway (id, revision, name, units, address_shift, wire_gauge, cable_gauge, strip_ways, cable_cores, cable_metres, run_metres, currency, note, changed_at)
       VALUES (?, 0, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
    ),
    update: database.prepare(
      `UPDATE railway SET name = ?, units = ?, address_shift = ?, wire_gauge = ?, cable_gauge = ?, strip_ways = ?, cable_cores = ?, cable_metres = ?, run_metres = ?, currency = ?, note = ?
       WHERE id = ?`,
    ),
  };
  const railwayCells = (r: Railway) => [
    r.name,
    r.units,
    r.addressShift,
    r.wireGauge,
    r.cableGauge,
    r.stripWays,
    r.cableCores,
    r.cableMetres,
    r.runMetres,
    r.currency,
    r.note,
  ];

  const remove = (railwayId: string, kind: Kind, id: string) => prepared[kind].remove.run(railwayId, id);
  const insertOfType = (railwayId: string, type: ValueOf<"type">) => {
    for (const [name, figure] of Object.entries(type.figures)) figures.insert.run(railwayId, type.id, name, figure);
    for (const [name, text] of Object.entries(type.printed)) printed.insert.run(railwayId, type.id, name, text);
    for (const [place, { name, about, factory, range }] of type.settings.entries())
      settings.insert.run(railwayId, type.id, place, name, about, factory, range);
  };
  const insert = <K extends Kind>(railwayId: string, kind: K, value: ValueOf<K>) => {
    prepared[kind].insert.run(railwayId, value.id, ...TABLES[kind].toRow(value));
    if (kind === "type") insertOfType(railwayId, value as ValueOf<"type">);
    if (kind === "test") {
      const chain = Object.entries((value as TestResult).chain);
      for (const [place, [name, was]] of chain.entries()) links.insert.run(railwayId, value.id, place, name, was);
    }
  };

  return {
    remove,
    insert,
    setRailway: (id: string, value: Railway) => railway.update.run(...railwayCells(value), id),
    insertRailway: (id: string, value: Railway, at: string) => railway.insert.run(id, ...railwayCells(value), at),

    /** The whole record of a railway, or undefined when there is none. */
    load(railwayId: string): RailwayRecord | undefined {
      const row = railway.one.get(railwayId) as Row | undefined;
      if (!row) return undefined;
      const record = emptyRecord(String(row.name));
      record.railway = Railway.parse({
        name: row.name,
        units: row.units,
        addressShift: row.address_shift,
        wireGauge: row.wire_gauge,
        cableGauge: row.cable_gauge,
        stripWays: row.strip_ways,
        cableCores: row.cable_cores,
        cableMetres: row.cable_metres,
        runMetres: row.run_metres,
        currency: row.currency,
        note: row.note,
      });
      const lists = record as unknown as Record<string, unknown[]>;
      for (const kind of kinds)
        lists[LISTS[kind]] = (prepared[kind].all.all(railwayId) as Row[]).map((each) => TABLES[kind].fromRow(each));
      const types = new Map(record.types.map((type) => [type.id, type]));
      for (const each of figures.all.all(railwayId) as { type_id: string; name: string; value: number }[]) {
        const type = types.get(each.type_id);
        if (type) type.figures[each.name] = each.value;
      }
      for (const each of printed.all.all(railwayId) as { type_id: string; terminal: string; printed: string }[]) {
        const type = types.get(each.type_id);
        if (type) type.printed[each.terminal] = each.printed;
      }
      for (const { type_id, ...setting } of settings.all.all(railwayId) as ({ type_id: string } & OwnSetting)[])
        types.get(type_id)?.settings.push(setting);
      const tests = new Map(record.tests.map((test) => [test.id, test]));
      for (const each of links.all.all(railwayId) as { test_id: string; name: string; was: string }[]) {
        const test = tests.get(each.test_id);
        if (test) test.chain[each.name] = each.was;
      }
      return record;
    },
  };
}
