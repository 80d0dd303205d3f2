import { mkdtempSync, rmSync } from "node:fs";
import { type AddressInfo, connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { emptyRecord, putEdit } from "@alderman/core";
import { createApp } from "../src/app.ts";
import { openDatabase } from "../src/store/database.ts";
import { Store } from "../src/store/store.ts";

/** What came of readers that do not read. */
export interface Starved {
  readers: number;
  changes: number;
  /** Readers that were still told after the last change. */
  left: number;
  /** By how much the memory of this process grew, bytes. */
  grown: number;
}

/** Changes after which every reader has to have been let go; each is some 60 kB on the line. */
const MOST_CHANGES = 500;

/** Lets readers listen to a railway without reading, and changes it until all of them were let go. */
export async function slowReaders(readers: number): Promise<Starved> {
  const folder = mkdtempSync(join(tmpdir(), "alderman-slow-"));
  const database = openDatabase(folder);
  const store = new Store(database);
  const server = createApp({ store, samplesFolder: folder }).listen(0, "127.0.0.1");
  await new Promise((done) => server.once("listening", done));
  const { port } = server.address() as AddressInfo;
  const id = store.create(emptyRecord("Busy"));
  const sockets = await Promise.all(
    Array.from({ length: readers }, async () => {
      const socket = connect(port, "127.0.0.1");
      await new Promise((done) => socket.once("connect", done));
      socket.write(`GET /api/events?railways=${id} HTTP/1.1\r\nHost: localhost\r\n\r\n`);
      await new Promise((done) => socket.once("readable", done));
      socket.pause();
      return socket;
    }),
  );
  const before = process.memoryUsage().rss;
  const edits = Array.from({ length: 400 }, (_, order) =>
    putEdit("zone", {
      ...{ id: `z${order}`, label: `Z${order}`, name: "x".repeat(70) },
      ...{ order, commons: null, plasticJoints: 0 },
    }),
  );
  let changes = 0;
  for (; store.changes.listenerCount(id) > 0 && changes < MOST_CHANGES; changes++) {
    store.apply(id, { revision: changes }, { words: "Many zones", edits });
    await new Promise((done) => setImmediate(done));
  }
  const grown = process.memoryUsage().rss - before;
  const left = store.changes.listenerCount(id);
  for (const socket of sockets) socket.destroy();
  server.closeAllConnections();
  server.close();
  database.close();
  rmSync(folder, { recursive: true, force: true });
  return { readers, changes, left, grown };
}
