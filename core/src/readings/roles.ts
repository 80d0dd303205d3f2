import { typeOf } from "../catalogue/catalogue.ts";
import { type DeviceType, numbered } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { type Told, type ToldOutputs, toldOutputs } from "../events/told.ts";
import { assignmentsOfRole } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Sense, SenseLink } from "../record/notes.ts";
import type { Device } from "../record/schemas.ts";
import { joinsOnBoard } from "../routes/boards.ts";
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
  type ThreadLamp,
  type ThreadMotor,
} from "../schematic/thread.ts";
import { Bonds } from "./bonds.ts";
import type { FedBy } from "./kit.ts";
import { type ZonesInUse, zonesInUse } from "./zones.ts";

/** Forward voltage of a rectifier's junction, volts (common practice). */
const JUNCTION_VOLTS = 0.7;

/** A way of a device that follows a thread, by the identifier of the thread's leader. */
interface Follows {
  way: number;
  leader: string;
  /** The first way of the lamp or relay that follows; what it was taught is told of this one. */
  first: number;
}

/** A thread that a control commands, and the control as this thread has it. */
export interface Commands {
  control: ThreadControl;
  thread: Thread;
}

/** A lamp that a sensor lights, with its thread. */
export interface Watched {
  lamp: ThreadLamp;
  thread: Thread;
}

/** An output: the leaders that it follows, in their order, none when it is free, and whether it commands a board instead. */
export interface OutputRole {
  leaders: string[];
  commands: boolean;
}

/**
 * What each device has to do with the threads: which it belongs to, which of its ways follow which turnout, how it is fed.
 * A device may belong to several. Made once for a railway; states of devices are worked out from it.
 */
export class Roles {
  readonly types: ReadonlyMap<string, DeviceType>;
  /** Threads by their leader. */
  readonly led = new Map<string, Thread>();
  /** Threads that a motor, relay, lamp or unit belongs to, in the owner's order. */
  readonly threadsOf = new Map<string, Thread[]>();
  readonly motorOf = new Map<string, { motor: ThreadMotor; thread: Thread }>();
  /** What each control commands: a toggle, a detector's zones, a decoder's outputs. */
  readonly commandsOf = new Map<string, Commands[]>();
  /** Buttons that have to be held together with others: those of an entry, and those that fire a rotary switch. */
  readonly heldWith = new Map<string, Commands[]>();
  /** The numbered outputs that are part of the circuit, by device and way: those in use, and free ones that have volts. */
  readonly outputsOf = new Map<string, Map<number, OutputRole>>();
  /** Outputs to 0 V that are on at normal, and those that are on at reverse; pins that are low at reverse. */
  readonly onAt = new Map<string, { N: Follows[]; R: Follows[] }>();
  /** Frogs that a polarity unit feeds. */
  readonly frogsOf = new Map<string, ThreadFrog[]>();
  /** The lamp that a sensor at a throw bar lights, by the sensor. */
  readonly watchedBy = new Map<string, Watched>();
  /** Key switches through which controls are fed: they are on while nobody is locked out. */
  readonly keysOn = new Set<string>();
  /** Motor that a relay lies beside, by the relay. */
  readonly besideOf = new Map<string, ThreadMotor>();
  /** Where the controls of a thread are heard, by leader; none for a thread that is commanded otherwise. */
  readonly heardOf = new Map<string, { control: ThreadControl; heard: Heard }[]>();
  /** What outputs of nodes on a control bus are told by events, where that is known. */
  private readonly told: ToldOutputs;
  private readonly wholes = new Map<string, string>();
  private readonly described = new Map<string, string>();
  private readonly fed = new Map<string, { by: FedBy; volts: number; from: string }>();
  /** Zones that watch blocks, by their detector. */
  private readonly zones: ReadonlyMap<string, ZonesInUse>;
  /** Places of each device that turn normal into reverse. */
  private readonly turning = new Map<string, Pick<Sense, "link" | "way">[]>();
  /** What turnouts share and so do together. */
  readonly bonds: Bonds;

