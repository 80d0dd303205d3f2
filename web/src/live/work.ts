import {
  addressRange,
  busNodes,
  eventPlan,
  find,
  type NodeFound,
  type OutputAddress,
  type ProgrammingStep,
  type RailwayRecord,
  type SettingLine,
  settingLines,
  type ThrownAddress,
  teachingSheets,
  threadsOf,
  typeOf,
} from "@alderman/core";
import { dumpNodes, programOutput, readValue, sayOnBus, tryAddresses, workInput, writeValue } from "./liveServer.ts";

/** Says how far something is, 0 to 1. */
export type Tell = (share: number) => void;

/** Addresses that are tried in one go. */
const AT_ONCE = 40;

/** Throws every address that is wanted or known, both ways; those that no decoder can have are left out. */
export async function tryAll(
  id: string,
  outputs: readonly OutputAddress[],
  shift: 0 | 4,
  tell: Tell,
): Promise<ThrownAddress[]> {
  const { first, last } = addressRange(shift);
  const addresses = [...new Set(outputs.flatMap(({ address, now }) => [address, now]))].filter(
    (address) => address >= first && address <= last,
  );
  const thrown: ThrownAddress[] = [];
  for (let at = 0; at < addresses.length; at += AT_ONCE) {
    tell(at / addresses.length);
    thrown.push(...(await tryAddresses(id, addresses.slice(at, at + AT_ONCE))).thrown);
  }
  return thrown;
}

/** Programs one output after the other; each that answers is noted at once. @returns how many did */
export async function programAll(
  id: string,
  record: RailwayRecord,
  steps: readonly ProgrammingStep[],
  note: (step: ProgrammingStep) => void,
  tell: Tell,
): Promise<number> {
  let done = 0;
  for (const [index, step] of steps.entries()) {
    tell(index / steps.length);
    const label = find(record, "device", step.deviceId)?.label ?? "";
    const { answers } = await programOutput(id, label, step.ways[0] ?? 1, step.address);
    if (!answers) continue;
    done++;
    note(step);
  }
  return done;
}

/** Asks every node what it holds. */
export async function askNodes(id: string, record: RailwayRecord): Promise<{ nodes: NodeFound[]; silent: string[] }> {
  return dumpNodes(
    id,
    busNodes(record).map(({ line }) => line.device.label),
  );
}

/** Teaches all nodes what is left, by their switches; what they hold then is asked of them. */
export async function teachAll(id: string, record: RailwayRecord, tell: Tell): Promise<void> {
  const threads = threadsOf(record);
  const plan = eventPlan(record, threads);
  const sheets = teachingSheets(record, threads);
  const all = sheets.reduce((sum, { steps }) => sum + steps.length, 0);
  let at = 0;
  for (const { deviceId, label, steps } of sheets) {
    const letters = lettersOf(record, deviceId);
    for (const { kind, switches, eventId, way, doneAt } of steps) {
      tell(at++ / all);
      if (doneAt !== null) continue;
      if (kind === "choose" && way !== null) await sayOnBus(id, `SELECT ${label} ${way};`);
      if (kind !== "teach")
        for (const { name, on } of switches) {
          const letter = letters.get(name);
          if (letter) await sayOnBus(id, `SWITCH ${label} ${letter} ${on ? "on" : "off"};`);
        }
      if (kind === "clear") {
        await sayOnBus(id, `POWER ${label};`);
        await sayOnBus(id, `SWITCH ${label} U off;`);
      }
      const input = plan.events.find((event) => event.id === eventId)?.inputs[0];
      if (!input || (kind !== "teach" && kind !== "unlearn")) continue;
      const node = find(record, "device", input.deviceId)?.label ?? "";
      await workInput(id, "bus", node, input.way, true);
      if (kind === "unlearn") {
        await sayOnBus(id, `SWITCH ${label} L off;`);
        await sayOnBus(id, `SWITCH ${label} U off;`);
      }
      // while it learns the letting go is learned too, which is the same event
      await workInput(id, "bus", node, input.way, false);
    }
    await sayOnBus(id, `SWITCH ${label} L off;`);
  }
}

/** What the line of the stand-in calls the switches of a node, by what is printed beside them. */
function lettersOf(record: RailwayRecord, deviceId: string): Map<string, string> {
  const device = find(record, "device", deviceId);
  const teaching = device && typeOf(record, device).teaching;
  if (!teaching) return new Map();
  const { learn, unlearn, inverted, onOnly } = teaching;
  return new Map([
    [learn, "L"],
    [unlearn, "U"],
    [inverted, "P"],
    [onOnly, "O"],
  ]);
}

/** Settings that are written and read over the command station: not what switches of nodes say. */
export function stationSettings(record: RailwayRecord): SettingLine[] {
  return settingLines(record).filter(({ setting }) => !setting.isNodeNumber && !setting.isLearn && !setting.isLock);
}

/** Reads every setting. @returns values by the lines' identifiers */
export async function readAll(id: string, lines: readonly SettingLine[], tell: Tell): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  for (const [index, { id: lineId, device, way, setting }] of lines.entries()) {
    if (index % 10 === 0) tell(index / lines.length);
    found.set(lineId, (await readValue(id, device.label, way ?? 0, setting.name)).value);
  }
  return found;
}

/** Names of the locks that have to be open before a device's settings can be written, by its identifier. */
export function locksOf(record: RailwayRecord): Map<string, string> {
  const locks = settingLines(record).filter(({ setting }) => setting.isLock);
  return new Map(locks.map(({ device, setting }) => [device.id, setting.name]));
}

/** Writes what is to be set, and gives what was read back of it. */
export async function writeAll(
  id: string,
  lines: readonly SettingLine[],
  locks: ReadonlyMap<string, string>,
  tell: Tell,
): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  for (const [index, { id: lineId, device, way, setting, wanted }] of lines.entries()) {
    tell(index / lines.length);
    const { value } = await writeValue(id, device.label, way ?? 0, setting.name, wanted, locks.get(device.id) ?? null);
    found.set(lineId, value);
  }
  return found;
}
