import { existsSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import {
  atOnce,
  CATALOGUE,
  completed,
  emptyRecord,
  putEdit,
  type RailwayRecord,
  RecordError,
  readRailwayFile,
  removeEdit,
  writeRailwayFile,
} from "@alderman/core";
import Database from "better-sqlite3";
import fc from "fast-check";
import { afterEach, beforeEach, expect, it } from "vitest";
import { DataFolderError, openDatabase } from "./database.ts";
import { NoRailwayError, StaleError, Store } from "./store.ts";

let folder: string;
let database: Database.Database;
let store: Store;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "alderman-store-"));
  database = openDatabase(folder);
  store = new Store(database);
});
afterEach(() => {
  database.close();
  rmSync(folder, { recursive: true, force: true });
});

const text = (most: number) => fc.string({ maxLength: most, unit: fc.constantFrom(..."aB ä'\"\\;%_0-".split("")) });
const label = (prefix: string) => fc.nat(9999).map((number) => `${prefix}${number}`);

/** Records of any shape that the rules allow: all roles, null and other values, text that SQL could stumble over. */
const anyRecord: fc.Arbitrary<RailwayRecord> = fc
  .record({
    name: text(40).map((name) => `R${name}`),
    note: text(200),
    zones: fc.uniqueArray(label("Z"), { maxLength: 4 }),
    turnouts: fc.uniqueArray(label("T"), { minLength: 1, maxLength: 8 }),
    run: fc.option(fc.double({ min: 0.05, max: 200, noNaN: true }), { nil: null }),
    farads: fc.double({ min: 1e-4, max: 0.4, noNaN: true }),
    read: fc.option(fc.double({ noNaN: true, noDefaultInfinity: true }), { nil: null }),
    chain: fc.dictionary(
      text(20).map((name) => `x${name}`),
      text(50),
      { maxKeys: 5 },
    ),
    flag: fc.boolean(),
  })
  .map(({ name, note, zones, turnouts, run, farads, read, chain, flag }) => {
    const record = emptyRecord(name);
    record.railway.note = note;
    record.zones = zones.map((each, order) => ({
      id: each.toLowerCase(),
      label: each,
      name: note.slice(0, 80),
      order,
      commons: order % 2 ? ("star" as const) : null,
      plasticJoints: order % 3,
    }));
    record.types = [
      {
        ...{ id: "own", basedOn: "cdu", name: "own", figures: { farads, chargeOhms: 47 } },
        printed: { "+": "OUT", "−": note.slice(0, 12) || "RET" },
        colours: flag ? ["red", "warm white"] : null,
        settings: [
          { name: "z", about: "", factory: "1", range: "", number: "" },
          { name: "a", about: note.slice(0, 80), factory: "", range: "1 to 9", number: "variable 33" },
        ],
        switches: flag ? { onMeans: [1, 0], offset: 3 } : null,
        box: note.slice(0, 500),
      },
    ];
    record.devices = [
      { id: "cd", typeId: "own", label: "CD", place: "panel", runMetres: flag ? 2.5 : null, note },
      { id: "d", typeId: "stall-decoder-8", label: "D", place: "layout", runMetres: null, note: "" },
      { id: "ps", typeId: "ac-16", label: "PS", place: "layout", runMetres: null, note: "" },
      { id: "tb", typeId: "track-bus", label: "TB", place: "layout", runMetres: null, note: "" },
    ];
    record.assignments = [
      { id: "a-address", role: "address", deviceId: "d", way: 3, address: 117 },
      { id: "a-commands", role: "commands", deviceId: "tb", toDeviceId: "d" },
      { id: "a-supply", role: "supply", deviceId: "ps", toDeviceId: "cd" },
    ];
    for (const [order, each] of turnouts.entries()) {
      const id = each.toLowerCase();
      record.turnouts.push({
        id,
        label: each,
        name: "",
        hand: "wye",
        zoneId: record.zones[0]?.id ?? null,
        movesWith: order === 1 ? (record.turnouts[0]?.id ?? null) : null,
        runMetres: run,
        order,
        note,
      });
      record.devices.push(
        { id: `m${id}`, typeId: "stall-motor", label: `M${each}`, place: "layout", runMetres: null, note: "" },
        { id: `c${id}`, typeId: "toggle-latching", label: `C${each}`, place: "panel", runMetres: null, note: "" },
        { id: `l${id}`, typeId: "lamp-two-colour", label: `L${each}`, place: "panel", runMetres: null, note: "" },
      );
      record.assignments.push(
        { id: `m${id}`, role: "motor", deviceId: `m${id}`, turnoutId: id, crossed: flag, opposite: !flag },
        { id: `d${id}`, role: "driver", deviceId: flag ? "cd" : "d", way: flag ? null : 1, motorId: `m${id}` },
        {
          id: `c${id}`,
          role: "control",
          deviceId: `c${id}`,
          turnoutId: id,
          way: flag ? 1 : null,
          to: flag ? "R" : null,
          inverse: flag,
          follows: !flag,
        },
        {
          id: `l${id}`,
          role: "lamp",
          deviceId: `l${id}`,
          turnoutId: id,
          fromId: `m${id}`,
          way: flag ? 2 : null,
          crossed: flag,
          coveredAt: flag ? "N" : null,
        },
      );
    }
    const [first] = record.turnouts;
    record.tests = [
      {
        id: "t",
        turnoutId: first!.id,
        step: "s",
        position: flag ? "N" : null,
        unit: "V",
        expected: read,
        low: null,
        high: null,
        read,
        seen: flag ? "N" : null,
        verdict: "no-change",
        instrument: note.slice(0, 80),
        note,
        at: "2026-05-12T20:14:00.000Z",
        chain,
      },
    ];
    record.readings = [
      {
        id: "r",
        red: "d:1A",
        black: "K1:3",
        redName: "D1-1A",
        blackName: "K1-3",
        range: "mA",
        turnoutId: flag ? first!.id : null,
        position: flag ? "R" : null,
        moment: "held",
        expected: read,
        low: null,
        high: read,
        read: read ?? 0,
        agrees: flag,
        at: "2026-05-12T20:14:00.000Z",
      },
    ];
    record.acceptances = [
      { id: "k", rule: "goes-astray", subject: "s", cause: note, reason: "r", at: "2026-05-12T20:14:00.000Z" },
    ];
    const at = "2026-05-12T20:14:00.000Z";
    const known = { known: "metered", flips: 2, note: "n", at } as const;
    record.senses = [
      { id: "s1", link: "input", deviceId: "d", way: 2, inverts: flag, ...known },
      { id: "s2", link: "leads", deviceId: "cd", way: null, inverts: false, ...known },
    ];
    record.facts = [
      {
        id: "f",
        text: "t",
        standing: "heard",
        typeId: null,
        figure: flag ? "farads" : null,
        deviceId: "d",
        source: "",
        at,
      },
    ];
    record.debts = [
      {
        id: "b",
        kind: "awaited",
        text: "t",
        blocks: note.slice(0, 80),
        turnoutId: flag ? first!.id : null,
        done: flag,
        at,
      },
    ];
    const of = flag ? { turnoutId: first!.id, deviceId: null } : { turnoutId: null, deviceId: "d" };
    record.photos = [{ id: "p", ...of, caption: "c", picture: "data:image/jpeg;base64,AAAA", at }];
    record.strips = [
      {
        id: "k9",
        label: "K9",
        kind: "screws",
        place: "layout",
        ways: 7,
        pinAmps: flag ? 3 : null,
        zoneId: flag ? (record.zones[0]?.id ?? null) : null,
        runMetres: flag ? 3.5 : null,
        front: flag,
        kept: flag,
        fixedAt: at,
        note: note.slice(0, 80),
      },
    ];
    record.layings = [{ id: "l", deviceId: "cd", terminal: "−", topology: "chain" }];
    record.customs = [
      { id: "c", purpose: flag ? "frog" : null, ...(flag ? NOWHERE : { deviceId: "d", terminal: "1A" }), colour: "BU" },
    ];
    record.stocks = [
      { id: "s", thing: "wire:RD:AWG 24", have: 12.5, price: flag ? 0.2 : null, supplier: note.slice(0, 80), at },
    ];
    record.cables = [
      {
        id: "c9",
        label: "C9",
        cores: 5,
        gauge: flag ? "AWG 26" : null,
        metres: flag ? 1.2 : null,
        colours: flag ? "pairs" : null,
        tail: flag,
        zoneId: flag ? (record.zones[0]?.id ?? null) : null,
        kept: true,
        laidAt: null,
        note: "",
      },
    ];
    record.wires = [
      {
        ...{ id: "w40", number: 40, fromDeviceId: "d", fromTerminal: "1A", fromStripId: null, fromWay: null },
        ...{
          toDeviceId: null,
          toTerminal: flag ? "T9-N" : null,
          toStripId: flag ? null : "k9",
          toWay: flag ? null : 3,
        },
        ...{ cableId: flag ? "c9" : null, core: flag ? 2 : null, colour: "WHBU", gauge: "1 mm2", metres: 0.75 },
        ...{ kept: flag, cutAt: at, labelledAt: null, fromJoinedAt: at, toJoinedAt: null, testedAt: null },
        ...{ outAt: null, note: "" },
      },
    ];
    // through the file, so that lists stand in order and everything has passed the rules
    return readRailwayFile(writeRailwayFile(record));
  });