  /** @param before those of the railway before an edit; texts are taken over where threads and supplies are the same */
  constructor(
    record: RailwayRecord,
    schematic: Schematic,
    private before?: Roles,
  ) {
    const { threads } = schematic;
    this.zones = zonesInUse(record, schematic);
    this.bonds = new Bonds(threads);
    this.told = toldOutputs(record, threads);
    for (const { link, deviceId, way, inverts } of record.senses) {
      if (inverts) pushTo(this.turning, deviceId, { link, way });
    }
    this.types = new Map(record.devices.map((device) => [device.id, typeAsLaid(record, device)]));
    const pins = this.pinsOf(record);
    for (const thread of threads) {
      this.led.set(thread.turnout.id, thread);
      this.addControls(thread);
      this.addMotors(thread);
      this.addFrogsAndLamps(thread, pins);
    }
    for (const [deviceId, type] of this.types) this.addFree(deviceId, type);
    for (const { deviceId, toDeviceId } of assignmentsOfRole(record, "supply")) {
      const byTrack =
        traitsOf(this.types.get(deviceId)).gives === "track" && this.types.get(toDeviceId)?.hears === "track";
      const volts = this.types.get(deviceId)?.figures.volts?.value ?? 0;
      // a bridge takes two junctions' worth of the track
      this.fed.set(
        toDeviceId,
        byTrack
          ? { by: "track", volts: volts - 2 * JUNCTION_VOLTS, from: deviceId }
          : { by: "own", volts, from: deviceId },
      );
    }
  }

  /** Lets go of the railway before the edit, once nothing is asked of it any more. */
  forgetBefore(): void {
    this.before = undefined;
  }

  fedBy(deviceId: string): FedBy {
    return this.fed.get(deviceId)?.by ?? "none";
  }

  /** The terminal of the other rail of each zone of a detector that watches a block. */
  railsOf(deviceId: string): ReadonlyMap<number, string> {
    return this.zones.get(deviceId)?.rails ?? NO_RAILS;
  }

  /** Zones of a detector behind which lamps hang between the rails. */
  litZones(deviceId: string): readonly number[] {
    return this.zones.get(deviceId)?.lit ?? [];
  }

  /** What an output of a node is told by events; undefined where nothing is known of it, and for other boards. */
  toldAt(deviceId: string, way: number): readonly Told[] | undefined {
    return this.told.get(deviceId)?.get(way);
  }

  /** Devices whose contacts or state follow where a motor goes: itself, relays beside it, what its frog and throw bar move. */
  following(motorId: string): string[] {
    const turnoutId = this.motorOf.get(motorId)?.motor.turnout.id;
    return [
      motorId,
      ...[...this.besideOf].flatMap(([relayId, motor]) => (motor.device.id === motorId ? [relayId] : [])),
      ...[...this.frogsOf].flatMap(([unitId, frogs]) =>
        frogs.some(({ turnout }) => turnout.id === turnoutId) ? [unitId] : [],
      ),
      ...[...this.watchedBy].flatMap(([sensorId, { lamp }]) => (lamp.turnout.id === turnoutId ? [sensorId] : [])),
    ];
  }

  /** Leaders of all threads that have a say in what a device does: it belongs to them, they command it, or its outputs follow them. */
  leadersOf(deviceId: string): Set<string> {
    const on = this.onAt.get(deviceId);
    const watched = this.watchedBy.get(deviceId);
    const told = [...(this.told.get(deviceId)?.values() ?? [])].flat();
    const commands = [...(this.commandsOf.get(deviceId) ?? []), ...(this.heldWith.get(deviceId) ?? [])];
    const threads = [
      ...(this.threadsOf.get(deviceId) ?? []),
      ...commands.map(({ thread }) => thread),
      ...(watched ? [watched.thread] : []),
    ];
    return new Set([
      ...threads.map(({ turnout }) => turnout.id),
      ...[...(this.outputsOf.get(deviceId)?.values() ?? [])].flatMap(({ leaders }) => leaders),
      ...[...(on?.N ?? []), ...(on?.R ?? []), ...told].map(({ leader }) => leader),
    ]);
  }

  /** The supply that feeds a device, if any does. */
  feederOf(deviceId: string): string | undefined {
    return this.fed.get(deviceId)?.from;
  }

  /** What a device's supply is made to give, volts; 0 without one. */
  fedVolts(deviceId: string): number {
    return this.fed.get(deviceId)?.volts ?? 0;
  }

  /** Whether an odd number of a device's places turn normal into reverse. */
  isTurned(deviceId: string, way: number | null, ...links: readonly SenseLink[]): boolean {
    const turning = this.turning.get(deviceId);
    if (!turning) return false;
    return turning.filter((place) => place.way === way && links.includes(place.link)).length % 2 === 1;
  }

