import { truncateSync, writeFileSync } from "node:fs";
import { beginRailway, expect, giveFile, openDemo, test } from "./server.ts";

const csv = (text: string) => ({ name: "turnouts.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
const json = (text: string) => ({ name: "railway.json", mimeType: "application/json", buffer: Buffer.from(text) });

test("a malformed table names row and column, and nothing is taken over", async ({ page, server }) => {
  await beginRailway(page, server, "Tables");
  const open = (text: string) => giveFile(page, page.getByRole("button", { name: "Import CSV" }), csv(text));
  const problem = page.getByRole("alert");
  await open("label,hand\nA1,left\nA2,sideways\n");
  await expect(problem).toContainText(
    'Nothing was imported. Row 3, hand: "sideways" is no hand; type left, right or wye.',
  );
  await open("label,speed\nA1,9\n");
  const asks = page.getByRole("dialog", { name: "What do these columns hold?" });
  await expect(asks).toContainText("speed as 9");
  await asks.getByRole("button", { name: "Close" }).click();
  await open('label,name\nA1,"never closed\n');
  await expect(problem).toContainText(/Row \d: a quotation mark is not closed/);
  await expect(page.getByRole("row")).toHaveCount(2);
  await open("label;hand\nA1;left\nA2;right\n");
  await expect(page.getByRole("row")).toHaveCount(4);
  await expect(problem).toHaveCount(0);
});

test("a table is pasted from a spreadsheet, with its equipment", async ({ page, server }) => {
  await beginRailway(page, server, "Pasted");
  await page.getByRole("button", { name: "new ..." }).focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData("text/plain", "label\tmotor\tdriver\nA1\tstall-motor\tstall-decoder-8\nA2\tstall-motor\tD1\n");
    document.activeElement?.dispatchEvent(
      new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  await expect(page.getByRole("button", { name: "Driver of A2: D1-2" })).toBeVisible();
});

test("what cannot be typed is said, and what was typed stays", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("tab", { name: "List" }).click();
  await page.getByRole("button", { name: /^Run, m of L1:/ }).focus();
  await page.keyboard.type("far");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText('"far" is no length; type metres, 0.05 to 200.');
  await expect(page.getByRole("combobox")).toHaveValue("far");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Run, m of L1: 2.1" })).toBeVisible();
});

test("a broken, foreign, too new or hostile railway file gets a sentence", async ({ page, server }, testInfo) => {
  await page.goto(server.address);
  const open = (text: string) =>
    giveFile(page, page.getByRole("button", { name: "Choose a railway file" }), json(text));
  const problem = page.getByRole("alert");
  const good = await (await page.request.get(`${server.address}/api/railways`)).json();
  const file = await (await page.request.get(`${server.address}/api/railways/${good[0].id}/file`)).text();
  for (const [text, message] of [
    [file.slice(0, file.length / 2), "It seems to be cut short."],
    ["{}", 'it does not say "format"'],
    [file.replace('"version": 13', '"version": 14'), "The file is of version 14; this program reads versions 1 to 13."],
    [file.replace('"hand": "left"', '"hand": "up"'), "turnouts."],
    [`${"[".repeat(5000)}`, "nested more than 12 deep"],
    [file.replace('"zones"', '"__proto__"'), 'holds a field called "__proto__"'],
  ] as const) {
    await open(text);
    await expect(problem).toContainText(message);
  }
  const large = testInfo.outputPath("large.json");
  writeFileSync(large, "");
  truncateSync(large, 101_000_000);
  await giveFile(page, page.getByRole("button", { name: "Choose a railway file" }), large);
  await expect(problem).toContainText("has 101 MB; a railway file may have 100 MB");
  await open(file);
  await expect(page.getByRole("heading", { name: "Thread of M1/M2" })).toBeVisible();
});

test("an address of a railway that is not there leads back to the list", async ({ page, server }) => {
  await page.goto(`${server.address}/r/rnothing/equip`);
  await expect(page.getByText("There is no such railway here.")).toBeVisible();
  await page.getByRole("link", { name: "Go to the list of railways" }).click();
  await expect(page.getByRole("link", { name: "Skerrin Ferry", exact: true })).toBeVisible();
});

test("an address of a page that a railway has not says so, and its stages lead on", async ({ page, server }) => {
  await page.goto(`${server.address}/railways`);
  await page.getByRole("link", { name: "Skerrin Ferry", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Equip", exact: true })).toBeVisible();
  await page.goto(page.url().replace(/equip.*/, "lume"));
  await expect(page.getByRole("heading", { name: "There is no such page" })).toBeVisible();
  await expect(page.getByText('This railway has no page called "lume".')).toBeVisible();
  await page.getByRole("link", { name: "Go to Equip" }).click();
  await expect(page.getByRole("heading", { name: "Equip", exact: true })).toBeVisible();
});

test("a railway is removed only by its name, and every window of it is told", async ({ page, server, context }) => {
  await openDemo(page, server);
  const list = await context.newPage();
  await list.goto(server.address);
  await list.getByRole("button", { name: "Remove" }).click();
  await expect(list.getByRole("alertdialog").getByRole("button", { name: "Remove" })).toBeDisabled();
  await list.getByLabel("Type its name to remove it").fill("Skerrin Ferry");
  await list.getByRole("alertdialog").getByRole("button", { name: "Remove" }).click();
  await expect(list.getByText("None yet. Begin a new one beside this")).toBeVisible();
  await expect(page.getByText("This railway was removed in another window.")).toBeVisible();
});
