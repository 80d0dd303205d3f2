// Routes: taken from the line, by hand in a grid, through diodes, on a board that is built and proved, and by a unit that is enough.
import type { Page } from "@playwright/test";
import { AXE, violations } from "./axe.ts";
import { expect, openDemo, test } from "./server.ts";

async function openRoutes(page: Page): Promise<void> {
  await page.getByRole("heading", { level: 1 }).click();
  await page.keyboard.press("g");
  await page.keyboard.press("y");
  await expect(page.getByRole("heading", { name: "Routes", exact: true, level: 1 })).toBeVisible();
}
const view = (page: Page, name: string) => page.getByRole("radio", { name, exact: true }).click();

test("a button of the yard is pressed, and shows where current goes and what each coil gets", async ({
  page,
  server,
}) => {
  await page.addInitScript({ path: AXE });
  await openDemo(page, server);
  await openRoutes(page);
  const matrix = page.getByRole("region", { name: "The matrix" });
  await expect(matrix).toContainText(
    /20 links\s*14 diodes\s*6 plain wires\s*Diodes by route: 0 1 2 3 4 4\s*all soldered/,
  );
  // a toggle that stays on empties the unit, and current of it goes astray over the board
  const findings = page.getByRole("region", { name: "Findings on routes" });
  await expect(findings).toContainText(
    "T2 energises Y1 R, which it does not ask: from 4R by the plain wire back up to I4",
  );
  await findings.getByRole("button", { name: "Make T2 a centre-off momentary toggle" }).click();
  await findings.getByRole("button", { name: "Put a diode in place of the wire I4 to 4R" }).click();
  await expect(findings).toContainText("Nothing is wrong with the routes.");
  await expect(matrix).toContainText(/15 diodes\s*5 plain wires/);
  // by keys: the arrows go from button to button
  await matrix.getByRole("radio", { name: /Road 1/ }).click();
  await matrix.getByRole("radio", { name: /Road 1/ }).press("ArrowDown", { delay: 80 });
  await expect(page.getByRole("heading", { name: "Pulse of Road 2" })).toBeVisible();
  const pulse = page.getByRole("region", { name: "The pulse" });
  await expect(pulse.getByRole("listitem")).toHaveCount(2);
  await expect(pulse).toContainText(/Y2 R\s*\d\.\d\d J/);
  await expect(pulse).toContainText(/[\d.]+ A through the button, [\d.]+ A at most through a diode, which bears 30 A/);
  // without diodes it sneaks, in steps
  await view(page, "Without diodes");
  await matrix.getByRole("radio", { name: /Road 4/ }).click();
  await expect(matrix).toContainText(/current goes back up the rows of Road 2, Road 3/);
  expect(await matrix.locator('[data-live="astray"]').count()).toBeGreaterThan(3);
  expect(await violations(page)).toEqual([]);
});

test("routes that the line offers are taken, set by hand in the grid by keys, and asked for in another way", async ({
  page,
  server,
}) => {
  await page.addInitScript({ path: AXE });
  await openDemo(page, server);
  await openRoutes(page);
  await view(page, "Routes");
  const grid = page.getByRole("table", { name: "Routes and turnouts" });
  await expect(grid.getByRole("row", { name: /Road 3/ })).toContainText("B6");
  const offered = page.getByRole("region", { name: "Routes that the line offers" });
  await expect(offered).toContainText("L1 to L3, 4 roads");
  await offered.getByRole("button", { name: "Take", exact: true }).last().click();
  await expect(grid.getByRole("row", { name: /deck 2/ })).toContainText("nothing yet");
  // a cell by keys: n, r, Delete and the arrows
  const cell = (route: string, turnout: string) =>
    grid.getByRole("button", { name: new RegExp(`^${route}, ${turnout}: `) });
  await expect(cell("deck 1", "L1")).toHaveAccessibleName("deck 1, L1: N");
  await cell("deck 1", "L1").focus();
  await page.keyboard.press("ArrowRight");
  await expect(cell("deck 1", "L2")).toBeFocused();
  await page.keyboard.press("r");
  await expect(cell("deck 1", "L2")).toHaveAccessibleName("deck 1, L2: R");
  // off the way that the line makes for it
  const findings = page.getByRole("region", { name: "Findings on routes" });
  await expect(findings).toContainText("On the way that route deck 1 makes, no train passes L2.");
  await page.keyboard.press("Delete");
  await expect(cell("deck 1", "L2")).toHaveAccessibleName("deck 1, L2: left as it lies");
  await expect(findings).not.toContainText("no train passes L2");
  // stall motors take no pulse: commands set these routes
  await grid.getByRole("checkbox", { name: "deck 1" }).click();
  await grid.getByRole("checkbox", { name: "deck 2" }).click();
  await page.getByRole("combobox", { name: "Asked for by" }).click();
  await page.getByRole("option", { name: /macros of a board/ }).click();
  await page.getByRole("button", { name: "Fit", exact: true }).click();
  await expect(grid.getByRole("row", { name: /deck 2/ })).toContainText("macro 1 of D1");
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press("Control+z");
  await expect(grid.getByRole("row", { name: /deck 2/ })).toContainText("nothing yet");
});

