import { expect, it } from "vitest";
import { unbroken } from "./unbroken.ts";

it("keeps a number and its unit on one line, and lets other words go apart", () => {
  expect(unbroken("18 carries 2.58 A: 26.6 W, which burn it after some 7.9 s.")).toBe(
    "18 carries 2.58\u00a0A: 26.6\u00a0W, which burn it after some 7.9\u00a0s.",
  );
  expect(unbroken("W12 of 1 mm2 has 19.5 mohm")).toBe("W12 of 1\u00a0mm2 has 19.5 mohm");
  expect(unbroken("57 % lost in 22.5 m; put 150 ohm there")).toBe(
    "57\u00a0% lost in 22.5\u00a0m; put 150\u00a0ohm there",
  );
  for (const words of ["T1 at N and T2 at R", "2 motors", "18 months", "turnout 3 and 4", "address 12 served"])
    expect(unbroken(words)).toBe(words);
});
