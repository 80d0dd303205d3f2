// What an owner does on a railway that is there already.
import { readFileSync } from "node:fs";
import { expect, giveFile, moveAllMade, openDemo, pick, test } from "./server.ts";

test("the list is worked by keyboard alone: move, type, choose, empty, go back", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("tab", { name: "List" }).click();
  const focused = page.locator(":focus");
  await page.getByRole("button", { name: /^Turnout of L1:/ }).focus();
  await page.keyboard.press("ArrowDown");
  await expect(focused).toHaveAccessibleName("Turnout of L2: L2");
  await page.keyboard.press("End");
  await expect(focused).toHaveAccessibleName("Run, m of L2: 2.4");
  await page.keyboard.type("3,1");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Run, m of L2: 3.1" })).toBeVisible();
  await expect(focused).toHaveAccessibleName("Run, m of L3: 2.7");
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("Delete");
  await expect(page.getByRole("button", { name: "Run, m of L2: empty" })).toBeVisible();
  await page.keyboard.press("Home");
  for (let step = 0; step < 5; step++) await page.keyboard.press("ArrowRight");
  await page.keyboard.press("F2");
  await expect(page.getByRole("option")).toHaveCount(7);
  // what it is stands first, what cannot be last
  await expect(page.getByRole("option").first()).toContainText("Stall motor");
  await page.keyboard.press("ArrowDown");
  const names = await page.getByRole("option").allTextContents();
  const coil = names.findIndex((name) => name.includes("Twin-coil motor, under-board"));
  for (let step = 0; step < coil; step++) await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: /Motor of L2: Twin-coil motor, under-board/ })).toBeVisible();
  await page.getByRole("heading", { name: "Equip" }).click();
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("button", { name: /Motor of L2: Stall motor/ })).toBeVisible();
});

test("a probe is dragged to a terminal, the other is clicked, and the reading follows the throw", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await page.getByRole("row", { name: /L1/ }).click();
  const handle = await page.getByRole("img", { name: /red probe/ }).boundingBox();
  const target = await page.getByRole("button", { name: "Terminal L1+" }).boundingBox();
  await page.mouse.move(handle!.x + 10, handle!.y + 10);
  await page.mouse.down();
  await page.mouse.move(target!.x + target!.width / 2, target!.y + target!.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByRole("complementary", { name: "Meter" })).toContainText("L1+");
  await page.getByRole("button", { name: "Terminal L1−" }).click();
  await expect(page.getByTestId("expect")).toHaveText("10.2V");
  await page.keyboard.press("v");
  await expect(page.getByTestId("expect")).toHaveText("−10.2V");
  await page.getByRole("radio", { name: "Throwing" }).click();
  await expect(page.getByTestId("expect")).toHaveText("−11.5V");
  await page.getByRole("button", { name: "Terminal LP2-G" }).press("b");
  await expect(page.getByRole("complementary", { name: "Meter" })).toContainText("open");
});

test("a doubtful finding is kept with a reason, stays kept after a reload, and counts again when asked", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await page.getByRole("tab", { name: "List" }).click();
  await page.getByRole("button", { name: "new ..." }).focus();
  await page.keyboard.type("Z9");
  await page.keyboard.press("Enter");
  const badge = page.getByRole("link", { name: /^Findings:/ });
  await expect(badge).toHaveAccessibleName("Findings: 5 wrong, 9 doubtful");
  await badge.click();
  const finding = page.getByRole("article", { name: /not completely equipped: Z9/ });
  await finding.getByRole("button", { name: "Keep, and note it" }).click();
  await finding.getByLabel("Why it may stay").fill("thrown by hand");
  await page.keyboard.press("Enter");
  await expect(finding).toContainText("Kept: thrown by hand");
  await expect(badge).toHaveAccessibleName("Findings: 5 wrong, 8 doubtful");
  await page.reload();
  await expect(finding).toContainText("Kept: thrown by hand");
  await finding.getByRole("button", { name: "Let it count again" }).click();
  await expect(badge).toHaveAccessibleName("Findings: 5 wrong, 9 doubtful");
  // what would burn or not work cannot be kept
  await expect(
    page.getByRole("article", { name: /coil stays energised/ }).getByRole("button", { name: "Keep, and note it" }),
  ).toHaveCount(0);
});

