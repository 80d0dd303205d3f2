import { expect, it } from "vitest";
import { drafted, smallRailway, withFigures } from "../../testing/build.ts";
import { EXHIBITS } from "../../testing/exhibits.ts";
import { zonesAtInputs } from "../../testing/recipes.ts";
import { railwayFilePieces, readRailwayFile, writeRailwayFile } from "./railwayFile.ts";
import { PLAIN_TYPE } from "./schemas.ts";

type RailwayJson = Record<string, unknown> &
  Record<"zones" | "turnouts" | "devices" | "assignments", Record<string, unknown>[]>;

const file = () => writeRailwayFile(smallRailway());
const changed = (change: (json: RailwayJson) => void) => {
  const json = JSON.parse(file());
  change(json);
  return JSON.stringify(json);
};

it("reads back to the same railway and writes the same characters", () => {
  const record = drafted(withFigures(smallRailway(), "CD1", { farads: 0.01, chargeOhms: 47 }), (draft) =>
    draft.put("test", {
      id: "t1",
      turnoutId: "y1",
      step: "coil-n-y1",
      position: null,
      unit: "ohm",
      expected: 4.000000000000001,
      low: 3.5,
      high: 4.5,
      read: 4.1,
      seen: null,
      verdict: "passed",
      instrument: "meter",
      note: "line\nbreak ü",
      at: "2026-05-12T20:14:00.000Z",
      chain: { zeta: "1", alpha: "2" },
    }),
  );
  const text = writeRailwayFile(record);
  expect(readRailwayFile(text)).toEqual(record);
  expect(writeRailwayFile(readRailwayFile(text))).toBe(text);
});

it("takes a list that is missing for an empty one", () => {
  const { zones, ...rest } = JSON.parse(file());
  expect(readRailwayFile(JSON.stringify(rest))).toEqual({ ...smallRailway(), zones: [] });
});

it("puts things in order whatever their order in the file", () => {
  const shuffled = changed((json) => json.devices.reverse());
  expect(readRailwayFile(shuffled)).toEqual(smallRailway());
});

/** The railway as older files say it: no way is left free. */
function inFull() {
  const record = smallRailway();
  return { ...record, railway: { ...record.railway, spareShare: 0 } };
}

it("reads a file of version 1, in which lamps named a motor and controls said less", () => {
  const old = changed((json) => {
    json.version = 1;
    for (const list of ["readings", "senses", "facts", "debts", "photos"]) delete json[list];
    json.railway = Object.fromEntries(
      Object.entries(json.railway as object).filter(
        ([name]) => !["stripWays", "cableCores", "currency"].includes(name),
      ),
    );
    json.assignments = json.assignments.map(({ fromId, to, inverse, ...rest }) => {
      if (rest.role === "lamp") return { ...rest, motorId: fromId };
      if (rest.role !== "control") return rest;
      const { way, ...control } = rest;
      return control;
    });
  });
  expect(old).toContain("motorId");
  expect(readRailwayFile(old)).toEqual(inFull());
});

it("reads a file of version 2, which said nothing of senses, facts, debts and prices", () => {
  const old = changed((json) => {
    json.version = 2;
    for (const list of ["senses", "facts", "debts", "photos"]) delete json[list];
    json.types = [{ id: "own", basedOn: "cdu", name: "Own", figures: { farads: 0.01 } }];
    json.railway = Object.fromEntries(Object.entries(json.railway as object).filter(([name]) => name !== "currency"));
  });
  const read = readRailwayFile(old);
  expect(read.types).toEqual([
    {
      id: "own",
      basedOn: "cdu",
      name: "Own",
      figures: { farads: 0.01 },
      printed: {},
      settings: [],
      box: "",
      colours: null,
      switches: null,
    },
  ]);
  expect(read).toEqual({ ...inFull(), types: read.types });
});

it("reads a file of version 3, in which one input read a control as a whole", () => {
  const json = JSON.parse(writeRailwayFile(zonesAtInputs()));
  json.version = 3;
  const [first, second] = (json.assignments as { role: string }[]).filter(({ role }) => role === "input");
  json.assignments = json.assignments
    .filter((assignment: unknown) => assignment !== second)
    .map(({ controlWay: _, ...assignment }: Record<string, unknown>) => assignment);
  const inputs = readRailwayFile(JSON.stringify(json)).assignments.filter((a) => a.role === "input");
  expect(inputs).toEqual([{ ...first, controlWay: 1 }]);
});

it("reads a file of version 4, which said nothing of colours, levels and sensors at the throw bar", () => {
  const now = drafted(zonesAtInputs(), (draft) =>
    draft.put("type", { ...PLAIN_TYPE, id: "own", basedOn: "cdu", name: "Own", figures: {} }),
  );
  const json = JSON.parse(writeRailwayFile(now));
  json.version = 4;
  json.types = json.types.map(({ colours: _, ...type }: Record<string, unknown>) => type);
  json.assignments = json.assignments.map(({ follows: _, coveredAt: __, ...a }: Record<string, unknown>) => a);
  expect(readRailwayFile(JSON.stringify(json))).toEqual({ ...now, railway: { ...now.railway, spareShare: 0 } });
});

const AT = "2026-05-12T20:14:00.000Z";

