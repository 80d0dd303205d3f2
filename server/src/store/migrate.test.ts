// A database of version 1, as it was written before frogs, inputs and readings, is brought up to date with all that it holds.
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import {
  Derived,
  edit,
  emptyRecord,
  layOutline,
  nameEnd,
  putEdit,
  type RailwayRecord,
  setGap,
  setStand,
} from "@alderman/core";
import { laid, marked } from "@alderman/core/testing/lines";
import { routedYard, soldered } from "@alderman/core/testing/routes";
import Database from "better-sqlite3";
import { afterEach, beforeEach, expect, it } from "vitest";
import { openDatabase } from "./database.ts";
import { Store } from "./store.ts";

let folder: string;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "alderman-migrate-"));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

/** A railway of one coil turnout with toggle and lamp, written by the first version's own tables. */
function writeVersion1(): void {
  const database = new Database(join(folder, "alderman.db"));
  database.exec(readFileSync(new URL("./migrations/001-record.sql", import.meta.url), "utf8"));
  database.pragma("user_version = 1");
  const run = (sql: string) => database.exec(sql);
  run(
    "INSERT INTO railway VALUES ('r', 2, 'Old', 'metric', 0, '0.5 mm2', 'AWG 24', 2.4, 1.5, '', '2026-01-01T00:00:00.000Z')",
  );
  run("INSERT INTO turnout VALUES ('r', 'a', 'A', '', 'left', NULL, NULL, NULL, 1, '')");
  for (const [id, type, label, place] of [
    ["a", "twin-coil-under-board", "A", "layout"],
    ["cd1", "cdu", "CD1", "layout"],
    ["ps1", "ac-16", "PS1", "layout"],
    ["ps2", "dc-5", "PS2", "layout"],
    ["t1", "toggle-centre-off", "T1", "panel"],
    ["lp1", "lamp-two-colour", "LP1", "panel"],
  ]) {
    run(`INSERT INTO device VALUES ('r', '${id}', '${type}', '${label}', '${place}', '')`);
  }
  const assign = (columns: string, values: string) =>
    run(`INSERT INTO assignment (railway_id, id, role, device_id, ${columns}) VALUES ('r', ${values})`);
  assign("turnout_id, crossed, opposite", "'m', 'motor', 'a', 'a', 0, 0");
  assign("motor_id", "'d', 'driver', 'cd1', 'a'");
  assign("turnout_id", "'c', 'control', 't1', 'a'");
  assign("turnout_id, motor_id, way, crossed", "'l', 'lamp', 'lp1', 'a', 'a', 1, 1");
  assign("to_device_id", "'s1', 'supply', 'ps1', 'cd1'");
  assign("to_device_id", "'s2', 'supply', 'ps2', 'lp1'");
  const old = {
    control: { op: "put", kind: "assignment", value: { id: "c", role: "control", deviceId: "t1", turnoutId: "a" } },
    lamp: {
      op: "put",
      kind: "assignment",
      value: { id: "l", role: "lamp", deviceId: "lp1", turnoutId: "a", motorId: "a", way: 1, crossed: false },
    },
    railway: {
      op: "railway",
      value: {
        ...{ name: "Old", units: "metric", addressShift: 0, wireGauge: "0.5 mm2", cableGauge: "AWG 24" },
        ...{ cableMetres: 2.4, runMetres: 1.5, note: "" },
      },
    },
    zone: { op: "put", kind: "zone", value: { id: "z", label: "Z", name: "", order: 1 } },
  };
  const history = database.prepare(
    "INSERT INTO history VALUES ('r', ?, ?, 'edit', NULL, ?, ?, '2026-01-01T00:00:00.000Z')",
  );
  history.run(
    1,
    "Fitted T1",
    JSON.stringify([old.control]),
    JSON.stringify([{ op: "remove", kind: "assignment", id: "c" }]),
  );
  history.run(
    2,
    "Turned the lamp round",
    JSON.stringify([old.lamp, old.zone, old.railway]),
    JSON.stringify([old.railway, old.lamp]),
  );
  database.close();
}

