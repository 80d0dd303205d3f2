import { typeOf } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import type { BoardLoad } from "../readings/boardLoads.ts";
import { deviceOf } from "../record/find.ts";
import type { Device } from "../record/schemas.ts";
import type { Thread } from "../schematic/thread.ts";
import { amps, count } from "../units/format.ts";
import { type Look, rule } from "./rule.ts";

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
  look: (look) => look.boards.flatMap((board) => totalOf(look, board)),
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

function totalOf({ record, threads }: Look, { deviceId, rest, moving, limit }: BoardLoad): Total[] {
  if (limit === null) return [];
  const device = deviceOf(record, deviceId);
  const driven = threads.filter(({ motors }) => motors.some(({ driver }) => driver?.device.id === deviceId));
  const motors = driven.flatMap((thread) => thread.motors).filter(({ driver }) => driver?.device.id === deviceId);
  const solved = Math.max(rest, moving);
  const stalled = motors.reduce((sum, motor) => sum + (motor.type.figures.stalledAmps?.value ?? 0), 0);
  if (Math.max(solved, stalled) <= limit * (1 + 1e-9)) return [];
  const type = typeOf(record, device);
  return [{ device, type, threads: driven, motors: motors.length, solved, stalled, limit }];
}
