import { figureValue } from "../catalogue/catalogue.ts";
import { rowWords } from "../diodes/words.ts";
import { press, pulseIn } from "../readings/presses.ts";
import { voltsShareFor } from "../readings/pulse.ts";
import { secondsToRecover } from "../readings/recharge.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { MatrixRow } from "../routes/boards.ts";
import { type Fitted, fitted, type Thread } from "../schematic/thread.ts";
import { seconds } from "../units/format.ts";
import { ofChargedMatrices, threadsOfCoils } from "./ofMatrices.ts";
import { largerCapacitor, strongerCharging } from "./remedies.ts";
import { rule } from "./rule.ts";

/** Two routes are set one after the other, as at both ends of a yard, within so many seconds (common practice). */
const BETWEEN_ROUTES = 2;

interface Slow {
  unit: Fitted;
  row: MatrixRow;
  waits: number;
  record: RailwayRecord;
  threads: Thread[];
}

export const routeBeforeRecharge = rule<Slow>({
  id: "route-before-recharge",
  stage: "routes",
  column: null,
  severity: "look",
  title: "The next route finds the unit not charged yet",
  about:
    "After a press the capacitor fills again through its resistor, and what a coil gets grows with the square of its volts. Two routes are often set one after the other, within some two seconds: the rule works out how long the unit takes until the route that needs most is firm again. A smaller charging resistor, or charging through a transistor that cuts off while it fires, shortens it.",
  look: (look) =>
    ofChargedMatrices(look, (matrix) =>
      matrix.unitIds.flatMap((unitId): Slow[] => {
        const unit = fitted(look.record, unitId);
        if (!unit.type.figures.farads) return [];
        const slow = matrix.rows.flatMap((row): Slow[] => {
          const pressed = press(look.circuitry, look.threads, matrix, row);
          const waits = (pressed?.coils ?? []).flatMap((coil) => {
            const pulse = pressed && coil.isWanted ? pulseIn(look.circuitry, pressed, coil) : null;
            const least = figureValue(fitted(look.record, coil.coil.motorId).type, "pulseJoules");
            const share = pulse && voltsShareFor(pulse, least);
            return share === null ? [] : [secondsToRecover(unit.type, share)];
          });
          const longest = Math.max(0, ...waits);
          const coils = pressed?.coils.filter(({ isWanted }) => isWanted).map(({ coil }) => coil) ?? [];
          return longest > BETWEEN_ROUTES
            ? [{ unit, row, waits: longest, record: look.record, threads: threadsOfCoils(look.threads, coils) }]
            : [];
        });
        return slow.sort((a, b) => b.waits - a.waits).slice(0, 1);
      }),
    ),
  subject: ({ unit }) => unit.device.id,
  where: ({ unit }) => unit.device.label,
  turnouts: ({ threads }) => threads,
  why: ({ unit, row, waits, record }) =>
    `${unit.device.label} takes ${seconds(waits)} after a press until ${rowWords(record, row)} throws firmly again; pressed sooner, its turnouts may stay half way.`,
  remedies: ({ unit, waits }, { record }) => [
    ...strongerCharging(record, unit, waits / BETWEEN_ROUTES),
    ...largerCapacitor(record, unit, 1.05),
  ],
});