it("keeps what each assignment said, under the new names, after a backup", () => {
  writeVersion1();
  const database = openDatabase(folder);
  const { record } = new Store(database).open("r");
  expect(record.assignments.find(({ id }) => id === "c")).toEqual({
    id: "c",
    role: "control",
    deviceId: "t1",
    turnoutId: "a",
    way: null,
    to: null,
    inverse: false,
    follows: false,
  });
  expect(record.assignments.find(({ id }) => id === "l")).toMatchObject({
    fromId: "a",
    way: 1,
    crossed: true,
    coveredAt: null,
  });
  expect(record.assignments).toHaveLength(6);
  expect(record.readings).toEqual([]);
  expect(record.railway).toMatchObject({ name: "Old", stripWays: 12, cableCores: 8 });
  // its lamp's leads are exchanged, of which the first version said nothing
  expect(new Derived(record).findings.map(({ ruleId }) => ruleId)).toEqual(["lamp-tells-opposite"]);
  expect(database.pragma("foreign_key_check")).toEqual([]);
  expect(database.pragma("integrity_check", { simple: true })).toBe("ok");
  expect(readdirSync(join(folder, "backups"))).toHaveLength(1);
  database.close();
});

it("undoes edits that were made before, in the new form", () => {
  writeVersion1();
  const database = openDatabase(folder);
  const store = new Store(database);
  store.undo("r", { revision: 2 });
  expect(store.open("r").record.assignments.find(({ id }) => id === "l")).toMatchObject({
    fromId: "a",
    crossed: false,
  });
  store.redo("r", { revision: 3 });
  store.undo("r", { revision: 4 });
  store.undo("r", { revision: 5 });
  expect(store.open("r").record.assignments.some(({ id }) => id === "c")).toBe(false);
  store.redo("r", { revision: 6 });
  expect(store.open("r").record.assignments.find(({ id }) => id === "c")).toMatchObject({ to: null, inverse: false });
  database.close();
});

it("names screws under probes by their strips", () => {
  writeVersion1();
  const old = new Database(join(folder, "alderman.db"));
  for (const name of readdirSync(new URL("./migrations/", import.meta.url))
    .sort()
    .slice(1, 7))
    old.exec(readFileSync(new URL(`./migrations/${name}`, import.meta.url), "utf8"));
  old.pragma("user_version = 7");
  old.exec(
    "INSERT INTO reading VALUES ('r', 'x', 'K12:7', 'p1:3', 'K12-7', 'P1-3', 'ohm', NULL, NULL, 'rest', 1, 0, 2, 1, 1, '2026-01-01T00:00:00.000Z')",
  );
  old.close();
  const database = openDatabase(folder);
  const [reading] = new Store(database).open("r").record.readings;
  expect(reading).toMatchObject({ red: "k12/7", black: "p1:3" });
  database.close();
});

it("brings strips, cables and the railway's fields of version 8 to the new form, in the record and in the history", () => {
  writeVersion1();
  const old = new Database(join(folder, "alderman.db"));
  for (const name of readdirSync(new URL("./migrations/", import.meta.url))
    .sort()
    .slice(1, 8))
    old.exec(readFileSync(new URL(`./migrations/${name}`, import.meta.url), "utf8"));
  old.pragma("user_version = 8");
  const strip = {
    ...{ id: "k1", label: "K1", kind: "screws", place: "layout", ways: 12 },
    ...{ kept: true, fixedAt: null, note: "" },
  };
  old.exec("INSERT INTO strip VALUES ('r', 'k1', 'K1', 'screws', 'layout', 12, 1, NULL, '')");
  old.exec("INSERT INTO cable VALUES ('r', 'c1', 'C1', 8, NULL, NULL, 1, NULL, '')");
  old
    .prepare(
      "INSERT INTO history VALUES ('r', 3, 'Kept K1', 'edit', NULL, ?, ?, '2026-01-01T00:00:00.000Z', 'stamp-3')",
    )
    .run(
      JSON.stringify([{ op: "put", kind: "strip", value: strip }]),
      JSON.stringify([{ op: "put", kind: "strip", value: { ...strip, kept: false } }]),
    );
  old.exec("UPDATE railway SET revision = 3");
  old.close();
  const database = openDatabase(folder);
  const store = new Store(database);
  const { record } = store.open("r");
  const since = { pinAmps: null, zoneId: null, runMetres: null, front: false };
  expect(record.strips).toContainEqual({ ...strip, ...since });
  expect(record.cables.find(({ id }) => id === "c1")).toMatchObject({
    label: "C1",
    colours: null,
    tail: false,
    zoneId: null,
  });
  // a railway that was there goes on without spare ways, as it was laid
  expect(record.railway).toMatchObject({ spareShare: 0, cableColours: "signal", tailMetres: 0.6, reelMetres: 25 });
  store.undo("r", { revision: 3 });
  expect(store.open("r").record.strips).toContainEqual({ ...strip, ...since, kept: false });
  expect(database.pragma("foreign_key_check")).toEqual([]);
  database.close();
});