  /** All that a device's elements and solutions depend on beyond its type and state, as text. */
  describe(deviceId: string): string {
    const known = this.described.get(deviceId);
    if (known !== undefined) return known;
    const text =
      this.isAlone(deviceId) && this.before?.isAsHere(deviceId, this)
        ? this.before.describe(deviceId)
        : this.makeDescription(deviceId);
    this.described.set(deviceId, text);
    return text;
  }

  /** Whether nothing but threads and a supply says what a device does: no outputs, no pins, no throw bar, no key. */
  private isAlone(deviceId: string): boolean {
    return (
      !this.outputsOf.has(deviceId) &&
      !this.onAt.has(deviceId) &&
      !this.watchedBy.has(deviceId) &&
      !this.keysOn.has(deviceId) &&
      !this.heldWith.has(deviceId) &&
      !this.turning.has(deviceId) &&
      !this.zones.has(deviceId) &&
      !this.besideOf.has(deviceId)
    );
  }

  /** Whether a device that is alone in another railway is so here, in the same threads and fed alike. */
  private isAsHere(deviceId: string, other: Roles): boolean {
    const same = <T>(a: readonly T[] = [], b: readonly T[] = [], of: (each: T) => unknown) =>
      a.length === b.length && a.every((each, index) => of(each) === of(b[index] as T));
    const [fed, its] = [this.fed.get(deviceId), other.fed.get(deviceId)];
    return (
      this.isAlone(deviceId) &&
      same(this.threadsOf.get(deviceId), other.threadsOf.get(deviceId), (thread) => thread) &&
      same(this.commandsOf.get(deviceId), other.commandsOf.get(deviceId), ({ thread }) => thread) &&
      fed?.by === its?.by &&
      fed?.volts === its?.volts
    );
  }

  private makeDescription(deviceId: string): string {
    const outputs = [...(this.outputsOf.get(deviceId) ?? [])].map(([way, { leaders }]) => `${way}=${leaders}`);
    const asks = (this.commandsOf.get(deviceId) ?? []).map(({ control: { assignment }, thread }) => {
      const { way, to, inverse, follows } = assignment;
      return `${thread.turnout.id} ${way} ${to} ${inverse} ${follows}`;
    });
    const held = (this.heldWith.get(deviceId) ?? []).map(
      ({ control, thread }) => `${thread.turnout.id} ${control.assignment.id}`,
    );
    const turning = (this.turning.get(deviceId) ?? []).map(({ link, way }) => `${link} ${way}`);
    const threads = (this.threadsOf.get(deviceId) ?? []).map(({ turnout }) => turnout.id);
    const zones = `${[...this.railsOf(deviceId)].join(" ")} ${this.litZones(deviceId)}`;
    return `${threads} ${outputs.join(" ")} ${this.fedBy(deviceId)} ${this.fedVolts(deviceId)} ${asks} ${held} ${turning} ${zones}`;
  }

  /** All that decides what a device does in a state of the railway, as text. */
  whole(deviceId: string): string {
    const known = this.wholes.get(deviceId);
    if (known !== undefined) return known;
    const isKnown = this.isAlone(deviceId) && this.before?.isAsHere(deviceId, this);
    const text = isKnown && this.before ? this.before.whole(deviceId) : this.makeWhole(deviceId);
    this.wholes.set(deviceId, text);
    return text;
  }

  private makeWhole(deviceId: string): string {
    const commands = this.commandsOf.get(deviceId) ?? [];
    const threads = [...(this.threadsOf.get(deviceId) ?? []), ...commands.map(({ thread }) => thread)];
    const outputs = [...(this.outputsOf.get(deviceId) ?? [])].filter(([, role]) => role.commands);
    return [
      this.describe(deviceId),
      commands.map(({ control, thread }) => controlsOf(thread).indexOf(control)).join(),
      // relays and polarity units follow the motors of their thread
      threads.flatMap(({ motors }) => motors.map(({ device }) => device.id)).join(),
      this.besideOf.get(deviceId)?.device.id ?? "",
      (this.frogsOf.get(deviceId) ?? []).map(({ device, turnout }) => `${device.id} ${turnout.hand}`).join(),
      JSON.stringify(this.onAt.get(deviceId) ?? ""),
      this.watches(deviceId),
      JSON.stringify([...(this.told.get(deviceId) ?? [])]),
      this.keysOn.has(deviceId),
      outputs.map(([way]) => way).join(),
    ].join("|");
  }

  /** What a sensor at a throw bar follows, as text. */
  private watches(deviceId: string): string {
    const watched = this.watchedBy.get(deviceId);
    if (!watched) return "";
    const { lamp, thread } = watched;
    const motors = thread.motors.map(({ device }) => device.id).join();
    return `${thread.turnout.id} ${lamp.turnout.id} ${lamp.assignment.coveredAt} ${motors}`;
  }

