import { Draft } from "../equip/draft.ts";
import { standing } from "../hands/words.ts";
import { type Fitted, fitted, type Thread } from "../schematic/thread.ts";
import { watts } from "../units/format.ts";
import { fitWithFigures, sentence } from "./remedies.ts";
import { type Remedy, rule } from "./rule.ts";
import { threadsWith } from "./threadsOf.ts";

interface Hot {
  at: Fitted;
  /** The figure that says what it bears. */
  figure: string;
  heat: number;
  /** What it bears in this state, watts: more while a finger holds a control. */
  limit: number;
  when: string;
  threads: Thread[];
}

export const resistorTooHot = rule<Hot>({
  id: "resistor-too-hot",
  stage: "equip",
  column: null,
  severity: "stop",
  title: "A resistor turns more into heat than it bears",
  about:
    "A resistor turns volts times amps into heat, for as long as they last; above its rating it grows hot, changes its value, and in the end scorches what is around it. For the seconds that a finger holds a control it bears about six times as much (IEC 60115-1, from memory). The rule solves every combination of what can be set. For a new one take a rating of twice the heat.",
  look: ({ record, threads, hands }) => {
    // a coil that is left on drains its unit through the charging resistor: that is told of the coil
    const burning = new Set(hands.flatMap(({ kind, id }) => (kind === "coil" ? [id] : [])));
    const units = threads.flatMap(({ motors }) =>
      motors.flatMap(({ device, unit }) => (unit && burning.has(device.id) ? [unit.device.id] : [])),
    );
    const drained = new Set(units);
    const worst = new Map<string, Hot>();
    for (const { kind, id, part: figure, amps: heat, limit, when } of hands) {
      if (kind !== "heat" || figure === null) continue;
      const at = fitted(record, id);
      if (drained.has(id) || (worst.get(id)?.heat ?? 0) >= heat) continue;
      const own = threadsWith(threads, new Set([id]));
      worst.set(id, { at, figure, heat, limit, when: standing(record, when), threads: own });
    }
    return [...worst.values()];
  },
  subject: ({ at }) => at.device.id,
  where: ({ at }) => at.device.label,
  turnouts: ({ threads }) => threads,
  why: ({ at, figure, heat, limit, when }) =>
    `${sentence(when)}, ${NAMES[figure]} of ${at.device.label} turns ${watts(heat)} into heat; it bears ${watts(limit)}.`,
  remedies: ({ at, figure, heat }, { record }): Remedy[] => {
    const rating = USUAL_WATTS.find((each) => each >= heat * 2);
    if (rating === undefined) return [];
    const draft = new Draft(record);
    fitWithFigures(draft, at, `resistors of ${watts(rating)}`, { [figure]: rating });
    const label = `Fit resistors of ${watts(rating)} in ${at.device.label}`;
    return [{ label, group: draft.group(label) }];
  },
  caution: ({ at }) => at.type,
});

const NAMES: Readonly<Record<string, string>> = {
  chargeWatts: "the charging resistor",
  resistorWatts: "a resistor",
  commonWatts: "the resistor in the common lead",
  firstWatts: "the resistor next to the lamp",
  secondWatts: "the resistor next to the rail",
};

/** Usual ratings of resistors, watts (common practice). */
const USUAL_WATTS = [0.25, 0.5, 1, 2, 5, 10, 20, 50];