it("brings own types of version 2 to the new form, in the record and in the history", () => {
  writeVersion1();
  const old = new Database(join(folder, "alderman.db"));
  old.exec(readFileSync(new URL("./migrations/002-frogs-inputs-readings.sql", import.meta.url), "utf8"));
  old.pragma("user_version = 2");
  old.exec("INSERT INTO own_type VALUES ('r', 'own', 'cdu', 'Own')");
  old.exec("INSERT INTO own_figure VALUES ('r', 'own', 'farads', 0.01)");
  const value = { id: "own", basedOn: "cdu", name: "Own", figures: { farads: 0.01 } };
  old
    .prepare("INSERT INTO history VALUES ('r', 3, 'Copied', 'edit', NULL, ?, ?, '2026-01-01T00:00:00.000Z')")
    .run(
      JSON.stringify([{ op: "put", kind: "type", value }]),
      JSON.stringify([{ op: "remove", kind: "type", id: "own" }]),
    );
  old.exec("UPDATE railway SET revision = 3");
  old.close();
  const database = openDatabase(folder);
  const store = new Store(database);
  const own = { ...value, printed: {}, settings: [], box: "", colours: null, switches: null };
  expect(store.open("r").record.types).toEqual([own]);
  expect(store.open("r").record.railway.currency).toBe("EUR");
  store.undo("r", { revision: 3 });
  expect(store.open("r").record.types).toEqual([]);
  store.redo("r", { revision: 4 });
  expect(store.open("r").record.types).toEqual([own]);
  expect(readdirSync(join(folder, "backups"))).toHaveLength(1);
  database.close();
});

it("brings lists within things of version 3 into the things, digit by digit and in their order", () => {
  writeVersion1();
  const old = new Database(join(folder, "alderman.db"));
  for (const name of ["002-frogs-inputs-readings", "003-equip"])
    old.exec(readFileSync(new URL(`./migrations/${name}.sql`, import.meta.url), "utf8"));
  old.pragma("user_version = 3");
  old.exec("INSERT INTO zone VALUES ('r', 'z', 'Z', 'Yard', 7)");
  old.exec("INSERT INTO own_type VALUES ('r', 'own', 'cdu', 'Own', 'two screws')");
  old.prepare("INSERT INTO own_figure VALUES ('r', 'own', 'farads', ?)").run(0.1 + 0.2);
  old.exec("INSERT INTO own_printed VALUES ('r', 'own', '+', 'OUT')");
  old.exec("INSERT INTO own_setting VALUES ('r', 'own', 1, 'speed', 'how fast', '5', '1 to 9')");
  old.exec("INSERT INTO own_setting VALUES ('r', 'own', 0, 'force', '', '4', '')");
  old.exec(
    "INSERT INTO test VALUES ('r', 't', 'a', 'throw', 'N', 'seen', NULL, NULL, NULL, NULL, 'N', 'passed', 'eye', '', '2026-01-01T00:00:00.000Z')",
  );
  old.exec("INSERT INTO test_link VALUES ('r', 't', 1, 'alpha', 'second'), ('r', 't', 0, 'zeta', 'first \"quoted\"')");
  old.close();
  const database = openDatabase(folder);
  const { record } = new Store(database).open("r");
  expect(record.zones).toEqual([{ id: "z", label: "Z", name: "Yard", order: 7, commons: null, plasticJoints: 0 }]);
  expect(record.types).toEqual([
    {
      ...{ id: "own", basedOn: "cdu", name: "Own", box: "two screws", figures: { farads: 0.1 + 0.2 } },
      printed: { "+": "OUT" },
      settings: [
        { name: "force", about: "", factory: "4", range: "", number: "" },
        { name: "speed", about: "how fast", factory: "5", range: "1 to 9", number: "" },
      ],
      colours: null,
      switches: null,
    },
  ]);
  expect(Object.entries(record.tests[0]?.chain ?? {})).toEqual([
    ["zeta", 'first "quoted"'],
    ["alpha", "second"],
  ]);
  expect(database.pragma("foreign_key_check")).toEqual([]);
  database.close();
});

