// Frames of the interface on the railway of 400 turnouts, in Chromium: while its runs are edited one after the other.

import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import { TestServer } from "../e2e/server.ts";
import { line } from "./measure.ts";

export async function benchFrames(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "alderman-bench-"));
  const server = new TestServer(folder);
  await server.start();
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium",
    args: ["--no-sandbox", "--disable-background-networking", "--disable-component-update", "--disable-sync"],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const { id } = (await (
      await fetch(`${server.address}/api/railways/sample`, {
        method: "POST",
        headers: { "content-type": "application/json", origin: server.address },
        body: JSON.stringify({ sample: "club-400" }),
      })
    ).json()) as { id: string };
    await page.goto(`${server.address}/r/${id}/equip`);
    await page.getByRole("heading", { name: /Thread of A1/ }).waitFor({ timeout: 60_000 });
    await page.waitForTimeout(4000);
    await page.evaluate(() => {
      const frames: number[] = [];
      let before = performance.now();
      const tick = (now: number) => {
        frames.push(now - before);
        before = now;
        requestAnimationFrame(tick);
      };
      requestAnimationFrame(tick);
      Object.assign(window, { frames });
    });
    for (let press = 0; press < 8; press++) {
      await page.getByRole("button", { name: press % 2 === 0 ? "Reverse" : "Normal" }).click();
      await page.waitForTimeout(400);
    }
    const frames = await page.evaluate(() => (window as unknown as { frames: number[] }).frames);
    const long = frames.filter((each) => each > 50);
    line(
      `Browser, 400 turnouts thrown from the screen: ${frames.length} frames`,
      `longest ${Math.max(...frames).toFixed(0)} ms, ${long.length} over 50 ms`,
    );
  } finally {
    await browser.close();
    await server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
