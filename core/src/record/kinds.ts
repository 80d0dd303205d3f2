import type * as z from "zod/mini";
import { Mark, Outline, Spot, Track } from "./line.ts";
import { Cable, Custom, Laying, Stock, Strip, Wire, withoutCable, withoutEnd } from "./made.ts";
import { Debt, Fact, Photo, Sense } from "./notes.ts";
import { Answer, BusEvent, Consumer, DeviceSetting, Producer, Reserve, Taught } from "./numbers.ts";
import { BoardPart, Route, RouteControl, RouteTurnout } from "./routes.ts";
import {
  Acceptance,
  Assignment,
  Device,
  OwnType,
  type Railway,
  Reading,
  TestResult,
  Turnout,
  Zone,
} from "./schemas.ts";

/**
 * Which computations need a kind's things: every one ("plan"), only those that judge test results and readings ("proof"),
 * or none ("picture").
 */
export type Weight = "plan" | "proof" | "picture";

/** A thing that was removed, as those that referred to it may still want to name it. */
export interface Removed {
  id: string;
  label?: string;
}

/** A field that holds the identifier of another thing (or null), and what becomes of its holder when that one is removed. */
interface Reference<T, To extends string> {
  to: To;
  /** Remove the holder, set the field to null, or what the function makes of it (null: remove). */
  onRemove: "remove" | "clear" | ((holder: T, removed: Removed) => T | null);
}

interface Entry<L extends string, S extends z.ZodMiniType<{ id: string }>, To extends string> {
  /** Name of its list in the record and in the railway file. */
  list: L;
  /** What the owner calls the list. */
  title: string;
  schema: S;
  /** How many a railway may hold; beyond it a file is taken for a mistake. */
  most: number;
  /** Its things have labels, which are unique whatever the case. */
  labelled?: boolean;
  weight?: Weight;
  refs?: Record<string, Reference<z.infer<S>, To>>;
}

/** Keeps the literal types of an entry, so that the record's type follows from the table. */
function kind<const L extends string, S extends z.ZodMiniType<{ id: string }>, const To extends string = never>(
  entry: Entry<L, S, To>,
): Entry<L, S, To> {
  return entry;
}

/**
 * The kinds of thing that a railway is made of: each is a list in the record and in the file, an edit, and a table in the
 * store. All of these follow from this table; a new kind is a schema, a row here, a migration, and a line in
 * docs/railway-file.md.
 */
