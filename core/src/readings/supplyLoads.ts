import { typeOf } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Position } from "../record/schemas.ts";
import type { Thread } from "../schematic/thread.ts";
import type { Circuitry } from "./circuitry.ts";
import { EVERY, type RailwayState } from "./states.ts";
import { AT_REST, stateFor } from "./threadReading.ts";

/** What one supply gives. Alternating supplies: effective value, reckoned from the peak as for a resistive load. */
export interface SupplyLoad {
  deviceId: string;
  /** Amps with everything at rest, the greater of all normal and all reverse. */
  rest: number;
  /** Amps while all turnouts move at once, as at the start of a day: servos take more then, stall motors less. */
  moving: number;
  /** The greatest of all moments looked at, amps. */
  worst: number;
  /** When that is, as part of a sentence. */
  when: string;
}

const moved = (otherwise: Position): RailwayState => {
  return { asked: {}, otherwise, moment: "throwing", acting: EVERY, off: false };
};
/** All turnouts on their way at once, to normal or to reverse. */
export const ALL_MOVING: Record<Position, RailwayState> = { N: moved("N"), R: moved("R") };

/** Solved loads of all supplies at rest, while all move, and at the worst moment of one turnout being thrown and held. */
export function supplyLoads(circuitry: Circuitry, threads: readonly Thread[]): SupplyLoad[] {
  const leading = oneForEachDriver(threads);
  return circuitry.record.devices.flatMap((device): SupplyLoad[] => {
    const type = typeOf(circuitry.record, device);
    if (type.family !== "supply") return [];
    const scale = traitsOf(type).gives === "ac" ? Math.SQRT1_2 : 1;
    const given = (state: RailwayState) => Math.abs(circuitry.amps(device.id, "inside", state)) * scale;
    const rest = Math.max(given(AT_REST.N), given(AT_REST.R));
    const moving = Math.max(given(ALL_MOVING.N), given(ALL_MOVING.R));
    const load: SupplyLoad = { deviceId: device.id, rest, moving, worst: rest, when: "with everything at rest" };
    if (moving > rest) Object.assign(load, { worst: moving, when: "while all turnouts move at once" });
    for (const thread of leading.filter((each) => isFedBy(circuitry, each, device.id))) {
      for (const position of ["N", "R"] as const) {
        const held = given(stateFor(thread, position, "held"));
        if (held > load.worst)
          Object.assign(load, { worst: held, when: `while ${thread.control?.device.label} is held at ${position}` });
      }
    }
    return [load];
  });
}

/** Of the threads with a control, the first on each driver: held long, they all draw what the driver lets through. */
function oneForEachDriver(threads: readonly Thread[]): Thread[] {
  const drivers = new Set<string>();
  return threads.filter(({ control, motors }) => {
    const driver = motors[0]?.driver?.device.id;
    if (!control || !driver || drivers.has(driver)) return false;
    drivers.add(driver);
    return true;
  });
}

/** Whether a thread's driver lies in the same piece of circuit as a supply. */
function isFedBy(circuitry: Circuitry, thread: Thread, supplyId: string): boolean {
  const driver = thread.motors[0]?.driver;
  if (!driver || driver.type.outputs > 0) return false;
  const piece = circuitry.piece(`${supplyId}.emf`);
  return piece !== undefined && piece === circuitry.piece(`${thread.control?.device.id}:C`);
}
