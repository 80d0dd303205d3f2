import { typeOf } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Circuitry } from "../readings/circuitry.ts";
import type { RailwayState } from "../readings/states.ts";
import { restAndMoving } from "../readings/threadReading.ts";
import type { Steps } from "../record/steps.ts";
import type { Fitted } from "../schematic/thread.ts";
import { sweepsOf } from "./hands.ts";
import type { Sweep } from "./sweep.ts";
import { standing } from "./words.ts";

/** What one supply is asked to give, whether it bears that or shuts down. Alternating supplies: effective value, reckoned from the peak as for a resistive load. */
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
  /** It takes motors that are held against their stops, which a well set one never is. */
  blocked: boolean;
}

/**
 * Solved loads of all supplies: at rest, while all turnouts move, and when everything draws at once that can, every servo
 * held against its stop and as many controls held as there are fingers. A step for each supply.
 */
export function* supplyLoads(circuitry: Circuitry): Steps<SupplyLoad[]> {
  const { record } = circuitry;
  const sweeps = sweepsOf(circuitry);
  const loads: SupplyLoad[] = [];
  for (const device of record.devices) {
    const type = typeOf(record, device);
    if (type.family !== "supply") continue;
    loads.push(loadOf(circuitry, sweeps, { device, type }));
    yield;
  }
  return loads;
}

function loadOf(circuitry: Circuitry, sweeps: readonly Sweep[], { device, type }: Fitted): SupplyLoad {
  const scale = traitsOf(type).gives === "ac" ? Math.SQRT1_2 : 1;
  const inside = `${device.id}.inside`;
  const given = (state: RailwayState) =>
    Math.abs(circuitry.solve(inside, state)?.prospective.amps(inside) ?? 0) * scale;
  const { rest, moving } = circuitry.remember(`taken from ${device.id}`, () => restAndMoving(given));
  const number = circuitry.piece(inside);
  const most = number === undefined ? undefined : sweeps[number]?.worst;
  const looked = [
    { worst: rest, when: "with everything at rest", blocked: false },
    { worst: moving, when: "while all turnouts move at once", blocked: false },
    ...(most
      ? [
          {
            worst: (most.given.get(device.id) ?? 0) * scale,
            when: standing(circuitry.record, most.when),
            blocked: most.blocked,
          },
        ]
      : []),
  ];
  const worst = looked.reduce((a, b) => (b.worst > a.worst * (1 + 1e-6) ? b : a));
  return { deviceId: device.id, rest, moving, ...worst };
}
