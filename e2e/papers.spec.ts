// Papers, parts, colours, order of work and changes by hand, as an owner uses them.
import { readFile } from "node:fs/promises";
import type { Download, Page } from "@playwright/test";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import readExcel from "read-excel-file/node";
import { AXE, violations } from "./axe.ts";
import { expect, openDemo, test } from "./server.ts";

async function toLoom(page: Page): Promise<void> {
  await page.getByRole("heading", { level: 1 }).click();
  await page.keyboard.press("g");
  await page.keyboard.press("l");
  await expect(page.getByRole("heading", { name: "Loom", exact: true })).toBeVisible();
}
const show = (page: Page, list: string) =>
  page.getByRole("radiogroup", { name: "List" }).getByRole("radio", { name: list }).click();

async function words(file: Download): Promise<string> {
  const document = await getDocument({ data: new Uint8Array(await readFile(await file.path())), verbosity: 0 }).promise;
  const pages = await Promise.all(
    Array.from({ length: document.numPages }, async (_, index) => (await document.getPage(index + 1)).getTextContent()),
  );
  return pages.flatMap(({ items }) => items.map((item) => ("str" in item ? item.str : ""))).join(" ");
}

test("labels, cut list and a workbook are saved as files that say what the loom says", async ({ page, server }) => {
  await openDemo(page, server);
  await toLoom(page);
  const files: Download[] = [];
  page.on("download", (file) => files.push(file));
  await page.getByRole("button", { name: "Papers" }).click();
  const dialog = page.getByRole("dialog", { name: "Papers" });
  await dialog.getByRole("button", { name: "Make PDF" }).click();
  await expect(dialog).toContainText("2 files are saved.", { timeout: 40_000 });
  await expect.poll(() => files.length).toBe(2);
  const byName = new Map(files.map((file) => [file.suggestedFilename(), file]));
  const cutList = await words(byName.get("cut-list.pdf")!);
  for (const words of ["Cut list", "Skerrin Ferry", "To cut, in all", "which is the least"])
    expect(cutList).toContain(words);
  // W245 is made and labelled already: no label is printed for it
  const labels = await words(byName.get("labels.pdf")!);
  expect(labels).toContain("W105");
  expect(labels).not.toContain("W245");
  await expect(dialog).toContainText(/labels would be too small to be read/);

  await dialog.getByRole("checkbox", { name: /^Buy list/ }).click();
  await dialog.getByRole("button", { name: "XLSX" }).click();
  await expect.poll(() => files.length, { timeout: 40_000 }).toBe(3);
  const book = await readExcel(await readFile(await files[2]!.path()));
  const buy = book.find(({ sheet }) => sheet === "buy list")!.data;
  expect(buy[0]).toEqual(expect.arrayContaining(["What", "Needed", "To buy"]));
  expect(buy.map(([what]) => what)).toContain("Stall motor with two contacts");
});

test("an own sheet of labels is held against its paper before anything is printed", async ({ page, server }) => {
  await openDemo(page, server);
  await toLoom(page);
  await page.getByRole("button", { name: "Papers" }).click();
  const dialog = page.getByRole("dialog", { name: "Papers" });
  await dialog.getByRole("combobox", { name: "Sheets of labels" }).click();
  await page.getByRole("option", { name: "my own, by its measures" }).click();
  await dialog.getByLabel("Labels across").fill("9");
  await dialog.getByLabel("Labels across").press("Enter");
  await expect(dialog.getByRole("alert")).toContainText(
    /9 labels end \d+(\.\d)? mm from the left, but the paper is 210 mm wide/,
  );
  await expect(dialog.getByRole("button", { name: "Make PDF" })).toBeDisabled();
  await dialog.getByLabel("Labels across").fill("4");
  await dialog.getByLabel("Labels across").press("Enter");
  await expect(dialog.getByRole("button", { name: "Make PDF" })).toBeEnabled();
});

