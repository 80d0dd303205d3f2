import { typeOf } from "../catalogue/catalogue.ts";
import { Derived } from "../derive.ts";
import { changeType, copyType, setFigure } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { type Knowledge, knowledgeOf } from "../indicators/knowledge.ts";
import { progressOf } from "../loom/progress.ts";
import { actedOnByStation } from "../numbers/feedback.ts";
import type { EditGroup } from "../record/edits.ts";
import { find } from "../record/find.ts";
import { emptyRecord, type RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { Turnout } from "../record/schemas.ts";
import { heardAt } from "../schematic/recipes/controlToInputs.ts";
import { controlsOf, drivesItself, type Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { fit } from "./fit.ts";
import { SCHOOLS, type School } from "./schools.ts";

/** What one school means for some turnouts of this railway. */
export interface Compared {
  schoolId: string;
  name: string;
  for: string;
  against: string;
  /** What would have to be bought beyond what is there, by name of type, the dearest first. */
  parts: { name: string; count: number }[];
  /** Rough price of that, in the railway's currency. */
  cost: number;
  wires: number;
  /** Wires from the panel to the layout. */
  cores: number;
  jointsUnderneath: number;
  /** Amps of all supplies for these turnouts, at rest and at the worst moment. */
  restAmps: number;
  worstAmps: number;
  /** What works when the computer or command station is off. */
  without: string;
  lamp: Knowledge | null;
  /** Findings that stop, were it built so. */
  wrong: string[];
  /** The turnouts are equipped so already. */
  present: boolean;
}

/** Equips turnouts by a school. @throws {RecordError} when there is no such school or turnout */
export function applySchool(record: RailwayRecord, schoolId: string, turnoutIds: readonly string[]): EditGroup {
  const school = SCHOOLS.find(({ id }) => id === schoolId);
  if (!school) throw recordError(`There is no school "${schoolId}".`);
  const draft = new Draft(record);
  const labels = leadersOf(record, turnoutIds).map((turnout) => {
    fit(draft, turnout, school.fitting);
    return turnout.label;
  });
  const words = labels.length > 6 ? `${labels.length} turnouts` : list(labels);
  return draft.group(`Equipped ${words}: ${school.name}`);
}

/** What a school means for some turnouts: parts and cost for the railway as it is, wires and currents of the turnouts by themselves. */
export function compareSchool(record: RailwayRecord, school: School, turnoutIds: readonly string[]): Compared {
  const leaders = leadersOf(record, turnoutIds);
  const draft = new Draft(record);
  for (const turnout of leaders) fit(draft, turnout, school.fitting);
  const before = new Map(record.devices.map(({ id, typeId }) => [id, typeId]));
  const bought = draft.record.devices.filter(({ id, typeId }) => before.get(id) !== typeId);
  const counts = new Map<string, { name: string; count: number; cost: number }>();
  for (const device of bought) {
    const type = typeOf(draft.record, device);
    // frogs and buses come with the track and the command station
    if (!type.figures.price) continue;
    const known = counts.get(type.id) ?? { name: type.name, count: 0, cost: 0 };
    counts.set(type.id, { ...known, count: known.count + 1, cost: known.cost + type.figures.price.value });
  }

  const parts = [...counts.values()].sort((a, b) => b.cost - a.cost);

  const alone = new Draft(onlyThese(record, leaders));
  for (const turnout of leaders) fit(alone, turnout, school.fitting);
  withoutEngines(alone);
  const derived = new Derived(alone.record);
  const { loom, loads, schematic, findings } = derived;
  const [thread] = schematic.threads;
  const lamp = thread?.lamps[0];
  const sum = (of: (load: (typeof loads)[number]) => number) => loads.reduce((total, load) => total + of(load), 0);
  return {
    ...{ schoolId: school.id, name: school.name, for: school.for, against: school.against },
    parts: parts.map(({ name, count }) => ({ name, count })),
    cost: parts.reduce((sum, each) => sum + each.cost, 0),
    wires: loom.wires.length,
    cores: loom.wires.filter(({ core }) => core !== null).length,
    jointsUnderneath: progressOf(loom.wires).underneath.of,
    restAmps: sum(({ rest }) => rest),
    worstAmps: sum(({ worst }) => worst),
    without: thread ? worksWithout(derived.record, thread) : "",
    lamp: thread && lamp ? knowledgeOf(thread, lamp) : null,
    wrong: findings.filter(({ severity }) => severity === "stop").map(({ why }) => why),
    present: bought.length === 0 && leaders.every((turnout) => isFitted(record, draft.record, turnout)),
  };
}

/** Takes the trains off: what they draw from the track is no matter of how turnouts are equipped. */
function withoutEngines(draft: Draft): void {
  for (const device of draft.record.devices) {
    const type = typeOf(draft.record, device);
    if (!type.figures.engines?.value) continue;
    const copy = copyType(draft.record, type.id, `${type.name}, no trains`);
    draft.take(copy.group);
    draft.take(setFigure(draft.record, copy.id, "engines", 0));
    draft.take(changeType(draft.record, device.id, copy.id));
  }
}

/** Whether a turnout's equipment is of the same types in both records. */
function isFitted(a: RailwayRecord, b: RailwayRecord, turnout: Turnout): boolean {
  const kinds = (record: RailwayRecord) =>
    record.assignments
      .filter((each) => "turnoutId" in each && each.turnoutId === turnout.id)
      .map(({ role, deviceId }) => `${role} ${find(record, "device", deviceId)?.typeId}`)
      .sort()
      .join();
  return kinds(a) === kinds(b);
}

/** What still works when the computer or the command station is off. */
export function worksWithout(record: RailwayRecord, thread: Thread): string {
  const driver = thread.motors[0]?.driver;
  const controls = controlsOf(thread);
  if (controls.some(({ reader }) => reader !== null)) {
    return driver?.type.hears === "bus"
      ? "everything: buttons and nodes speak to each other"
      : controls.every(({ reader }) => reader === null || actedOnByStation(record, reader.device.id))
        ? "the panel, as long as the command station is on; no computer"
        : "nothing: the computer passes the buttons on";
  }
  const atPanel = controls.some((control) => heardAt(thread, control));
  if (driver?.type.hears || thread.motors.some(drivesItself))
    return atPanel ? "the panel; not the throttle" : "nothing: it takes commands from the track only";
  return controls.length > 0 ? "everything: there is no computer in it" : "nothing commands it";
}

/** The leading turnouts among those named, or which those named follow, each once. */
function leadersOf(record: RailwayRecord, turnoutIds: readonly string[]): Turnout[] {
  const leaders = new Map<string, Turnout>();
  for (const id of turnoutIds) {
    const turnout = find(record, "turnout", id);
    if (!turnout) throw recordError(`There is no turnout "${id}".`);
    const leader = find(record, "turnout", turnout.movesWith ?? id) ?? turnout;
    leaders.set(leader.id, leader);
  }
  return [...leaders.values()];
}

/** The railway with nothing but these turnouts, and those that move with them, unequipped. */
function onlyThese(record: RailwayRecord, leaders: readonly Turnout[]): RailwayRecord {
  const kept = new Set(leaders.map(({ id }) => id));
  return {
    ...emptyRecord(record.railway.name),
    railway: record.railway,
    types: record.types,
    turnouts: record.turnouts.filter(({ id, movesWith }) => kept.has(movesWith ?? id)),
  };
}
