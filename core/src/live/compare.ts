import { Draft } from "../equip/draft.ts";
import { eventPlan, numbersOf } from "../events/plan.ts";
import type { OutputAddress } from "../numbers/addressList.ts";
import type { EditGroup } from "../record/edits.ts";
import { freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { EventAction } from "../record/numbers.ts";
import type { Thread } from "../schematic/thread.ts";
import { readSetting, type SettingLine } from "../settings/settings.ts";
import { count, list } from "../units/format.ts";

/** What was found when an address was thrown: the outputs that moved, as "D1-3". */
export interface ThrownAddress {
  address: number;
  moved: string[];
}

/** What a whole railway was found to be, beside what is wanted of it. */
export interface Comparison {
  words: string;
  /** Outputs with the address that each was found to answer to; null for one that no address moved. */
  outputs: { label: string; wanted: number; found: number | null }[];
}

/** Outputs beside what they were found to answer to. @param outputs all, of which those with a wanted or present address were thrown */
export function compareAddresses(outputs: readonly OutputAddress[], thrown: readonly ThrownAddress[]): Comparison {
  const answers = new Map<string, number[]>();
  for (const { address, moved } of thrown)
    for (const label of moved) answers.set(label, [...(answers.get(label) ?? []), address]);
  const rows = outputs.map(({ label, address }) => {
    const found = answers.get(label) ?? [];
    return { label, wanted: address, found: found.includes(address) ? address : (found[0] ?? null) };
  });
  const right = rows.filter(({ wanted, found }) => wanted === found).length;
  const others = rows.filter(({ wanted, found }) => wanted !== found);
  const told = others
    .slice(0, MOST_TOLD)
    .map(({ label, found }) => (found === null ? `${label} answers to none of them` : `${label} still has ${found}`));
  const more = others.length > MOST_TOLD ? ` and ${others.length - MOST_TOLD} more` : "";
  const words = `${right} of ${count(rows.length, "output")} ${right === 1 ? "answers" : "answer"} to ${right === 1 ? "its" : "their"} address${told.length > 0 ? `; ${list(told)}${more}` : ""}.`;
  return { words, outputs: rows };
}

/** Outputs that are named one by one. */
const MOST_TOLD = 4;

/** Writes down what outputs were found to answer to. @param at when, ISO 8601 */
export function noteAnswers(
  record: RailwayRecord,
  outputs: readonly OutputAddress[],
  { outputs: rows }: Comparison,
  at: string,
): EditGroup | null {
  const draft = new Draft(record);
  const found = new Map(rows.map((row) => [row.label, row.found]));
  for (const { label, deviceId, way, now, answer } of outputs) {
    const address = found.get(label);
    if (address == null || (answer !== null && address === now)) continue;
    const known = record.answers.find((each) => each.deviceId === deviceId && each.way === way);
    const id = known?.id ?? freshId(draft.record, "answer", `${deviceId}-${way}`);
    draft.put("answer", { id, deviceId, way, address, how: "read", seen: "moved when it was thrown", at });
  }
  return draft.edits.length === 0 ? null : draft.group("Found what outputs answer to");
}

/** What a node was found to hold. */
export interface NodeFound {
  label: string;
  number: number;
  entries: { way: number; node: number; number: number; action: EventAction }[];
}

/** Nodes beside what is wanted of them, in a sentence. */
export function compareNodes(record: RailwayRecord, threads: readonly Thread[], nodes: readonly NodeFound[]): string {
  const plan = eventPlan(record, threads);
  const eventOf = new Map(plan.events.map((event) => [event.id, event]));
  const byLabel = new Map(nodes.map((node) => [node.label, node]));
  let right = 0;
  let wanted = 0;
  const others: string[] = [];
  for (const [deviceId, number] of plan.nodeNumber) {
    const label = record.devices.find(({ id }) => id === deviceId)?.label ?? deviceId;
    const node = byLabel.get(label);
    if (!node) others.push(`${label} did not answer`);
    else if (number !== null && node.number !== number) others.push(`${label} is node ${node.number}, not ${number}`);
    const links = plan.links.filter((link) => link.deviceId === deviceId && link.action !== null);
    wanted += links.length;
    right += links.filter(({ eventId, way, action }) => {
      const event = eventOf.get(eventId);
      const numbers = event && numbersOf(plan, event);
      return node?.entries.some(
        (e) => e.way === way && e.node === numbers?.node && e.number === numbers.number && e.action === action,
      );
    }).length;
  }
  const taught = `${right} of ${count(wanted, "link")} ${right === 1 ? "is" : "are"} taught as wanted`;
  return `${[taught, ...others].join("; ")}.`;
}

/** Writes down what nodes were found to hold: what is not found any more was unlearned. @param at when, ISO 8601 */
export function noteNodes(record: RailwayRecord, nodes: readonly NodeFound[], at: string): EditGroup | null {
  const draft = new Draft(record);
  for (const { label, entries } of nodes) {
    const deviceId = record.devices.find((device) => device.label === label)?.id;
    if (deviceId === undefined) continue;
    const found = new Map(entries.map((entry) => [`${entry.way} ${entry.node} ${entry.number}`, entry]));
    for (const fact of record.taught.filter((each) => each.deviceId === deviceId)) {
      const key = `${fact.way} ${fact.node} ${fact.number}`;
      const action = found.get(key)?.action ?? null;
      if (fact.action !== action) draft.put("taught", { ...fact, action, at });
      found.delete(key);
    }
    for (const { way, node, number, action } of found.values())
      draft.put("taught", {
        id: freshId(draft.record, "taught", `${deviceId}-${way}-${node}-${number}`),
        ...{ deviceId, way, node, number, action, at },
      });
  }
  return draft.edits.length === 0 ? null : draft.group("Found what nodes hold");
}

/** Writes down what settings were read as. @param found by the line's identifier @param at when, ISO 8601 */
export function noteSettings(
  record: RailwayRecord,
  lines: readonly SettingLine[],
  found: ReadonlyMap<string, string>,
  at: string,
): EditGroup | null {
  const draft = new Draft(record);
  for (const line of lines) {
    const value = found.get(line.id);
    if (value !== undefined && value !== line.read) draft.take(readSetting(draft.record, line, value, at));
  }
  return draft.edits.length === 0 ? null : draft.group(`Read ${count(found.size, "setting")}`);
}
