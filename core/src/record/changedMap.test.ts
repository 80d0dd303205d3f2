import fc from "fast-check";
import { expect, it } from "vitest";
import { ChangedMap } from "./changedMap.ts";

const change = fc.tuple(fc.nat(30), fc.option(fc.nat(9), { nil: undefined }));

it("holds what a copy of the other map would hold after any series of changes, and leaves the others as they were", () => {
  fc.assert(
    fc.property(fc.array(change), fc.array(fc.array(change), { maxLength: 6 }), (first, series) => {
      const begun = new Map(first.map(([key, value]) => [key, value ?? 0]));
      let [plain, subject]: [Map<number, number>, ChangedMap<number, number>] = [begun, new ChangedMap(begun)];
      const seen: [Map<number, number>, ChangedMap<number, number>][] = [];
      for (const changes of series) {
        [plain, subject] = [new Map(plain), new ChangedMap(subject)];
        for (const [key, value] of changes) {
          if (value === undefined) {
            plain.delete(key);
            subject.delete(key);
          } else {
            plain.set(key, value);
            subject.set(key, value);
          }
        }
        seen.push([plain, subject]);
      }
      for (const [copy, layered] of seen) {
        expect([...layered].sort((a, b) => a[0] - b[0])).toEqual([...copy].sort((a, b) => a[0] - b[0]));
        for (let key = 0; key <= 30; key++) {
          expect(layered.get(key)).toBe(copy.get(key));
          expect(layered.has(key)).toBe(copy.has(key));
        }
      }
    }),
  );
});
