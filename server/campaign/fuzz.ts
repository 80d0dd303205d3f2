import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { Agent, request } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { openRailwayFile, RecordError } from "@alderman/core";
import { seeded } from "@alderman/core/testing/networks";
import { createApp } from "../src/app.ts";
import { openDatabase } from "../src/store/database.ts";
import { Store } from "../src/store/store.ts";
import { randomZones } from "./randomEdits.ts";

const SAMPLES = new URL("../../samples/", import.meta.url);

/** What came of sending what nobody would send. */
export interface Fuzzed {
  requests: number;
  /** How many answers there were of each status. */
  statuses: Record<string, number>;
  files: number;
  /** Files that were taken in for all that was done to them. */
  read: number;
  problems: string[];
}

type Random = () => number;

/** One of several things. */
function oneOf<T>(random: Random, things: readonly T[]): T {
  return things[Math.floor(random() * things.length)] as T;
}

/** Values that stand where others are expected. */
const STRANGE: readonly unknown[] = [
  ...[
    null,
    true,
    -1,
    1e308,
    0.1,
    "",
    " ",
    "__proto__",
    "constructor",
    "toString",
    "\u0000",
    "\ud800",
    "a".repeat(5000),
  ],
  ...["../../etc/passwd", "'; DROP TABLE railway; --", [], {}, [[[]]], { __proto__: null }, "é😀", -0, 2 ** 53],
];

const STRANGE_NAMES = ["", "__proto__", "constructor", "toString", "id", "a b", "\u0000", "length"];

/** A value with one place in it replaced, taken out or doubled. */
function mutated(random: Random, value: unknown): unknown {
  if (Array.isArray(value) && value.length > 0 && random() < 0.85) {
    const index = Math.floor(random() * value.length);
    const copy = [...value];
    const what = random();
    if (what < 0.1) copy.splice(index, 1);
    else if (what < 0.2) copy.splice(index, 0, copy[index]);
    else copy[index] = mutated(random, copy[index]);
    return copy;
  }
  if (value !== null && typeof value === "object" && random() < 0.85) {
    const keys = Object.keys(value);
    const copy: Record<string, unknown> = { ...value };
    const key = oneOf(random, keys);
    const what = random();
    if (key === undefined || what < 0.1) copy[oneOf(random, STRANGE_NAMES)] = oneOf(random, STRANGE);
    else if (what < 0.2) delete copy[key];
    else copy[key] = mutated(random, copy[key]);
    return copy;
  }
  return oneOf(random, STRANGE);
}

/** Text with some of its characters replaced, taken out, doubled or cut off. */
function garbled(random: Random, text: string): string {
  const at = Math.floor(random() * text.length);
  const length = Math.floor(random() * 40);
  const what = random();
  if (what < 0.2) return text.slice(0, at);
  if (what < 0.4) return text.slice(0, at) + text.slice(at + length);
  if (what < 0.6) return text.slice(0, at + length) + text.slice(at);
  const strange = oneOf(random, ['"', "{", "}", "[", ",", "\u0000", "\ud83d", "9e999", "null", "\\u0000", "\\ud800"]);
  return text.slice(0, at) + strange + text.slice(at + (what < 0.8 ? 1 : 0));
}

/** What a window tells the others of. */
const CLASH = { by: "w-1", words: "Zones", things: [{ kind: "zone", id: "a", fields: { name: "shed", order: 1 } }] };

