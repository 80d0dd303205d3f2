import { typeOf } from "../catalogue/catalogue.ts";
import { type DeviceType, numbered, type Setting } from "../catalogue/deviceType.ts";
import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { DeviceSetting } from "../record/numbers.ts";
import { recordError } from "../record/problems.ts";
import type { Device } from "../record/schemas.ts";
import { turnAt } from "../sense/edits.ts";
import { senseAt } from "../sense/ledger.ts";
import { count } from "../units/format.ts";

/** agrees: read back as wanted. differs: read back otherwise. due: to be set, and nobody has looked. bought: as the factory set it. */
export type SettingStanding = "agrees" | "differs" | "due" | "bought";

/** Something that is set in one device, or for one output of it. */
export interface SettingLine {
  /** Device, output and name. */
  id: string;
  device: Device;
  way: number | null;
  /** As "SB1-2" for an output, "BD1" for a device as a whole. */
  of: string;
  setting: Setting;
  wanted: string;
  /** The owner wants something else than the factory. */
  isOwn: boolean;
  read: string | null;
  readAt: string | null;
  standing: SettingStanding;
  /** Of a node's number: the first and the last that its switches can say. */
  numbers?: [number, number];
}

/** What a setting is known by. */
export type SettingKey = Pick<DeviceSetting, "deviceId" | "way" | "name">;

const TURNED = { no: "as drawn", yes: "reversed" };

/** What the settings of a record follow from. */
const LOOKED_AT = ["devices", "types", "settings", "senses"] as const;

const linesOf = new WeakMap<readonly Device[], { record: RailwayRecord; lines: readonly SettingLine[] }>();

/**
 * Every setting of every device but addresses, which have a list of their own; in the order of devices, outputs and writing.
 * Several findings and lists want it: it is worked out anew only when something that it follows from is another.
 */
export function settingLines(record: RailwayRecord): readonly SettingLine[] {
  const known = linesOf.get(record.devices);
  if (known && LOOKED_AT.every((list) => known.record[list] === record[list])) return known.lines;
  const lines = allLines(record);
  linesOf.set(record.devices, { record, lines });
  return lines;
}

/** What is known of the lines of each device, as long as types, settings and senses are the same lists. */
const ofDevices = new WeakMap<
  RailwayRecord["settings"],
  Pick<RailwayRecord, "types" | "senses"> & { lines: WeakMap<Device, readonly SettingLine[]> }
>();

function allLines(record: RailwayRecord): SettingLine[] {
  const { types, senses } = record;
  const before = ofDevices.get(record.settings);
  const lines =
    before?.types === types && before.senses === senses ? before.lines : new WeakMap<Device, SettingLine[]>();
  ofDevices.set(record.settings, { types, senses, lines });
  const facts = new Map(record.settings.map((setting) => [keyOf(setting), setting]));
  return record.devices.flatMap((device) => {
    const known = lines.get(device) ?? linesOfDevice(record, device, facts);
    lines.set(device, known);
    return known;
  });
}

function linesOfDevice(
  record: RailwayRecord,
  device: Device,
  known: ReadonlyMap<string, DeviceSetting>,
): readonly SettingLine[] {
  const type = typeOf(record, device);
  const settings = inOrder((type.settings ?? []).filter(({ name }) => name !== "address"));
  const whole = settings.filter(({ each }) => !each || type.outputs === 0);
  const each = settings.filter((setting) => !whole.includes(setting));
  const ways = each.length > 0 ? numbered(type.outputs) : [];
  return [
    ...whole.map((setting) => lineOf(record, device, null, setting, known)),
    ...ways.flatMap((way) => each.map((setting) => lineOf(record, device, way, setting, known))),
  ];
}

function lineOf(
  record: RailwayRecord,
  device: Device,
  way: number | null,
  setting: Setting,
  known: ReadonlyMap<string, DeviceSetting>,
): SettingLine {
  const id = keyOf({ deviceId: device.id, way, name: setting.name });
  const fact = known.get(id);
  // a setting that turns a sense is its place in the ledger
  const sense = setting.isSense ? senseAt(record, { link: "setting", deviceId: device.id, way }) : undefined;
  const wanted = setting.isSense ? (sense?.inverts ? TURNED.yes : TURNED.no) : (fact?.wanted ?? setting.factory);
  const read = fact?.read ?? null;
  return {
    ...{ id, device, way, of: way === null ? device.label : `${device.label}-${way}`, setting },
    ...{ wanted, isOwn: wanted !== setting.factory, read, readAt: fact?.readAt ?? null },
    standing: standingOf(read, wanted, setting),
    ...(setting.isNodeNumber ? { numbers: rangeOf(typeOf(record, device)) } : {}),
  };
}

