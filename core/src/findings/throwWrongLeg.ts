import { Draft } from "../equip/draft.ts";
import { type Arrival, type AutomaticThrow, automaticThrows, serves } from "../line/timing.ts";
import { deviceOf, find } from "../record/find.ts";
import { wayName } from "../schematic/nets.ts";
import type { Thread } from "../schematic/thread.ts";
import { type Look, rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

/** What a turnout that a train throws is called, what throws it, and the threads that it is in. */
export interface ThrowNames {
  label: string;
  by: string;
  threads: Thread[];
}

export function namesOf({ record, threads }: Pick<Look, "record" | "threads">, thrown: AutomaticThrow): ThrowNames {
  const { deviceId, way } = thrown.control;
  return {
    label: find(record, "turnout", thrown.turnoutId)?.label ?? thrown.turnoutId,
    by: wayName(deviceOf(record, deviceId).label, way),
    threads: threadsOfTurnouts(threads, new Set([thrown.turnoutId])),
  };
}

interface WrongLeg extends ThrowNames {
  thrown: AutomaticThrow;
  arrival: Arrival;
}

export const throwWrongLeg = rule<WrongLeg>({
  id: "throw-wrong-leg",
  stage: "line",
  column: null,
  severity: "stop",
  title: "A train throws a turnout for the wrong leg",
  about:
    'A rule "train here, turnout so" serves a train that comes to the leg for which the blades are thrown. A train that comes to the other leg runs through blades that lie against it, or derails. The rule follows the track from the edge of the block to the blades.',
  look: ({ record, threads }) =>
    automaticThrows(record).flatMap((thrown): WrongLeg[] => {
      const arrival = thrown.arrivals.find((each) => !serves(thrown, each));
      if (!arrival) return [];
      return [{ thrown, arrival, ...namesOf({ record, threads }, thrown) }];
    }),
  subject: ({ thrown }) => thrown.control.id,
  where: ({ label }) => label,
  turnouts: ({ threads }) => threads,
  why: ({ thrown, arrival, by, label }) =>
    `A train in ${thrown.block.name} (${by}) throws ${label} to ${thrown.to}, and comes to its ${arrival.leg} leg after ${arrival.metres.toFixed(2)} m.`,
  remedies: ({ thrown, label }, { record }) => {
    const to = thrown.to === "N" ? "R" : "N";
    if (!thrown.arrivals.every((arrival) => serves({ to }, arrival))) return [];
    const draft = new Draft(record);
    const { control } = thrown;
    draft.put("assignment", { ...control, to: control.to === "N" ? "R" : "N" });
    const words = `Let it throw ${label} to ${to}`;
    return [{ label: words, group: draft.group(words) }];
  },
});
