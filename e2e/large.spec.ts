// A club's railway: what is drawn of long lists, and what is said while it is checked.
import { expect, openSample, test } from "./server.ts";

test("of four hundred turnouts those in sight are drawn, arrows go through them, and all is checked in the end", async ({
  page,
  server,
}) => {
  test.slow();
  await openSample(page, server.address, /A generated club railway of 400 turnouts/);
  const roster = page.getByRole("table", { name: "Turnouts" });
  await expect(roster).toHaveAttribute("aria-rowcount", /^3\d\d$/, { timeout: 60_000 });
  expect(await roster.getByRole("row").count()).toBeLessThan(80);
  const found = page.getByRole("link", { name: /^Findings: \d+ wrong, \d+ doubtful$/ });
  await expect(found).toBeVisible({ timeout: 60_000 });
  const chosen = roster.locator('[aria-selected="true"]');
  // the headings stand over what is scrolled, and not over the row that is chosen
  const belowHeadings = async () => {
    const [head, row] = [await roster.getByRole("columnheader").first().boundingBox(), await chosen.boundingBox()];
    return (row?.y ?? 0) - (head?.y ?? 0) - (head?.height ?? 0);
  };
  await expect.poll(belowHeadings).toBeGreaterThanOrEqual(-1);
  await chosen.focus();
  for (let press = 0; press < 45; press++) await page.keyboard.press("ArrowDown");
  await expect(chosen).toBeInViewport();
  await expect(chosen).toHaveAttribute("aria-rowindex", "47");
  for (let press = 0; press < 35; press++) await page.keyboard.press("ArrowUp");
  await expect(chosen).toHaveAttribute("aria-rowindex", "12");
  await expect.poll(belowHeadings).toBeGreaterThanOrEqual(-1);
  const label = (await chosen.getByRole("cell").first().innerText()).trim().split(/\s+/).at(-1) ?? "";
  await expect(page.getByRole("group", { name: `Thread of ${label}` })).toBeVisible();
  // what lies below the list is reached by scrolling past all of it
  await page.getByRole("heading", { name: "Boards and supplies" }).scrollIntoViewIfNeeded();
  await expect(page.getByRole("heading", { name: "Boards and supplies" })).toBeInViewport();

  // on a phone the list scrolls by itself, draws what is in sight all the same, and leaves the thread within reach
  await page.setViewportSize({ width: 390, height: 800 });
  await page.evaluate("scrollTo(0, 0)");
  await expect(roster).toBeInViewport();
  expect(await roster.getByRole("row").count()).toBeLessThan(80);
  await page.getByRole("group", { name: `Thread of ${label}` }).scrollIntoViewIfNeeded();
  expect(await page.evaluate<number>("scrollY")).toBeLessThan(1200);
  await page.getByRole("heading", { name: "Boards and supplies" }).scrollIntoViewIfNeeded();
  await expect(roster.getByRole("row").last()).toHaveAttribute("aria-rowindex", /^[34]\d\d$/);
  const boards = page.getByRole("list", { name: "Boards and supplies" });
  await expect(boards.getByRole("listitem").first()).toBeInViewport();
});
