import { watchedRails } from "../line/blocks.ts";
import { applyEdits, type Edit, putEdit, removeEdit } from "../record/edits.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Wire as Fact, standingOfWire } from "../record/made.ts";
import { atOnce, type Steps } from "../record/steps.ts";
import { isSame } from "../record/unchanged.ts";
import { schematicAfter } from "../schematic/schematic.ts";
import { loomInSteps, type Planned, unrecorded } from "./loom.ts";
import { factEnds, type Loom, type Wire, type WireEnd } from "./wire.ts";

/**
 * What has to be written into a record so that it holds what is proposed of its loom.
 * @param before what was derived of the record before an edit; what the edit left alone is taken over
 * @returns the edits, and what was derived for them
 */
export function complete(record: RailwayRecord, before?: Planned): { edits: Edit[]; planned: Planned } {
  const planned = atOnce(planning(record, before));
  return { edits: completionOf(record, planned.loom), planned };
}

/** What is derived of a record to complete it, in steps. @param before as for `complete` */
export function* planning(record: RailwayRecord, before?: Planned): Steps<Planned> {
  const schematic = schematicAfter(record, before, watchedRails(record));
  yield;
  return { record, schematic, loom: yield* loomInSteps(record, schematic, before) };
}

/** The record with what is proposed of its loom written into it. */
export function completed(record: RailwayRecord): RailwayRecord {
  return applyEdits(record, complete(record).edits).record;
}

/**
 * What is proposed, as edits that write it into the record: then it stays as it is while edits elsewhere come and go.
 * Proposals that the loom no longer has are taken out; facts are never touched.
 *
 * @returns the edits, none when the record holds the loom already
 */
export function completionOf(record: RailwayRecord, loom: Loom): Edit[] {
  return [
    ...loom.strips.flatMap((strip) =>
      isKnown(find(record, "strip", strip.id), strip) ? [] : [putEdit("strip", strip)],
    ),
    ...loom.cables.flatMap((cable) =>
      isKnown(find(record, "cable", cable.id), cable) ? [] : [putEdit("cable", cable)],
    ),
    ...without(record.wires, loom.wires, (wire) => standingOfWire(wire) === "proposed").map((id) =>
      removeEdit("wire", id),
    ),
    ...unrecorded(record, loom).flatMap((wire) => {
      const known = find(record, "wire", wire.id);
      return known && factEnds(known).link === factEnds(proposal(wire)).link ? [] : [putEdit("wire", proposal(wire))];
    }),
    ...without(record.strips, loom.strips).map((id) => removeEdit("strip", id)),
    ...without(record.cables, loom.cables).map((id) => removeEdit("cable", id)),
  ];
}

function isKnown<T>(known: T | undefined, now: T): boolean {
  return known === now || isSame(known, now);
}

/** Identifiers of the things of the record that the loom has not. */
function without<T extends { id: string }>(
  things: readonly T[],
  loom: readonly { id: string }[],
  counts: (thing: T) => boolean = () => true,
): string[] {
  const present = new Set(loom.map(({ id }) => id));
  return things.flatMap((thing) => (present.has(thing.id) || !counts(thing) ? [] : [thing.id]));
}

/**
 * A wire of the loom as a thing of the record: as proposed. One literal with all fields, so that thousands of them are
 * alike to the machine.
 */
export function proposal({ id, number, from, to, core }: Wire): Fact {
  const [first, second] = [endOf(from), endOf(to)];
  return {
    id,
    number,
    fromDeviceId: first.deviceId,
    fromTerminal: first.terminal,
    fromStripId: first.stripId,
    fromWay: first.way,
    toDeviceId: second.deviceId,
    toTerminal: second.terminal,
    toStripId: second.stripId,
    toWay: second.way,
    cableId: core?.cableId ?? null,
    core: core?.number ?? null,
    colour: null,
    gauge: null,
    metres: null,
    kept: false,
    cutAt: null,
    labelledAt: null,
    fromJoinedAt: null,
    toJoinedAt: null,
    testedAt: null,
    outAt: null,
    note: "",
  };
}

function endOf({ key, of }: WireEnd) {
  if (of) return { deviceId: of.deviceId, terminal: of.terminal, stripId: null, way: null };
  const [stripId = "", way = ""] = key.split("/");
  return { deviceId: null, terminal: null, stripId, way: Number(way) };
}
