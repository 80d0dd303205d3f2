import { Draft } from "../equip/draft.ts";
import { setLink } from "../events/edits.ts";
import { turned } from "../events/messages.ts";
import { type EventOutput, eventPlan } from "../events/plan.ts";
import { toldOutputs } from "../events/told.ts";
import type { EditGroup } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { rule } from "./rule.ts";

interface Opposite {
  /** Outputs of one lamp that events turn round. */
  outputs: EventOutput[];
  thread: Thread;
}

export const lampEventOpposite = rule<Opposite>({
  id: "lamp-event-opposite",
  stage: "numbers",
  column: "lamp",
  severity: "look",
  title: "Events light a lamp for the other position",
  about:
    "An output for a lamp goes on and off with the events of the control. Where it acts the wrong way round, the lamp shows the position in which the turnout does not lie. The rule works through what the control sends, and compares what the output does with the position for which it lights.",
  look: ({ record, threads }) => {
    const { outputs } = eventPlan(record, threads);
    if (outputs.length === 0) return [];
    const told = toldOutputs(record, threads);
    return threads.flatMap((thread): Opposite[] => {
      const own = outputs.filter(
        ({ turnoutId, isLamp, deviceId, way, onAt }) =>
          turnoutId === thread.turnout.id &&
          isLamp &&
          (told.get(deviceId)?.get(way) ?? []).some(
            (each) => each.leader === turnoutId && (each[onAt] === false || each[onAt === "N" ? "R" : "N"] === true),
          ),
      );
      return own.length === 0 ? [] : [{ outputs: own, thread }];
    });
  },
  subject: ({ thread }) => thread.turnout.id,
  where: ({ outputs }) => outputs.map(({ label }) => label).join(", "),
  terminals: ({ outputs }) => outputs.map(({ label }) => label),
  turnouts: ({ thread }) => [thread],
  why: ({ outputs, thread }) =>
    `${list(outputs.map(({ label, drives }) => `${label} (${drives})`))} ${outputs.length === 1 ? "is" : "are"} on while ${thread.label} lies the other way.`,
  remedies: ({ outputs }, { record, threads }) => [
    { label: "Let them act the other way round", group: turnedRound(record, threads, outputs) },
  ],
});

/** All that reaches outputs acts the other way round. */
function turnedRound(
  record: RailwayRecord,
  threads: readonly Thread[],
  outputs: readonly EventOutput[],
): EditGroup | null {
  const draft = new Draft(record);
  const { links } = eventPlan(record, threads);
  for (const output of outputs)
    for (const { eventId, action, deviceId, way } of links) {
      if (deviceId !== output.deviceId || way !== output.way || action === null) continue;
      draft.take(setLink(draft.record, threads, eventId, output, turned(action)));
    }
  return draft.edits.length === 0 ? null : draft.group(`${list(outputs.map(({ label }) => label))} act inverted`);
}
