import { blockOf, typeOf } from "../catalogue/catalogue.ts";
import type { Draft } from "../equip/draft.ts";
import { driverOfTurnout, setAddress } from "../equip/equipment.ts";
import { addressRange } from "../numbers/accessoryAddress.ts";
import { ByWay } from "../record/byWay.ts";
import { assignmentsOfDevice, assignmentsOfTurnout, deviceOf, find, turnoutOf } from "../record/find.ts";
import { recordError } from "../record/problems.ts";
import type { AssignmentOf } from "../record/schemas.ts";
import type { Addressing } from "./wants.ts";

/** Addresses of one zone, when each has its own hundred. */
const ZONE_ADDRESSES = 100;

/** Gives out accessory addresses, each once, by the owner's way of numbering. */
export class Addresses {
  private readonly taken = new Set<number>();

  constructor(
    private readonly draft: Draft,
    private readonly how: Addressing,
  ) {}

  /**
   * Gives an address to every output of new boards, and to the outputs of boards that were there which turnouts now use.
   * @throws {RecordError} when the addresses run out
   */
  give(turnoutIds: readonly string[], newBoards: readonly string[]): void {
    if (this.how === "factory") return;
    const { record } = this.draft;
    const fresh = new Set(newBoards);
    const wanted = turnoutIds.flatMap((id) => this.outputsOf(id));
    // in runs, each board's outputs follow one another whatever is on them
    const own = new ByWay<string>();
    if (this.how !== "runs") for (const { deviceId, way, turnoutId } of wanted) own.at(deviceId, way, () => turnoutId);
    for (const device of record.devices) {
      if (fresh.has(device.id)) continue;
      const first = typeOf(record, device).figures.factoryAddress?.value;
      if (first === undefined) continue;
      const outputs = Math.max(1, typeOf(record, device).outputs);
      for (let way = 1; way <= outputs; way++) this.taken.add(this.statedAt(device.id, way) ?? first + way - 1);
    }
    const done = new ByWay<true>();
    for (const { deviceId, way } of wanted) {
      const turnoutId = own.get(deviceId, way);
      if (turnoutId !== undefined && fresh.has(deviceId) && !done.has(deviceId, way))
        this.set(deviceId, way, this.from(turnoutId), done);
    }
    // free outputs must not answer to a number that another has
    for (const deviceId of newBoards) {
      const type = typeOf(record, deviceOf(record, deviceId));
      if (!type.figures.factoryAddress) continue;
      for (let way = 1; way <= type.outputs; way++)
        if (!own.has(deviceId, way) && !done.has(deviceId, way)) this.set(deviceId, way, this.next(), done);
    }
  }

  /** Gives an output the first numbers that are free for it and for those that get theirs with it. */
  private set(deviceId: string, way: number, from: number, done: ByWay<true>): void {
    const { record } = this.draft;
    const { first, last } = addressRange(record.railway.addressShift);
    const block = blockOf(typeOf(record, deviceOf(record, deviceId)), way);
    const before = way - (block[0] ?? way);
    let address = Math.max(first + before, from);
    while (block.some((each) => this.taken.has(address + each - way))) address++;
    if (address - way + (block.at(-1) ?? way) > last) {
      const { label } = deviceOf(this.draft.record, deviceId);
      throw recordError(
        `No address is left for ${label}-${way}: numbers from ${from} to ${last} are in use. Choose another way of numbering.`,
      );
    }
    for (const each of block) {
      this.taken.add(address + each - way);
      done.set(deviceId, each, true);
    }
    setAddress(this.draft, deviceId, way, address);
  }

  /** On from the highest address in use. */
  private next(): number {
    return Math.max(0, ...this.taken) + 1;
  }

  /** Where the search for a turnout's address begins. */
  private from(turnoutId: string): number {
    const { record } = this.draft;
    const turnout = turnoutOf(record, turnoutId);
    if (this.how === "numbers") return Number(/\d+/.exec(turnout.label)?.[0] ?? this.next());
    const zones = [...record.zones].sort((a, b) => a.order - b.order);
    const zone = zones.findIndex(({ id }) => id === turnout.zoneId);
    return zone < 0 ? this.next() : (zone + 1) * ZONE_ADDRESSES + 1;
  }

  private statedAt(deviceId: string, way: number): number | null {
    const stated = assignmentsOfDevice(this.draft.record, deviceId).find(
      (a): a is AssignmentOf<"address"> => a.role === "address" && a.deviceId === deviceId && a.way === way,
    );
    return stated?.address ?? null;
  }

  /** The numbered outputs with addresses that a turnout and those that move with it are on, each once. */
  private outputsOf(turnoutId: string): { deviceId: string; way: number; turnoutId: string }[] {
    const { record } = this.draft;
    const together = [
      turnoutId,
      ...record.turnouts.filter(({ movesWith }) => movesWith === turnoutId).map(({ id }) => id),
    ];
    const outputs = new ByWay<{ deviceId: string; way: number; turnoutId: string }>();
    for (const id of together) {
      const [motor] = assignmentsOfTurnout(record, id, "motor");
      const driver = motor ? driverOfTurnout(record, id) : undefined;
      const device = driver && find(record, "device", driver.deviceId);
      if (!driver || driver.way === null || !device || !typeOf(record, device).figures.factoryAddress) continue;
      outputs.set(driver.deviceId, driver.way, { deviceId: driver.deviceId, way: driver.way, turnoutId: id });
    }
    return outputs.values();
  }
}
