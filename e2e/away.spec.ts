// A page is opened, or opened again, while its server is away.
import { expect, openNumbers, test } from "./server.ts";

test.use({ serviceWorkers: "allow" });

test("a page that is opened again while the server is away says so, and comes back with what was typed", async ({
  page,
  server,
}) => {
  await openNumbers(page, server);
  await page.waitForFunction(() => navigator.serviceWorker.ready.then(() => true));
  // what is kept for bad times is there, too
  await page.waitForFunction(() => caches.match("/away.html").then((found) => found !== undefined));
  await server.stop();
  await page.getByLabel("Address of D1-2").fill("40");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Not saved yet, kept in this browser/)).toBeVisible();
  await page.reload();
  await expect(page.getByRole("heading", { name: "The server does not answer" })).toBeVisible();
  await expect(page.getByText("is kept in this browser")).toBeVisible();
  await server.start();
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("40", { timeout: 30_000 });
  await expect(page.getByText(/^Saved/)).toBeVisible({ timeout: 30_000 });
});
