import { typeOf } from "../catalogue/catalogue.ts";
import type { DeviceType, OutputKind } from "../catalogue/deviceType.ts";
import type { RailwayState } from "../readings/states.ts";
import { ALL_MOVING } from "../readings/supplyLoads.ts";
import { AT_REST } from "../readings/threadReading.ts";
import type { Device } from "../record/schemas.ts";
import type { Thread } from "../schematic/thread.ts";
import { amps, count } from "../units/format.ts";
import { type Look, POSITIONS, rule } from "./rule.ts";

interface Total {
  device: Device;
  type: DeviceType;
  threads: Thread[];
  motors: number;
  /** Most that flows at once as solved, and what all would take held against their stops, amps. */
  solved: number;
  stalled: number;
  limit: number;
}

export const boardOverTotal = rule<Total>({
  id: "board-over-total",
  severity: ({ solved, limit }) => (solved > limit ? "stop" : "look"),
  title: "A board gives more in all than it may",
  about:
    "Besides each output's limit a board has one for all of them together: its regulator, its rectifier or its tracks. The rule adds up the solved currents of its outputs at rest and moving; for servos also what they would take if all were held against a stop, which happens when an end point is set too far.",
  look: (look) => look.record.devices.flatMap((device) => totalOf(look, device)),
  subject: ({ device }) => device.id,
  where: ({ device }) => device.label,
  turnouts: ({ threads }) => threads,
  why: ({ device, motors, solved, stalled, limit }) =>
    solved > limit
      ? `${device.label} gives ${amps(solved)} to ${count(motors, "motor")}; all its outputs together may give ${amps(limit)}.`
      : `${count(motors, "motor")} on ${device.label} would take ${amps(stalled)} held against their stops; all its outputs together may give ${amps(limit)}.`,
  remedies: () => [],
  caution: ({ type }) => type,
});

/** Parts of an output through which its current flows, by what it gives. */
const PARTS: Partial<Record<OutputKind, readonly string[]>> = { pair: ["A+", "B+"], servo: ["+"], sink: ["L"] };

function totalOf({ record, threads, circuitry }: Look, device: Device): Total[] {
  const type = typeOf(record, device);
  const limit = type.figures.boardAmps?.value;
  const parts = type.drives && PARTS[type.drives];
  if (limit === undefined || !parts) return [];
  const driven = threads.filter(({ motors }) => motors.some(({ driver }) => driver?.device.id === device.id));
  const motors = driven.flatMap((thread) => thread.motors).filter(({ driver }) => driver?.device.id === device.id);
  const ways = [...new Set(motors.flatMap(({ driver }) => driver?.way ?? []))];
  if (motors.length === 0) return [];
  const given = (state: RailwayState) =>
    ways.reduce(
      (sum, way) => sum + Math.max(...parts.map((part) => Math.abs(circuitry.amps(device.id, `${way}${part}`, state)))),
      0,
    );
  const states = POSITIONS.flatMap((position) => [AT_REST[position], ALL_MOVING[position]]);
  const solved = Math.max(...states.map(given));
  const stalled = motors.reduce((sum, motor) => sum + (motor.type.figures.stalledAmps?.value ?? 0), 0);
  if (Math.max(solved, stalled) <= limit * (1 + 1e-9)) return [];
  return [{ device, type, threads: driven, motors: motors.length, solved, stalled, limit }];
}