const NOWHERE = { deviceId: null, terminal: null };

it("gives back any railway as it was put in, from the tables alone", () => {
  fc.assert(
    fc.property(anyRecord, (given) => {
      // what is proposed of its loom is written down with it
      const record = completed(given);
      const id = store.create(record);
      const read = new Store(database).open(id).record;
      expect(read).toEqual(record);
      expect(writeRailwayFile(read)).toBe(writeRailwayFile(record));
      store.remove(id);
    }),
    { numRuns: 40 },
  );
  expect(database.pragma("foreign_key_check")).toEqual([]);
});

it("holds in its tables what the rules ask for, whoever writes to them", () => {
  const id = store.create(emptyRecord("Test"));
  const run = (sql: string) => () => database.transaction(() => database.prepare(sql).run(id))();
  expect(run("INSERT INTO zone (railway_id, id, label, name, \"order\") VALUES (?, 'a', 'A', '', 1)")).not.toThrow();
  expect(run("INSERT INTO zone (railway_id, id, label, name, \"order\") VALUES (?, 'b', 'a', '', 1)")).toThrow(
    /UNIQUE/,
  );
  expect(run("INSERT INTO turnout VALUES (?, 't', 'T', '', 'left', 'no-zone', NULL, NULL, 1, '')")).toThrow(
    /FOREIGN KEY/,
  );
  expect(run("INSERT INTO turnout VALUES (?, 't', 'T', '', 'up', NULL, NULL, NULL, 1, '')")).toThrow(/CHECK/);
  expect(run("INSERT INTO turnout VALUES (?, 't', 'T', '', 'left', NULL, 't', NULL, 1, '')")).toThrow(/CHECK/);
  expect(run("INSERT INTO device VALUES (?, 'd', 'cdu', 'D', 'attic', '', NULL)")).toThrow(/CHECK/);
  expect(run("INSERT INTO device VALUES (?, 'd', 'cdu', 'D', 'layout', '', NULL)")).not.toThrow();
  expect(run("INSERT INTO assignment (railway_id, id, role, device_id) VALUES (?, 'a', 'motor', 'd')")).toThrow(
    /CHECK/,
  );
  expect(
    run(
      "INSERT INTO assignment (railway_id, id, role, device_id, to_device_id) VALUES (?, 'a', 'supply', 'd', 'none')",
    ),
  ).toThrow(/FOREIGN KEY/);
});

