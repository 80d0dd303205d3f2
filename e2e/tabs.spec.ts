// Many tabs of one browser on one server, which lets a browser hold few connections at a time.
import { expect, openDemo, test } from "./server.ts";

test("eight tabs are told over one connection, and each of them can still save", async ({ page, server, context }) => {
  await openDemo(page, server);
  await page.getByRole("link", { name: /Numbers/ }).click();
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("22");
  const address = page.url();
  const others = await Promise.all(Array.from({ length: 7 }, () => context.newPage()));
  for (const other of others) {
    await other.goto(address);
    await expect(other.getByLabel("Address of D1-2")).toHaveValue("22");
  }
  const last = others.at(-1);
  if (!last) throw new Error("There is no other tab.");
  await last.getByLabel("Address of D1-2").fill("30");
  await last.keyboard.press("Enter");
  await expect(last.getByText(/^Saved \d/)).toBeVisible();
  for (const each of [page, ...others]) await expect(each.getByLabel("Address of D1-2")).toHaveValue("30");
  // a tab that goes leaves the others listening
  await others[0]?.close();
  await page.getByLabel("Address of D1-2").fill("31");
  await page.keyboard.press("Enter");
  await expect(last.getByLabel("Address of D1-2")).toHaveValue("31");
});

test("a browser that holds no connection says that live updates are off, and looks every few seconds", async ({
  page,
  server,
  context,
}) => {
  await openDemo(page, server);
  await page.getByRole("link", { name: /Numbers/ }).click();
  await page.addInitScript(() => {
    Object.assign(window, { SharedWorker: undefined, EventSource: undefined });
  });
  await page.reload();
  await expect(page.getByRole("status").filter({ hasText: "Live updates off" })).toBeVisible();
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByLabel("Address of D1-2").fill("30");
  await other.keyboard.press("Enter");
  await expect(other.getByText(/^Saved \d/)).toBeVisible();
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("30", { timeout: 15_000 });
});
