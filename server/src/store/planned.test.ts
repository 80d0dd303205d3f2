// What is proposed of the loom with each edit is what would be proposed anew, whatever was planned before.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Change, complete, RecordError, type Steps, writeCell } from "@alderman/core";
import { smallRailway } from "@alderman/core/testing/build";
import { deeds, done } from "@alderman/core/testing/exhibits";
import fc from "fast-check";
import { afterEach, beforeEach, expect, it } from "vitest";
import { openDatabase } from "./database.ts";
import { Store } from "./store.ts";

let folder: string;
let database: ReturnType<typeof openDatabase>;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "alderman-planned-"));
  database = openDatabase(folder);
});
afterEach(() => {
  database.close();
  rmSync(folder, { recursive: true, force: true });
});

it("leaves nothing to be proposed after any series of edits, undone and done again, planned ahead or not", () => {
  const steps = fc.array(fc.oneof({ weight: 5, arbitrary: deeds }, fc.constantFrom("undo", "redo", "other")), {
    minLength: 3,
    maxLength: 12,
  });
  fc.assert(
    fc.property(steps, (all) => {
      let store = new Store(database);
      const id = store.create(smallRailway());
      let ahead = store.planAhead(id);
      for (const step of all) {
        // what is planned ahead goes on between the edits
        ahead.next();
        const { revision, record, undo, redo } = store.open(id);
        if (step === "other") {
          // another start of the program, with and without what is planned ahead
          store = new Store(database);
          if (revision % 2 === 0) store.open(id);
          ahead = store.planAhead(id);
        } else if (typeof step === "string") {
          if ((step === "undo" ? undo : redo) !== null) store[step](id, { revision });
        } else {
          try {
            const group = done(record, step);
            if (group) store.apply(id, { revision }, group);
          } catch (error) {
            // what a rule refuses changes nothing
            if (!(error instanceof RecordError)) throw error;
          }
        }
        expect(complete(store.open(id).record).edits).toEqual([]);
      }
    }),
    { numRuns: 40 },
  );
});

it("writes down after an edit of a large railway what is proposed of its loom, and turns it back with the edit", () => {
  const steps = fc.array(
    fc.oneof(
      { weight: 5, arbitrary: deeds },
      fc.constantFrom("undo", "redo", "other"),
      fc.integer({ min: 1, max: 30 }),
    ),
    { minLength: 3, maxLength: 14 },
  );
  fc.assert(
    fc.property(steps, (all) => {
      let waiting: Steps<void>[] = [];
      // every railway counts as large, and what is left for later goes on as far as is said
      const make = () => new Store(database, (later) => waiting.push(later), 0);
      const goOn = (most: number) => {
        for (let step = 0; step < most && waiting.length > 0; step++) if (waiting[0]?.next().done) waiting.shift();
      };
      let store = make();
      const id = store.create(smallRailway());
      const first = store.open(id).record;
      for (const step of all) {
        const { revision, record, undo, redo } = store.open(id);
        if (typeof step === "number") goOn(step);
        else if (step === "other") {
          waiting = [];
          store = make();
          store.open(id);
        } else if (typeof step === "string") {
          if ((step === "undo" ? undo : redo) !== null) store[step](id, { revision });
        } else {
          try {
            const group = done(record, step);
            if (group) store.apply(id, { revision }, group);
          } catch (error) {
            if (!(error instanceof RecordError)) throw error;
          }
        }
      }
      waiting.push(store.planAhead(id));
      goOn(Number.POSITIVE_INFINITY);
      const { record: last, redo } = store.open(id);
      if (redo === null) expect(complete(last).edits).toEqual([]);
      let turned = 0;
      for (; store.open(id).undo !== null; turned++) store.undo(id, { revision: store.open(id).revision });
      expect(store.open(id).record).toEqual(first);
      for (; turned > 0; turned--) store.redo(id, { revision: store.open(id).revision });
      expect(store.open(id).record).toEqual(last);
      expect(new Store(database).open(id).record).toEqual(last);
    }),
    { numRuns: 40 },
  );
});

it("shows what was done in the history, not what was planned after it", () => {
  const waiting: Steps<void>[] = [];
  const store = new Store(database, (later) => waiting.push(later), 0);
  const id = store.create(smallRailway());
  const { record } = store.open(id);
  const group = writeCell(record, "y1", "driver", "");
  if (!group) throw new Error("It is driven by nothing already.");
  const told: Change[] = [];
  store.changes.on(id, (change: Change) => told.push(change));
  store.apply(id, { revision: 0 }, group);
  expect(waiting).toHaveLength(1);
  for (const steps of waiting) while (!steps.next().done);
  expect(told.map(({ origin, revision }) => [origin, revision])).toEqual([
    ["edit", 1],
    ["plan", 2],
  ]);
  expect(waiting).toHaveLength(1);
  expect(store.historyOf(id, 99, 10).map(({ revision, words }) => [revision, words])).toEqual([[1, group.words]]);
  expect(store.version(id)).toMatchObject({ revision: 2, undo: group.words, redo: null });
  // a window that missed both is told of both
  expect(store.since(id, { revision: 0 }).map(({ origin }) => origin)).toEqual(["edit", "plan"]);
  const undone = store.undo(id, { revision: 2 });
  expect(undone).toMatchObject({ words: group.words, origin: "undo", undo: null, redo: group.words });
  expect(store.open(id).record).toEqual(record);
});

it("plans ahead in steps, and once, and not for what has changed meanwhile", () => {
  const store = new Store(database);
  const id = store.create(smallRailway());
  expect([...store.planAhead(id)].length).toBeGreaterThan(2);
  // it is there now
  expect([...store.planAhead(id)]).toEqual([]);

  const other = store.create(smallRailway());
  const ahead = store.planAhead(other);
  ahead.next();
  const group = writeCell(smallRailway(), "y1", "run", "4.5");
  if (!group) throw new Error("The run is that already.");
  store.apply(other, { revision: 0 }, group);
  expect([...ahead]).toEqual([]);
  expect(store.open(other).record.turnouts.find((turnout) => turnout.id === "y1")?.runMetres).toBe(4.5);
  const next = writeCell(store.open(other).record, "y1", "run", "5.5");
  store.apply(other, { revision: 1 }, next ?? group);
  expect(complete(store.open(other).record).edits).toEqual([]);

  const gone = store.create(smallRailway());
  const late = store.planAhead(gone);
  late.next();
  store.remove(gone);
  expect([...late]).toEqual([]);
  expect([...store.planAhead(gone)]).toEqual([]);
});
