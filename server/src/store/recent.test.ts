import { expect, it } from "vitest";
import { Recent } from "./recent.ts";

it("lets go of what nobody asked about longest", () => {
  const recent = new Recent<number>(3);
  for (const [value, key] of ["a", "b", "c"].entries()) recent.set(key, value);
  expect(recent.get("a")).toBe(0);
  recent.set("d", 3);
  expect(["a", "b", "c", "d"].map((key) => recent.get(key))).toEqual([0, undefined, 2, 3]);
  recent.delete("a");
  expect([recent.get("a"), recent.size]).toEqual([undefined, 2]);
  recent.clear();
  expect(recent.size).toBe(0);
});
