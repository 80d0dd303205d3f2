// What may happen to a window: its server goes away, answers late, has other data, or the checking ends.
import type { Page } from "@playwright/test";
import { KEPT } from "./kept.ts";
import { beginRailway, expect, openDemo, openNumbers, type TestServer, test } from "./server.ts";

/** The demo's addresses, one of them changed to 40, and nothing that is done gets to the server. */
async function typedButNotSent(page: Page, server: TestServer) {
  await openNumbers(page, server);
  await page.route("**/edits", (route) => route.abort());
  await page.getByLabel("Address of D1-2").fill("40");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Not saved yet, kept in this browser/)).toBeVisible();
}

test("a backup put back under an open window is noticed, and what the window knows is kept as a copy", async ({
  page,
  server,
}) => {
  await openNumbers(page, server);
  await server.stop();
  server.keepBackup();
  await server.start();
  await page.getByLabel("Address of D1-2").fill("30");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Saved \d/)).toBeVisible({ timeout: 20_000 });
  await server.stop();
  server.putBackupBack();
  let requests = 0;
  page.on("request", (request) => request.url().includes("/api/") && requests++);
  await server.start();
  const way = page.getByRole("alertdialog", { name: "This window knows more than the file" });
  await expect(way).toBeVisible({ timeout: 30_000 });
  // nothing goes round in circles while the owner thinks
  const before = requests;
  await page.waitForTimeout(3000);
  expect(requests - before).toBeLessThan(10);
  await way.getByRole("button", { name: "Keep mine as a copy" }).click();
  await expect(page.getByRole("heading", { name: "Equip" })).toBeVisible();
  await page.getByRole("link", { name: /Numbers/ }).click();
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("30");
  await page.goto(`${server.address}/railways`);
  await expect(page.getByRole("link", { name: /^Skerrin Ferry/ })).toHaveCount(2);
});

test("the file's side can be taken instead", async ({ page, server }) => {
  await openDemo(page, server);
  await server.stop();
  server.keepBackup();
  await server.start();
  await page.getByRole("link", { name: /Numbers/ }).click();
  await page.getByLabel("Address of D1-2").fill("30");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Saved \d/)).toBeVisible({ timeout: 20_000 });
  await server.stop();
  server.putBackupBack();
  await server.start();
  await page.getByRole("button", { name: "Take the file's" }).click({ timeout: 30_000 });
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("22");
});

test("an edit that the server never got is still there after a reload, and is sent then", async ({ page, server }) => {
  await typedButNotSent(page, server);
  await page.reload();
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("40");
  await page.unroute("**/edits");
  await expect(page.getByText(/^Saved \d/)).toBeVisible({ timeout: 30_000 });
  await page.reload();
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("40");
});

test("what two windows set otherwise is told to both with both values, and mine can be taken", async ({
  page,
  server,
  context,
}) => {
  await typedButNotSent(page, server);
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByLabel("Address of D1-2").fill("41");
  await other.keyboard.press("Enter");
  await expect(other.getByText(/^Saved \d/)).toBeVisible({ timeout: 20_000 });
  const told = page.getByText(/address was set to 41 in another window, which stays, and to 40 here/).first();
  await expect(told).toBeVisible({ timeout: 30_000 });
  const there = other.getByText(/address was set to 40 in another window, and stays 41/).first();
  await expect(there).toBeVisible({ timeout: 30_000 });
  await expect(other.getByRole("button", { name: "Take theirs" })).toBeVisible();
  await page.unroute("**/edits");
  await page.getByRole("button", { name: "Take mine" }).click();
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("40");
  await expect(other.getByLabel("Address of D1-2")).toHaveValue("40", { timeout: 30_000 });
});

test("what was not kept is told in a window that gets nothing more of the program, and to the other when that can be", async ({
  page,
  server,
  context,
}) => {
  await openNumbers(page, server);
  for (const address of ["**/assets/**", "**/edits", "**/clash"]) await page.route(address, (route) => route.abort());
  await page.getByLabel("Address of D1-2").fill("40");
  await page.keyboard.press("Enter");
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByLabel("Address of D1-2").fill("41");
  await other.keyboard.press("Enter");
  await expect(
    page.getByText(/address was set to 41 in another window, which stays, and to 40 here/).first(),
  ).toBeVisible({
    timeout: 30_000,
  });
  await page.unroute("**/clash");
  await expect(other.getByText(/address was set to 40 in another window, and stays 41/).first()).toBeVisible({
    timeout: 30_000,
  });
});

