// Frames of the interface on the railway of 400 turnouts, in Chromium: while its runs are edited one after the other.

import type { Page } from "@playwright/test";
import { inBrowser, reportFrames, watchFrames } from "./browser.ts";
import { line } from "./measure.ts";

export function benchFrames(): Promise<void> {
  return inBrowser(inPage);
}

async function inPage(page: Page, address: string): Promise<void> {
  const { id } = (await (
    await fetch(`${address}/api/railways/sample`, {
      method: "POST",
      headers: { "content-type": "application/json", origin: address },
      body: JSON.stringify({ sample: "club-400" }),
    })
  ).json()) as { id: string };
  const scripts: Promise<number>[] = [];
  page.on("requestfinished", (request) => {
    const isPage = request.resourceType() === "script" && !request.url().includes(".worker");
    if (isPage) scripts.push(request.sizes().then(({ responseBodySize }) => responseBodySize));
  });
  await page.goto(`${address}/r/${id}/equip`);
  await page.getByRole("heading", { name: /Thread of A1/ }).waitFor({ timeout: 60_000 });
  await page.waitForLoadState("networkidle");
  const bytes = (await Promise.all(scripts)).reduce((sum, each) => sum + each, 0);
  line("Script of the first page, as it goes over the wire", `${Math.round(bytes / 1000)} kB`);
  await page.waitForTimeout(4000);
  await watchFrames(page);
  const report = (what: string) => reportFrames(page, `400 turnouts, ${what}`);
  for (let press = 0; press < 8; press++) {
    await page.getByRole("radio", { name: press % 2 === 0 ? "Reverse" : "Normal" }).click();
    await page.waitForTimeout(400);
  }
  await report("turnouts thrown on the thread");
  await page.getByRole("tab", { name: "List" }).click();
  await page.waitForTimeout(1500);
  await page.evaluate("window.frameTimes.length = 0");
  for (let round = 1; round <= 6; round++) {
    await page.getByRole("button", { name: /^Run, m of A1:/ }).click();
    await page.keyboard.type(`1.${round}5`);
    await page.keyboard.press("Enter");
    await page.waitForTimeout(900);
  }
  await report("runs typed into the list");
  await page.evaluate("window.frameTimes.length = 0");
  await page.mouse.move(600, 500);
  for (let turn = 0; turn < 60; turn++) {
    await page.mouse.wheel(0, turn < 30 ? 400 : -400);
    await page.waitForTimeout(30);
  }
  await report("the list scrolled from end to end");
  await loom(page, id, address, report);
  const { used, held } = await workerMemory(page);
  line("Memory of the worker after all that", `${Math.round(used / 1e6)} MB in use, ${Math.round(held / 1e6)} MB held`);
}

/** The loom: its schedule scrolled, and all papers made. */
async function loom(page: Page, id: string, address: string, report: (what: string) => Promise<void>): Promise<void> {
  await page.goto(`${address}/r/${id}/loom`);
  const work = page.getByRole("region", { name: "Work" });
  await work.getByText(/joints, /).waitFor({ timeout: 60_000 });
  await page.getByRole("table", { name: "Wire schedule" }).getByRole("row").nth(5).waitFor({ timeout: 60_000 });
  await page.waitForTimeout(4000);
  await watchFrames(page);
  await page.mouse.move(450, 650);
  for (let turn = 0; turn < 60; turn++) {
    await page.mouse.wheel(0, turn < 30 ? 400 : -400);
    await page.waitForTimeout(30);
  }
  await report("the wire schedule scrolled from end to end");
  await page.getByRole("button", { name: "Papers" }).click();
  const dialog = page.getByRole("dialog", { name: "Papers" });
  for (const box of await dialog.getByRole("group", { name: "Papers" }).getByRole("checkbox").all())
    if ((await box.getAttribute("aria-checked")) !== "true") await box.click();
  const began = performance.now();
  await dialog.getByRole("button", { name: "Make PDF" }).click();
  await dialog.getByText(/\d+ files are saved\./).waitFor({ timeout: 180_000 });
  line("Browser, 400 turnouts, all nine papers as PDF", `${((performance.now() - began) / 1000).toFixed(1)} s`);
}

/** Bytes of heap and buffers that the page's workers use, and that they hold, as Chromium tells them. */
async function workerMemory(page: Page): Promise<{ used: number; held: number }> {
  const client = await page.context().newCDPSession(page);
  const workers: string[] = [];
  const heard = new Map<string, (usage: HeapUsage) => void>();
  client.on("Target.attachedToTarget", ({ sessionId, targetInfo }) => {
    if (targetInfo.type === "worker") workers.push(sessionId);
  });
  client.on("Target.receivedMessageFromTarget", ({ sessionId, message }) => {
    heard.get(sessionId)?.((JSON.parse(message) as { result: HeapUsage }).result);
  });
  await client.send("Target.setAutoAttach", { autoAttach: true, waitForDebuggerOnStart: false, flatten: false });
  await page.waitForTimeout(500);
  const message = JSON.stringify({ id: 1, method: "Runtime.getHeapUsage" });
  const sum = { used: 0, held: 0 };
  for (const sessionId of workers) {
    const answer = new Promise<HeapUsage>((done) => heard.set(sessionId, done));
    await client.send("Target.sendMessageToTarget", { sessionId, message });
    const { usedSize, totalSize, backingStorageSize = 0 } = await answer;
    sum.used += usedSize + backingStorageSize;
    sum.held += totalSize + backingStorageSize;
  }
  return sum;
}

interface HeapUsage {
  usedSize: number;
  totalSize: number;
  backingStorageSize?: number;
}