export const KINDS = {
  zone: kind({ list: "zones", title: "Zones", schema: Zone, most: 500, labelled: true }),
  turnout: kind({
    list: "turnouts",
    title: "Turnouts",
    schema: Turnout,
    most: 5_000,
    labelled: true,
    refs: { zoneId: { to: "zone", onRemove: "clear" }, movesWith: { to: "turnout", onRemove: "clear" } },
  }),
  track: kind({ list: "tracks", title: "Stretches of track", schema: Track, most: 5_000 }),
  spot: kind({
    list: "spots",
    title: "Where turnouts lie",
    schema: Spot,
    most: 5_000,
    refs: { turnoutId: { to: "turnout", onRemove: "remove" } },
  }),
  mark: kind({
    list: "marks",
    title: "Marks on the line",
    schema: Mark,
    most: 20_000,
    // a signal or sensor that loses its device is still to be there; where a board stood nothing stands
    refs: { deviceId: { to: "device", onRemove: (m) => (m.what === "stand" ? null : { ...m, deviceId: null }) } },
  }),
  outline: kind({ list: "outlines", title: "Outlines of the baseboard", schema: Outline, most: 500 }),
  type: kind({ list: "types", title: "Own types", schema: OwnType, most: 500 }),
  device: kind({ list: "devices", title: "Devices", schema: Device, most: 20_000, labelled: true }),
  assignment: kind({
    list: "assignments",
    title: "Equipment",
    schema: Assignment,
    most: 50_000,
    refs: {
      deviceId: { to: "device", onRemove: "remove" },
      turnoutId: { to: "turnout", onRemove: "remove" },
      toDeviceId: { to: "device", onRemove: "remove" },
      motorId: { to: "device", onRemove: "remove" },
      controlId: { to: "device", onRemove: "remove" },
      lampId: { to: "device", onRemove: "remove" },
      // a frog that loses what feeds it is dead, but still there; a lamp is lit by nothing any more
      fromId: { to: "device", onRemove: (a) => (a.role === "frog" ? { ...a, fromId: null, way: null } : null) },
    },
  }),
  route: kind({ list: "routes", title: "Routes", schema: Route, most: 2_000, labelled: true }),
  routeTurnout: kind({
    list: "routeTurnouts",
    title: "Turnouts of routes",
    schema: RouteTurnout,
    most: 50_000,
    refs: { routeId: { to: "route", onRemove: "remove" }, turnoutId: { to: "turnout", onRemove: "remove" } },
  }),
  routeControl: kind({
    list: "routeControls",
    title: "What asks for routes",
    schema: RouteControl,
    most: 5_000,
    refs: {
      routeId: { to: "route", onRemove: "remove" },
      deviceId: { to: "device", onRemove: "remove" },
      throughId: { to: "device", onRemove: "clear" },
    },
  }),
  boardPart: kind({
    list: "boardParts",
    title: "Parts on diode boards",
    schema: BoardPart,
    most: 20_000,
    refs: { deviceId: { to: "device", onRemove: "remove" } },
  }),
  strip: kind({
    list: "strips",
    title: "Strips",
    schema: Strip,
    most: 5_000,
    labelled: true,
    refs: { zoneId: { to: "zone", onRemove: "clear" } },
  }),
  cable: kind({
    list: "cables",
    title: "Cables",
    schema: Cable,
    most: 5_000,
    labelled: true,
    refs: { zoneId: { to: "zone", onRemove: "clear" } },
  }),
  wire: kind({
    list: "wires",
    title: "Wires",
    schema: Wire,
    most: 100_000,
    refs: {
      fromDeviceId: { to: "device", onRemove: withoutEnd("from") },
      fromStripId: { to: "strip", onRemove: withoutEnd("from") },
      toDeviceId: { to: "device", onRemove: withoutEnd("to") },
      toStripId: { to: "strip", onRemove: withoutEnd("to") },
      cableId: { to: "cable", onRemove: withoutCable },
    },
  }),
  laying: kind({
    list: "layings",
    title: "How nets are laid",
    schema: Laying,
    most: 5_000,
    refs: { deviceId: { to: "device", onRemove: "remove" } },
  }),
  custom: kind({
    list: "customs",
    title: "Colours by custom",
    schema: Custom,
    most: 5_000,
    refs: { deviceId: { to: "device", onRemove: "remove" } },
  }),
  stock: kind({ list: "stocks", title: "Stock", schema: Stock, most: 5_000, weight: "picture" }),
  reserve: kind({ list: "reserves", title: "Reserved addresses", schema: Reserve, most: 500 }),
  answer: kind({
    list: "answers",
    title: "What outputs answer to",
    schema: Answer,
    most: 20_000,
    refs: { deviceId: { to: "device", onRemove: "remove" } },
  }),
  setting: kind({
    list: "settings",
    title: "Settings of devices",
    schema: DeviceSetting,
    most: 50_000,
    refs: { deviceId: { to: "device", onRemove: "remove" } },
  }),
  event: kind({
    list: "events",
    title: "Events",
    schema: BusEvent,
    most: 20_000,
    labelled: true,
    // an event whose node is taken away is nobody's
    refs: { nodeId: { to: "device", onRemove: "remove" } },
  }),
  producer: kind({
    list: "producers",
    title: "What produces events",
    schema: Producer,
    most: 20_000,
    refs: { eventId: { to: "event", onRemove: "remove" }, deviceId: { to: "device", onRemove: "remove" } },
  }),
  consumer: kind({
    list: "consumers",
    title: "What acts upon events",
    schema: Consumer,
    most: 50_000,
    refs: { eventId: { to: "event", onRemove: "remove" }, deviceId: { to: "device", onRemove: "remove" } },
  }),
  taught: kind({
    list: "taught",
    title: "What nodes were taught",
    schema: Taught,
    most: 50_000,
    refs: { deviceId: { to: "device", onRemove: "remove" } },
  }),
  test: kind({
    list: "tests",
    title: "Test results",
    schema: TestResult,
    most: 100_000,
    weight: "proof",
    refs: { turnoutId: { to: "turnout", onRemove: "remove" } },
  }),
  reading: kind({
    list: "readings",
    title: "Readings",
    schema: Reading,
    most: 100_000,
    weight: "proof",
    refs: { turnoutId: { to: "turnout", onRemove: "clear" } },
  }),
  acceptance: kind({ list: "acceptances", title: "Findings kept", schema: Acceptance, most: 20_000 }),
  sense: kind({
    list: "senses",
    title: "Sense ledger",
    schema: Sense,
    most: 50_000,
    refs: { deviceId: { to: "device", onRemove: "remove" } },
  }),
  fact: kind({
    list: "facts",
    title: "Facts",
    schema: Fact,
    most: 5_000,
    refs: { deviceId: { to: "device", onRemove: "remove" } },
  }),
  debt: kind({
    list: "debts",
    title: "Open ends",
    schema: Debt,
    most: 5_000,
    refs: {
      turnoutId: {
        to: "turnout",
        // what is owed outlives the turnout, and still says which it was
        onRemove: (debt, { label }) => ({
          ...debt,
          turnoutId: null,
          text: (label ? `${label}: ${debt.text}` : debt.text).slice(0, 80),
        }),
      },
    },
  }),
  photo: kind({
    list: "photos",
    title: "Photos",
    schema: Photo,
    most: 200,
    weight: "picture",
    refs: { turnoutId: { to: "turnout", onRemove: "remove" }, deviceId: { to: "device", onRemove: "remove" } },
  }),
};
export type Kind = keyof typeof KINDS;
export type ValueOf<K extends Kind> = z.infer<(typeof KINDS)[K]["schema"]>;
/** Name of a kind's list. */
export type ListOf<K extends Kind> = (typeof KINDS)[K]["list"];

