// Route buttons in Quick sums: the table as it is typed, drawn, built three ways, pressed with and without diodes.
import { AXE, violations } from "./axe.ts";
import { expect, test } from "./server.ts";

test("a table of route buttons is drawn, pressed, and shows where current would sneak without diodes", async ({
  page,
  server,
}) => {
  await page.addInitScript({ path: AXE });
  await page.goto(`${server.address}/quick-sums/diode-matrix`);
  const matrix = page.getByRole("region", { name: "The matrix" });
  await expect(matrix).toContainText("5 diodes, 4 plain wires, at most 1 diode in a row");
  const live = (coil: string) => matrix.locator(`[data-coil="${coil}"]`).getAttribute("data-live");
  await matrix.getByRole("radio", { name: "Road 3" }).click();
  expect([await live("Y1N"), await live("Y3R"), await live("Y1R")]).toEqual(["wanted", "wanted", "none"]);
  await expect(matrix).toContainText(/Y3R 0\.\d+ J/);
  await expect(matrix).toContainText("test with the unit discharged");
  await matrix.getByRole("radio", { name: "Without diodes" }).click();
  await expect(matrix).toContainText(
    "From Y1N, Y2N current goes back up the wires of Road 2, Road 4, and on to Y2R, Y3N.",
  );
  expect([await live("Y1N"), await live("Y3N")]).toEqual(["wanted", "astray"]);
  // by keys too: arrows go from button to button
  await matrix.getByRole("radio", { name: "Road 3" }).press("ArrowUp", { delay: 80 });
  await matrix.getByRole("radio", { name: "Road 2" }).press("ArrowUp", { delay: 80 });
  await expect(matrix).toContainText("Road 1 energises nothing besides, even without diodes.");
  expect(await violations(page)).toEqual([]);
  // the board: drawn with its ruler, and what to measure when it is built
  await matrix.getByRole("button", { name: /^Build sheet/ }).click();
  await expect(matrix.getByRole("img", { name: "The board" })).toContainText("100 mm");
  const measured = matrix.getByRole("table", { name: "What to measure" });
  await expect(measured.getByRole("row", { name: "Road 2 Y1N diode 0.55 V" })).toBeVisible();
  await expect(measured.getByRole("row", { name: "Y1N Road 2 diode backwards open" })).toBeVisible();
  const saved = page.waitForEvent("download");
  await matrix.getByRole("button", { name: "SVG, 1:1" }).click();
  expect((await saved).suggestedFilename()).toBe("diode board.svg");
  expect(await violations(page)).toEqual([]);
  // another table, built otherwise
  await page.getByRole("textbox").first().fill("All: a b c d\nSome: a b c");
  await matrix.getByRole("radio", { name: "Cascaded" }).click();
  await expect(matrix).toContainText("1 diode, 4 plain wires");
  await page.getByRole("textbox").first().fill("All: a a");
  await expect(page.getByText("All names a twice.")).toBeVisible();
  await expect(matrix).toHaveCount(0);
});

test("the pulse of a discharge unit has its curve, which follows what is typed", async ({ page, server }) => {
  await page.addInitScript({ path: AXE });
  await page.goto(`${server.address}/quick-sums/cdu-pulse`);
  const pulse = page.getByRole("region", { name: "The pulse" });
  const chart = pulse.getByRole("img");
  // 4700 uF into two coils of 4 ohm with 1.01 ohm of wire each: 22 V / 5.01 ohm, and 11.8 ms x ln 2
  await expect(chart).toHaveAccessibleName("Volts and amps fall from 22 V and 4.39 A; after 8.2 ms half is left.");
  await expect(pulse.locator(".recharts-line-curve")).toHaveCount(2);
  await page.getByLabel("Coils fired together").fill("1");
  await expect(chart).toHaveAccessibleName(/after 16\.3 ms half is left/);
  expect(await violations(page)).toEqual([]);
});
