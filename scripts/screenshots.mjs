// npm run screenshots: starts the demo on data of its own and takes a picture of each main view.
// Options: --out FOLDER (default docs/screenshots), --theme shed, --only NAME
import { spawn } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { parseArgs } from "node:util";
import { chromium } from "@playwright/test";
import { buildWeb, built, HOUSE } from "./prepare.mjs";

const { values } = parseArgs({
  options: {
    out: { type: "string", default: join(HOUSE, "docs/screenshots") },
    theme: { type: "string", default: "bench" },
    only: { type: "string" },
  },
});
const choose = (label) => async (page) => {
  await page
    .getByRole("row", { name: new RegExp(`(^| )${label}( |$)`) })
    .first()
    .click();
};
const VIEWS = [
  { name: "railways", path: "railways", plain: true },
  {
    name: "equip-thread",
    path: "equip",
    act: async (page) => {
      await choose("M1/M2")(page);
      await page.keyboard.press("v");
      await page.getByRole("button", { name: "Terminal D1-1A" }).press("r");
      await page.getByRole("button", { name: "Terminal D1-1B" }).press("b");
      await page.getByLabel("Meter said").fill("-8.8");
      await page.getByRole("heading", { name: "Meter" }).click();
    },
  },
  {
    name: "equip-coil",
    path: "equip",
    act: async (page) => {
      await choose("Y2")(page);
      await page.getByRole("radio", { name: "Throwing" }).click();
    },
  },
  {
    name: "line",
    path: "line",
    act: async (page) => {
      await page.getByText("routes between ends").waitFor();
      await page.getByRole("radio", { name: /^Choose/ }).click();
      await page.getByText("Y4", { exact: true }).click();
      await page.keyboard.press("v");
    },
  },
  { name: "equip-list", path: "equip?view=list" },
  {
    name: "equip-sense",
    path: "equip?view=sense",
    act: choose("M1/M2"),
  },
  {
    name: "equip-schools",
    path: "equip?view=schools",
    act: async (page) => {
      await choose("L1")(page);
      await page.getByText("Slow motors with the decoder inside").waitFor();
    },
  },
  { name: "open-ends", path: "open-ends" },
  { name: "device-types", path: "types" },
  { name: "loom", path: "loom" },
  { name: "loom-tasks", path: "loom", act: (page) => page.getByRole("radio", { name: "Order of work" }).click() },
  {
    name: "routes",
    path: "routes",
    act: async (page) => {
      // the toggle that stays on is put right first, so that there is a pulse to see
      await page.getByRole("button", { name: "Make T2 a centre-off momentary toggle" }).click();
      await page.getByRole("radio", { name: /Road 4/ }).click();
      await page.getByText("ms wanted").waitFor();
      await page.getByRole("listitem").nth(3).waitFor();
    },
  },
  { name: "numbers", path: "numbers" },
  {
    name: "numbers-bus",
    path: "numbers",
    act: async (page) => page.getByRole("radio", { name: "Bus" }).click(),
  },
  {
    name: "numbers-events",
    path: "numbers",
    act: async (page) => {
      await page.getByRole("radio", { name: "Events" }).click();
      await page.getByRole("gridcell", { name: /^ON1-2 upon Barge alongside/ }).click();
    },
  },
  {
    name: "numbers-live",
    path: "numbers",
    act: async (page) => {
      await page.getByRole("radio", { name: "Live" }).click();
      await page.getByRole("button", { name: "Start", exact: true }).click();
      await page.getByText("running on this machine").waitFor({ timeout: 30_000 });
      await page.getByRole("button", { name: "Try all" }).click();
      await page.getByText("outputs answer to their address").waitFor();
      await page.getByRole("button", { name: "Ask all nodes" }).click();
      await page.getByText("taught as wanted").waitFor();
      await page.getByRole("button", { name: "make", exact: true }).click();
    },
  },
  {
    name: "prove",
    path: "prove",
    act: async (page) => {
      await page.getByRole("row", { name: /Y1/ }).click();
      await page.getByText("Normal coil").click();
    },
  },
  { name: "findings", path: "findings" },
  {
    name: "quick-sums",
    path: "quick-sums/diode-matrix",
    plain: true,
    act: async (page) => {
      await page.getByRole("radio", { name: "Road 2" }).click();
      await page.getByRole("radio", { name: "Without diodes" }).click();
      await page.getByRole("region", { name: "The matrix" }).scrollIntoViewIfNeeded();
      await page.mouse.move(800, 600);
      await page.mouse.wheel(0, 2000);
      await page.waitForTimeout(300);
    },
  },
];

buildWeb();
mkdirSync(values.out, { recursive: true });
const data = mkdtempSync(join(tmpdir(), "alderman-shots-"));
const server = spawn(process.execPath, [...built("main"), "--demo", "--port", "0", "--data", data], { cwd: HOUSE });
server.stderr.pipe(process.stderr);
const address = await new Promise((done) => server.stdout.on("data", (text) => done(/http:\S+/.exec(String(text))[0])));
const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-background-networking", "--disable-gpu"],
});
try {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  await context.addInitScript((theme) => localStorage.setItem("alderman-theme", theme), values.theme);
  const page = await context.newPage();
  page.on(
    "console",
    (message) => ["error", "warning"].includes(message.type()) && process.stderr.write(`console: ${message.text()}\n`),
  );
  page.on("pageerror", (error) => process.stderr.write(`page: ${error}\n`));
  const [railway] = await (await fetch(`${address}/api/railways`)).json();
  for (const { name, path, plain, act } of VIEWS.filter((view) => !values.only || view.name === values.only)) {
    await page.goto(`${address}/${plain ? path : `r/${railway.id}/${path}`}`);
    if (!plain)
      await page.waitForFunction(() =>
        /\d+\/\d+/.test(document.querySelector('[aria-label="Stages"]')?.textContent ?? ""),
      );
    await page.waitForTimeout(1200);
    if (act) await act(page);
    await page.waitForTimeout(900);
    // what remedies cure is solved one after the other
    await page.waitForFunction(() => !document.body.innerText.includes("Solving what cures it"));
    await page.mouse.move(640, 30);
    await page.screenshot({ path: resolve(values.out, `${name}.png`) });
  }
} finally {
  await browser.close();
  server.kill();
  rmSync(data, { recursive: true, force: true });
}
