// Blocks, signals, feeders and boards on the line: set by hand and by keys, seen as trains stand, and what follows from them.
import type { Page } from "@playwright/test";
import { AXE, violations } from "./axe.ts";
import { beginRailway, expect, openDemo, type TestServer, test } from "./server.ts";

const sheet = (page: Page) => page.getByRole("application", { name: "Line diagram" });
const mark = (page: Page, name: string) => sheet(page).locator("[data-mark]").filter({ hasText: name });
const card = (page: Page) => page.getByRole("region", { name: "Chosen mark" });
const side = (page: Page, name: string) => page.getByRole("radio", { name, exact: true }).click();

async function openLine(page: Page, server: TestServer): Promise<void> {
  await openDemo(page, server);
  await page.getByRole("link", { name: /^Line/ }).click();
  await page.getByRole("button", { name: "Let go of it" }).click();
}

test("a train in a block turns the signal before it red, and each red has its cause", async ({ page, server }) => {
  await openLine(page, server);
  await side(page, "Signals");
  const row = (name: string) =>
    page.getByRole("table", { name: "Signals" }).getByRole("row", { name: new RegExp(`^${name} `) });
  await expect(row("LS")).toContainText("green");
  await expect(row("LX")).toContainText("red: B1 lies for its other leg");
  await expect(row("YS")).toContainText("yellow: the track ends at a buffer");
  await side(page, "Blocks");
  await page.getByRole("checkbox", { name: "A train is in Linkspan" }).click();
  await expect(sheet(page).locator('[data-occupied="Linkspan"]').first()).toBeAttached();
  await expect(mark(page, "LS")).toHaveAttribute("data-aspect", "red");
  await side(page, "Signals");
  await expect(row("LS")).toContainText("red: Linkspan is occupied");
  // thrown for the loop's other leg, the train may come out
  await sheet(page).getByText("B1", { exact: true }).click();
  await page.keyboard.press("v");
  await page.getByRole("button", { name: "Let go of it" }).click();
  await expect(row("LX")).toContainText("green");
  // held from the panel, and what would be shown were something broken
  await mark(page, "LS").click();
  await card(page).getByRole("checkbox", { name: "held at danger" }).click();
  await expect(card(page)).toContainText("red: it is held");
  await card(page).getByRole("checkbox", { name: "held at danger" }).click();
  await expect(card(page)).toContainText("the detector has no power: green, which is false");
});

test("blocks, signals, feeders and boards are set by hand and by keys, named, turned and taken away", async ({
  page,
  server,
}) => {
  await beginRailway(page, server, "Shelf");
  await page.getByRole("link", { name: /^Line/ }).click();
  await sheet(page).focus();
  for (let step = 0; step < 12; step++) await page.keyboard.press("Shift+ArrowRight");
  await page.keyboard.press("Enter");
  // keys: a block on the step that the cursor last went over
  await page.keyboard.press("k");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Block B1" })).toBeVisible();
  await card(page).getByRole("textbox", { name: "Name of the block" }).fill("Platform");
  await card(page).getByRole("textbox", { name: "Name of the block" }).press("Enter");
  await expect(mark(page, "Platform")).toBeVisible();
  await expect(card(page)).toContainText("1.20 m");
  // a gap parts it, and its block is as long as the rest
  await sheet(page).focus();
  await page.keyboard.press("i");
  for (let step = 0; step < 4; step++) await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("Enter");
  await expect(card(page)).toContainText("0.35 m");
  await page.getByRole("combobox", { name: "What to mark" }).waitFor({ state: "detached" });
  await page.keyboard.press("k");
  await page.getByRole("combobox", { name: "What to mark" }).click();
  await page.getByRole("option", { name: "Signal" }).click();
  await sheet(page).focus();
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Signal S1" })).toBeVisible();
  await expect(card(page)).toContainText("It guards Platform");
  await page.getByRole("button", { name: "For the other direction" }).click();
  await expect(card(page)).toContainText("it guards no block");
  await page.getByRole("button", { name: "Take away" }).click();
  await expect(mark(page, "S1")).toHaveCount(0);
  await page.keyboard.press("Control+z");
  await expect(mark(page, "S1")).toBeVisible();
  // a feeder on one side of the gap, and the other side is told to be dead
  await page.getByRole("combobox", { name: "What to mark" }).click();
  await page.getByRole("option", { name: "Feeder" }).click();
  await sheet(page).focus();
  await page.keyboard.press("Enter");
  await expect(card(page)).toContainText("J on the left rail, K on the right");
  await page.getByRole("button", { name: "Let go of it" }).click();
  await page.getByRole("radio", { name: /^Findings/ }).click();
  await expect(page.getByRole("region", { name: "Findings on the line" })).toContainText("is parted from all feeders");
});

test("ways from block to block come shortest first, and the trains' times are told and drawn", async ({
  page,
  server,
}) => {
  await openLine(page, server);
  await side(page, "Routes");
  const choose = async (label: string, option: string) => {
    await page.getByRole("combobox", { name: label, exact: true }).click();
    await page.getByRole("option", { name: option, exact: true }).click();
  };
  await choose("From", "Loop, west");
  await choose("To", "Linkspan");
  await expect(page.getByText("No train comes from the one to the other without turning back.")).toBeVisible();
  await choose("To", "road 4");
  const rows = page.getByRole("table", { name: "Routes" }).getByRole("row");
  await expect(rows.nth(1)).toContainText("B1 N, M1 N, Y1 R, Y2 N, Y3 N, Y4 R");
  const metres = async (row: number) => Number(await rows.nth(row).getByRole("cell").nth(2).textContent());
  await expect(rows).toHaveCount(3);
  expect(await metres(1)).toBeLessThanOrEqual(await metres(2));
  await choose("Over", "M2");
  await expect(rows).toHaveCount(0);
  await side(page, "Trains");
  await expect(page.getByRole("region", { name: "Trains on the line" })).toContainText(
    "It comes to the normal leg after 1.85 m",
  );
  await mark(page, "Loop, west").click();
  await expect(sheet(page).locator("[data-times]")).toContainText("1.85 m");
});

test("the thread of the chosen turnout slides up over the line, and is let down again", async ({ page, server }) => {
  await openLine(page, server);
  await sheet(page).getByText("Y1", { exact: true }).click();
  await page.keyboard.press("t");
  await expect(page.getByRole("dialog")).toContainText("Thread of Y1");
  await expect(sheet(page)).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
});

test("blocks and signals can be used by those who listen or see badly", async ({ page, server }) => {
  await page.addInitScript({ path: AXE });
  await openLine(page, server);
  for (const name of ["Blocks", "Signals", "Trains", "Rails", "Routes"]) {
    await side(page, name);
    expect(await violations(page)).toEqual([]);
  }
  await mark(page, "LS").click();
  await expect(card(page)).toBeVisible();
  expect(await violations(page)).toEqual([]);
});
