import type { Element } from "../circuit/elements.ts";
import { energy, transient } from "../circuit/transient.ts";

/** What one coil gets when it is thrown. */
export interface Pulse {
  /** Energy in the coil's resistance, joules. */
  joules: number;
  /** Energy lost in wires, contacts and capacitor on the way, for the whole pulse, joules. */
  lostJoules: number;
  peakAmps: number;
  /** How long the current stays above half of its peak, seconds. */
  secondsAboveHalf: number;
  /** Energy in each wire on the way, joules, by its name in the circuit. */
  wires: Record<string, number>;
}

/** Length of a throw that is looked at, seconds: a finger's press (common practice). */
const PRESS_SECONDS = 0.2;

/**
 * The pulse through one coil in a circuit whose capacitors are charged and whose contacts have just closed. Only what
 * conducts to the coil takes part, so that the same throw elsewhere has the same circuit.
 * @param elements of the whole piece, capacitors with the charge they begin with
 * @param coilId the coil
 * @returns a key that is the same for the same circuit, and the transient to be run when no pulse is known for it
 */
export function pulseThrough(elements: readonly Element[], coilId: string): { key: string; run: () => Pulse } {
  const conducting = conductingTo(elements, coilId);
  const names = new Map<string, number>();
  const numberOf = (name: string) => {
    if (!names.has(name)) names.set(name, names.size);
    return names.get(name);
  };
  const key = conducting
    .map(({ id, nodes, ...values }) => `${id === coilId ? "*" : ""}${nodes.map(numberOf)} ${JSON.stringify(values)}`)
    .join(";");
  return { key: `${coilId} ${key}`, run: () => run(conducting, coilId) };
}

function run(elements: readonly Element[], coilId: string): Pulse {
  const coil = elements.find(({ id }) => id === coilId);
  const none: Pulse = { joules: 0, lostJoules: 0, peakAmps: 0, secondsAboveHalf: 0, wires: {} };
  if (coil?.kind !== "coil") return none;
  const passive = elements.filter(({ kind }) => ["resistor", "switch", "coil"].includes(kind));
  const result = transient(
    { ground: coil.nodes[1], elements },
    { stop: PRESS_SECONDS, begin: "stated", watch: { elements: passive.map(({ id }) => id) } },
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
  for (const { kind, id } of passive) if (kind === "resistor" && id.includes(">")) wires[id] = spent(id);
  const lost = passive.filter(({ kind }) => kind !== "coil").reduce((sum, { id }) => sum + spent(id), 0);
  return { joules: energy(times, { volts: heat, amps }), lostJoules: lost, peakAmps, secondsAboveHalf, wires };
}

/** Elements that hang together with the coil without passing an open contact. */
function conductingTo(elements: readonly Element[], coilId: string): Element[] {
  const closed = elements.filter((element) => element.kind !== "switch" || element.closed);
  const at = new Map<string, Element[]>();
  for (const element of closed) {
    for (const node of element.nodes) {
      const list = at.get(node);
      if (list) list.push(element);
      else at.set(node, [element]);
    }
  }
  const coil = closed.find(({ id }) => id === coilId);
  const taken = new Set<Element>();
  const open: Element[] = coil ? [coil] : [];
  for (let element = open.pop(); element; element = open.pop()) {
    if (taken.has(element)) continue;
    taken.add(element);
    for (const node of element.nodes) open.push(...(at.get(node) ?? []));
  }
  return closed.filter((element) => taken.has(element));
}
