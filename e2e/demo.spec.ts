import { AXE, violations } from "./axe.ts";
import { expect, moveAllMade, openDemo, pick, test } from "./server.ts";

test("the demo shows its five mistakes and what follows from them, and each is put right by a button", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await expect(page.getByRole("link", { name: "Findings: 5 wrong, 8 doubtful" })).toBeVisible();
  const crossover = page.getByRole("article", { name: /throw against each other/ });
  await expect(crossover).toContainText("Asked for N, M1 goes to N and M2 to R");
  await expect(crossover).toContainText("Not useful here: one output drives both");
  await crossover.getByRole("button", { name: "Swap the leads at M2+/M2−" }).click();
  // wires that were cut and labelled as they went before are named, and moved
  await moveAllMade(page);
  await expect(page.getByText("All checks are clear.")).toBeVisible();
  await page.keyboard.press("g");
  await page.keyboard.press("f");
  await page
    .getByRole("article", { name: /coil stays energised/ })
    .getByRole("button", { name: /Make T2/ })
    .click();
  await page
    .getByRole("article", { name: /goes astray through the diode board/ })
    .getByRole("button", { name: "Put a diode in place of the wire I4 to 4R" })
    .click();
  const frog = page.getByRole("article", { name: /frog carries the wrong rail/ });
  await expect(frog).toContainText("With L2 at N its frog carries the right rail and must carry the left one");
  await frog.getByRole("button", { name: "Swap the rails at L2-S2n/L2-S2r" }).click();
  const quay = page.getByRole("article", { name: /common does not suit/ });
  await expect(quay).toContainText("LP4 has its common to 0 V, and ON1 pulls down to 0 V as well");
  await quay.getByRole("button", { name: "Make LP4 a lamp with its common to plus" }).click();
  const loop = page.getByRole("article", { name: /: LP5$/ });
  await expect(loop).toContainText("An LED of LP5 sees 15.0 V backwards; it bears 5.0 V.");
  await loop.getByRole("button", { name: /LP5/ }).first().click();
  await expect(page.getByRole("link", { name: "Findings: 0 wrong, 7 doubtful" })).toBeVisible();
});

test("a stale test says what has changed since", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("link", { name: /Prove/ }).click();
  await page.getByRole("table", { name: "Progress" }).getByRole("row", { name: /^Y1/ }).click();
  const step = page.getByRole("listitem", { name: /Goes to normal/ });
  await expect(step).toContainText("Stale");
  await expect(step).toContainText("Wire X1-1N to Y1-N was changed since.");
});

test("two open windows stay the same, and an edit made in both at once is not lost silently", async ({
  page,
  server,
  context,
}) => {
  await openDemo(page, server);
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByRole("link", { name: /Numbers/ }).click();
  await page.getByRole("link", { name: /Numbers/ }).click();
  await page.getByLabel("Address of D1-2").fill("30");
  await page.keyboard.press("Enter");
  await expect(other.getByLabel("Address of D1-2")).toHaveValue("30");

  // the second window's answer is held back, so that its edit meets a revision which has moved on
  let release: () => void = () => undefined;
  const held = new Promise<void>((done) => {
    release = done;
  });
  await other.route("**/edits", async (route) => {
    await held;
    await route.continue();
  });
  await other.getByLabel("Address of D1-3").fill("31");
  await other.keyboard.press("Enter");
  await page.getByLabel("Address of D1-4").fill("32");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Address of D1-4")).toHaveValue("32");
  release();
  for (const window of [page, other]) {
    await expect(window.getByLabel("Address of D1-3")).toHaveValue("31");
    await expect(window.getByLabel("Address of D1-4")).toHaveValue("32");
  }
});

test("an edit made while the server is away is kept and sent when it is back", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("link", { name: /Numbers/ }).click();
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("22");
  await server.stop("SIGKILL");
  await page.getByLabel("Address of D1-2").fill("40");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Not saved yet, kept in this browser\..*Trying again\.$/)).toBeVisible();
  await server.start();
  await expect(page.getByText(/^Saved \d/)).toBeVisible({ timeout: 20_000 });
  await page.reload();
  await expect(page.getByLabel("Address of D1-2")).toHaveValue("40");
});

test("a stage that was opened goes on without the server, and so do those not opened yet", async ({ page, server }) => {
  const begun = page.waitForResponse(/\/TypesStage-/);
  await openDemo(page, server);
  await begun;
  // until nothing more has come for a while
  const come = () => page.evaluate(() => performance.getEntriesByType("resource").length);
  await expect
    .poll(async () => {
      const before = await come();
      await page.waitForTimeout(700);
      return (await come()) - before;
    })
    .toBe(0);
  await server.stop("SIGKILL");
  for (const [link, title] of [
    ["Numbers", "Numbers"],
    ["Prove", "Prove"],
    ["Device types", "Device types"],
  ] as const) {
    if (link === "Device types") await page.getByRole("link", { name: /^Equip/ }).click();
    await page.getByRole("link", { name: new RegExp(`^${link}`) }).click();
    await expect(page.getByRole("heading", { name: title, level: 1 })).toBeVisible();
  }
  await expect(page.getByLabel("Find in: Device types")).toBeVisible();
});

