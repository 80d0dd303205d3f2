import { WORK_PLACES, type WorkPlace, workAt } from "../loom/places.ts";
import type { Loom, Wire } from "../loom/wire.ts";
import { assignmentsOfRole, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Wire as Fact } from "../record/made.ts";
import type { Schematic } from "../schematic/schematic.ts";
import type { Thread } from "../schematic/thread.ts";
import type { StockLine } from "../stock/stock.ts";
import { count } from "../units/format.ts";
import { type Action, type Pace, paceOf } from "./pace.ts";

/** Some of the work on the loom that is done in one go. */
export interface Task {
  id: string;
  title: string;
  place: WorkPlace;
  action: Action;
  /** Turnouts that it is for, by leader; empty for what belongs to none. */
  turnoutIds: string[];
  /** Wires that it is about, and of how many it is left. */
  wireIds: string[];
  open: string[];
  /** What is left of it, in cuts, flags or joints, and how long that takes. */
  left: number;
  minutes: number;
  /** Tasks that come first. */
  after: string[];
  /** Kinds of part that are not on the shelf for it. */
  missing: string[];
}

export interface WorkPlan {
  tasks: Task[];
  pace: Record<Action, Pace>;
  /** Minutes of all that is left, by place. */
  minutes: Record<WorkPlace, number>;
}

/** Turnouts that are wired alike; the first goes first. */
interface Group {
  id: string;
  title: string;
  turnoutIds: string[];
}

/**
 * The order of work: boards and supplies first; then of each kind of turnout one through to its motor and proved, so that
 * a mistake is made once; then its sisters together, the bench before what is done on one's back.
 * @param lines what is needed and what is on the shelf
 */
export function workPlan(
  record: RailwayRecord,
  loom: Loom,
  schematic: Pick<Schematic, "threads">,
  lines: readonly StockLine[],
): WorkPlan {
  const pace = paceOf(record.wires, workIn(record));
  const leaderOf = new Map(record.turnouts.map(({ id, movesWith }) => [id, movesWith ?? id]));
  const wiresOf = new Map<string, Wire[]>();
  for (const wire of loom.wires) {
    const leader = wire.turnoutId === null ? "" : (leaderOf.get(wire.turnoutId) ?? "");
    const own = wiresOf.get(leader);
    if (own) own.push(wire);
    else wiresOf.set(leader, [wire]);
  }
  const tasks: Task[] = [];
  let before: string[] = [];
  for (const group of groupsOf(schematic.threads)) {
    const wires =
      group.turnoutIds.length === 0 ? (wiresOf.get("") ?? []) : group.turnoutIds.flatMap((id) => wiresOf.get(id) ?? []);
    const own = tasksFor(group, wires, pace, before, (action) => missingFor(group, lines, action));
    tasks.push(...own);
    // what comes next waits for all of it: a kind of turnout is proved before its sisters are begun
    if (own.length > 0) before = own.map(({ id }) => id);
  }
  const minutes = (place: WorkPlace) =>
    tasks.reduce((sum, task) => (task.place === place ? sum + task.minutes : sum), 0);
  return {
    tasks,
    pace,
    minutes: { bench: minutes("bench"), front: minutes("front"), underneath: minutes("underneath") },
  };
}

/** Where an end of a wire of the record is joined. */
function workIn(record: RailwayRecord): (fact: Fact, end: "from" | "to") => WorkPlace {
  const motors = new Set(assignmentsOfRole(record, "motor").map(({ deviceId }) => deviceId));
  return (fact, end) => {
    const [deviceId, stripId] = [fact[`${end}DeviceId`], fact[`${end}StripId`]];
    const strip = stripId === null ? undefined : find(record, "strip", stripId);
    if (strip) return workAt(strip);
    const isTail = fact.cableId !== null && find(record, "cable", fact.cableId)?.tail === true;
    if (isTail && motors.has(deviceId ?? "")) return "bench";
    return deviceId !== null && find(record, "device", deviceId)?.place === "panel" ? "bench" : "underneath";
  };
}

const STEPS: { action: Action; words: string; place: WorkPlace }[] = [
  { action: "cut", words: "Cut", place: "bench" },
  { action: "label", words: "Label", place: "bench" },
  { action: "bench", words: "Join at the bench", place: "bench" },
  { action: "front", words: "Join in front", place: "front" },
  { action: "underneath", words: "Join underneath", place: "underneath" },
  { action: "test", words: "Test", place: "underneath" },
];