it("says of an input of version 5 which zone it reads, in the record and in the history", () => {
  writeVersion1();
  const old = new Database(join(folder, "alderman.db"));
  for (const name of ["002-frogs-inputs-readings", "003-equip", "004-columns-as-fields", "005-stamps"])
    old.exec(readFileSync(new URL(`./migrations/${name}.sql`, import.meta.url), "utf8"));
  old.pragma("user_version = 5");
  old.exec(`INSERT INTO device VALUES ('r', 'bd1', 'current-detector-4', 'BD1', 'layout', ''),
    ('r', 'in1', 'input-node-16', 'IN1', 'layout', '')`);
  old.exec(`INSERT INTO assignment (railway_id, id, role, device_id, turnout_id, way, "to", inverse)
    VALUES ('r', 'zone', 'control', 'bd1', 'a', 2, 'R', 0)`);
  old.exec(`INSERT INTO assignment (railway_id, id, role, device_id, way, control_id)
    VALUES ('r', 'read', 'input', 'in1', 5, 'bd1'), ('r', 'toggle', 'input', 'in1', 7, 't1')`);
  const read = { id: "read", role: "input", deviceId: "in1", way: 5, controlId: "bd1" };
  old
    .prepare("INSERT INTO history VALUES ('r', 3, 'Read', 'edit', NULL, ?, ?, '2026-01-01T00:00:00.000Z', 'stamp')")
    .run(
      JSON.stringify([{ op: "put", kind: "assignment", value: read }]),
      JSON.stringify([{ op: "remove", kind: "assignment", id: "read" }]),
    );
  old.exec("UPDATE railway SET revision = 3");
  old.close();
  const database = openDatabase(folder);
  const store = new Store(database);
  const inputs = () => store.open("r").record.assignments.filter(({ role }) => role === "input");
  const both = [
    { ...read, controlWay: 2 },
    { ...read, id: "toggle", way: 7, controlId: "t1", controlWay: null },
  ];
  expect(inputs()).toEqual(both);
  store.undo("r", { revision: 3 });
  expect(inputs()).toEqual(both.slice(1));
  store.redo("r", { revision: 4 });
  expect(inputs()).toEqual(both);
  database.close();
});

it("keeps assignments of version 6 and lets them be undone, with what they say now of colours, levels and sensors", () => {
  writeVersion1();
  const old = new Database(join(folder, "alderman.db"));
  for (const name of readdirSync(new URL("./migrations/", import.meta.url))
    .sort()
    .slice(1, 6))
    old.exec(readFileSync(new URL(`./migrations/${name}`, import.meta.url), "utf8"));
  old.pragma("user_version = 6");
  old.exec("INSERT INTO type (railway_id, id, based_on, name, box) VALUES ('r', 'own', 'cdu', 'Own', '')");
  const control = { id: "c", role: "control", deviceId: "t1", turnoutId: "a", way: null, to: "N", inverse: true };
  const before = { ...control, to: null, inverse: false };
  const put = (value: object, kind = "assignment") => ({ op: "put", kind, value });
  const type = { id: "own", basedOn: "cdu", name: "Own", figures: {}, printed: {}, settings: [], box: "" };
  old
    .prepare("INSERT INTO history VALUES ('r', 3, 'Asked', 'edit', NULL, ?, ?, '2026-01-01T00:00:00.000Z', 'stamp')")
    .run(
      JSON.stringify([put(control), put({ ...type, name: "Renamed" }, "type")]),
      JSON.stringify([put(type, "type"), put(before)]),
    );
  old.exec("UPDATE railway SET revision = 3");
  old.exec("UPDATE assignment SET \"to\" = 'N', inverse = 1 WHERE id = 'c'");
  old.close();
  const database = openDatabase(folder);
  const store = new Store(database);
  const told = () => {
    const { assignments, types } = store.open("r").record;
    return [assignments.find(({ id }) => id === "c"), types[0]];
  };
  expect(told()).toEqual([
    { ...control, follows: false },
    { ...type, colours: null, switches: null },
  ]);
  store.undo("r", { revision: 3 });
  expect(told()[0]).toEqual({ ...before, follows: false });
  store.redo("r", { revision: 4 });
  expect(told()[0]).toEqual({ ...control, follows: false });
  expect(told()[1]).toEqual({ ...type, name: "Renamed", colours: null, switches: null });
  expect(database.pragma("foreign_key_check")).toEqual([]);
  database.close();
});