it("reads a file of version 5, in which wires were derived and probes named screws by the numbers of strips", () => {
  const reading = {
    ...{ id: "r", red: "t1:N", black: "p1:3", redName: "T1-N", blackName: "P1-3", range: "ohm", turnoutId: null },
    ...{ position: null, moment: "rest", expected: 0.1, low: 0, high: 0.2, read: 0.1, agrees: true, at: AT },
  };
  const json = JSON.parse(writeRailwayFile(smallRailway()));
  json.version = 5;
  json.readings = [reading, { ...reading, id: "s", red: "K12:7", black: "P1:3" }];
  for (const list of ["strips", "cables", "wires"]) delete json[list];
  const { readings, ...record } = readRailwayFile(JSON.stringify(json));
  // a device may be called p1; a screw was written with a capital
  expect(readings.map(({ red, black }) => [red, black])).toEqual([
    ["t1:N", "p1:3"],
    ["k12/7", "p1/3"],
  ]);
  expect({ ...record, readings: [] }).toEqual(inFull());
});

it.each([
  ["nothing", "", /not JSON/],
  ["a truncated file", file().slice(0, 900), /cut short/],
  ["another kind of file", '{"format":"other","version":1}', /does not say "format"/],
  ["a newer version", changed((json) => (json.version = 14)), /of version 14; this program reads versions 1 to 13/],
  ["a list that is none", changed((json) => (json.tests = 3 as never)), /tests/],
  [
    "a field too many",
    changed((json) => (json.zones[0] = { id: "z", label: "Z", name: "", order: 1, more: 1 })),
    /zones.0/,
  ],
  ["a wrong type", changed((json) => (json.turnouts[1]!.order = "2")), /turnouts.1.order/],
  ["a turnout that does not exist", changed((json) => json.turnouts.shift()), /does not exist/],
  ["one identifier twice", changed((json) => json.devices.push(json.devices[0]!)), /Two devices have the identifier/],
  ["prototype keys", file().replace('"note"', '"__proto__"'), /holds a field called "__proto__"/],
  ["a constructor key", file().replace('"note"', '"constructor"'), /holds a field called "constructor"/],
  ["deep nesting", `${"[".repeat(100_000)}${"]".repeat(100_000)}`, /nested more than 12 deep/],
  ["deep nesting that never closes", '{"a":'.repeat(50_000), /nested more than 12 deep/],
])("refuses %s with a sentence", (_what, text, message) => {
  expect(() => readRailwayFile(text)).toThrow(message);
});

it("refuses 150 MB and a million turnouts before walking into them", () => {
  expect(() => readRailwayFile(" ".repeat(150_000_000))).toThrow(
    /150 million characters; a railway file may hold 100 million/,
  );
  const million = `{"format":"alderman-railway","version":1,"turnouts":[${"{},".repeat(999_999)}{}]}`;
  expect(() => readRailwayFile(million)).toThrow(/are 1000000 turnouts; a railway may hold 5000/);
});

it("leaves Object.prototype as it was", () => {
  expect(() => readRailwayFile('{"__proto__":{"polluted":true}}')).toThrow();
  expect(({} as Record<string, unknown>).polluted).toBeUndefined();
});

it("reads a file of version 6, which said nothing of plugs, colours of cables, custom and stock", () => {
  const old = changed((json) => {
    json.version = 6;
    for (const list of ["customs", "stocks"]) delete json[list];
    const since = ["cableColours", "spareShare", "tailMetres", "slackMetres", "reelMetres"];
    json.railway = Object.fromEntries(Object.entries(json.railway as object).filter(([name]) => !since.includes(name)));
    json.strips = [
      { id: "p1", label: "P1", kind: "screws", place: "panel", ways: 12, kept: true, fixedAt: null, note: "" },
    ];
    json.cables = [{ id: "c1", label: "C1", cores: 8, gauge: null, metres: null, kept: true, laidAt: null, note: "" }];
  });
  const read = readRailwayFile(old);
  expect(read.strips).toMatchObject([{ label: "P1", pinAmps: null }]);
  expect(read.cables).toMatchObject([{ label: "C1", colours: null }]);
  expect(read.railway).toMatchObject({ cableColours: "signal", spareShare: 0, tailMetres: 0.6, slackMetres: 0.025 });
  expect(read.stocks).toEqual([]);
});

it("reads a file of version 7, which said nothing of places, zones of strips and tails", () => {
  const old = changed((json) => {
    json.version = 7;
    const since = ["stripsAt", "reachMetres", "coresBy", "motorTails", "tailCores"];
    json.railway = Object.fromEntries(Object.entries(json.railway as object).filter(([name]) => !since.includes(name)));
    const usual = { kept: true, note: "" };
    json.strips = [
      { id: "p1", label: "P1", kind: "screws", place: "panel", ways: 12, pinAmps: null, fixedAt: null, ...usual },
    ];
    json.cables = [
      { id: "c1", label: "C1", cores: 8, gauge: null, metres: null, colours: null, laidAt: null, ...usual },
    ];
  });
  const read = readRailwayFile(old);
  expect(read.strips).toMatchObject([{ label: "P1", zoneId: null, runMetres: null, front: false }]);
  expect(read.cables).toMatchObject([{ label: "C1", tail: false, zoneId: null }]);
  expect(read.railway).toMatchObject({ stripsAt: "boards", coresBy: "number", motorTails: "wires", tailCores: 8 });
});

it("writes in pieces what it writes as a whole, none of them large, as one JSON text of the usual form", () => {
  for (const make of Object.values(EXHIBITS)) {
    const record = make();
    const pieces = [...railwayFilePieces(record)];
    const text = pieces.join("");
    expect(text).toBe(`${JSON.stringify(JSON.parse(text), null, 1)}\n`);
    expect(text).toBe(writeRailwayFile(record));
    const longest = Math.max(...pieces.map(({ length }) => length));
    expect(longest).toBeLessThan(400 * 2000);
  }
});
