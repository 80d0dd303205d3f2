import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { brotliCompressSync } from "node:zlib";
import {
  type Change,
  complete,
  type Edit,
  edit,
  emptyRecord,
  FORM_HEADER,
  OpenRailway,
  putEdit,
  type RailwayRecord,
  RECORD_FORM,
  readRailwayFile,
  turnoutsFromTable,
  writeCell,
  writeRailwayFile,
  type Zone,
} from "@alderman/core";
import request from "supertest";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createApp } from "./app.ts";
import { openDatabase } from "./store/database.ts";
import { clashesOf, Store } from "./store/store.ts";

const HOUSE = join(import.meta.dirname, "../..");
const zone = (id: string, label: string): Edit =>
  putEdit("zone", { id, label, name: "", order: 1, commons: null, plasticJoints: 0 } satisfies Zone);

let folder: string;
let store: Store;
let agent: ReturnType<typeof request>;
let id: string;

/** A second opening of the same data, as after a restart. */
const reopened = () => new Store(openDatabase(folder));

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), "alderman-"));
  store = new Store(openDatabase(folder));
  const app = createApp({ store, samplesFolder: join(HOUSE, "samples") });
  agent = request(app);
  id = (await local(agent.post("/api/railways")).send({ name: "Test" })).body.id;
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const local = (test: request.Test) => test.set("Host", "127.0.0.1:4270");
const get = (path: string) => local(agent.get(`/api/${path}`));
const post = (path: string, body: object | string) => local(agent.post(`/api/${path}`)).send(body);
const edits = (revision: number, ...list: Edit[]) =>
  post(`railways/${id}/edits`, { revision, words: "Test edit", edits: list });

it("keeps edits, tells what can be undone, and has them after a restart", async () => {
  expect((await edits(0, zone("a", "A"))).body).toEqual({
    revision: 1,
    stamp: expect.stringMatching(/^[0-9a-f]{16}$/),
    words: "Test edit",
    origin: "edit",
    undo: "Test edit",
    redo: null,
    proposed: [],
  });
  const { body } = await get(`railways/${id}`);
  expect(body).toMatchObject({ revision: 1, record: { zones: [{ id: "a", label: "A" }] }, undo: "Test edit" });
  expect(reopened().open(id)).toMatchObject({ revision: 1, record: body.record });
});

it("says of what form the record is that it sends, and sends it so: a window need not look at it again", async () => {
  const { body: shelf } = await post("railways/sample", { sample: "shelf" });
  for (const each of [id, shelf.id]) {
    const { headers, body } = await get(`railways/${each}`);
    expect(headers[FORM_HEADER.toLowerCase()]).toBe(RECORD_FORM);
    expect(OpenRailway.parse(body)).toEqual(body);
  }
  expect((await get("railways/rnothing")).headers[FORM_HEADER.toLowerCase()]).toBeUndefined();
});

it("writes down what is proposed of the loom with the edit that it follows from, and undoes both at once", async () => {
  const { body: shelf } = await post("railways/sample", { sample: "shelf" });
  const before = (await get(`railways/${shelf.id}`)).body.record as RailwayRecord;
  expect(before.wires.length).toBeGreaterThan(20);
  const { edits: plan, words } = writeCell(before, before.turnouts[0]!.id, "lamp", "")!;
  const { body: applied } = await post(`railways/${shelf.id}/edits`, { revision: 0, words, edits: plan });
  const after = (await get(`railways/${shelf.id}`)).body.record as RailwayRecord;
  expect(after.wires.length).toBeLessThan(before.wires.length);
  // the window that sent the edits knows the rest from the answer, others from what all are told
  expect(edit(before, [...plan, ...applied.proposed]).record).toEqual(after);
  const { body: told } = await get(`railways/${shelf.id}/changes?since=0`);
  expect(edit(before, told[0].edits).record).toEqual(after);
  await post(`railways/${shelf.id}/undo`, { revision: 1 });
  expect((await get(`railways/${shelf.id}`)).body.record).toEqual(before);
});

