import type { DeviceType } from "../catalogue/deviceType.ts";
import type { SupplyLoad } from "../hands/supplyLoads.ts";
import type { Found } from "../hands/sweep.ts";
import type { OutputAddress } from "../numbers/addressList.ts";
import type { BoardLoad } from "../readings/boardLoads.ts";
import type { Circuitry } from "../readings/circuitry.ts";
import type { Moment } from "../readings/states.ts";
import type { ThreadReading } from "../readings/threadReading.ts";
import type { EditGroup } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { RecordError } from "../record/problems.ts";
import type { Position } from "../record/schemas.ts";
import type { Steps } from "../record/steps.ts";
import type { Thread, ThreadLamp } from "../schematic/thread.ts";

/** stop: will burn, short or not work. look: doubtful, or beyond good practice. note: worth knowing. */
export type Severity = "stop" | "look" | "note";

/** Something that can be done about a finding: a button that makes the edit, or one that does harm and says why not. */
export interface Remedy {
  label: string;
  /** The edits, or null for a remedy that is of no use here. */
  group: EditGroup | null;
  /** Why the remedy is of no use. */
  harm?: string;
}

export interface Finding {
  /** Rule and subject, the same from one derivation to the next. */
  key: string;
  ruleId: string;
  severity: Severity;
  title: string;
  /** Label of the thing, and the terminals or outputs to look at. */
  where: string;
  terminals: string[];
  /** Leaders of the threads it concerns; empty when it concerns the railway. */
  turnoutIds: string[];
  why: string;
  remedies: Remedy[];
  /** Reason for which the owner keeps it; null when it counts. */
  kept: string | null;
  /** Stage of the work in which it is put right. */
  stage: FindingStage;
  /** Column of the turnout list that it belongs to; null for what is no turnout's alone. */
  column: string | null;
  caution?: string;
}

/** What rules may look at. */
export interface Look {
  record: RailwayRecord;
  threads: readonly Thread[];
  circuitry: Circuitry;
  addresses: readonly OutputAddress[];
  /** What each supply gives, solved. */
  loads: readonly SupplyLoad[];
  boards: readonly BoardLoad[];
  /** What can go wrong by anything that can be set. */
  hands: readonly Found[];
  /** Readings of a thread, solved once. */
  reading: (thread: Thread, position: Position, moment: Moment) => ThreadReading;
  /** What depends on a thread and all that is joined to it, and on nothing else: found out once. @param what its name */
  remember: <T>(thread: Thread, what: string, make: () => T) => T;
  /**
   * What is found by looking at each thread and all that is joined to it, and at nothing else: a thread in which nothing was found is
   * not looked at again as long as edits leave all of that alone. A step for each thread.
   * @param what the rule's own name for what it looks for
   */
  inThreads: <S>(what: string, find: (thread: Thread) => S[]) => Steps<S[]>;
}

interface RuleOf<S> {
  id: string;
  title: string;
  /** The rule explained in the trade's words. */
  about: string;
  severity: Severity | ((subject: S) => Severity);
  /** Stage of the work in which its findings are put right. */
  stage: FindingStage;
  /** Column of the turnout list in which they are put right; null for what is no turnout's alone. */
  column: string | null | ((subject: S) => string);
  /** What it finds; in steps where all of it would be long to wait for. */
  look: (look: Look) => S[] | Steps<S[]>;
  /** What tells one finding of the rule from another; lasting identifiers only. */
  subject: (subject: S) => string;
  where: (subject: S) => string;
  terminals?: (subject: S) => string[];
  turnouts: (subject: S) => readonly Thread[];
  why: (subject: S) => string;
  remedies: (subject: S, look: Look) => Remedy[];
  caution?: (subject: S) => DeviceType | undefined;
}

export interface Rule {
  id: string;
  /** The gravest that its findings can be. */
  gravest: Severity;
  title: string;
  about: string;
  /** Stage of the work in which its findings are put right. */
  stage: FindingStage;
  run: (look: Look) => Steps<Finding[]>;
}

/** A rule of the product, in one file each, that reads like the sentence which the owner will see. */
export function rule<S>(definition: RuleOf<S>): Rule {
  const { id, title, about, stage } = definition;
  return {
    id,
    gravest: typeof definition.severity === "function" ? "stop" : definition.severity,
    title,
    about,
    stage,
    *run(look) {
      const looked = definition.look(look);
      const found: Finding[] = [];
      for (const subject of Array.isArray(looked) ? looked : yield* looked) {
        found.push(findingOf(definition, subject, look));
        yield;
      }
      return found;
    },
  };
}

function findingOf<S>(definition: RuleOf<S>, subject: S, look: Look): Finding {
  const { id, title, stage, severity, column } = definition;
  const why = definition.why(subject);
  const name = definition.subject(subject);
  const kept = look.record.acceptances.find(
    (a) => a.rule === id && a.subject === name && isSameCause(a.cause, causeOf(why)),
  );
  const caution = definition.caution?.(subject)?.caution;
  const graded = typeof severity === "function" ? severity(subject) : severity;
  return {
    key: `${id}:${name}`,
    ruleId: id,
    severity: graded,
    title,
    where: definition.where(subject),
    terminals: definition.terminals?.(subject) ?? [],
    turnoutIds: definition.turnouts(subject).map((thread) => thread.turnout.id),
    why,
    remedies: offered(() => definition.remedies(subject, look)),
    kept: graded === "stop" ? null : (kept?.reason ?? null),
    stage,
    column: typeof column === "function" ? column(subject) : column,
    ...(caution ? { caution } : {}),
  };
}

/** What a rule offers; nothing where what it would do is refused, so that no remedy takes the finding with it. */
function offered(make: () => Remedy[]): Remedy[] {
  try {
    return make();
  } catch (error) {
    if (error instanceof RecordError) return [];
    throw error;
  }
}

/** Longest cause that is kept with a finding that the owner accepts, characters. */
const LONGEST_CAUSE = 400;

/** What is kept of a finding's sentence when the owner accepts it. */
export function causeOf(why: string): string {
  return why.slice(0, LONGEST_CAUSE);
}

/** Words that tell one cause from another, besides everything that holds a figure. */
const TELLING = new Set(["normal", "reverse", "left", "right", "open", "dark", "dim"]);

/**
 * Whether two sentences of one rule are about the same cause: they hold the same figures, labels and positions, whatever
 * the words around them and the numbers that wires have got. A rule may be worded better without what an owner has accepted coming back.
 */
export function isSameCause(a: string, b: string): boolean {
  const [before, now] = [factsIn(a), factsIn(b)];
  // a sentence without any fact is known by its words only
  return a === b || (now !== "" && before === now);
}

/** The number of a wire, which changes when wires are drawn before it. */
const WIRE = /^W\d+$/;

function factsIn(sentence: string): string {
  const words = sentence.split(/[\s,;:()]+/).map((word) => word.replace(/\.$/, ""));
  const facts = words.filter((word) => (/\d/.test(word) && !WIRE.test(word)) || TELLING.has(word));
  return [...new Set(facts)].sort().join(" ");
}

/** The stages in which findings are put right, by what the spine calls them. */
export const FINDING_STAGES = ["line", "equip", "routes", "loom", "numbers"] as const;
export type FindingStage = (typeof FINDING_STAGES)[number];

export const POSITIONS: readonly Position[] = ["N", "R"];

/** All lamps of threads, each with its thread. */
export function lampsOf(threads: readonly Thread[]): { thread: Thread; lamp: ThreadLamp }[] {
  return threads.flatMap((thread) => thread.lamps.map((lamp) => ({ thread, lamp })));
}