test("settings of the railway change wires, and are refused when they make no sense", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("link", { name: /Loom/ }).click();
  await page.getByRole("button", { name: "Columns of: Wire schedule" }).click();
  await page.getByRole("menuitemcheckbox", { name: "Gauge" }).click();
  await page.keyboard.press("Escape");
  await page.getByLabel("Find in: Wire schedule").fill("P1-1");
  const core = page.getByRole("row", { name: /W\d+ P1-1 K1-1/ });
  await expect(core).toContainText(/AWG 24\s*2450/);
  await page.getByRole("button", { name: /Alderman Skerrin Ferry/ }).click();
  await pick(page, page.getByLabel("Cores of cables"), "0.75 mm2");
  await pick(page, page.getByLabel("Cores of a cable"), "4");
  await page.getByLabel("Cable, panel to layout").fill("0");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText("0.05 to 200");
  await page.getByLabel("Cable, panel to layout").fill("3.5");
  await page.getByLabel("Name").fill("Skerrin Ferry West");
  await page.keyboard.press("Tab");
  await page.getByRole("dialog").getByRole("button", { name: "Close" }).click();
  await expect(core).toContainText(/0.75 mm2\s*3550/);
  await expect(page.getByRole("button", { name: /Alderman Skerrin Ferry West/ })).toBeVisible();
});

test("an exported railway is taken in again as the same one", async ({ page, server }) => {
  await page.goto(server.address);
  const export_ = async (row: number) => {
    const download = page.waitForEvent("download");
    await page.getByRole("link", { name: "Export" }).nth(row).click();
    return readFileSync(await (await download).path(), "utf8");
  };
  const file = await export_(0);
  await giveFile(page, page.getByRole("button", { name: "Choose a railway file" }), {
    ...{ name: "railway.json", mimeType: "application/json", buffer: Buffer.from(file) },
  });
  await expect(page.getByRole("link", { name: "Findings: 5 wrong, 8 doubtful" })).toBeVisible();
  await page.getByRole("link", { name: "Railways" }).click();
  await expect(page.getByRole("link", { name: "Skerrin Ferry", exact: true })).toHaveCount(2);
  expect(await export_(0)).toBe(file);
  expect(await export_(1)).toBe(file);
});

test("the dark theme is remembered, and a phone shows the test sheet in one column", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("button", { name: "Shed (dark)" }).click();
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "shed");
  await page.setViewportSize({ width: 390, height: 844 });
  await page.getByRole("link", { name: /Prove/ }).click();
  await expect(page.getByRole("heading", { name: "Prove", exact: true })).toBeVisible();
  const step = page.getByRole("listitem").first();
  await expect(step).toBeVisible();
  const box = await step.boundingBox();
  expect(box!.width).toBeGreaterThan(330);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test("a failed test is told by its mark and band, and 'already there' counts as not read", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("link", { name: /Prove/ }).click();
  await page.getByRole("table", { name: "Progress" }).getByRole("row", { name: /^L3/ }).click();
  await page.getByRole("button", { name: /^Winding/ }).click();
  await expect(page.getByTestId("expect")).toHaveText("680ohm");
  const field = page.getByRole("textbox", { name: "Meter said, ohm" });
  await field.fill("lots");
  await page.keyboard.press("Enter");
  await expect(page.getByText('Type a number. An open circuit is "open".')).toBeVisible();
  await field.fill("open");
  await page.keyboard.press("Enter");
  const winding = page.getByRole("listitem", { name: /Winding/ });
  await expect(winding).toContainText("Failed");
  await page.getByRole("button", { name: /^Goes to normal/ }).click();
  await page
    .getByRole("listitem", { name: /Goes to normal/ })
    .getByRole("button", { name: "no change" })
    .click();
  await expect(page.getByRole("listitem", { name: /Goes to normal/ })).toContainText("No change: it was there already");
  await expect(page.getByText("1 failed", { exact: false })).toBeVisible();
});

