import type { Element } from "../circuit/elements.ts";
import { withoutRows } from "../circuit/series.ts";
import { energy, transient } from "../circuit/transient.ts";

/** What one coil gets when it is thrown. */
export interface Pulse {
  /** Energy in the coil's resistance, joules. */
  joules: number;
  peakAmps: number;
  /** How long the current stays above half of its peak, seconds. */
  secondsAboveHalf: number;
  /** Energy in each wire on the way, joules, by its name in the circuit. */
  wires: Record<string, number>;
  /** What the capacitors that give it hold before it, joules, and how many coils share it. */
  stored: number;
  coils: number;
}

/** Length of a throw that is looked at, seconds: a finger's press (common practice). */
const PRESS_SECONDS = 0.2;

/** Share by which a step may be wrong: far below the parts' own tolerances. */
const ACCURACY = 2e-3;

/** What carries no more than this in the first instant only leaks, and takes no part, amps. */
const LEAKAGE_AMPS = 1e-6;

/**
 * The pulse through one coil in a circuit whose capacitors are charged and whose contacts have just closed. Only what
 * carries current takes part, so that an edit elsewhere leaves the circuit of the pulse as it was.
 * @param elements of the whole piece, capacitors with the charge they begin with
 * @param firstAmps current of each element in the first instant, by its name
 * @param coilId the coil
 * @returns a key that is the same for the same circuit, and the transient to be run when no pulse is known for it
 */
export function pulseThrough(
  elements: readonly Element[],
  firstAmps: (id: string) => number,
  coilId: string,
): { key: string; run: () => Pulse } {
  const conducting = elements.filter(({ id }) => Math.abs(firstAmps(id)) > LEAKAGE_AMPS);
  const key = conducting.map((element) => JSON.stringify(element)).join(";");
  return { key: `${coilId} ${key}`, run: () => run(conducting, coilId) };
}

/** A wire's name tells its two ends. */
function isWire({ id }: Element): boolean {
  return id.includes(">");
}

function run(elements: readonly Element[], coilId: string): Pulse {
  const coil = elements.find(({ id }) => id === coilId);
  const none: Pulse = { joules: 0, peakAmps: 0, secondsAboveHalf: 0, wires: {}, stored: 0, coils: 0 };
  if (coil?.kind !== "coil") return none;
  // wires in a row carry the same current: the chain from motor to motor is one resistor
  const { others, rows } = withoutRows(elements, new Set(coil.nodes));
  const withWires = rows.filter(({ members }) => members.some(isWire));
  const result = transient(
    { ground: coil.nodes[1], elements: [...others, ...rows.map(({ element }) => element)] },
    {
      stop: PRESS_SECONDS,
      begin: "stated",
      watch: { elements: [coilId, ...withWires.map(({ element }) => element.id)] },
      longestStep: PRESS_SECONDS / 25,
      accuracy: ACCURACY,
    },
  );
  const { times } = result;
  const spent = (id: string) => {
    const series = result.elements.get(id);
    return series ? energy(times, series) : 0;
  };
  const amps = result.elements.get(coilId)?.amps.map(Math.abs) ?? [];
  const peakAmps = Math.max(0, ...amps);
  let secondsAboveHalf = 0;
  for (let index = 1; index < times.length; index++) {
    if ((amps[index] ?? 0) >= peakAmps / 2) secondsAboveHalf += (times[index] ?? 0) - (times[index - 1] ?? 0);
  }
  const heat = amps.map((each) => each * coil.ohms);
  const wires: Record<string, number> = {};
  for (const { element, members } of withWires) {
    const joules = spent(element.id);
    for (const each of members) if (isWire(each)) wires[each.id] = joules * (each.ohms / element.ohms);
  }
  const stored = elements.reduce((sum, each) => {
    return each.kind === "capacitor" ? sum + (each.farads * (each.volts ?? 0) ** 2) / 2 : sum;
  }, 0);
  const coils = elements.filter(({ kind }) => kind === "coil").length;
  return { joules: energy(times, { volts: heat, amps }), peakAmps, secondsAboveHalf, wires, stored, coils };
}
