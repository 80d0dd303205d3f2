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
  await find(page, "B9-N");
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

test("two motors get a tail that is drawn core by core, and a turnout's wires are ticked off on its own sheet", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await goTo(page, "l", "Loom");
  await page.getByRole("radio", { name: "Strips, cables" }).click();
  await page.getByRole("button", { name: "Add" }).click();
  await page.getByRole("menuitem", { name: "Tail for a motor ..." }).click();
  const dialog = page.getByRole("dialog", { name: "A tail for a motor" });
  await dialog.getByRole("checkbox", { name: "L2" }).click();
  await dialog.getByRole("checkbox", { name: "L3" }).click();
  await dialog.getByRole("button", { name: "A tail for L2 and L3" }).click();
  const tail = page.getByRole("row", { name: /^TL1 tail/ });
  await expect(tail).toContainText(/8\s*7\s*1/);
  await page.getByRole("combobox", { name: "Cable or strip" }).fill("tail of");
  await page.getByRole("option", { name: "TL1, tail of L2 and L3" }).click();
  const drawing = page.getByRole("group", { name: "Cable TL1" });
  await expect(drawing).toContainText("Tail TL1: 7 of 8 cores");
  await expect(drawing.getByRole("button", { name: "Terminal L3+" })).toBeVisible();
  // what is joined at the bench now was underneath before
  await page.getByRole("radio", { name: "Turnouts" }).click();
  await page.getByRole("table", { name: "Work by turnout" }).getByRole("row", { name: /^L3/ }).click();
  const sheet = page.getByRole("dialog", { name: "Turnout L3, its wires" });
  await expect(sheet.getByRole("row", { name: /TL1\.\d/ })).toHaveCount(3);
  const drawn = sheet.getByRole("group", { name: "Wires of L3, drawn" });
  await expect(drawn.getByRole("button", { name: "Terminal L3+" })).toBeVisible();
  await expect(drawn).toContainText(/W\d+ to L3F-F/);
  const cut = sheet.getByRole("checkbox", { name: / cut$/ }).first();
  await cut.click();
  await expect(cut).toBeChecked();
});

test("a strip is put among the turnouts of a zone, and what is proposed for them goes through it", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await goTo(page, "l", "Loom");
  await page.getByRole("radio", { name: "Strips, cables" }).click();
  await page.getByRole("button", { name: "Add" }).click();
  await page.getByRole("menuitem", { name: "Strip under the layout" }).click();
  const strip = page.getByRole("row", { name: /^K5 strip/ });
  await strip.click();
  const card = page.getByRole("dialog", { name: "Strip K5" });
  await card.getByRole("combobox", { name: "Serves zone" }).click();
  await page.getByRole("option", { name: /^Linkspan/ }).click();
  await card.getByLabel("From the boards, m").fill("2.4");
  await card.getByLabel("From the boards, m").press("Enter");
  await card.getByRole("checkbox", { name: "It is at the edge, reached from in front" }).click();
  await expect(card).toContainText(/zone Linkspan, 2\.4 m along, in front, [1-9]\d* of 12 ways used/);
  await page.keyboard.press("Escape");
  await expect(strip).toContainText("zone Linkspan, 2.4 m along, in front");
  await expect(page.getByRole("region", { name: "Work" })).toContainText("in front");
});

test("ways to lay the loom are held side by side, and one of them is chosen", async ({ page, server }) => {
  await openDemo(page, server);
  await goTo(page, "l", "Loom");
  await page.getByRole("radio", { name: "Strips, cables" }).click();
  await page.getByRole("button", { name: "Ways to lay ..." }).click();
  const dialog = page.getByRole("dialog", { name: "Ways to lay the loom" });
  await expect(dialog.getByRole("row", { name: /at the boards now single wires/ })).toBeVisible();
  await expect(dialog.getByRole("status")).toBeHidden();
  const [, best] = await dialog.getByRole("row").allInnerTexts();
  expect(best).toContain("a tail each");
  await dialog.getByRole("button", { name: /^Lay it so: .* motors by a tail each/ }).click();
  await expect(page.getByRole("row", { name: /^TL\d tail/ }).first()).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("row", { name: /^TL\d tail/ })).toHaveCount(0);
});

test("the commons of a zone are compared in four ways with what they cost, and its plastic joints are on the buy list", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await goTo(page, "l", "Loom");
  await page.getByRole("radio", { name: "Nets", exact: true }).click();
  const nets = page.getByRole("table", { name: "Nets" });
  await nets.getByRole("row", { name: /^zone Ferry yard/ }).click();
  const blocks = page.getByRole("region", { name: "from block to block, zone by zone" });
  await expect(blocks).toContainText(/\d+\.\d m, \d+ joints underneath, 1 block; about \d+\.\d\d EUR/);
  await page.getByRole("textbox", { name: "Plastic rail joints" }).fill("6");
  await page.keyboard.press("Enter");
  await page.getByRole("radio", { name: "Parts" }).click();
  await expect(page.getByRole("row", { name: /^Plastic rail joints 6/ })).toBeVisible();
  // feeders of the track laid from block to block: one block for each zone, found with the things of the loom
  await nets.getByRole("row", { name: /^TB1-J/ }).click();
  await page.getByRole("button", { name: "Lay from block to block, zone by zone, here" }).click();
  await page.getByRole("radio", { name: "Strips, cables" }).click();
  await page.getByRole("radio", { name: "Splices, blocks" }).click();
  await expect(page.getByRole("row", { name: /^JB2\b.*block, \d wires/ })).toBeVisible();
});