test("a browser that keeps nothing is gone without", async ({ page, server }) => {
  await page.addInitScript(() => {
    const forbidden = () => {
      throw new DOMException("The owner forbids it.", "SecurityError");
    };
    for (const name of ["localStorage", "sessionStorage", "indexedDB"])
      Object.defineProperty(window, name, { get: forbidden });
  });
  await openDemo(page, server);
  await page.getByRole("link", { name: /Numbers/ }).click();
  await page.getByLabel("Address of D1-2").fill("40");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Saved \d/)).toBeVisible({ timeout: 20_000 });
  await page.reload();
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("40");
});

test("a railway whose answer comes late does not take the place of the one that is shown", async ({ page, server }) => {
  await beginRailway(page, server, "Shelf");
  await page.getByRole("button", { name: "new ..." }).focus();
  await page.keyboard.type("A1");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Turnout of A1: A1" })).toBeVisible();
  const railways = (await (await page.request.get(`${server.address}/api/railways`)).json()) as {
    id: string;
    name: string;
  }[];
  const demo = railways.find(({ name }) => name === "Skerrin Ferry");
  let release: () => void = () => undefined;
  const held = new Promise<void>((done) => {
    release = done;
  });
  await page.route(`**/api/railways/${demo?.id}`, async (route) => {
    await held;
    await route.continue();
  });
  await page.getByRole("link", { name: "Railways" }).click();
  await page.getByRole("link", { name: "Skerrin Ferry", exact: true }).click();
  await expect(page.getByText("Opening the railway ...")).toBeVisible();
  await page.goBack();
  await page.getByRole("link", { name: "Shelf", exact: true }).click();
  await expect(page.getByRole("button", { name: /Alderman Shelf/ })).toBeVisible();
  release();
  await page.keyboard.press("g");
  await page.keyboard.press("n");
  await expect(page.getByRole("heading", { name: "Numbers" })).toBeVisible();
  await page.waitForTimeout(1000);
  await expect(page.getByRole("button", { name: /Alderman Shelf/ })).toBeVisible();
  await expect(page.getByText("No decoder yet.", { exact: false })).toBeVisible();
});

test("a railway of which the findings are known is looked at once more to its end after another one was shown", async ({
  page,
  server,
}) => {
  await beginRailway(page, server, "Shelf");
  const shelf = /\/r\/([a-z0-9]+)/.exec(page.url())?.[1] ?? "";
  await expect.poll(() => page.evaluate(KEPT(shelf)), { timeout: 20_000 }).not.toBeNull();
  const show = async (name: string) => {
    await page.getByRole("link", { name: "Railways" }).click();
    await page.getByRole("link", { name, exact: true }).click();
    await expect(page.getByRole("heading", { name: "Equip", exact: true })).toBeVisible();
  };
  await show("Skerrin Ferry");
  await expect(page.getByRole("link", { name: "Findings: 5 wrong, 8 doubtful" })).toBeVisible();
  await show("Shelf");
  await page.getByRole("link", { name: /^Numbers/ }).click();
  await expect(page.getByText("No decoder yet.", { exact: false })).toBeVisible();
});

/** Notes when a worker said last how far its checking is, and what the link to the findings says. */
const BEATS_AND_TOLD = `
  window.beaten = 0;
  window.told = [];
  const Plain = window.Worker;
  window.Worker = class extends Plain {
    constructor(...given) {
      super(...given);
      this.addEventListener("message", ({ data }) => { if (data.beat !== undefined) window.beaten = performance.now(); });
    }
  };
  new MutationObserver(() => {
    const words = document.querySelector('a[aria-label^="Findings:"]')?.getAttribute("aria-label") ?? "";
    if (/\\d/.test(words) && words !== window.told.at(-1)) window.told.push(words);
  }).observe(document, { subtree: true, childList: true, attributes: true });
`;

test("the railway that was changed last is checked before it is opened", async ({ page, server }) => {
  await page.addInitScript(BEATS_AND_TOLD);
  await page.goto(server.address);
  await expect
    .poll(() => page.evaluate<boolean>("beaten > 0 && performance.now() - beaten > 3000"), { timeout: 60_000 })
    .toBe(true);
  await page.getByRole("link", { name: "Skerrin Ferry", exact: true }).click();
  await expect(page.getByRole("link", { name: "Findings: 5 wrong, 8 doubtful" })).toBeVisible();
  expect(await page.evaluate<string[]>("told")).toEqual(["Findings: 5 wrong, 8 doubtful"]);
});

