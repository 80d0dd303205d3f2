import { emptyRecord, type RailwayRecord, withUnchanged } from "@alderman/core";
import { smallRailway, typed } from "@alderman/core/testing/build";
import { after, deeds } from "@alderman/core/testing/exhibits";
import fc from "fast-check";
import { expect, it } from "vitest";
import { receivedRecord, type SentRecord, sentRecord } from "./sentRecord.ts";

/** As between threads. */
const copied = (sent: SentRecord): SentRecord => structuredClone(sent);

it("makes the same record of what is sent of any series of edits, and keeps what they left alone", () => {
  fc.assert(
    fc.property(fc.array(deeds, { maxLength: 8 }), (all) => {
      let here = smallRailway();
      let there: RailwayRecord = receivedRecord(copied(sentRecord(here, null)), null);
      expect(there).toEqual(here);
      for (const deed of all) {
        const now = after(here, deed);
        const next = receivedRecord(copied(sentRecord(now, here)), there);
        expect(next).toEqual(now);
        for (const [name, list] of Object.entries(now)) {
          const key = name as keyof RailwayRecord;
          if (list === here[key]) expect(next[key]).toBe(there[key]);
        }
        expect(withUnchanged(next, there)).toEqual(now);
        [here, there] = [now, next];
      }
    }),
    { numRuns: 40 },
  );
});

it("sends one thing for one that was changed", () => {
  const record = smallRailway();
  const sent = sentRecord(typed(record, "y1", "run", "4.5"), record);
  expect(JSON.stringify(sent).length).toBeLessThan(JSON.stringify(record).length / 5);
});

it("takes lists that are empty on both sides as the same, and another railway as a whole", () => {
  const record = { ...emptyRecord("A"), photos: [] };
  expect(sentRecord({ ...record, photos: [] }, record)).toEqual({ railway: null, lists: {} });
  expect(receivedRecord({ railway: null, lists: {} }, record)).toBe(record);
  const other = emptyRecord("B");
  expect(receivedRecord(copied(sentRecord(other, record)), structuredClone(record))).toEqual(other);
});

it("does not make something of a change without the record before", () => {
  expect(() => receivedRecord({ railway: null, lists: {} }, null)).toThrow(/no record/);
});