it("acknowledges an edit of a thousand turnouts before they are planned, and undoes what was planned with it", async () => {
  const bare = Array.from({ length: 1_000 }, (_, index) => [`T${index}`]);
  const many = turnoutsFromTable(emptyRecord("Many"), [["label"], ...bare]).edits;
  await post(`railways/${id}/edits`, { revision: 0, words: "Many", edits: many });
  const before = (await get(`railways/${id}`)).body.record as RailwayRecord;
  const table = [
    ["label", "motor", "driver", "control"],
    ["Z", "twin-coil-surface", "cdu", "toggle-centre-off"],
  ];
  const equipped = turnoutsFromTable(before, table).edits;
  const { body: applied } = await post(`railways/${id}/edits`, { revision: 1, words: "Z", edits: equipped });
  expect(applied).toMatchObject({ revision: 2, proposed: [] });
  const isPlanned = async () => expect((await get(`railways/${id}/version`)).body.revision).toBe(3);
  await vi.waitFor(isPlanned, { timeout: 20_000 });
  const { body: told } = await get(`railways/${id}/changes?since=1`);
  expect(told.map(({ origin, words }: Change) => `${origin} ${words}`)).toEqual(["edit Z", "plan Z"]);
  const after = (await get(`railways/${id}`)).body.record as RailwayRecord;
  expect(after.wires.length).toBeGreaterThan(5);
  expect(complete(after).edits).toEqual([]);
  await post(`railways/${id}/undo`, { revision: 3 });
  expect((await get(`railways/${id}`)).body.record).toEqual(before);
  await post(`railways/${id}/redo`, { revision: 4 });
  expect((await get(`railways/${id}`)).body.record).toEqual(after);
}, 30_000);

it("undoes and redoes, also what was done before a restart, and forgets what could be redone after an edit", async () => {
  await edits(0, zone("a", "A"));
  await edits(1, zone("b", "B"));
  const again = reopened();
  expect(again.undo(id, { revision: 2 })).toMatchObject({ revision: 3, edits: [{ op: "remove", id: "b" }] });
  expect(again.undo(id, { revision: 3 }).revision).toBe(4);
  expect(again.open(id).record.zones).toEqual([]);
  expect(() => again.undo(id, { revision: 4 })).toThrow("There is nothing to undo.");
  again.redo(id, { revision: 4 });
  const later = reopened();
  expect(later.open(id)).toMatchObject({ record: { zones: [{ id: "a" }] }, redo: "Test edit" });
  later.apply(id, { revision: 5 }, { words: "Other", edits: [zone("c", "C")] });
  expect(() => later.redo(id, { revision: 6 })).toThrow("There is nothing to redo.");
  expect(later.historyOf(id, 100, 10).map(({ origin }) => origin)).toEqual([
    "edit",
    "redo",
    "undo",
    "undo",
    "edit",
    "edit",
  ]);
});

it("refuses a stale revision with 409 and changes nothing", async () => {
  await edits(0, zone("a", "A"));
  const answer = await edits(0, zone("b", "B"));
  expect(answer.status).toBe(409);
  expect(answer.body.error).toMatchObject({ revision: 1, message: expect.stringMatching(/changed in another window/) });
  expect((await get(`railways/${id}`)).body.record.zones).toHaveLength(1);
});

it("applies a group that is sent twice once, and answers it as before", async () => {
  const send = () =>
    post(`railways/${id}/edits`, { revision: 0, stamp: id, makes: "group-1", words: "Once", edits: [zone("a", "A")] });
  const first = await send();
  expect(first.body).toMatchObject({ revision: 1, stamp: "group-1" });
  await edits(1, zone("b", "B"));
  // the answer was lost, and another window went on meanwhile
  const second = await send();
  expect([second.status, second.body.revision, second.body.stamp]).toEqual([200, 1, "group-1"]);
  expect((await get(`railways/${id}`)).body).toMatchObject({ revision: 2 });
  const undo = () => post(`railways/${id}/undo`, { revision: 2, makes: "undo-1" });
  expect((await undo()).body.revision).toBe(3);
  expect((await undo()).body.revision).toBe(3);
  expect((await get(`railways/${id}`)).body.record.zones).toHaveLength(1);
});

