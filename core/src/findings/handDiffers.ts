import { Draft } from "../equip/draft.ts";
import { type Junction, lineLayout } from "../line/layout.ts";
import type { Turnout } from "../record/schemas.ts";
import type { Thread } from "../schematic/thread.ts";
import { type Look, rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

interface Differs {
  junction: Junction;
  turnout: Turnout;
  threads: Thread[];
}

const WORDS = { left: "a left-hand one", right: "a right-hand one", wye: "a wye", unknown: "of no hand" } as const;

export const handDiffers = rule<Differs>({
  id: "hand-differs",
  stage: "line",
  column: "hand",
  severity: "look",
  title: "A turnout lies otherwise on the line than in the list",
  about:
    "The hand of a turnout decides which rail its frog needs: on the left-hand of its two routes the right rail, on the right-hand route the left one. Where the list and the line differ, one of them is wrong; look at the turnout.",
  look: ({ record, threads }: Look) =>
    lineLayout(record).junctions.flatMap((junction): Differs[] => {
      const { turnout, hand } = junction;
      if (!turnout || turnout.hand === "unknown" || turnout.hand === hand) return [];
      return [{ junction, turnout, threads: threadsOfTurnouts(threads, new Set([turnout.id])) }];
    }),
  subject: ({ turnout }) => turnout.id,
  where: ({ turnout }) => turnout.label,
  turnouts: ({ threads }) => threads,
  why: ({ turnout, junction }) =>
    `${turnout.label} is ${WORDS[turnout.hand]} in the list, and ${WORDS[junction.hand]} as its track lies.`,
  remedies: ({ turnout, junction }, { record }) => {
    const draft = new Draft(record);
    draft.put("turnout", { ...turnout, hand: junction.hand });
    const label = `${turnout.label} is ${WORDS[junction.hand]}`;
    return [{ label, group: draft.group(label) }];
  },
});
