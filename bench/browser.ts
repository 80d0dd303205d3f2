// Chromium for the bench: a server with data of its own, a page, and how long its frames take.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, type Page } from "@playwright/test";
import { TestServer } from "../e2e/server.ts";
import { line } from "./measure.ts";

/** Does something in a page of a browser, with a server that is gone afterwards. */
export async function inBrowser(work: (page: Page, address: string) => Promise<void>): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "alderman-bench-"));
  const server = new TestServer(folder);
  await server.start();
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium",
    args: ["--no-sandbox", "--disable-background-networking", "--disable-component-update", "--disable-sync"],
  });
  try {
    await work(await browser.newPage({ viewport: { width: 1280, height: 800 } }), server.address);
  } finally {
    await browser.close();
    await server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Begins to note how long frames take. */
export async function watchFrames(page: Page): Promise<void> {
  // as text, since what compiles this file would leave helpers of its own in a function
  await page.evaluate(`
    window.frameTimes = [];
    let before = performance.now();
    const tick = (now) => { window.frameTimes.push(now - before); before = now; requestAnimationFrame(tick); };
    requestAnimationFrame(tick);
  `);
}

/** Tells how long the frames took since they were watched. */
export async function reportFrames(page: Page, what: string): Promise<void> {
  const frames = (await page.evaluate("window.frameTimes")) as number[];
  const long = frames.filter((each) => each > 50);
  line(
    `Browser, ${what}: ${frames.length} frames`,
    `longest ${Math.max(...frames).toFixed(0)} ms, ${long.length} over 50 ms`,
  );
}
