// Backups of everything: made at a wish, put back under an open window, and the look at whether all is sound.
import { AXE, violations } from "./axe.ts";
import { expect, openDemo, test } from "./server.ts";

test("a backup is made and put back in the app, and an open window is told", async ({ page, server, context }) => {
  await page.addInitScript({ path: AXE });
  await openDemo(page, server);
  const list = await context.newPage();
  await list.goto(`${server.address}/railways`);
  const backups = list
    .getByRole("region", { name: "Backups" })
    .or(list.locator("section", { hasText: "Backups" }).last());
  await list.getByRole("button", { name: "Back up now" }).click();
  const table = list.getByRole("table", { name: "Backups" });
  await expect(table.getByRole("row", { name: /asked for/ })).toHaveCount(1);
  await list.getByRole("button", { name: "Check all" }).click();
  await expect(backups).toContainText("all is sound");
  // somebody goes on working
  await page.getByRole("link", { name: /Numbers/ }).click();
  await page.getByLabel("Address of D1-2").fill("30");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Saved \d/)).toBeVisible({ timeout: 20_000 });
  await table.getByRole("button", { name: /^Put back the one of/ }).click();
  const dialog = list.getByRole("alertdialog");
  await expect(dialog).toContainText("What is here now is kept as a backup first");
  await dialog.getByRole("button", { name: "Put back" }).click();
  await expect(dialog).toHaveCount(0);
  await expect(table.getByRole("row", { name: /put aside for another/ })).toHaveCount(1);
  // what the other window knows is not lost
  const way = page.getByRole("alertdialog", { name: "This window knows more than the file" });
  await expect(way).toBeVisible({ timeout: 30_000 });
  await way.getByRole("button", { name: "Take the file's" }).click();
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("22");
  expect(await violations(page)).toEqual([]);
});
