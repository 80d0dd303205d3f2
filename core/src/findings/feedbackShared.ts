import { type FeedbackInput, feedbackInputs, freeStart, startsOf } from "../numbers/feedback.ts";
import type { Thread } from "../schematic/thread.ts";
import { wantSetting } from "../settings/settings.ts";
import { rule } from "./rule.ts";

interface Overlap {
  inputs: [FeedbackInput, ...FeedbackInput[]];
  all: FeedbackInput[];
  threads: Thread[];
}

export const feedbackShared = rule<Overlap>({
  id: "feedback-shared",
  stage: "numbers",
  column: null,
  severity: "stop",
  title: "Two encoders send the same numbers",
  about:
    "A feedback encoder numbers its inputs in a row from its start number. Two of them with the same numbers cannot be told apart: a button here is taken for a train there. New encoders all come with the same start number.",
  look: ({ record, threads }) => {
    const all = feedbackInputs(record, threads);
    const boards = new Map<string, FeedbackInput[]>();
    const seen = new Set<number>();
    const used = (deviceId: string) => all.filter((input) => input.deviceId === deviceId && input.on.length > 0).length;
    for (const input of [...all].sort((a, b) => used(b.deviceId) - used(a.deviceId))) {
      // the encoder with more at it keeps its numbers
      if (input.sharedWith.length > 0 && seen.has(input.number))
        boards.set(input.deviceId, [...(boards.get(input.deviceId) ?? []), input]);
      seen.add(input.number);
    }
    return [...boards.values()].map((inputs) => {
      const numbers = new Set(inputs.map(({ number }) => number));
      const ids = new Set(all.flatMap(({ number, turnoutIds }) => (numbers.has(number) ? turnoutIds : [])));
      const concerned = threads.filter(({ turnout }) => ids.has(turnout.id));
      return { inputs: inputs as Overlap["inputs"], all, threads: concerned };
    });
  },
  subject: ({ inputs: [{ deviceId }] }) => `feedback-${deviceId}`.slice(0, 80),
  where: ({ inputs: [{ label }] }) => label,
  terminals: ({ inputs }) => inputs.map(({ label }) => label),
  turnouts: ({ threads }) => threads,
  why: ({ inputs }) => {
    const [first] = inputs;
    const last = inputs.at(-1) ?? first;
    return `${first.label} sends ${first.number}, and so does ${first.sharedWith[0]}; ${first.number} to ${last.number} are sent twice.`;
  },
  remedies: ({ inputs: [{ deviceId }], all }, { record }) => {
    const start = freeStart(all, deviceId);
    const line = startsOf(record).find(({ device }) => device.id === deviceId);
    if (!line) return [];
    return [{ label: `Let ${line.of} start at ${start}`, group: wantSetting(record, line, String(start)) }];
  },
});
