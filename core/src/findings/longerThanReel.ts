import type { Wire } from "../loom/wire.ts";
import type { Thread } from "../schematic/thread.ts";
import { count } from "../units/format.ts";
import { type Remedy, rule } from "./rule.ts";
import { threadsOfWires } from "./threadsOf.ts";

/** Metres of wire on reels that are usual to buy (common practice). */
const REELS = [10, 25, 50, 100, 200, 500, 1000];

interface Long {
  wire: Wire;
  others: number;
  reel: number;
  threads: Thread[];
}

export const longerThanReel = rule<Long>({
  id: "longer-than-reel",
  stage: "loom",
  column: null,
  severity: "look",
  title: "A wire is longer than a reel",
  about:
    "A wire that is longer than what is on a reel has a joint on the way: one more place to come loose, and one that nobody finds. Buy a longer reel, put the board nearer to what it drives, or say how long the turnout's wire really is.",
  look: ({ record, circuitry, threads }) => {
    const reel = record.railway.reelMetres;
    const long = circuitry.loom.wires.filter(({ cutMetres, core, fact }) => !core && !fact?.cutAt && cutMetres > reel);
    const [longest] = [...long].sort((a, b) => b.cutMetres - a.cutMetres);
    return longest ? [{ wire: longest, others: long.length - 1, reel, threads: threadsOfWires(threads, long) }] : [];
  },
  subject: () => "reel",
  where: ({ wire }) => wire.label,
  terminals: ({ wire }) => [wire.from.name, wire.to.name],
  turnouts: ({ threads }) => threads,
  why: ({ wire, others, reel }) =>
    `${wire.label} from ${wire.from.name} to ${wire.to.name} is cut at ${wire.cutMetres} m${others > 0 ? `, and ${count(others, "more wire")} at less` : ""}; a reel holds ${reel} m.`,
  remedies: ({ wire }, { record }): Remedy[] => {
    const reel = REELS.find((metres) => metres >= wire.cutMetres);
    if (reel === undefined) return [];
    const value = { ...record.railway, reelMetres: reel };
    return [
      {
        label: `Buy reels of ${reel} m`,
        group: { words: `A reel holds ${reel} m`, edits: [{ op: "railway", value }] },
      },
    ];
  },
});
