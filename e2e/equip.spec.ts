import { beginRailway, drag, expect, giveFile, openDemo, pick, test } from "./server.ts";

/** Puts text on the clipboard and pastes it into the cell that has the focus. */
async function paste(page: import("@playwright/test").Page, text: string): Promise<void> {
  await page.evaluate((value) => {
    const data = new DataTransfer();
    data.setData("text/plain", value);
    document.activeElement?.dispatchEvent(
      new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }),
    );
  }, text);
}

test("four turnouts are equipped by keyboard alone: typed, chosen, filled down, and complete", async ({
  page,
  server,
}) => {
  await beginRailway(page, server, "Shelf");
  await page.getByRole("button", { name: "new ..." }).focus();
  for (const label of ["A", "B", "C", "D"]) {
    await page.keyboard.type(label);
    await page.keyboard.press("Enter");
  }
  await page.keyboard.press("Escape");
  await page.keyboard.press("ArrowUp");
  for (let step = 0; step < 3; step++) await page.keyboard.press("ArrowUp");
  for (let step = 0; step < 5; step++) await page.keyboard.press("ArrowRight");
  await page.keyboard.type("stall-motor");
  await page.keyboard.press("Tab");
  // the new cell's choices say what suits the motor
  await page.keyboard.press("F2");
  await expect(
    page.getByRole("option", { name: /Capacitor discharge unit.*cannot: a pulse does not hold/ }).first(),
  ).toBeVisible();
  await page.keyboard.type("stall-decoder-8");
  await page.keyboard.press("Tab");
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("ArrowLeft");
  await expect(page.getByRole("button", { name: "Motor of A: Stall motor with two contacts" })).toBeFocused();
  for (let step = 0; step < 3; step++) await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowRight");
  await expect(page.getByText("4 turnouts by 2 columns chosen")).toBeVisible();
  await page.keyboard.press("Control+d");
  await expect(page.getByRole("button", { name: "Driver of D: D1-4" })).toBeVisible();
  await expect(page.getByText("D is complete, and all checks are clear.")).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("button", { name: "Driver of D: empty" })).toBeVisible();
  await expect(page.getByText("D has no motor.")).toBeVisible();
  await page.getByRole("button", { name: "Go to Motor" }).press("Enter");
  await expect(page.getByRole("button", { name: "Motor of D: empty" })).toBeFocused();
});

