import { readdirSync, readFileSync } from "node:fs";
import {
  atOnce,
  type Device,
  emptyRecord,
  KINDS,
  type Kind,
  openRailwayFile,
  type RailwayRecord,
  thingsOf,
} from "@alderman/core";
import Database from "better-sqlite3";
import fc from "fast-check";
import { expect, it } from "vitest";
import * as z from "zod";
import { codecOf, UnreadableRowError } from "./codec.ts";
import { CODECS, RAILWAY_CODEC, recordStatements } from "./record.sql.ts";

const MIGRATIONS = new URL("./migrations/", import.meta.url);
const SAMPLES = new URL("../../../samples/", import.meta.url);
const kinds = Object.keys(KINDS) as Kind[];

function migrated() {
  const database = new Database(":memory:");
  for (const name of readdirSync(MIGRATIONS).sort()) database.exec(readFileSync(new URL(name, MIGRATIONS), "utf8"));
  return database;
}

interface TableColumn {
  name: string;
  type: string;
  notnull: number;
}

it.each(kinds)(
  "has for %s a table with a column for each field of the schema, and a key for each reference",
  (kind) => {
    const database = migrated();
    // so that no cell is of another type than its column
    expect(database.prepare("SELECT strict FROM pragma_table_list(?)").pluck().get(kind)).toBe(1);
    const columns = database.pragma(`table_info("${kind}")`) as TableColumn[];
    const wanted = CODECS[kind].columns.map(({ name, type, nullable }) => ({ name, type, notnull: nullable ? 0 : 1 }));
    const found = columns.map(({ name, type, notnull }) => ({ name, type, notnull })).slice(1);
    const byName = (a: { name: string }, b: { name: string }) => (a.name < b.name ? -1 : 1);
    expect(found.sort(byName)).toEqual(wanted.sort(byName));

    const keys = database.pragma(`foreign_key_list("${kind}")`) as { table: string; from: string; to: string }[];
    const named = new Map(CODECS[kind].columns.map(({ field, name }) => [field, name]));
    const refs = Object.entries(KINDS[kind].refs ?? {}).map(([field, { to }]) => `${named.get(field)} -> ${to}`);
    expect(
      keys
        .filter(({ from }) => from !== "railway_id")
        .map(({ from, table }) => `${from} -> ${table}`)
        .sort(),
    ).toEqual(refs.sort());
  },
);

it.each(kinds)("has an index of all rows for each column of %s that refers to a thing", (kind) => {
  const database = migrated();
  const indexes = (database.pragma(`index_list("${kind}")`) as { name: string; partial: number }[])
    .filter(({ partial }) => partial === 0)
    .map(({ name }) => (database.pragma(`index_info("${name}")`) as { name: string }[]).map((column) => column.name));
  const keys = database.pragma(`foreign_key_list("${kind}")`) as { from: string }[];
  for (const { from } of keys.filter((key) => key.from !== "railway_id"))
    expect(
      indexes.some(([first, second]) => first === "railway_id" && second === from),
      from,
    ).toBe(true);
});

it("has a column for each of the railway's own fields", () => {
  const columns = migrated().pragma("table_info(railway)") as TableColumn[];
  const own = RAILWAY_CODEC.columns.map(({ name }) => name);
  expect(columns.map(({ name }) => name).sort()).toEqual([...own, "id", "revision", "changed_at", "open_ends"].sort());
});

it("gives back every thing of every sample from the cells it made of it", () => {
  const samples: RailwayRecord[] = readdirSync(SAMPLES)
    .filter((name) => name.endsWith(".json"))
    .map((name) => openRailwayFile(readFileSync(new URL(name, SAMPLES), "utf8")));
  let things = 0;
  for (const record of samples) {
    for (const kind of kinds) {
      const { toCells, fromCells } = CODECS[kind];
      for (const thing of thingsOf(record, kind)) {
        const cells = toCells(thing as never);
        for (const cell of cells) expect(["string", "number", "object"]).toContain(typeof cell);
        expect(fromCells(cells)).toEqual(thing);
        things++;
      }
    }
  }
  expect(things).toBeGreaterThan(1000);
});

it("says which row cannot be read, and why", () => {
  const cellsOf = (kind: Kind, row: Record<string, unknown>) =>
    CODECS[kind].columns.map(({ name }) => row[name] ?? null);
  const zone = cellsOf("zone", { id: "z", label: "", name: "", order: 1 });
  expect(() => CODECS.zone.fromCells(zone)).toThrow(UnreadableRowError);
  expect(() => CODECS.zone.fromCells(zone)).toThrow(/a zone that cannot be read \(z\): label: must not be empty/);
  const assignment = cellsOf("assignment", { id: "a", role: "guard" });
  expect(() => CODECS.assignment.fromCells(assignment)).toThrow(/an assignment that cannot be read \(a\)/);
});

it("refuses a spoiled cell of any kind of thing as its schema does, whatever was read before", () => {
  const all = readdirSync(SAMPLES)
    .filter((name) => name.endsWith(".json"))
    .map((name) => openRailwayFile(readFileSync(new URL(name, SAMPLES), "utf8")))
    .flatMap((record) => kinds.flatMap((kind) => thingsOf(record, kind).map((thing) => ({ kind, thing }))));
  const spoiled = fc.constantFrom<unknown>(null, "", "x", "-x", "\ud800", " y ", -1, 0, 0.5, 1e9, "W".repeat(5000));
  let refused = 0;
  let taken = 0;
  fc.assert(
    fc.property(fc.nat(), fc.nat(), spoiled, (which, column, value) => {
      const { kind, thing } = all[which % all.length]!;
      const { columns, toCells, fromCells } = CODECS[kind];
      const cells = toCells(thing as never);
      const at = column % columns.length;
      if (columns[at]?.kept === "json") return;
      cells[at] = value;
      const role = columns.findIndex(({ field }) => field === "role");
      const had = Object.keys(thing);
      // of a union, what belongs to another of its objects is not read
      fc.pre(at !== role && had.includes(columns[at]?.field ?? ""));
      const given = columns[at]?.kept === "yes-no" && value !== null ? value === 1 : value;
      const { success } = z.safeParse(KINDS[kind].schema, { ...thing, [columns[at]?.field ?? ""]: given });
      if (success) {
        taken++;
        expect(fromCells(cells)).toEqual({ ...thing, [columns[at]?.field ?? ""]: given });
      } else {
        refused++;
        expect(() => fromCells(cells)).toThrow(UnreadableRowError);
      }
    }),
    { numRuns: 3000 },
  );
  expect(refused).toBeGreaterThan(300);
  expect(taken).toBeGreaterThan(100);
});

