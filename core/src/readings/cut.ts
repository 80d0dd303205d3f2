import type { DeviceType } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Element } from "../circuit/elements.ts";
import { Groups } from "../circuit/groups.ts";
import { type LaidWire, laidWires, otherWires } from "../loom/laidWires.ts";
import type { Loom } from "../loom/wire.ts";
import { ChangedMap } from "../record/changedMap.ts";
import type { Device, Position } from "../record/schemas.ts";
import { type DevicePart, type DeviceState, type FedBy, IDLE } from "./kit.ts";
import { partsOf } from "./models.ts";
import { carriedOver, emptyPiece, type Member, type Piece } from "./piece.ts";

/** A railway cut into pieces. */
export interface Cut {
  pieces: Piece[];
  /** Number of the piece that each terminal and each element of a device belongs to. */
  pieceOf: ChangedMap<string, number>;
  /** What was cut: devices by identifier, wires by their name in the circuit. */
  devices: ReadonlyMap<string, CutDevice>;
  wires: ChangedMap<string, LaidWire>;
  /** The same wires as they were given. */
  laid: readonly LaidWire[];
}

let typesSeen = 0;
const typeNumbers = new WeakMap<DeviceType, number>();

/** A number of its own for each type object: an own type that was changed is another object. */
export function typeNumber(type: DeviceType): number {
  const known = typeNumbers.get(type);
  if (known !== undefined) return known;
  typeNumbers.set(type, typesSeen);
  return typesSeen++;
}

/** All of a type that decides which elements its devices have, whatever their values. */
function shapeOf(type: DeviceType): string {
  const known = shapes.get(type);
  if (known) return known;
  const { model, contactSets, drives, hears, inputs, outputs, ownInputs, zones, pieces, leads, commonPlus, figures } =
    type;
  const shape = [
    model,
    contactSets,
    drives,
    hears,
    inputs,
    outputs,
    ownInputs,
    zones,
    leads,
    commonPlus,
    // figures that are elements of their own where they are stated
    ...["diodes", "inputDiodes", "resistorOhms", "commonOhms"].map((name) => (figures[name]?.value ?? 0) > 0),
    pieces,
    type.laid?.map(({ from, to, with: by, turned }) => `${from}-${to} ${by} ${turned}`).join(";"),
  ];
  const text = shape.join(",");
  shapes.set(type, text);
  return text;
}

const shapes = new WeakMap<DeviceType, string>();

/** A device as it is cut: its elements whatever its state, and what its state depends on beyond its type. */
export interface CutDevice {
  device: Device;
  type: DeviceType;
  role: string;
  /** What its elements depend on beyond its type. */
  ways: string;
  elements: readonly Element[];
  /** Its parts in each state that was asked for. */
  parts: Map<string, DevicePart[]>;
}

/**
 * Devices as they are to be cut: each with its elements whatever its state.
 * @param before the same before an edit; one of the same type, used alike, keeps its elements
 * @param roleOf what a device's state depends on beyond its type
 * @param outputsOf outputs in use of a device
 * @param fedBy how a device gets its power
 * @param railsOf the other rail of each zone of a detector that watches a block
 */
export function devicesToCut(
  devices: readonly { device: Device; type: DeviceType }[],
  before: Cut["devices"] | undefined,
  roleOf: (deviceId: string) => string,
  outputsOf: (deviceId: string) => ReadonlyMap<number, Position>,
  fedBy: (deviceId: string) => FedBy,
  railsOf: (deviceId: string) => ReadonlyMap<number, string>,
): CutDevice[] {
  return devices.map(({ device, type }) => {
    const { id } = device;
    const [outputs, fed, rails] = [outputsOf(id), fedBy(id), railsOf(id)];
    const ways = `${[...outputs.keys()].join(" ")} ${fed} ${[...rails].join(" ")}`;
    const was = before?.get(id);
    const isAlike = was?.type === type && was.ways === ways;
    const elements = isAlike
      ? was.elements
      : partsOf(id, type, { ...IDLE, outputs, fedBy: fed, rails }).map(({ element }) => element);
    const role = roleOf(id);
    // the volts that feed it are told by its role
    const parts = isAlike && was.role === role ? was.parts : new Map<string, DevicePart[]>();
    return { device, type, role, ways, elements, parts };
  });
}

