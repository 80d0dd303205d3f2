import { deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { count, list } from "../units/format.ts";
import type { Found } from "./sweep.ts";

/** More things than this that stand alike are counted, not named. */
const MOST_NAMED = 4;

/** How things have to stand, as part of a sentence. @example "with T1 at N and T2 at R" */
export function standing(record: RailwayRecord, when: Found["when"]): string {
  if (when.length === 0) return "whatever is set";
  const alike = new Map<string, string[]>();
  // what nobody touches goes without saying, where something else is touched
  const touched = when.filter(({ setting }) => setting.stands !== "let go");
  for (const { deviceId, setting } of touched.length > 0 ? touched : when) {
    const names = alike.get(setting.stands) ?? [];
    alike.set(setting.stands, [...names, setting.name(deviceOf(record, deviceId).label)]);
  }
  const groups = [...alike].map(([stands, names]) => `${namesOf(names)} ${stands}`);
  return `with ${list(groups)}`;
}

function namesOf(names: readonly string[]): string {
  if (names.length <= MOST_NAMED) return list(names);
  return list([...names.slice(0, MOST_NAMED - 1), count(names.length - MOST_NAMED + 1, "other")]);
}