it("keeps how nets of version 11 are laid, its strips and own types, and lets what was said of them be undone", () => {
  writeVersion1();
  const old = new Database(join(folder, "alderman.db"));
  old.pragma("foreign_keys = OFF");
  for (const name of readdirSync(new URL("./migrations/", import.meta.url))
    .sort()
    .slice(1, 11))
    old.exec(readFileSync(new URL(`./migrations/${name}`, import.meta.url), "utf8"));
  old.pragma("user_version = 11");
  old.exec("UPDATE railway SET commons = 'star', feeders = 'bus'");
  old.exec(
    "INSERT INTO zone (railway_id, id, label, name, \"order\", commons) VALUES ('r', 'z', 'Z', 'Yard', 7, 'chain')",
  );
  old.exec("INSERT INTO laying VALUES ('r', 'l', 'cd1', '−', 'bus')");
  old.exec(
    "INSERT INTO strip VALUES ('r', 'j9', 'J9', 'splice', 'layout', 1, NULL, 'z', 1.5, 1, 1, '2026-01-01T00:00:00.000Z', 'mine')",
  );
  const setting = { name: "force", about: "", factory: "4", range: "1 to 9" };
  const type = { id: "own", basedOn: "cdu", name: "Own", figures: {}, printed: {}, settings: [setting], box: "" };
  old
    .prepare(
      "INSERT INTO type (railway_id, id, based_on, name, box, settings) VALUES ('r', 'own', 'cdu', 'Own', '', ?)",
    )
    .run(JSON.stringify([setting]));
  const put = (kind: string, value: object) => ({ op: "put", kind, value });
  const zone = { id: "z", label: "Z", name: "Yard", order: 7, commons: "chain" };
  old
    .prepare("INSERT INTO history VALUES ('r', 3, 'Said', 'edit', NULL, ?, ?, '2026-01-01T00:00:00.000Z', 'stamp')")
    .run(
      JSON.stringify([put("zone", zone), put("type", { ...type, colours: null })]),
      JSON.stringify([put("type", { ...type, settings: [], colours: null }), put("zone", { ...zone, commons: null })]),
    );
  old.exec("UPDATE railway SET revision = 3");
  old.close();
  const database = openDatabase(folder);
  const store = new Store(database);
  const { record } = store.open("r");
  expect([record.railway.commons, record.railway.feeders]).toEqual(["star", "bus"]);
  expect(record.zones).toEqual([{ ...zone, plasticJoints: 0 }]);
  expect(record.layings).toEqual([{ id: "l", deviceId: "cd1", terminal: "−", topology: "bus" }]);
  expect(record.strips).toMatchObject([{ label: "J9", kind: "splice", zoneId: "z", front: true, note: "mine" }]);
  expect(record.types).toEqual([{ ...type, settings: [{ ...setting, number: "" }], colours: null, switches: null }]);
  store.undo("r", { revision: 3 });
  const undone = store.open("r").record;
  expect(undone.zones).toMatchObject([{ commons: null, plasticJoints: 0 }]);
  expect(undone.types).toMatchObject([{ settings: [], switches: null }]);
  expect(database.pragma("foreign_key_check")).toEqual([]);
  database.close();
});

