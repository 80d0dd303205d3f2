import { expect, it } from "vitest";
import { drafted, railway, smallRailway, withFigures } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { PLAIN_TYPE } from "../record/schemas.ts";
import { typesFromFile, writeTypesFile } from "./typesFile.ts";

const owner = () => withFigures(smallRailway(), "CD1", { farads: 0.01 });

it("takes the types of one railway into another, and those that are there not twice", () => {
  const text = writeTypesFile(owner());
  const empty = railway(["A", "", "stall-motor"]);
  const taken = edit(empty, typesFromFile(empty, text).edits).record;
  expect(taken.types).toEqual(owner().types);
  expect(() => typesFromFile(taken, text)).toThrow(/are here already/);
});

it("gives another type of the same identifier a fresh one", () => {
  const other = drafted(smallRailway(), (draft) =>
    draft.put("type", { ...PLAIN_TYPE, id: "own-cd1", basedOn: "cdu", name: "other", figures: {} }),
  );
  const taken = edit(other, typesFromFile(other, writeTypesFile(owner())).edits).record;
  expect(taken.types.map(({ name }) => name).sort()).toEqual(["other", "own CD1"]);
});

it("reads a file of version 1, in which types had figures only", () => {
  const old = { id: "own", basedOn: "cdu", name: "own", figures: { farads: 0.01 } };
  const text = JSON.stringify({ format: "alderman-types", version: 1, types: [old] });
  const record = smallRailway();
  expect(edit(record, typesFromFile(record, text).edits).record.types).toEqual([{ ...PLAIN_TYPE, ...old }]);
});

it.each([
  ["no JSON", "{", /not JSON/],
  ["another file", '{"format":"alderman-railway"}', /does not say "format": "alderman-types"/],
  ["a newer version", '{"format":"alderman-types","version":5,"types":[]}', /version/],
  ["no type at all", '{"format":"alderman-types","version":1,"types":[]}', /at least one type/],
  ["a type of nothing", types({ basedOn: "steam" }), /which the catalogue does not hold/],
  ["a type based on itself", types({ basedOn: "own" }), /is based on itself\. Base it on a type of the catalogue/],
  ["negative ohms", types({ figures: { chargeOhms: -1 } }), /chargeOhms .* must be 1 to 10000 ohm, not -1/],
  ["a figure of another kind", types({ figures: { colour: 1 } }), /has no figure "colour"/],
  [
    "a range upside down",
    types({ figures: { leastVolts: 24, mostVolts: 18 } }),
    /leastVolts \(.*\) is 24 V, above mostVolts \(.*\), 18 V/,
  ],
  ["a terminal it has not", types({ printed: { Z9: "OUT" } }), /has no terminal "Z9". Its terminals are ~1, ~2, \+, −/],
  ["too much", " ".repeat(1_000_001), /more than a million characters/],
])("refuses %s with a sentence", (_what, text, message) => {
  expect(() => typesFromFile(smallRailway(), text)).toThrow(message);
});

function types(change: object): string {
  const type = { ...PLAIN_TYPE, id: "own", basedOn: "cdu", name: "own", figures: {}, ...change };
  return JSON.stringify({ format: "alderman-types", version: 3, types: [type] });
}
