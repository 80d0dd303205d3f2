// The database as a whole: one program on it, backups that were read over, and what is put back.
import { copyFileSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { emptyRecord, putEdit } from "@alderman/core";
import Database from "better-sqlite3";
import fc from "fast-check";
import request from "supertest";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { createApp } from "../app.ts";
import { type Backup, BackupError, backUpDaily, clearAway, listBackups, putBack, toKeep } from "./backups.ts";
import { DataFolderError, openDatabase } from "./database.ts";
import { Keeper } from "./keeper.ts";
import { FolderTakenError, takeFolder } from "./lock.ts";
import { Store } from "./store.ts";

let folder: string;
let keepers: Keeper[];

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "alderman-keeper-"));
  keepers = [];
});
afterEach(() => {
  for (const keeper of keepers) keeper.close();
  rmSync(folder, { recursive: true, force: true });
});

function keeperOf(): Keeper {
  const keeper = new Keeper(folder);
  keepers.push(keeper);
  return keeper;
}

const names = (store: Store) => store.list().map(({ name }) => name);
const zone = (id: string) => putEdit("zone", { id, label: id, name: "", order: 1, commons: null, plasticJoints: 0 });
const DATABASE = "alderman.db";

describe("a folder", () => {
  it("is for one program at a time, and free again when that ends", () => {
    const first = keeperOf();
    expect(() => new Keeper(folder)).toThrow(FolderTakenError);
    expect(() => new Keeper(folder)).toThrow(
      /Another Alderman is at work on .* end it first, or choose another folder/,
    );
    first.close();
    const letGo = takeFolder(folder);
    letGo();
    letGo();
    expect(names(keeperOf().store)).toEqual([]);
  });

  it("is for its owner alone", () => {
    const inside = join(folder, "own");
    const keeper = new Keeper(inside);
    keepers.push(keeper);
    keeper.store.create(emptyRecord("Mine"));
    const { name } = keeper.backUp();
    const mode = (...path: string[]) => statSync(join(inside, ...path)).mode & 0o777;
    expect([mode(), mode(DATABASE), mode("backups"), mode("backups", name)]).toEqual([0o700, 0o600, 0o700, 0o600]);
  });

  it("holds everything in one file after a clean end", () => {
    const keeper = keeperOf();
    const id = keeper.store.create(emptyRecord("Whole"));
    keeper.store.apply(id, { revision: 0 }, { words: "One zone", edits: [zone("a")] });
    keeper.close();
    expect(readdirSync(folder).filter((name) => name.startsWith(DATABASE))).toEqual([DATABASE]);
    const elsewhere = mkdtempSync(join(tmpdir(), "alderman-copy-"));
    copyFileSync(join(folder, DATABASE), join(elsewhere, DATABASE));
    const database = openDatabase(elsewhere);
    expect(new Store(database).open(id)).toMatchObject({ revision: 1, record: { zones: [{ id: "a" }] } });
    database.close();
    rmSync(elsewhere, { recursive: true });
  });

  it("with a database of another program is left alone, byte for byte", () => {
    const file = join(folder, DATABASE);
    const other = new Database(file);
    other.exec("CREATE TABLE letter (text TEXT); INSERT INTO letter VALUES ('dear')");
    other.close();
    const before = readFileSync(file);
    expect(() => openDatabase(folder)).toThrow(DataFolderError);
    expect(() => openDatabase(folder)).toThrow(/a database of another program/);
    expect(readFileSync(file).equals(before)).toBe(true);
    expect(readdirSync(folder)).toEqual([DATABASE]);
  });

  it("with a damaged database says so, and how the latest backup is put back", () => {
    const keeper = keeperOf();
    for (let number = 0; number < 40; number++) keeper.store.create(emptyRecord(`Railway ${number}`));
    const { name } = keeper.backUp();
    keeper.close();
    const file = join(folder, DATABASE);
    const bytes = readFileSync(file);
    // pages from the second on are overwritten
    bytes.fill(0xa5, 4096 * 3, 4096 * 12);
    writeFileSync(file, bytes);
    expect(() => openDatabase(folder)).toThrow(DataFolderError);
    expect(() => openDatabase(folder)).toThrow(`npm run restore -- --data ${folder} ${name}`);
    expect(readFileSync(file).equals(bytes)).toBe(true);
    const replaced = putBack(folder, name)!;
    expect(names(keeperOf().store)).toHaveLength(40);
    // what could not be read is kept all the same
    expect(readFileSync(join(folder, "backups", replaced)).equals(bytes)).toBe(true);
  });
});

