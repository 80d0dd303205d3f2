import { setLink } from "../events/edits.ts";
import { inputsOf } from "../events/messages.ts";
import { eventPlan } from "../events/plan.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { plainInputsOf } from "../schematic/recipes/plainInputs.ts";
import { controlsOf, type Thread } from "../schematic/thread.ts";
import { type Look, type Remedy, rule } from "./rule.ts";

/** From one output to the next: an output works what is read at an input, whose event an output acts upon. */
interface Hop {
  from: string;
  to: string;
  eventId: string;
  event: string;
  input: string;
}

interface Loop {
  hops: Hop[];
  threads: Thread[];
}

export const eventLoop = rule<Loop>({
  id: "event-loop",
  stage: "numbers",
  column: null,
  severity: "stop",
  title: "An event that brings itself about",
  about:
    "An output works what is read at an input, as a control would or by a contact of the motor that it moves, and the event of that input makes the same output act again, by itself or through others. Once begun it never ends: the bus fills with frames, and what hangs on the output chatters. The circle is broken where one output no longer acts.",
  look: (look) => loopsIn(look),
  subject: ({ hops }) =>
    hops
      .map(({ from }) => from)
      .sort()
      .join(" "),
  where: ({ hops }) => hops[0]?.event ?? "",
  terminals: ({ hops }) => hops.map(({ input }) => input),
  turnouts: ({ threads }) => threads,
  why: ({ hops }) =>
    `${hops.map(({ input, event }) => `${input} sends ${event}`).join(", ")}, which works ${hops[0]?.input} again.`,
  remedies: ({ hops }, { record, threads }) => {
    const { outputs } = eventPlan(record, threads);
    return hops.flatMap(({ eventId, to }): Remedy[] => {
      const output = outputs.find(({ deviceId, way }) => `${deviceId} ${way}` === to);
      const group = output ? setLink(record, threads, eventId, output, null) : null;
      return group ? [{ label: group.words, group }] : [];
    });
  },
});

function loopsIn({ record, threads }: Look): Loop[] {
  const { links, events } = eventPlan(record, threads);
  if (links.length === 0) return [];
  const hops = hopsOf({ record, threads });
  const loops: Loop[] = [];
  const seen = new Set<string>();
  const walk = (way: Hop[]) => {
    const last = way.at(-1) as Hop;
    if (last.to === way[0]?.from) {
      const name = way
        .map(({ from }) => from)
        .sort()
        .join(" ");
      if (seen.has(name)) return;
      seen.add(name);
      const ids = new Set(
        way.flatMap(
          ({ eventId }) => events.find(({ id }) => id === eventId)?.inputs.flatMap((i) => i.turnoutIds) ?? [],
        ),
      );
      loops.push({ hops: way, threads: threads.filter(({ turnout }) => ids.has(turnout.id)) });
      return;
    }
    for (const next of hops.get(last.to) ?? []) if (!way.some(({ from }) => from === next.from)) walk([...way, next]);
  };
  for (const all of hops.values()) for (const hop of all) walk([hop]);
  return loops;
}

/** Hops by the output from which they start. */
function hopsOf({ record, threads }: Pick<Look, "record" | "threads">): Map<string, Hop[]> {
  const { links, events } = eventPlan(record, threads);
  const hops = new Map<string, Hop[]>();
  for (const { output, deviceId, way } of workedBy(record, threads))
    for (const event of events) {
      const at = event.inputs.find((input) => input.deviceId === deviceId && input.way === way);
      if (!at) continue;
      for (const link of links) {
        if (link.eventId !== event.id || link.action === null) continue;
        const to = `${link.deviceId} ${link.way}`;
        const known = hops.get(output) ?? [];
        if (!known.some((hop) => hop.to === to && hop.eventId === event.id))
          known.push({ from: output, to, eventId: event.id, event: event.label, input: at.label });
        hops.set(output, known);
      }
    }
  return hops;
}

/** Inputs of nodes that outputs of nodes work: by themselves, as a control would, or by a contact of the motor that they move. */
function workedBy(
  record: RailwayRecord,
  threads: readonly Thread[],
): { output: string; deviceId: string; way: number }[] {
  const plain = plainInputsOf(record);
  return threads.flatMap((thread) => [
    ...controlsOf(thread).flatMap((control) => {
      const { reader, type, device, assignment } = control;
      if (!type.drives || type.hears !== "bus" || reader?.type.hears !== "bus") return [];
      const output = `${device.id} ${assignment.way ?? 1}`;
      return inputsOf(control).map(({ way }) => ({ output, deviceId: reader.device.id, way }));
    }),
    ...thread.motors.flatMap(({ device, driver }) =>
      driver?.type.hears === "bus"
        ? plain.flatMap(({ controlId, deviceId, way }) =>
            controlId === device.id ? [{ output: `${driver.device.id} ${driver.way ?? 1}`, deviceId, way }] : [],
          )
        : [],
    ),
  ]);
}
