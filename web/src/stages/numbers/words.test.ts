// What is said of addresses, and the steps by which boards are programmed.
import {
  addressMap,
  CATALOGUE,
  Derived,
  edit,
  programmingOrder,
  type RailwayRecord,
  reserveAddresses,
  setAnswer,
} from "@alderman/core";
import { railway, typed } from "@alderman/core/testing/build";
import { expect, it } from "vitest";
import { placeWords } from "./placeWords.ts";
import { programWords } from "./programWords.ts";

const outputsOf = (record: RailwayRecord) => new Derived(record).addresses;
const AT = "2026-05-12T20:14:00.000Z";

it.each(CATALOGUE.filter(({ figures, family }) => figures.factoryAddress && family === "driver").map(({ id }) => [id]))(
  "programs %s by steps that name output and address, and end with throwing it",
  (id) => {
    const motor = id === "coil-decoder-4" ? "twin-coil-surface" : id === "servo-decoder-4" ? "servo" : "stall-motor";
    const record = typed(railway(["A", "", motor, id]), "a", "address", "117");
    const outputs = outputsOf(record);
    const [step] = programmingOrder(record, outputs).filter(({ address }) => address === 117);
    const words = programWords(record, step!, outputs);
    expect(words.length).toBeGreaterThan(2);
    for (const each of words) {
      expect(each).toMatch(/^\S.*[.]$/);
      expect(each).not.toMatch(/[{}]|undefined/);
    }
    expect(words.some((each) => each.includes("117"))).toBe(true);
    expect(words.at(-1)).toBe("Throw 117 to diverging and back: A moves, and nothing else does.");
  },
);

it("says of an address what has it, what still answers to it, and what it is kept for", () => {
  const record = typed(railway(["A", "", "stall-motor", "stall-decoder-8"]), "a", "address", "117");
  const reserved = edit(record, reserveAddresses(record, 200, 209, "signals").edits).record;
  const at = (of: RailwayRecord, address: number) => placeWords(addressMap(of, outputsOf(of))[address - 1]!);
  expect(at(reserved, 117)).toBe("117: D1-1 throws A, to be programmed");
  expect(at(reserved, 1)).toBe("1: D1-1 still answers to it");
  expect(at(reserved, 205)).toBe("205: reserved for signals");
  expect(at(reserved, 2040)).toBe("2040: free");
  const done = setAnswer(reserved, "d1", 1, 117, { how: "programmed", seen: "", at: AT });
  const programmed = edit(reserved, done.edits).record;
  expect(at(programmed, 117)).toBe("117: D1-1 throws A");
  expect(at(programmed, 1)).toBe("1: free");
});
