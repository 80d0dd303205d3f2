// What was done long ago is packed, and can be undone, caught up with and read by migrations all the same.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Edit, emptyRecord } from "@alderman/core";
import type Database from "better-sqlite3";
import { afterEach, beforeEach, expect, it } from "vitest";
import { openDatabase } from "./database.ts";
import { NOT_PACKED, unpackAll } from "./history.sql.ts";
import { Store } from "./store.ts";

let folder: string;
let database: Database.Database;
let store: Store;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "alderman-history-"));
  database = openDatabase(folder);
  store = new Store(database);
});
afterEach(() => {
  database.close();
  rmSync(folder, { recursive: true, force: true });
});

/** A zone whose name says which edit it was, in more letters than those of English. */
const nameOf = (number: number) => `Süd ${number} 終点 "${"x".repeat(number % 40)}"`;
const named = (number: number): Edit => ({
  op: "put",
  kind: "zone",
  value: { id: "z", label: "Z", name: nameOf(number), order: 0, commons: null, plasticJoints: 0 },
});

/** So many groups, each of one edit. */
function edited(groups: number): string {
  const id = store.create(emptyRecord("Long"));
  for (let revision = 0; revision < groups; revision++)
    store.apply(id, { revision }, { words: `Edit ${revision + 1}`, edits: [named(revision + 1)] });
  return id;
}

const columns = (id: string) =>
  database
    .prepare("SELECT revision, edits = '' AS empty, packed IS NOT NULL AS packed FROM history WHERE railway_id = ?")
    .all(id) as { revision: number; empty: number; packed: number }[];

it("packs all but the latest groups, and says how much it holds", () => {
  const id = edited(NOT_PACKED + 60);
  const rows = columns(id);
  expect(rows.filter(({ packed }) => packed).map(({ revision }) => revision)).toEqual(
    Array.from({ length: 60 }, (_, index) => index + 1),
  );
  expect(rows.every(({ empty, packed }) => empty === packed)).toBe(true);
  const { groups, packed, bytes } = store.historySize(id);
  expect({ groups, packed }).toEqual({ groups: NOT_PACKED + 60, packed: 60 });
  const whole = edited(NOT_PACKED);
  expect(store.historySize(whole).packed).toBe(0);
  expect(bytes).toBeLessThan((store.historySize(whole).bytes * (NOT_PACKED + 60)) / NOT_PACKED);
});

it("undoes and does again what is packed, back to the beginning", () => {
  const id = edited(NOT_PACKED + 30);
  const names = () => store.open(id).record.zones.map(({ name }) => name);
  let { revision } = store.open(id);
  for (let back = NOT_PACKED + 30; back > 0; back--) {
    expect(names()).toEqual([nameOf(back)]);
    ({ revision } = store.undo(id, { revision }));
  }
  expect(names()).toEqual([]);
  ({ revision } = store.redo(id, { revision }));
  expect(names()).toEqual([nameOf(1)]);
});

it("tells a window that was away for long what is packed", () => {
  const id = edited(NOT_PACKED + 10);
  const missed = store.since(id, { revision: 0 });
  expect(missed.map(({ revision }) => revision)).toEqual(
    Array.from({ length: NOT_PACKED + 10 }, (_, index) => index + 1),
  );
  for (const { revision, edits } of missed) expect(edits).toContainEqual(named(revision));
});

it("is put back into text before a migration, the same as it was", () => {
  const id = edited(NOT_PACKED + 20);
  const before = store.since(id, { revision: 0 });
  database.transaction(() => unpackAll(database))();
  expect(columns(id).some(({ empty, packed }) => empty || packed)).toBe(false);
  expect(new Store(database).since(id, { revision: 0 })).toEqual(before);
  // and is packed again, some at a time, with what is done next
  store.apply(id, { revision: NOT_PACKED + 20 }, { words: "One more", edits: [named(0)] });
  expect(store.historySize(id).packed).toBe(21);
});
