import { figureValue } from "../catalogue/catalogue.ts";
import type { Circuitry } from "../readings/circuitry.ts";
import { type Press, type PressedCoil, press, pulseIn } from "../readings/presses.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Matrix } from "../routes/boards.ts";
import { fitted, type Thread } from "../schematic/thread.ts";
import { STRAY_SHARE } from "./proof.ts";
import { coilWords } from "./words.ts";

/** What one coil gets when the button of a route is pressed, as the railway is built. */
export interface CoilInPress {
  /** As it is called in the matrix. */
  key: string;
  /** The turnout and the position that it throws, as "Y1 N". */
  label: string;
  isWanted: boolean;
  joules: number;
  peakAmps: number;
  /** Above half of its peak, seconds. */
  seconds: number;
  /** What a firm throw takes. */
  least: number;
  leastSeconds: number;
}

/** A button of a route pressed, with all that follows from it. */
export interface RoutePress {
  /** The row, as it is called in the matrix. */
  key: string;
  coils: CoilInPress[];
  contactAmps: number;
  /** The most through one diode, and what it bears, amps. */
  diodeAmps: number;
  surgeAmps: number;
  /** What coils share: stored before it, joules, at so many volts. */
  stored: number;
  volts: number;
  /** Through time, for a picture: milliseconds, volts of the capacitor, amps in the coil that gets least; amps of one coil by itself. */
  curve: { ms: number; volts: number; amps: number }[];
  faults: string[];
}

/** Coils that a press may concern: those asked, and others that get more than a trace. */
const TRACE_AMPS = 0.05;

/**
 * Presses a button of a matrix as it is built, and says whether it does what is wanted: each coil asked gets what a firm throw
 * takes, no other more than a tenth of that, and no diode more than it bears.
 * @returns null when the button asks for nothing on the boards
 */
export function routePress(
  record: RailwayRecord,
  circuitry: Circuitry,
  threads: readonly Thread[],
  matrix: Matrix,
  rowKey: string,
): RoutePress | null {
  const row = matrix.rows.find(({ key }) => key === rowKey);
  const pressed = row ? press(circuitry, threads, matrix, row) : null;
  if (!pressed) return null;
  const coils = pressed.coils
    .filter(({ isWanted, amps }) => isWanted || amps > TRACE_AMPS)
    .map((coil) => coilOf(record, circuitry, pressed, coil));
  const diodes = pressed.parts.filter(({ join }) => join.with === "diode");
  const [first] = matrix.boards;
  const surgeAmps = first ? (fitted(record, first.id).type.figures.surgeAmps?.value ?? Number.POSITIVE_INFINITY) : 0;
  const diodeAmps = Math.max(0, ...diodes.map(({ amps }) => amps));
  const share = ({ coil }: PressedCoil) => {
    const gets = coils.find(({ key }) => key === coil.key);
    return gets ? gets.joules / gets.least : 0;
  };
  const [weakest] = pressed.coils.filter(({ isWanted }) => isWanted).sort((a, b) => share(a) - share(b));
  const pulse = weakest ? pulseIn(circuitry, pressed, weakest) : null;
  const stop = Math.max(SHORTEST_SHOWN, (pulse?.secondsAboveHalf ?? 0) * 4);
  const curve = weakest ? circuitry.pulseCurve(weakest.coil.motorId, weakest.coil.side, pressed.state, stop) : null;
  const amps = weakest && curve?.amps.get(`${weakest.coil.motorId}.${weakest.coil.side}`);
  return {
    ...{ key: rowKey, coils, contactAmps: pressed.contactAmps, diodeAmps, surgeAmps },
    ...{ stored: pulse?.stored ?? 0, volts: curve?.volts[0] ?? 0 },
    curve: (curve?.seconds ?? []).map((second, index) => ({
      ms: second * 1000,
      volts: curve?.volts[index] ?? 0,
      amps: amps?.[index] ?? 0,
    })),
    faults: [
      ...coils.flatMap((coil) => faultOf(coil)),
      ...(diodeAmps > surgeAmps ? [`${diodeAmps.toFixed(1)} A go through one diode; it bears ${surgeAmps} A.`] : []),
    ],
  };
}

/** A picture shows so much at least, seconds. */
const SHORTEST_SHOWN = 0.012;

function coilOf(record: RailwayRecord, circuitry: Circuitry, pressed: Press, coil: PressedCoil): CoilInPress {
  const { type } = fitted(record, coil.coil.motorId);
  const pulse = pulseIn(circuitry, pressed, coil);
  return {
    key: coil.coil.key,
    label: coilWords(record, coil.coil),
    isWanted: coil.isWanted,
    joules: pulse?.joules ?? 0,
    peakAmps: pulse?.peakAmps ?? 0,
    seconds: pulse?.secondsAboveHalf ?? 0,
    least: figureValue(type, "pulseJoules"),
    leastSeconds: figureValue(type, "pulseSeconds"),
  };
}

function faultOf({ label, isWanted, joules, least, seconds, leastSeconds }: CoilInPress): string[] {
  if (isWanted && joules < least) return [`${label} gets ${joules.toFixed(2)} J of the ${least} J that it needs.`];
  if (isWanted && seconds < leastSeconds)
    return [
      `${label} gets its pulse for ${(seconds * 1000).toFixed(1)} ms of the ${(leastSeconds * 1000).toFixed(1)} ms that it needs.`,
    ];
  if (!isWanted && joules > STRAY_SHARE * least) return [`${label} gets ${joules.toFixed(2)} J and is not asked.`];
  return [];
}
