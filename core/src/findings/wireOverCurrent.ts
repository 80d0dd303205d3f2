import type { OperatingPoint } from "../circuit/solution.ts";
import type { Wire } from "../loom/loom.ts";
import { wireId } from "../readings/pieces.ts";
import { AT_REST } from "../readings/threadReading.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread } from "../schematic/thread.ts";
import { amps } from "../units/format.ts";
import { continuousAmps, GAUGES, type Gauge, squareMillimetres } from "../units/gauge.ts";
import { layWires } from "./remedies.ts";
import { POSITIONS, type Remedy, rule } from "./rule.ts";

interface Hot {
  wire: Wire;
  amps: number;
  may: number;
  threads: Thread[];
}

export const wireOverCurrent = rule<Hot>({
  id: "wire-over-current",
  stage: "loom",
  column: "run",
  severity: "stop",
  title: "A wire carries more than it may",
  about:
    "A wire that carries too much for long grows hot, more so in a bundle. The rule looks at the solved current of every wire with all turnouts at rest, normal and reverse; a pulse of some milliseconds does a wire no harm. Ten amps for each square millimetre is common practice for a single wire; follow local code where it asks for less.",
  look: ({ circuitry, threads }) => {
    // one finding for each net, at the wire that carries most
    const worst = new Map<number, Hot>();
    const points = new Map<number | undefined, OperatingPoint[]>();
    for (const wire of circuitry.loom.wires) {
      const may = continuousAmps(wire.gauge);
      const piece = circuitry.piece(wire.from.node);
      const solved =
        points.get(piece) ?? POSITIONS.flatMap((position) => circuitry.solve(wire.from.node, AT_REST[position]) ?? []);
      points.set(piece, solved);
      const id = wireId(wire);
      const flows = Math.max(0, ...solved.map((point) => Math.abs(point.amps(id) ?? 0)));
      const known = worst.get(wire.net);
      if (flows <= may || (known && known.amps >= flows)) continue;
      const own = threads.filter(({ turnout, followers }) =>
        [turnout, ...followers].some(({ id }) => id === wire.turnoutId),
      );
      worst.set(wire.net, { wire, amps: flows, may, threads: own });
    }
    return [...worst.values()];
  },
  subject: ({ wire }) => `${wire.from.name} ${wire.to.name}`,
  where: ({ wire }) => wire.label,
  terminals: ({ wire }) => [wire.from.name, wire.to.name],
  turnouts: ({ threads }) => threads,
  why: ({ wire, amps: flows, may }) =>
    `${wire.label}, ${wire.gauge} from ${wire.from.name} to ${wire.to.name}, carries ${amps(flows)} for as long as nothing moves; ${amps(may)} is good practice.`,
  remedies: ({ wire, amps: flows }, { record }) =>
    thicker(record, wire.run === "cable" ? "cableGauge" : "wireGauge", flows),
});

/** The smallest gauge for the railway's wires or cables that carries a current. */
export function thicker(record: RailwayRecord, field: "wireGauge" | "cableGauge", flows: number): Remedy[] {
  const present = squareMillimetres(record.railway[field]);
  const [gauge] = [...GAUGES]
    .filter((each: Gauge) => continuousAmps(each) >= flows && squareMillimetres(each) > present)
    .sort((a, b) => squareMillimetres(a) - squareMillimetres(b));
  return gauge ? [layWires(record, field, gauge)] : [];
}
