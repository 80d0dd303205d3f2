import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { seeded } from "@alderman/core/testing/networks";
import { bundled } from "../../scripts/bundled.ts";
import { openDatabase } from "../src/store/database.ts";
import { Store } from "../src/store/store.ts";

/** What came of killing a program that edits. */
export interface Killed {
  kills: number;
  /** Groups that were said to be on disk. */
  acknowledged: number;
  /** Of these, those that are not there afterwards. */
  lost: number;
  /** Sentences about databases that were not sound or could not be opened. */
  problems: string[];
}

/** Longest time from the first group until the program is killed, milliseconds. */
const LONGEST = 150;

/** Kills a program that edits a railway, again and again on the same data, and looks each time at what is there. */
export async function kills(count: number, seed: number): Promise<Killed> {
  const folder = mkdtempSync(join(tmpdir(), "alderman-kills-"));
  const built = await bundled(new URL("./killed.ts", import.meta.url).pathname);
  const random = seeded(seed);
  const result: Killed = { kills: 0, acknowledged: 0, lost: 0, problems: [] };
  try {
    for (; result.kills < count; result.kills++) {
      const stamps = await killedAfter(built.file, folder, Math.floor(random() * 2 ** 31), random() * LONGEST);
      result.acknowledged += stamps.length;
      const database = openDatabase(folder);
      const [health] = database.pragma("integrity_check") as { integrity_check: string }[];
      if (health?.integrity_check !== "ok") result.problems.push(`Kill ${result.kills}: ${health?.integrity_check}`);
      const store = new Store(database);
      const id = store.list()[0]?.id;
      const there = id === undefined ? [] : store.applied(id, stamps);
      result.lost += stamps.length - there.length;
      // read whole, so that no row of a group stands there half
      if (id !== undefined) store.open(id);
      database.close();
    }
  } catch (error) {
    result.problems.push(`Kill ${result.kills}: ${error instanceof Error ? error.message : error}`);
  } finally {
    rmSync(folder, { recursive: true, force: true });
    built.remove();
  }
  return result;
}

/** Starts the program, and kills it some time after its first group. @returns stamps of the groups that it said were on disk */
function killedAfter(program: string, folder: string, seed: number, milliseconds: number): Promise<string[]> {
  const child = spawn(process.execPath, [program, folder, String(seed)], { stdio: ["ignore", "pipe", "pipe"] });
  let text = "";
  let errors = "";
  child.stdout.on("data", (part) => {
    if (text === "") setTimeout(() => child.kill("SIGKILL"), milliseconds);
    text += part;
  });
  child.stderr.on("data", (part) => {
    errors += part;
  });
  return new Promise((done, fail) => {
    child.on("close", () => {
      if (text === "") fail(new Error(`The program ended by itself: ${errors}`));
      // what was cut off in the middle was not said
      else done(text.split("\n").slice(0, -1));
    });
  });
}