test("what is on the shelf is taken off what is to be bought, and one turnout after the other is finished", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await toLoom(page);
  await show(page, "Parts");
  const row = page.getByRole("table", { name: "Parts" }).getByRole("row", { name: /^Stall motor with two contacts/ });
  await expect(row).toContainText("132.00");
  await page.getByLabel("On the shelf: Stall motor with two contacts").fill("4");
  await page.getByLabel("On the shelf: Stall motor with two contacts").press("Enter");
  await expect(row).toContainText("44.00");
  await page.getByLabel("Price: Stall motor with two contacts").fill("20");
  await page.getByLabel("Price: Stall motor with two contacts").press("Enter");
  await expect(row).toContainText("40.00");
  await page.getByRole("button", { name: "All of it was bought" }).click();
  await page.getByRole("combobox", { name: "Which parts" }).click();
  await page.getByRole("option", { name: "To finish the first ten" }).click();
  await expect(page.getByText("Nothing is missing for them.")).toBeVisible();
  await show(page, "Order of work");
  const tasks = page.getByRole("table", { name: "Order of work" });
  const first = tasks.getByRole("row").nth(1);
  await expect(first).toContainText("Cut: boards and supplies next");
  await page.getByRole("button", { name: "Done: Cut: boards and supplies" }).click();
  await expect(first).toContainText("Label: boards and supplies next");
  await page.getByRole("button", { name: "Show the wires of: Label: boards and supplies" }).click();
  await expect(page.getByRole("region", { name: "Chosen wires" })).toContainText(/\d+ chosen/);
});

test("a way, a core and a strip are changed by hand, and what cannot be is said", async ({ page, server }) => {
  await openDemo(page, server);
  await toLoom(page);
  await page.getByRole("button", { name: "Strip P1" }).click();
  const strip = page.getByRole("dialog", { name: "Strip P1" });
  await strip.getByLabel("Ways", { exact: true }).fill("3");
  await strip.getByLabel("Ways", { exact: true }).press("Enter");
  await expect(strip).toContainText(/P1 cannot have 3 ways: .* end beyond\. Move them first\./);
  await strip.getByRole("combobox", { name: "What is at way 11 goes to" }).click();
  await page.getByRole("option", { name: "P1-12" }).click();
  await expect(strip.getByRole("combobox", { name: "What is at way 12 goes to" })).toBeVisible();
  await page.keyboard.press("Escape");
  // the wire's flag opens its card
  await page
    .getByRole("button", { name: /^W40, its card$/ })
    .first()
    .click();
  const wire = page.getByRole("dialog", { name: /^W40, B4-C to P1-4/ });
  await wire.getByRole("combobox", { name: "Colour" }).click();
  await page.getByRole("option", { name: /^GY/ }).click();
  await expect(wire.getByRole("checkbox", { name: /Kept as it is/ })).toBeChecked();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("button", { name: "Terminal P1-11" })).toBeVisible();
});

test("a colour has one meaning, and a clash is named", async ({ page, server }) => {
  await openDemo(page, server);
  await toLoom(page);
  await show(page, "Colours");
  await page.getByRole("combobox", { name: "Colour: throws to normal" }).click();
  await page.getByRole("option", { name: /^RD/ }).click();
  await expect(page.getByText(/On this railway red is ".*" and ".*" too\./)).toBeVisible();
  await page.getByRole("button", { name: "throws to normal blue again" }).click();
  await expect(page.getByText(/On this railway red is/)).toBeHidden();
});

test("a net stands out in the drawing when it is pointed at, and every sum unfolds to what it is made of", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await toLoom(page);
  await page.getByRole("button", { name: "W43, its card" }).first().hover();
  const faded = page.locator('[data-cable] [data-net][opacity="0.22"]');
  const lit = page.locator('[data-cable] [data-net][opacity="1"]');
  // the tail, the core and the tail beyond it
  await expect(lit).toHaveCount(3);
  expect(await faded.count()).toBeGreaterThan(10);
  await page.getByRole("radio", { name: "Sums" }).click();
  const sum = page.getByRole("button", { name: /^Cores in use \d+$/ });
  await sum.click();
  await expect(page.getByRole("region", { name: "Sums" })).toContainText("of C1");
});

test("the lists and cards of the loom pass the checker for accessibility", async ({ page, server }) => {
  await page.addInitScript({ path: AXE });
  await openDemo(page, server);
  await toLoom(page);
  for (const list of ["Wires", "Order of work", "Strips, cables", "Parts", "Colours"]) {
    await show(page, list);
    await expect(page.getByRole("table").first()).toBeVisible();
    expect(await violations(page), list).toEqual([]);
  }
  for (const view of ["Turnouts", "Strips", "Nets", "Sums"]) {
    await page.getByRole("radiogroup", { name: "Work by" }).getByRole("radio", { name: view }).click();
    expect(await violations(page), view).toEqual([]);
  }
  for (const opened of ["Strip P1", "Cable C1, its card", "W43, its card"]) {
    await page.getByRole("button", { name: opened }).first().click();
    await expect(page.getByRole("dialog")).toBeVisible();
    expect(await violations(page), opened).toEqual([]);
    await page.keyboard.press("Escape");
  }
  await show(page, "Wires");
  await page.getByRole("button", { name: "Papers" }).click();
  await expect(page.getByRole("dialog")).toBeVisible();
  expect(await violations(page), "Papers").toEqual([]);
});
