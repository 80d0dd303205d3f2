import { Draft } from "../equip/draft.ts";
import { type Crossover, followsFrom } from "../line/follows.ts";
import { fedFrogs } from "../line/rails.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread } from "../schematic/thread.ts";
import { type Remedy, rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

interface Parted {
  crossover: Crossover;
  /** Names of the zones of the two ends, where these differ. */
  zones: [string, string] | null;
  /** The end whose frog is fed, where the other's is not. */
  fed: Crossover["pair"][number] | null;
  threads: Thread[];
}

export const crossoverZones = rule<Parted>({
  id: "crossover-zones",
  stage: "line",
  column: null,
  severity: "look",
  title: "The two ends of a crossover are not alike",
  about:
    "Both ends of a crossover are thrown together, and a train on it stands in both at once. With a zone of its own each has another feed, strip and place in the order of work; where that is meant, both rails are parted between them. And where one frog is fed and the other is not, the one may stall what the other carries on.",
  look: ({ record, threads }) => {
    const frogs = fedFrogs(record);
    return followsFrom(record).crossovers.flatMap((crossover): Parted[] => {
      const [one, other] = crossover.pair;
      const nameOf = (id: string) => find(record, "zone", id)?.label ?? id;
      const zones: Parted["zones"] =
        one.zoneId === null || other.zoneId === null || one.zoneId === other.zoneId
          ? null
          : [nameOf(one.zoneId), nameOf(other.zoneId)];
      const fed = frogs.has(one.id) === frogs.has(other.id) ? null : frogs.has(one.id) ? one : other;
      if (!zones && !fed) return [];
      return [{ crossover, zones, fed, threads: threadsOfTurnouts(threads, new Set([one.id, other.id])) }];
    });
  },
  subject: ({ crossover: { pair } }) => pair[1].id,
  where: ({ crossover: { pair } }) => pair.map(({ label }) => label).join("/"),
  turnouts: ({ threads }) => threads,
  why: ({ crossover: { pair }, zones, fed }) => {
    const [one, other] = pair;
    const apart = zones
      ? `${one.label} is in ${zones[0]}, and ${other.label}, the other end of its crossover, in ${zones[1]}.`
      : "";
    const frogs = fed
      ? `The frog of ${fed.label} is fed, and that of ${(fed === one ? other : one).label}, at the other end of its crossover, is not.`
      : "";
    return [apart, frogs].filter(Boolean).join(" ");
  },
  remedies: ({ crossover: { pair }, zones, fed }, { record }) =>
    // with frogs that differ, another zone alone would cure nothing
    zones && !fed
      ? [intoZone(record, pair[1], pair[0].zoneId, zones[0]), intoZone(record, pair[0], pair[1].zoneId, zones[1])]
      : [],
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
