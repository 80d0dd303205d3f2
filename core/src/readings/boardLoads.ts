import { typeOf } from "../catalogue/catalogue.ts";
import type { DeviceType, OutputKind } from "../catalogue/deviceType.ts";
import { assignmentsOfDevice } from "../record/find.ts";
import type { Circuitry } from "./circuitry.ts";
import type { RailwayState } from "./states.ts";
import { restAndMoving } from "./threadReading.ts";

/** What the outputs of one board give together. */
export interface BoardLoad {
  deviceId: string;
  /** Amps with everything at rest, the greater of all normal and all reverse. */
  rest: number;
  /** Amps while all turnouts move at once. */
  moving: number;
  /** Most that they may give together, amps; null where the type says nothing of it. */
  limit: number | null;
  /** Most that its linear regulator bears for long at the volts that are left over; null without one, or where it bears more than the limit. */
  lasting: { amps: number; watts: number; over: number } | null;
}

/**
 * What a board's linear regulator bears for long, where that is less than its outputs may give together.
 * @param fedVolts what its supply is made to give
 */
export function regulatorLimit({ figures }: DeviceType, fedVolts: number): BoardLoad["lasting"] {
  const { boardAmps, regulatorVolts, regulatorWatts } = figures;
  if (!regulatorVolts || !regulatorWatts) return null;
  const over = fedVolts - regulatorVolts.value;
  const amps = over > 0 ? regulatorWatts.value / over : Number.POSITIVE_INFINITY;
  return amps < (boardAmps?.value ?? Number.POSITIVE_INFINITY) ? { amps, watts: regulatorWatts.value, over } : null;
}

/** Parts of an output through which its current flows, by what it gives; coils get a pulse, and contacts lend another's. */
const PARTS: Partial<Record<OutputKind, readonly string[]>> = { pair: ["A+", "B+"], servo: ["+"], sink: ["L"] };

/** Solved loads of all boards whose outputs give a lasting current and are in use, in the order of devices. */
export function boardLoads(circuitry: Circuitry): BoardLoad[] {
  const { record } = circuitry;
  return record.devices.flatMap((device): BoardLoad[] => {
    const type = typeOf(record, device);
    const parts = type.drives && PARTS[type.drives];
    if (!parts) return [];
    const ways = new Set<number>();
    for (const a of assignmentsOfDevice(record, device.id)) {
      if (a.role === "driver" && a.deviceId === device.id && a.way !== null) ways.add(a.way);
      // semaphores and lamps hang on outputs as well
      if (a.role === "lamp" && a.fromId === device.id && a.way !== null)
        for (const way of type.drives === "sink" ? [a.way, a.way + 1] : [a.way]) ways.add(way);
    }
    if (ways.size === 0) return [];
    const given = (state: RailwayState) => {
      const amps = (way: number) => parts.map((part) => Math.abs(circuitry.amps(device.id, `${way}${part}`, state)));
      return [...ways].reduce((sum, way) => sum + Math.max(...amps(way)), 0);
    };
    const gives = circuitry.remember(`given by ${device.id} at ${[...ways].join(" ")}`, () => restAndMoving(given));
    return [
      {
        ...{ deviceId: device.id, ...gives },
        limit: type.figures.boardAmps?.value ?? null,
        lasting: regulatorLimit(type, circuitry.fedVolts(device.id)),
      },
    ];
  });
}