function tasksFor(
  group: Group,
  wires: readonly Wire[],
  pace: Record<Action, Pace>,
  before: readonly string[],
  missing: (action: Action) => string[],
): Task[] {
  let previous: readonly string[] = before;
  return STEPS.flatMap(({ action, words, place }): Task[] => {
    const all = wires.filter((wire) => actionsOf(wire, action) > 0);
    if (all.length === 0) return [];
    const open = all.filter((wire) => leftOf(wire, action) > 0);
    const left = open.reduce((sum, wire) => sum + leftOf(wire, action), 0);
    const id = `${group.id} ${action}`;
    const task: Task = {
      ...{ id, title: `${words}: ${group.title}`, place, action, turnoutIds: group.turnoutIds },
      wireIds: all.map((wire) => wire.id),
      open: open.map((wire) => wire.id),
      ...{ left, minutes: left * pace[action].minutes, after: [...previous] },
      // what is cut or joined already needs nothing any more
      missing: left > 0 ? missing(action) : [],
    };
    previous = [id];
    return [task];
  });
}

function isJoint(action: Action): action is WorkPlace {
  return (WORK_PLACES as readonly Action[]).includes(action);
}

/** How often an action is done to a wire: a joint at each end that is there. */
function actionsOf({ from, to }: Wire, action: Action): number {
  const ends = [from, to];
  return isJoint(action) ? ends.filter(({ work }) => work === action).length : 1;
}

function leftOf({ from, to, fact }: Wire, action: Action): number {
  switch (action) {
    case "cut":
      return fact?.cutAt ? 0 : 1;
    case "label":
      return fact?.labelledAt ? 0 : 1;
    case "test":
      return fact?.testedAt ? 0 : 1;
    default: {
      const isOpen = (at: Wire["from"], joined: string | null | undefined) => Number(at.work === action && !joined);
      return isOpen(from, fact?.fromJoinedAt) + isOpen(to, fact?.toJoinedAt);
    }
  }
}

/** Boards first, then of each kind of turnout the first by itself and its sisters together. */
function groupsOf(threads: readonly Thread[]): Group[] {
  const kinds = new Map<string, Thread[]>();
  for (const thread of threads) {
    const kind = kindOf(thread);
    const own = kinds.get(kind);
    if (own) own.push(thread);
    else kinds.set(kind, [thread]);
  }
  const boards: Group = { id: "boards", title: "boards and supplies", turnoutIds: [] };
  return [
    boards,
    ...[...kinds.values()].flatMap(([first, ...sisters]): Group[] => {
      if (!first) return [];
      const own = { id: first.turnout.id, title: first.label, turnoutIds: [first.turnout.id] };
      const ids = sisters.map(({ turnout }) => turnout.id);
      if (ids.length === 0) return [own];
      const [one] = sisters;
      const title = ids.length === 1 && one ? one.label : `the ${count(ids.length, "turnout")} like ${first.label}`;
      return [own, { id: `${first.turnout.id} sisters`, title, turnoutIds: ids }];
    }),
  ];
}

/** What a turnout is made of, the same for those that are wired alike. */
function kindOf({ motors, control, moreControls, lamps, frogs }: Thread): string {
  const types = (things: readonly { type: { id: string } }[]) => things.map(({ type }) => type.id).join("+");
  const controls = control ? [control, ...moreControls] : [];
  const drivers = motors.flatMap(({ driver }) => driver ?? []);
  return [motors, drivers, controls, lamps, frogs].map(types).join(" ");
}

/** What of the stock an action takes, by the beginnings of their names. */
const TAKES: Record<Action, readonly string[]> = {
  cut: ["wire:", "cable:"],
  label: ["label"],
  bench: ["type:", "strip:", "plug:", "ferrule:", "sleeve", "splice"],
  front: ["type:", "strip:", "plug:", "ferrule:", "sleeve", "splice"],
  underneath: ["type:", "strip:", "plug:", "ferrule:", "sleeve", "splice"],
  test: [],
};

/** Kinds of part that an action on a group takes and that the shelf does not hold. */
function missingFor({ turnoutIds }: Group, lines: readonly StockLine[], action: Action): string[] {
  const ids = turnoutIds.length === 0 ? [""] : turnoutIds;
  return lines.flatMap(({ thing, name, have, byTurnout }) => {
    if (!TAKES[action].some((beginning) => thing.startsWith(beginning))) return [];
    const wanted = ids.reduce((sum, id) => sum + (byTurnout.get(id) ?? 0), 0);
    return wanted > have ? [name] : [];
  });
}
