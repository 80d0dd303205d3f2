import { expect, it } from "vitest";
import { CATALOGUE, genericType } from "./catalogue.ts";

/** What is part of the track, comes with the command station, or is counted by length. */
const NOT_BOUGHT = new Set(["track-bus", "control-bus", "frog"]);

it("has a rough price, marked as from memory, for all that is bought by the piece", () => {
  for (const { id, family, figures } of CATALOGUE) {
    if (NOT_BOUGHT.has(id) || family === "wiring" || family === "track") expect(figures.price, id).toBeUndefined();
    else expect(figures.price, id).toMatchObject({ unit: "money", origin: "from memory", min: 0 });
  }
});

// common practice: a reverser that also throws the turnout costs about twice a plain one
it("has reversers that throw at about twice a plain one", () => {
  const price = (id: string) => genericType(id)!.figures.price!.value;
  for (const id of ["reverser-coil", "reverser-stall"]) {
    expect(price(id) / price("reverser")).toBeGreaterThan(1.5);
    expect(price(id) / price("reverser")).toBeLessThan(2.5);
  }
});
