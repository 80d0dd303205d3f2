// What is proposed of the loom with each edit is what would be proposed anew, whatever was planned before.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { complete, RecordError } from "@alderman/core";
import { smallRailway } from "@alderman/core/testing/build";
import { deeds, done } from "@alderman/core/testing/exhibits";
import fc from "fast-check";
import { expect, it } from "vitest";
import { openDatabase } from "./database.ts";
import { Store } from "./store.ts";

it("leaves nothing to be proposed after any series of edits, undone and done again, planned ahead or not", () => {
  const folder = mkdtempSync(join(tmpdir(), "alderman-planned-"));
  const database = openDatabase(folder);
  const steps = fc.array(fc.oneof({ weight: 5, arbitrary: deeds }, fc.constantFrom("undo", "redo", "other")), {
    minLength: 3,
    maxLength: 12,
  });
  fc.assert(
    fc.property(steps, (all) => {
      let store = new Store(database);
      const id = store.create(smallRailway());
      for (const step of all) {
        const { revision, record, undo, redo } = store.open(id);
        if (step === "other") {
          // another start of the program, with and without what is planned ahead
          store = new Store(database);
          if (revision % 2 === 0) store.open(id);
          store.planAhead(id);
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
  database.close();
  rmSync(folder, { recursive: true, force: true });
});
