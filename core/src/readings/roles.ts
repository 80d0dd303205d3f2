import { typeOf } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { assignmentsOfRole } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { SenseLink } from "../record/notes.ts";
import { type Heard, heardAt } from "../schematic/recipes/controlToInputs.ts";
import { relaysOf } from "../schematic/recipes/relayBesideMotor.ts";
import { firstPins } from "../schematic/recipes/supplyToBoard.ts";
import type { Schematic } from "../schematic/schematic.ts";
import {
  controlsOf,
  fitted,
  type Thread,
  type ThreadControl,
  type ThreadFrog,
  type ThreadMotor,
} from "../schematic/thread.ts";
import type { FedBy } from "./kit.ts";

/** Forward voltage of a rectifier's junction, volts (common practice). */
const JUNCTION_VOLTS = 0.7;

/** A way of a device that follows a thread, by the identifier of the thread's leader. */
interface Follows {
  way: number;
  leader: string;
  /** The first way of the lamp or relay that follows; what it was taught is told of this one. */
  first: number;
}

/**
 * What each device has to do with the threads: whose it is, which of its ways follow which turnout, how it is fed. Made
 * once for a railway; states of devices are worked out from it.
 */
export class Roles {
  readonly types: ReadonlyMap<string, DeviceType>;
  /** Threads by their leader. */
  readonly led = new Map<string, Thread>();
  readonly threadOf = new Map<string, Thread>();
  readonly motorOf = new Map<string, ThreadMotor>();
  readonly controlOf = new Map<string, ThreadControl>();
  /** Leader that each numbered output in use follows, by device and way. */
  readonly outputsOf = new Map<string, Map<number, string>>();
  /** Outputs that command a board instead of following one. */
  readonly commanding = new Set<string>();
  /** Outputs to 0 V that are on at normal, and those that are on at reverse; pins that are low at reverse. */
  readonly onAt = new Map<string, { N: Follows[]; R: Follows[] }>();
  /** Zones that ask for a position, each as a control of its own. */
  readonly zonesOf = new Map<string, { control: ThreadControl; thread: Thread }[]>();
  /** Frog and unit, by the unit. */
  readonly frogOf = new Map<string, ThreadFrog>();
  /** Motor that a relay lies beside, by the relay. */
  readonly besideOf = new Map<string, ThreadMotor>();
  /** Where the controls of a thread are heard, by leader; none for a thread that is commanded otherwise. */
  readonly heardOf = new Map<string, { control: ThreadControl; heard: Heard }[]>();
  private readonly wholes = new Map<string, string>();
  private readonly fed = new Map<string, { by: FedBy; volts: number }>();
  /** Places that turn normal into reverse, by device, as `link way`. */
  private readonly turning = new Map<string, Set<string>>();

  constructor(record: RailwayRecord, { threads }: Schematic) {
    for (const { link, deviceId, way, inverts } of record.senses) {
      if (inverts) this.turning.set(deviceId, (this.turning.get(deviceId) ?? new Set()).add(`${link} ${way}`));
    }
    this.types = new Map(record.devices.map((device) => [device.id, typeOf(record, device)]));
    const pins = this.pinsOf(record);
    for (const thread of threads) {
      this.led.set(thread.turnout.id, thread);
      this.addControls(thread);
      this.addMotors(thread);
      this.addFrogsAndLamp(thread, pins);
    }
    for (const { deviceId, toDeviceId } of assignmentsOfRole(record, "supply")) {
      const byTrack =
        traitsOf(this.types.get(deviceId)).gives === "track" && this.types.get(toDeviceId)?.hears === "track";
      const volts = this.types.get(deviceId)?.figures.volts?.value ?? 0;
      // a bridge takes two junctions' worth of the track
      this.fed.set(toDeviceId, byTrack ? { by: "track", volts: volts - 2 * JUNCTION_VOLTS } : { by: "own", volts });
    }
  }

  fedBy(deviceId: string): FedBy {
    return this.fed.get(deviceId)?.by ?? "none";
  }

  /** What a device's supply is made to give, volts; 0 without one. */
  fedVolts(deviceId: string): number {
    return this.fed.get(deviceId)?.volts ?? 0;
  }

  /** Whether an odd number of a device's places turn normal into reverse. */
  isTurned(deviceId: string, way: number | null, ...links: readonly SenseLink[]): boolean {
    const turning = this.turning.get(deviceId);
    if (!turning) return false;
    return links.filter((link) => turning.has(`${link} ${way}`)).length % 2 === 1;
  }

  /** All that a device's elements and solutions depend on beyond its type and state, as text. */
  describe(deviceId: string): string {
    const outputs = [...(this.outputsOf.get(deviceId) ?? [])].map(([way, leader]) => `${way}=${leader}`);
    const control = this.controlOf.get(deviceId)?.assignment;
    const asks = control ? `${control.to}${control.inverse}` : "";
    const turning = [...(this.turning.get(deviceId) ?? [])].join();
    return `${this.threadOf.get(deviceId)?.turnout.id ?? ""} ${outputs.join(" ")} ${this.fedBy(deviceId)} ${this.fedVolts(deviceId)} ${asks} ${turning}`;
  }

