import {
  addBoard,
  Draft,
  edit,
  emptyRecord,
  freshId,
  type RailwayRecord,
  setAddress,
  setFeeder,
  turnoutsFromTable,
  turnoutsInOrder,
} from "@alderman/core";
import { seeded } from "../core/testing/networks.ts";

/** Turnouts of one zone of the generated railway; each zone has boards and supplies of its own. */
const ZONE = 20;
const OUTPUTS = 8;

/**
 * A club railway of many turnouts for load, the same for the same seed: zones of coil motors on a discharge unit with
 * toggles, and zones of stall motors on decoders, some of them in crossovers; most turnouts have a lamp. The common return of
 * a zone's coils goes from motor to motor, as anybody would lay it, and costs the far ones a good part of their pulse.
 * @param turnouts how many; whole zones of twenty
 */
export function clubRailway(seed: number, turnouts: number): RailwayRecord {
  const random = seeded(seed);
  let record = emptyRecord(`Club of ${turnouts}`);
  record.railway.note =
    "A generated railway for load, an invented club's, zone by zone. Its coils' common return goes from motor to motor, which costs the far ones a good part of their pulse.";
  for (let zone = 0; zone * ZONE < turnouts; zone++) {
    record = zone % 2 === 0 ? coilZone(record, zone, random) : stallZone(record, zone, random);
  }
  return onLine(record);
}

/** Steps from one turnout of a zone to the next, and from one zone to the one below. */
const SPACE = { across: 4, down: 7 };

/** Each zone as two parallel tracks, with crossovers between them and a siding at each other turnout. */
function onLine(record: RailwayRecord): RailwayRecord {
  const draft = new Draft(record);
  const track = (...points: [number, number][]) =>
    draft.put("track", { id: freshId(draft.record, "track", "track-1"), points, hidden: false });
  const zones = new Map<string | null, RailwayRecord["turnouts"]>();
  for (const turnout of turnoutsInOrder(record))
    zones.set(turnout.zoneId, [...(zones.get(turnout.zoneId) ?? []), turnout]);
  for (const [number, turnouts] of [...zones.values()].entries()) {
    const y = Math.floor(number / 2) * SPACE.down;
    const end = turnouts.length * SPACE.across + 4;
    // two zones beside each other
    const left = (number % 2) * (end + 4);
    track([left, y], [left + end, y]);
    track([left, y + 2], [left + end, y + 2]);
    const close = (x: number, at: number, name: string) =>
      draft.put("mark", { id: `end-${x}-${at}`.replaceAll("--", "-m"), what: "end", x, y: at, name, buffer: true });
    for (const [across, side] of [
      [left, "west"],
      [left + end, "east"],
    ] as const)
      for (const [row, name] of [
        [y, "rear"],
        [y + 2, "front"],
      ] as const)
        close(across, row, `${zoneName(number)}, ${name}, ${side}`);
    for (const [index, turnout] of turnouts.entries()) {
      const x = left + 2 + index * SPACE.across;
      const place = (at: [number, number], hand: "left" | "right") => {
        draft.put("spot", {
          id: `at-${turnout.id}`,
          turnoutId: turnout.id,
          x: at[0],
          y: at[1],
          second: false,
          turned: false,
          powerRouting: false,
        });
        draft.put("turnout", { ...turnout, hand });
      };
      const isLeader = turnouts[index + 1]?.movesWith === turnout.id;
      if (turnout.movesWith) place([x, y + 2], "right");
      else if (isLeader) {
        track([x + 2, y], [x + 4, y + 2]);
        place([x + 2, y], "right");
      } else {
        track([x, y], [x + 1, y - 1], [x + 2, y - 1]);
        place([x, y], "left");
        close(x + 2, y - 1, `siding ${turnout.label}`);
      }
    }
  }
  return edit(record, draft.edits).record;
}

const HEAD = ["label", "hand", "zone", "with", "motor", "driver", "control", "lamp", "address", "run"];

function coilZone(record: RailwayRecord, zone: number, random: () => number): RailwayRecord {
  const [withUnit, unit] = added(record, "cdu");
  const rows = Array.from({ length: ZONE }, (_, index) => {
    const surface = random() < 0.2;
    return [
      label(zone, index),
      hand(random),
      zoneName(zone),
      "",
      surface ? "twin-coil-surface" : "twin-coil-under-board",
      unit,
      "toggle-centre-off",
      surface ? "" : "lamp-two-colour",
      "",
      metres(random),
    ];
  });
  return ownSupplies(edit(withUnit, turnoutsFromTable(withUnit, [HEAD, ...rows]).edits).record, [unit], "ac-16");
}

