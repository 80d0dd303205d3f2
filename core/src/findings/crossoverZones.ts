import { Draft } from "../equip/draft.ts";
import { type Crossover, followsFrom } from "../line/follows.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread } from "../schematic/thread.ts";
import { threadsOfTurnouts } from "./handDiffers.ts";
import { type Remedy, rule } from "./rule.ts";

interface Parted {
  crossover: Crossover;
  /** Names of the zones of the two ends. */
  zones: [string, string];
  threads: Thread[];
}

export const crossoverZones = rule<Parted>({
  id: "crossover-zones",
  stage: "line",
  column: null,
  severity: "look",
  title: "The two ends of a crossover are in different zones",
  about:
    "Both ends of a crossover are thrown together, and a train on it stands in both at once. With a zone of its own each has another feed, strip and place in the order of work; where that is meant, both rails are parted between them.",
  look: ({ record, threads }) =>
    followsFrom(record).crossovers.flatMap((crossover): Parted[] => {
      const [one, other] = crossover.pair;
      if (one.zoneId === null || other.zoneId === null || one.zoneId === other.zoneId) return [];
      const nameOf = (id: string) => find(record, "zone", id)?.label ?? id;
      const own = threadsOfTurnouts(threads, new Set([one.id, other.id]));
      return [{ crossover, zones: [nameOf(one.zoneId), nameOf(other.zoneId)], threads: own }];
    }),
  subject: ({ crossover: { pair } }) => pair[1].id,
  where: ({ crossover: { pair } }) => pair.map(({ label }) => label).join("/"),
  turnouts: ({ threads }) => threads,
  why: ({ crossover: { pair }, zones }) =>
    `${pair[0].label} is in ${zones[0]}, and ${pair[1].label}, the other end of its crossover, in ${zones[1]}.`,
  remedies: ({ crossover: { pair }, zones }, { record }) => [
    intoZone(record, pair[1], pair[0].zoneId, zones[0]),
    intoZone(record, pair[0], pair[1].zoneId, zones[1]),
  ],
});

function intoZone(
  record: RailwayRecord,
  turnout: Crossover["pair"][number],
  zoneId: string | null,
  zone: string,
): Remedy {
  const draft = new Draft(record);
  draft.put("turnout", { ...turnout, zoneId });
  const label = `Put ${turnout.label} into ${zone}`;
  return { label, group: draft.group(label) };
}