describe("a backup", () => {
  it("is sound and whole, and put back while the server goes on", async () => {
    const keeper = keeperOf();
    const { store } = keeper;
    const id = store.create(emptyRecord("Before"));
    store.apply(id, { revision: 0 }, { words: "One zone", edits: [zone("a")] });
    const app = createApp({ store, keeper, samplesFolder: folder });
    const made = await request(app).post("/api/backups").set("Host", "localhost");
    expect(made.status).toBe(201);
    store.apply(id, { revision: 1 }, { words: "Another", edits: [zone("b")] });
    store.create(emptyRecord("After"));
    const put = await request(app)
      .post("/api/backups/put-back")
      .set("Host", "localhost")
      .send({ name: made.body.name });
    expect(put.status).toBe(200);
    expect(put.body.map(({ kind }: Backup) => kind)).toEqual(["replaced", "asked"]);
    expect(names(store)).toEqual(["Before"]);
    expect(store.open(id)).toMatchObject({ revision: 1, record: { zones: [{ id: "a" }] } });
    // and what took its place can be had back as well
    const [replaced] = keeper.backups();
    keeper.putBack(replaced!.name);
    expect(names(store).sort()).toEqual(["After", "Before"]);
    expect(store.open(id).revision).toBe(2);
    store.apply(id, { revision: 2 }, { words: "Goes on", edits: [zone("c")] });
    expect(keeper.check()).toEqual([]);
  });

  it("that is not there, or is damaged, is refused, and nothing is lost by it", async () => {
    const keeper = keeperOf();
    keeper.store.create(emptyRecord("Here"));
    const { name } = keeper.backUp();
    writeFileSync(
      join(folder, "backups", name),
      "no database at all, but long enough to be looked at by its first bytes",
    );
    const app = createApp({ store: keeper.store, keeper, samplesFolder: folder });
    const answer = await request(app).post("/api/backups/put-back").set("Host", "localhost").send({ name });
    expect(answer.status).toBe(409);
    expect(answer.body.error.message).toMatch(/cannot be read/);
    for (const other of ["alderman-asked-2026-01-01T00-00-00-000Z.db", "../alderman.db", "x"])
      expect(() => keeper.putBack(other)).toThrow(BackupError);
    expect((await request(app).post("/api/backups/put-back").set("Host", "localhost").send({})).status).toBe(400);
    expect(names(keeper.store)).toEqual(["Here"]);
    expect((await request(app).post("/api/backups/check").set("Host", "localhost")).body).toEqual({ damage: [] });
  });

  it("holds what its log holds, as after a crash", () => {
    const keeper = keeperOf();
    const id = keeper.store.create(emptyRecord("Crashed"));
    keeper.store.apply(id, { revision: 0 }, { words: "One zone", edits: [zone("a")] });
    // what lies there while the program runs is what a crash leaves
    const name = "alderman-replaced-2026-05-01T10-00-00-000Z.db";
    keeper.backUp();
    for (const end of ["", "-wal"])
      copyFileSync(join(folder, `${DATABASE}${end}`), join(folder, "backups", `${name}${end}`));
    expect(statSync(join(folder, "backups", `${name}-wal`)).size).toBeGreaterThan(0);
    keeper.store.remove(id);
    keeper.putBack(name);
    expect(keeper.store.open(id)).toMatchObject({ revision: 1, record: { zones: [{ id: "a" }] } });
    // and it is cleared away with its log
    for (let day = 2; day < 9; day++)
      copyFileSync(join(folder, DATABASE), join(folder, "backups", name.replace("05-01", `05-0${day}`)));
    clearAway(folder);
    expect(readdirSync(join(folder, "backups")).filter((each) => each.startsWith(name))).toEqual([]);
  });

  it("of a newer version is refused, and what was there is in use again", () => {
    const keeper = keeperOf();
    const id = keeper.store.create(emptyRecord("Here"));
    const { name } = keeper.backUp();
    const newer = new Database(join(folder, "backups", name));
    newer.pragma("user_version = 99");
    newer.close();
    expect(() => keeper.putBack(name)).toThrow(DataFolderError);
    expect(names(keeper.store)).toEqual(["Here"]);
    keeper.store.apply(id, { revision: 0 }, { words: "Goes on", edits: [zone("a")] });
    expect(keeper.check()).toEqual([]);
  });

  it("is made once a day of what is in use, and leaves no half of one behind", () => {
    const keeper = keeperOf();
    expect(keeper.backups()).toEqual([]);
    keeper.store.create(emptyRecord("Daily"));
    keeper.close();
    const database = openDatabase(folder);
    const at = (day: number, hour = 0) => new Date(Date.UTC(2026, 4, day, hour));
    expect(backUpDaily(database, folder, at(1))).not.toBeNull();
    expect(backUpDaily(database, folder, at(1, 23))).toBeNull();
    expect(backUpDaily(database, folder, at(2, 1))).not.toBeNull();
    expect(readdirSync(join(folder, "backups")).filter((name) => !name.endsWith(".db"))).toEqual([]);
    for (let day = 3; day < 60; day++) backUpDaily(database, folder, at(day, 2));
    database.close();
    // of a week each day, of the four before one each
    expect(listBackups(folder)).toHaveLength(7 + 4);
    clearAway(folder, at(59, 3));
    expect(listBackups(folder)).toHaveLength(7 + 4);
  });

  it("is made each day though the clock was ahead for a while, and once a day then", () => {
    const keeper = keeperOf();
    keeper.store.create(emptyRecord("Daily"));
    keeper.close();
    const database = openDatabase(folder);
    const at = (year: number, day: number, hour = 0) => new Date(Date.UTC(year, 4, day, hour));
    expect(backUpDaily(database, folder, at(2031, 1))).not.toBeNull();
    for (const day of [1, 2, 3]) {
      expect(backUpDaily(database, folder, at(2026, day, 1))).not.toBeNull();
      expect(backUpDaily(database, folder, at(2026, day, 9))).toBeNull();
    }
    database.close();
    expect(listBackups(folder)).toHaveLength(4);
  });

  it("that somebody asked for is never cleared away, and of the last week none of a day is missing", () => {
    const kinds = fc.constantFrom<Backup["kind"]>("daily", "before-update", "asked", "replaced");
    const now = new Date(Date.UTC(2026, 6, 1));
    const backup = fc.tuple(kinds, fc.integer({ min: 0, max: 100 * 24 })).map(([kind, hours]): Backup => {
      const at = new Date(now.getTime() - hours * 3600_000).toISOString();
      return { name: `${kind}-${at}`, kind, at, bytes: 1 };
    });
    fc.assert(
      fc.property(fc.array(backup, { maxLength: 60 }), (backups) => {
        const kept = toKeep(backups, now);
        expect(kept.filter(({ kind }) => kind === "asked")).toHaveLength(
          backups.filter(({ kind }) => kind === "asked").length,
        );
        const today = Math.floor(now.getTime() / 86_400_000);
        const dayOf = ({ at }: Backup) => today - Math.floor(Date.parse(at) / 86_400_000);
        const days = (of: readonly Backup[]) =>
          [...new Set(of.filter(({ kind }) => kind === "daily").map(dayOf))].filter((day) => day < 7).sort();
        expect(days(kept)).toEqual(days(backups));
        expect(kept.filter(({ kind }) => kind === "daily").length).toBeLessThanOrEqual(11);
        // clearing away twice is clearing away once
        expect(toKeep(kept, now)).toEqual(kept);
      }),
    );
  });
});