it("gives a railway of version 12 room for a line, and lets what was said of its settings be undone", () => {
  writeVersion1();
  const old = new Database(join(folder, "alderman.db"));
  old.pragma("foreign_keys = OFF");
  for (const name of readdirSync(new URL("./migrations/", import.meta.url))
    .sort()
    .slice(1, 12))
    old.exec(readFileSync(new URL(`./migrations/${name}`, import.meta.url), "utf8"));
  old.pragma("user_version = 12");
  const { stepMetres: _, scale: _s, trainKmh: _k, trainMetres: _t, ...older } = emptyRecord("Older").railway;
  const edits = (name: string) => JSON.stringify([{ op: "railway", value: { ...older, name } }]);
  old
    .prepare("INSERT INTO history VALUES ('r', 3, 'Renamed', 'edit', NULL, ?, ?, '2026-01-01T00:00:00.000Z', 'stamp')")
    .run(edits("Old"), edits("Older"));
  old.exec("UPDATE railway SET revision = 3");
  old.close();
  const database = openDatabase(folder);
  const store = new Store(database);
  const { record } = store.open("r");
  expect([record.railway.stepMetres, record.tracks, record.spots, record.marks]).toEqual([0.1, [], [], []]);
  store.undo("r", { revision: 3 });
  expect(store.open("r").record.railway).toEqual(emptyRecord("Older").railway);
  // and what is drawn is kept as it was drawn
  const drawn = laid(
    store.open("r").record,
    [
      [
        [0, 0],
        [9, 0],
      ],
    ],
    [
      [
        [4, 0],
        [6, -2],
      ],
    ],
  );
  const id = store.create(done(drawn));
  expect(store.open(id).record).toEqual(done(drawn));
  expect(database.pragma("foreign_key_check")).toEqual([]);
  database.close();

  function done(of: RailwayRecord): RailwayRecord {
    const named = edit(of, nameEnd(of, [9, 0], "road 1", true).edits).record;
    return edit(named, setGap(named, [6, 0], [7, 0], "left")?.edits ?? []).record;
  }
});

it("gives a line of version 13 room for blocks, signals and boards, with its marks and its undo as they were", () => {
  writeVersion1();
  const old = new Database(join(folder, "alderman.db"));
  old.pragma("foreign_keys = OFF");
  for (const name of readdirSync(new URL("./migrations/", import.meta.url))
    .sort()
    .slice(1, 13))
    old.exec(readFileSync(new URL(`./migrations/${name}`, import.meta.url), "utf8"));
  old.pragma("user_version = 13");
  old.exec("INSERT INTO track VALUES ('r', 't', '[[0,0],[9,0]]', 0)");
  old.exec("INSERT INTO track VALUES ('r', 'u', '[[4,0],[6,-2]]', 0)");
  old.exec("INSERT INTO spot VALUES ('r', 's', 'a', 4, 0, 0, 0)");
  old.exec("INSERT INTO mark VALUES ('r', 'e', 9, 0, 'end', 'road 1', 1, NULL, NULL, NULL, NULL, NULL)");
  old.exec("INSERT INTO mark VALUES ('r', 'g', 6, 0, 'gap', NULL, NULL, 7, 0, 'left', NULL, NULL)");
  const spot = { id: "s", turnoutId: "a", x: 4, y: 0, second: false, turned: true };
  const put = JSON.stringify([{ op: "put", kind: "spot", value: spot }]);
  old
    .prepare("INSERT INTO history VALUES ('r', 3, 'Turned', 'edit', NULL, ?, ?, '2026-01-01T00:00:00.000Z', 'stamp')")
    .run(put, put);
  old.exec("UPDATE railway SET revision = 3");
  old.close();
  const database = openDatabase(folder);
  const store = new Store(database);
  const { record } = store.open("r");
  expect(record.railway).toMatchObject({ scale: 87.1, trainKmh: 60, trainMetres: 1.5 });
  expect(record.spots).toEqual([{ ...spot, turned: false, powerRouting: false }]);
  expect(record.marks).toEqual([
    { id: "e", what: "end", x: 9, y: 0, name: "road 1", buffer: true },
    { id: "g", what: "gap", x: 6, y: 0, toX: 7, toY: 0, rails: "left" },
  ]);
  store.undo("r", { revision: 3 });
  expect(store.open("r").record.spots).toEqual([{ ...spot, powerRouting: false }]);
  // all that can be marked is kept as it was marked
  const full = marked(
    store.open("r").record,
    ["block", [1, 0], [2, 0], "Road 1"],
    ["signal", [2, 0], [3, 0], "S1"],
    ["sensor", [3, 0], [2, 0], "P1"],
    ["feeder", [1, 0], [2, 0], "K"],
  );
  const [device] = full.devices;
  const stood = edit(full, setStand(full, device?.id ?? "", [3, 4]).edits).record;
  const outlined = edit(
    stood,
    layOutline(stood, "trunk", [
      [0, 3],
      [9, 3],
    ])?.edits ?? [],
  ).record;
  const id = store.create(outlined);
  expect(store.open(id).record).toEqual(outlined);
  expect(database.pragma("foreign_key_check")).toEqual([]);
  database.close();
});