it("says that a window knows another history than the file's, after a backup was put back", async () => {
  const { stamp } = (await edits(0, zone("a", "A"))).body;
  const diverged = { diverged: true, message: expect.stringMatching(/an older one was put back/) };
  const ahead = await post(`railways/${id}/edits`, { revision: 5, words: "x", edits: [zone("b", "B")] });
  expect([ahead.status, ahead.body.error]).toEqual([409, expect.objectContaining({ ...diverged, revision: 1 })]);
  const other = await post(`railways/${id}/edits`, {
    revision: 1,
    stamp: "other",
    words: "x",
    edits: [zone("b", "B")],
  });
  expect([other.status, other.body.error]).toEqual([409, expect.objectContaining(diverged)]);
  expect((await get(`railways/${id}/changes?since=1&stamp=other`)).status).toBe(409);
  expect((await get(`railways/${id}/changes?since=9`)).body.error).toMatchObject(diverged);
  expect((await get(`railways/${id}/changes?since=1&stamp=${stamp}`)).body).toEqual([]);
  expect((await get(`railways/${id}/changes?since=0&stamp=${id}`)).body).toHaveLength(1);
});

it("gives a window what it has missed", async () => {
  await edits(0, zone("a", "A"));
  await edits(1, zone("b", "B"));
  const { body } = await get(`railways/${id}/changes?since=1`);
  expect(body).toEqual([expect.objectContaining({ revision: 2, words: "Test edit", edits: [zone("b", "B")] })]);
});

it("applies a group whole or not at all", async () => {
  const answer = await edits(0, zone("a", "A"), { op: "remove", kind: "zone", id: "zz" });
  expect(answer.status).toBe(400);
  expect(answer.body.error.message).toBe('There is no zone "zz" to remove.');
  expect((await get(`railways/${id}`)).body).toMatchObject({ revision: 0, record: { zones: [] } });
});

it("lets labels change hands within a group, in the tables too", async () => {
  await edits(0, zone("a", "A"), zone("b", "B"));
  expect((await edits(1, zone("a", "B"), zone("b", "A"))).status).toBe(200);
  expect(
    reopened()
      .open(id)
      .record.zones.map(({ label }) => label),
  ).toEqual(["B", "A"]);
});

it.each([
  ["no body", {}],
  ["a revision of the wrong type", { revision: "0", words: "x", edits: [zone("a", "A")] }],
  ["no edits", { revision: 0, words: "x", edits: [] }],
  ["an unknown kind", { revision: 0, words: "x", edits: [{ op: "put", kind: "engine", value: {} }] }],
  ["a field too many", { revision: 0, words: "x", edits: [{ ...zone("a", "A"), more: 1 }] }],
  ["a label with a line break", { revision: 0, words: "x", edits: [zone("a", "A\nB")] }],
])("refuses edits with %s, with a sentence and a place", async (_what, body) => {
  const answer = await post(`railways/${id}/edits`, body);
  expect(answer.status).toBe(400);
  expect(answer.body.error.message.length).toBeGreaterThan(10);
  expect(Array.isArray(answer.body.error.path)).toBe(true);
  expect(JSON.stringify(answer.body)).not.toMatch(/at .*\.ts/);
});

