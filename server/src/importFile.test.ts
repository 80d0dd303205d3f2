// A large file comes in while other requests go on.
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { openRailwayFile, type Photo, type RailwayRecord, RecordError, writeRailwayFile } from "@alderman/core";
import { afterEach, beforeEach, expect, it } from "vitest";
import { importFile } from "./importFile.ts";
import { openDatabase } from "./store/database.ts";
import { Store } from "./store/store.ts";

const SAMPLE = new URL("../../samples/skerrin-ferry.json", import.meta.url);
let folder: string;
let store: Store;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "alderman-import-"));
  store = new Store(openDatabase(folder));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

/** The demo railway with as many photos of its turnouts. */
function withPhotos(count: number): RailwayRecord {
  const record = openRailwayFile(readFileSync(SAMPLE, "utf8"));
  const photos = Array.from({ length: count }, (_, index): Photo => {
    const turnoutId = record.turnouts[index % record.turnouts.length]?.id ?? null;
    const picture = `data:image/jpeg;base64,${"A".repeat(100_000)}`;
    return { id: `p${index}`, turnoutId, deviceId: null, caption: `${index}`, picture, at: "2026-05-12T20:14:00.000Z" };
  });
  return { ...record, photos };
}

it("reads a file of many megabytes in a program of its own, and other work goes on meanwhile", async () => {
  const text = writeRailwayFile(withPhotos(120));
  expect(text.length).toBeGreaterThan(12_000_000);
  let turns = 0;
  const other = setInterval(() => {
    turns++;
    store.list();
  }, 5);
  const id = await importFile(store, text);
  clearInterval(other);
  expect(turns).toBeGreaterThan(20);
  const { record } = store.open(id);
  expect(record.photos).toHaveLength(120);
  expect(openRailwayFile(writeRailwayFile(record))).toEqual(record);
  // it can be edited like any other
  expect(store.apply(id, { revision: 0 }, { words: "Nothing but a word", edits: [] }).revision).toBe(1);
});

it("says what is wrong with a large file as with a small one, and takes nothing in", async () => {
  const record = withPhotos(8);
  const broken = { ...record, turnouts: record.turnouts.map((turnout) => ({ ...turnout, hand: "upwards" })) };
  const problem = await importFile(store, JSON.stringify(broken)).catch((error) => error);
  expect(problem).toBeInstanceOf(RecordError);
  expect(problem.problems.length).toBeGreaterThan(0);
  const cut = await importFile(store, writeRailwayFile(record).slice(0, -20)).catch((error) => error);
  expect(cut).toBeInstanceOf(RecordError);
  expect(store.list()).toEqual([]);
});