function standingOf(read: string | null, wanted: string, { factory }: Setting): SettingStanding {
  if (read === null) return wanted === factory ? "bought" : "due";
  // "1.3ms" and "1.3 ms" are the same
  const plain = (text: string) => text.replaceAll(/\s/g, "").toLowerCase();
  return plain(read) === plain(wanted) ? "agrees" : "differs";
}

/** The numbers that the switches of a type can say. */
function rangeOf({ numberSwitches }: DeviceType): [number, number] {
  if (!numberSwitches) return [1, 65_535];
  const { offset, onMeans } = numberSwitches;
  return [Math.max(1, offset), offset + 2 ** onMeans.length - 1];
}

/** Says what is wanted of a setting; null for what the factory set. */
export function wantSetting(record: RailwayRecord, line: SettingLine, wanted: string | null): EditGroup | null {
  return wantSettings(record, [line], wanted);
}

/** The same for several: what is wanted of all devices of a kind, as one edit. */
export function wantSettings(
  record: RailwayRecord,
  lines: readonly SettingLine[],
  wanted: string | null,
): EditGroup | null {
  const draft = new Draft(record);
  for (const line of lines) want(draft, line, wanted);
  const [first] = lines;
  if (!first || draft.edits.length === 0) return null;
  const of = lines.length === 1 ? first.of : count(lines.length, "output");
  return draft.group(`${first.setting.name} of ${of}: ${wanted ?? first.setting.factory}`);
}

function want(draft: Draft, { device, way, setting }: SettingLine, wanted: string | null): void {
  if (setting.isSense) turnAt(draft, { link: "setting", deviceId: device.id, way }, wanted === TURNED.yes, {});
  else put(draft, { deviceId: device.id, way, name: setting.name }, { wanted });
}

/** Lines for the same setting of all devices of the same type, all their outputs. */
export function likeLines(lines: readonly SettingLine[], line: SettingLine): SettingLine[] {
  return lines.filter(
    ({ device, setting }) => device.typeId === line.device.typeId && setting.name === line.setting.name,
  );
}

/** Writes down what was read back from a device. @param at ISO 8601 */
export function readSetting(record: RailwayRecord, line: SettingLine, read: string, at: string): EditGroup | null {
  const draft = new Draft(record);
  put(draft, { deviceId: line.device.id, way: line.way, name: line.setting.name }, { read, readAt: at });
  return draft.edits.length === 0 ? null : draft.group(`${line.setting.name} of ${line.of} was read: ${read}`);
}

/** A device was reset, or another one put in its place: all its settings are as the factory set them. */
export function resetSettings(draft: Draft, deviceId: string, at: string): void {
  const lines = settingLines(draft.record).filter(({ device }) => device.id === deviceId);
  for (const { way, setting } of lines)
    put(draft, { deviceId, way, name: setting.name }, { read: setting.factory, readAt: at });
}

function put(draft: Draft, key: SettingKey, change: Partial<Pick<DeviceSetting, "wanted" | "read" | "readAt">>): void {
  const before = draft.record.settings.find((setting) => keyOf(setting) === keyOf(key));
  const words = `${key.deviceId}-${key.way === null ? "" : `${key.way}-`}${key.name}`;
  const id = before?.id ?? freshId(draft.record, "setting", words);
  draft.put("setting", { id, ...key, wanted: null, read: null, readAt: null, ...before, ...change });
}

function keyOf({ deviceId, way, name }: SettingKey): string {
  return `${deviceId} ${way ?? ""} ${name.toLowerCase()}`;
}

/** In the order of writing; locks come first. */
function inOrder(settings: readonly Setting[]): Setting[] {
  const rankOf = ({ rank, isLock }: Setting) => (isLock ? 0 : (rank ?? Number.MAX_SAFE_INTEGER));
  return [...settings].sort((a, b) => rankOf(a) - rankOf(b));
}

/** A step of setting a device: something is written and read back, or done by hand. */
export interface SettingStep {
  line: SettingLine | null;
  text: string;
  /** It is read back as wanted. */
  done: boolean;
}

/**
 * The order in which a device is set: its lock is opened, each setting written and read back with what is done by hand
 * after it, and the lock is set to a value that is nobody's key.
 * @throws {RecordError} when there is no such device
 */
export function settingSteps(record: RailwayRecord, deviceId: string): SettingStep[] {
  const device = find(record, "device", deviceId);
  if (!device) throw recordError(`There is no device "${deviceId}".`);
  const lines = settingLines(record).filter((line) => line.device.id === deviceId);
  const lock = lines.find(({ setting }) => setting.isLock);
  const others = lines.filter((line) => line !== lock);
  const open = others.filter(({ standing }) => standing === "due" || standing === "differs");
  if (open.length === 0) return [];
  const steps = others.flatMap((line): SettingStep[] => {
    const { setting, of, wanted, standing } = line;
    const isOpen = open.includes(line);
    if (!isOpen && standing !== "agrees") return [];
    const at = setting.number ? `${setting.name} (${setting.number})` : setting.name;
    const written = { line, text: `${of}: set ${at} to ${wanted}, and read it back.`, done: standing === "agrees" };
    return setting.afterwards && isOpen ? [written, { line: null, text: setting.afterwards, done: false }] : [written];
  });
  if (!lock) return steps;
  const opened = { line: null, text: `${device.label}: set its lock to its own key.`, done: false };
  const closed = "set its lock to another value, which is nobody else's key.";
  return [opened, ...steps, { line: null, text: `${device.label}: ${closed}`, done: false }];
}