it("gives a railway of version 14 room for routes and a meter that tests diodes, with its tests, readings and undo as they were", () => {
  writeVersion1();
  const old = new Database(join(folder, "alderman.db"));
  old.pragma("foreign_keys = OFF");
  for (const name of readdirSync(new URL("./migrations/", import.meta.url))
    .sort()
    .slice(1, 14))
    old.exec(readFileSync(new URL(`./migrations/${name}`, import.meta.url), "utf8"));
  old.pragma("user_version = 14");
  const at = "2026-01-01T00:00:00.000Z";
  old
    .prepare(
      "INSERT INTO test VALUES ('r', 't', 'a', 'coil-n-a', NULL, 'ohm', 4, 3.5, 4.5, 4.1, NULL, 'passed', '', '', ?, '{}')",
    )
    .run(at);
  old
    .prepare(
      "INSERT INTO reading VALUES ('r', 'm', 'a:N', 'a:C', 'A-N', 'A-C', 'ohm', 'a', 'N', 'rest', 4, 3.5, 4.5, 4.1, 1, ?)",
    )
    .run(at);
  const { matrixBy: _new, ...railway } = emptyRecord("Old").railway;
  const named = JSON.stringify([{ op: "railway", value: { ...railway, name: "Older" } }]);
  old.prepare("INSERT INTO history VALUES ('r', 3, 'Renamed', 'edit', NULL, ?, ?, ?, 'stamp')").run(named, named, at);
  old.exec("UPDATE railway SET revision = 3");
  old.close();
  const database = openDatabase(folder);
  const store = new Store(database);
  const { record } = store.open("r");
  expect(record.railway.matrixBy).toBe("fewest");
  expect(record.tests).toMatchObject([{ id: "t", unit: "ohm", read: 4.1, chain: {} }]);
  expect(record.readings).toMatchObject([{ id: "m", range: "ohm", agrees: true }]);
  store.undo("r", { revision: 3 });
  expect(store.open("r").record.railway).toMatchObject({ name: "Older", matrixBy: "fewest" });
  // all that can be said of routes is kept, what a meter said of a diode too
  const full = soldered(routedYard(3, "rotary"));
  const read = { ...full, readings: [{ ...record.readings[0]!, id: "d", range: "diode" as const, turnoutId: "y1" }] };
  const kept = store.open(store.create(read)).record;
  for (const list of ["routes", "routeTurnouts", "routeControls", "boardParts", "readings"] as const)
    expect(kept[list]).toEqual(read[list]);
  expect(database.pragma("foreign_key_check")).toEqual([]);
  database.close();
});

