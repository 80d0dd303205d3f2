import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { deviceOf, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { Thread } from "../schematic/thread.ts";
import { settingLines } from "../settings/settings.ts";
import { type EventLink, type EventPlan, eventPlan, numbersOf } from "./plan.ts";

/**
 * A step of teaching a node. clear: it forgets all. unlearn: an event goes with all of its actions. choose: switches for an
 * output. teach: the event is made to happen. end: its switches are off again.
 */
export type StepKind = "clear" | "unlearn" | "choose" | "teach" | "end";

/** The line of a node's learning switch, if it has one. */
export function learnSwitch(record: RailwayRecord, deviceId: string) {
  return settingLines(record).find(({ device, setting }) => device.id === deviceId && setting.isLearn);
}

/**
 * Writes down that a step of a sheet was done: what the node knows since, and how its learning switch was left.
 * @param at when, ISO 8601
 * @throws {RecordError} when a step cannot be done yet, because a node has no number
 */
export function stepDone(
  record: RailwayRecord,
  threads: readonly Thread[],
  deviceId: string,
  step: { kind: StepKind; eventId: string | null; way: number | null },
  at: string,
): EditGroup | null {
  const plan = eventPlan(record, threads);
  const { label } = deviceOf(record, deviceId);
  const draft = new Draft(record);
  const own = plan.links.filter((link) => link.deviceId === deviceId);
  switch (step.kind) {
    case "clear":
      forget(draft, deviceId, at, () => true);
      return draft.edits.length === 0 ? null : draft.group(`${label} forgot all that it was taught`);
    case "unlearn": {
      const event = plan.events.find(({ id }) => id === step.eventId);
      const numbers = event && numbersOf(plan, event);
      if (numbers) forget(draft, deviceId, at, (f) => f.node === numbers.node && f.number === numbers.number);
      return draft.edits.length === 0 ? null : draft.group(`${label} unlearned ${event?.label}`);
    }
    case "teach": {
      const link = own.find(({ eventId, way }) => eventId === step.eventId && way === step.way);
      if (!link) throw recordError("This step is not to be done any more.");
      noteTaught(draft, plan, link, at);
      // to teach anything it was switched on, and stays so until that is said to be otherwise
      noteLearnSwitch(draft, deviceId, "on", at);
      const event = plan.events.find(({ id }) => id === link.eventId);
      return draft.edits.length === 0 ? null : draft.group(`Taught ${label}-${link.way} ${event?.label}`);
    }
    default:
      noteLearnSwitch(draft, deviceId, step.kind === "choose" ? "on" : "off", at);
      return draft.edits.length === 0
        ? null
        : draft.group(`${label}: learning switch ${step.kind === "choose" ? "on" : "off"}`);
  }
}

/** Nodes were taught all that is wanted, as their owner knows. @param at when, ISO 8601 */
export function allTaught(
  record: RailwayRecord,
  threads: readonly Thread[],
  deviceId: string,
  at: string,
): EditGroup | null {
  const plan = eventPlan(record, threads);
  const draft = new Draft(record);
  for (const link of plan.links) {
    if (link.deviceId !== deviceId || link.action === link.taught) continue;
    if (link.action !== null) noteTaught(draft, plan, link, at);
    else {
      const event = plan.events.find(({ id }) => id === link.eventId);
      const numbers = event && numbersOf(plan, event);
      if (numbers)
        forget(
          draft,
          deviceId,
          at,
          (f) => f.way === link.way && f.node === numbers.node && f.number === numbers.number,
        );
    }
  }
  if (learnSwitch(record, deviceId)?.read === "on") noteLearnSwitch(draft, deviceId, "off", at);
  return draft.edits.length === 0 ? null : draft.group(`${deviceOf(record, deviceId).label} is taught as wanted`);
}

function noteTaught(draft: Draft, plan: EventPlan, { eventId, deviceId, way, action }: EventLink, at: string): void {
  const event = plan.events.find(({ id }) => id === eventId);
  const numbers = event && numbersOf(plan, event);
  if (!event || !numbers)
    throw recordError(`The node of event ${event?.label ?? ""} has no number yet; give it one first.`);
  const known = draft.record.taught.find(
    (f) => f.deviceId === deviceId && f.way === way && f.node === numbers.node && f.number === numbers.number,
  );
  const id = known?.id ?? freshId(draft.record, "taught", `${deviceId}-${way}-${numbers.node}-${numbers.number}`);
  draft.put("taught", { id, deviceId, way, ...numbers, action, at });
}

type Fact = RailwayRecord["taught"][number];

function forget(draft: Draft, deviceId: string, at: string, which: (fact: Fact) => boolean): void {
  for (const fact of draft.record.taught)
    if (fact.deviceId === deviceId && fact.action !== null && which(fact))
      draft.put("taught", { ...fact, action: null, at });
}

function noteLearnSwitch(draft: Draft, deviceId: string, read: "on" | "off", at: string): void {
  const line = learnSwitch(draft.record, deviceId);
  if (!line || (line.read ?? "off") === read) return;
  const { name } = line.setting;
  const known = draft.record.settings.find((s) => s.deviceId === deviceId && s.way === null && s.name === name);
  const id = known?.id ?? freshId(draft.record, "setting", `${deviceId}-${name}`);
  draft.put("setting", { id, deviceId, way: null, name, wanted: known?.wanted ?? null, read, readAt: at });
}