test("a stage that cannot be loaded says so, and comes when it can", async ({ page, server }) => {
  const stage = /\/LoomStage-/;
  await page.route(stage, (route) => route.abort());
  await openDemo(page, server);
  await page.getByRole("link", { name: /Loom/ }).click();
  await expect(page.getByText("A part of the program could not be loaded")).toBeVisible();
  await page.unroute(stage);
  await page.getByRole("button", { name: "Reload the page" }).click();
  await expect(page.getByRole("table", { name: "Wire schedule" })).toBeVisible();
});

test("an own type is copied, changed and fitted, and its figures are reckoned with", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("link", { name: "Device types" }).click();
  await page.getByLabel("Find in: Device types").fill("12 V DC");
  await page.getByRole("row", { name: "12 V DC supply" }).click();
  await page.getByRole("button", { name: "Copy, and change the figures" }).click();
  await page.getByLabel("rating").fill("0.05");
  await page.keyboard.press("Enter");
  await page.getByLabel("output").fill("-3");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/volts \(output\) must be 1 to 60 V, not -3/).first()).toBeVisible();
  await page.keyboard.press("g");
  await page.getByRole("link", { name: /Equip/ }).click();
  await page.getByRole("button", { name: /PS2/ }).click();
  await pick(page, page.getByLabel("Type"), "12 V DC supply, my own");
  await page.getByRole("dialog").getByRole("button", { name: "Close" }).click();
  await page.getByRole("link", { name: /^Findings:/ }).click();
  await expect(page.getByRole("article", { name: /near or over its rating: PS2/ })).toContainText(
    "it is rated 50.0 mA",
  );
});

test("everything is found by its label, and keys lead everywhere", async ({ page, server }) => {
  await openDemo(page, server);
  await page.keyboard.press("/");
  await expect(page.getByRole("dialog", { name: "Find or do" })).toBeVisible();
  await page.keyboard.type("LP8");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Thread of Y3" })).toBeVisible();
  await page.keyboard.press("Control+k");
  await page.keyboard.type("go to loom");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Loom" })).toBeVisible();
  for (const [key, heading] of [
    ["n", "Numbers"],
    ["p", "Prove"],
    ["d", "Device types"],
    ["e", "Equip"],
  ] as const) {
    await page.keyboard.press("g");
    await page.keyboard.press(key);
    await expect(page.getByRole("heading", { name: heading, exact: true })).toBeVisible();
  }
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog")).toContainText("put the red probe on it");
});

test("quick sums answer as one types and say which field is wrong", async ({ page, server }) => {
  await page.goto(`${server.address}/quick-sums/led-current`);
  await expect(page.locator('[data-result="milliamps"]')).toHaveText("6.67 mA");
  await page.getByLabel("Resistor").fill("0");
  await expect(page.getByText(/ohms: Too small/)).toBeVisible();
  await page.getByRole("link", { name: /Resistor for an LED/ }).click();
  await page.getByLabel("Wanted current").fill("11");
  await expect(page.locator('[data-result="chosenOhms"]')).toHaveText("300 ohm");
  await expect(page.locator('[data-result="idealOhms"]')).toHaveText("272.7 ohm");
});

for (const theme of ["bench", "shed"] as const) {
  test(`every view can be read and used by all, theme ${theme}`, async ({ page, server }) => {
    await page.addInitScript((wanted) => localStorage.setItem("alderman-theme", wanted), theme);
    await page.addInitScript({ path: AXE });
    await openDemo(page, server);
    const railway = page.url().replace(/\/equip.*/, "");
    for (const view of [
      "equip",
      "equip?view=list",
      "equip?view=sense",
      "equip?view=lamp",
      "equip?view=schools",
      "equip?view=power",
      "types",
      "loom",
      "numbers",
      "prove",
      "findings",
      "open-ends",
    ]) {
      await page.goto(`${railway}/${view}`);
      await expect(page.getByRole("link", { name: /Prove \d+\/\d+/ })).toBeVisible();
      expect(await violations(page), view).toEqual([]);
    }
    for (const path of ["railways", "quick-sums"]) {
      await page.goto(`${server.address}/${path}`);
      await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
      expect(await violations(page), path).toEqual([]);
    }
  });
}