/** Whether a device is the same to the circuit as before an edit. */
export function isCutAlike(now: CutDevice | undefined, before: CutDevice | undefined): boolean {
  return now?.type === before?.type && now?.role === before?.role && now?.elements === before?.elements;
}

/** Cuts a railway into pieces that no current can pass between. */
export function cutIntoPieces(devices: readonly CutDevice[], loom: Loom): Cut {
  const wires = laidWires(loom);
  const { pieces, pieceOf } = cutOf(devices, wires, new Map());
  return {
    ...{ pieces, pieceOf: new ChangedMap(pieceOf), devices: byId(devices) },
    ...{ wires: new ChangedMap(byName(wires)), laid: wires },
  };
}

/**
 * The same after an edit: only those pieces are cut anew that hold something that it changed, and those that hold the same
 * as before are taken over with their solutions.
 */
export function cutAfter(previous: Cut, devices: readonly CutDevice[], loom: Loom): Cut {
  const all = laidWires(loom);
  const { gone: takenOut, come } = otherWires(previous.laid, all);
  const wiresNow = new ChangedMap(previous.wires);
  for (const { element } of takenOut) wiresNow.delete(element);
  for (const wire of come) wiresNow.set(wire.element, wire);
  const now = { devices: byId(devices), wires: wiresNow, laid: all };
  const changed = new Set(
    devices.filter((each) => !isCutAlike(each, previous.devices.get(each.device.id))).map(({ device }) => device.id),
  );
  const gone = [...previous.devices.keys()].filter((id) => !now.devices.has(id));
  const laid = come.filter(({ element, ohms }) => previous.wires.get(element)?.ohms !== ohms);
  const affected = new Set<number>();
  const affect = (name: string) => {
    const number = previous.pieceOf.get(name);
    if (number !== undefined) affected.add(number);
  };
  for (const id of [...changed, ...gone])
    for (const element of previous.devices.get(id)?.elements ?? []) affect(element.id);
  for (const id of changed)
    for (const { nodes } of now.devices.get(id)?.elements ?? []) for (const node of nodes) affect(node);
  for (const { element, from, to } of [...laid, ...takenOut])
    if (previous.wires.get(element)?.ohms !== wiresNow.get(element)?.ohms)
      for (const { key } of [from, to]) affect(key);
  if (affected.size === 0 && changed.size === 0 && laid.length === 0) return { ...previous, ...now };
  const isIn = (name: string) => affected.has(previous.pieceOf.get(name) ?? -1);
  const inRegion = new Set([
    ...changed,
    ...[...affected].flatMap((number) => previous.pieces[number]?.members ?? []).map(({ device }) => device.id),
  ]);
  const region = devices.flatMap((each): CutDevice[] => {
    if (!inRegion.has(each.device.id)) return [];
    if (changed.has(each.device.id)) return [each];
    return [{ ...each, elements: each.elements.filter(({ id }) => isIn(id)) }];
  });
  const there = [...affected].flatMap((number) => previous.pieces[number]?.wires ?? []);
  const left = there.flatMap(({ id }) => wiresNow.get(id) ?? []);
  const wires = [...new Set([...left, ...laid])].sort((a, b) => a.number - b.number);
  const old = new Map(
    [...affected].map((number) => [previous.pieces[number]?.structure ?? "", previous.pieces[number] as Piece]),
  );
  const recut = cutOf(region, wires, old);
  return { ...inPlaceOf(previous, affected, recut), ...now };
}