it("answers malformed JSON, too large bodies and unknown places without a stack", async () => {
  const malformed = await local(agent.post("/api/railways")).set("Content-Type", "application/json").send('{"name":');
  expect(malformed.status).toBe(400);
  const large = await post("railways", { name: "x".repeat(3_000_000) });
  expect(large.status).toBe(413);
  expect(large.body.error.message).toMatch(/more than the 2 MB/);
  // a file's limit is one of characters, whatever they take on the way
  const many = await post("railways/import", "x".repeat(104_000_000));
  expect([many.status, many.body.error.message]).toEqual([
    400,
    "The file holds 104 million characters; a railway file may hold 100 million.",
  ]);
  const wide = await post("railways/import", "\u4e00".repeat(36_000_000));
  expect([wide.status, wide.body.error.message]).toEqual([400, expect.not.stringContaining("million")]);
  expect((await get("nothing")).status).toBe(404);
  expect((await get("railways/none")).body.error.message).toMatch(/no such railway/);
  for (const { text } of [malformed, large]) expect(text).not.toMatch(/node_modules|\.ts:/);
});

it("exports a file that imports to the same railway", async () => {
  const sample = (await post("railways/sample", { sample: "skerrin-ferry" })).body.id;
  const file = (await get(`railways/${sample}/file`)).text;
  const imported = (await local(agent.post("/api/railways/import")).set("Content-Type", "text/plain").send(file)).body
    .id;
  expect(imported).not.toBe(sample);
  expect((await get(`railways/${imported}/file`)).text).toBe(file);
  expect(reopened().open(imported).record).toEqual(readRailwayFile(file));
});

it("takes in nothing of a broken file", async () => {
  const before = (await get("railways")).body.length;
  for (const text of ["", "{", writeRailwayFile(emptyRecord("x")).replace(/"version": \d/, '"version": 99')]) {
    const answer = await local(agent.post("/api/railways/import")).set("Content-Type", "text/plain").send(text);
    expect(answer.status).toBe(400);
  }
  expect((await get("railways")).body).toHaveLength(before);
});

it("removes a railway with all that belongs to it", async () => {
  await edits(0, zone("a", "A"));
  expect((await local(agent.delete(`/api/railways/${id}`))).status).toBe(204);
  expect((await get(`railways/${id}`)).status).toBe(404);
  expect(reopened().list()).toEqual([]);
});

it("reckons over HTTP as the command does", async () => {
  const good = await post("calculators/led-current", { supplyVolts: 5, forwardVolts: 2, ohms: 450 });
  expect(good.body.milliamps).toBeCloseTo(6.667, 3);
  const bad = await post("calculators/led-current", { supplyVolts: 5, forwardVolts: "2", ohms: 450 });
  expect(bad.status).toBe(400);
  expect(bad.body.error.path).toEqual(["forwardVolts"]);
  expect((await post("calculators/none", {})).status).toBe(404);
});

it("answers only to its own names, and to no other page", async () => {
  expect((await agent.get("/api/railways").set("Host", "railway.example")).status).toBe(403);
  expect((await agent.get("/api/railways").set("Host", "127.0.0.1.example:4270")).status).toBe(403);
  expect((await post("railways", { name: "x" }).set("Origin", "http://evil.example")).status).toBe(403);
  expect((await post("railways", { name: "x" }).set("Origin", "null")).status).toBe(403);
  expect((await post("railways", { name: "x" }).set("Origin", "http://127.0.0.1:4270")).status).toBe(201);
});

it("sends a strict policy with every answer", async () => {
  const { headers } = await get("railways");
  const policy = headers["content-security-policy"] ?? "";
  expect(policy).toContain("default-src 'none'");
  expect(policy).toContain("script-src 'self'");
  expect(policy).not.toMatch(/unsafe|\*/);
  expect(headers["x-powered-by"]).toBeUndefined();
});

it("tells open windows of each change, in order", async () => {
  const heard: number[] = [];
  store.changes.on(id, (change) => heard.push(change.revision));
  await edits(0, zone("a", "A"));
  await post(`railways/${id}/undo`, { revision: 1 });
  expect(heard).toEqual([1, 2]);
});

it("lets one of two edits win that arrive at once, and tells the other", async () => {
  const answers = await Promise.all([edits(0, zone("a", "A")), edits(0, zone("b", "B"))]);
  expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
  expect((await get(`railways/${id}`)).body.record.zones).toHaveLength(1);
});

