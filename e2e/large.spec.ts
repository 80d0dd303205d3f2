// A club's railway: what is drawn of long lists, and what is said while it is checked.
import { KEPT } from "./kept.ts";
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

/** What the link to the findings says from the beginning of the page, each sentence once in a row. */
const TOLD = `
  window.told = [];
  new MutationObserver(() => {
    const words = document.querySelector('a[aria-label^="Findings:"]')?.ariaLabel;
    if (words && words !== told.at(-1)) told.push(words);
  }).observe(document, { subtree: true, childList: true, attributes: true });
`;

test("what was found of a railway is there at once when it is opened again as it stands, and is not when it stands otherwise", async ({
  page,
  server,
}) => {
  test.slow();
  await page.addInitScript(TOLD);
  await openSample(page, server.address, /A generated club railway of 400 turnouts/);
  const railwayId = /\/r\/([a-z0-9]+)/.exec(page.url())?.[1] ?? "";
  const all = page.getByRole("link", { name: /^Findings: \d+ wrong, \d+ doubtful$/ });
  const told = () => page.evaluate<string[]>("told.filter((words) => /\\d/.test(words))");
  await expect(all).toBeVisible({ timeout: 60_000 });
  const first = await all.getAttribute("aria-label");
  expect((await told())[0]).toMatch(/so far$/);
  await expect.poll(() => page.evaluate(KEPT(railwayId)), { timeout: 20_000 }).toBe(0);

  await page.goto(`${server.address}/r/${railwayId}/equip`);
  await expect(all).toBeVisible();
  await expect(page.getByRole("table", { name: "Turnouts" })).toHaveAttribute("aria-rowcount", /^3\d\d$/);
  expect(await told()).toEqual([first]);
  await expect(page.getByText("All checks are clear.")).toBeVisible();

  // a coil at the end of so long a wire does not throw; that is not known before it is looked at
  await page.getByRole("tab", { name: "List" }).click();
  await page
    .getByRole("button", { name: /^Run, m of / })
    .nth(1)
    .focus();
  await page.keyboard.type("60");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("link", { name: first ?? "", exact: true })).toBeHidden({ timeout: 60_000 });
  await expect(all).toBeVisible({ timeout: 60_000 });
  const edited = await all.getAttribute("aria-label");
  expect(edited).not.toBe(first);
  expect(await told()).toContain(`${first}, of the state before`);
  // the edit, and what is proposed of the loom after it
  await expect.poll(() => page.evaluate(KEPT(railwayId)), { timeout: 30_000 }).toBe(2);
  await page.reload();
  await expect(all).toBeVisible();
  expect(await told()).toEqual([edited]);

  // undone, it is as it was, but stands otherwise on the server
  await page.keyboard.press("Control+z");
  await expect(page.getByText(/^Saved \d/)).toBeVisible();
  await page.reload();
  await expect(all).toBeVisible({ timeout: 60_000 });
  expect((await told())[0]).toMatch(/so far$/);
  await expect(all).toHaveAttribute("aria-label", first ?? "");

  // of a railway that was removed nothing is left behind
  await expect.poll(() => page.evaluate(KEPT(railwayId)), { timeout: 30_000 }).toBeGreaterThan(2);
  await page.goto(server.address);
  await page.getByRole("button", { name: /^Remove Club/i }).click();
  const asks = page.getByRole("alertdialog", { name: /^Remove .+\?$/ });
  const name = /^Remove (.+)\?$/.exec((await asks.getByRole("heading").textContent()) ?? "")?.[1] ?? "";
  await asks.getByLabel("Type its name to remove it").fill(name);
  await asks.getByRole("button", { name: "Remove" }).click();
  await expect(asks).toBeHidden();
  await expect.poll(() => page.evaluate(KEPT(railwayId))).toBeNull();
});
