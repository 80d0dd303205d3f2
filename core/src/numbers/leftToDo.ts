import { eventPlan } from "../events/plan.ts";
import { teachingSheets } from "../events/teaching.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread } from "../schematic/thread.ts";
import { busNodes } from "../settings/nodes.ts";
import { settingLines } from "../settings/settings.ts";
import { count } from "../units/format.ts";
import { isDue, type OutputAddress } from "./addressList.ts";
import { programmingOrder } from "./renumber.ts";

/** Something that is left to be done with the numbers of a railway. */
export interface LeftToDo {
  /** Where it is done. */
  where: "addresses" | "bus" | "events" | "settings";
  count: number;
  /** As "10 to program". */
  words: string;
  /** The next step of it, as "Program D1-3 to 23". */
  next: string;
}

/** What is to be given, programmed, taught and set, in the order in which it is best done; empty when all is as wanted. */
export function leftToDo(
  record: RailwayRecord,
  threads: readonly Thread[],
  outputs: readonly OutputAddress[],
): LeftToDo[] {
  const left: LeftToDo[] = [];
  const add = (where: LeftToDo["where"], number: number, words: string, next: string) => {
    if (number > 0) left.push({ where, count: number, words, next });
  };
  const nodes = busNodes(record).filter(({ number, line }) => number === null || line.read !== String(number));
  const [node] = nodes;
  const [open] = nodes.filter(({ number }) => number === null);
  add(
    "bus",
    nodes.length,
    `${count(nodes.length, "node")} to number`,
    open ? `Give ${open.line.of} a number` : `Set the switches of ${node?.line.of} to ${node?.number}`,
  );
  const due = outputs.filter(isDue);
  const [step] = due.length > 0 ? programmingOrder(record, outputs) : [];
  add(
    "addresses",
    due.length,
    `${due.length} to program`,
    step ? `Program ${step.label} to ${step.address}` : `Look at ${due[0]?.label}`,
  );
  const { links, strays } = eventPlan(record, threads);
  const untaught = links.filter(({ action, taught, at }) => action !== taught && (action !== null || at !== null));
  const [sheet] =
    untaught.length + strays.length > 0
      ? teachingSheets(record, threads).filter(({ steps }) => steps.some(({ doneAt }) => doneAt === null))
      : [];
  add(
    "events",
    untaught.length + strays.length,
    `${count(untaught.length + strays.length, "link")} to teach`,
    `Teach ${sheet?.label ?? "what is left"}`,
  );
  const settings = settingLines(record).filter(
    ({ standing, setting }) => (standing === "due" || standing === "differs") && !setting.isNodeNumber,
  );
  const [setting] = settings;
  add("settings", settings.length, `${settings.length} to set`, `Set ${setting?.setting.name} of ${setting?.of}`);
  return left;
}
