import { figureValue, genericType } from "../catalogue/catalogue.ts";
import type { Circuitry } from "../readings/circuitry.ts";
import { type Press, press } from "../readings/presses.ts";
import { NO_PULSE, voltsShareFor } from "../readings/pulse.ts";
import { SAFE_VOLTS, secondsToRecover, secondsToRecoverHeld, secondsToSafe } from "../readings/recharge.ts";
import { AT_REST } from "../readings/threadReading.ts";
import { deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { matricesOf } from "../routes/boards.ts";
import { type Fitted, fitted, supplyOf, type Thread } from "../schematic/thread.ts";

/** A capacitor, or several together, for a discharge unit. */
export interface CapacitorChoice {
  /** How it is made up, as "2 x 4700 µF side by side". */
  made: string;
  farads: number;
  joules: number;
  /** What the weakest coil of the worst route gets, as it is and with a capacitor at the low end of its tolerance. */
  weakest: number;
  weakestLow: number;
  /** Seconds after a press until the worst route is firm again, and so how many a minute; none where it never is. */
  waits: number | null;
  perMinute: number | null;
  /** The same when a transistor holds the first current until it is full. */
  waitsHeld: number | null;
  /** Supply amps that charging takes in the first instant. */
  chargeAmps: number;
  /** Seconds until it is safe to touch with the supply off, by what bleeds it now. */
  safeAfter: number;
  /** Resistor across it that makes it safe within half a minute, ohms, and the watts that it takes for ever. */
  bleedOhms: number;
  bleedWatts: number;
  price: number;
  isPresent: boolean;
  isEnough: boolean;
}

/** A discharge unit for the routes that it feeds: capacitors to choose from, for the worst route and its longest wire. */
export interface UnitDesign {
  unit: Fitted;
  /** The route that needs most, by its row, and its weakest coil. */
  worst: { rowKey: string; motorId: string; label: string; least: number };
  /** Charged to, volts, and what the capacitor is made for; at the high end of what its supply may give. */
  volts: number;
  mostVolts: number;
  highVolts: number;
  chargeOhms: number;
  supplyAmps: number;
  choices: CapacitorChoice[];
  /** A unit at each motor in place of one for all. */
  each: { motors: number; price: number; joules: number };
  /** Rough price of the unit as it is. */
  price: number;
}

/** Usual capacitors, microfarads, with a rough price of one of 35 V (from memory). */
const USUAL: readonly [microfarads: number, price: number][] = [
  [2200, 1.5],
  [3300, 2],
  [4700, 2.5],
  [6800, 3.5],
  [10_000, 5],
  [15_000, 7],
  [22_000, 9],
];

/** Electrolytic capacitors have from a fifth less than is printed on them (common practice). */
const LOW = 0.8;
/** Time in which a discharge unit should be safe to touch, seconds (common practice). */
export const SAFE_WITHIN = 30;

/** The design of each discharge unit that feeds diode boards. */
export function unitDesigns(record: RailwayRecord, circuitry: Circuitry, threads: readonly Thread[]): UnitDesign[] {
  const matrices = matricesOf(record);
  const units = new Set(matrices.flatMap(({ unitIds }) => unitIds));
  return [...units].flatMap((id): UnitDesign[] => {
    const unit = fitted(record, id);
    if (!unit.type.figures.farads) return [];
    const presses = matrices
      .filter(({ unitIds }) => unitIds.includes(id))
      .flatMap((matrix) => matrix.rows.flatMap((row) => press(circuitry, threads, matrix, row) ?? []));
    const design = designOf(record, circuitry, unit, presses);
    return design ? [design] : [];
  });
}

function designOf(
  record: RailwayRecord,
  circuitry: Circuitry,
  unit: Fitted,
  presses: readonly Press[],
): UnitDesign | null {
  const { type, device } = unit;
  const leastOf = (motorId: string) => figureValue(fitted(record, motorId).type, "pulseJoules");
  const wanted = presses.flatMap((pressed) =>
    pressed.coils
      .filter(({ isWanted }) => isWanted)
      .map(({ coil }) => {
        const pulse = circuitry.pulse(coil.motorId, coil.side, pressed.state);
        return { pressed, coil, share: (pulse?.joules ?? 0) / leastOf(coil.motorId) };
      }),
  );
  const [worst] = wanted.sort((a, b) => a.share - b.share);
  if (!worst) return null;
  const { pressed, coil } = worst;
  const least = leastOf(coil.motorId);
  const volts = circuitry.volts(`${device.id}:+`, `${device.id}:−`, AT_REST.N) ?? 0;
  const present = figureValue(type, "farads");
  const [chargeOhms, bleedOhms] = [figureValue(type, "chargeOhms"), figureValue(type, "bleedOhms")];
  const supply = supplyOf(record, device.id);
  const choiceOf = (farads: number, made: string, price: number): CapacitorChoice => {
    const pulseOf = (value: number) =>
      circuitry.pulsesWith(coil.motorId, coil.side, pressed.state, value).get(`${coil.motorId}.${coil.side}`) ??
      NO_PULSE;
    const full = pulseOf(farads);
    const [weakest, weakestLow] = [full.joules, pulseOf(farads * LOW).joules];
    const own = {
      ...type,
      figures: { ...type.figures, farads: { ...type.figures.farads, value: farads } },
    } as Fitted["type"];
    const share = voltsShareFor(full, least);
    const waits = share === null || share >= 1 ? null : secondsToRecover(own, share);
    const waitsHeld = share === null || share >= 1 ? null : secondsToRecoverHeld(own, share);
    const bleed = SAFE_WITHIN / (farads * Math.log(Math.max(volts, SAFE_VOLTS * 1.01) / SAFE_VOLTS));
    return {
      ...{ made, farads, joules: (farads * volts ** 2) / 2, weakest, weakestLow, waits, waitsHeld },
      perMinute: waits === null ? null : Math.floor(60 / Math.max(waits, PRESS_SECONDS)),
      chargeAmps: volts / chargeOhms,
      safeAfter: secondsToSafe(farads, bleedOhms, volts),
      ...{ bleedOhms: bleed, bleedWatts: volts ** 2 / bleed, price },
      isPresent: Math.abs(farads / present - 1) < 0.01,
      isEnough: weakestLow >= least,
    };
  };
  const single = USUAL.map(([value, price]) => choiceOf(value * 1e-6, `${value} µF`, price));
  const double = USUAL.filter(([value]) => value >= 4700 && value <= 10_000).map(([value, price]) =>
    choiceOf(2 * value * 1e-6, `2 x ${value} µF side by side`, 2 * price),
  );
  // two in a row bear twice the volts, and hold half as much
  const series = USUAL.filter(([value]) => value >= 10_000).map(([value, price]) =>
    choiceOf((value * 1e-6) / 2, `2 x ${value} µF in a row`, 2 * price),
  );
  const motors = new Set(presses.flatMap((each) => each.coils.map((one) => one.coil.motorId))).size;
  const small = genericType("cdu-motor");
  const smallFarads = small ? figureValue(small, "farads") : 0;
  return {
    unit,
    worst: { rowKey: pressed.row.key, motorId: coil.motorId, label: deviceOf(record, coil.motorId).label, least },
    ...{
      volts,
      mostVolts: figureValue(type, "mostVolts"),
      highVolts: volts * (1 + (supply?.type.figures.volts?.tolerance ?? 0)),
      chargeOhms,
    },
    supplyAmps: supply?.type.figures.ratedAmps?.value ?? 0,
    choices: [...single, ...double, ...series].sort((a, b) => a.farads - b.farads || a.price - b.price),
    each: {
      motors,
      price: motors * (small?.figures.price?.value ?? 0),
      joules: (smallFarads * volts ** 2) / 2,
    },
    price: type.figures.price?.value ?? 0,
  };
}

/** A press and letting go takes so long at least, seconds (common practice). */
const PRESS_SECONDS = 0.5;