const migrations = readdirSync(new URL("./migrations/", import.meta.url)).length;

it("runs migrations once, and makes no backup when there is nothing to do", () => {
  expect(database.pragma("user_version", { simple: true })).toBe(migrations);
  database.close();
  database = openDatabase(folder);
  expect(database.pragma("user_version", { simple: true })).toBe(migrations);
  expect(existsSync(join(folder, "backups"))).toBe(false);
});

it("does not touch a database of a newer version", () => {
  database.pragma("user_version = 99");
  database.close();
  expect(() => openDatabase(folder)).toThrow(DataFolderError);
  database = new Database(join(folder, "alderman.db"));
  expect(database.pragma("user_version", { simple: true })).toBe(99);
  expect(readdirSync(folder)).not.toContain("backups");
});

it("keeps nothing of a group that fails half-way", () => {
  const id = store.create(emptyRecord("Test"));
  const before = store.open(id);
  expect(() =>
    store.apply(
      id,
      { revision: 0 },
      {
        words: "x",
        edits: [
          putEdit("zone", { id: "a", label: "A", name: "", order: 1, commons: null, plasticJoints: 0 }),
          putEdit("zone", { id: "b", label: "A", name: "", order: 1, commons: null, plasticJoints: 0 }),
        ],
      },
    ),
  ).toThrow(/already a zone/);
  expect(new Store(database).open(id)).toEqual(before);
  expect(store.historyOf(id, 100, 10)).toEqual([]);
});

