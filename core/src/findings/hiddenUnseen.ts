import { type Junction, lineLayout, type Stretch } from "../line/layout.ts";
import { turnoutPort } from "../line/topology.ts";
import type { Thread } from "../schematic/thread.ts";
import { rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

interface Unseen {
  junction: Junction;
  label: string;
  threads: Thread[];
}

export const hiddenUnseen = rule<Unseen>({
  id: "hidden-unseen",
  stage: "line",
  column: "lamp",
  severity: "note",
  title: "A turnout out of sight shows nowhere how it lies",
  about:
    "What nobody sees has to tell how it lies: by a lamp from a contact of its motor, from its frog, or from a sensor at its throw bar, which knows whether the blades have moved. The rule looks at turnouts all of whose track is marked as out of sight.",
  look: ({ record, threads }) => {
    const { junctions, stretches } = lineLayout(record);
    const inSight = inSightOf(stretches);
    return junctions.flatMap((junction): Unseen[] => {
      const { turnout, id } = junction;
      if (!turnout || inSight.has(id)) return [];
      const own = threadsOfTurnouts(threads, new Set([turnout.id]));
      if (own.length === 0 || own.some(({ lamps }) => lamps.length > 0)) return [];
      return [{ junction, label: turnout.label, threads: own }];
    });
  },
  subject: ({ junction }) => junction.id,
  where: ({ label }) => label,
  turnouts: ({ threads }) => threads,
  why: ({ label }) => `All track around ${label} is out of sight, and no lamp tells how it lies.`,
  remedies: () => [],
});

const known = new WeakMap<readonly Stretch[], ReadonlySet<string>>();

/** Blades with some track in sight. */
function inSightOf(stretches: readonly Stretch[]): ReadonlySet<string> {
  const inSight =
    known.get(stretches) ??
    new Set(
      stretches.flatMap(({ from, to, metres, hiddenMetres }) =>
        hiddenMetres < metres - 1e-9 ? [from, to].flatMap((port) => turnoutPort(port ?? "")?.id ?? []) : [],
      ),
    );
  known.set(stretches, inSight);
  return inSight;
}