/** Puts pieces that were cut anew in the place of those that they are made of; the others keep their numbers as far as may be. */
function inPlaceOf(previous: Cut, affected: ReadonlySet<number>, recut: Recut) {
  const pieceOf = new ChangedMap(previous.pieceOf);
  const pieces = [...previous.pieces];
  const namesOf = (piece: Piece | undefined, number: number) => [
    ...(piece?.members ?? []).flatMap(({ device }) =>
      (previous.devices.get(device.id)?.elements ?? []).flatMap(({ id, nodes }) =>
        previous.pieceOf.get(id) === number ? [id, ...nodes] : [],
      ),
    ),
    ...(piece?.wires ?? []).flatMap(({ nodes }) => nodes),
  ];
  for (const number of affected) for (const name of namesOf(pieces[number], number)) pieceOf.delete(name);
  const free = [...affected].sort((a, b) => a - b);
  const numberOf = recut.pieces.map((piece) => {
    const number = free.shift() ?? pieces.length;
    pieces[number] = piece;
    return number;
  });
  for (const [name, number] of recut.pieceOf) pieceOf.set(name, numberOf[number] as number);
  /** Names in the piece that has a number now, or had it before it was moved. */
  const namesAt = (number: number) => {
    const made = numberOf.indexOf(number);
    if (made < 0) return namesOf(previous.pieces[number], number);
    return [...recut.pieceOf].flatMap(([name, own]) => (own === made ? [name] : []));
  };
  // places that are left over are filled from the end
  const cameFrom = new Map<number, number>();
  for (const hole of free.sort((a, b) => b - a)) {
    const last = pieces.length - 1;
    if (hole < last) {
      const from = cameFrom.get(last) ?? last;
      for (const name of namesAt(from)) pieceOf.set(name, hole);
      cameFrom.set(hole, from);
      pieces[hole] = pieces[last] as Piece;
    }
    pieces.pop();
  }
  return { pieces, pieceOf };
}

const byId = (devices: readonly CutDevice[]) => new Map(devices.map((each) => [each.device.id, each]));
const byName = (wires: readonly LaidWire[]) => new Map(wires.map((wire) => [wire.element, wire]));

/** Pieces that were cut, and the number of the piece of each terminal and element. */
interface Recut {
  pieces: Piece[];
  pieceOf: Map<string, number>;
}

/** Elements that hold volts or drive a current in some state. */
const GIVING: ReadonlySet<Element["kind"]> = new Set(["voltage", "current", "capacitor"]);

/** @param previous pieces of the railway before an edit, by structure */
function cutOf(devices: readonly CutDevice[], wires: readonly LaidWire[], previous: ReadonlyMap<string, Piece>): Recut {
  const groups = new Groups();
  for (const { elements } of devices) for (const { nodes } of elements) groups.join(nodes[0], nodes[1]);
  for (const wire of wires) groups.join(wire.from.key, wire.to.key);
  const pieceOf = groups.numbered();
  const pieces: Piece[] = [];
  const structures: string[][] = [];
  const values: Map<string, number>[] = [];
  for (const piece of pieceOf.values()) {
    pieces[piece] ??= emptyPiece();
    structures[piece] ??= [];
    values[piece] ??= new Map();
  }
  for (const { device, type, role, elements, parts } of devices) {
    const minus = type.family === "supply" ? `${device.id}:${type.terminals[1]?.name}` : null;
    const seen = new Set<number>();
    for (const { id, kind, nodes } of elements) {
      const number = pieceOf.get(nodes[0]) ?? 0;
      pieceOf.set(id, number);
      const piece = pieces[number];
      if (piece && GIVING.has(kind)) piece.canFlow = true;
      if (!piece || seen.has(number)) continue;
      seen.add(number);
      piece.members.push({ device, type, role, parts: new Map(), all: parts });
      // a motor's winding and its contacts lie in pieces of their own: the first element tells which this is
      structures[number]?.push(`${id} ${shapeOf(type)} ${role}`);
      values[number]?.set(device.id, typeNumber(type));
      if (minus && piece.ground === "") piece.ground = minus;
      if (traitsOf(type).gives === "track") piece.onTrack = true;
    }
  }
  for (const wire of wires) {
    const { from, ohms, element: id } = wire;
    const number = pieceOf.get(from.key) ?? 0;
    pieces[number]?.wires.push(elementOf(wire));
    structures[number]?.push(id);
    values[number]?.set(id, ohms);
  }
  const kept = pieces.map((piece, number): Piece => {
    const own = values[number] ?? new Map<string, number>();
    const structure = structures[number]?.join("\n") ?? "";
    const signature = `${structure}\n${[...own.values()].join(" ")}`;
    const before = previous.get(structure);
    // labels of devices may have changed, but nothing that a circuit depends on
    if (before?.signature === signature) return before;
    return { ...piece, signature, structure, values: own, ...(before ? carriedOver(before, own) : {}) };
  });
  return { pieces: kept, pieceOf };
}

