import { typeOf } from "../catalogue/catalogue.ts";
import type { OutputKind } from "../catalogue/deviceType.ts";
import { assignmentsOfDevice } from "../record/find.ts";
import type { Circuitry } from "./circuitry.ts";
import type { RailwayState } from "./states.ts";
import { ALL_MOVING, AT_REST } from "./threadReading.ts";

/** What the outputs of one board give together. */
export interface BoardLoad {
  deviceId: string;
  /** Amps with everything at rest, the greater of all normal and all reverse. */
  rest: number;
  /** Amps while all turnouts move at once. */
  moving: number;
  /** Most that they may give together, amps; null where the type says nothing of it. */
  limit: number | null;
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
    for (const a of assignmentsOfDevice(record, device.id))
      if (a.role === "driver" && a.deviceId === device.id && a.way !== null) ways.add(a.way);
    if (ways.size === 0) return [];
    const given = (state: RailwayState) => {
      const amps = (way: number) => parts.map((part) => Math.abs(circuitry.amps(device.id, `${way}${part}`, state)));
      return [...ways].reduce((sum, way) => sum + Math.max(...amps(way)), 0);
    };
    const most = (states: typeof AT_REST) => Math.max(given(states.N), given(states.R));
    const limit = type.figures.boardAmps?.value ?? null;
    return [{ deviceId: device.id, rest: most(AT_REST), moving: most(ALL_MOVING), limit }];
  });
}
