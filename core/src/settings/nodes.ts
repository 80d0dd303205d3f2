import { typeOf } from "../catalogue/catalogue.ts";
import type { EditGroup } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { count } from "../units/format.ts";
import { nodeSwitches } from "../units/nodeSwitches.ts";
import { type SettingLine, settingLines, wantSetting } from "./settings.ts";

/** A switch or jumper of a node, with what is printed beside it, as it must be and as it is as far as is known. */
export interface SwitchPlace {
  name: string;
  weight: number;
  isJumper: boolean;
  wanted: "on" | "off";
  /** By the number that was read; null when nobody has looked. */
  found: "on" | "off" | null;
}

/** A node on the control bus. */
export interface BusNode {
  line: SettingLine;
  /** The number that it is to have; null for none yet. */
  number: number | null;
  /** Its switches; empty when it has no number yet, or is set otherwise. */
  switches: SwitchPlace[];
  /** Labels of other nodes that are to have the same number. */
  sharedWith: string[];
}

/** The nodes of a railway with their numbers, in the order of devices. */
export function busNodes(record: RailwayRecord): BusNode[] {
  const lines = settingLines(record).filter(({ setting }) => setting.isNodeNumber);
  const numbers = lines.map(({ wanted }) => numberIn(wanted));
  return lines.map((line, index): BusNode => {
    const number = numbers[index] ?? null;
    const others = lines.filter((_, other) => other !== index && number !== null && numbers[other] === number);
    return { line, number, switches: switchesOf(record, line, number), sharedWith: others.map(({ of }) => of) };
  });
}

/** The lowest number that no node is to have, and that a node's switches can say; null when there is none. */
export function freeNodeNumber(nodes: readonly BusNode[], { line }: BusNode): number | null {
  const taken = new Set(nodes.flatMap(({ number, line: other }) => (other.id === line.id ? [] : (number ?? []))));
  const [first, last] = line.numbers ?? [1, 65_535];
  for (let number = first; number <= last; number++) if (!taken.has(number)) return number;
  return null;
}

/** Gives every node that has none the first number that is nobody's. @returns null when all have one */
export function giveNodeNumbers(record: RailwayRecord): EditGroup | null {
  const nodes = busNodes(record);
  const open = nodes.filter(({ number }) => number === null);
  const taken = new Set(nodes.flatMap(({ number }) => number ?? []));
  const edits = open.flatMap(({ line }) => {
    const [first, last] = line.numbers ?? [1, 65_535];
    for (let number = first; number <= last; number++) {
      if (taken.has(number)) continue;
      taken.add(number);
      return wantSetting(record, line, String(number))?.edits ?? [];
    }
    return [];
  });
  return edits.length === 0 ? null : { words: `Gave ${count(edits.length, "node")} numbers`, edits };
}

function numberIn(text: string | null): number | null {
  const number = Number(text);
  return text !== null && text.trim() !== "" && Number.isInteger(number) ? number : null;
}

function switchesOf(
  record: RailwayRecord,
  { device, read, numbers }: SettingLine,
  number: number | null,
): SwitchPlace[] {
  const { numberSwitches } = typeOf(record, device);
  const [first, last] = numbers ?? [1, 0];
  if (!numberSwitches || number === null || number < first || number > last) return [];
  const { names, onMeans, offset } = numberSwitches;
  const found = numberIn(read);
  const known = found !== null && found >= first && found <= last ? nodeSwitches(found, onMeans, offset) : [];
  return nodeSwitches(number, onMeans, offset).map(({ bit, weight, position }) => ({
    ...{ name: names[bit] ?? String(bit), weight, isJumper: names[bit]?.startsWith("J") ?? false },
    ...{ wanted: position, found: known[bit]?.position ?? null },
  }));
}
