// A large railway in the browser: how long until it is there, until something of it and all of it is checked, at first, from the list of
// railways, and when it is opened again as it stands; and an edit of it.
import { type RailwayRecord, writeRailwayFile } from "@alderman/core";
import type { Page } from "@playwright/test";
import { clubRailway } from "../scripts/clubRailway.ts";
import { inBrowser } from "./browser.ts";
import { line } from "./measure.ts";

const ROUNDS = 3;

/** What the link to the findings says, as text, since what compiles this file would leave helpers of its own in a function. */
const FOUND = `document.querySelector('a[aria-label^="Findings:"]')?.getAttribute("aria-label") ?? ""`;
const SOME = `/\\d/.test(${FOUND})`;
const ALL = `${SOME} && !/so far|before/.test(${FOUND})`;

/** Waits until something holds; asked from outside, since the page itself may evaluate no text. */
async function until(page: Page, holds: string): Promise<void> {
  while (!(await page.evaluate(holds))) await page.waitForTimeout(20);
}

/** Milliseconds from the key that ends an edit until the list shows it, and until all of the railway is checked. */
async function editOf(page: Page, metres: string) {
  await page
    .getByRole("button", { name: /^Run, m of / })
    .nth(1)
    .focus();
  await page.keyboard.type(metres);
  await page.evaluate(`
    window.pressed = 0;
    window.shown = 0;
    addEventListener("keydown", ({ key }) => { if (key === "Enter") window.pressed ||= performance.now(); }, { capture: true });
    const look = () => {
      const cells = [...document.querySelectorAll('button[aria-label^="Run, m of "]')];
      if (window.pressed && cells.some((cell) => cell.ariaLabel.endsWith(": ${metres}"))) window.shown = performance.now();
      else requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  `);
  const began = performance.now();
  await page.keyboard.press("Enter");
  await until(page, "window.shown > 0");
  await page.waitForTimeout(40);
  await until(page, ALL);
  return {
    shown: (await page.evaluate("window.shown - window.pressed")) as number,
    checked: performance.now() - began,
  };
}

/** How long it takes until a railway that is opened is there, until something of it and all of it is checked; in words. */
async function opened(page: Page, open: () => Promise<unknown>): Promise<string> {
  const began = performance.now();
  const since = () => `${((performance.now() - began) / 1000).toFixed(1)} s`;
  await open();
  await page.getByRole("heading", { name: "Equip" }).waitFor({ timeout: 120_000 });
  const heading = since();
  await until(page, SOME);
  const some = since();
  await until(page, ALL);
  return `${heading}, ${some}, ${since()}`;
}

/** Time for which somebody looks at the list of railways before one is opened, milliseconds. */
const LOOKED_AT_LIST = 3000;

/** The same of the railway that was changed last, opened from the list by a browser that knows nothing of it. */
async function openedFromList(page: Page, address: string, name: string): Promise<string> {
  const fresh = await page.context().browser()?.newContext({ viewport: page.viewportSize() });
  if (!fresh) throw new Error("There is no browser.");
  const list = await fresh.newPage();
  await list.goto(address);
  const link = list.getByRole("link", { name, exact: true });
  await link.waitFor();
  await list.waitForTimeout(LOOKED_AT_LIST);
  const times = await opened(list, () => link.click());
  await fresh.close();
  return times;
}

/** Time after which what was found of a railway is kept in the browser, milliseconds; with something to spare. */
const KEPT_AFTER = 3000;

async function benchOne(record: RailwayRecord): Promise<void> {
  await inBrowser(async (page, address) => {
    const body = writeRailwayFile(record);
    const taken = await fetch(`${address}/api/railways/import`, { method: "POST", body });
    const { id } = (await taken.json()) as { id: string };
    const url = `${address}/r/${id}/equip`;
    const what = `Browser, ${record.turnouts.length} turnouts`;
    line(`${what}: heading, first findings, all checked`, await opened(page, () => page.goto(url)));
    await page.waitForTimeout(KEPT_AFTER);
    line(`${what}, opened from the list: the same`, await openedFromList(page, address, record.railway.name));
    line(`${what}, opened again as it stands: the same`, await opened(page, () => page.goto(url)));
    await page.getByRole("tab", { name: "List" }).click();
    const edits: Awaited<ReturnType<typeof editOf>>[] = [];
    for (let round = 0; round < ROUNDS; round++) edits.push(await editOf(page, `1.${31 + round}`));
    const least = (of: keyof (typeof edits)[number]) => Math.min(...edits.map((each) => each[of])).toFixed(0);
    line(
      `${what}: a run typed, until it shows, and until all is checked`,
      `${least("shown")} ms, ${least("checked")} ms`,
    );
  });
}

export async function benchLarge(club: RailwayRecord): Promise<void> {
  await benchOne(club);
  await benchOne(clubRailway(400, 2_000));
}
