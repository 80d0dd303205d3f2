import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Wire as Fact, standingOfWire, type WireStep } from "../record/made.ts";
import { count, list } from "../units/format.ts";
import { proposal } from "./completion.ts";
import { endNames } from "./endNames.ts";
import { WORK_WORDS, type WorkPlace } from "./places.ts";
import { factEnds, type Loom, type Wire } from "./wire.ts";

/** A wire after each step of the work on it. */
export const STEP_WORDS: Record<WireStep, string> = {
  cutAt: "cut",
  labelledAt: "labelled",
  fromJoinedAt: "joined at its first end",
  toJoinedAt: "joined at its far end",
  testedAt: "tested",
};

/** What is said of a step when it is done. */
const DONE: Record<WireStep, string> = {
  cutAt: "Cut",
  labelledAt: "Labelled",
  fromJoinedAt: "Joined at its first end:",
  toJoinedAt: "Joined at its far end:",
  testedAt: "Tested",
};

/**
 * Ticks a step of work off for wires, or takes the tick back. The first step makes a wire a fact: colour, gauge and length
 * are its own from then on. What is labelled, joined or tested was cut; what was not cut after all, none of it was done of.
 * @param ids of the wires
 * @param at when it was done, ISO 8601; null to take it back
 * @returns null when nothing changes
 */
export function tickWires(
  record: RailwayRecord,
  loom: Loom,
  ids: readonly string[],
  step: WireStep,
  at: string | null,
): EditGroup | null {
  return changeWires(record, loom, ids, at === null ? `Took back: ${DONE[step].toLowerCase()}` : DONE[step], (fact) => {
    if ((fact[step] === null) === (at === null)) return fact;
    if (at !== null) return { ...fact, [step]: at, cutAt: fact.cutAt ?? at };
    if (step !== "cutAt") return { ...fact, [step]: null };
    return { ...fact, cutAt: null, labelledAt: null, fromJoinedAt: null, toJoinedAt: null, testedAt: null };
  });
}

/** Keeps wires as they are, whatever the plan would rather have; or lets them go. */
export function keepWires(record: RailwayRecord, loom: Loom, ids: readonly string[], kept: boolean): EditGroup | null {
  return changeWires(record, loom, ids, kept ? "Kept" : "Let go", (fact) =>
    fact.kept === kept ? fact : { ...fact, kept },
  );
}

/**
 * Wires that are facts are taken out of the railway: they join nothing any more, but what was written down of them stays,
 * with what was written at their ends, and their numbers are given to no others.
 * @param at when, ISO 8601
 */
export function takeWiresOut(record: RailwayRecord, ids: readonly string[], at: string): EditGroup | null {
  const draft = new Draft(record);
  const facts = ids.flatMap((id) => find(record, "wire", id) ?? []);
  const those = facts.filter((fact) => ["made", "kept"].includes(standingOfWire(fact)));
  for (const fact of those) {
    const { from, to } = endNames(record, fact);
    draft.put("wire", {
      ...fact,
      ...{ fromDeviceId: null, fromTerminal: from.slice(0, 40), fromStripId: null, fromWay: null },
      ...{ toDeviceId: null, toTerminal: to.slice(0, 40), toStripId: null, toWay: null },
      ...{ cableId: null, core: null, outAt: at },
    });
  }
  return those.length === 0 ? null : draft.group(`Took out ${wireNames(those)}`);
}

/** Forgets wires that were taken out, so that their numbers are free. */
export function freeNumbers(record: RailwayRecord, ids: readonly string[]): EditGroup | null {
  const draft = new Draft(record);
  const those = ids.flatMap((id) => find(record, "wire", id) ?? []).filter(({ outAt }) => outAt !== null);
  for (const { id } of those) draft.remove("wire", id);
  return those.length === 0 ? null : draft.group(`Freed the numbers of ${wireNames(those)}`);
}

/**
 * Moves made wires that serve nothing to where the plan would lay new ones from one of their ends, when they are long
 * enough: their joints there, their flags, which name the far end, and their tests are to be made again.
 *
 * @returns null when there is no such place
 */
export function moveWires(record: RailwayRecord, loom: Loom, ids: readonly string[]): EditGroup | null {
  const draft = new Draft(record);
  const taken = new Set<string>();
  const moves = ids.flatMap((id) => {
    const move = moveOf(record, loom, id, taken);
    if (!move) return [];
    taken.add(move.instead);
    draft.put("wire", move.now);
    return [move.words];
  });
  if (moves.length === 0) return null;
  return draft.group(moves.length === 1 ? `Moved ${moves[0]}` : `Moved ${count(moves.length, "wire")}: ${list(moves)}`);
}

/** A wire as it is after it is moved, and the wire of the plan whose place it takes. */
interface Move {
  now: Fact;
  instead: string;
  /** @example "W17 from P1-9 to P1-5" */
  words: string;
}

function moveOf(record: RailwayRecord, loom: Loom, id: string, taken: ReadonlySet<string>): Move | null {
  const fact = find(record, "wire", id);
  if (!fact || fact.cableId !== null) return null;
  const { from, to } = factEnds(fact);
  const open = loom.wires.filter(
    ({ id, fact: made, core, metres }) => !made && !core && !taken.has(id) && metres <= (fact.metres ?? metres),
  );
  const ways = [
    ["to", from],
    ["from", to],
  ] as const;
  // a wire of the same colour is for the same; then its first end stays where it is, if it can
  const byColour = [open.filter(({ colour }) => colour === fact.colour), open];
  for (const [end, stays, wires] of byColour.flatMap((wires) => ways.map((way) => [...way, wires] as const))) {
    const wire = wires.find((each) => each.from.key === stays || each.to.key === stays);
    if (!wire) continue;
    const far = wire.from.key === stays ? "to" : "from";
    const undone = { [`${end}JoinedAt`]: null, labelledAt: null, testedAt: null, cutAt: cutAt(fact) };
    const now = withEnd({ ...fact, ...undone }, end, fieldsAt(proposal(wire), far));
    const words = `W${fact.number} from ${endNames(record, fact)[end]} to ${wire[far].name}`;
    return { now, instead: wire.id, words };
  }
  return null;
}

