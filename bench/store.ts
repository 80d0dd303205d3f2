// What the store takes for the requests of a window, on railways of three sizes, and what it keeps in memory.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";
import { type Edit, putEdit, type RailwayRecord, type Steps, writeCell } from "@alderman/core";
import { clubRailway } from "../scripts/clubRailway.ts";
import { openDatabase } from "../server/src/store/database.ts";
import { Store } from "../server/src/store/store.ts";
import { line } from "./measure.ts";

function benchRailway(record: RailwayRecord): void {
  const folder = mkdtempSync(join(tmpdir(), "alderman-bench-"));
  const left: Steps<void>[] = [];
  const store = new Store(openDatabase(folder), (later) => left.push(later));
  const times: [string, number][] = [];
  const timed = <T>(what: string, work: () => T): T => {
    const began = performance.now();
    const made = work();
    times.push([what, performance.now() - began]);
    return made;
  };
  const id = timed("taken in", () => store.create(record));
  const now = () => store.open(id);
  /** What is left for later, step by step: others wait for one of them at most. */
  const planned = (what: string) => {
    let [longest, all] = [0, 0];
    for (const steps of left.splice(0)) {
      for (let isDone = false; !isDone; ) {
        const began = performance.now();
        isDone = steps.next().done ?? false;
        const took = performance.now() - began;
        [longest, all] = [Math.max(longest, took), all + took];
      }
    }
    times.push([`planned after ${what}`, all], ["the longest step of that", longest]);
  };
  const apply = (what: string, edits: readonly Edit[]) => {
    const { revision } = now();
    timed(what, () => store.apply(id, { revision }, { words: what, edits: [...edits] }));
    if (left.length > 0) planned(what);
  };
  const turn = (what: string, direction: "undo" | "redo") => {
    const { revision } = now();
    timed(what, () => store[direction](id, { revision }));
    if (left.length > 0) planned(what);
  };
  const run = (index: number, metres: string) => {
    const { turnouts } = now().record;
    return writeCell(now().record, turnouts[index]?.id ?? "", "run", metres)?.edits ?? [];
  };
  timed("opened", now);
  timed("listed", () => store.list());
  timed("listed again", () => store.list());
  left.push(store.planAhead(id));
  planned("it was opened");
  for (const index of [3, 4, 5]) apply("a run", run(index, "1.23"));
  apply(
    "every device",
    now().record.devices.map((device) => putEdit("device", { ...device, note: "seen" })),
  );
  apply(
    "every turnout's run",
    now().record.turnouts.map((turnout) => putEdit("turnout", { ...turnout, runMetres: 2 })),
  );
  turn("undone", "undo");
  turn("redone", "redo");
  timed("where it stands", () => store.version(id));
  line(
    `Store, ${record.turnouts.length} turnouts, ${record.devices.length} devices, ms`,
    times.map(([what, time]) => `${what} ${time.toFixed(0)}`).join(", "),
  );
  rmSync(folder, { recursive: true, force: true });
}

/** Takes out of memory what nobody holds any more, so that what is left is what is kept. */
function collectGarbage(): void {
  setFlagsFromString("--expose-gc");
  runInNewContext("gc")();
}

/** Memory with fifteen railways full of photos, all of them opened. */
function benchMemory(record: RailwayRecord): void {
  const folder = mkdtempSync(join(tmpdir(), "alderman-bench-"));
  const photo = `data:image/jpeg;base64,${"/9j/4AAQSkZJRgABAQ".padEnd(118_000, "A")}`;
  const photos = record.turnouts.slice(0, 60).map(({ id }, index) => ({
    ...{ id: `photo-${index}`, turnoutId: id, deviceId: null, caption: `Joint ${index}`, picture: photo },
    at: "2026-05-12T20:14:00.000Z",
  }));
  const store = new Store(openDatabase(folder));
  const ids = Array.from({ length: 15 }, () => store.create({ ...record, photos }));
  for (const id of ids) store.open(id);
  collectGarbage();
  const { heapUsed, rss } = process.memoryUsage();
  line(
    "Store, 15 railways of 400 turnouts with 60 photos of 120 kB each, opened",
    `${Math.round(heapUsed / 1e6)} MB of heap, ${Math.round(rss / 1e6)} MB in all`,
  );
  rmSync(folder, { recursive: true, force: true });
}

export function benchStore(club: RailwayRecord): void {
  benchRailway(club);
  for (const turnouts of [2_000, 5_000]) benchRailway(clubRailway(400, turnouts));
  benchMemory(club);
}
