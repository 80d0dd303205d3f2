import { type Arrival, type AutomaticThrow, automaticThrows, serves } from "../line/timing.ts";
import { deviceOf, find } from "../record/find.ts";
import { wayName } from "../schematic/nets.ts";
import type { Thread } from "../schematic/thread.ts";
import { threadsOfTurnouts } from "./handDiffers.ts";
import { rule } from "./rule.ts";

interface Late {
  thrown: AutomaticThrow;
  arrival: Arrival;
  label: string;
  by: string;
  trainKmh: number;
  threads: Thread[];
}

export const throwTooLate = rule<Late>({
  id: "throw-too-late",
  stage: "line",
  column: null,
  severity: "look",
  title: "A turnout that a train throws lies too late for it",
  about:
    "From the first axle in the block until the blades lie there pass the detector's delay and the time of the motor; meanwhile the train goes on. Where it is at the blades first, it runs through them as they move. Put the edge of the block farther away, take a quicker motor, or run slower there.",
  look: ({ record, threads }) =>
    automaticThrows(record).flatMap((thrown): Late[] => {
      const late = thrown.arrivals.filter(
        (arrival) => serves(thrown, arrival) && arrival.leg !== "toe" && arrival.seconds < (thrown.seconds ?? 0),
      );
      const [arrival] = late;
      if (!arrival) return [];
      const { deviceId, way } = thrown.control;
      return [
        {
          ...{ thrown, arrival, trainKmh: record.railway.trainKmh },
          label: find(record, "turnout", thrown.turnoutId)?.label ?? thrown.turnoutId,
          by: wayName(deviceOf(record, deviceId).label, way),
          threads: threadsOfTurnouts(threads, new Set([thrown.turnoutId])),
        },
      ];
    }),
  subject: ({ thrown }) => thrown.control.id,
  where: ({ label }) => label,
  turnouts: ({ threads }) => threads,
  why: ({ thrown, arrival, by, trainKmh }) =>
    `A train in ${thrown.block.name} (${by}) is at the blades after ${arrival.metres.toFixed(2)} m, in ${arrival.seconds.toFixed(1)} s at ${Math.round(trainKmh)} km/h; they lie after ${(thrown.seconds ?? 0).toFixed(1)} s.`,
  remedies: () => [],
});