test("a board is ticked off as it lies, a diode turned round is found, and it is printed", async ({ page, server }) => {
  await page.addInitScript({ path: AXE });
  await openDemo(page, server);
  await openRoutes(page);
  await view(page, "Board");
  const board = page.getByRole("region", { name: "The board" });
  await expect(board).toContainText("20 of 20 parts soldered on X1");
  await expect(board.getByRole("img", { name: "The board" })).toContainText("100 mm");
  const lies = board.getByRole("combobox", { name: /^I3 Road 3, B6 YEBK to 1R Y1 R OG$/ });
  await lies.click();
  await page.getByRole("option", { name: "soldered: diode, turned round" }).click();
  await view(page, "Matrix");
  const findings = page.getByRole("region", { name: "Findings on routes" });
  await expect(findings).toContainText(
    "The diode between I3 and 1R of X1 has its band at I3: Road 3 (B6) does not reach Y1 R.",
  );
  await findings.getByRole("button", { name: "Turn it round" }).click();
  await expect(findings).not.toContainText("has its band at I3");
  await view(page, "Board");
  expect(await violations(page)).toEqual([]);
  const saved = page.waitForEvent("download");
  await board.getByRole("button", { name: "SVG, 1:1" }).click();
  expect((await saved).suggestedFilename()).toBe("X1.svg");
  await board.getByRole("button", { name: "PDF, XLSX" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("checkbox", { name: /Route sheets/ })).toBeChecked();
  const pdf = page.waitForEvent("download");
  await dialog.getByRole("button", { name: "PDF" }).click();
  expect((await pdf).suggestedFilename()).toMatch(/^route-sheets.*\.pdf$/);
});

test("constructions and ways to ask are compared, and the unit is designed", async ({ page, server }) => {
  await page.addInitScript({ path: AXE });
  await openDemo(page, server);
  await openRoutes(page);
  await page.getByRole("button", { name: "Make T2 a centre-off momentary toggle" }).first().click();
  await view(page, "Compare");
  const built = page.getByRole("region", { name: "Constructions" });
  await expect(built.getByRole("row", { name: /A diode at every link/ })).toContainText("20");
  await expect(built).toContainText("Each button energises its coils, and no other above a tenth of what it needs.");
  const asked = page.getByRole("region", { name: "Ways to ask for routes" });
  await expect(asked.getByRole("row", { name: /Messages to a computer/ })).toBeVisible({ timeout: 15_000 });
  await expect(asked).toContainText("1 Rotary switch, one pole, twelve positions");
  await expect(asked).toContainText("Works without a computer? Nothing: the computer passes the buttons on");
  expect(await violations(page)).toEqual([]);
  await view(page, "Discharge unit");
  const unit = page.getByRole("region", { name: "CD1" });
  await expect(unit.getByRole("row", { name: /10000 µF, fitted/ })).toContainText(/(2\.9|3\.0)\d J/);
  await expect(unit).toContainText("below 5 V it is safe to touch");
  expect(await violations(page)).toEqual([]);
});

test("the thread of a yard turnout leads from its button through the diode to its coil, and the meter tests it", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await page.getByRole("link", { name: /Equip/ }).click();
  await page.getByText("Y2", { exact: true }).first().click();
  const thread = page.getByRole("group", { name: "Thread of Y2" });
  await expect(thread).toContainText("X1 CD1");
  await page.getByRole("radio", { name: "Reverse" }).click();
  await expect(thread).toContainText("Road 2");
  await thread.getByRole("button", { name: "Terminal X1-I2" }).press("r");
  await thread.getByRole("button", { name: "Terminal X1-2R" }).press("b");
  await page.getByRole("radio", { name: "diode" }).click();
  await expect(page.getByTestId("expect")).toContainText(/0\.00/);
});
