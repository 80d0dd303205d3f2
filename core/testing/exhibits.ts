// Every exhibit of the tests by name, and railways made by random deeds of an owner.
import fc from "fast-check";
import { CATALOGUE, typeOf } from "../src/catalogue/catalogue.ts";
import { edit } from "../src/catalogue/edit.ts";
import { setBlock } from "../src/equip/blocks.ts";
import { COLUMNS } from "../src/equip/columns.ts";
import { changeType, removeDevice } from "../src/equip/devices.ts";
import { feedFrom, possibleCommands, possibleSupplies } from "../src/equip/feed.ts";
import { removeTurnouts } from "../src/equip/turnouts.ts";
import { addTurnout, writeCell } from "../src/equip/write.ts";
import type { EditGroup } from "../src/record/edits.ts";
import type { RailwayRecord } from "../src/record/kinds.ts";
import { RecordError } from "../src/record/problems.ts";
import type { Device } from "../src/record/schemas.ts";
import { smallRailway } from "./build.ts";
import { MISTAKES } from "./mistakes.ts";
import { DRIVING, FROGS, LAMPS, routeButton, SHARED, zonesAtInputs } from "./recipes.ts";

/** All small railways of the tests, right and wrong. */
export const EXHIBITS: Record<string, () => RailwayRecord> = {
  ...MISTAKES,
  ...DRIVING,
  ...FROGS,
  ...LAMPS,
  ...Object.fromEntries(Object.entries(SHARED).map(([what, { make }]) => [what, make])),
  "a button of a route": routeButton,
  "zones at inputs": zonesAtInputs,
};

/** Something an owner may do, chosen by numbers. */
export type Deed = [kind: number, which: number, what: number];

export const deeds: fc.Arbitrary<Deed> = fc.tuple(fc.nat(COLUMNS.length + 3), fc.nat(60), fc.nat(60));

const FEED = COLUMNS.length + 3;
const BLOCK = COLUMNS.length + 2;

/** Has a device fed or commanded by another one, by whatever may; null when nothing may. */
function fed(record: RailwayRecord, device: Device, which: number, what: number): EditGroup | null {
  const role = what % 2 ? "supply" : "commands";
  const type = typeOf(record, device);
  const from = role === "supply" ? possibleSupplies(record, type) : possibleCommands(record, type);
  const choice = from[which % (from.length + 1)];
  return from.length === 0 ? null : feedFrom(record, device, role, choice?.id ?? null);
}

/** The edits of a deed; null when it changes nothing. */
export function done(record: RailwayRecord, [kind, which, what]: Deed): EditGroup | null {
  const turnout = record.turnouts[which % Math.max(1, record.turnouts.length)];
  const device = record.devices[which % Math.max(1, record.devices.length)];
  const type = CATALOGUE[what % CATALOGUE.length] as (typeof CATALOGUE)[number];
  if (kind === 0) return addTurnout(record, `N${what}`);
  if (kind === 1 && device) return removeDevice(record, device.id);
  if (kind === 2 && turnout) return removeTurnouts(record, [turnout.id]);
  if (kind === 3 && device) return changeType(record, device.id, type.id);
  if (kind === FEED && device) return fed(record, device, which + what, what);
  if (kind === BLOCK && device) {
    return setBlock(record, device.id, 1 + (what % 4), {
      block: "block ".repeat(what % 4),
      rail: what % 2 ? "J" : "K",
    });
  }
  if (!turnout) return null;
  const column = COLUMNS[kind % COLUMNS.length] as (typeof COLUMNS)[number];
  const choices = [...(column.choices?.(record, turnout) ?? []).map(({ text }) => text), "", "7", "none"];
  return writeCell(record, turnout.id, column.id, choices[what % choices.length] as string);
}

/** The record after a deed; as it was when the deed is refused with a sentence. */
export function after(record: RailwayRecord, deed: Deed): RailwayRecord {
  try {
    const group = done(record, deed);
    return group ? edit(record, group.edits).record : record;
  } catch (error) {
    if (!(error instanceof RecordError) || !/^\S.*\.$/s.test(error.message)) throw error;
    return record;
  }
}

/** A railway that an owner may have come to. @param most deeds at most */
export function randomRailway(most = 25): fc.Arbitrary<RailwayRecord> {
  const starts = [smallRailway, ...Object.values(EXHIBITS)];
  return fc
    .tuple(fc.constantFrom(...starts), fc.array(deeds, { maxLength: most }))
    .map(([start, all]) => all.reduce(after, start()));
}