test("a block is pasted over the list, and what cannot be is said with row and column", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("tab", { name: "List" }).click();
  await page.getByRole("button", { name: "Hand of L1: right" }).focus();
  await paste(page, "left\tHarbour\nup\tHarbour");
  await expect(page.getByRole("alert")).toContainText('Row 2, Hand of L2: "up" is no hand');
  await expect(page.getByRole("button", { name: "Zone of L1: Linkspan" })).toBeVisible();
  await paste(page, "left\tHarbour\nright\tHarbour");
  await expect(page.getByRole("button", { name: "Zone of L2: Harbour" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Hand of L1: left" })).toBeVisible();
  await paste(page, "=A1");
  await expect(page.getByRole("alert")).toContainText('"=A1" is a formula');
  await paste(page, `label\tcolour\n${"X"}1\tred`);
  const asks = page.getByRole("dialog", { name: "What do these columns hold?" });
  await pick(page, asks.getByRole("combobox", { name: "Column for colour" }), "Hand");
  await asks.getByRole("button", { name: "Take the table in" }).click();
  await expect(page.getByRole("alert")).toContainText('"red" is no hand');
  await paste(page, `label\n${Array.from({ length: 5000 }, (_, row) => `R${row}`).join("\n")}`);
  await expect(page.getByRole("alert")).toContainText("The table has 5000 rows; at most 1000 are taken at once");
  await paste(page, "label\nX1\nX1");
  await expect(page.getByRole("alert")).toContainText("there is already a turnout called X1");
});

test("the list is sorted, searched and grouped, and one turnout's equipment is given to others", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await page.getByRole("tab", { name: "List" }).click();
  const labels = () => page.locator('[data-cell$=":0"]').allTextContents();
  await page.getByRole("button", { name: "Sort by Run, m" }).click();
  expect((await labels())[0]).toBe("Y1");
  await page.getByRole("button", { name: "Sort by Run, m" }).click();
  expect((await labels())[0]).toBe("L3");
  await page.getByRole("button", { name: "Sort by Run, m" }).click();
  await page.getByRole("checkbox", { name: "By zone" }).check();
  await expect(page.getByRole("rowheader", { name: "Shed (2)" }).or(page.getByText("Shed (2)"))).toBeVisible();
  await page.getByRole("checkbox", { name: "By zone" }).uncheck();
  await page.getByLabel("Find in the list").fill("linkspan");
  await expect(page.getByText("3 of 14 turnouts")).toBeVisible();
  // L1 first, then L3 with Shift
  await page.getByRole("button", { name: "Turnout of L1: L1" }).click();
  await page.getByRole("button", { name: /^Lamp of L3:/ }).click({ modifiers: ["Shift"] });
  await page.getByRole("button", { name: "Equip all like L1" }).click();
  await expect(page.getByRole("button", { name: /Lamp of L3: LP\d+$/ })).toBeVisible();
  await expect(page.getByRole("button", { name: "Frog of L2: S2" })).toBeVisible();
});

test("boards are allotted, looked at first, and accepted in part", async ({ page, server }) => {
  await beginRailway(page, server, "New");
  await page.getByRole("button", { name: "new ..." }).focus();
  await paste(
    page,
    `label\tzone\tmotor\n${Array.from({ length: 10 }, (_, row) => `T${row}\t${row % 2 ? "West" : "East"}\tstall-motor`).join("\n")}`,
  );
  await expect(page.getByRole("button", { name: "Turnout of T9: T9" })).toBeVisible();
  await page.getByRole("button", { name: "Allot outputs" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("New boards of a kind").fill("1");
  await dialog.getByRole("button", { name: "Propose" }).click();
  await expect(dialog.getByRole("alert")).toContainText("It takes 2 new boards");
  await expect(dialog.getByRole("alert")).toContainText("1 too few");
  await dialog.getByLabel("New boards of a kind").fill("");
  await dialog.getByRole("button", { name: "Propose" }).click();
  await expect(dialog.getByText("10 turnouts and pairs with 2 new boards.")).toBeVisible();
  await dialog.getByLabel("Accept T9").uncheck();
  await dialog.getByRole("button", { name: "Accept 9 of 10" }).click();
  await expect(page.getByRole("button", { name: "Driver of T8: D1-5" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Driver of T9: empty" })).toBeVisible();
  await page.getByRole("link", { name: /Open ends/ }).click();
  await expect(page.getByRole("table", { name: "Left open" })).toContainText("T9 has no driver");
});

test("boards stand beside the list with what they give, and a turnout is moved to another output by keys and by dragging", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await page.getByRole("tab", { name: "List" }).click();
  const boards = page.getByRole("table", { name: "Boards and supplies" });
  const row = (label: string) => boards.getByRole("row", { name: new RegExp(`^${label} `) });
  // five motors of four turnouts and pairs; the output of the crossover gives two
  await expect(row("D1")).toContainText("4/8");
  await expect(row("D1")).toContainText(/7\d\.\d mA.*320 mA/);
  await expect(row("PS2")).toContainText("2.00 A");
  await page.getByRole("button", { name: "Driver of L1: D1-2" }).focus();
  await page.keyboard.press("Alt+ArrowDown");
  await expect(page.getByRole("button", { name: "Driver of L1: D1-3" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Driver of L2: D1-2" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Address of L1: 22" })).toBeVisible();
  await drag(page, page.getByRole("button", { name: "Turnout of L1: L1" }), row("D2"));
  await expect(page.getByRole("button", { name: "Driver of L1: D2-2" })).toBeVisible();
  await expect(row("D1")).toContainText("3/8");
  await drag(page, page.getByRole("button", { name: "Turnout of Y1: Y1" }), row("D1"));
  await expect(page.getByText("D1 cannot drive Y1: an output for stall motors gives milliamps").first()).toBeVisible();
  await page.getByRole("button", { name: "Fold" }).click();
  await expect(boards).toBeHidden();
});

test("forty turnouts are pasted, allotted, lit by filling down, and complete, with what they draw beside them", async ({
  page,
  server,
}) => {
  await beginRailway(page, server, "Forty");
  await page.getByRole("button", { name: "new ..." }).focus();
  const rows = Array.from(
    { length: 40 },
    (_, row) => `T${row + 1}\tZone ${Math.floor(row / 14) + 1}\tstall-motor\t${row === 3 ? "T3" : ""}`,
  );
  await paste(page, `label\tzone\tmotor\twith\n${rows.join("\n")}`);
  await expect(page.getByText("40 turnouts", { exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Allot outputs" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Propose" }).click();
  // 39 outputs, the crossover on one of them
  await expect(dialog.getByText(/^39 turnouts and pairs with 5 new boards/)).toBeVisible();
  const proposal = dialog.getByRole("table", { name: "Proposal" });
  await expect(proposal.getByRole("row", { name: /T3\/T4 Zone 1 D1-3 3 new, fed by PS1/ })).toBeVisible();
  await dialog.getByRole("button", { name: "Accept all" }).click();
  await expect(page.getByRole("button", { name: "Driver of T1: D1-1" })).toBeVisible();
  const stages = page.getByRole("navigation", { name: "Stages" });
  await expect(stages).toContainText("40/40");
  // a lamp for the first, and the same for all
  await page.getByRole("button", { name: "Lamp of T1: empty" }).focus();
  await page.keyboard.type("lamp-two-colour");
  await page.keyboard.press("Tab");
  await page.getByRole("button", { name: /^Lamp of T1: LP1/ }).focus();
  for (const key of ["Shift+PageDown", "Shift+PageDown"]) await page.keyboard.press(key);
  await expect(page.getByText("40 turnouts by 1 column chosen")).toBeVisible();
  await page.keyboard.press("Control+d");
  await expect(page.getByRole("button", { name: /^Lamp of T40: LP40/ })).toBeVisible();
  // forty motors held at 15 mA, and forty lamps on one supply, one at each end of the crossover
  const boards = page.getByRole("table", { name: "Boards and supplies" });
  await expect(boards.getByRole("row", { name: /^D1 .*8\/8 0 1[23]\d mA/ })).toBeVisible();
  await expect(boards.getByRole("row", { name: /^PS\d 5 V DC/ })).toContainText(/2\d\d mA/);
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("button", { name: "Lamp of T40: empty" })).toBeVisible();
  await expect(page.getByRole("button", { name: /^Driver of T40: D\d-\d$/ })).toBeVisible();
});

test("what was seen goes into the sense ledger, and the cheapest turn puts it right", async ({ page, server }) => {
  await openDemo(page, server);
  await page
    .getByRole("row", { name: /^left hand L2|L2/ })
    .first()
    .click();
  await page.getByRole("tab", { name: "Sense" }).click();
  await page.getByRole("row", { name: /L3/ }).first().click();
  await expect(page.getByText("According to these entries, everything moves as asked.")).toBeVisible();
  for (const what of ["blades of L3", "frog of L3"])
    await page
      .getByRole("radiogroup", { name: `Seen: ${what}` })
      .getByRole("radio", { name: "the other way" })
      .click();
  await page.getByRole("button", { name: "Note what was seen" }).click();
  await expect(
    page.getByText("According to these entries, blades of L3 and frog of L3 go the other way."),
  ).toBeVisible();
  await expect(page.getByText("1 min; kept in the decoder; a reset undoes it.")).toBeVisible();
  await page.getByRole("button", { name: "Swap the leads at L3" }).click();
  await expect(page.getByText("According to these entries, everything moves as asked.")).toBeVisible();
  await expect(page.getByText("turned by hand once")).toBeVisible();
  await page.getByRole("tab", { name: "Thread" }).click();
  await expect(page.getByRole("group", { name: "Thread of L3" })).toContainText("L3 stands at N");
});

test("the lamp says what it knows, the schools stand side by side, and power-up names what moves", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await page.getByRole("row", { name: /L1/ }).first().click();
  await page.getByRole("tab", { name: "Lamp" }).click();
  await expect(page.getByText("It cannot tell the blades")).toBeVisible();
  await expect(page.getByRole("row", { name: /asked for R, the link came off at N/ })).toContainText("a lie");
  await page.getByRole("tab", { name: "Schools" }).click();
  await page.getByRole("button", { name: /^Choose: Stall motors on reversing toggles/ }).click();
  await page.getByRole("alertdialog").getByRole("button", { name: "Choose it" }).click();
  await expect(page.getByRole("row", { name: /Stall motors on reversing toggles/ })).toContainText("as it is");
  await page.getByRole("tab", { name: "Power-up" }).click();
  const moving = page.getByText(/may move by themselves when power returns/);
  await expect(moving).toContainText("L1");
  await expect(moving).toContainText("S1");
});

test("findings are filtered, gone through by key, and a remedy says first what it changes", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await page.getByRole("link", { name: /Findings/ }).click();
  await page.getByRole("radiogroup", { name: "Severity" }).getByRole("radio", { name: "wrong" }).click();
  await expect(page.getByRole("article")).toHaveCount(5);
  await page.getByLabel("Place", { exact: true }).fill("quay");
  await expect(page.getByRole("article")).toHaveCount(1);
  await page.getByLabel("Place", { exact: true }).fill("");
  await page.getByRole("heading", { name: "Findings" }).click();
  await page.keyboard.press("]");
  await page.keyboard.press("]");
  const second = page.getByRole("article").nth(1);
  await expect(second).toBeFocused();
  const swap = second.getByRole("button", { name: /^Swap the leads at M2/ });
  await swap.focus();
  const change = page.getByRole("dialog", { name: /^What "Swap the leads at M2/ });
  await expect(change).toContainText("leads straight, mounted the other way round → leads crossed");
  await expect(change).toContainText("Cures 1 finding");
  await page.getByRole("radiogroup", { name: "Severity" }).getByRole("radio", { name: "kept" }).click();
  await expect(page.getByText("Kept: the wires behind the panel get a fuse; it is on the list")).toHaveCount(2);
});

test("notes and photos are kept small, and what is no picture is refused", async ({ page, server }) => {
  await openDemo(page, server);
  await page.getByRole("button", { name: "Fittings of M1/M2" }).click();
  const dialog = page.getByRole("dialog");
  const addPhoto = dialog.getByRole("button", { name: "Add a photo of M1" });
  await dialog.getByLabel("Note on M1").fill("beam in the way");
  await giveFile(page, addPhoto, { name: "no.jpg", mimeType: "image/jpeg", buffer: Buffer.from("text") });
  await expect(dialog.getByRole("alert")).toContainText("no.jpg is no picture that can be opened");
  await giveFile(page, addPhoto, { name: "huge.png", mimeType: "image/png", buffer: Buffer.alloc(40_000_000) });
  await expect(dialog.getByRole("alert")).toContainText("huge.png has 40 MB; a photo may have 25 MB");
  const png = await page.screenshot();
  await giveFile(page, addPhoto, { name: "under the board.png", mimeType: "image/png", buffer: png });
  const photo = dialog.getByRole("img", { name: "under the board" });
  await expect(photo).toBeVisible();
  const size = await photo.evaluate((image: HTMLImageElement) => [image.naturalWidth, image.src.length]);
  expect(size[0]).toBeLessThanOrEqual(640);
  expect(size[1]).toBeLessThan(120_001);
  // two at once are both kept, and what is refused among them is said
  const jpeg = await page.screenshot({ type: "jpeg" });
  await giveFile(page, addPhoto, [
    { name: "left.png", mimeType: "image/png", buffer: png },
    { name: "broken.jpg", mimeType: "image/jpeg", buffer: Buffer.from("text") },
    { name: "turned.jpg", mimeType: "image/jpeg", buffer: onItsSide(jpeg) },
  ]);
  await expect(dialog.getByRole("img", { name: "left" })).toBeVisible();
  await expect(dialog.getByRole("alert")).toContainText("broken.jpg is no picture that can be opened");
  // the picture is as wide as it was high: the camera lay on its side
  const turned = await dialog
    .getByRole("img", { name: "turned" })
    .evaluate((image: HTMLImageElement) => image.naturalHeight / image.naturalWidth);
  expect(turned).toBeCloseTo(1280 / 800, 1);
  await page.reload();
  await page.getByRole("button", { name: "Fittings of M1/M2" }).click();
  for (const name of ["under the board", "left", "turned"])
    await expect(page.getByRole("dialog").getByRole("img", { name })).toBeVisible();
  await expect(page.getByRole("dialog").getByLabel("Note on M1")).toHaveValue("beam in the way");
});

test("an own type says what is on it, and a change of one in use is shown before it is made", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await page.getByRole("link", { name: "Device types" }).click();
  await page.getByRole("row", { name: "Stall motor with two contacts" }).first().click();
  await page.getByRole("button", { name: "Copy, and change the figures" }).click();
  await page.getByLabel("rough price of one").fill("19.5");
  await page.keyboard.press("Enter");
  await page.getByLabel("Printed beside +").fill("RED");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Add a setting" }).click();
  await page.getByLabel("name of setting 1").fill("throw");
  await page.keyboard.press("Enter");
  await page.getByLabel("In the box").fill("1 motor, 2 screws");
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: /Equip/ }).first().click();
  await page.getByRole("row", { name: /L1/ }).first().click();
  await page.getByRole("button", { name: "Fittings of L1" }).click();
  const type = page.getByRole("group", { name: "Motor L1" }).getByLabel("Type");
  await pick(page, type, "Stall motor with two contacts, my own");
  await page.getByRole("dialog").getByRole("button", { name: "Close" }).click();
  await page.getByRole("link", { name: "Device types" }).click();
  await page.getByRole("row", { name: "Stall motor with two contacts, my own" }).click();
  await expect(page.getByLabel("Printed beside +")).toHaveValue("RED");
  await expect(page.getByLabel("name of setting 1")).toHaveValue("throw");
  await page.getByLabel("resistance while stalled", { exact: false }).first().fill("100");
  await page.keyboard.press("Enter");
  const change = page.getByRole("alertdialog", { name: "Before it is changed" });
  await expect(change).toContainText("L1 is of this type");
  await expect(change).toContainText(/L1 driver at rest: 15.0 mA → 54.\d mA/);
  await change.getByRole("button", { name: "Make the change" }).click();
  await pick(page, page.getByLabel(/^Standing of: resistance while stalled/), "heard");
  await page.getByRole("link", { name: /^Findings:/ }).click();
  await expect(page.getByRole("article", { name: /only heard: L1/ })).toContainText("L1 rests on it");
  await page.getByRole("link", { name: /Open ends/ }).click();
  await expect(page.getByRole("table", { name: "Left open" })).toContainText("Heard only: resistance while stalled");
});

test("a toggle that two turnouts share throws both, and says so", async ({ page, server }) => {
  await openDemo(page, server);
  // one that stays on cannot be had for coils, whatever else it throws
  await page.getByRole("link", { name: /^Findings:/ }).click();
  await page.getByRole("button", { name: "Make T2 a centre-off momentary toggle" }).click();
  await page.getByRole("link", { name: /Equip/ }).click();
  await page.getByRole("tab", { name: "List" }).click();
  await page.getByRole("button", { name: /^Control of Y5/ }).focus();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("T2");
  await expect(page.getByRole("option", { name: /T2.*shared with Y4: they move together/ })).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Control of Y5: T2" })).toBeVisible();
  await page.getByRole("tab", { name: "Thread" }).click();
  await expect(page.getByRole("heading", { name: "Thread of Y5" })).toBeVisible();
  await page.getByRole("radio", { name: "Reverse" }).click();
  await page.getByRole("button", { name: "Y4 to R" }).click();
  await expect(page.getByRole("heading", { name: "Thread of Y4" })).toBeVisible();
  await expect(page.getByRole("radio", { name: "Reverse" })).toBeChecked();
  await expect(page.getByRole("button", { name: "Y5 to R" })).toBeVisible();
});

test("a detector is added, named, its blocks said, and fed from another supply; a free output takes the probes", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await page.getByRole("button", { name: "Add board" }).click();
  const adding = page.getByRole("dialog", { name: "Add a board or supply" });
  await adding
    .getByRole("listitem")
    .filter({ hasText: "Current detector" })
    .getByRole("button", { name: "Add" })
    .click();
  await page.getByRole("button", { name: /^BD2 / }).click();
  const dialog = page.getByRole("dialog", { name: /^BD2, Current detector/ });
  await pick(page, dialog.getByRole("combobox", { name: "Fed by" }), /^PS3/);
  await expect(dialog.getByRole("combobox", { name: "Fed by" })).toContainText("PS3");
  await dialog.getByRole("textbox", { name: "Block of BD2-1" }).fill("Quay track");
  await dialog.getByRole("textbox", { name: "Block of BD2-1" }).press("Enter");
  await pick(page, dialog.getByRole("combobox", { name: "Rail of BD2-1" }), "in rail K");
  await dialog.getByRole("textbox", { name: "Block of BD2-2" }).fill("a name that is much too long to be kept");
  await dialog.getByRole("textbox", { name: "Block of BD2-2" }).press("Enter");
  await expect(dialog.getByRole("alert")).toHaveText("The block must have at most 24 characters.");
  await dialog.getByRole("textbox", { name: "Block of BD2-2" }).press("Escape");
  await dialog.getByRole("button", { name: "Close" }).click();
  await expect(page.getByRole("button", { name: /^BD2 / })).toContainText("1/4");
  await page.reload();
  await page.getByRole("button", { name: /^BD2 / }).click();
  await expect(dialog.getByRole("textbox", { name: "Block of BD2-1" })).toHaveValue("Quay track");
  await expect(dialog.getByRole("combobox", { name: "Rail of BD2-1" })).toContainText("in rail K");
  // a block hangs on it: it is not taken away without a word
  await dialog.getByRole("button", { name: "Remove BD2" }).click();
  const asks = page.getByRole("alertdialog");
  await expect(asks).toContainText("Quay track");
  await asks.getByRole("button", { name: "Remove it" }).click();
  await expect(page.getByRole("button", { name: /^BD2 / })).toHaveCount(0);

  await page.getByRole("button", { name: /^D1 / }).click();
  await page.getByRole("button", { name: /^Terminal D1-8A/ }).click();
  await page.getByRole("button", { name: /^Terminal D1-8B/ }).click();
  await page.keyboard.press("Escape");
  // nothing hangs on it: the supply's volts, less nothing
  await expect(page.getByTestId("expect")).toHaveText(/^1[12]\.\dV/);
});

test("several lamps, their colours, a resistor board, a level that is followed and a lock-out are entered", async ({
  page,
  server,
}) => {
  await beginRailway(page, server, "Signals");
  await page.getByRole("button", { name: "new ..." }).focus();
  await paste(
    page,
    "label\tmotor\tdriver\tcontrol\tlamp\nA\tstall-motor\toutput-node-8\ttoggle-latching\tlamp-two-colour-bare + dwarf-signal from driver",
  );
  await expect(page.getByRole("button", { name: "Lamp of A: DS1 from driver + LP1" })).toBeVisible();
  await page.getByRole("tab", { name: "Thread" }).click();
  await expect(page.getByText(/LP1 takes .* A in .* without a resistor; it is rated 10.0 mA/).first()).toBeVisible();
  const add = async (name: string) => {
    await page.getByRole("button", { name: "Add board" }).click();
    const dialog = page.getByRole("dialog");
    await dialog.getByRole("listitem").filter({ hasText: name }).getByRole("button", { name: "Add" }).click();
    await expect(dialog).toBeHidden();
  };
  await add("Resistor board, six pieces on one rail");
  await add("Input node, sixteen inputs");
  await page.getByRole("tab", { name: "List" }).click();
  await page.getByRole("button", { name: "Control of A: T1" }).focus();
  await page.keyboard.type("T1 by IN1-1");
  await page.keyboard.press("Tab");
  await page.getByRole("tab", { name: "Thread" }).click();
  await page.getByRole("button", { name: "Fittings of A" }).click();
  const dialog = page.getByRole("dialog");
  const lamp = dialog.getByRole("group", { name: "Lamp LP1" });
  await pick(page, lamp.getByRole("combobox", { name: "Resistor in its common" }), "RN1-1");
  await pick(page, lamp.getByRole("combobox", { name: "Colour at reverse" }), "red");
  const control = dialog.getByRole("group", { name: "Control T1" });
  await control.getByRole("checkbox", { name: /^Followed as a level: A lies at R while it is made/ }).click();
  await pick(page, control.getByRole("combobox", { name: "Locked out by" }), /^a new key switch/);
  await expect(control.getByRole("combobox", { name: "Locked out by" })).toHaveText("KS1");
  await page.keyboard.press("Escape");
  const drawing = page.getByRole("group", { name: "Thread of A" });
  await expect(drawing).toContainText("through KS1");
  await expect(drawing).toContainText("is followed");
  await pick(page, page.getByRole("combobox", { name: "Lamp" }), "LP1");
  await expect(drawing).toContainText("RN1-1, ohm");
  await expect(drawing).toContainText("300");
  await page.getByRole("radio", { name: "Reverse" }).click();
  await expect(drawing).toContainText("red lit");
  await expect(page.getByText("without a resistor")).toHaveCount(0);
  await page.getByRole("tab", { name: "List" }).click();
  await expect(page.getByRole("button", { name: "Control of A: T1 follows by IN1-1" })).toBeVisible();
});

/** A JPEG with a note (EXIF, orientation 6) that the camera lay on its side. */
function onItsSide(jpeg: Buffer): Buffer {
  const tiff = [
    ...[0x4d, 0x4d, 0x00, 0x2a, 0x00, 0x00, 0x00, 0x08],
    // one entry: orientation, a short, one of it, 6; and no further directory
    ...[0x00, 0x01, 0x01, 0x12, 0x00, 0x03, 0x00, 0x00, 0x00, 0x01, 0x00, 0x06, 0x00, 0x00],
    ...[0x00, 0x00, 0x00, 0x00],
  ];
  const exif = [...Buffer.from("Exif"), 0x00, 0x00, ...tiff];
  const segment = Buffer.from([0xff, 0xe1, 0x00, exif.length + 2, ...exif]);
  return Buffer.concat([jpeg.subarray(0, 2), segment, jpeg.subarray(2)]);
}
