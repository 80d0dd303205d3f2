// The loom as an owner works on it: ticked off as it goes, and true whatever is edited elsewhere.
import type { Page } from "@playwright/test";
import { expect, openDemo, test } from "./server.ts";

const schedule = (page: Page) => page.getByRole("table", { name: "Wire schedule" });
const find = (page: Page, text: string) => page.getByLabel("Find in: Wire schedule").fill(text);
async function goTo(page: Page, key: string, heading: string): Promise<void> {
  // keys go elsewhere while one types
  await page.getByRole("heading", { level: 1 }).click();
  await page.keyboard.press("g");
  await page.keyboard.press(key);
  await expect(page.getByRole("heading", { name: heading, exact: true })).toBeVisible();
}

test("wires are ticked off one by one and many at once, and undo takes a whole step back", async ({ page, server }) => {
  await openDemo(page, server);
  await goTo(page, "l", "Loom");
  const work = page.getByRole("region", { name: "Work" });
  await expect(work).toContainText(/Cut\s*\d+ of \d+/);
  const cut = async () => Number((await work.innerText()).match(/Cut\s*(\d+) of/)?.[1]);
  const before = await cut();
  await find(page, "LP2-G");
  const tick = schedule(page)
    .getByRole("checkbox", { name: /^W\d+ cut$/ })
    .first();
  await tick.click();
  await expect(tick).toBeChecked();
  await expect.poll(cut).toBe(before + 1);

  // all that is to be joined at the bench, at its first end
  await find(page, "");
  await page.getByRole("combobox", { name: "Which wires" }).click();
  await page.getByRole("option", { name: "To be joined at the bench" }).click();
  await page.getByRole("radio", { name: "Panel", exact: true }).click();
  await page.getByRole("checkbox", { name: "Choose all that are shown" }).click();
  const chosen = page.getByRole("region", { name: "Chosen wires" });
  const joints = (await work.innerText()).match(/Joined at the bench\s*\d+ of/)?.[0] ?? "";
  await chosen.getByRole("button", { name: "Joined, from" }).click();
  await expect(chosen.getByRole("button", { name: "Joined, to" })).toBeVisible();
  await expect(work).not.toContainText(joints);
  await chosen.getByRole("button", { name: "Joined, to" }).click();
  await expect(page.getByText("No wire is left for that.")).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(schedule(page).getByRole("row").nth(1)).toBeVisible();
});

test("a wire that hangs on another screw than planned is named, and moved by a press", async ({ page, server }) => {
  await openDemo(page, server);
  await goTo(page, "l", "Loom");
  const work = page.getByRole("region", { name: "Work" });
  await expect(work).toContainText("by the plan nothing goes on from there");
  const move = work.getByRole("button", { name: /^Move W\d+ from P4-12 to P\d-\d+$/ });
  await move.click();
  await expect(work).toContainText("Nothing that is made is in the way of the plan.");
  await find(page, "T6-N");
  await expect(schedule(page).getByRole("checkbox", { name: /joined at P\d-\d+$/ })).not.toBeChecked();
});

test("an edit elsewhere moves nothing that is made, and what it leaves without use is said before and after", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await goTo(page, "l", "Loom");
  await find(page, "Y2");
  const numbers = () => schedule(page).getByRole("row").allInnerTexts();
  const before = await numbers();
  expect(before.length).toBeGreaterThan(10);
  await goTo(page, "e", "Equip");
  await page.getByRole("tab", { name: "List" }).click();
  await page.getByRole("button", { name: "new ..." }).click();
  await page.keyboard.type("Z1");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await goTo(page, "l", "Loom");
  await find(page, "Y2");
  await expect.poll(numbers).toEqual(before);
  // the lamp of Y3 goes; its wires were joined
  await goTo(page, "e", "Equip");
  await page.getByRole("button", { name: /^Lamp of Y3: / }).focus();
  await page.keyboard.press("Delete");
  await goTo(page, "l", "Loom");
  await expect(page.getByRole("region", { name: "Work" })).toContainText(/is gone\.|plan joins nothing to/);
});

test("each way of laying a common is held beside the others, and chosen for the net or for the railway", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await goTo(page, "l", "Loom");
  await page.getByRole("radio", { name: "Nets" }).click();
  await page
    .getByRole("table", { name: "Nets" })
    .getByRole("row", { name: /^TB1-J/ })
    .click();
  const star = page.getByRole("region", { name: "a wire to each" });
  const chain = page.getByRole("region", { name: "from one to the next" });
  await expect(chain).toContainText("as it is");
  await expect(page.getByRole("region", { name: "a trunk with droppers" })).toContainText(/\d+ splices/);
  const metres = async (way: typeof star) => Number((await way.innerText()).match(/([\d.]+) m,/)?.[1]);
  expect(await metres(star)).toBeGreaterThan(await metres(chain));
  await page.getByRole("button", { name: "Lay a wire to each, here" }).click();
  await expect(star).toContainText("as it is");
  await page.getByRole("button", { name: "Lay it as usual again" }).click();
  await expect(chain).toContainText("as it is");
  await page.getByRole("button", { name: "Lay a trunk with droppers, all feeders" }).click();
  await expect(page.getByRole("region", { name: "a trunk with droppers" })).toContainText("as it is");
});