it("tells stale from missing", () => {
  const id = store.create(emptyRecord("Test"));
  const group = {
    words: "x",
    edits: [putEdit("zone", { id: "a", label: "A", name: "", order: 1, commons: null, plasticJoints: 0 })],
  };
  store.apply(id, { revision: 0 }, group);
  expect(() => store.apply(id, { revision: 0 }, group)).toThrow(StaleError);
  expect(() => store.undo(id, { revision: 0 })).toThrow(StaleError);
  expect(() => store.apply("none", { revision: 0 }, group)).toThrow(NoRailwayError);
});

it("sees what another opening of the same data has written", () => {
  const id = store.create(emptyRecord("Test"));
  store.open(id);
  const other = new Store(database);
  other.apply(
    id,
    { revision: 0 },
    {
      words: "x",
      edits: [putEdit("zone", { id: "a", label: "A", name: "", order: 1, commons: null, plasticJoints: 0 })],
    },
  );
  expect(store.open(id).record.zones).toHaveLength(1);
});

const zone = (id: string, label: string) => ({ id, label, name: "", order: 1, commons: null, plasticJoints: 0 });

/** A railway whose rows are read in some steps, and a store to which it is not at hand. */
function unread(turnouts = 5_000) {
  const record = emptyRecord("Large");
  record.turnouts = Array.from({ length: turnouts }, (_, number) => ({
    ...{ id: `t${number}`, label: `T${number}`, name: "", order: number, hand: "left" as const },
    ...{ zoneId: null, movesWith: null, runMetres: null, note: "" },
  }));
  const id = store.create(record);
  return { id, other: new Store(database) };
}

it("opens a railway in steps, and as it is then when it is edited or opened between them", () => {
  const { id, other } = unread();
  const opening = other.opening(id);
  let steps = 0;
  for (let next = opening.next(); ; next = opening.next()) {
    if (next.done) {
      expect(next.value).toEqual(store.open(id));
      break;
    }
    steps++;
  }
  expect(steps).toBeGreaterThan(1);
  // one that is at hand takes no steps
  expect(other.opening(id).next()).toMatchObject({ done: true, value: { id, revision: 0 } });

  const late = new Store(database);
  const meanwhile = late.opening(id);
  expect(meanwhile.next().done).toBe(false);
  late.apply(id, { revision: 0 }, { words: "put Z", edits: [putEdit("zone", zone("z", "Z"))] });
  const after = meanwhile.next();
  expect(after).toMatchObject({ done: true, value: { revision: 1, record: { zones: [{ label: "Z" }] } } });

  const twice = new Store(database);
  const [first, second] = [twice.opening(id), twice.opening(id)];
  first.next();
  expect(second.next().done).toBe(false);
  const opened = atOnce(first);
  expect(second.next()).toMatchObject({ done: true });
  // the record that is at hand stays the same object, from which things are remembered
  expect(twice.open(id).record).toBe(opened.record);
});

it("opens what is there then when another database takes the place of the one that is read, or the railway goes", () => {
  const { id, other } = unread();
  const opening = other.opening(id);
  opening.next();
  const elsewhere = mkdtempSync(join(tmpdir(), "alderman-store-"));
  const restored = openDatabase(elsewhere);
  other.use(restored);
  expect(() => atOnce(opening)).toThrow(NoRailwayError);
  restored.close();
  rmSync(elsewhere, { recursive: true, force: true });

  const late = new Store(database);
  const meanwhile = late.opening(id);
  meanwhile.next();
  late.remove(id);
  expect(() => atOnce(meanwhile)).toThrow(NoRailwayError);
  expect(() => late.opening("none").next()).toThrow(NoRailwayError);
});

