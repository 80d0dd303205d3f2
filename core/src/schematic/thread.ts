import { typeOf } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { assignmentsOfDevice, assignmentsOfTurnout, deviceOf, find, turnoutsInOrder } from "../record/find.ts";
import type { AssignmentOf, Device, RailwayRecord, Turnout } from "../record/schemas.ts";

/** A device together with its type. */
export interface Fitted {
  device: Device;
  type: DeviceType;
}

export interface ThreadMotor extends Fitted {
  turnout: Turnout;
  assignment: AssignmentOf<"motor">;
  driver: (Fitted & { way: number | null; assignment: AssignmentOf<"driver"> }) | null;
}

/** All that stands between the finger and the lamp of one turnout, or of two that move together. */
export interface Thread {
  /** The turnout, or the leading one of a crossover. */
  turnout: Turnout;
  followers: Turnout[];
  /** Label of the turnout or of the pair, as "M1/M2". */
  label: string;
  /** Motors of the leader and its followers, in that order; a turnout without a motor has none here. */
  motors: ThreadMotor[];
  control: Fitted | null;
  lamp: (Fitted & { assignment: AssignmentOf<"lamp"> }) | null;
}

/** The threads of a railway in the owner's order, one for each turnout that follows no other. */
export function threadsOf(record: RailwayRecord): Thread[] {
  const followers = new Map<string, Turnout[]>();
  const leaders: Turnout[] = [];
  for (const turnout of turnoutsInOrder(record)) {
    if (!turnout.movesWith) leaders.push(turnout);
    else followers.set(turnout.movesWith, [...(followers.get(turnout.movesWith) ?? []), turnout]);
  }
  return leaders.map((turnout) => threadFor(record, turnout, followers.get(turnout.id) ?? []));
}

/** The thread that a turnout leads, or undefined when it follows another or does not exist. */
export function threadLedBy(record: RailwayRecord, turnoutId: string): Thread | undefined {
  const turnout = find(record, "turnout", turnoutId);
  if (!turnout || turnout.movesWith) return undefined;
  const followers = record.turnouts.filter((each) => each.movesWith === turnoutId);
  return threadFor(
    record,
    turnout,
    followers.sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1)),
  );
}

/** The supply that feeds a device, or null. */
export function supplyOf(record: RailwayRecord, deviceId: string): Fitted | null {
  for (const assignment of assignmentsOfDevice(record, deviceId)) {
    if (assignment.role === "supply" && assignment.toDeviceId === deviceId) return fitted(record, assignment.deviceId);
  }
  return null;
}

function threadFor(record: RailwayRecord, turnout: Turnout, followers: Turnout[]): Thread {
  const motors = [turnout, ...followers].flatMap((each) =>
    assignmentsOfTurnout(record, each.id, "motor").map((assignment): ThreadMotor => {
      return {
        ...fitted(record, assignment.deviceId),
        turnout: each,
        assignment,
        driver: driverOf(record, assignment.deviceId),
      };
    }),
  );
  const [control] = assignmentsOfTurnout(record, turnout.id, "control");
  const [lamp] = assignmentsOfTurnout(record, turnout.id, "lamp");
  return {
    turnout,
    followers,
    label: [turnout, ...followers].map((each) => each.label).join("/"),
    motors,
    control: control ? fitted(record, control.deviceId) : null,
    lamp: lamp ? { ...fitted(record, lamp.deviceId), assignment: lamp } : null,
  };
}

function driverOf(record: RailwayRecord, motorId: string): ThreadMotor["driver"] {
  for (const assignment of assignmentsOfDevice(record, motorId)) {
    if (assignment.role === "driver" && assignment.motorId === motorId) {
      return { ...fitted(record, assignment.deviceId), way: assignment.way, assignment };
    }
  }
  return null;
}

function fitted(record: RailwayRecord, deviceId: string): Fitted {
  const device = deviceOf(record, deviceId);
  return { device, type: typeOf(record, device) };
}

/** Label of the turnout that a device belongs to, for sentences; the device's own label when to none. */
export function turnoutLabel(record: RailwayRecord, turnoutId: string): string {
  return find(record, "turnout", turnoutId)?.label ?? turnoutId;
}