/** A request that is nearly right, or not at all. */
function strangeRequest(random: Random, id: string, store: Store) {
  const { revision, record } = store.open(id);
  const edits = { revision, words: "Zones", edits: randomZones(record, random) };
  const name = oneOf(random, [id, id, id, "nothing", "..%2f..", "%00", "__proto__", "a".repeat(300)]);
  const [method, path, body] = oneOf<readonly [string, string, unknown]>(random, [
    ["POST", `/railways/${name}/edits`, edits],
    ["POST", `/railways/${name}/edits`, edits],
    ["POST", `/railways/${name}/edits`, mutated(random, edits)],
    ["POST", `/railways/${name}/edits`, mutated(random, mutated(random, edits))],
    ["POST", `/railways/${name}/undo`, { revision }],
    ["POST", `/railways/${name}/redo`, mutated(random, { revision, stamp: "s" })],
    ["POST", `/railways/${name}/applied`, mutated(random, { stamps: ["a", "b"] })],
    ["POST", `/railways/${name}/clash`, mutated(random, CLASH)],
    ["POST", "/railways", mutated(random, { name: "One more" })],
    ["POST", "/railways/sample", mutated(random, { sample: "nothing" })],
    ["POST", `/calculators/${oneOf(random, ["ledResistor", "__proto__", "wireDrop", "%"])}`, oneOf(random, STRANGE)],
    ["GET", `/railways/${name}/changes?since=${oneOf(random, ["0", "-1", "x", "1e9", ""])}`, undefined],
    ["GET", `/railways/${name}/history?before=${oneOf(random, ["1", "-5", "NaN", "99999999999999999999"])}`, undefined],
    ["GET", `/railways/${name}`, undefined],
    ["GET", `/railways/${name}/version`, undefined],
    ["GET", `/railways/${name}/history/size`, undefined],
    [oneOf(random, ["PUT", "PATCH", "TRACE", "DELETE"]), `/railways/${oneOf(random, ["nothing", "%00"])}`, undefined],
  ]);
  const type = oneOf(random, [
    "application/json",
    "application/json",
    "text/plain",
    "application/x-www-form-urlencoded",
  ]);
  const text = body === undefined ? undefined : JSON.stringify(body);
  return { method, path, type, body: text !== undefined && random() < 0.1 ? garbled(random, text) : text };
}

/** Sends strange requests, and reads strange files. Nothing may fail unforeseen, and no railway may be harmed. */
export async function fuzz(count: number, seed: number): Promise<Fuzzed> {
  const folder = mkdtempSync(join(tmpdir(), "alderman-fuzz-"));
  const random = seeded(seed);
  const database = openDatabase(folder);
  const store = new Store(database);
  const server = createApp({ store, samplesFolder: folder }).listen(0, "127.0.0.1");
  await new Promise((done) => server.once("listening", done));
  const { port } = server.address() as AddressInfo;
  const agent = new Agent({ keepAlive: true });
  const result: Fuzzed = { requests: 0, statuses: {}, files: 0, read: 0, problems: [] };
  const id = store.create(openRailwayFile(readFileSync(new URL("shelf.json", SAMPLES), "utf8")));
  try {
    for (; result.requests < count; result.requests++) {
      const asked = strangeRequest(random, id, store);
      const { status, text } = await send(agent, port, asked);
      result.statuses[status] = (result.statuses[status] ?? 0) + 1;
      const isFit = status < 500 && (status < 400 || /"message":"[^"]/.test(text));
      if (!isFit) result.problems.push(`${asked.method} ${asked.path} ${asked.body?.slice(0, 300)}: ${status} ${text}`);
      // new railways would make the list long
      for (const other of store.list()) if (other.id !== id) store.remove(other.id);
    }
    const [health] = database.pragma("integrity_check") as { integrity_check: string }[];
    if (health?.integrity_check !== "ok") result.problems.push(`The database: ${health?.integrity_check}`);
    new Store(database).open(id);
    strangeFiles(count, random, result);
  } finally {
    agent.destroy();
    server.closeAllConnections();
    server.close();
    database.close();
    rmSync(folder, { recursive: true, force: true });
  }
  return result;
}

/** Files are read or refused with a sentence, whatever is in them. */
function strangeFiles(count: number, random: Random, result: Fuzzed): void {
  const texts = ["shelf", "yard"].map((name) => readFileSync(new URL(`${name}.json`, SAMPLES), "utf8"));
  for (; result.files < count / 10; result.files++) {
    const text = oneOf(random, texts);
    const strange =
      random() < 0.5 ? garbled(random, text) : JSON.stringify(mutated(random, JSON.parse(text) as unknown));
    try {
      openRailwayFile(strange);
      result.read++;
    } catch (error) {
      if (error instanceof RecordError && /\S\.?$/.test(error.message)) continue;
      result.problems.push(`A file: ${error instanceof Error ? error.stack : error}`);
    }
  }
}

function send(
  agent: Agent,
  port: number,
  { method, path, type, body }: { method: string; path: string; type: string; body: string | undefined },
): Promise<{ status: number; text: string }> {
  return new Promise((done, fail) => {
    const headers = { Host: "localhost", ...(body === undefined ? {} : { "Content-Type": type }) };
    const going = request({ agent, port, host: "127.0.0.1", method, path: `/api${path}`, headers }, (response) => {
      let text = "";
      response.setEncoding("utf8");
      response.on("data", (part) => {
        text += part;
      });
      response.on("end", () => done({ status: response.statusCode ?? 0, text }));
    });
    going.on("error", fail);
    going.end(body);
  });
}