it.each([
  ["SQLITE_FULL", 507, /The disk is full/],
  ["SQLITE_READONLY_DBMOVED", 500, /cannot be written/],
  ["SQLITE_CORRUPT_VTAB", 500, /damaged: put a backup back/],
  ["SQLITE_IOERR_WRITE", 500, /could not be read or written/],
  ["SQLITE_ERROR", 500, /The database failed \(SQLITE_ERROR\)/],
])("says what %s means and that nothing was changed", async (code, status, words) => {
  const { store } = keeperOf();
  store.list = () => {
    throw new Database.SqliteError("it failed", code);
  };
  const answer = await request(createApp({ store, samplesFolder: folder }))
    .get("/api/railways")
    .set("Host", "localhost");
  expect(answer.status).toBe(status);
  expect(answer.body.error.message).toMatch(words);
  expect(answer.body.error.message).toMatch(/Nothing was changed/);
});

it("lists a railway that cannot be read beside the others, which are as they were, and lets it be exported and removed", async () => {
  const keeper = keeperOf();
  const { store } = keeper;
  const app = createApp({ store, keeper, samplesFolder: folder });
  const get = (path: string) => request(app).get(`/api/railways${path}`).set("Host", "localhost");
  const [bad, good] = [store.create(emptyRecord("Bad")), store.create(emptyRecord("Good"))];
  store.apply(bad, { revision: 0 }, { words: "One zone", edits: [zone("a")] });
  keeper.close();
  keepers.pop();
  const database = new Database(join(folder, DATABASE));
  database.pragma("ignore_check_constraints = ON");
  database.prepare("UPDATE zone SET commons = 'string'").run();
  database.close();
  const again = keeperOf();
  const later = createApp({ store: again.store, keeper: again, samplesFolder: folder });
  const list = (await request(later).get("/api/railways").set("Host", "localhost")).body;
  expect(list.find(({ id }: { id: string }) => id === good).problem).toBeNull();
  expect(list.find(({ id }: { id: string }) => id === bad).problem).toMatch(/a zone that cannot be read \(a\)/);
  const ask = (path: string) => request(later).get(`/api/railways${path}`).set("Host", "localhost");
  expect((await ask(`/${good}`)).status).toBe(200);
  const refused = await ask(`/${bad}`);
  expect(refused.status).toBe(500);
  expect(refused.body.error.message).toMatch(/exported as it is, or a backup put back/);
  expect((await ask(`/${bad}/rows`)).body.zone).toMatchObject([{ id: "a", commons: "string" }]);
  expect((await ask("/nothing/rows")).status).toBe(404);
  expect(again.check()).toEqual([expect.stringMatching(/CHECK constraint failed in zone/)]);
  expect((await request(later).delete(`/api/railways/${bad}`).set("Host", "localhost")).status).toBe(204);
  expect(names(again.store)).toEqual(["Good"]);
  expect((await get("")).status).toBe(500);
});

it("gives the same headers with every answer, and answers every method", async () => {
  const { store } = keeperOf();
  const id = store.create(emptyRecord("Headed"));
  const app = createApp({ store, samplesFolder: folder });
  const answers = [
    await request(app).get("/api/railways").set("Host", "elsewhere.example"),
    await request(app).get("/api/railways").set("Host", "localhost").set("Origin", "http://elsewhere.example"),
    await request(app).get("/api/nothing").set("Host", "localhost"),
    await request(app).post("/api/railways").set("Host", "localhost").send("{"),
    await request(app).head("/api/railways").set("Host", "localhost"),
    await request(app).head(`/api/railways/${id}/events`).set("Host", "localhost"),
    await request(app).patch("/api/railways").set("Host", "localhost"),
    await request(app).options("/api/railways").set("Host", "localhost"),
  ];
  expect(answers.map(({ status }) => status)).toEqual([403, 403, 404, 400, 200, 200, 404, 200]);
  for (const { headers } of answers)
    expect([headers["x-content-type-options"], headers["content-security-policy"]]).toEqual([
      "nosniff",
      expect.stringContaining("frame-ancestors 'none'"),
    ]);
});
