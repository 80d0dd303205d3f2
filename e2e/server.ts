import { type ChildProcess, spawn } from "node:child_process";
import { cpSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test as base, expect, type FileChooser, type Locator, type Page } from "@playwright/test";

const HOUSE = join(import.meta.dirname, "..");
/** The program as it is built for `npm run demo`. */
const SERVER = ["--enable-source-maps", "server/dist/main.js"];

/** A server of its own on data of its own, as `npm run demo` starts it. */
export class TestServer {
  private child: ChildProcess | null = null;
  address = "";

  constructor(private readonly folder: string) {}

  async start(): Promise<void> {
    const port = this.address === "" ? "0" : new URL(this.address).port;
    const program = [...SERVER, "--demo", "--port", port, "--data", this.folder];
    const child = spawn(process.execPath, program, { cwd: HOUSE });
    this.child = child;
    this.address = await new Promise<string>((done, fail) => {
      child.stdout.on("data", (text) => done(/http:\/\/[\d.:]+/.exec(String(text))?.[0] ?? ""));
      child.stderr.on("data", (text) => fail(new Error(String(text))));
    });
  }

  /** Copies the data while the server is stopped, as somebody keeps a backup. */
  keepBackup(): void {
    cpSync(this.folder, `${this.folder}-backup`, { recursive: true });
  }

  putBackupBack(): void {
    rmSync(this.folder, { recursive: true });
    cpSync(`${this.folder}-backup`, this.folder, { recursive: true });
  }

  async stop(signal: "SIGTERM" | "SIGKILL" = "SIGTERM"): Promise<void> {
    const child = this.child;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise((done) => child.on("exit", done));
    child.kill(signal);
    await ended;
  }
}

const NOT_LOADED = /Failed to load resource|ERR_|Failed to fetch dynamically imported module/;

/** Tests with a server of their own; any error that the page reports fails them. */
export const test = base.extend<{ server: TestServer; quiet: undefined }>({
  // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the fixtures used from the pattern
  server: async ({}, use) => {
    const folder = mkdtempSync(join(tmpdir(), "alderman-browser-"));
    const server = new TestServer(folder);
    await server.start();
    await use(server);
    await server.stop();
    for (const each of [folder, `${folder}-backup`]) rmSync(each, { recursive: true, force: true });
  },
  quiet: [
    async ({ page }, use) => {
      const errors: string[] = [];
      page.on("pageerror", (error) => {
        // the server may end before the page does, in the middle of loading a part
        if (!NOT_LOADED.test(String(error))) errors.push(String(error));
      });
      page.on("console", (message) => {
        // a refused request is what some tests are about
        if (message.type() === "error" && !NOT_LOADED.test(message.text())) errors.push(message.text());
      });
      await use(undefined);
      expect(errors).toEqual([]);
    },
    { auto: true },
  ],
});

export { expect };

/** Opens the demo railway. */
export async function openDemo(page: Page, server: TestServer): Promise<void> {
  await page.goto(server.address);
  await page.getByRole("link", { name: "Skerrin Ferry", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Thread of M1/M2" })).toBeVisible();
}

/** Opens the demo's numbers, which are there. */
export async function openNumbers(page: Page, server: TestServer): Promise<void> {
  await openDemo(page, server);
  await page.getByRole("link", { name: /Numbers/ }).click();
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("22");
}

/** Begins a new railway and stands in its empty list of turnouts. */
export async function beginRailway(page: Page, server: TestServer, name: string): Promise<void> {
  await page.goto(server.address);
  await page.getByLabel("What is it called?").fill(name);
  await page.getByRole("button", { name: "Begin" }).click();
  await expect(page.getByText("type a label and press Enter")).toBeVisible();
}

/** Types into the cell that has the focus, takes what is offered, and goes to the right. */
export async function typeCell(page: Page, text: string, key: "Tab" | "Enter" = "Tab"): Promise<void> {
  await page.keyboard.type(text);
  await page.keyboard.press(key);
}

/** Chooses from a list that opens. */
export async function pick(page: Page, list: Locator, text: string | RegExp): Promise<void> {
  await list.click();
  await page.getByRole("option", { name: text, exact: typeof text === "string" }).click();
}

/** Presses every offer to move a made wire to where the plan has it, one after the other, until there is none. */
export async function moveAllMade(page: Page): Promise<void> {
  const move = page.getByRole("button", { name: /^Move W\d+ from/ });
  await expect(move.first()).toBeVisible();
  while ((await move.count()) > 0) {
    const name = await move.first().innerText();
    await move.first().click();
    await expect(page.getByRole("button", { name, exact: true })).toHaveCount(0);
    // others are offered again when they have been solved
    await page.getByText("All checks are clear.").or(move.first()).first().waitFor();
  }
}

type Given = Parameters<FileChooser["setFiles"]>[0];

/** Presses a button that asks for a file, and gives it one. */
export async function giveFile(page: Page, button: Locator, file: Given): Promise<void> {
  const asked = page.waitForEvent("filechooser");
  await button.click();
  await (await asked).setFiles(file);
}

/** Drags one thing onto another, as a hand does: a little at first. */
export async function drag(page: Page, from: Locator, to: Locator): Promise<void> {
  const start = await from.boundingBox();
  if (!start) throw new Error("what is to be dragged is not there");
  await page.mouse.move(start.x + 12, start.y + start.height / 2);
  await page.mouse.down();
  await page.mouse.move(start.x + 24, start.y + start.height / 2, { steps: 3 });
  // what is said of the thing that was picked up may have moved the place
  const end = await to.boundingBox();
  if (!end) throw new Error("there is nowhere to drop it");
  await page.mouse.move(end.x + end.width / 2, end.y + end.height / 2, { steps: 8 });
  await page.mouse.up();
}

/** Opens a sample from the list of railways. */
export async function openSample(page: Page, address: string, words: RegExp): Promise<void> {
  await page.goto(`${address}/railways`);
  await page.getByRole("listitem").filter({ hasText: words }).getByRole("button").click();
  await page.waitForURL(/\/r\//);
}
