import { Draft } from "../equip/draft.ts";
import { setAddress } from "../equip/equipment.ts";
import type { EditGroup } from "../record/edits.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { count } from "../units/format.ts";
import { addressRange } from "./accessoryAddress.ts";
import type { OutputAddress } from "./addressList.ts";

/**
 * How addresses are given out. turnout: as the turnout's label says. board: board after board from a number on. zone: each
 * zone has its own ten or hundred, in the owner's order.
 */
export type Scheme = { by: "turnout" } | { by: "board"; first: number } | { by: "zone"; size: 10 | 100 };

/** An output whose address changes. */
export interface Change {
  deviceId: string;
  way: number;
  /** As "D1-2". */
  label: string;
  throws: string | null;
  from: number;
  to: number;
}

/** Outputs that keep their addresses, and why. */
export interface Unchanged {
  label: string;
  why: string;
}

/** A board, or the outputs of one that are programmed at once, is given a number. */
export interface ProgrammingStep {
  deviceId: string;
  /** Outputs that get addresses in a row, the first of them the number. */
  ways: number[];
  label: string;
  address: number;
  /** Only until what is in its way has moved. */
  isTemporary: boolean;
  /** Labels of outputs that answer to one of the numbers and do not move: these then move two things. */
  alsoAt: string[];
}

export interface Renumbering {
  changes: Change[];
  unchanged: Unchanged[];
}

/** Outputs that get addresses in a row, from one number. */
interface Unit {
  outputs: [OutputAddress, ...OutputAddress[]];
}

/** Numbers as people sort them: D2 before D10. */
const ORDER = new Intl.Collator("en", { numeric: true });

/**
 * New addresses by a scheme for chosen outputs; each number goes to one output, reserved ones and those of outputs that
 * were not chosen to none. Outputs that throw nothing come last, and keep theirs where it is free.
 * @param labels of the outputs that may change
 */
export function renumber(
  record: RailwayRecord,
  all: readonly OutputAddress[],
  labels: ReadonlySet<string>,
  scheme: Scheme,
): Renumbering {
  const units = unitsOf(all).filter(({ outputs }) => outputs.every(({ label }) => labels.has(label)));
  const chosen = new Set(units.flatMap(({ outputs }) => outputs));
  const taken = new Set(all.filter((output) => !chosen.has(output)).map(({ address }) => address));
  const free = new Numbers(record, taken);
  const given = new Map<OutputAddress, number>();
  const give = ({ outputs }: Unit, start: number) => {
    for (const [place, output] of outputs.entries()) {
      given.set(output, start + place);
      taken.add(start + place);
    }
  };
  const isUsed = ({ outputs }: Unit) => scheme.by === "board" || outputs.some(({ throws }) => throws !== null);
  const used = inOrder(record, units.filter(isUsed), scheme);
  const idle = units.filter((unit) => !isUsed(unit));
  for (const unit of [...used, ...idle]) {
    const { start, why } = isUsed(unit) ? placeFor(record, unit, scheme, free) : idlePlace(unit, free);
    if (start !== null) {
      give(unit, start);
      continue;
    }
    // what keeps its numbers has them before any other may take them
    const others = new Set([...labels].filter((label) => !unit.outputs.some((output) => output.label === label)));
    const rest = renumber(record, all, others, scheme);
    return { ...rest, unchanged: [{ label: labelOf(unit), why }, ...rest.unchanged] };
  }
  const changes = all.flatMap((output): Change[] => {
    const { deviceId, way, label, throws, address } = output;
    const to = given.get(output) ?? address;
    return to === address ? [] : [{ deviceId, way, label, throws, from: address, to }];
  });
  return { changes, unchanged: [] };
}

/** What throws nothing keeps its numbers where they are free. */
function idlePlace(unit: Unit, free: Numbers): { start: number | null; why: string } {
  const [{ address }] = unit.outputs;
  const start = free.isFree(unit, address) && isRun(unit) ? address : free.next(unit, 1);
  return { start, why: "No number is left for it." };
}

/** The edits by which outputs are to have new addresses; what they answer to stays until they are programmed. */
export function applyRenumbering(record: RailwayRecord, changes: readonly Change[]): EditGroup | null {
  const draft = new Draft(record);
  for (const { deviceId, way, to } of changes) setAddress(draft, deviceId, way, to);
  if (draft.edits.length === 0) return null;
  return draft.group(`Gave ${count(changes.length, "output")} new addresses`);
}

