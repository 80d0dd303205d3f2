import { expect, it } from "vitest";
import { railway } from "../../testing/build.ts";
import { Derived } from "../derive.ts";
import { AT_REST } from "./threadReading.ts";

// derived: each of ten boards holds 5 V behind a supply that all of them share, at rest and while all servos move
it("lets many regulators on one supply hold their volts", () => {
  const labels = Array.from({ length: 40 }, (_, index) => index);
  const rows = labels.map((index) => {
    const driver = index % 4 === 0 ? "servo-board-4" : `SB${Math.floor(index / 4) + 1}-${(index % 4) + 1}`;
    return [`S${index + 1}`, "", "servo", driver, "toggle-latching"];
  });
  const { circuitry } = new Derived(railway(...rows));
  for (const board of Array.from({ length: 10 }, (_, index) => `sb${index + 1}`))
    for (const state of [AT_REST.N, AT_REST.R])
      expect(circuitry.volts(`${board}:servos`, `${board}:−`, state)).toBeCloseTo(5, 7);
});
