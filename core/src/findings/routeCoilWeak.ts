import { figureValue } from "../catalogue/catalogue.ts";
import { coilWords, rowWords } from "../diodes/words.ts";
import { type Press, type PressedCoil, press, pulseIn } from "../readings/presses.ts";
import type { Pulse } from "../readings/pulse.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Matrix, MatrixRow } from "../routes/boards.ts";
import type { Thread } from "../schematic/thread.ts";
import { fitted } from "../schematic/thread.ts";
import { joules, list, milliseconds } from "../units/format.ts";
import { ofChargedMatrices, threadsOfCoils } from "./ofMatrices.ts";
import { pulseWords } from "./pulseWords.ts";
import { largerCapacitor, layThicker } from "./remedies.ts";
import { type Look, rule } from "./rule.ts";

interface Weak {
  matrix: Matrix;
  /** Other rows of the matrix that give a coil too little as well. */
  others: MatrixRow[];
  record: RailwayRecord;
  pressed: Press;
  coil: PressedCoil;
  pulse: Pulse;
  least: number;
  leastSeconds: number;
  threads: Thread[];
}

export const routeCoilWeak = rule<Weak>({
  id: "route-coil-weak",
  stage: "routes",
  column: null,
  severity: "stop",
  title: "A route gives a coil too little",
  about:
    "All coils of a route share one pulse, each behind its wires and diodes: what is firm for one may be too weak for five. Each button is pressed in the solved circuit and the pulse followed through time; the coil that gets least is told. A larger capacitor gives all of them more, thicker wires those at the far end.",
  look: (look) =>
    ofChargedMatrices(look, (matrix) => {
      const all = matrix.rows.flatMap((row): Weak[] => {
        const pressed = press(look.circuitry, look.threads, matrix, row);
        const weak = (pressed?.coils ?? []).flatMap((coil) => (pressed ? weakOf(look, matrix, pressed, coil) : []));
        return weak.sort(byShare).slice(0, 1);
      });
      const [worst] = all.sort(byShare);
      if (!worst) return [];
      const others = matrix.rows.filter((row) => all.some((each) => each !== worst && each.pressed.row === row));
      return [{ ...worst, others }];
    }),
  subject: ({ matrix }) => matrix.boards.map(({ id }) => id).join(" "),
  where: ({ record, pressed }) => rowWords(record, pressed.row),
  turnouts: ({ threads }) => threads,
  why: ({ record, pressed, coil, pulse, least, leastSeconds, others }) => {
    const more = others.length > 0 ? ` So it is with ${list(others.map((row) => rowWords(record, row)))}.` : "";
    const those = pulse.coils > 1 ? `, the least of ${pulse.coils} coils that share ${joules(pulse.stored)}` : "";
    const gets = `${rowWords(record, pressed.row)} gives ${coilWords(record, coil.coil)} ${pulseWords(pulse)}${those}`;
    return pulse.joules < least
      ? `${gets}; a firm throw takes ${joules(least)}, so ${joules(least - pulse.joules)} are missing.${more}`
      : `${gets}; a firm throw takes ${milliseconds(leastSeconds)} above half of the peak.${more}`;
  },
  remedies: ({ matrix, pulse, least }, { record }) => [
    ...matrix.unitIds.flatMap((id) => largerCapacitor(record, fitted(record, id), least / pulse.joules)),
    ...layThicker(record, "cableGauge"),
    ...layThicker(record, "wireGauge"),
  ],
});

const byShare = (a: Weak, b: Weak) => a.pulse.joules / a.least - b.pulse.joules / b.least;

/** A coil that a press asks for, where it gets too little. */
function weakOf(look: Look, matrix: Matrix, pressed: Press, coil: PressedCoil): Weak[] {
  const { type } = fitted(look.record, coil.coil.motorId);
  const pulse = coil.isWanted && coil.amps > LEAST_AMPS ? pulseIn(look.circuitry, pressed, coil) : null;
  if (!pulse) return [];
  const [least, leastSeconds] = [figureValue(type, "pulseJoules"), figureValue(type, "pulseSeconds")];
  if (pulse.joules >= least && pulse.secondsAboveHalf >= leastSeconds) return [];
  const threads = threadsOfCoils(look.threads, [coil.coil]);
  return [{ matrix, record: look.record, pressed, coil, pulse, least, leastSeconds, threads, others: [] }];
}

/** Less than this is no pulse at all: the coil is not reached, which is told otherwise. */
const LEAST_AMPS = 0.01;