/**
 * The order in which outputs are programmed to the addresses that they are to have, so that at no moment a number is given
 * to one that another output answers to; where some are in each other's way, one gets a free number in between.
 * @param all outputs with what they answer to now
 */
export function programmingOrder(record: RailwayRecord, all: readonly OutputAddress[]): ProgrammingStep[] {
  const now = new Answering(all);
  const free = new Numbers(record, new Set(all.flatMap(({ address, now }) => [address, now])));
  let pending = unitsOf(all).filter((unit) => isRun(unit) && unit.outputs.some(({ address, now }) => address !== now));
  const moving = new Set(pending.flatMap(({ outputs }) => outputs));
  const steps: ProgrammingStep[] = [];
  const inTheWay = ({ outputs }: Unit) =>
    outputs.flatMap(({ address }) => now.at(address)).filter((other) => !outputs.includes(other));
  const program = (unit: Unit, start: number, isTemporary: boolean, alsoAt: string[]) => {
    const { outputs } = unit;
    for (const [place, output] of outputs.entries()) now.move(output, start + place);
    const ways = outputs.map(({ way }) => way);
    const label = labelOf(unit);
    steps.push({ deviceId: outputs[0].deviceId, ways, label, address: start, isTemporary, alsoAt });
  };
  while (pending.length > 0) {
    const ready = pending.find((unit) => inTheWay(unit).every((other) => !moving.has(other)));
    const unit = ready ?? inRing(pending, inTheWay);
    const start = ready ? unit.outputs[0].address : free.next(unit, 1);
    const isFinal = ready !== undefined || start === null;
    program(
      unit,
      isFinal ? unit.outputs[0].address : (start as number),
      !isFinal,
      isFinal ? inTheWay(unit).map(({ label }) => label) : [],
    );
    if (isFinal) {
      pending = pending.filter((each) => each !== unit);
      for (const output of unit.outputs) moving.delete(output);
    } else {
      // it is out of the way now, and waits for its turn
      free.take(unit, start as number);
      pending = [...pending.filter((each) => each !== unit), unit];
    }
  }
  return steps;
}

/**
 * One of the units that wait for each other in a ring, when none can be programmed at once: only such a one has to go aside,
 * not what waits for the ring.
 */
function inRing(pending: readonly Unit[], inTheWay: (unit: Unit) => readonly OutputAddress[]): Unit {
  const unitOf = new Map(pending.flatMap((unit) => unit.outputs.map((output) => [output, unit] as const)));
  const met = new Set<Unit>();
  let unit = pending[0] as Unit;
  while (!met.has(unit)) {
    met.add(unit);
    const [blocker] = inTheWay(unit).flatMap((output) => unitOf.get(output) ?? []);
    if (!blocker) return unit;
    unit = blocker;
  }
  return unit;
}

/** Which outputs answer to a number, while they are programmed one after the other. */
class Answering {
  private readonly outputs = new Map<number, OutputAddress[]>();
  private readonly numbers = new Map<OutputAddress, number>();

  constructor(all: readonly OutputAddress[]) {
    for (const output of all) this.move(output, output.now);
  }

  at(address: number): readonly OutputAddress[] {
    return this.outputs.get(address) ?? [];
  }

  move(output: OutputAddress, address: number): void {
    const before = this.numbers.get(output);
    if (before !== undefined)
      this.outputs.set(
        before,
        this.at(before).filter((each) => each !== output),
      );
    this.numbers.set(output, address);
    this.outputs.set(address, [...this.at(address), output]);
  }
}

/** Numbers of the railway's range that nothing has yet. */
class Numbers {
  private readonly first: number;
  private readonly last: number;

  constructor(
    private readonly record: RailwayRecord,
    private readonly taken: Set<number>,
  ) {
    ({ first: this.first, last: this.last } = addressRange(record.railway.addressShift));
  }

  take({ outputs }: Unit, start: number): void {
    for (const place of outputs.keys()) this.taken.add(start + place);
  }

  /** Whether a unit can have numbers from one on. */
  isFree({ outputs }: Unit, start: number): boolean {
    if (start < this.first || start + outputs.length - 1 > this.last || !isAligned(outputs.length, start)) return false;
    return outputs.every((_, place) => this.whyNot(start + place) === null);
  }