it("has boards of version 15 stand together, and lets what was said of them be undone", () => {
  writeVersion1();
  const old = new Database(join(folder, "alderman.db"));
  old.pragma("foreign_keys = OFF");
  for (const name of readdirSync(new URL("./migrations/", import.meta.url))
    .sort()
    .slice(1, 15))
    old.exec(readFileSync(new URL(`./migrations/${name}`, import.meta.url), "utf8"));
  old.pragma("user_version = 15");
  old.exec("INSERT INTO device VALUES ('r', 'ps', 'dc-12', 'PS9', 'layout', '')");
  const device = { id: "ps", typeId: "dc-12", label: "PS9", place: "layout", note: "" };
  old
    .prepare("INSERT INTO history VALUES ('r', 3, 'Named', 'edit', NULL, ?, ?, '2026-01-01T00:00:00.000Z', 'stamp')")
    .run(
      JSON.stringify([{ op: "put", kind: "device", value: device }]),
      JSON.stringify([{ op: "put", kind: "device", value: { ...device, label: "PS8" } }]),
    );
  old.exec("UPDATE railway SET revision = 3");
  old.close();
  const database = openDatabase(folder);
  const store = new Store(database);
  const own = () => store.open("r").record.devices.find(({ id }) => id === "ps");
  expect(own()).toEqual({ ...device, runMetres: null });
  store.undo("r", { revision: 3 });
  expect(own()).toEqual({ ...device, label: "PS8", runMetres: null });
  expect(database.pragma("foreign_key_check")).toEqual([]);
  database.close();
});

it("keeps the history of version 18, and goes on turning it back", () => {
  writeVersion1();
  const old = new Database(join(folder, "alderman.db"));
  old.pragma("foreign_keys = OFF");
  for (const name of readdirSync(new URL("./migrations/", import.meta.url))
    .sort()
    .slice(1, 18))
    old.exec(readFileSync(new URL(`./migrations/${name}`, import.meta.url), "utf8"));
  old.pragma("user_version = 18");
  const zone = (label: string) =>
    putEdit("zone", { id: "z", label, name: "", order: 1, commons: null, plasticJoints: 0 });
  const add = old.prepare("INSERT INTO history VALUES ('r', ?, ?, ?, ?, ?, ?, '2026-01-01T00:00:00.000Z', ?, NULL)");
  old.exec("DELETE FROM history");
  add.run(1, "Put", "edit", null, JSON.stringify([zone("Y")]), '[{"op":"remove","kind":"zone","id":"z"}]', "s1");
  add.run(2, "Named", "edit", null, JSON.stringify([zone("Z")]), JSON.stringify([zone("Y")]), "s2");
  add.run(3, "Named", "undo", 2, JSON.stringify([zone("Y")]), JSON.stringify([zone("Z")]), "s3");
  old.exec("UPDATE railway SET revision = 3");
  const columns = "revision, stamp, words, origin, about, edits, inverses, at";
  const before = old.prepare(`SELECT ${columns} FROM history`).all();
  old.close();
  const database = openDatabase(folder);
  expect(database.prepare(`SELECT ${columns} FROM history`).all()).toEqual(before);
  const store = new Store(database);
  expect(store.version("r")).toMatchObject({ revision: 3, stamp: "s3", undo: "Put", redo: "Named" });
  const labels = () => store.open("r").record.zones.map(({ label }) => label);
  store.redo("r", { revision: 3 });
  expect(labels()).toEqual(["Z"]);
  store.undo("r", { revision: 4 });
  store.undo("r", { revision: 5 });
  expect(labels()).toEqual([]);
  const indexes = database.prepare("SELECT name FROM pragma_index_list('history') WHERE origin = 'c'").pluck().all();
  expect(indexes.sort()).toEqual(["history_not_packed", "one_group_of_stamp", "plans_of_edit"]);
  expect(database.pragma("foreign_key_check")).toEqual([]);
  database.close();
});

it("goes back to the backup as it was", () => {
  writeVersion1();
  openDatabase(folder).close();
  const [name = ""] = readdirSync(join(folder, "backups"));
  const backup = new Database(join(folder, "backups", name), { readonly: true });
  expect(backup.pragma("user_version", { simple: true })).toBe(1);
  const lamp = backup.prepare("SELECT motor_id FROM assignment WHERE role = 'lamp'").get() as { motor_id: string };
  expect(lamp.motor_id).toBe("a");
  backup.close();
});
