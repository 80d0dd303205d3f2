// The line diagram: laid by hand and by keys, chosen, changed, marked, and what follows from it.
import type { Page } from "@playwright/test";
import { AXE, violations } from "./axe.ts";
import { beginRailway, expect, openDemo, type TestServer, test, typeCell } from "./server.ts";

const sheet = (page: Page) => page.getByRole("application", { name: "Line diagram" });
const STEP = 28;

/** Opens the line of a new railway, at a scale at which a step has its usual size. */
async function openNew(page: Page, server: TestServer): Promise<void> {
  await beginRailway(page, server, "Shelf");
  await page.getByRole("link", { name: /^Line/ }).click();
  await expect(page.getByText("Lay the first track")).toBeVisible();
}

/** Where a point of the lattice is on the screen, by the cursor that a click puts there. */
async function at(page: Page, x: number, y: number): Promise<{ x: number; y: number }> {
  return page.evaluate(
    ([px, py]) => {
      const group = document.querySelector<SVGGElement>("[data-line] > g")!;
      const matrix = group.getScreenCTM()!;
      return { x: matrix.a * px! + matrix.e, y: matrix.d * py! + matrix.f };
    },
    [x * STEP, y * STEP],
  );
}

async function drag(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  const [a, b] = [await at(page, ...from), await at(page, ...to)];
  await page.mouse.move(a.x, a.y);
  await page.mouse.down();
  await page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2, { steps: 3 });
  await page.mouse.move(b.x, b.y, { steps: 3 });
  await page.mouse.up();
}

async function click(page: Page, x: number, y: number): Promise<void> {
  const place = await at(page, x, y);
  await page.mouse.click(place.x, place.y);
}

test("track is laid by dragging, turnouts come into being, and the list has them", async ({ page, server }) => {
  await openNew(page, server);
  const status = sheet(page).locator("xpath=..").getByRole("status");
  await drag(page, [1, 4], [15, 4]);
  await expect(status).toHaveText("Track laid.");
  await drag(page, [5, 4], [11, 2]);
  await expect(status).toHaveText("left-hand turnout, Y1");
  await drag(page, [9, 4], [15, 6]);
  await expect(status).toHaveText("right-hand turnout, Y2");
  // what no train would take is refused with what to do, and three legs are asked for
  await drag(page, [12, 4], [12, 8]);
  await expect(status).toContainText("branch off by an eighth of a turn");
  await drag(page, [5, 4], [7, 6]);
  await expect(status).toContainText("press 3 to make it one");
  await page.keyboard.press("3");
  await expect(status).toContainText("its second blades, Y3");
  const follows = page.getByRole("region", { name: "What follows from the line" });
  await expect(follows).toContainText("3turnouts on the line");
  // an end is named, and its name stands on the drawing
  await page.keyboard.press("s");
  await click(page, 15, 4);
  await page.getByRole("textbox", { name: "Name of the end" }).fill("Quarry");
  await page.keyboard.press("Tab");
  await expect(sheet(page)).toContainText("Quarry");
  // undone and done again, like everything
  await sheet(page).focus();
  await page.keyboard.press("Control+z");
  await expect(sheet(page)).not.toContainText("Quarry");
  await page.keyboard.press("Control+Shift+z");
  await expect(sheet(page)).toContainText("Quarry");
  await page.getByRole("link", { name: /^Equip/ }).click();
  await expect(page.getByRole("row", { name: /Y2/ }).first()).toBeVisible();
  await page.reload();
  await page.getByRole("link", { name: /^Line/ }).click();
  await expect(sheet(page)).toContainText("Y1/Y3");
});