  private addControls(thread: Thread): void {
    for (const control of controlsOf(thread)) {
      const { device, type, assignment } = control;
      pushTo(this.commandsOf, device.id, { control, thread });
      if (control.through) pushTo(this.heldWith, control.through.device.id, { control, thread });
      if (control.lock?.type.family === "lock") this.keysOn.add(control.lock.device.id);
      if (type.drives && assignment.way !== null)
        this.follow(device.id, assignment.way, thread.turnout.id).commands = true;
      const heard = heardAt(thread, control);
      if (heard) pushTo(this.heardOf, thread.turnout.id, { control, heard });
    }
  }

  private addMotors(thread: Thread): void {
    for (const motor of thread.motors) {
      pushTo(this.threadsOf, motor.device.id, thread);
      this.motorOf.set(motor.device.id, { motor, thread });
      const { driver } = motor;
      if (driver && driver.way !== null) this.follow(driver.device.id, driver.way, thread.turnout.id);
    }
    for (const { relay, motor } of relaysOf(thread)) {
      pushTo(this.threadsOf, relay.device.id, thread);
      this.besideOf.set(relay.device.id, motor);
    }
  }

  private addFrogsAndLamps(thread: Thread, pins: ReadonlyMap<string, { controllerId: string; first: number }>): void {
    const leader = thread.turnout.id;
    const relayAt = (deviceId: string, way: number | null) => {
      const at = pins.get(deviceId);
      if (at && way !== null) this.turnOn(at.controllerId, "R", { way: at.first + way - 1, leader, first: way });
    };
    for (const frog of thread.frogs) {
      if (!frog.from) continue;
      if (traitsOf(frog.from.type).inTrack === "polarity-unit") {
        pushTo(this.frogsOf, frog.from.device.id, frog);
        pushTo(this.threadsOf, frog.from.device.id, thread);
      }
      relayAt(frog.from.device.id, frog.assignment.way);
    }
    for (const lamp of thread.lamps) {
      pushTo(this.threadsOf, lamp.device.id, thread);
      relayAt(lamp.from.device.id, lamp.assignment.way);
      if (traitsOf(lamp.from.type).inTrack === "spot-sensor") this.watchedBy.set(lamp.from.device.id, { lamp, thread });
      this.addLamp(lamp, leader);
    }
  }

  private addLamp(lamp: ThreadLamp, leader: string): void {
    const { way } = lamp.assignment;
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

  /** Outputs that nothing hangs on stand as their board leaves them, and have their volts all the same; one to 0 V is open. */
  private addFree(deviceId: string, { drives, outputs }: DeviceType): void {
    if (!drives || drives === "sink" || drives === "contact") return;
    const used = this.outputsOf.get(deviceId) ?? new Map<number, OutputRole>();
    const all = numbered(outputs).map((way) => [way, used.get(way) ?? { leaders: [], commands: false }] as const);
    this.outputsOf.set(deviceId, new Map(all));
  }

  private follow(deviceId: string, way: number, leader: string): OutputRole {
    const outputs = this.outputsOf.get(deviceId) ?? new Map<number, OutputRole>();
    this.outputsOf.set(deviceId, outputs);
    const role = outputs.get(way) ?? { leaders: [], commands: false };
    if (!role.leaders.includes(leader)) role.leaders.push(leader);
    outputs.set(way, role);
    return role;
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

function pushTo<T>(lists: Map<string, T[]>, key: string, value: T): void {
  const list = lists.get(key);
  if (!list) lists.set(key, [value]);
  else if (!list.includes(value)) list.push(value);
}

const NO_RAILS: ReadonlyMap<number, string> = new Map();
const laidTypes = new WeakMap<DeviceType, Map<string, DeviceType>>();

/** A device's type, of a diode board with what lies on this one; the same object for the same parts. */
function typeAsLaid(record: RailwayRecord, device: Device): DeviceType {
  const type = typeOf(record, device);
  if (type.drives !== "matrix") return type;
  const joins = joinsOnBoard(record, device.id);
  const laid = joins.map(({ from, to, with: by, turned }) => ({ from, to, with: by, turned }));
  const key = JSON.stringify(laid);
  const known = laidTypes.get(type) ?? new Map<string, DeviceType>();
  laidTypes.set(type, known);
  const own = known.get(key) ?? { ...type, laid };
  known.set(key, own);
  return own;
}
