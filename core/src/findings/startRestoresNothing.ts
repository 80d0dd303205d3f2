import { busStart } from "../events/busStart.ts";
import { addEvent } from "../events/edits.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { rule } from "./rule.ts";

interface Start {
  /** Controls that say how things should stand, and that nobody asks. */
  controls: string[];
  threads: Thread[];
}

export const startRestoresNothing = rule<Start>({
  id: "start-restores-nothing",
  stage: "numbers",
  column: null,
  severity: "note",
  title: "Nobody asks at the start of the day",
  about:
    "A toggle that stays put says how its turnout should stand, but its node sends that only when it is moved. After power-on the turnouts stand as they were left and the outputs for lamps are off, until somebody asks: an event that nodes answer by sending how each of their inputs stands. A button, or a computer, sends it once all nodes are up.",
  look: ({ record, threads }) => {
    const { asks, answers } = busStart(record, threads);
    if (asks.length > 0 || answers.length === 0) return [];
    const ids = new Set(answers.flatMap(({ turnoutIds }) => turnoutIds));
    return [
      {
        controls: [...new Set(answers.map(({ reads, label }) => reads.replace(/, made at [NR]$/, "") || label))],
        threads: threads.filter(({ turnout }) => ids.has(turnout.id)),
      },
    ];
  },
  subject: () => "start of day",
  where: () => "control bus",
  turnouts: ({ threads }) => threads,
  why: ({ controls }) =>
    `${list(controls)} ${controls.length === 1 ? "stays" : "stay"} where ${controls.length === 1 ? "it is" : "they are"} put; after power-on nothing asks how ${controls.length === 1 ? "it stands" : "they stand"}.`,
  remedies: (_, { record, threads }) => [
    { label: "Let an event ask at the start of the day", group: addEvent(record, threads, "Start of day", true) },
  ],
});
