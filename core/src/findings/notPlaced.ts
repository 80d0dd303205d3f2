import { trayOf } from "../line/marking.ts";
import type { Thread } from "../schematic/thread.ts";
import { count, list } from "../units/format.ts";
import { rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

interface Waiting {
  labels: string[];
  placed: number;
  threads: Thread[];
}

export const notPlaced = rule<Waiting>({
  id: "not-placed",
  stage: "line",
  column: null,
  severity: "note",
  title: "Turnouts of the list that lie nowhere on the line",
  about:
    "A turnout that is not placed has its own thread, loom and numbers; routes, frogs and reversing sections are worked out without it. Where there is no line diagram at all nothing is said.",
  look: ({ record, threads }) => {
    const tray = trayOf(record);
    if (record.spots.length === 0 || tray.length === 0) return [];
    const ids = new Set(tray.map(({ id }) => id));
    return [
      {
        labels: tray.map(({ label }) => label),
        placed: record.spots.length,
        threads: threadsOfTurnouts(threads, ids),
      },
    ];
  },
  subject: () => "tray",
  where: ({ labels }) => count(labels.length, "turnout"),
  turnouts: ({ threads }) => threads,
  why: ({ labels, placed }) => {
    const named = labels.length > 5 ? `${list(labels.slice(0, 4))} and ${labels.length - 4} more` : list(labels);
    return `${named} ${labels.length === 1 ? "lies" : "lie"} on no track, beside ${placed} that ${placed === 1 ? "does" : "do"}.`;
  },
  remedies: () => [],
});
