import { spawn } from "node:child_process";
import { mkdirSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";

const [which = "schools", list = "", theme = "bench", pos = "R", moment = "At rest"] = process.argv.slice(2);
const folder = mkdtempSync(join(tmpdir(), "gal-"));
const child = spawn(process.execPath, [
  "--import",
  "tsx",
  "server/src/main.ts",
  "--demo",
  "--port",
  "0",
  "--data",
  folder,
]);
const address = await new Promise((done) =>
  child.stdout.on("data", (t) => {
    const m = /http:\/\/[\d.:]+/.exec(String(t));
    if (m) done(m[0]);
  }),
);
const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox"] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on("console", (m) => m.type() === "error" && console.log("console", m.text()));
page.on("pageerror", (m) => console.log("pageerror", m));
await page.addInitScript((t) => localStorage.setItem("alderman-theme", t), theme);
await page.goto(`${address}/railways`);
await page
  .getByRole("listitem")
  .filter({ hasText: which === "schools" ? "schools side" : which })
  .getByRole("button")
  .click();
await page.waitForURL(/\/r\//);
const id = /\/r\/([^/]+)/.exec(page.url())[1];
await page.goto(`${address}/r/${id}/equip?view=thread`);
await page.waitForSelector("[data-turnout]");
mkdirSync("/tmp/gal", { recursive: true });
await page.getByRole("button", { name: moment, exact: true }).click();
const labels = list
  ? list.split(",")
  : await page.$$eval("[data-turnout]", (rows) => rows.map((r) => r.dataset.turnout));
for (const label of labels) {
  await page.locator(`[data-turnout="${label}"]`).click();
  if (pos === "R") await page.keyboard.press("v");
  else await page.keyboard.press("n");
  await page.waitForTimeout(350);
  await page.locator("svg[data-thread]").screenshot({ path: `/tmp/gal/${label}.png` });
}
if (process.env.FULL) await page.screenshot({ path: "/tmp/gal/full.png" });
await browser.close();
child.kill();