/** All that the owner states. Each list is kept in the order of its identifiers. */
export type RailwayRecord = { railway: Railway } & { [K in Kind as ListOf<K>]: ValueOf<K>[] };

/** A kind's row in the table, whichever kind it is. */
export type KindEntry = Entry<ListOf<Kind>, z.ZodMiniType<{ id: string }>, Kind>;

/** The rows of the table, typed alike, in the table's order. */
export const KIND_ENTRIES = Object.entries(KINDS) as unknown as [Kind, KindEntry][];

/** Name of a kind's list in the record and in the railway file. */
export const LISTS = Object.fromEntries(KIND_ENTRIES.map(([kind, { list }]) => [kind, list])) as {
  [K in Kind]: ListOf<K>;
};

/** Fields by which an assignment names a device. */
export const DEVICE_FIELDS = Object.entries(KINDS.assignment.refs ?? {}).flatMap(([field, { to }]) =>
  to === "device" ? [field] : [],
);

/** A kind's things in a record, with no more of their type than that they have identifiers. */
export function thingsOf(record: RailwayRecord, kind: Kind): readonly { id: string }[] {
  return record[LISTS[kind]];
}

/** A railway with nothing in it yet. */
export function emptyRecord(name: string): RailwayRecord {
  const railway: Railway = {
    name,
    units: "metric",
    addressShift: 0,
    wireGauge: "0.5 mm2",
    cableGauge: "AWG 24",
    stripWays: 12,
    cableCores: 8,
    cableColours: "signal",
    spareShare: 0.1,
    cableMetres: 2.4,
    runMetres: 1.5,
    commons: "bus",
    feeders: "chain",
    busGauge: "1.5 mm2",
    stripsAt: "boards",
    reachMetres: 2,
    coresBy: "number",
    motorTails: "wires",
    tailCores: 8,
    spacingMetres: 0.3,
    matrixBy: "fewest",
    stepMetres: 0.1,
    scale: 87.1,
    trainKmh: 60,
    trainMetres: 1.5,
    tailMetres: 0.6,
    slackMetres: 0.025,
    reelMetres: 25,
    currency: "EUR",
    note: "",
  };
  return { railway, ...emptyLists() };
}

function emptyLists(): Omit<RailwayRecord, "railway"> {
  return Object.fromEntries(KIND_ENTRIES.map(([, { list }]) => [list, []])) as unknown as Omit<
    RailwayRecord,
    "railway"
  >;
}

/**
 * The record without what a computation does not look at: what is sent to a worker, or compared, should weigh no more than
 * it must.
 * @param weights of the kinds to keep
 */
export function lean(record: RailwayRecord, weights: readonly Weight[]): RailwayRecord {
  const left = KIND_ENTRIES.filter(([, { weight = "plan" }]) => !weights.includes(weight));
  return { ...record, ...Object.fromEntries(left.map(([, { list }]) => [list, []])) };
}