/**
 * The pieces after an edit that changed nothing but the resistance of wires.
 * @returns the numbers of the pieces that have such a wire as well
 */
export function withWires(before: Cut, old: Loom, now: Loom): { cut: Cut; changed: Set<number> } {
  const changed = new Set<number>();
  const ohmsOf = new Map<string, number>();
  const [wires, earlier] = [laidWires(now), laidWires(old)];
  const wiresNow = new ChangedMap(before.wires);
  for (const [index, wire] of wires.entries()) {
    if (wire === earlier[index]) continue;
    wiresNow.set(wire.element, wire);
    if (wire.ohms === earlier[index]?.ohms) continue;
    changed.add(before.pieceOf.get(wire.from.key) ?? -1);
    ohmsOf.set(wire.element, wire.ohms);
  }
  const pieces = before.pieces.map((piece, number): Piece => {
    if (!changed.has(number)) return piece;
    const values = new Map(piece.values);
    for (const [id, ohms] of ohmsOf) if (values.has(id)) values.set(id, ohms);
    const wires = piece.wires.map((wire) => {
      const ohms = ohmsOf.get(wire.id);
      return ohms !== undefined && wire.kind === "resistor" ? { ...wire, ohms } : wire;
    });
    const signature = `${piece.structure}\n${[...values.values()].join(" ")}`;
    const { ground, onTrack, canFlow, members, structure, ownerOf } = piece;
    return {
      ...emptyPiece(),
      ownerOf,
      ground,
      onTrack,
      canFlow,
      members,
      structure,
      signature,
      values,
      wires,
      ...carriedOver(piece, values),
    };
  });
  return { cut: { ...before, pieces, wires: wiresNow, laid: wires }, changed };
}

const elements = new WeakMap<LaidWire, Element>();

/** A wire as a resistor; the same object for the same wire, whatever piece it is cut into. */
function elementOf(wire: LaidWire): Element {
  const { element: id, from, to, ohms } = wire;
  const known = elements.get(wire) ?? { kind: "resistor", id, nodes: [from.key, to.key], ohms };
  elements.set(wire, known);
  return known;
}

/** The parts of a member that lie in its piece, in one state; the same objects whenever the state is the same. */
export function partsIn(cut: Cut, number: number, member: Member, state: DeviceState, key: string): DevicePart[] {
  const known = member.parts.get(key);
  if (known) return known;
  const all = member.all.get(key) ?? partsOf(member.device.id, member.type, state);
  member.all.set(key, all);
  const parts = all.filter(({ element }) => cut.pieceOf.get(element.nodes[0]) === number);
  member.parts.set(key, parts);
  const ownerOf = cut.pieces[number]?.ownerOf;
  for (const { element, deviceId } of parts) ownerOf?.set(element.id, deviceId);
  return parts;
}
