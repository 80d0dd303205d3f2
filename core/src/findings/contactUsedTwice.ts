import { Draft } from "../equip/draft.ts";
import { freeContact } from "../equip/ways.ts";
import { ByWay } from "../record/byWay.ts";
import { deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Assignment } from "../record/schemas.ts";
import { type Fitted, fitted, supplyOf, type Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { type Remedy, rule } from "./rule.ts";

interface Shared {
  threads: Thread[];
  from: Fitted;
  way: number;
  uses: [Assignment, Assignment];
  /** What is on it. */
  labels: string[];
}

export const contactUsedTwice = rule<Shared>({
  id: "contact-used-twice",
  stage: "equip",
  column: "frog",
  severity: "stop",
  title: "One contact is used for two things",
  about:
    "A motor has one or two sets of contacts, and frog, lamp and feedback compete for them. One set can serve one of them only: a lamp's supply on a frog's contact joins two supplies, and puts the lamp's volts on the rail.",
  look: ({ record, threads }) =>
    sharedContacts(record).map(({ fromId, way, uses }) => {
      const turnouts = uses.flatMap((each) => ("turnoutId" in each ? [each.turnoutId] : []));
      const own = threads.filter(({ turnout, followers }) =>
        [turnout, ...followers].some((each) => turnouts.includes(each.id)),
      );
      const labels = uses.map(({ deviceId }) => deviceOf(record, deviceId).label);
      return { threads: own, from: fitted(record, fromId), way, uses, labels };
    }),
  subject: ({ from, way }) => `${from.device.id} ${way}`,
  where: ({ from, way }) => `${from.device.label}-S${way}`,
  terminals: ({ from, way, labels }) => [`${from.device.label}-S${way}`, ...labels],
  turnouts: ({ threads }) => threads,
  why: ({ from, way, uses, labels }) =>
    `Contact S${way} of ${from.device.label} serves ${list(uses.map(({ role }, index) => `the ${role} ${labels[index]}`))}: what feeds them is joined there.`,
  remedies: ({ from, uses }, { record }) =>
    [uses[1], uses[0]].flatMap((use) => moveToFree(record, from, use)).slice(0, 1),
});

interface SharedContact {
  fromId: string;
  way: number;
  uses: [Assignment, Assignment];
}

/** Contacts of motors and relays that serve two things. */
function sharedContacts(record: RailwayRecord): SharedContact[] {
  const users = new ByWay<{ fromId: string; way: number; uses: Assignment[] }>();
  for (const assignment of record.assignments) {
    const { role } = assignment;
    if (role !== "frog" && role !== "lamp" && role !== "input") continue;
    // an input reads a contact as a frog or lamp is fed by it
    const [fromId, way] =
      role === "input" ? [assignment.controlId, assignment.controlWay] : [assignment.fromId, assignment.way];
    if (fromId === null || way === null) continue;
    if (fitted(record, fromId).type.contactSets === 0) continue;
    users.at(fromId, way, () => ({ fromId, way, uses: [] })).uses.push(assignment);
  }
  return users.values().flatMap(({ fromId, way, uses: [first, second] }) => {
    return first && second ? [{ fromId, way, uses: [first, second] }] : [];
  });
}

const joined = new WeakMap<RailwayRecord, ReadonlySet<string>>();

/** Frogs and lamps that share a contact with another, and the supplies that are joined there: what is wrong with them follows. */
export function joinedAtContacts(record: RailwayRecord): ReadonlySet<string> {
  const known = joined.get(record) ?? new Set(idsJoined(record));
  joined.set(record, known);
  return known;
}

function idsJoined(record: RailwayRecord): string[] {
  const uses = sharedContacts(record).flatMap((shared) => shared.uses);
  return uses.flatMap(({ deviceId }) => [deviceId, supplyOf(record, deviceId)?.device.id ?? deviceId]);
}

/** The second of the two on a set that nothing uses yet. */
function moveToFree(record: RailwayRecord, { device }: Fitted, assignment: Assignment): Remedy[] {
  const free = freeContact(record, device.id);
  if (free === null || (assignment.role !== "frog" && assignment.role !== "lamp")) return [];
  const draft = new Draft(record);
  draft.put("assignment", { ...assignment, way: free });
  const words = `Put the ${assignment.role} on S${free} of ${device.label}`;
  return [{ label: words, group: draft.group(words) }];
}
