// The line: what it means and what follows, from an edit to its findings, and dragged and panned in Chromium.
import {
  blocksOnLine,
  completed,
  Derived,
  Draft,
  edit,
  emptyRecord,
  followsFrom,
  layTrack,
  lineLayout,
  moveTracks,
  type RailwayRecord,
  removeMark,
  routesBetweenEnds,
  routesIn,
  signalsOn,
  waysBetween,
} from "@alderman/core";
import type { Page } from "@playwright/test";
import { inBrowser, reportFrames, watchFrames } from "./browser.ts";
import { line, measure } from "./measure.ts";

/** A ladder yard of so many roads at both ends. */
function yard(roads: number): RailwayRecord {
  const strokes: [number, number][][] = [
    [
      [0, 0],
      [200, 0],
    ],
  ];
  for (let road = 1; road < roads; road++) {
    strokes.push([
      [9 + road, 1 - road],
      [10 + road, -road],
      [189 - road, -road],
      [190 - road, 1 - road],
    ]);
  }
  // the leads go up the ladders
  strokes.push(
    [
      [10, 0],
      [9 + roads, 1 - roads],
    ],
    [
      [190, 0],
      [191 - roads, 1 - roads],
    ],
  );
  return strokes.reduce(
    (record, points) => edit(record, layTrack(record, points).group?.edits ?? []).record,
    emptyRecord("Yard"),
  );
}

export async function benchLine(club: RailwayRecord): Promise<void> {
  const ladder = yard(24);
  const { line: graph, junctions } = lineLayout(ladder);
  const routes = measure(9, () => [...routesIn(graph)].length);
  line(
    `Yard of 24 roads with a ladder at each end, ${junctions.length} turnouts: all ${[...routesIn(graph)].length} routes`,
    `${routes.toFixed(1)} ms`,
  );
  const meant = measure(9, () => void lineLayout({ ...club, tracks: [...club.tracks] }));
  line(`The line of ${club.spots.length} turnouts, what it means, from nothing`, `${meant.toFixed(1)} ms`);
  const follows = measure(9, () => {
    const anew = { ...club, tracks: [...club.tracks] };
    void followsFrom(anew);
    void routesBetweenEnds(anew);
  });
  line("The same with routes, sections that turn trains and crossovers", `${follows.toFixed(1)} ms`);
  let derived = new Derived(completed(club));
  void derived.findings;
  const times: number[] = [];
  for (let round = 0; round < 12; round++) {
    const { record } = derived;
    const group = moveTracks(record, [record.tracks[1]?.id ?? ""], { by: [round % 2 === 0 ? 1 : -1, 0] });
    const changed = edit(record, group?.edits ?? []).record;
    const began = performance.now();
    derived = new Derived(changed, derived);
    void derived.findings;
    times.push(performance.now() - began);
  }
  line(
    "400 turnouts, a stretch of the line moved: the edit to all findings",
    `${times.sort((a, b) => a - b)[6]?.toFixed(0)} ms`,
  );
  benchBlocks(club);
  await inBrowser(inPage);
}

/** The club's line with a block and a signal for every twelve steps of its long stretches. */
function withBlocks(club: RailwayRecord): RailwayRecord {
  const draft = new Draft(club);
  for (const { points } of club.tracks) {
    const [[x, y] = [0, 0], [right, down] = [0, 0]] = points;
    if (y !== down) continue;
    for (let at = x + 5; at + 2 < right; at += 12) {
      const step = { x: at, y, toX: at + 1, toY: y };
      const id = (what: string) => `${what}-${at}-${y}`.replaceAll("--", "-m");
      draft.put("mark", { id: id("gap"), what: "gap", ...step, rails: "both" });
      draft.put("mark", { id: id("block"), what: "block", ...step, x: at + 1, toX: at + 2, name: `${at}/${y}` });
      draft.put("mark", { id: id("signal"), what: "signal", ...step, name: `S${at}/${y}`, deviceId: null });
    }
  }
  return draft.record;
}

function benchBlocks(club: RailwayRecord): void {
  const drawn = withBlocks(club);
  const count = (what: string) => drawn.marks.filter((mark) => mark.what === what).length;
  const anew = () => ({ ...drawn, tracks: [...drawn.tracks] });
  const state = { occupied: new Set<string>(), held: new Set<string>(), lies: () => "normal" as const };
  const blocks = measure(9, () => void blocksOnLine(anew()));
  line(`The same line with ${count("block")} blocks, its rails and blocks from nothing`, `${blocks.toFixed(1)} ms`);
  const signals = measure(9, () => void signalsOn(drawn, state));
  line(`What its ${count("signal")} signals show`, `${signals.toFixed(1)} ms`);
  const { ends } = lineLayout(drawn);
  const [first, last] = [ends[0]?.id ?? "", ends[1]?.id ?? ""];
  const ways = measure(9, () => {
    let found = 0;
    for (const _ of waysBetween(drawn, { from: first, to: last })) if (++found === 20) break;
  });
  line("The 20 shortest ways between two of its ends", `${ways.toFixed(1)} ms`);
  let derived = new Derived(completed(drawn));
  void derived.findings;
  const times: number[] = [];
  for (let round = 0; round < 12; round++) {
    const { record } = derived;
    const gap = record.marks.find(({ what }) => what === "gap");
    const changed = edit(record, (gap && removeMark(record, gap.id)?.edits) ?? []).record;
    const began = performance.now();
    derived = new Derived(changed, derived);
    void derived.findings;
    times.push(performance.now() - began);
  }
  line(
    "400 turnouts with blocks and signals, a gap taken away: the edit to all findings",
    `${times.sort((a, b) => a - b)[6]?.toFixed(0)} ms`,
  );
}

async function inPage(page: Page, address: string): Promise<void> {
  const made = await fetch(`${address}/api/railways/sample`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: address },
    body: JSON.stringify({ sample: "club-400" }),
  });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`${address}/r/${id}/line`);
  await page.getByText("routes between ends").waitFor({ timeout: 60_000 });
  await page.waitForTimeout(5000);
  await watchFrames(page);
  await page.mouse.move(500, 300);
  for (let turn = 0; turn < 40; turn++) {
    await page.mouse.wheel(0, turn < 20 ? -60 : 60);
    await page.waitForTimeout(25);
  }
  await page.mouse.down({ button: "middle" });
  for (let step = 0; step < 60; step++) await page.mouse.move(500 + step * 4, 300 + (step % 20) * 4);
  await page.mouse.up({ button: "middle" });
  await reportFrames(page, "400 turnouts, the line zoomed and panned");
  await page.evaluate("window.frameTimes.length = 0");
  await page.mouse.move(400, 250);
  await page.mouse.down();
  for (let step = 0; step < 60; step++) {
    await page.mouse.move(400 + step * 3, 250 + step * 2);
    await page.waitForTimeout(12);
  }
  await page.keyboard.press("Escape");
  await page.mouse.up();
  await reportFrames(page, "400 turnouts, track dragged with what would come into being");
}
