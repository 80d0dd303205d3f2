// The railway tried on stand-ins: addresses thrown and programmed, settings written, nodes taught, faults said in sentences.
import type { Page } from "@playwright/test";
import { AXE, violations } from "./axe.ts";
import { expect, openDemo, test } from "./server.ts";

async function openLive(page: Page): Promise<void> {
  await page.getByRole("link", { name: /^Numbers/ }).click();
  await page.getByRole("radio", { name: "Live" }).click();
  await page.getByRole("button", { name: "Start", exact: true }).click();
  await expect(page.getByText("3 running on this machine")).toBeVisible({ timeout: 30_000 });
}

const part = (page: Page, name: string) => page.getByRole("region", { name, exact: true });

test("addresses are tried, written down as they were found, and programmed over the line", async ({ page, server }) => {
  await openDemo(page, server);
  await openLive(page);
  const addresses = part(page, "Addresses");
  await addresses.getByRole("button", { name: "Try all" }).click();
  await expect(addresses).toContainText("2 of 12 outputs answer to their address; D1-3 still has 3,");
  await addresses.getByRole("button", { name: "Write it down" }).click();
  await addresses.getByRole("button", { name: "Program 10 left" }).click();
  await expect(addresses).toContainText("Programmed 10 of 10 outputs, and each that was answers.");
  await addresses.getByRole("button", { name: "Try all" }).click();
  await expect(addresses).toContainText("12 of 12 outputs answer to their address.");
  // one address thrown by hand is seen in the log, in words
  await page.getByRole("textbox", { name: "Address to throw" }).fill("21");
  await page.keyboard.press("Tab");
  await page.getByRole("button", { name: "to R", exact: true }).click();
  const log = page.getByRole("log", { name: "Messages" });
  await expect(log).toContainText("address 21, diverging");
  await expect(log).toContainText("D1-1 (M1/M2) moves to R");
  await page.getByLabel("Find in the log").fill("M1/M2");
  await expect(log.getByRole("listitem").first()).toContainText("SEEN D1 1");
  // a packet of another kind is made, seen bit by bit, and answered
  await page.getByRole("button", { name: "Packet ..." }).click();
  const dialog = page.getByRole("dialog", { name: "Send a packet" });
  await dialog.getByRole("textbox", { name: "Aspect" }).fill("16");
  await page.keyboard.press("Tab");
  await expect(dialog.locator("[data-packet]")).toHaveText("81 71 10 E0");
  await dialog.getByRole("button", { name: "Send", exact: true }).click();
  await expect(dialog).toContainText("signal at 1 is told aspect 16");
  await dialog.getByRole("radio", { name: "Variable, programming track" }).click();
  await dialog.getByRole("radio", { name: "Verify" }).click();
  await dialog.getByRole("button", { name: "Send", exact: true }).click();
  await expect(dialog).toContainText("No answer: the variable has another value.");
  await page.keyboard.press("Escape");
  // what is found stands in the list of addresses
  await page.getByRole("radio", { name: "Addresses" }).click();
  await expect(
    page.getByText("Every output answers to the address that it is to have, as far as is known."),
  ).toBeVisible();
});

test("nodes are taught by their switches and asked what they hold, and settings are written and read back", async ({
  page,
  server,
}) => {
  await openDemo(page, server);
  await openLive(page);
  const events = part(page, "Events");
  await events.getByRole("button", { name: "Ask all nodes" }).click();
  await expect(events).toContainText("2 of 7 links are taught as wanted; IN1 is node 16, not 14.");
  // its switches are set right, and power comes on again
  await page.getByRole("button", { name: "Stop", exact: true }).click();
  await page.getByRole("radio", { name: "Bus", exact: true }).click();
  await page.getByRole("button", { name: "It is set, and is 14 after power came on" }).click();
  await page.getByRole("radio", { name: "Live" }).click();
  await page.getByRole("button", { name: "Start", exact: true }).click();
  await expect(page.getByText("3 running on this machine")).toBeVisible({ timeout: 30_000 });
  await events.getByRole("button", { name: "Teach what is left" }).click();
  await expect(events).toContainText("7 of 7 links are taught as wanted.");
  await events.getByRole("button", { name: "Write it down" }).click();
  await expect(events.getByRole("button", { name: "Write it down" })).toHaveCount(0);
  const settings = part(page, "Settings");
  await settings.getByRole("button", { name: /^Write \d, read back/ }).click();
  await expect(settings).toContainText(/2 of 2 settings are as wanted\./);
  await settings.getByRole("button", { name: "Write it down" }).click();
  await page.getByRole("radio", { name: "Events", exact: true }).click();
  await expect(page.getByText(/^5 of 5 taught/)).toBeVisible();
});

test("what does not answer is said in a sentence, and nothing is lost by it", async ({ page, server }) => {
  await page.addInitScript({ path: AXE });
  await openDemo(page, server);
  await openLive(page);
  await page.getByRole("button", { name: /^Command station/ }).click();
  const silent = page.getByRole("checkbox", { name: "it does not answer" });
  await silent.click();
  await expect(silent).toBeChecked();
  await part(page, "Addresses").getByRole("button", { name: "Program 10 left" }).click();
  await expect(page.getByRole("alert")).toContainText(
    /The command station did not answer "PRESS D1 \d" within 1\.5 s\. Look at its power, its cable/,
  );
  await expect(part(page, "Addresses").getByRole("button", { name: "Program 10 left" })).toBeEnabled();
  await silent.click();
  await expect(silent).not.toBeChecked();
  await part(page, "Addresses").getByRole("button", { name: "Try all" }).click();
  await expect(part(page, "Addresses")).toContainText("2 of 12 outputs answer");
  await expect(page.getByRole("alert")).toHaveCount(0);
  expect(await violations(page), "live").toEqual([]);
});

test("a log of frames is kept and opened again; lines that are none are named", async ({ page, server }) => {
  await openDemo(page, server);
  await openLive(page);
  await page.getByRole("button", { name: "make", exact: true }).click();
  await expect(page.getByRole("log")).toContainText("event 1 of node 16, unknown, on");
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Save frames" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("skerrin-ferry.log");
  const [chooser] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "Open a log" }).click(),
  ]);
  const lines = "(1.000000) can0 195B4010#05000001000E0002\nno frame\n(2.000000) can0 195B4010#05000000000E0002\n";
  await chooser.setFiles({ name: "quay.log", mimeType: "text/plain", buffer: Buffer.from(lines) });
  await expect(
    page.getByText('Read 2 frames from quay.log. No frames: line 2 ("no frame").', { exact: true }),
  ).toBeVisible();
  await expect(page.getByRole("log").getByRole("listitem")).toHaveCount(2);
  await expect(page.getByRole("log")).toContainText("B3 R off");
});