function stallZone(record: RailwayRecord, zone: number, random: () => number): RailwayRecord {
  let boarded = record;
  const boards: string[] = [];
  const rows: string[][] = [];
  let output = 0;
  for (let index = 0; index < ZONE; index++) {
    // about a quarter of the turnouts are the far ends of crossovers, on their leader's output
    const follows = index % 4 === 3 && random() < 0.9;
    if (!follows && output % OUTPUTS === 0) {
      const [withBoard, board] = added(boarded, "stall-decoder-8");
      boarded = withBoard;
      boards.push(board);
    }
    const way = `${boards.at(-1)}-${(output % OUTPUTS) + 1}`;
    const number = zone * ZONE + output + 1;
    // a railway of many thousands has more outputs than there are addresses
    const address = number <= MOST_ADDRESSES ? String(number) : "";
    const own = follows
      ? [label(zone, index - 1), "stall-motor", "", "", "", ""]
      : ["", "stall-motor", way, "", random() < 0.9 ? "lamp-two-colour" : "", address];
    rows.push([label(zone, index), hand(random), zoneName(zone), ...own, metres(random)]);
    if (!follows) output++;
  }
  const equipped = edit(boarded, turnoutsFromTable(boarded, [HEAD, ...rows]).edits).record;
  return ownSupplies(withAllAddressed(equipped, boards, zone * ZONE + output + 1), boards, "dc-12");
}

/** Outputs not in use get the addresses after the zone's own, so that none answers to another's. */
function withAllAddressed(record: RailwayRecord, boards: readonly string[], from: number): RailwayRecord {
  const draft = new Draft(record);
  const last = record.devices.find((device) => device.label === boards.at(-1));
  const stated = new Set(
    record.assignments.flatMap((a) => (a.role === "address" && a.deviceId === last?.id ? [a.way] : [])),
  );
  let address = from;
  for (let way = 1; last && way <= OUTPUTS && address <= MOST_ADDRESSES; way++)
    if (!stated.has(way)) setAddress(draft, last.id, way, address++);
  return edit(record, draft.edits).record;
}

/** Addresses of accessory decoders, without the last ones, which are for all of them at once (NMRA S-9.2.1). */
const MOST_ADDRESSES = 2040;

/** Gives the boards, and the lamps of the turnouts on them, supplies of their own. */
function ownSupplies(record: RailwayRecord, boards: readonly string[], typeId: string): RailwayRecord {
  const draft = new Draft(record);
  const ids = new Set(record.devices.filter((device) => boards.includes(device.label)).map(({ id }) => id));
  const motors = new Set(
    record.assignments.flatMap((a) => (a.role === "driver" && ids.has(a.deviceId) ? [a.motorId] : [])),
  );
  const lamps = record.assignments.flatMap((a) => (a.role === "lamp" && motors.has(a.fromId) ? [a.deviceId] : []));
  const supply = draft.addDevice(typeId, "PS", "layout");
  for (const id of ids) setFeeder(draft, id, "supply", supply.id);
  if (lamps.length > 0) {
    const small = draft.addDevice("dc-5", "PS", "layout");
    for (const id of lamps) setFeeder(draft, id, "supply", small.id);
  }
  return edit(record, draft.edits).record;
}

function added(record: RailwayRecord, typeId: string): [RailwayRecord, string] {
  const made = edit(record, addBoard(record, typeId).edits).record;
  const known = new Set(record.devices.map(({ id }) => id));
  const board = made.devices.find((device) => device.typeId === typeId && !known.has(device.id));
  return [made, board?.label ?? ""];
}

/** @example letters(0) // "A"; letters(26) // "AA" */
const letters = (zone: number): string =>
  `${zone >= 26 ? letters(Math.floor(zone / 26) - 1) : ""}${String.fromCharCode(65 + (zone % 26))}`;
const label = (zone: number, index: number) => `${letters(zone)}${index + 1}`;
const zoneName = (zone: number) => `Zone ${letters(zone)}`;
const hand = (random: () => number) => (random() < 0.5 ? "left" : "right");
const metres = (random: () => number) => (0.5 + 3.5 * random()).toFixed(1);

/** The same railway on as few supplies as there are kinds of them: what each fed, the first of its kind feeds. */
export function onSharedSupplies(record: RailwayRecord): RailwayRecord {
  const kindOf = new Map(record.devices.map(({ id, typeId }) => [id, typeId]));
  const firstOf = new Map<string, string>();
  for (const { role, deviceId } of record.assignments) {
    const kind = kindOf.get(deviceId) ?? "";
    if (role === "supply" && !firstOf.has(kind)) firstOf.set(kind, deviceId);
  }
  const assignments = record.assignments.map((each) =>
    each.role === "supply"
      ? { ...each, deviceId: firstOf.get(kindOf.get(each.deviceId) ?? "") ?? each.deviceId }
      : each,
  );
  return { ...record, assignments };
}
