// JSON Schema, draft 2020-12 (json-schema.org), by an independent validator: what is published in docs/ is what the program
// reads and writes.
import { createHash } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { Ajv2020 } from "ajv/dist/2020.js";
import addFormats from "ajv-formats";
import { expect, it } from "vitest";
import { RECORD_FORM } from "../src/record/form.ts";
import { KIND_ENTRIES } from "../src/record/kinds.ts";
import { railwayFileSchema, readRailwayFile, writeRailwayFile } from "../src/record/railwayFile.ts";
import { smallRailway } from "../testing/build.ts";

const published = readFileSync(new URL("../../docs/railway-file.schema.json", import.meta.url), "utf8");
const ajv = new Ajv2020({ strict: false, allErrors: true });
addFormats.default(ajv);
const validate = ajv.compile(JSON.parse(published));

it("is published as it is; npm run schema writes it anew", () => {
  expect(published).toBe(railwayFileSchema());
});

it("has a name of its own, by which window and server know that they are of one form", () => {
  expect(RECORD_FORM).toBe(createHash("sha256").update(published).digest("hex").slice(0, RECORD_FORM.length));
  expect(RECORD_FORM).toHaveLength(16);
});

it("accepts every sample and whatever is exported", () => {
  const samples = new URL("../../samples/", import.meta.url);
  for (const name of readdirSync(samples).filter((each) => each.endsWith(".json"))) {
    const text = readFileSync(new URL(name, samples), "utf8");
    expect([name, validate(JSON.parse(writeRailwayFile(readRailwayFile(text)))), validate.errors]).toEqual([
      name,
      true,
      null,
    ]);
  }
});

it("refuses what the program refuses: a field too many, one too few, a wrong one", () => {
  const good = JSON.parse(writeRailwayFile(smallRailway()));
  const spoilt = [
    { ...good, more: 1 },
    { ...good, railway: { ...good.railway, name: "" } },
    { ...good, turnouts: [{ ...good.turnouts[0], order: "2" }] },
    { ...good, devices: [{ ...good.devices[0], label: undefined }] },
    { ...good, assignments: [{ ...good.assignments[0], role: "guard" }] },
  ];
  for (const each of spoilt.map((file) => JSON.parse(JSON.stringify(file)))) {
    expect(validate(each)).toBe(false);
    expect(() => readRailwayFile(JSON.stringify(each))).toThrow();
  }
});

it("has a list for each kind, and docs/railway-file.md says what is in it", () => {
  const words = readFileSync(new URL("../../docs/railway-file.md", import.meta.url), "utf8");
  const { properties } = JSON.parse(published);
  for (const [, { list }] of KIND_ENTRIES) {
    expect(Object.keys(properties)).toContain(list);
    expect(words).toContain(`"${list}":`);
  }
});
