import { lineLayout } from "../line/layout.ts";
import { turnoutPort } from "../line/topology.ts";
import { find } from "../record/find.ts";
import type { Thread } from "../schematic/thread.ts";
import { count, list } from "../units/format.ts";
import { rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

interface Nowhere {
  /** As "Y3 reverse". */
  legs: string[];
  threads: Thread[];
}

/** Legs that are named one by one. */
const NAMED = 4;

export const legNowhere = rule<Nowhere>({
  id: "leg-nowhere",
  stage: "line",
  column: null,
  severity: "note",
  title: "Legs lead to ends of which nobody has said what they are",
  about:
    "Track ends at a buffer, or leads on to somewhere: a deck, a fiddle yard, the next module. Routes are called by the ends between which they go, so each end gets a name; one that was forgotten is often track that is still to be laid.",
  look: ({ record, threads }) => {
    const { ends, stretches } = lineLayout(record);
    const open = new Set(ends.flatMap(({ id, mark }) => (mark ? [] : [id])));
    const ids = new Set<string>();
    const legs = stretches.flatMap(({ from, to }) => {
      const [end, leg] = from !== null && open.has(from) ? [from, to] : [to, from];
      const own = leg === null ? null : turnoutPort(leg);
      if (end === null || !open.has(end) || !own || own.leg === "toe") return [];
      const turnout = find(record, "turnout", own.id);
      if (!turnout) return [];
      ids.add(own.id);
      return [`${turnout.label} ${own.leg}`];
    });
    return legs.length > 0 ? [{ legs, threads: threadsOfTurnouts(threads, ids) }] : [];
  },
  subject: () => "legs",
  where: ({ legs }) => count(legs.length, "leg"),
  turnouts: ({ threads }) => threads,
  why: ({ legs }) => {
    const named =
      legs.length > NAMED + 1 ? `${legs.slice(0, NAMED).join(", ")} and ${legs.length - NAMED} more` : list(legs);
    return `${named} ${legs.length === 1 ? "leads" : "lead"} to an end without a name.`;
  },
  remedies: () => [],
});
