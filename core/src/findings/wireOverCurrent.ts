import { standing } from "../hands/words.ts";
import { bearsOf, loadedTogether } from "../loom/bears.ts";
import type { Wire } from "../loom/wire.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread } from "../schematic/thread.ts";
import { amps } from "../units/format.ts";
import { continuousAmps, GAUGES, type Gauge, MAY_RISE, squareMillimetres, temperatureRise } from "../units/gauge.ts";
import { layWires } from "./remedies.ts";
import { type Remedy, rule } from "./rule.ts";

interface Hot {
  wire: Wire;
  amps: number;
  may: number;
  /** Wires of its bundle that are taken to be loaded alike. */
  together: number;
  threads: Thread[];
  when: string;
}

export const wireOverCurrent = rule<Hot>({
  id: "wire-over-current",
  stage: "loom",
  column: "run",
  severity: "stop",
  title: "A wire carries more than it may",
  about:
    "A wire that carries too much for long grows hot, more so in a bundle. The rule looks at the solved current of every wire in every combination of what can be set, and when everything draws at once that can; a pulse of some milliseconds does a wire no harm. Where a supply shuts down there is another finding. A wire may become 30 K warmer than the air: alone it bears more than as a core among others. Follow local code where it asks for less.",
  look: ({ record, circuitry, threads, hands }) => {
    if (!hands.some(({ kind }) => kind === "wire")) return [];
    const wires = new Map(circuitry.loom.wires.map((wire) => [wire.element, wire]));
    // one finding for each net, at the wire that carries most
    const worst = new Map<string, Hot>();
    for (const { kind, id, amps: flows, limit: may, when } of hands) {
      const wire = kind === "wire" ? wires.get(id) : undefined;
      // what a plug's pin bears less than its wire is another rule's
      if (!wire || may < bearsOf(circuitry.loom, wire) || (worst.get(wire.net)?.amps ?? 0) >= flows) continue;
      const own = threads.filter(({ turnout, followers }) =>
        [turnout, ...followers].some((each) => each.id === wire.turnoutId),
      );
      worst.set(wire.net, {
        wire,
        amps: flows,
        may,
        together: loadedTogether(circuitry.loom, wire),
        threads: own,
        when: standing(record, when),
      });
    }
    return [...worst.values()];
  },
  subject: ({ wire }) => wire.id,
  where: ({ wire }) => wire.label,
  terminals: ({ wire }) => [wire.from.name, wire.to.name],
  turnouts: ({ threads }) => threads,
  why: ({ wire, amps: flows, may, together, when }) =>
    `${wire.label}, ${wire.gauge} from ${wire.from.name} to ${wire.to.name}, carries ${amps(flows)} ${when}; it warms by ${warmth(temperatureRise(wire.gauge, flows, together))}, and ${MAY_RISE} K at ${amps(may)} is good practice${together > 1 ? ` for ${together} cores together` : ""}.`,
  remedies: ({ wire, amps: flows, together }, { record }) =>
    thicker(record, wire.core ? "cableGauge" : "wireGauge", flows, together),
});

/** Words for a rise of temperature. */
function warmth(kelvin: number): string {
  return kelvin < 200 ? `${Math.round(kelvin)} K` : "more than 200 K";
}

/**
 * The smallest gauge for the railway's wires or cables that carries a current.
 * @param together cores of a cable that are loaded alike
 */
export function thicker(
  record: RailwayRecord,
  field: "wireGauge" | "cableGauge",
  flows: number,
  together: number,
): Remedy[] {
  const present = squareMillimetres(record.railway[field]);
  const [gauge] = [...GAUGES]
    .filter((each: Gauge) => continuousAmps(each, together) >= flows && squareMillimetres(each) > present)
    .sort((a, b) => squareMillimetres(a) - squareMillimetres(b));
  return gauge ? [layWires(record, field, gauge)] : [];
}
