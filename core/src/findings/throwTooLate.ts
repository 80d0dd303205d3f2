import { type Arrival, type AutomaticThrow, automaticThrows, serves } from "../line/timing.ts";
import { rule } from "./rule.ts";
import { namesOf, type ThrowNames } from "./throwWrongLeg.ts";

interface Late extends ThrowNames {
  thrown: AutomaticThrow;
  arrival: Arrival;
  trainKmh: number;
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
        (arrival) => serves(thrown, arrival) && arrival.seconds < (thrown.seconds ?? 0),
      );
      const [arrival] = late;
      if (!arrival) return [];
      const { trainKmh } = record.railway;
      return [{ thrown, arrival, trainKmh, ...namesOf({ record, threads }, thrown) }];
    }),
  subject: ({ thrown }) => thrown.control.id,
  where: ({ label }) => label,
  turnouts: ({ threads }) => threads,
  why: ({ thrown, arrival, by, trainKmh }) =>
    `A train in ${thrown.block.name} (${by}) is at the blades after ${arrival.metres.toFixed(2)} m, in ${arrival.seconds.toFixed(1)} s at ${Math.round(trainKmh)} km/h; they lie after ${(thrown.seconds ?? 0).toFixed(1)} s.`,
  remedies: () => [],
});
