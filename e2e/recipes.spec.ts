// The schools side by side: frogs, controls, kept readings, and mistakes with their cures, as an owner meets them.
import { AXE, violations } from "./axe.ts";
import { beginRailway, expect, giveFile, openDemo, openSample, pick, test, typeCell } from "./server.ts";

test("a crossover with two toggles and fed frogs is typed into the list and drawn with what each frog carries", async ({
  page,
  server,
}) => {
  await beginRailway(page, server, "Two lines");
  await page.getByRole("button", { name: "new ..." }).click();
  await typeCell(page, "A", "Tab");
  const cell = (column: string, label: string) =>
    page.getByRole("button", { name: new RegExp(`^${column} of ${label}:`) });
  const write = async (column: string, label: string, text: string) => {
    await cell(column, label).focus();
    await page.keyboard.press("F2");
    await page.keyboard.press("Control+a");
    await page.keyboard.type(text);
    await page.keyboard.press("Enter");
  };
  await write("Hand", "A", "right");
  await write("Motor", "A", "twin-coil-under-board");
  await write("Driver", "A", "cdu");
  await write("Control", "A", "toggle-centre-off + toggle-centre-off inverse");
  await expect(cell("Control", "A")).toHaveAccessibleName("Control of A: T1 + T2 inverse");
  await write("Frog", "A", "S1");
  await write("Lamp", "A", "lamps-frog-diodes");
  await expect(cell("Frog", "A")).toHaveAccessibleName("Frog of A: S1");
  await write("Frog", "A", "S9");
  await page.getByRole("tab", { name: "Thread" }).click();
  const thread = page.getByRole("group", { name: "Thread of A" });
  await expect(thread).toContainText("T2 inverse");
  await page.getByRole("radio", { name: "Throwing" }).click();
  await expect(thread).toContainText("C to N closed");
  // the second toggle is drawn then; its own normal is the other line's, so it closes to R, and the motor goes all the same
  await pick(page, page.getByLabel("Thrown by"), "by T2 inverse");
  await expect(thread).toContainText("Toggle T2");
  await expect(thread).toContainText("C to R closed");
  await expect(thread).toContainText("A stands at N");
  await page.getByRole("radio", { name: "At rest" }).click();
  await expect(thread).toContainText("Frog A");
  await page.getByRole("tab", { name: "List" }).click();
  await write("Frog", "A", "nonsense");
  await expect(page.getByRole("alert")).toContainText("is no reader type");
  await page.keyboard.press("Escape");
  await write("Frog", "A", "S1 crossed");
  await page.getByRole("tab", { name: "Thread" }).click();
  await expect(thread).toContainText("carries L, not R");
  await page.getByRole("button", { name: "Swap the rails at A-S1n/A-S1r" }).click();
  await expect(thread).toContainText("carries R");
  await expect(thread).not.toContainText("not R");
});

test("a reading is kept with its time; one that disagrees leads to the fault in halves", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("row", { name: /L1/ }).click();
  const meter = page.getByRole("complementary", { name: "Meter" });
  const read = async (value: string) => {
    await page.getByLabel("Meter said").fill(value);
    await page.keyboard.press("Enter");
  };
  await page.getByRole("button", { name: "Terminal L1+" }).press("r");
  await page.getByRole("button", { name: "Terminal L1−" }).press("b");
  await expect(page.getByTestId("expect")).toHaveText("10.2V");
  await read("0");
  await expect(meter.getByRole("list", { name: "Last readings" })).toContainText("L1+ L1−");
  await meter.getByRole("button", { name: "Measure next: D1+ to D1−" }).click();
  await expect(page.getByTestId("expect")).toHaveText(/^1[12]\.\d+V$/);
  await read("11.9");
  await meter.getByRole("button", { name: "Measure next: D1-2A to D1-2B" }).click();
  await read("10.1");
  await expect(meter).toContainText("The way is open between D1-2A and L1+, or something behind L1+ is a short.");
  await page.reload();
  await expect(meter.getByRole("list", { name: "Last readings" }).getByRole("listitem")).toHaveCount(3);
  await page.keyboard.press("Control+z");
  await expect(meter.getByRole("list", { name: "Last readings" }).getByRole("listitem")).toHaveCount(2);
});

test("mistakes are found and cured by their buttons", async ({ page, server }) => {
  await openSample(page, server.address, /One mistake for each rule/);
  await page
    .getByRole("link", { name: /Findings/ })
    .first()
    .click();
  const card = (name: RegExp) => page.getByRole("article", { name }).first();
  // where much is wrong, only the first are listed, and their remedies are tried one after the other
  await page.getByLabel("Place", { exact: true }).fill("Siding");
  await card(/Detectors sit in opposite rails/)
    .getByRole("button", { name: /^Feed BD\d+-3i from rail J/ })
    .click();
  await expect(card(/Detectors sit in opposite rails/)).toHaveCount(0);
  await page.getByLabel("Place", { exact: true }).fill("MC1");
  await card(/Relays take more than/)
    .getByRole("button", { name: /^Take the jumper off/ })
    .click();
  await expect(card(/Relays take more than/)).toHaveCount(0);
});

