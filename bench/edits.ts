// From an edit to what follows from it, in the browser's own worker: twelve kinds of edit on zones with supplies of their own
// and on shared ones.
import {
  addBoard,
  addTurnout,
  type EditGroup,
  type RailwayRecord,
  removeDevice,
  removeTurnouts,
  writeCell,
  writeRailwayFile,
} from "@alderman/core";
import type { Page } from "@playwright/test";
import { clubRailway, onSharedSupplies } from "../scripts/clubRailway.ts";
import { inBrowser } from "./browser.ts";
import { line } from "./measure.ts";

/** An edit as an owner makes it, and the edit of the time after. */
type Made = (record: RailwayRecord, round: number) => EditGroup | null;

/** What is typed into one cell of the list, in turns. */
const typed =
  (turnoutId: string, column: string, ...texts: string[]): Made =>
  (record, round) =>
    writeCell(record, turnoutId, column, texts[round % texts.length] ?? "");

/** Runs of which no two are alike, so that no pulse is remembered from an earlier round; what turns back finds its own there, as undo does. */
const RUNS = Array.from({ length: 60 }, (_, round) => (1.05 + round / 100).toFixed(2));

/** The board with the greatest number of the kind that is added. */
function newestBoard(record: RailwayRecord): string {
  const number = ({ label }: { label: string }) => Number(label.replace(/\D/g, ""));
  const boards = record.devices.filter(({ typeId }) => typeId === "stall-decoder-8");
  return boards.sort((a, b) => number(b) - number(a))[0]?.id ?? "";
}

/** Twelve kinds of edit, as speed is judged by them. */
const CASES: readonly [what: string, made: Made][] = [
  ["a coil motor's run", typed("a5", "run", ...RUNS)],
  ["a stall motor's run", typed("b6", "run", ...RUNS)],
  ["a lamp taken away and put back", typed("b6", "lamp", "", "lamp-two-colour")],
  ["a motor of another kind", typed("a5", "motor", "twin-coil-surface", "twin-coil-under-board")],
  ["a toggle that stays put", typed("a5", "control", "toggle-latching", "toggle-centre-off")],
  ["another output", typed("b6", "driver", "", "stall-decoder-8")],
  ["a frog fed by a contact", typed("b6", "frog", "S2", "")],
  ["another hand", typed("b6", "hand", "wye", "left")],
  ["another address", typed("b6", "address", "1900", "1901")],
  ["another label", typed("b6", "label", "B6 new", "B6")],
  [
    "a turnout added and removed",
    (record, round) => (round % 2 === 0 ? addTurnout(record, "ZZ1") : removeTurnouts(record, ["zz1"])),
  ],
  [
    "a board added and removed",
    (record, round) =>
      round % 2 === 0 ? addBoard(record, "stall-decoder-8") : removeDevice(record, newestBoard(record)),
  ],
];

/**
 * Notes in the page when its worker is asked for an overview, when the first and when all of it has come back, and how long the
 * longest question after that takes, for which a next edit would wait. As text, since what compiles this file would leave helpers
 * of its own in a function.
 */
const NOTED = `{
  const Plain = window.Worker;
  const seen = (window.seen = { open: new Map(), asked: 0, first: 0, all: 0, last: 0, longest: 0 });
  window.Worker = class extends Plain {
    constructor(...given) {
      super(...given);
      this.addEventListener("message", ({ data }) => {
        const question = seen.open.get(data.id);
        if (!question) return;
        seen.open.delete(data.id);
        const now = (seen.last = performance.now());
        if (seen.all) seen.longest = Math.max(seen.longest, now - question.began);
        if (question.what !== "overview" && question.what !== "more") return;
        seen.first ||= now;
        if (data.value?.share === 1) seen.all = now;
      });
    }
    postMessage(message, ...rest) {
      const what = message?.type === "APPLY" && message.path[0];
      const began = performance.now();
      if (what) seen.open.set(message.id, { what, began });
      if (what === "overview") Object.assign(seen, { asked: began, first: 0, all: 0, longest: 0 });
      super.postMessage(message, ...rest);
    }
  };
}`;

/** Ends when all is found, and either nothing is asked any more or remedies have been tried for a while; the page looks by itself, so that nothing from outside holds it up. */
const CALM = `new Promise((done) => {
  const since = (time) => performance.now() - time;
  const looking = setInterval(() => {
    if (!seen.all || (since(seen.all) < 1500 && (seen.open.size > 0 || since(seen.last) < 150))) return;
    clearInterval(looking);
    done();
  }, 100);
})`;

/** The least of some times, and their median: other work on the machine makes some longer, none shorter. */
function leastAndMedian(times: number[]): string {
  const sorted = times.sort((a, b) => a - b);
  const [least, median] = [sorted[0], sorted[Math.floor(sorted.length / 2)]];
  return least === undefined || median === undefined ? "none" : `${least.toFixed(0)} to ${median.toFixed(0)}`;
}

/** Edits of one kind, each made by another window: the server writes down with it what follows of the loom, and the page hears of it. */
async function edited(page: Page, railway: string, made: Made, rounds: number) {
  const times = { first: [] as number[], all: [] as number[], longest: [] as number[] };
  for (let round = 0; round < rounds; round++) {
    const { record, revision, stamp } = (await (await fetch(railway)).json()) as {
      record: RailwayRecord;
      revision: number;
      stamp: string;
    };
    const group = made(record, round);
    if (!group) throw new Error("An edit of the bench changes nothing.");
    await page.evaluate("seen.all = 0");
    const answer = await fetch(`${railway}/edits`, {
      method: "POST",
      headers: { "content-type": "application/json", origin: new URL(railway).origin },
      body: JSON.stringify({ revision, stamp, ...group }),
    });
    if (!answer.ok) throw new Error(await answer.text());
    await page.evaluate(CALM);
    const [first, all, longest] = (await page.evaluate(
      "[seen.first - seen.asked, seen.all - seen.asked, seen.longest]",
    )) as [number, number, number];
    times.first.push(first);
    times.all.push(all);
    times.longest.push(longest);
  }
  return times;
}

function benchOne(name: string, record: RailwayRecord, rounds: number): Promise<void> {
  return inBrowser(async (page, address) => {
    const taken = await fetch(`${address}/api/railways/import`, { method: "POST", body: writeRailwayFile(record) });
    const { id } = (await taken.json()) as { id: string };
    await page.addInitScript(NOTED);
    await page.goto(`${address}/r/${id}/equip`);
    await page.evaluate(CALM);
    for (const [what, made] of CASES) {
      const { first, all, longest } = await edited(page, `${address}/api/railways/${id}`, made, rounds);
      line(
        `Browser, ${name}, ${what}: first answer, all findings, longest question after that, ms`,
        `${leastAndMedian(first)}, ${leastAndMedian(all)}, ${leastAndMedian(longest)}`,
      );
    }
  });
}

export async function benchEdits(club: RailwayRecord): Promise<void> {
  await benchOne("400 turnouts", club, 24);
  await benchOne("400 turnouts on shared supplies", onSharedSupplies(club), 2);
  await benchOne("2000 turnouts", clubRailway(400, 2_000), 4);
}