/** Settings as a table: headings first. */
export function settingRows(lines: readonly SettingLine[]): string[][] {
  const head = ["device", "output", "setting", "range", "factory", "wanted", "read", "read at", "standing"];
  return [
    head,
    ...lines.map(({ device, way, setting, wanted, read, readAt, standing }) => [
      ...[device.label, way === null ? "" : String(way), setting.name, setting.range, setting.factory],
      ...[wanted, read ?? "", readAt ?? "", standing],
    ]),
  ];
}

/**
 * Rows of a JSON file of settings: a list of things with `device`, `output`, `setting` and `wanted`.
 * @throws {RecordError} when it is no such list
 */
export function settingRowsFromJson(text: string): string[][] {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw recordError("The file is no JSON: it seems to be cut short. Write it again.");
  }
  if (!Array.isArray(json)) throw recordError("The file holds no list of settings.");
  const names = ["device", "output", "setting", "wanted"];
  const plain = (value: unknown) => (typeof value === "string" || typeof value === "number" ? String(value) : "");
  return [
    names,
    ...json.map((thing: unknown) =>
      names.map((name) =>
        plain(typeof thing === "object" && thing !== null ? (thing as Record<string, unknown>)[name] : ""),
      ),
    ),
  ];
}

/** A row of a table of settings that cannot be taken over, and why. */
export interface Refused {
  row: number;
  why: string;
}

/**
 * Takes over what a table says is wanted, as `settingRows` writes one; columns by their names, in any order.
 * @returns the edits, null when nothing changes, and the rows that were not taken over
 */
export function readSettingRows(
  record: RailwayRecord,
  rows: readonly (readonly string[])[],
): { group: EditGroup | null; refused: Refused[] } {
  const [head = [], ...body] = rows;
  const columns = head.map((name) => name.trim().toLowerCase());
  const at = (row: readonly string[], name: string) => (row[columns.indexOf(name)] ?? "").trim();
  for (const name of ["device", "setting", "wanted"])
    if (!columns.includes(name))
      throw recordError(`The table has no column "${name}". Its first row must name its columns.`);
  const lines = settingLines(record);
  const refused: Refused[] = [];
  const draft = new Draft(record);
  for (const [index, row] of body.entries()) {
    if (row.every((cell) => cell.trim() === "")) continue;
    const [device, output, name, wanted] = ["device", "output", "setting", "wanted"].map((each) => at(row, each));
    const line = lines.find(
      (each) =>
        each.device.label.toLowerCase() === device?.toLowerCase() &&
        String(each.way ?? "") === output &&
        each.setting.name === name,
    );
    const why = !line
      ? `There is no setting "${name}" of ${device}${output ? `-${output}` : ""}.`
      : faultOf(line, wanted ?? "");
    if (why !== null || !line) refused.push({ row: index + 2, why: why ?? "" });
    else if (wanted !== line.wanted) want(draft, line, wanted === line.setting.factory ? null : (wanted ?? null));
  }
  return {
    group: draft.edits.length === 0 ? null : draft.group(`Took over ${count(draft.edits.length, "setting")}`),
    refused,
  };
}

/** Why a setting cannot be what somebody wants; null when it can. */
export function faultOf(line: SettingLine, wanted: string): string | null {
  const { setting, of } = line;
  if (wanted === "") return `Say what ${setting.name} of ${of} is to be.`;
  if (wanted.length > 40) return "A setting has at most 40 characters.";
  if (setting.isNodeNumber) return nodeFault(line, wanted);
  if (setting.isStart && !(Number.isInteger(Number(wanted)) && Number(wanted) >= 1 && Number(wanted) <= 2033))
    return `The start number of ${of} is a whole one from ${setting.range}.`;
  if (setting.values && !setting.values.includes(wanted))
    return `${setting.name} of ${of} cannot be "${wanted}"; it may be ${setting.range}.`;
  return null;
}

/** Why a node cannot have a number; null when its switches can say it. */
function nodeFault({ of, numbers }: SettingLine, wanted: string): string | null {
  const [first, last] = numbers ?? [1, 65_535];
  const number = Number(wanted);
  if (Number.isInteger(number) && number >= first && number <= last) return null;
  return `The number of ${of} is a whole one from ${first} to ${last}: its switches say no other.`;
}