it("undoes and redoes any series of edits back to where it was", () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom("a", "b", "c"), fc.nat(5)), { minLength: 1, maxLength: 12 }),
      (series) => {
        const id = store.create(emptyRecord("Test"));
        let revision = 0;
        const states = [store.open(id).record];
        for (const [zone, order] of series) {
          store.apply(
            id,
            { revision: revision++ },
            {
              words: "x",
              edits: [putEdit("zone", { id: zone, label: zone, name: "", order, commons: null, plasticJoints: 0 })],
            },
          );
          states.push(store.open(id).record);
        }
        for (const wanted of states.slice(0, -1).reverse()) {
          store.undo(id, { revision: revision++ });
          expect(store.open(id).record).toEqual(wanted);
        }
        for (const wanted of states.slice(1)) {
          store.redo(id, { revision: revision++ });
          expect(new Store(database).open(id).record).toEqual(wanted);
        }
      },
    ),
    { numRuns: 15 },
  );
});

it("takes a device of every type of the catalogue", () => {
  const id = store.create(emptyRecord("Test"));
  const edits = CATALOGUE.map(({ id: typeId, place }, index) =>
    putEdit("device", { id: `d${index}`, typeId, label: `D${index}`, place, runMetres: null, note: "" }),
  );
  store.apply(id, { revision: 0 }, { words: "One of each", edits });
  expect(new Store(database).open(id).record.devices).toHaveLength(CATALOGUE.length);
});

it("counts what is left open of each railway as it comes in, and anew after an edit", () => {
  const id = store.create(emptyRecord("Test"));
  const counted = () => database.prepare("SELECT open_ends FROM railway WHERE id = ?").pluck().get(id);
  expect(counted()).toBe(0);
  const open = () => store.list().find((each) => each.id === id)?.openEnds;
  expect(open()).toBe(0);
  const at = "2026-05-12T20:14:00.000Z";
  const debt = { kind: "awaited", text: "a connector", blocks: "", turnoutId: null, done: false, at } as const;
  store.apply(id, { revision: 0 }, { words: "Noted", edits: [putEdit("debt", { id: "d", ...debt })] });
  expect(counted()).toBeNull();
  expect(open()).toBe(1);
  expect(counted()).toBe(1);
  store.apply(id, { revision: 1 }, { words: "Done", edits: [putEdit("debt", { id: "d", ...debt, done: true })] });
  expect(open()).toBe(0);
});

it("carries what can be undone on with each group as it would be read from the whole history", () => {
  const turn = fc.constantFrom("edit", "undo", "redo");
  fc.assert(
    fc.property(fc.array(turn, { minLength: 1, maxLength: 20 }), (turns) => {
      const id = store.create(emptyRecord("Turned"));
      for (const what of turns) {
        const { revision } = store.open(id);
        const zones = [putEdit("zone", zoneCalled("z", `Z${revision}`))];
        try {
          if (what === "edit") store.apply(id, { revision }, { words: `To Z${revision}`, edits: zones });
          else store[what](id, { revision });
        } catch (error) {
          // nothing to undo or redo
          if (!(error instanceof RecordError)) throw error;
        }
        expect(store.version(id)).toEqual(new Store(database).version(id));
      }
      store.remove(id);
    }),
    { numRuns: 40 },
  );
});

it("lets any labels change hands within one group", () => {
  const ids = ["a", "b", "c", "d"];
  const labels = fc.shuffledSubarray(["A", "B", "C", "D", "E", "F"], { minLength: 4, maxLength: 4 });
  fc.assert(
    fc.property(labels, labels, fc.shuffledSubarray(ids), (before, after, gone) => {
      const id = store.create({
        ...emptyRecord("Labels"),
        zones: ids.map((each, index) => zoneCalled(each, before[index] ?? "")),
      });
      const edits = ids.map((each, index) =>
        gone.includes(each) ? removeEdit("zone", each) : putEdit("zone", zoneCalled(each, after[index] ?? "")),
      );
      store.apply(id, { revision: 0 }, { words: "Other labels", edits });
      const { zones } = new Store(database).open(id).record;
      expect(zones.map((zone) => [zone.id, zone.label])).toEqual(
        ids.flatMap((each, index) => (gone.includes(each) ? [] : [[each, after[index]]])),
      );
      store.undo(id, { revision: 1 });
      expect(new Store(database).open(id).record.zones.map(({ label }) => label)).toEqual(before);
      store.remove(id);
    }),
    { numRuns: 60 },
  );
});

const zoneCalled = (id: string, label: string) => ({ id, label, name: "", order: 1, commons: null, plasticJoints: 0 });
