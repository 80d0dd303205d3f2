import { typeOf } from "../catalogue/catalogue.ts";
import { gate } from "../catalogue/gate.ts";
import type { EditGroup } from "../record/edits.ts";
import { assignmentsOfDevice, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { AssignmentOf } from "../record/schemas.ts";
import { threadLedBy, threadsOf } from "../schematic/thread.ts";
import { Draft } from "./draft.ts";
import { setAddress } from "./equipment.ts";
import { feed } from "./feed.ts";
import { freeWays } from "./ways.ts";

/** An output of a board. */
interface Output {
  deviceId: string;
  way: number;
}

/**
 * Moves a turnout, with those that move with it, to another output; a turnout that is there comes to the one it leaves. The
 * address goes with the turnout.
 *
 * @param way output of the board; the first free one when null
 * @throws {RecordError} when the board cannot drive its motor, or has no free output
 */
export function moveOutput(record: RailwayRecord, leaderId: string, deviceId: string, way: number | null): EditGroup {
  const thread = threadLedBy(record, leaderId);
  const driver = thread?.motors[0]?.driver;
  const board = deviceOf(record, deviceId);
  const type = typeOf(record, board);
  if (!thread || thread.motors.length === 0) throw recordError("It has no motor yet. Choose a motor first.");
  if (type.outputs === 0) throw recordError(`${board.label} has no numbered outputs to move to.`);
  for (const motor of thread.motors) {
    const { fits, why } = gate({ motor: motor.type, driver: type });
    if (fits === "cannot") throw recordError(`${board.label} cannot drive ${motor.device.label}: ${why}.`);
  }
  const wanted = way ?? freeWays(record, deviceId, type.outputs)[0];
  if (wanted === undefined) throw recordError(`All ${type.outputs} outputs of ${board.label} are in use.`);
  if (wanted < 1 || wanted > type.outputs) throw recordError(`${board.label} has outputs 1 to ${type.outputs}.`);
  const to: Output = { deviceId, way: wanted };
  const from: Output | null = driver && driver.way !== null ? { deviceId: driver.device.id, way: driver.way } : null;
  if (from && from.deviceId === to.deviceId && from.way === to.way)
    throw recordError(`${thread.label} is there already.`);

  const draft = new Draft(record);
  const there = onOutput(record, to);
  const own = thread.motors.flatMap(({ driver: each }) => (each ? [each.assignment] : []));
  if (there.length > 0 && !from)
    throw recordError(`${board.label}-${wanted} is in use, and ${thread.label} has no output to exchange for it.`);
  for (const motor of thread.motors) {
    if (motor.driver) draft.put("assignment", { ...motor.driver.assignment, ...to });
    else draft.assign("driver", { ...to, motorId: motor.device.id });
  }
  if (from) {
    for (const assignment of there.filter(({ id }) => !own.some((each) => each.id === id)))
      draft.put("assignment", { ...assignment, ...from });
    exchangeAddresses(draft, from, to);
  }
  feed(draft, board, type);
  const swapped = there.length > 0 ? ", exchanged" : "";
  return draft.group(`${thread.label} is on ${board.label}-${wanted}${swapped}`);
}

/** The next output up or down on the same board. @throws {RecordError} at the board's ends, or on no numbered output */
export function moveBy(record: RailwayRecord, leaderId: string, step: 1 | -1): EditGroup {
  const driver = threadLedBy(record, leaderId)?.motors[0]?.driver;
  if (!driver || driver.way === null) throw recordError("It is on no numbered output.");
  const way = driver.way + step;
  if (way < 1 || way > driver.type.outputs)
    throw recordError(`${driver.device.label} has outputs 1 to ${driver.type.outputs}.`);
  return moveOutput(record, leaderId, driver.device.id, way);
}

function onOutput(record: RailwayRecord, { deviceId, way }: Output): AssignmentOf<"driver">[] {
  return assignmentsOfDevice(record, deviceId).filter(
    (a): a is AssignmentOf<"driver"> => a.role === "driver" && a.deviceId === deviceId && a.way === way,
  );
}

function exchangeAddresses(draft: Draft, from: Output, to: Output): void {
  const [a, b] = [addressAt(draft.record, from), addressAt(draft.record, to)];
  // a board without addresses takes none over
  if (a === null || b === null) return;
  setAddress(draft, from.deviceId, from.way, b);
  setAddress(draft, to.deviceId, to.way, a);
}

function addressAt(record: RailwayRecord, { deviceId, way }: Output): number | null {
  const stated = assignmentsOfDevice(record, deviceId).find((a) => a.role === "address" && a.way === way);
  if (stated?.role === "address") return stated.address;
  const factory = typeOf(record, deviceOf(record, deviceId)).figures.factoryAddress?.value;
  return factory === undefined ? null : factory + way - 1;
}

/** Labels of the turnouts on each output of a board, in order; null for a free one. */
export function outputsOf(
  record: RailwayRecord,
  deviceId: string,
): { way: number; leaderId: string | null; label: string | null }[] {
  const { outputs } = typeOf(record, deviceOf(record, deviceId));
  const threads = threadsOf(record);
  return Array.from({ length: outputs }, (_, index) => {
    const way = index + 1;
    const thread = threads.find(({ motors }) =>
      motors.some(({ driver }) => driver?.device.id === deviceId && driver.way === way),
    );
    return { way, leaderId: thread?.turnout.id ?? null, label: thread?.label ?? null };
  });
}
