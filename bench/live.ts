// A control bus of 208 inputs and 208 outputs: its plan worked out, its matrix scrolled, and 5,000 frames a second in the log.
import { Draft, emptyRecord, eventPlan, type RailwayRecord, threadsOf, writeRailwayFile } from "@alderman/core";
import type { Page } from "@playwright/test";
import { Derived } from "../core/src/derive.ts";
import { RULES } from "../core/src/findings/rules.ts";
import { inBrowser, reportFrames, watchFrames } from "./browser.ts";
import { line, measure } from "./measure.ts";

const NODES = 13;
const WAYS = 16;
/** Outputs that act upon each event. */
const ACTING = 25;

/** Input nodes and output nodes on one bus, an event for each input, and as many outputs that act upon it. */
export function bigBus(): RailwayRecord {
  const draft = new Draft(emptyRecord("Big bus"));
  const bus = draft.addDevice("control-bus", "CB", "layout");
  const supply = draft.addDevice("dc-12", "PS", "layout");
  const nodes = (typeId: string, prefix: string) =>
    Array.from({ length: NODES }, () => {
      const node = draft.addDevice(typeId, prefix, "layout");
      draft.assign("supply", { deviceId: supply.id, toDeviceId: node.id });
      draft.assign("commands", { deviceId: bus.id, toDeviceId: node.id });
      return node;
    });
  const inputs = nodes("input-node-16", "IN");
  const outputs = nodes("output-node-16", "ON");
  const total = NODES * WAYS;
  for (let input = 0; input < total; input++) {
    const node = inputs[Math.floor(input / WAYS)];
    const way = (input % WAYS) + 1;
    const id = `e${input}`;
    draft.put("event", { id, label: `Event ${input + 1}`, nodeId: node?.id ?? "", number: way, asks: false });
    draft.put("producer", { id: `p${input}`, eventId: id, deviceId: node?.id ?? "", way });
    for (let each = 0; each < ACTING; each++) {
      const output = (input * 7 + each * 8) % total;
      const deviceId = outputs[Math.floor(output / WAYS)]?.id ?? "";
      const action = (input + each) % 2 === 0 ? "on" : "off";
      draft.put("consumer", { id: `c${input}-${each}`, eventId: id, deviceId, way: (output % WAYS) + 1, action });
    }
  }
  return draft.record;
}

export async function benchLive(): Promise<void> {
  const record = bigBus();
  const threads = threadsOf(record);
  const planned = measure(5, () => void eventPlan({ ...record }, threads));
  line(`Events, ${record.consumers.length} links: the plan worked out`, `${planned.toFixed(0)} ms`);
  const ofEvents = RULES.filter(({ id }) => /event|masters|taught|learn|start/.test(id));
  const derived = new Derived(record);
  const look = {
    ...{ threads, circuitry: derived.circuitry, addresses: [], loads: [], boards: [], hands: [] },
    ...{ reading: derived.reading, remember: derived.remember, inThreads: derived.inThreads },
  };
  const looked = measure(5, () => {
    const now = { ...record };
    for (const rule of ofEvents) rule.run({ ...look, record: now });
  });
  line(`Events, the same with all ${ofEvents.length} rules about them`, `${looked.toFixed(0)} ms`);
  await inBrowser((page, address) => inPage(page, address, record));
}

/** The matrix scrolled, and the log while the bus babbles. */
async function inPage(page: Page, address: string, record: RailwayRecord): Promise<void> {
  const { id } = (await (
    await fetch(`${address}/api/railways/import`, {
      method: "POST",
      headers: { "content-type": "text/plain", origin: address },
      body: writeRailwayFile(record),
    })
  ).json()) as { id: string };
  await page.goto(`${address}/r/${id}/numbers`);
  await page.getByRole("radio", { name: "Events", exact: true }).click();
  await page.getByRole("grid", { name: "Events and outputs" }).waitFor();
  await page.waitForTimeout(4000);
  await watchFrames(page);
  await page.mouse.move(420, 350);
  for (let turn = 0; turn < 60; turn++) {
    const sign = turn < 30 ? 1 : -1;
    await page.mouse.wheel(turn % 2 === 0 ? 200 * sign : 0, turn % 2 === 0 ? 0 : 240 * sign);
    await page.waitForTimeout(30);
  }
  await reportFrames(page, "the matrix of 208 events and 208 outputs scrolled");
  await page.getByRole("radio", { name: "Live" }).click();
  await page.getByRole("button", { name: "Start", exact: true }).click();
  await page.getByText("running on this machine").waitFor({ timeout: 30_000 });
  await page.getByRole("button", { name: /^Event bus/ }).click();
  await page.getByRole("checkbox", { name: "a node babbles" }).click();
  await page.waitForTimeout(1500);
  await watchFrames(page);
  await page.waitForTimeout(6000);
  await reportFrames(page, "5,000 frames a second into the log, for 6 s");
}
