import { addCable } from "../loom/hand.ts";
import type { Cable } from "../record/made.ts";
import { count, list } from "../units/format.ts";
import { rule } from "./rule.ts";

export const noSpareCore = rule<{ cables: readonly Cable[] }>({
  id: "no-spare-core",
  stage: "loom",
  column: null,
  severity: "note",
  title: "No core is spare",
  about:
    "When a core breaks or one more lamp is wanted, a spare core saves a new cable. One spare in each bundle of cables is good practice; more where the panel is still growing.",
  look: ({ circuitry }) => {
    const { wires } = circuitry.loom;
    // a tail is for one motor, or two: nothing else will want its cores
    const cables = circuitry.loom.cables.filter(({ tail }) => !tail);
    if (cables.length === 0) return [];
    const used = new Map<string, number>();
    for (const { core } of wires) if (core) used.set(core.cableId, (used.get(core.cableId) ?? 0) + 1);
    return cables.some(({ id, cores }) => (used.get(id) ?? 0) < cores) ? [] : [{ cables }];
  },
  subject: () => "cores",
  where: ({ cables }) => cables[0]?.label ?? "",
  turnouts: () => [],
  why: ({ cables }) =>
    `All cores of ${list(cables.slice(0, MOST_NAMED).map(({ label }) => label))}${cables.length > MOST_NAMED ? ` and ${count(cables.length - MOST_NAMED, "more cable")}` : ""} are in use.`,
  remedies: (_, { record }) => [{ label: "Lay one more cable", group: addCable(record) }],
});

/** Cables that are named one by one. */
const MOST_NAMED = 6;