it("gives the history a page at a time, the latest first", async () => {
  for (let revision = 0; revision < 105; revision++) {
    store.apply(id, { revision: revision }, { words: `Edit ${revision + 1}`, edits: [zone("a", `A${revision}`)] });
  }
  const first = (await get(`railways/${id}/history`)).body;
  expect(first).toHaveLength(100);
  expect(first[0]).toMatchObject({ revision: 105, words: "Edit 105", origin: "edit", about: null });
  const next = (await get(`railways/${id}/history?before=${first.at(-1).revision}`)).body;
  expect(next.map(({ revision }: { revision: number }) => revision)).toEqual([5, 4, 3, 2, 1]);
  expect((await get(`railways/${id}/history?before=soon`)).status).toBe(400);
});

it("opens samples by name only, and none outside its folder", async () => {
  expect((await get("railways/samples")).body).toContain("skerrin-ferry");
  for (const sample of ["../package", "none", "SKERRIN", ""]) {
    expect((await post("railways/sample", { sample })).status).toBe(400);
  }
});

it("names an exported file after the railway", async () => {
  const named = (await post("railways", { name: "Pier / No. 2" })).body.id;
  expect((await get(`railways/${named}/file`)).headers["content-disposition"]).toBe(
    "attachment; filename=pier-no-2.json",
  );
});

it("serves the interface under any address of its own, each time with a nonce of its own", async () => {
  const web = join(folder, "web");
  mkdirSync(join(web, "assets"), { recursive: true });
  writeFileSync(join(web, "index.html"), '<meta name="style-nonce" content="__NONCE__">');
  writeFileSync(join(web, "assets/a.js"), "1;".repeat(2000));
  writeFileSync(join(web, "assets/a.js.br"), brotliCompressSync("1;".repeat(2000)));
  const whole = request(createApp({ store, webFolder: web, samplesFolder: join(HOUSE, "samples") }));
  const nonces = new Set<string>();
  for (const path of ["/", "/railways", "/r/any/equip"]) {
    const { text, headers } = await local(whole.get(path));
    const nonce = /content="([^"]+)"/.exec(text)?.[1] ?? "";
    expect(headers["content-security-policy"]).toContain(`style-src 'self' 'nonce-${nonce}'`);
    expect(headers["cache-control"]).toBe("no-store");
    nonces.add(nonce);
    // the railway that the address names comes beside the page
    expect(headers.link).toBe(
      path.startsWith("/r/") ? "</api/railways/any>; rel=preload; as=fetch; crossorigin" : undefined,
    );
  }
  expect(nonces.size).toBe(3);
  expect((await local(whole.head("/"))).headers["content-security-policy"]).toContain("script-src 'self'");
  expect((await local(whole.get("/assets/a.js"))).headers["cache-control"]).toContain("immutable");
  expect((await local(whole.get("/assets/none.js"))).status).toBe(404);
  // scripts are packed, railways are not
  const packed = async (path: string) =>
    (await local(whole.get(path)).set("Accept-Encoding", "br")).headers["content-encoding"];
  expect(await packed("/assets/a.js")).toBe("br");
  expect(await packed(`/api/railways/${id}`)).toBeUndefined();
  expect((await local(whole.post("/railways"))).status).toBe(404);
});

const MOTOR = {
  ...{ id: "sm", typeId: "stall-motor", label: "M", place: "layout" as const },
  ...{ runMetres: null, note: "" },
};