test("how things are fitted is stated, and what follows is shown at once", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("button", { name: "Fittings of M1/M2" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("group", { name: "Motor M2" }).getByLabel("Leads exchanged at the motor").check();
  // frog and lamp change places
  await pick(page, dialog.getByRole("group", { name: "Frog M1F" }).getByLabel("Contact of M1"), "S1");
  await pick(page, dialog.getByRole("group", { name: "Lamp LP1" }).getByLabel("Contact of M1"), "S2");
  await dialog.getByRole("group", { name: "Lamp LP1" }).getByLabel("Leads exchanged at the lamp").check();
  await dialog.getByRole("button", { name: "Close" }).click();
  // a lamp with its leads exchanged tells the opposite, unless its contact makes on the other side
  const lamp = page.getByRole("article", { name: /A lamp tells the opposite/ });
  await expect(lamp).toContainText("With M1 at N, LP1 tells R: the leads of the lamp at LP1 are turned.");
  await lamp.getByRole("button", { name: "Swap the leads of LP1" }).click();
  // wires that were cut for where the leads went before are moved
  await moveAllMade(page);
  await expect(page.getByText("All checks are clear.")).toBeVisible();
  const thread = page.getByRole("group", { name: "Thread of M1/M2" });
  await expect(thread).toContainText("M2 stands at N");
  await expect(thread).toContainText("Contact M1-S2");
  await expect(thread).toContainText("green lit");
  await page.getByRole("button", { name: "History" }).click();
  await expect(page.getByRole("dialog")).toContainText("Leads of M2 exchanged");
});

test("on milliamps the meter takes the place of a wire, and says so anywhere else", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("row", { name: /L1/ }).click();
  await expect(page.getByRole("heading", { name: "Thread of L1" })).toBeVisible();
  await page.getByRole("radio", { name: "mA", exact: true }).click();
  const put = async (end: string, key: "r" | "b") => {
    await page.locator(`[data-end="${end}"]`).first().focus();
    await page.keyboard.press(key);
  };
  await put("d1:2A", "r");
  await put("l1:+", "b");
  await expect(page.getByTestId("expect")).toHaveText("14.9mA");
  // the rule below it is marked in milliamps too
  await expect(page.getByLabel("Meter", { exact: true })).toContainText("16");
  await expect(page.getByLabel("Meter", { exact: true })).not.toContainText("0.015");
  await page.getByRole("radio", { name: "Reverse", exact: true }).click();
  await expect(page.getByTestId("expect")).toHaveText("−14.9mA");
  await put("d1:2B", "b");
  await expect(page.getByText("On mA the meter takes the place of a wire.", { exact: false })).toBeVisible();
  await expect(page.getByText(/it is a short circuit/)).toBeVisible();
});

test("on the track's square wave the kind of meter counts, which is asked once and kept", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("row", { name: /L1/ }).click();
  const put = async (end: string, key: "r" | "b") => {
    await page.locator(`[data-end="${end}"]`).first().focus();
    await page.keyboard.press(key);
  };
  const onTrack = async () => {
    await put("tb1:J", "r");
    await put("tb1:K", "b");
    await expect(page.getByRole("radio", { name: "Average", exact: true })).toBeVisible();
  };
  await onTrack();
  const expected = page.getByTestId("expect");
  await expect(expected).toHaveText("15.0V");
  // a meter that averages takes every wave for a sine: 15 V x pi / (2 sqrt 2)
  await page.getByRole("radio", { name: "Average", exact: true }).click();
  await expect(expected).toHaveText("16.7V");
  await page.reload();
  await page.getByRole("row", { name: /L1/ }).click();
  await onTrack();
  await expect(expected).toHaveText("16.7V");
  await page.getByRole("radio", { name: "RMS" }).click();
  await expect(expected).toHaveText("15.0V");
  // DC is DC to any of them, and nothing is asked
  await put("d1:2A", "r");
  await put("d1:2B", "b");
  await expect(expected).toHaveText("10.2V");
  await expect(page.getByRole("radio", { name: "Average", exact: true })).toHaveCount(0);
});