it("looks at the whole of an object whose fields depend on each other, and at its own fields of any other", () => {
  const range = z
    .strictObject({ kind: z.literal("range"), first: z.int(), last: z.int() })
    .refine(({ first, last }) => first <= last, "ends before it begins");
  const name = z.strictObject({ kind: z.literal("name"), first: z.int(), last: z.int().max(3) });
  const { fromCells } = codecOf("x", z.discriminatedUnion("kind", [range, name]));
  expect(fromCells(["range", 1, 2])).toEqual({ kind: "range", first: 1, last: 2 });
  expect(() => fromCells(["range", 2, 1], "r")).toThrow("ends before it begins");
  expect(fromCells(["name", 3, 2])).toEqual({ kind: "name", first: 3, last: 2 });
  expect(() => fromCells(["name", 3, 4], "n")).toThrow(UnreadableRowError);
});

it("takes from a schema what a column holds: text, whole and other numbers, yes and no, and JSON", () => {
  const schema = z.strictObject({
    text: z.string(),
    maybeText: z.enum(["a", "b"]).nullable(),
    whole: z.int(),
    part: z.number().nullable(),
    yes: z.boolean(),
    list: z.array(z.int()),
    shift: z.union([z.literal(0), z.literal(4)]),
  });
  const { columns, toCells, fromCells } = codecOf("x", schema);
  expect(columns.map(({ name, type, nullable, kept }) => `${name} ${type} ${nullable} ${kept}`)).toEqual([
    "text TEXT false plain",
    "maybe_text TEXT true plain",
    "whole INTEGER false plain",
    "part REAL true plain",
    "yes INTEGER false yes-no",
    "list TEXT false json",
    "shift INTEGER false plain",
  ]);
  const value = { text: "t", maybeText: null, whole: 1, part: null, yes: true, list: [1, 2], shift: 4 as const };
  const cells = toCells(value);
  expect(cells).toEqual(["t", null, 1, null, 1, "[1,2]", 4]);
  expect(fromCells(cells)).toEqual(value);
});

it("loads whatever text and numbers were put, to the last digit, and names a row that is too long", () => {
  const database = migrated();
  const statements = recordStatements(database);
  const { railway } = emptyRecord("Any");
  statements.insertRailway("r", railway, "2026-05-10T10:30:00.000Z");
  const letters = fc.constantFrom("a", "Z", "7", "é", "漢", "👩‍👩‍👧", '"', "'", "\\", "/", "[", ",", "%");
  const text = fc.string({ unit: letters, minLength: 1, maxLength: 8 });
  const metres = fc.double({ min: 0.05, max: 200, noNaN: true });
  fc.assert(
    fc.property(fc.array(fc.tuple(text, text, metres), { minLength: 1, maxLength: 8 }), (all) => {
      const put = all.map(([label, name, runMetres], number) => ({
        ...{ id: `t${number}`, label: `${number} ${label}`, name, runMetres, order: number + 1 },
        ...{ hand: "left" as const, zoneId: null, movesWith: null, note: "" },
      }));
      for (const each of put) statements.put("r", "turnout", each);
      expect(atOnce(statements.loading("r"))?.turnouts.slice(0, put.length)).toEqual(put);
    }),
  );
  database.prepare("UPDATE turnout SET name = ? WHERE id = 't0'").run("x".repeat(5000));
  expect(() => atOnce(statements.loading("r"))).toThrow(/a turnout that cannot be read \(t0\)/);
});

it("writes over what of a thing is another, whichever of its fields, and writes one whole that is not there", () => {
  const database = migrated();
  const statements = recordStatements(database);
  statements.insertRailway("r", emptyRecord("Any").railway, "2026-05-10T10:30:00.000Z");
  const stored = () => atOnce(statements.loading("r"))?.devices;
  const change = (before: Device, now: Device) =>
    statements.change("r", "device", now, statements.differences("device", before, now));
  const device = fc.record({
    id: fc.constant("d"),
    label: fc.constantFrom("D1", "D2"),
    typeId: fc.constantFrom("cdu", "toggle-spdt"),
    place: fc.constantFrom("panel" as const, "layout" as const),
    runMetres: fc.constantFrom(null, 1, 2.5),
    note: fc.constantFrom("", "seen"),
  });
  fc.assert(
    fc.property(fc.array(device, { minLength: 2, maxLength: 6 }), ([first, ...others]) => {
      if (!first) return;
      statements.put("r", "device", first);
      for (const [number, next] of others.entries()) {
        change(others[number - 1] ?? first, next);
        expect(stored()).toEqual([next]);
      }
    }),
  );
  const [last] = stored() ?? [];
  if (!last) throw new Error("Nothing was stored.");
  database.exec("DELETE FROM device");
  change(last, { ...last, note: "there again" });
  expect(stored()).toEqual([{ ...last, note: "there again" }]);
});