test("the railway that was changed last is read before it is opened, and opened as it stands by then", async ({
  page,
  server,
  context,
}) => {
  const [demo] = (await (await page.request.get(`${server.address}/api/railways`)).json()) as { id: string }[];
  const path = `/api/railways/${demo?.id}`;
  const asked: string[] = [];
  page.on("request", (request) => asked.push(new URL(request.url()).pathname));
  const isRead = (each: string) => each === path;
  await page.goto(server.address);
  await expect.poll(() => asked.filter(isRead)).toHaveLength(1);
  const opened = page.getByRole("link", { name: "Findings: 5 wrong, 8 doubtful" });
  await page.getByRole("link", { name: "Skerrin Ferry", exact: true }).click();
  await expect(opened).toBeVisible();
  expect(asked.filter((each) => each.startsWith(path)).slice(0, 2)).toEqual([path, `${path}/version`]);
  expect(asked.filter(isRead)).toHaveLength(1);

  // another window changes it between the reading and the opening
  await page.goto(server.address);
  await expect.poll(() => asked.filter(isRead)).toHaveLength(2);
  const other = await context.newPage();
  await openNumbers(other, server);
  await other.getByLabel("Address of D1-2").fill("40");
  await other.keyboard.press("Enter");
  await expect(other.getByText(/^Saved \d/)).toBeVisible();
  await page.getByRole("link", { name: "Skerrin Ferry", exact: true }).click();
  await page.getByRole("link", { name: /^Numbers/ }).click();
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("40");
  const findings = (each: Page) => each.getByRole("link", { name: /^Findings: \d+ wrong, \d+ doubtful$/ });
  const now = (await findings(other).getAttribute("aria-label")) ?? "";
  await expect(findings(page)).toHaveAttribute("aria-label", now);
  expect(asked.filter(isRead)).toHaveLength(3);
});

test("checks that cannot be made are not called clear, and can be made again", async ({ page, server }) => {
  await page.route("**/derive.worker*", (route) => route.abort());
  await page.goto(server.address);
  await page.getByRole("link", { name: "Skerrin Ferry", exact: true }).click();
  await expect(page.getByText("Could not be checked", { exact: false }).first()).toBeVisible({ timeout: 20_000 });
  await expect(page.getByText("All checks are clear.")).toHaveCount(0);
  await page.unroute("**/derive.worker*");
  await page.getByRole("button", { name: "Check again" }).first().click();
  await expect(page.getByRole("link", { name: "Findings: 5 wrong, 8 doubtful" })).toBeVisible();
});

test("before anything is worked out nothing is counted and nothing is called right", async ({ page, server }) => {
  // a worker that never answers
  await page.route("**/derive.worker*", (route) =>
    route.fulfill({ contentType: "text/javascript", body: "self.onmessage = () => {};" }),
  );
  await page.goto(server.address);
  await page.getByRole("link", { name: "Skerrin Ferry", exact: true }).click();
  const stages = page.getByRole("navigation", { name: "Stages" });
  await expect(stages.getByRole("link", { name: /^Loom \.\.\./ })).toBeVisible();
  for (const [key, heading] of STAGE_KEYS) {
    await page.keyboard.press("g");
    await page.keyboard.press(key);
    await expect(page.getByRole("heading", { name: heading, exact: true, level: 1 })).toBeVisible();
    const main = page.getByRole("main");
    await expect(main.getByText(/Checking \.\.\.|being checked/).first()).toBeVisible();
    // what follows from the line is told by the record alone
    if (heading !== "Line") await expect(main.getByRole("img", { name: "agrees" })).toHaveCount(0);
    expect(await main.innerText()).not.toMatch(
      /\b0 (of|wires|joints|wrong|addresses)\b|Nothing is wrong|Every output|Findings 0/,
    );
  }
  // how many motors may move at once is not said before it is known what flows at rest
  await page.goto(`${page.url().replace(/\/[a-z-]+$/, "")}/equip?view=power`);
  await expect(page.getByRole("heading", { name: "Start of day" })).toBeVisible();
  await expect(page.getByRole("main").getByText("Checking ...")).toBeVisible();
  await expect(page.getByRole("table", { name: "Start of day" })).toHaveCount(0);
  // what moves wires is refused in a sentence, not dropped
  await page.getByRole("button", { name: /^Alderman / }).click();
  await page.getByLabel("Cores go by").click();
  await page.getByRole("option", { name: "role: same colour" }).click();
  await expect(page.getByText("The wires are still being worked out.").first()).toBeVisible();
});

/** Stages that say something of what is worked out, with the keys that lead there. */
const STAGE_KEYS = [
  ["k", "Line"],
  ["e", "Equip"],
  ["y", "Routes"],
  ["l", "Loom"],
  ["n", "Numbers"],
  ["p", "Prove"],
  ["f", "Findings"],
] as const;