test("everything is laid, chosen and taken up by keys alone", async ({ page, server }) => {
  await openNew(page, server);
  await sheet(page).focus();
  const press = async (key: string, times: number) => {
    for (let time = 0; time < times; time++) await page.keyboard.press(key);
  };
  await press("Shift+ArrowRight", 9);
  await page.keyboard.press("Enter");
  await press("ArrowLeft", 5);
  await press("Shift+PageUp", 2);
  await press("Shift+ArrowRight", 2);
  await page.keyboard.press("Enter");
  await expect(sheet(page)).toContainText("Y1");
  await expect(page.getByRole("region", { name: "What follows from the line" })).toContainText("2routes between ends");
  // rails are parted over the step that the cursor last went, whichever way it goes
  await press("i", 1);
  await press("ArrowLeft", 2);
  await press("End", 1);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("region", { name: "What follows from the line" })).toContainText("1 gap");
  await press("PageUp", 1);
  await press("ArrowRight", 2);
  await press("l", 1);
  // chosen at the cursor, thrown, and taken up
  await press("ArrowLeft", 2);
  await press("End", 2);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Y1" })).toBeVisible();
  await page.keyboard.press("v");
  await expect(page.getByRole("region", { name: "Chosen place" }).getByRole("radio", { name: "R" })).toBeChecked();
  await page.keyboard.press("s");
  await press("ArrowLeft", 1);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "1 stretch" })).toBeVisible();
  await page.keyboard.press("Delete");
  await expect(sheet(page)).not.toContainText("Y1");
  await expect(page.getByRole("region", { name: "Turnouts in the tray" })).toContainText("Y1");
});

test("turnouts of the list are placed from the tray, and track is moved with them", async ({ page, server }) => {
  await beginRailway(page, server, "Shelf");
  await page.getByRole("button", { name: "new ..." }).click();
  await typeCell(page, "Dock", "Enter");
  await expect(page.getByRole("row", { name: /Dock/ }).first()).toBeVisible();
  await page.getByRole("link", { name: /^Line/ }).click();
  const tray = page.getByRole("region", { name: "Turnouts in the tray" });
  await tray.getByRole("button", { name: "Dock" }).click();
  await drag(page, [1, 4], [12, 4]);
  await drag(page, [4, 4], [8, 2]);
  await expect(sheet(page)).toContainText("Dock");
  // a box around all of it, moved by one drag, with the turnout
  await page.getByRole("radio", { name: /^Choose/ }).click();
  await drag(page, [0, 1], [13, 5]);
  await expect(page.getByRole("heading", { name: "2 stretches" })).toBeVisible();
  await drag(page, [10, 4], [11, 6]);
  await page.keyboard.press("Escape");
  await click(page, 5, 6);
  await expect(page.getByText(/turnout, 0\.50 m along, 0\.60 m across/)).toBeVisible();
});

test("the demo's line shows blades, what is wrong at its place, and leads to it", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("link", { name: /^Line/ }).click();
  const follows = page.getByRole("region", { name: "What follows from the line" });
  await expect(follows).toContainText("22routes between ends");
  await expect(follows).toContainText("parted by gaps");
  // a route is chosen, drawn and set
  await page.getByRole("button", { name: "Let go of it" }).click();
  await page.getByRole("radio", { name: "Routes" }).click();
  await page
    .getByRole("row", { name: /road 4.*Y1 R, Y2 N, Y3 N, Y4 R|Y4 R.*road 4/ })
    .first()
    .click();
  await expect(sheet(page).locator("[data-way]")).not.toHaveCount(0);
  await page
    .getByRole("button", { name: /^Set the route .*road 4/ })
    .first()
    .click();
  await expect(page.getByRole("row", { name: /road 4.* set$/ }).first()).toBeVisible();
  await page.getByRole("button", { name: "Let go", exact: true }).click();
  // which rail each frog carries, told as the line lies
  await page.getByRole("radio", { name: "Rails", exact: true }).click();
  await expect(
    page.getByRole("row", { name: /M1 the left rail, the front one: J the right rail, the rear one: K/ }),
  ).toBeVisible();
  await sheet(page).focus();
  await page.keyboard.press("s");
  await click(page, 22, 8);
  const place = page.getByRole("region", { name: "Chosen place" });
  await expect(place).toContainText("L3 is a right-hand one in the list, and a left-hand one as its track lies.");
  await place.getByRole("button", { name: "L3 is a left-hand one" }).click();
  await expect(place).not.toContainText("in the list");
  // chosen here is chosen in the thread
  await page.keyboard.press("t");
  await expect(page.getByRole("heading", { name: /^Thread of L3/ })).toBeVisible();
});

test("the line can be used by those who listen or see badly", async ({ page, server }) => {
  await page.addInitScript({ path: AXE });
  await openDemo(page, server);
  await page.getByRole("link", { name: /^Line/ }).click();
  await expect(page.getByRole("region", { name: "What follows from the line" })).toContainText("routes");
  expect(await violations(page)).toEqual([]);
  await page.getByRole("button", { name: "Shed (dark)" }).click();
  expect(await violations(page)).toEqual([]);
});
