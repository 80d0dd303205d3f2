import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { emptyRecord } from "@alderman/core";
import { seeded } from "@alderman/core/testing/networks";
import { openDatabase } from "../src/store/database.ts";
import { Store } from "../src/store/store.ts";
import { randomZones } from "./randomEdits.ts";

/** What came of a disk that was full again and again. */
export interface Filled {
  acknowledged: number;
  refused: number;
  lost: number;
  problems: string[];
}

/** Edits a railway while its database may not grow, gives it room, and so on; what was acknowledged has to be there. */
export function fullDisk(rounds: number, seed: number): Filled {
  const folder = mkdtempSync(join(tmpdir(), "alderman-full-"));
  const random = seeded(seed);
  const result: Filled = { acknowledged: 0, refused: 0, lost: 0, problems: [] };
  const database = openDatabase(folder);
  const store = new Store(database);
  const id = store.create(emptyRecord("Full"));
  const stamps: string[] = [];
  for (let round = 0; round < rounds; round++) {
    const pages = database.pragma("page_count", { simple: true }) as number;
    database.pragma(`max_page_count = ${pages + Math.floor(random() * 6)}`);
    try {
      for (let group = 0; group < 1_000; group++) {
        const { revision, record } = store.open(id);
        stamps.push(store.apply(id, { revision }, { words: "Zones", edits: randomZones(record, random) }).stamp);
      }
      result.problems.push(`Round ${round}: the disk was never full.`);
    } catch (error) {
      if ((error as { code?: string }).code === "SQLITE_FULL") result.refused++;
      else result.problems.push(`Round ${round}: ${error instanceof Error ? error.message : error}`);
    }
    const anew = new Store(database);
    const [read, kept] = [anew.open(id), store.open(id)];
    if (JSON.stringify(read.record) !== JSON.stringify(inOrder(kept.record)) || read.revision !== kept.revision)
      result.problems.push(`Round ${round}: what is kept in memory is not what is on disk.`);
    database.pragma("max_page_count = 1073741823");
  }
  result.acknowledged = stamps.length;
  result.lost = stamps.length - new Store(database).applied(id, stamps).length;
  database.close();
  rmSync(folder, { recursive: true, force: true });
  return result;
}

/** A record with its zones in the order in which they are read. */
function inOrder<T extends { zones: readonly { id: string }[] }>(record: T): T {
  return { ...record, zones: [...record.zones].sort((a, b) => (a.id < b.id ? -1 : 1)) };
}