test("own types go out to a file and come into another railway; a file that is none is refused", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await page.getByRole("link", { name: "Device types" }).click();
  await page
    .getByRole("row", { name: /^Servo / })
    .first()
    .click();
  await expect(page.getByText("used by").or(page.getByText("not used yet"))).toBeVisible();
  await page.getByRole("button", { name: "Copy, and change the figures" }).click();
  const name = page.getByLabel("Name of the type");
  await name.fill("Shelf servo");
  await name.press("Tab");
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Export own" }).click();
  const path = await (await download).path();
  await beginRailway(page, server, "Elsewhere");
  await page.getByRole("link", { name: "Device types" }).click();
  const importTypes = page.getByRole("button", { name: "Import types from a file" });
  await giveFile(page, importTypes, path);
  await expect(page.getByText("2 of your own")).toBeVisible();
  await expect(page.getByRole("row", { name: "Shelf servo" })).toBeVisible();
  await giveFile(page, importTypes, { name: "types.json", mimeType: "application/json", buffer: Buffer.from("{") });
  await expect(page.getByText(/Nothing was imported\. The file is not a file of device types/).first()).toBeVisible();
});

for (const theme of ["bench", "shed"] as const) {
  test(`every way of driving, frogs, readings and mistakes can be read and used by all, theme ${theme}`, async ({
    page,
    server,
  }) => {
    await page.addInitScript({ path: AXE });
    await page.addInitScript((wanted) => localStorage.setItem("alderman-theme", wanted), theme);
    await openSample(page, server.address, /The schools side by side/);
    const thread = page.getByRole("group", { name: /^Thread of/ });
    const roster = page.getByRole("table", { name: "Turnouts" });
    // a reversing toggle, several controls, a reader, a servo, a bus, a frog by relay, a lamp from the frog
    for (const label of ["6", "19", "25", "22", "28", "34", "45"]) {
      await roster
        .getByRole("row", { name: new RegExp(`^\\S+ hand ${label}\\b|^${label}\\b`) })
        .first()
        .click();
      await expect(thread).toHaveAccessibleName(new RegExp(`^Thread of ${label}`));
      expect(await violations(page), `turnout ${label}`).toEqual([]);
    }
    await openSample(page, server.address, /One mistake for each rule/);
    await page
      .getByRole("link", { name: /Findings/ })
      .first()
      .click();
    await expect(page.getByRole("article").first()).toBeVisible();
    expect(await violations(page)).toEqual([]);
  });
}

/** Texts of the drawing that stand over one another, or outside of it. */
function overprints(): string[] {
  const svg = document.querySelector("svg[data-thread]");
  if (!svg) return ["There is no drawing."];
  const frame = svg.getBoundingClientRect();
  const texts = [...svg.querySelectorAll("text")].flatMap((text) => {
    const words = text.textContent?.trim();
    return words ? [{ words, box: text.getBoundingClientRect() }] : [];
  });
  return texts.flatMap(({ words, box }, index) => {
    const outside = box.left < frame.left - 1 || box.right > frame.right + 1 || box.bottom > frame.bottom + 1;
    const over = texts.slice(index + 1).filter(({ box: other }) => {
      const wide = Math.min(box.right, other.right) - Math.max(box.left, other.left);
      const high = Math.min(box.bottom, other.bottom) - Math.max(box.top, other.top);
      return wide > 2 && high > 5;
    });
    return [...(outside ? [`${words} lies outside`] : []), ...over.map((other) => `${words} over ${other.words}`)];
  });
}

test("no text of a drawn thread stands over another, whatever the school", async ({ page, server }) => {
  // some forty threads, each in two states
  test.slow();
  await openSample(page, server.address, /The schools side by side/);
  const roster = page.getByRole("table", { name: "Turnouts" });
  const drawing = page.locator("svg[data-thread]");
  await expect(drawing).toBeVisible();
  const rows = await roster.getByRole("row").count();
  expect(rows).toBeGreaterThan(10);
  for (let row = 1; row < rows; row++) {
    await roster.getByRole("row").nth(row).click();
    const label = (await drawing.getAttribute("aria-label")) ?? "";
    for (const [moment, position] of [
      ["Throwing", "Reverse"],
      ["At rest", "Normal"],
    ] as const) {
      await page.getByRole("radio", { name: moment }).click();
      await page.getByRole("radio", { name: position }).click();
      await expect.poll(() => page.evaluate(overprints), { message: label }).toEqual([]);
    }
  }
});