/** When a wire was cut; at the latest when it was first joined. */
function cutAt({ cutAt, labelledAt, fromJoinedAt, toJoinedAt }: Fact): string | null {
  return cutAt ?? labelledAt ?? fromJoinedAt ?? toJoinedAt;
}

/** What one end of a wire is at. */
interface EndFields {
  deviceId: string | null;
  terminal: string | null;
  stripId: string | null;
  way: number | null;
}

function fieldsAt(fact: Fact, end: "from" | "to"): EndFields {
  return {
    deviceId: fact[`${end}DeviceId`],
    terminal: fact[`${end}Terminal`],
    stripId: fact[`${end}StripId`],
    way: fact[`${end}Way`],
  };
}

function withEnd(fact: Fact, end: "from" | "to", { deviceId, terminal, stripId, way }: EndFields): Fact {
  return {
    ...fact,
    [`${end}DeviceId`]: deviceId,
    [`${end}Terminal`]: terminal,
    [`${end}StripId`]: stripId,
    [`${end}Way`]: way,
  };
}

/** All that is only proposed is proposed anew: strips, cores and numbers in the order of the list, without gaps. */
export function proposeAnew(record: RailwayRecord): EditGroup | null {
  const draft = new Draft(record);
  const those = record.wires.filter((fact) => standingOfWire(fact) === "proposed");
  for (const { id } of those) draft.remove("wire", id);
  return those.length === 0 ? null : draft.group(`Proposed ${count(those.length, "wire")} anew`);
}

/**
 * Changes wires, proposed ones too: what a change makes a fact gets the colour, gauge and length that it has in the plan.
 * @param words what was done, before the names of the wires
 * @returns null when nothing changes
 */
export function changeWires(
  record: RailwayRecord,
  loom: Loom,
  ids: readonly string[],
  words: string,
  change: (fact: Fact) => Fact,
): EditGroup | null {
  const draft = new Draft(record);
  const wires = new Map(loom.wires.map((wire) => [wire.id, wire]));
  const those: Fact[] = [];
  for (const id of ids) {
    const wire = wires.get(id);
    const known = find(record, "wire", id);
    const before = known ?? (wire && proposal(wire));
    if (!before) continue;
    const after = change(before);
    if (after === before) continue;
    those.push(after);
    putParts(draft, loom, after);
    draft.put("wire", withFigures(after, wire));
  }
  return those.length === 0 ? null : draft.group(`${words} ${wireNames(those)}`);
}

/** A fact has colour, gauge and length of its own, a proposal none. */
export function withFigures(fact: Fact, wire: Wire | undefined): Fact {
  if (standingOfWire(fact) === "proposed") return { ...fact, colour: null, gauge: null, metres: null };
  if (!wire || fact.metres !== null) return fact;
  return { ...fact, colour: fact.colour ?? wire.colour, gauge: fact.gauge ?? wire.gauge, metres: wire.metres };
}

/** Writes strips and the cable of a wire down that are proposed and not in the record yet. */
export function putParts(draft: Draft, { strips, cables }: Loom, { fromStripId, toStripId, cableId }: Fact): void {
  for (const id of [fromStripId, toStripId]) {
    const strip = id === null || find(draft.record, "strip", id) ? undefined : strips.find((each) => each.id === id);
    if (strip) draft.put("strip", strip);
  }
  const isLacking = cableId !== null && !find(draft.record, "cable", cableId);
  const cable = isLacking ? cables.find(({ id }) => id === cableId) : undefined;
  if (cable) draft.put("cable", cable);
}

/** @example "W3", "W3 and W5", "6 wires, W12 to W17" */
export function wireNames(facts: readonly Pick<Fact, "number">[]): string {
  const numbers = facts.map(({ number }) => number).sort((a, b) => a - b);
  const [first, second] = numbers;
  if (numbers.length <= 2) return numbers.map((number) => `W${number}`).join(" and ");
  const isRun = numbers.every((number, index) => number === (first ?? 0) + index);
  return `${count(numbers.length, "wire")}, W${first} ${isRun ? "to" : `and W${second} to`} W${numbers.at(-1)}`;
}

/**
 * Ticks off all joints of wires that are made in one place.
 * @param at when they were made, ISO 8601
 * @returns null when nothing changes
 */
export function joinAt(
  record: RailwayRecord,
  loom: Loom,
  ids: readonly string[],
  place: WorkPlace,
  at: string,
): EditGroup | null {
  const wires = new Map(loom.wires.map((wire) => [wire.id, wire]));
  return changeWires(record, loom, ids, `Joined ${WORK_WORDS[place]}:`, (fact) => {
    const wire = wires.get(fact.id);
    const from = wire?.from.work === place && fact.fromJoinedAt === null;
    const to = wire?.to.work === place && fact.toJoinedAt === null;
    if (!from && !to) return fact;
    return {
      ...fact,
      fromJoinedAt: from ? at : fact.fromJoinedAt,
      toJoinedAt: to ? at : fact.toJoinedAt,
      cutAt: fact.cutAt ?? at,
    };
  });
}
