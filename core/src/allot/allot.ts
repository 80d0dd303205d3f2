import type { DeviceType } from "../catalogue/deviceType.ts";
import { edit } from "../catalogue/edit.ts";
import { usualSupply } from "../catalogue/traits.ts";
import { addBoardTo } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { setMotor } from "../equip/equipment.ts";
import { setFeeder } from "../equip/feed.ts";
import { freeWays } from "../equip/ways.ts";
import { addressList } from "../numbers/addressList.ts";
import { ByWay } from "../record/byWay.ts";
import type { EditGroup } from "../record/edits.ts";
import { assignmentsOfDevice, assignmentsOfTurnout, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { Device } from "../record/schemas.ts";
import { supplyOf, threadsOf } from "../schematic/thread.ts";
import { count, list } from "../units/format.ts";
import { Addresses } from "./addresses.ts";
import type { Bin } from "./bins.ts";
import { pack } from "./pack.ts";
import { supplyWithRoom } from "./supplies.ts";
import {
  type AllotOptions,
  boardRoom,
  drawOf,
  type Stopped,
  typeOfDevice,
  type Want,
  wantsOf,
  zoneLabel,
} from "./wants.ts";

/** Where one turnout is to go. */
export interface Placement {
  turnoutId: string;
  label: string;
  zone: string;
  motor: string;
  /** Number of the board in the proposal. */
  board: number;
  /** Outputs: one for all motors, or one for each; null for a unit without numbered outputs. */
  ways: (number | null)[];
  /** The turnout lies in another zone than most of the board's. */
  away: boolean;
  /** Address that its first output would have; null for boards without. */
  address: number | null;
}

/** A board of a proposal: one that is there, or a new one. */
export interface ProposedBoard {
  /** Of one that is there; null for a new one. */
  deviceId: string | null;
  typeId: string;
  typeName: string;
  /** Label it has, or will have when all is accepted. */
  label: string;
  /** Label of the supply that will feed it; null for none. */
  fedBy: string | null;
}

export interface Proposal {
  options: AllotOptions;
  boards: ProposedBoard[];
  places: Placement[];
  stopped: Stopped[];
  /** Outputs whose turnout lies in another zone than their board. */
  away: number;
}

/**
 * Proposes boards and outputs for all turnouts not equipped: the fewest new boards, then the fewest turnouts away from their
 * board's zone, within what outputs and boards give. Nothing is changed; `acceptProposal` makes the edits.
 *
 * @param tell called now and then with the share done, 0 to 1, and what is being done
 * @throws {RecordError} when more boards are needed than allowed, saying by how many
 */
export function allot(
  record: RailwayRecord,
  options: AllotOptions,
  tell: (share: number, what: string) => void = () => {},
): Proposal {
  const { wants, stopped } = wantsOf(record, options);
  const kinds = [...new Map(wants.map(({ board }) => [board.id, board])).values()];
  const proposal: Proposal = { options, boards: [], places: [], stopped, away: 0 };
  for (const [index, board] of kinds.entries()) {
    const own = wants.filter((want) => want.board.id === board.id);
    const onKind = (share: number) =>
      tell((index + share) / kinds.length, `${board.name}: ${count(own.length, "turnout")}`);
    onKind(0);
    if (board.outputs === 0) placeOnUnit(record, board, own, proposal);
    else placeOnBoards(record, board, own, proposal, onKind);
  }
  tell(1, "done");
  const order = new Map(wants.map(({ turnout }, index) => [turnout.id, index]));
  proposal.places.sort((a, b) => (order.get(a.turnoutId) ?? 0) - (order.get(b.turnoutId) ?? 0));
  if (proposal.places.length > 0) foretell(record, proposal);
  return proposal;
}

/** All on one unit without numbered outputs: the first there is, or a new one. */
function placeOnUnit(record: RailwayRecord, board: DeviceType, wants: readonly Want[], proposal: Proposal): void {
  const known = record.devices.find(({ typeId }) => typeId === board.id);
  const number = addTo(proposal, board, known);
  for (const want of wants) proposal.places.push({ ...placed(record, want, number), ways: [null], away: false });
}

function placeOnBoards(
  record: RailwayRecord,
  board: DeviceType,
  wants: readonly Want[],
  proposal: Proposal,
  tell: (share: number) => void,
): void {
  const present = record.devices
    .filter(({ typeId }) => typeId === board.id)
    .map((device) => roomOn(record, device, board));
  const fresh: Bin = { outputs: board.outputs, amps: boardRoom(board), zone: null };
  const items = wants.map(({ outputs, amps, zoneId }) => ({ size: outputs, amps, zone: zoneId ?? "" }));
  const packed = pack(items, present, fresh, tell);
  if (!packed) throw recordError(`A turnout takes more outputs than ${board.name} has.`);
  const { mostBoards } = proposal.options;
  if (mostBoards !== null && packed.fresh > mostBoards) {
    const needed = items.reduce((sum, { size }) => sum + size, 0);
    const free = present.reduce((sum, { outputs }) => sum + outputs, 0) + mostBoards * board.outputs;
    throw recordError(
      `It takes ${count(packed.fresh, "new board")} (${board.name}) and ${mostBoards} ${mostBoards === 1 ? "is" : "are"} allowed: ${packed.fresh - mostBoards} too few. ${needed} outputs are wanted and ${free} would be free. Allow more boards, or choose fewer turnouts.`,
    );
  }
  const numbers = [
    ...present.map(({ device }) => addTo(proposal, board, device)),
    ...Array.from({ length: packed.fresh }, () => addTo(proposal, board, undefined)),
  ];
  const free = [...present.map(({ ways }) => [...ways]), ...Array.from({ length: packed.fresh }, () => waysOf(board))];
  const homes = homesOf(items, packed.bin, present, packed.fresh);
  for (const [index, want] of wants.entries()) {
    const bin = packed.bin[index] ?? 0;
    proposal.places.push({
      ...placed(record, want, numbers[bin] ?? 0),
      ways: (free[bin] ?? []).splice(0, want.outputs),
      away: want.zoneId !== null && homes[bin] !== null && homes[bin] !== want.zoneId,
    });
  }
  proposal.away += packed.away;
}

function placed(record: RailwayRecord, want: Want, board: number) {
  const { turnout, label, motor } = want;
  return { turnoutId: turnout.id, label, zone: zoneLabel(record, want.zoneId), motor: motor.id, board, address: null };
}

function waysOf({ outputs }: DeviceType): number[] {
  return Array.from({ length: outputs }, (_, index) => index + 1);
}

/** What is free on a board that is there, and the zone that most of its turnouts lie in. */
function roomOn(record: RailwayRecord, device: Device, board: DeviceType): Bin & { device: Device; ways: number[] } {
  const zones = new Map<string, number>();
  let drawn = 0;
  for (const a of assignmentsOfDevice(record, device.id)) {
    if (a.role !== "driver" || a.deviceId !== device.id) continue;
    drawn += drawOf(typeOfDevice(record, a.motorId), board);
    const motor = assignmentsOfDevice(record, a.motorId).find((each) => each.role === "motor");
    const zone = motor?.role === "motor" ? find(record, "turnout", motor.turnoutId)?.zoneId : null;
    if (zone) zones.set(zone, (zones.get(zone) ?? 0) + 1);
  }
  const [home] = [...zones].sort((a, b) => b[1] - a[1]);
  const ways = freeWays(record, device.id, board.outputs);
  return { device, ways, outputs: ways.length, amps: Math.max(0, boardRoom(board) - drawn), zone: home?.[0] ?? null };
}

/** The zone of each board: its own, or the one that most of what it holds lies in. */
function homesOf(
  items: readonly { zone: string; size: number }[],
  bin: readonly number[],
  present: readonly Bin[],
  fresh: number,
): (string | null)[] {
  return Array.from({ length: present.length + fresh }, (_, number) => {
    const own = present[number]?.zone;
    if (own) return own;
    const zones = new Map<string, number>();
    for (const [index, { zone, size }] of items.entries())
      if (bin[index] === number && zone !== "") zones.set(zone, (zones.get(zone) ?? 0) + size);
    return [...zones].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
  });
}

function addTo(proposal: Proposal, board: DeviceType, device: Device | undefined): number {
  const { id: typeId, name: typeName } = board;
  proposal.boards.push({ deviceId: device?.id ?? null, typeId, typeName, label: device?.label ?? "", fedBy: null });
  return proposal.boards.length - 1;
}

/** Labels and supplies of boards, and addresses, as they will be when all is accepted. */
function foretell(record: RailwayRecord, proposal: Proposal): void {
  const all = new Set(proposal.places.map(({ turnoutId }) => turnoutId));
  const after = edit(record, acceptProposal(record, proposal, all).edits).record;
  const threads = new Map(threadsOf(after).map((thread) => [thread.turnout.id, thread]));
  const addresses = new ByWay<number>();
  for (const { deviceId, way, address } of addressList(after, [...threads.values()]))
    addresses.set(deviceId, way, address);
  for (const place of proposal.places) {
    const driver = threads.get(place.turnoutId)?.motors[0]?.driver;
    const board = proposal.boards[place.board];
    if (!driver || !board) continue;
    board.label = driver.device.label;
    board.fedBy = supplyOf(after, driver.device.id)?.device.label ?? null;
    place.address = addresses.get(driver.device.id, driver.way) ?? null;
  }
}

/**
 * The edits that make a proposal, or those of its turnouts that are chosen: motors where there were none, boards, outputs,
 * supplies with room for them, addresses.
 *
 * @throws {RecordError} when a turnout has been equipped since, or a board has gone; nothing is changed then
 */
export function acceptProposal(record: RailwayRecord, proposal: Proposal, chosen: ReadonlySet<string>): EditGroup {
  const draft = new Draft(record);
  const places = proposal.places.filter(({ turnoutId }) => chosen.has(turnoutId));
  if (places.length === 0) throw recordError("No turnout of the proposal is chosen.");
  const devices = new Map<number, string>();
  for (const place of places) {
    const board = proposal.boards[place.board];
    if (!board) continue;
    if (!devices.has(place.board)) devices.set(place.board, boardFor(draft, board));
    put(draft, place, devices.get(place.board) ?? "");
  }
  const made = [...devices].filter(([number]) => proposal.boards[number]?.deviceId === null).map(([, id]) => id);
  for (const deviceId of made) feedWithRoom(draft, deviceId);
  new Addresses(draft, proposal.options.addresses).give(
    places.map(({ turnoutId }) => turnoutId),
    made,
  );
  const labels = places.map(({ label }) => label);
  const boards = made.length > 0 ? ` on ${count(made.length, "new board")}` : "";
  return draft.group(`Allotted ${labels.length > 6 ? count(labels.length, "turnout") : list(labels)}${boards}`);
}

function boardFor(draft: Draft, { deviceId, typeId }: ProposedBoard): string {
  if (deviceId === null) return addBoardTo(draft, typeId).id;
  typeOfDevice(draft.record, deviceId);
  return deviceId;
}

function put(draft: Draft, { turnoutId, label, motor, ways }: Placement, deviceId: string): void {
  const turnout = find(draft.record, "turnout", turnoutId);
  if (!turnout) throw recordError(`${label} is not there any more. Ask for the proposal again.`);
  const together = [turnout, ...draft.record.turnouts.filter(({ movesWith }) => movesWith === turnoutId)];
  for (const [index, { id }] of together.entries()) {
    if (assignmentsOfTurnout(draft.record, id, "motor").length === 0) setMotor(draft, id, motor);
    const [fitted] = assignmentsOfTurnout(draft.record, id, "motor");
    if (!fitted) continue;
    const driven = assignmentsOfDevice(draft.record, fitted.deviceId).some(
      (a) => a.role === "driver" && a.motorId === fitted.deviceId && a.deviceId !== deviceId,
    );
    if (driven) throw recordError(`${label} has a driver by now. Ask for the proposal again.`);
    draft.unassign((a) => a.role === "driver" && a.motorId === fitted.deviceId);
    draft.assign("driver", { deviceId, way: ways[Math.min(index, ways.length - 1)] ?? null, motorId: fitted.deviceId });
  }
}

/** Feeds a new board from a supply that has room for it; another of its kind is added when none has. */
function feedWithRoom(draft: Draft, deviceId: string): void {
  const type = typeOfDevice(draft.record, deviceId);
  const kind = usualSupply(type);
  if (!kind || kind === "track-bus") return;
  const supply = supplyWithRoom(draft.record, deviceId, kind);
  if (supply === null) setFeeder(draft, deviceId, "supply", draft.addDevice(kind, "PS", "layout").id);
  else setFeeder(draft, deviceId, "supply", supply);
}
