import { readFileSync } from "node:fs";
import { beginRailway, expect, test, typeCell } from "./server.ts";

// The whole way of a newcomer: a list of turnouts, their equipment, wires, numbers, findings, tests, and all of it kept.
test("from a list of turnouts to wires, numbers and recorded tests", async ({ page, server }) => {
  await beginRailway(page, server, "Newcomer");

  await test.step("six turnouts by keyboard", async () => {
    await page.getByRole("button", { name: "new ..." }).focus();
    for (const label of ["Y1", "Y2", "M1", "M2", "S1", "S2"]) await typeCell(page, label, "Enter");
    await expect(page.getByRole("row")).toHaveCount(8);
  });

  const cell = (column: string, turnout: string) =>
    page.getByRole("button", { name: new RegExp(`^${column} of ${turnout}:`) });
  const put = async (column: string, turnout: string, text: string) => {
    await cell(column, turnout).focus();
    await typeCell(page, text);
    await expect(page.getByRole("combobox")).toHaveCount(0);
  };

  await test.step("two twin-coil motors behind one discharge unit with sprung toggles", async () => {
    for (const turnout of ["Y1", "Y2"]) await put("Motor", turnout, "under-board");
    await put("Driver", "Y1", "capacitor");
    await expect(cell("Driver", "Y1")).toHaveText("CD1");
    await put("Driver", "Y2", "CD1");
    for (const turnout of ["Y1", "Y2"]) await put("Control", turnout, "centre-off");
    await expect(cell("Control", "Y2")).toHaveText("T2");
  });

  await test.step("four stall motors on one decoder, two of them a crossover", async () => {
    await put("Moves with", "M2", "M1");
    for (const turnout of ["M1", "M2", "S1", "S2"]) await put("Motor", turnout, "stall");
    await put("Driver", "M1", "accessory");
    await put("Driver", "S1", "D1-2");
    await put("Driver", "S2", "D1-3");
    await expect(cell("Driver", "M2")).toHaveText("with M1");
    await expect(cell("Address", "M1")).toHaveText("1");
    for (const turnout of ["Y1", "Y2", "M1", "S1", "S2"]) await put("Lamp", turnout, "two-colour");
    await expect(page.getByRole("link", { name: /Equip 6\/6/ })).toBeVisible();
  });

  await test.step("the thread with computed values in both positions", async () => {
    await page.getByRole("tab", { name: "Thread" }).click();
    await page.getByRole("row", { name: /M1\/M2/ }).click();
    const thread = page.getByRole("group", { name: "Thread of M1/M2" });
    await expect(thread).toContainText("8.9 V");
    await expect(thread).toContainText("26.1 mA of 40.0 mA");
    await expect(thread).toContainText("M2 stands at N");
    await page.keyboard.press("v");
    await expect(thread).toContainText("−8.9 V");
    await expect(thread).toContainText("M2 stands at R");
    await expect(thread).toContainText("yellow lit");
    await page.getByRole("row", { name: /Y1/ }).click();
    await page.getByRole("radio", { name: "Throwing" }).click();
    await expect(page.getByRole("group", { name: "Thread of Y1" })).toContainText(/N 4\.\d\d A/);
    await page.getByRole("radio", { name: "At rest" }).click();
  });

  await test.step("the meter between two terminals", async () => {
    await page.getByRole("button", { name: "Terminal Y1-N" }).press("r");
    await page.getByRole("button", { name: "Terminal Y1-C" }).press("b");
    await page.getByRole("radiogroup", { name: "Range" }).getByRole("radio", { name: "ohm" }).click();
    await expect(page.getByTestId("expect")).toHaveText("4.0ohm");
    await page.getByLabel("Meter said").fill("4.1");
    await expect(page.getByText("Agrees.")).toBeVisible();
    await page.getByLabel("Meter said").fill("9");
    await expect(page.getByText(/Off by .* more than the parts allow/)).toBeVisible();
  });

  await test.step("a finding, and its remedy by its button", async () => {
    await page.keyboard.press("Escape");
    await page.getByRole("tab", { name: "List" }).click();
    // what a coil does not bear is not taken by Enter alone; it is chosen
    await cell("Control", "Y1").focus();
    await page.keyboard.type("latching");
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("combobox")).toHaveCount(0);
    await page.getByRole("link", { name: /^Findings: 1 wrong/ }).click();
    const finding = page.getByRole("article", { name: /A coil stays energised: Y1/ });
    await expect(finding).toContainText(/With T1 at N, coil N of Y1 carries \d+ mA/);
    await finding.getByRole("button", { name: "Make T1 a centre-off momentary toggle" }).click();
    await expect(page.getByText("Nothing is wrong and nothing is missing.")).toBeVisible();
  });

  await test.step("the wire schedule, and its CSV", async () => {
    await page.getByRole("link", { name: /Loom/ }).click();
    const schedule = page.getByRole("table", { name: "Wire schedule" });
    await page.getByLabel("Find in: Wire schedule").fill("M1+");
    await expect(schedule.getByRole("row", { name: /D1-1A M1\+ BU 1550/ })).toBeVisible();
    const download = page.waitForEvent("download");
    await page.getByRole("button", { name: "CSV" }).click();
    const csv = readFileSync(await (await download).path(), "utf8");
    expect(csv).toMatch(
      /^wire,from,to,run,colour code,colour,gauge,cut mm,cable,core,flag at from,flag at to,standing,cut,/,
    );
    expect(csv).toContain(",D1-1A,M1+,layout,BU,blue,0.5 mm2,1550,");
    const wires = csv.trim().split("\r\n").length - 1;
    await expect(page.getByText(new RegExp(`^${wires} wires;`))).toBeVisible();
  });

  await test.step("the address list", async () => {
    await page.getByRole("link", { name: /Numbers/ }).click();
    const list = page.getByRole("table", { name: "Address list" });
    await expect(list.getByRole("row", { name: /D1-1 .*M1\/M2/ })).toBeVisible();
    await page.getByLabel("Address of D1-1").fill("21");
    await page.keyboard.press("Enter");
    await expect(list.getByRole("row", { name: /D1-1 .*M1\/M2 to be programmed/ })).toBeVisible();
  });

  await test.step("four tests of one turnout", async () => {
    await page.getByRole("link", { name: /Prove/ }).click();
    await page.getByRole("table", { name: "Progress" }).getByRole("row", { name: /^Y1/ }).click();
    await page
      .getByRole("listitem", { name: /Normal coil/ })
      .getByRole("button", { name: /Normal coil/ })
      .click();
    for (const read of ["4.1", "4.0", "24.5"]) {
      await page.getByRole("textbox", { name: /Meter said, (ohm|V)/ }).fill(read);
      await page.keyboard.press("Enter");
    }
    await page
      .getByRole("listitem", { name: /Goes to normal/ })
      .getByRole("button", { name: "N", exact: true })
      .click();
    await expect(page.getByText("4 passed")).toBeVisible();
  });

  await test.step("all of it is there after a reload and a restart", async () => {
    await page.getByText(/^Saved/).waitFor();
    await server.stop("SIGKILL");
    await server.start();
    await page.reload();
    await expect(page.getByRole("table", { name: "Progress" }).getByRole("row", { name: /Y1 4\/9/ })).toBeVisible();
    await page.getByRole("link", { name: /Numbers/ }).click();
    await expect(page.getByLabel("Address of D1-1")).toHaveValue("21");
  });

  await test.step("undo and redo, back beyond the reload", async () => {
    const undo = async (words: RegExp) => {
      await page.keyboard.press("Control+z");
      await expect(page.getByText(words).first()).toBeVisible();
    };
    await page.getByRole("heading", { name: "Numbers" }).click();
    await undo(/Undone: Goes to normal: seen N, passed/);
    await undo(/Undone: Charge/);
    await undo(/Undone: Reverse coil/);
    await undo(/Undone: Normal coil/);
    await undo(/Undone: D1-1 has address 21/);
    await expect(page.getByLabel("Address of D1-1")).toHaveValue("1");
    await page.keyboard.press("Control+Shift+z");
    await expect(page.getByLabel("Address of D1-1")).toHaveValue("21");
    await page.getByRole("button", { name: "History" }).click();
    await expect(page.getByRole("dialog")).toContainText("Redone: D1-1 has address 21");
    await expect(page.getByRole("dialog")).toContainText("Added turnout Y1");
  });
});
