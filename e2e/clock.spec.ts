// A machine whose clock is wrong: work goes on, it is said, and nothing changes its order.
import { expect, openDemo, test } from "./server.ts";

test("a clock that was set back is said, and what is typed still counts last after a reload", async ({
  page,
  server,
}) => {
  await page.clock.setFixedTime(new Date("2035-03-01T10:00:00Z"));
  await openDemo(page, server);
  await page.getByRole("link", { name: /^Numbers/ }).click();
  await page.route("**/edits", (route) => route.abort());
  const address = page.getByLabel("Address of D1-2");
  await address.fill("40");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Not saved yet, kept in this browser/)).toBeVisible();
  // the clock goes back by years, and the page is opened again before anything got to the server
  await page.clock.setFixedTime(new Date("2019-03-01T10:00:00Z"));
  await page.reload();
  await expect(address).toHaveValue("40");
  await address.fill("41");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Not saved yet, kept in this browser/)).toBeVisible();
  await page.unroute("**/edits");
  await page.reload();
  await expect(page.getByText(/^Saved/)).toBeVisible({ timeout: 20_000 });
  await expect(address).toHaveValue("41");
  await page.goto(`${server.address}/railways`);
  await expect(page.getByRole("alert")).toContainText("something here was changed later than that. Set the clock");
});

test("a clock that is right says nothing, and the history tells how much it holds", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("link", { name: /^Numbers/ }).click();
  await page.getByLabel("Address of D1-2").fill("40");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Saved/)).toBeVisible({ timeout: 20_000 });
  await page.getByRole("button", { name: "History" }).click();
  const history = page.getByRole("dialog", { name: "History" });
  await expect(history).toContainText(/1 change kept, \d+ (bytes|kB)/);
  await expect(history.getByRole("button", { name: "Show earlier ones" })).toHaveCount(0);
  await page.keyboard.press("Escape");
  await page.goto(`${server.address}/railways`);
  await expect(page.getByRole("link", { name: "Skerrin Ferry", exact: true })).toBeVisible();
  await expect(page.getByRole("alert")).toHaveCount(0);
});
