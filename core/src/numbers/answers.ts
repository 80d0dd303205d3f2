import { blockOf, typeOf } from "../catalogue/catalogue.ts";
import { numbered } from "../catalogue/deviceType.ts";
import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { AnswerSource } from "../record/numbers.ts";
import { recordError } from "../record/problems.ts";
import { resetSettings } from "../settings/settings.ts";

/** What a board was seen to do. */
export interface Seen {
  how: AnswerSource;
  /** What it showed, in the owner's words. */
  seen: string;
  /** ISO 8601. */
  at: string;
}

/**
 * Writes down what an output answers to from now on, and with it those that get their addresses at the same time.
 * @param address of the output itself
 * @throws {RecordError} when there is no such output
 */
export function setAnswer(record: RailwayRecord, deviceId: string, way: number, address: number, how: Seen): EditGroup {
  const device = find(record, "device", deviceId);
  if (!device) throw recordError(`There is no device "${deviceId}".`);
  const draft = new Draft(record);
  const block = blockOf(typeOf(record, device), way);
  for (const each of block) put(draft, deviceId, each, address + each - way, how);
  const label = typeOf(record, device).outputs > 0 ? `${device.label}-${way}` : device.label;
  return draft.group(`${label} ${how.how === "read" ? "was found to answer" : "answers"} to ${address}`);
}

/** A board was reset, or another one was put in its place: addresses and settings of all its outputs are the factory's. */
export function resetBoard(record: RailwayRecord, deviceId: string, seen: string, at: string): EditGroup {
  const device = find(record, "device", deviceId);
  if (!device) throw recordError(`There is no device "${deviceId}".`);
  const type = typeOf(record, device);
  const first = type.figures.factoryAddress?.value;
  const draft = new Draft(record);
  for (const way of first === undefined ? [] : numbered(Math.max(1, type.outputs)))
    put(draft, deviceId, way, (first ?? 1) + way - 1, { how: "reset", seen, at });
  resetSettings(draft, deviceId, at);
  // a node that is as the factory set it acts upon no event
  for (const fact of record.taught.filter((each) => each.deviceId === deviceId && each.action !== null))
    draft.put("taught", { ...fact, action: null, at });
  return draft.group(`${device.label} is as the factory set it`);
}

function put(draft: Draft, deviceId: string, way: number, address: number, { how, seen, at }: Seen): void {
  const known = draft.record.answers.find((answer) => answer.deviceId === deviceId && answer.way === way);
  const id = known?.id ?? freshId(draft.record, "answer", `${deviceId}-${way}`);
  draft.put("answer", { id, deviceId, way, address, how, seen, at });
}

/** Keeps a range of addresses for something else. @throws {RecordError} when it ends before it begins */
export function reserveAddresses(record: RailwayRecord, first: number, last: number, what: string): EditGroup {
  if (first > last) throw recordError(`The range ends at ${last}, before it begins at ${first}.`);
  const draft = new Draft(record);
  draft.put("reserve", { id: freshId(record, "reserve", what), first, last, what });
  return draft.group(`Reserved ${first} to ${last} for ${what}`);
}
