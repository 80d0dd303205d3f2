import { Draft } from "../equip/draft.ts";
import type { Position } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import type { StockRail } from "../schematic/recipes/frogFeed.ts";
import type { Thread, ThreadFrog } from "../schematic/thread.ts";
import { failsAsPrinted } from "./barelySwitches.ts";
import { POSITIONS, rule } from "./rule.ts";

interface WrongRail {
  thread: Thread;
  frog: ThreadFrog;
  position: Position;
  carries: StockRail;
}

const NAMES = { L: "left", R: "right" };

export const frogWrongRail = rule<WrongRail>({
  id: "frog-wrong-rail",
  stage: "equip",
  column: "frog",
  severity: "stop",
  title: "A frog carries the wrong rail",
  about:
    "Facing the points from the toe: taking the left-hand of the two routes, the frog carries the right rail; taking the right-hand route, the left rail. A frog that carries the other one is a short circuit as soon as a wheel bridges it. The rule solves the contact, relay or unit that feeds it with the blades in both positions; work it out and meter it before power, rather than trying it with a train.",
  look: (look) =>
    look.threads.flatMap((thread) =>
      thread.frogs.flatMap((frog): WrongRail[] => {
        const { reading } = look;
        // a relay that gets too little is told of itself
        if (frog.from && failsAsPrinted(look, thread, frog.from.device.id)) return [];
        for (const position of POSITIONS) {
          const reads = reading(thread, position, "rest").frogs.find(({ turnoutId }) => turnoutId === frog.turnout.id);
          if (reads?.carries && reads.wanted && reads.carries !== reads.wanted) {
            return [{ thread, frog, position, carries: reads.carries }];
          }
        }
        return [];
      }),
    ),
  subject: ({ frog }) => frog.device.id,
  where: ({ frog }) => frog.device.label,
  terminals: ({ frog }) => [terminalName(frog.device.label, "F")],
  turnouts: ({ thread }) => [thread],
  why: ({ frog, position, carries }) =>
    `With ${frog.turnout.label} at ${position} its frog carries the ${NAMES[carries]} rail and must carry the ${NAMES[carries === "L" ? "R" : "L"]} one: a wheel across it shorts the track.`,
  remedies: ({ frog }, { record }) => {
    if (!frog.from || frog.from.type.contactSets === 0) return [];
    const draft = new Draft(record);
    draft.put("assignment", { ...frog.assignment, crossed: !frog.assignment.crossed });
    const set = `S${frog.assignment.way ?? 1}`;
    const names = [`${set}n`, `${set}r`].map((end) => terminalName(frog.from?.device.label ?? "", end));
    const words = `Swap the rails at ${names.join("/")}`;
    return [{ label: words, group: draft.group(words) }];
  },
});
