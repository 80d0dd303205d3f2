import { standing } from "../hands/words.ts";
import type { Wire } from "../loom/wire.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread } from "../schematic/thread.ts";
import { amps } from "../units/format.ts";
import { continuousAmps, GAUGES, type Gauge, squareMillimetres } from "../units/gauge.ts";
import { layWires } from "./remedies.ts";
import { type Remedy, rule } from "./rule.ts";

interface Hot {
  wire: Wire;
  amps: number;
  may: number;
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
    "A wire that carries too much for long grows hot, more so in a bundle. The rule looks at the solved current of every wire in every combination of what can be set, and when everything draws at once that can; a pulse of some milliseconds does a wire no harm. Where a supply shuts down there is another finding. Ten amps for each square millimetre is common practice for a single wire; follow local code where it asks for less.",
  look: ({ record, circuitry, threads, hands }) => {
    if (!hands.some(({ kind }) => kind === "wire")) return [];
    const wires = new Map(circuitry.loom.wires.map((wire) => [wire.element, wire]));
    // one finding for each net, at the wire that carries most
    const worst = new Map<string, Hot>();
    for (const { kind, id, amps: flows, limit: may, when } of hands) {
      const wire = kind === "wire" ? wires.get(id) : undefined;
      // what a plug's pin bears less than its wire is another rule's
      if (!wire || may < continuousAmps(wire.gauge) || (worst.get(wire.net)?.amps ?? 0) >= flows) continue;
      const own = threads.filter(({ turnout, followers }) =>
        [turnout, ...followers].some((each) => each.id === wire.turnoutId),
      );
      worst.set(wire.net, { wire, amps: flows, may, threads: own, when: standing(record, when) });
    }
    return [...worst.values()];
  },
  subject: ({ wire }) => wire.id,
  where: ({ wire }) => wire.label,
  terminals: ({ wire }) => [wire.from.name, wire.to.name],
  turnouts: ({ threads }) => threads,
  why: ({ wire, amps: flows, may, when }) =>
    `${wire.label}, ${wire.gauge} from ${wire.from.name} to ${wire.to.name}, carries ${amps(flows)} ${when}; ${amps(may)} is good practice.`,
  remedies: ({ wire, amps: flows }, { record }) => thicker(record, wire.core ? "cableGauge" : "wireGauge", flows),
});

/** The smallest gauge for the railway's wires or cables that carries a current. */
export function thicker(record: RailwayRecord, field: "wireGauge" | "cableGauge", flows: number): Remedy[] {
  const present = squareMillimetres(record.railway[field]);
  const [gauge] = [...GAUGES]
    .filter((each: Gauge) => continuousAmps(each) >= flows && squareMillimetres(each) > present)
    .sort((a, b) => squareMillimetres(a) - squareMillimetres(b));
  return gauge ? [layWires(record, field, gauge)] : [];
}
