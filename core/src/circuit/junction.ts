/** Conductance across each diode, siemens: keeps a blocked one from cutting its nodes off. */
export const GMIN = 1e-12;

/** Multiples of n kT/q below zero from which a blocked diode's current is told by the cubic tail. */
const TAIL_FROM = -3;

/** Current of a curved element and its slope, amps and siemens. */
export interface Slope {
  amps: number;
  siemens: number;
}

/**
 * Current and slope of a diode's junction at a voltage: the Shockley equation, and far below zero the cubic tail by which
 * general-purpose circuit simulators replace its exponential (ngspice manual, "Diode model"). The two differ by less than a
 * hundredth of the saturation current; with the tail the same netlist gives the same volts where only leakage holds a node.
 * @param is saturation current, amps
 * @param scale n kT/q, volts
 * @param gmin conductance beside the junction, siemens
 */
export function junctionSlope(is: number, scale: number, junction: number, gmin: number, slope: Slope): void {
  if (junction === 0) {
    slope.amps = 0;
    slope.siemens = is / scale + gmin;
  } else if (junction >= TAIL_FROM * scale) {
    const exponential = is * Math.exp(junction / scale);
    slope.amps = exponential - is + gmin * junction;
    slope.siemens = exponential / scale + gmin;
  } else {
    const root = (-TAIL_FROM * scale) / (junction * Math.E);
    const cube = root * root * root;
    slope.amps = -is * (1 + cube) + gmin * junction;
    slope.siemens = (3 * is * cube) / junction + gmin;
  }
}

/**
 * A junction voltage on the way from the old to the wanted one at which the exponential stays tame.
 *
 * Source: Nagel, "SPICE2: a computer program to simulate semiconductor circuits", 1975. A junction that begins to conduct is
 * put where it would carry what its surroundings can give, or at the critical voltage used there where they rest as yet; one
 * that conducts is put where it would carry what its line carries at the wanted voltage, however small the step. One that
 * ceases to conduct is put there at once, and does not walk down by one n kT/q a step.
 * @param mostAmps what the surroundings can give into no volts at all
 * @param critical volts, as `criticalVolts` gives them
 */
export function limitJunction(
  is: number,
  scale: number,
  wanted: number,
  old: number,
  mostAmps: number,
  critical = criticalVolts(is, scale),
): number {
  // so small a step needs no holding back, and Newton's own is the best
  if (wanted < 0 || Math.abs(wanted - old) < SMALL_STEP * scale) return wanted;
  if (wanted < old) return carrying(is, scale, wanted, old);
  if (wanted <= critical) return wanted;
  if (old <= 0) return Math.min(wanted, mostAmps > BESIDE_RESTING * is ? given(is, scale, wanted, mostAmps) : critical);
  const step = 1 + (wanted - old) / scale;
  return step > 0 ? old + scale * Math.log(step) : critical;
}

/** Multiples of n kT/q that a junction may go at once. */
const SMALL_STEP = 0.1;

/** Voltage up to which a junction's exponential is tame, volts: there its curve turns most. */
export function criticalVolts(is: number, scale: number): number {
  return scale * Math.log(scale / (Math.SQRT2 * is));
}

/** Multiples of the saturation current up to which what can be given is what other junctions let pass that rest as yet. */
const BESIDE_RESTING = 1000;

/**
 * Voltage of a junction that is fed from some volts through what would give so many amps into none: first as if all of them
 * flowed, then with those that the volts which this takes leave.
 */
function given(is: number, scale: number, volts: number, amps: number): number {
  const most = scale * Math.log1p(amps / is);
  return most < volts ? scale * Math.log1p((amps * (1 - most / volts)) / is) : most;
}

/** Voltage at which a junction carries what its line, which touches at the old voltage, carries at the wanted one. */
function carrying(is: number, scale: number, wanted: number, old: number): number {
  const amps = is * (Math.exp(old / scale) * (1 + (wanted - old) / scale) - 1);
  return amps > 0 ? scale * Math.log1p(amps / is) : 0;
}

/** Conductance of a limiter beyond its limit, siemens: not zero, so that no node hangs on it alone. */
const BEYOND_SIEMENS = 1e-9;

/** Current and slope of a limiter at a voltage: a resistor up to its limit, nearly steady beyond. */
export function limiterSlope(ohms: number, limitAmps: number, volts: number, slope: Slope): void {
  const beyond = Math.abs(volts) - ohms * limitAmps;
  slope.siemens = beyond <= 0 ? 1 / ohms : BEYOND_SIEMENS;
  slope.amps = beyond <= 0 ? volts / ohms : Math.sign(volts) * (limitAmps + beyond * BEYOND_SIEMENS);
}