it("keeps senses, facts, debts and photos like any other edit, and gives them out in the file", async () => {
  const at = "2026-05-12T20:14:00.000Z";
  const device = putEdit("device", MOTOR);
  const sense = putEdit("sense", {
    ...{ id: "s", link: "contact", deviceId: "sm", way: null },
    ...{ inverts: true, known: "metered", flips: 1, note: "", at },
  });
  const fact = putEdit("fact", {
    ...{ id: "f", text: "The breaker lets commands through", standing: "heard" },
    ...{ typeId: null, figure: null, deviceId: "sm", source: "at the club", at },
  });
  const debt = putEdit("debt", {
    ...{ id: "d", kind: "awaited", text: "a connector", blocks: "the wing", turnoutId: null, done: false, at },
  });
  const photo = putEdit("photo", {
    ...{ id: "p", turnoutId: null, deviceId: "sm", caption: "from below" },
    ...{ picture: "data:image/jpeg;base64,/9j/AAAA", at },
  });
  expect((await edits(0, device, sense, fact, debt, photo)).status).toBe(200);
  const file = readRailwayFile((await get(`railways/${id}/file`)).text);
  expect(file).toMatchObject({
    senses: [{ link: "contact", known: "metered" }],
    facts: [{ standing: "heard" }],
    debts: [{ kind: "awaited" }],
    photos: [{ caption: "from below" }],
  });
  expect((await get("railways")).body[0].openEnds).toBeGreaterThan(0);
  await post(`railways/${id}/undo`, { revision: 1 });
  expect((await get(`railways/${id}`)).body.record).toMatchObject({ senses: [], facts: [], debts: [], photos: [] });
});

it.each([
  ["an SVG in a JPEG's place", "data:image/svg+xml;base64,AAAA"],
  ["a script's address", "javascript:alert(1)"],
  ["more than a small picture", `data:image/jpeg;base64,${"A".repeat(130_000)}`],
])("refuses a photo that is %s, and changes nothing", async (_, picture) => {
  const at = "2026-05-12T20:14:00.000Z";
  const device = putEdit("device", MOTOR);
  const photo = putEdit("photo", { id: "p", turnoutId: null, deviceId: "sm", caption: "", picture, at });
  const answer = await edits(0, device, photo);
  expect(answer.status).toBe(400);
  expect(answer.body.error.message).toMatch(/picture/);
  expect((await get(`railways/${id}`)).body).toMatchObject({ revision: 0, record: { devices: [], photos: [] } });
});

it("refuses what is said of a device that is not there", async () => {
  const at = "2026-05-12T20:14:00.000Z";
  const sense = putEdit("sense", {
    ...{ id: "s", link: "leads", deviceId: "gone", way: null },
    ...{ inverts: false, known: "seen", flips: 0, note: "", at },
  });
  const answer = await edits(0, sense);
  expect(answer.status).toBe(400);
  expect(answer.body.error.message).toMatch(/^\S.*\.$/s);
});

it("plans ahead for a railway once it is asked to, and answers before that", async () => {
  const plan = vi.spyOn(store, "planAhead");
  expect((await post(`railways/${id}/plan`, {})).status).toBe(204);
  await vi.waitFor(() => expect(plan).toHaveBeenCalledExactlyOnceWith(id));
  expect((await post("railways/none/plan", {})).status).toBe(404);
  expect(plan).toHaveBeenCalledTimes(1);
});

it("tells the other windows of what one did not keep, and refuses what is no such thing", async () => {
  const told: unknown[] = [];
  store.changes.on(clashesOf(id), (clash) => told.push(clash));
  const clash = { by: "window01-1", words: "Name", things: [{ kind: "zone", id: "a", fields: { name: "shed" } }] };
  expect((await post(`railways/${id}/clash`, clash)).status).toBe(204);
  expect(told).toEqual([clash]);
  for (const wrong of [
    { ...clash, by: "not so!" },
    { ...clash, things: [] },
    { ...clash, things: [{ kind: "engine", id: "a", fields: {} }] },
    { ...clash, things: [{ kind: "zone", id: "a", fields: { "no word": 1 } }] },
  ])
    expect((await post(`railways/${id}/clash`, wrong)).status).toBe(400);
  expect((await post("railways/none/clash", clash)).status).toBe(404);
  expect(told).toHaveLength(1);
});