  /** All that decides what a device does in a state of the railway, as text. */
  whole(deviceId: string): string {
    const known = this.wholes.get(deviceId);
    if (known !== undefined) return known;
    const text = this.makeWhole(deviceId);
    this.wholes.set(deviceId, text);
    return text;
  }

  private makeWhole(deviceId: string): string {
    const control = this.controlOf.get(deviceId);
    const thread = this.threadOf.get(deviceId);
    const zones = this.zonesOf.get(deviceId)?.map((zone) => `${zone.control.assignment.way} ${zone.thread.turnout.id}`);
    const commands = [...(this.outputsOf.get(deviceId)?.keys() ?? [])].filter((way) =>
      this.commanding.has(`${deviceId} ${way}`),
    );
    return [
      this.describe(deviceId),
      control && thread ? controlsOf(thread).indexOf(control) : "",
      // relays and polarity units follow the motors of their thread
      thread?.motors.map(({ device }) => device.id).join() ?? "",
      this.besideOf.get(deviceId)?.device.id ?? "",
      this.frogOf.get(deviceId)?.device.id ?? "",
      JSON.stringify(this.onAt.get(deviceId) ?? ""),
      zones?.join() ?? "",
      commands.join(),
    ].join("|");
  }

  private addControls(thread: Thread): void {
    for (const control of controlsOf(thread)) {
      const { device, type, assignment } = control;
      this.threadOf.set(device.id, thread);
      this.controlOf.set(device.id, control);
      if (type.zones) this.zonesOf.set(device.id, [...(this.zonesOf.get(device.id) ?? []), { control, thread }]);
      if (type.drives && assignment.way !== null) {
        this.follow(device.id, assignment.way, thread.turnout.id);
        this.commanding.add(`${device.id} ${assignment.way}`);
      }
      const heard = heardAt(thread, control);
      const known = this.heardOf.get(thread.turnout.id) ?? [];
      if (heard) this.heardOf.set(thread.turnout.id, [...known, { control, heard }]);
    }
  }

  private addMotors(thread: Thread): void {
    for (const motor of thread.motors) {
      this.threadOf.set(motor.device.id, thread);
      this.motorOf.set(motor.device.id, motor);
      const { driver } = motor;
      if (driver && driver.way !== null) this.follow(driver.device.id, driver.way, thread.turnout.id);
    }
    for (const { relay, motor } of relaysOf(thread)) {
      this.threadOf.set(relay.device.id, thread);
      this.besideOf.set(relay.device.id, motor);
    }
  }

  private addFrogsAndLamp(thread: Thread, pins: ReadonlyMap<string, { controllerId: string; first: number }>): void {
    const leader = thread.turnout.id;
    const relayAt = (deviceId: string, way: number | null) => {
      const at = pins.get(deviceId);
      if (at && way !== null) this.turnOn(at.controllerId, "R", { way: at.first + way - 1, leader, first: way });
    };
    for (const frog of thread.frogs) {
      if (!frog.from) continue;
      if (traitsOf(frog.from.type).inTrack === "polarity-unit") {
        this.frogOf.set(frog.from.device.id, frog);
        this.threadOf.set(frog.from.device.id, thread);
      }
      relayAt(frog.from.device.id, frog.assignment.way);
    }
    const { lamp } = thread;
    if (!lamp) return;
    const { way } = lamp.assignment;
    this.threadOf.set(lamp.device.id, thread);
    relayAt(lamp.from.device.id, way);
    if (way === null) return;
    if (lamp.from.type.drives === "sink") {
      this.follow(lamp.from.device.id, way, leader);
      this.follow(lamp.from.device.id, way + 1, leader);
      this.turnOn(lamp.from.device.id, "N", { way, leader, first: way });
      this.turnOn(lamp.from.device.id, "R", { way: way + 1, leader, first: way });
    } else if (lamp.from.type.drives === "pair" || lamp.from.type.drives === "servo") {
      this.follow(lamp.from.device.id, way, leader);
    }
  }

  private follow(deviceId: string, way: number, leader: string): void {
    const outputs = this.outputsOf.get(deviceId) ?? new Map<number, string>();
    if (!outputs.has(way)) outputs.set(way, leader);
    this.outputsOf.set(deviceId, outputs);
  }

  private turnOn(deviceId: string, position: "N" | "R", follows: Follows): void {
    const on = this.onAt.get(deviceId) ?? { N: [], R: [] };
    on[position].push(follows);
    this.onAt.set(deviceId, on);
  }

  /** Controller of each relay board, and its pin for the board's first relay. */
  private pinsOf(record: RailwayRecord): Map<string, { controllerId: string; first: number }> {
    const commands = assignmentsOfRole(record, "commands");
    if (commands.length === 0) return new Map();
    const first = firstPins(record, (id) => fitted(record, id));
    return new Map(
      commands.flatMap(({ deviceId, toDeviceId }) =>
        traitsOf(this.types.get(deviceId)).gives === "pins"
          ? [[toDeviceId, { controllerId: deviceId, first: first.get(toDeviceId) ?? 1 }] as const]
          : [],
      ),
    );
  }
}
