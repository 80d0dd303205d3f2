import { setLink } from "../events/edits.ts";
import { type EventLink, type EventOutput, eventPlan, type PlannedEvent } from "../events/plan.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { type Remedy, rule } from "./rule.ts";

interface Mastered {
  output: EventOutput;
  /** Events that can disagree about it. */
  masters: PlannedEvent[];
  threads: Thread[];
}

/** Events of which it is offered, one by one, that the output does not act upon them. */
const MOST_OFFERED = 3;

export const outputTwoMasters = rule<Mastered>({
  id: "output-two-masters",
  stage: "numbers",
  column: null,
  severity: "look",
  title: "An output with two masters that can disagree",
  about:
    "Of several events that reach an output the last one wins: it is no OR. With A on, then B on, then A off, the output is off although B is still on. Two buttons that let go may share an output, for whatever was pressed last is what is meant; two levels, or the events of two turnouts, may not.",
  look: ({ record, threads }) => {
    const { outputs, links, events } = eventPlan(record, threads);
    const eventOf = new Map(events.map((event) => [event.id, event]));
    const byOutput = new Map<string, EventLink[]>();
    for (const link of links) {
      if (link.action === null) continue;
      const name = `${link.deviceId} ${link.way}`;
      const known = byOutput.get(name);
      if (known) known.push(link);
      else byOutput.set(name, [link]);
    }
    return outputs.flatMap((output): Mastered[] => {
      const own = byOutput.get(`${output.deviceId} ${output.way}`) ?? [];
      const mastersIn = (these: readonly EventLink[]) => these.flatMap(({ eventId }) => eventOf.get(eventId) ?? []);
      const all = mastersIn(own);
      // the sides of one control say one thing
      const levels = mastersIn(own.filter(({ action }) => action === "acts" || action === "inverted"));
      const differ = (these: readonly PlannedEvent[], by: "turnoutIds" | "controlIds") =>
        new Set(these.map(({ id, inputs }) => inputs.flatMap((input) => input[by]).join() || id)).size > 1;
      const masters = differ(all, "turnoutIds") ? all : levels;
      if (!differ(masters, "controlIds")) return [];
      const ids = new Set([output.turnoutId, ...masters.flatMap(({ inputs }) => inputs.flatMap((i) => i.turnoutIds))]);
      return [{ output, masters, threads: threads.filter(({ turnout }) => ids.has(turnout.id)) }];
    });
  },
  subject: ({ output }) => `${output.deviceId} ${output.way}`,
  where: ({ output }) => output.label,
  terminals: ({ output }) => [output.label],
  turnouts: ({ threads }) => threads,
  why: ({ output, masters }) =>
    `${output.label}${output.drives ? ` (${output.drives})` : ""} acts upon ${list(masters.map(({ label }) => label))}; the last one wins, whatever the others say.`,
  remedies: ({ output, masters }, { record, threads }) => {
    // the events of its own turnout stay; of several levels one does
    const own = masters.filter(({ inputs }) =>
      inputs.some(({ turnoutIds }) => output.turnoutId !== null && turnoutIds.includes(output.turnoutId)),
    );
    const foreign = masters.filter((event) => !own.includes(event));
    const goes = foreign.length > 0 ? foreign : masters.slice(1);
    return goes.slice(0, MOST_OFFERED).flatMap((event): Remedy[] => {
      const group = setLink(record, threads, event.id, output, null);
      return group ? [{ label: group.words, group }] : [];
    });
  },
});
