import fc from "fast-check";
import { expect, it } from "vitest";
import { drafted, smallRailway, typed } from "../../testing/build.ts";
import { PLAIN_TYPE } from "./schemas.ts";
import { isSame, isWiredAlike, withUnchanged } from "./unchanged.ts";

it("gives back the earlier objects of all that is as it was, after the record was copied", () => {
  const before = smallRailway();
  const copied = structuredClone(typed(before, "y1", "run", "3.2"));
  const now = withUnchanged(copied, before);
  expect(now).toEqual(copied);
  expect(now.devices).toBe(before.devices);
  expect(now.assignments).toBe(before.assignments);
  expect(now.railway).toBe(before.railway);
  expect(now.turnouts).not.toBe(before.turnouts);
  const kept = now.turnouts.filter((turnout, index) => turnout === before.turnouts[index]);
  expect(kept).toHaveLength(before.turnouts.length - 1);
});

it("sees what was added, removed and changed deep within", () => {
  const before = drafted(smallRailway(), (draft) =>
    draft.put("type", { ...PLAIN_TYPE, id: "own", basedOn: "cdu", name: "own", figures: { farads: 0.01 } }),
  );
  const deep = withUnchanged(
    { ...structuredClone(before), types: [{ ...before.types[0]!, figures: { farads: 0.02 } }] },
    before,
  );
  expect(deep.types).not.toBe(before.types);
  expect(deep.types[0]!.figures.farads).toBe(0.02);
  const fewer = withUnchanged({ ...structuredClone(before), zones: [], devices: before.devices.slice(1) }, before);
  expect(fewer.devices).toHaveLength(before.devices.length - 1);
});

it("calls two records wired alike when only lengths and names differ", () => {
  const before = smallRailway();
  expect(isWiredAlike(before, typed(before, "y1", "run", "9"))).toBe(true);
  expect(isWiredAlike(before, typed(before, "y1", "name", "Yard"))).toBe(true);
  expect(isWiredAlike(before, typed(before, "y1", "hand", "left"))).toBe(false);
  expect(isWiredAlike(before, typed(before, "y2", "control", ""))).toBe(false);
});

it("takes two plain things for the same however their fields stand, and no others", () => {
  const thing = fc.letrec((tie) => ({
    any: fc.oneof({ depthSize: "small" }, fc.integer(), fc.string(), fc.constant(null), fc.boolean(), tie("deep")),
    deep: fc.oneof(fc.array(tie("any"), { maxLength: 4 }), fc.dictionary(fc.string(), tie("any"), { maxKeys: 4 })),
  })).any;
  const turned = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(turned);
    if (typeof value !== "object" || value === null) return value;
    return Object.fromEntries(
      Object.entries(value)
        .reverse()
        .map(([key, inner]) => [key, turned(inner)]),
    );
  };
  fc.assert(
    fc.property(thing, thing, (a, b) => {
      expect(isSame(a, turned(structuredClone(a)))).toBe(true);
      // JSON with sorted keys tells the same
      const text = (value: unknown) => JSON.stringify(value, (_, each) => sorted(each));
      expect(isSame(a, b)).toBe(text(a) === text(b));
    }),
    { numRuns: 500, examples: [[[], {}]] },
  );
});

function sorted(value: unknown): unknown {
  if (typeof value !== "object" || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)));
}
