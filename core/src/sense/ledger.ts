import { assignmentsOfDevice, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { KnownFrom, Sense, SenseLink } from "../record/notes.ts";
import { wayName } from "../schematic/nets.ts";
import { controlsOf, type Thread, type ThreadControl } from "../schematic/thread.ts";
import { type At, Chains, frontOf } from "./chains.ts";
import { PLACES } from "./places.ts";

/** One place between finger and lamp where normal can turn into reverse. */
export interface Link extends At {
  /** Tells it from all others of the railway: place, device and way. */
  key: string;
  /** Label of the device, with the way, as "D1-3". */
  at: string;
  inverts: boolean;
  known: KnownFrom;
  /** Times that it was turned round here. */
  flips: number;
  note: string;
  /** What another of the same kind and mounting has taught; null while none has. */
  likely: { inverts: boolean; from: string } | null;
  /** Outcomes that change when it turns. */
  turns: ReadonlySet<string>;
}

/** Something that can be seen to agree with the finger or not. */
export interface Outcome {
  key: string;
  what: "blades" | "frog" | "lamp";
  /** The turnout or the lamp. */
  thingId: string;
  /** The control by which it is asked, by its assignment; null when the turnout has none. */
  controlId: string | null;
  /** Label of the turnout or of the lamp. */
  label: string;
  /** Label of the control by which it is asked, when the turnout has several. */
  by: string | null;
  /** Keys of the links on its way, in order. */
  chain: string[];
  /** By what is written in the ledger it will do the opposite of what is asked. */
  wrong: boolean;
}

/** A turnout's chain of inversions, and what they multiply out to. */
export interface Ledger {
  leader: string;
  label: string;
  links: Link[];
  outcomes: Outcome[];
}

/** The sense ledger of a thread: every place from finger to lamp with what is known of it, and what follows. */
export function ledgerOf(record: RailwayRecord, thread: Thread): Ledger {
  const outcomes: Outcome[] = [];
  const found = new Map<string, { at: At; turns: Set<string> }>();
  const controls = controlsOf(thread);
  const asks: (ThreadControl | null)[] = controls.length > 0 ? controls : [null];
  for (const control of asks) {
    const by = controls.length > 1 ? (control?.device.label ?? null) : null;
    const controlId = control?.assignment.id ?? null;
    for (const { what, id, label, chain } of new Chains(thread, frontOf(thread, control)).things()) {
      const outcome = `${controlId ?? ""} ${what} ${id}`;
      const keys = chain.map((at) => {
        const key = keyOf(at);
        const known = found.get(key);
        if (known) known.turns.add(outcome);
        else found.set(key, { at, turns: new Set([outcome]) });
        return key;
      });
      outcomes.push({ key: outcome, what, thingId: id, controlId, label, by, chain: keys, wrong: false });
    }
  }
  const links = [...found]
    .sort(([, a], [, b]) => ORDER.indexOf(a.at.link) - ORDER.indexOf(b.at.link))
    .map(([key, { at, turns }]) => linkAt(record, key, at, turns));
  const turned = new Set(links.filter(({ inverts }) => inverts).map(({ key }) => key));
  for (const outcome of outcomes) outcome.wrong = outcome.chain.filter((key) => turned.has(key)).length % 2 === 1;
  return { leader: thread.turnout.id, label: thread.label, links, outcomes };
}

/** Name of a place within its railway. */
export function keyOf({ link, deviceId, way }: At): string {
  return `${link} ${deviceId} ${way ?? ""}`;
}

/** What is written of a place, or undefined. */
export function senseAt(record: RailwayRecord, { link, deviceId, way }: At): Sense | undefined {
  return sensesOf(record).at.get(keyOf({ link, deviceId, way }));
}

/** The senses of a record by place, and the links of which something is known somewhere. */
interface Senses {
  at: ReadonlyMap<string, Sense>;
  known: ReadonlySet<SenseLink>;
}

const senses = new WeakMap<readonly Sense[], Senses>();

function sensesOf(record: RailwayRecord): Senses {
  const found = senses.get(record.senses);
  if (found) return found;
  const made: Senses = {
    at: new Map(record.senses.map((sense) => [keyOf(sense), sense])),
    known: new Set(record.senses.flatMap(({ link, known }) => (known === "assumed" ? [] : [link]))),
  };
  senses.set(record.senses, made);
  return made;
}

/** Whether a thread has a place that turns, by what is written; without solving or following chains. */
export function hasTurns(record: RailwayRecord, thread: Thread): boolean {
  if (record.senses.some(({ inverts }) => inverts)) return true;
  return (
    thread.motors.some(({ assignment }) => assignment.crossed || assignment.opposite) ||
    thread.frogs.some(({ assignment }) => assignment.crossed) ||
    thread.lamps.some(({ assignment }) => assignment.crossed)
  );
}

const ORDER = Object.keys(PLACES);

function linkAt(record: RailwayRecord, key: string, at: At, turns: ReadonlySet<string>): Link {
  const sense = sensesOf(record).at.get(key);
  const device = deviceOf(record, at.deviceId);
  const said = saidByAssignment(record, at);
  return {
    // spelt out: a spread here costs more than all the rest
    link: at.link,
    deviceId: at.deviceId,
    way: at.way,
    key,
    at: wayName(device.label, at.way),
    inverts: said ?? sense?.inverts ?? false,
    // somebody who says that leads are crossed has drawn them so
    known: sense?.known ?? (said ? "drawn" : "assumed"),
    flips: sense?.flips ?? 0,
    note: sense?.note ?? "",
    likely: sense && sense.known !== "assumed" ? null : taught(record, at),
    turns,
  };
}

/** The sense of a place that is a field of an assignment; null for the others. */
function saidByAssignment(record: RailwayRecord, { link, deviceId }: At): boolean | null {
  const role = ROLE_OF[link as keyof typeof ROLE_OF];
  if (!role) return null;
  const a = assignmentsOfDevice(record, deviceId).find((each) => each.role === role && each.deviceId === deviceId);
  if (a?.role === "motor") return link === "mounting" ? a.opposite : a.crossed;
  return a?.role === "frog" || a?.role === "lamp" ? a.crossed : null;
}

export const ROLE_OF = { leads: "motor", mounting: "motor", frog: "frog", lamp: "lamp" } as const;

/** Places at which one device of a kind tells what the others of the kind do, when they are mounted alike. */
const TAUGHT: ReadonlySet<SenseLink> = new Set(["contact", "linkage"]);

/** What another device of the same kind, mounted alike, is known to do at a place. */
function taught(record: RailwayRecord, { link, deviceId, way }: At): Link["likely"] {
  if (!TAUGHT.has(link) || !sensesOf(record).known.has(link)) return null;
  const { typeId } = deviceOf(record, deviceId);
  const mounted = mountedOpposite(record, deviceId);
  const teacher = record.senses.find(
    (sense) =>
      sense.link === link &&
      sense.way === way &&
      sense.deviceId !== deviceId &&
      sense.known !== "assumed" &&
      deviceOf(record, sense.deviceId).typeId === typeId &&
      mountedOpposite(record, sense.deviceId) === mounted,
  );
  return teacher ? { inverts: teacher.inverts, from: deviceOf(record, teacher.deviceId).label } : null;
}

function mountedOpposite(record: RailwayRecord, deviceId: string): boolean | undefined {
  const motor = assignmentsOfDevice(record, deviceId).find((a) => a.role === "motor");
  return motor?.role === "motor" ? motor.opposite : undefined;
}
