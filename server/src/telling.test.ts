// What a browser is told of several railways over one connection.
import { mkdtempSync, rmSync } from "node:fs";
import type { Server } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { emptyRecord, putEdit, type Zone } from "@alderman/core";
import { afterEach, beforeEach, expect, it } from "vitest";
import { createApp } from "./app.ts";
import { openDatabase } from "./store/database.ts";
import { Store } from "./store/store.ts";

let folder: string;
let store: Store;
let server: Server;
let port: number;

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), "alderman-telling-"));
  store = new Store(openDatabase(join(folder, "alderman.db")));
  server = createApp({ store, samplesFolder: folder }).listen(0, "127.0.0.1");
  await new Promise((done) => server.once("listening", done));
  port = (server.address() as AddressInfo).port;
});
afterEach(() => {
  server.closeAllConnections();
  server.close();
  rmSync(folder, { recursive: true, force: true });
});

const zone = (name: string): Zone => ({ id: "a", label: "A", name, order: 1, commons: null, plasticJoints: 0 });
const rename = (id: string, revision: number, name: string) =>
  store.apply(id, { revision }, { words: "A zone", edits: [putEdit("zone", zone(name))] });

/** Reads what is told, event by event. */
async function listening(query: string) {
  const stream = await fetch(`http://127.0.0.1:${port}/api/events?${query}`);
  const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
  let text = "";
  const next = async (): Promise<{ name: string; data: Record<string, unknown> }> => {
    while (!text.includes("\n\n")) text += (await reader.read()).value ?? "";
    const [event = ""] = text.split("\n\n");
    text = text.slice(event.length + 2);
    const [name = "", data = "{}"] = event.split("\n").map((line) => line.replace(/^\w+: /, ""));
    return { name, data: JSON.parse(data) };
  };
  return { next, stop: () => reader.cancel() };
}

it("tells of several railways over one connection, whose each thing is, and of those that are not there", async () => {
  const [one, two] = [store.create(emptyRecord("One")), store.create(emptyRecord("Two"))];
  const { next, stop } = await listening(`railways=${one},${two},nowhere&lines=${one}`);
  expect(await next()).toEqual({ name: "hello", data: { of: one, revision: 0, stamp: one } });
  expect(await next()).toEqual({ name: "hello", data: { of: two, revision: 0, stamp: two } });
  expect(await next()).toEqual({ name: "removed", data: { of: "nowhere" } });
  expect(await next()).toEqual({ name: "stopped", data: { of: one } });
  rename(two, 0, "the yard");
  expect(await next()).toMatchObject({ name: "change", data: { of: two, revision: 1, words: "A zone" } });
  store.remove(one);
  expect(await next()).toEqual({ name: "removed", data: { of: one } });
  rename(two, 1, "the station");
  expect(await next()).toMatchObject({ name: "change", data: { of: two, revision: 2 } });
  await stop();
});

it("tells of a railway beside one that cannot be read", async () => {
  const [good, bad] = [store.create(emptyRecord("Good")), store.create(emptyRecord("Bad"))];
  const database = openDatabase(join(folder, "alderman.db"));
  database.pragma("ignore_check_constraints = ON");
  database.prepare("UPDATE railway SET name = '' WHERE id = ?").run(bad);
  database.close();
  const { next, stop } = await listening(`railways=${bad},${good}`);
  expect(await next()).toMatchObject({ name: "hello", data: { of: bad } });
  expect(await next()).toMatchObject({ name: "hello", data: { of: good } });
  await stop();
});