  /** The first numbers from one on that a unit can have, up to a last one. */
  next(unit: Unit, from: number, to = this.last): number | null {
    for (let start = Math.max(from, this.first); start + unit.outputs.length - 1 <= to; start++)
      if (this.isFree(unit, start)) return start;
    return null;
  }

  /** Why a number is not free; null when it is. */
  whyNot(address: number): string | null {
    const reserve = this.record.reserves.find(({ first, last }) => address >= first && address <= last);
    if (reserve) return `${address} is reserved for ${reserve.what}`;
    return this.taken.has(address) ? `${address} is another output's` : null;
  }
}

/** Runs of four or eight begin where a decoder of four pairs does, at 1, 5, 9 (RCN-213). */
function isAligned(length: number, start: number): boolean {
  return length < 4 || (start - 1) % 4 === 0;
}

function placeFor(
  record: RailwayRecord,
  unit: Unit,
  scheme: Scheme,
  free: Numbers,
): { start: number | null; why: string } {
  if (scheme.by === "board") return { start: free.next(unit, scheme.first), why: "No number is left for it." };
  const place = unit.outputs.findIndex(({ throws }) => throws !== null);
  const output = unit.outputs[place] as OutputAddress;
  const turnout = find(record, "turnout", output.turnoutIds[0] ?? "");
  if (scheme.by === "turnout") {
    const number = Number(/\d+/.exec(turnout?.label ?? "")?.[0] ?? Number.NaN);
    if (Number.isNaN(number)) return { start: null, why: `The label ${turnout?.label} holds no number.` };
    const start = number - place;
    if (free.isFree(unit, start)) return { start, why: "" };
    const blocked = unit.outputs.flatMap((_, at) => free.whyNot(start + at) ?? []);
    const run = `${unit.outputs.length} outputs in a row cannot begin at ${start}`;
    return { start: null, why: `${blocked[0] ?? (unit.outputs.length > 1 ? run : `${start} cannot be sent`)}.` };
  }
  const zones = [...record.zones].sort((a, b) => a.order - b.order);
  const zone = zones.findIndex(({ id }) => id === turnout?.zoneId);
  if (zone < 0) return { start: null, why: `${turnout?.label ?? "It"} is in no zone.` };
  const base = (zone + 1) * scheme.size;
  const start = free.next(unit, base + 1, base + scheme.size);
  return { start, why: `Zone ${zones[zone]?.label} has no numbers left from ${base + 1} to ${base + scheme.size}.` };
}

/** Units in the order in which they choose: by turnout, by zone and turnout, or by board. */
function inOrder(record: RailwayRecord, units: readonly Unit[], scheme: Scheme): Unit[] {
  const rank = new Map(record.turnouts.map(({ id, order }) => [id, order]));
  const rankOf = ({ outputs }: Unit) =>
    Math.min(...outputs.flatMap(({ turnoutIds }) => turnoutIds.map((id) => rank.get(id) ?? Number.MAX_SAFE_INTEGER)));
  const byLabel = (a: Unit, b: Unit) => ORDER.compare(labelOf(a), labelOf(b));
  return [...units].sort((a, b) => (scheme.by === "board" ? byLabel(a, b) : rankOf(a) - rankOf(b) || byLabel(a, b)));
}

/** All outputs in the units in which they are programmed. */
function unitsOf(all: readonly OutputAddress[]): Unit[] {
  const units = new Map<string, OutputAddress[]>();
  for (const output of all) {
    const name = `${output.deviceId} ${output.block[0]}`;
    units.set(name, [...(units.get(name) ?? []), output]);
  }
  return [...units.values()].map((outputs) => ({
    outputs: outputs.sort((a, b) => a.way - b.way) as Unit["outputs"],
  }));
}

/** Whether the addresses that a unit is to have are in a row. */
function isRun({ outputs }: Unit): boolean {
  return outputs.every(({ address }, place) => address === outputs[0].address + place);
}

/** @example "D1-5", "D3-1 to D3-4" */
function labelOf({ outputs }: Unit): string {
  const [first] = outputs;
  return outputs.length === 1 ? first.label : `${first.label} to ${outputs.at(-1)?.label}`;
}
