// Addresses as an owner deals with them: seen as a whole, renumbered, programmed one after the other, and found otherwise.
import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import { AXE, violations } from "./axe.ts";
import { expect, giveFile, openDemo, test } from "./server.ts";

async function openNumbers(page: Page): Promise<void> {
  await page.getByRole("link", { name: /^Numbers/ }).click();
  await expect(page.getByRole("heading", { name: "All addresses" })).toBeVisible();
}

const list = (page: Page) => page.getByRole("table", { name: "Address list" });
const programming = (page: Page) => page.getByRole("region", { name: "Programming" }).first();

test("an output is programmed step by step, and what is left is seen where it was left", async ({ page, server }) => {
  await openDemo(page, server);
  await openNumbers(page);
  await expect(
    page.getByText("D1-3 throws L2 and is to have 23; as it was last programmed or read, it answers to 3."),
  ).toBeVisible();
  await page.getByRole("button", { name: "Program D1-3", exact: true }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("It answers to 3; last seen: still moves at 3.");
  await expect(dialog.getByRole("listitem").first()).toHaveText(
    "Press the board's button until the lamp of output 3 is lit.",
  );
  for (let step = 0; step < 5; step++) await dialog.getByRole("button", { name: "Done, next" }).click();
  await expect(dialog.locator('[aria-current="step"]')).toHaveText(
    "Throw 23 to diverging and back: L2 moves, and nothing else does.",
  );
  await dialog.getByLabel("What it showed, if you want to keep it").fill("blinked twice");
  await dialog.getByRole("button", { name: "It answers" }).click();
  await expect(page.getByRole("dialog", { name: "Program D1-4 to 24" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(list(page).getByRole("row", { name: /D1-3.*L2 programmed/ })).toBeVisible();
  await expect(page.getByText(/D1-3 throws L2 and is to have 23/)).toBeHidden();

  // the board is exchanged: all of it is to be done again
  await programming(page)
    .getByRole("button", { name: /^D1 3 of 8 answer/ })
    .click();
  await page.getByRole("button", { name: "D1 was reset, or exchanged" }).click();
  await expect(programming(page).getByRole("button", { name: /^D1 0 of 8 answer/ })).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(programming(page).getByRole("button", { name: /^D1 3 of 8 answer/ })).toBeVisible();
});

test("outputs are renumbered by a scheme that is seen first, past what is reserved", async ({ page, server }) => {
  await openDemo(page, server);
  await openNumbers(page);
  await page.getByRole("button", { name: "Reserve ..." }).click();
  const reserves = page.getByRole("dialog", { name: "Reserved addresses" });
  await expect(reserves).toContainText("semaphores, not yet bought");
  await reserves.getByLabel("From", { exact: true }).fill("109");
  await reserves.getByLabel("To", { exact: true }).fill("102");
  await reserves.getByLabel("For", { exact: true }).fill("a friend's modules");
  await reserves.getByRole("button", { name: "Reserve" }).click();
  await expect(reserves.getByRole("alert")).toContainText("The range ends at 102, before it begins at 109.");
  await reserves.getByLabel("From", { exact: true }).fill("101");
  await reserves.getByRole("button", { name: "Reserve" }).click();
  await expect(reserves.getByRole("listitem").last()).toContainText("101 to 102");
  await page.keyboard.press("Escape");

  await page.getByRole("button", { name: "Renumber ..." }).click();
  const dialog = page.getByRole("dialog", { name: "Renumber all outputs" });
  await dialog.getByLabel("First number").fill("101");
  await dialog.getByLabel("First number").press("Enter");
  await expect(dialog.getByRole("row", { name: "D1-1 M1/M2 21 103" })).toBeVisible();
  await expect(dialog).toContainText("Then 12 outputs and boards are to be programmed, D1-1 first");
  await dialog.getByRole("button", { name: "Give 12 outputs new addresses" }).click();
  await expect(page.getByLabel("Address of D1-1")).toHaveValue("103");
  // what is in the boards stays until it is programmed
  await expect(page.getByLabel("D1-1 answers to")).toHaveValue("21");
  await expect(list(page).getByRole("row", { name: /D1-1.*to be programmed/ })).toBeVisible();
});

test("an address is opened from the picture, with the packet that throws it bit by bit", async ({ page, server }) => {
  await openDemo(page, server);
  await openNumbers(page);
  const map = page.getByRole("slider", { name: /^All addresses/ });
  await map.focus();
  // from the first one on
  for (const key of ["ArrowRight", "ArrowDown"]) await page.keyboard.press(key);
  for (let step = 0; step < 16; step++) await page.keyboard.press("ArrowRight");
  await expect(map).toHaveAttribute("aria-valuetext", "117: free");
  await page.keyboard.press("Enter");
  const dialog = page.getByRole("dialog", { name: "Address 117" });
  await expect(dialog).toContainText("Decoder 30, pair 0; raw address 120");
  await expect(dialog.locator("[data-packet]")).toHaveText("9E F9 67");
  await dialog.getByRole("radio", { name: "Diverging" }).click();
  await expect(dialog.locator("[data-packet]")).toHaveText("9E F8 66");
  await page.keyboard.press("Escape");
  // the station stands four off: so the test with addresses 1 and 5 said
  await page.getByRole("button", { name: "How counted ..." }).click();
  await page.getByRole("button", { name: "Address 5 did: it counts from raw 0" }).click();
  await expect(page.getByText("counted from raw 0", { exact: true })).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByText("as the standard counts", { exact: true })).toBeVisible();
  // what a board was found to answer to is written beside what it is to have
  await page.getByLabel("D1-4 answers to").fill("24");
  await page.keyboard.press("Enter");
  await expect(list(page).getByRole("row", { name: /D1-4.*L3 read/ })).toBeVisible();
});

test("settings are wanted, read back in their order, and made the same for all of a kind", async ({ page, server }) => {
  await openDemo(page, server);
  await openNumbers(page);
  await page.getByRole("radio", { name: "Settings" }).click();
  await expect(page.getByText("The speed of SB1-2 is to be 3, and was read back as 5.")).toBeVisible();
  const table = page.getByRole("table", { name: "Settings" });
  await table
    .getByRole("row", { name: /^SB1-2 speed/ })
    .getByText("speed", { exact: true })
    .click();
  const order = page.getByRole("region", { name: "Order of setting" }).first();
  await order.getByRole("button", { name: "speed of SB1-2 was read back as 3" }).click();
  await expect(page.getByText("The speed of SB1-2 is to be 3, and was read back as 5.")).toBeHidden();
  await order.getByRole("button", { name: "normal end of SB1-2 was read back as 1.3 ms" }).click();
  await expect(order).toContainText("Nothing of SB1 is left to be set.");

  await page.getByRole("button", { name: "speed 3 for all 4 of the kind" }).first().click();
  await expect(table.getByRole("row", { name: /^SB1-4 speed.*to be set/ })).toBeVisible();
  // a figure that the board has not is refused where it is typed
  await page.getByLabel("release of BD1, wanted").fill("x".repeat(41));
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText("A setting has at most 40 characters.");
  await page.keyboard.press("Escape");

  await page.locator('input[type="file"]').setInputFiles({
    name: "settings.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("device,output,setting,wanted\r\nSB1,3,speed,12\r\nSB1,3,mid,1.4 ms\r\n"),
  });
  await expect(page.getByRole("alert")).toContainText('Row 2: speed of SB1-3 cannot be "12"; it may be 1 to 9.');
  await expect(page.getByLabel("mid of SB1-3, wanted")).toHaveValue("1.4 ms");
});

test("a node's switches are drawn as they must be set, and two nodes with one number are named", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await openNumbers(page);
  await page.getByRole("radio", { name: "Bus" }).click();
  const card = page.getByRole("region", { name: "Node IN1" }).first();
  await expect(card).toContainText("It was read as 16. Switch 1 is to be turned on.");
  await expect(card.getByRole("img")).toHaveAttribute(
    "aria-label",
    "Switches: 0 off, 1 on, 2 off, 3 off, J1 off, J2 off",
  );
  await card.getByRole("button", { name: "It is set, and is 14 after power came on" }).click();
  await expect(card).toContainText("They are as drawn, and so was its number read.");
  const table = page.getByRole("table", { name: "Nodes" });
  await page.getByRole("button", { name: "Give it a number" }).click();
  await expect(table.getByRole("row", { name: /^ON2.*to be set/ })).toBeVisible();
  await page.getByLabel("Number of ON2").fill("21");
  await page.keyboard.press("Enter");
  await expect(page.getByText("ON1 and ON2 are both to have number 21.")).toBeVisible();
  await page.getByLabel("Number of ON2").fill("500");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText("The number of ON2 is a whole one from 1 to 127");
});

test("an encoder's inputs are numbered from its start number, and who acts on them is said", async ({
  page,
  server,
}) => {
  await page.goto(server.address);
  const buffer = readFileSync(new URL("../samples/schools.json", import.meta.url));
  const button = page.getByRole("button", { name: "Choose a railway file" });
  await giveFile(page, button, { name: "schools.json", mimeType: "application/json", buffer });
  await page.getByRole("link", { name: /^Numbers/ }).click();
  await page.getByRole("radio", { name: "Feedback" }).click();
  const table = page.getByRole("table", { name: "Feedback" });
  await expect(table.getByRole("row", { name: /^3 .*computer/ })).toBeVisible();
  await page.getByRole("textbox", { name: "Start number" }).fill("33");
  await page.keyboard.press("Enter");
  await page.getByLabel("Its messages are acted on by").click();
  await page.getByRole("option", { name: "the command station" }).click();
  await expect(table.getByRole("row", { name: /^35 .*station/ })).toBeVisible();
  await page.getByRole("textbox", { name: "Start number" }).fill("5000");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText("is a whole one from 1 to 2033");
  // a contact that nothing uses tells how its turnout lies, at an input where no button is read
  await page.keyboard.press("Escape");
  await page
    .getByRole("table", { name: "Feedback" })
    .getByRole("row", { name: /FE1-9|IN1-9/ })
    .click();
  const input = page.getByRole("dialog");
  await input.getByRole("combobox", { name: "At it" }).click();
  await page.getByRole("option", { name: /-S\d$/ }).first().click();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("row", { name: /-9 .*tells: .* at reverse/ })).toBeVisible();
});

test("each list of numbers, its dialogs too, can be used by those who listen or see badly", async ({
  page,
  server,
}) => {
  await page.addInitScript({ path: AXE });
  await openDemo(page, server);
  await openNumbers(page);
  expect(await violations(page), "addresses").toEqual([]);
  for (const name of ["Renumber ...", "Reserve ...", "How counted ...", "Program D1-3"]) {
    await page.getByRole("button", { name, exact: true }).click();
    await expect(page.getByRole("dialog")).toBeVisible();
    expect(await violations(page), name).toEqual([]);
    await page.keyboard.press("Escape");
  }
  for (const name of ["Bus", "Settings"]) {
    await page.getByRole("radio", { name }).click();
    await expect(page.getByRole("table", { name: name === "Bus" ? "Nodes" : "Settings" })).toBeVisible();
    expect(await violations(page), name).toEqual([]);
  }
  await page.getByRole("radio", { name: "Events" }).click();
  await expect(page.getByRole("grid", { name: "Events and outputs" })).toBeVisible();
  expect(await violations(page), "Events").toEqual([]);
});

test("events are said by keys in the matrix, and a node is taught by its sheet with ticks that last", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await openNumbers(page);
  await page.getByRole("radio", { name: "Events" }).click();
  const grid = page.getByRole("grid", { name: "Events and outputs" });
  const lamp = grid.getByRole("gridcell", { name: /^ON1-2 upon Barge alongside/ });
  await lamp.click();
  const card = page.getByRole("region", { name: "Event Barge alongside" });
  await expect(card).toContainText("Sent from IN1-4.");
  // the lamp has two masters until one of them lets go
  const findings = page.getByRole("region", { name: "Findings" }).or(page.locator("section", { hasText: "Findings" }));
  await expect(findings.first()).toContainText("An output with two masters that can disagree");
  await page.keyboard.press("Delete");
  await expect(grid.getByRole("gridcell", { name: "ON1-2 upon Barge alongside: nothing" })).toBeVisible();
  await expect(page.getByText("An output with two masters that can disagree")).toHaveCount(0);
  // one event on is the quay's lights: heard by output 3 of the node from now on
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("o");
  await expect(
    grid.getByRole("gridcell", { name: 'ON1-2 upon Lights of the quay: goes on upon "on" only' }),
  ).toBeVisible();
  await page.keyboard.press("Delete");
  // taught step by step: the tick is there after a reload
  const sheet = page.getByRole("region", { name: "Teaching ON1" });
  await expect(page.getByText("2 of 4 taught")).toBeVisible();
  await sheet
    .getByRole("checkbox", { name: /^Step \d+ is done/ })
    .first()
    .click();
  await expect(page.getByText("3 of 4 taught")).toBeVisible();
  await expect(page.getByText("A node's learning switch was left on")).toBeVisible();
  await page.reload();
  await expect(page.getByText("3 of 4 taught")).toBeVisible();
  await sheet
    .getByRole("checkbox", { name: /^Step \d+ is done/ })
    .first()
    .click();
  await expect(page.getByText("4 of 4 taught")).toBeVisible();
  await sheet.getByRole("checkbox", { name: /^Step \d+ is done/ }).click();
  await expect(page.getByText("A node's learning switch was left on")).toHaveCount(0);
});

test("one number that was read says how the switches of a node count", async ({ page, server }) => {
  await openDemo(page, server);
  await openNumbers(page);
  await page.getByRole("radio", { name: "Bus" }).click();
  await page.getByRole("table", { name: "Nodes" }).getByRole("row", { name: /^ON1/ }).click();
  await page.getByRole("button", { name: "Its switches count otherwise ..." }).click();
  const dialog = page.getByRole("dialog", { name: "Switches of ON1" });
  await dialog.getByRole("textbox", { name: "It was read as" }).fill("128");
  await page.keyboard.press("Tab");
  await dialog.getByRole("button", { name: "Take it as a type of my own" }).click();
  // all off is 128: they count when off, from 1 on; 21 wants them otherwise than when they counted when on
  await expect(page.getByRole("img", { name: /^Switches: 1 on, 2 on, 3 off, 4 on, 5 off, 6 on, 7 on/ })).toBeVisible();
  await expect(page.getByText(/It was read as 128\./)).toBeVisible();
});
