import {
  type Consequence,
  compareLayings,
  compareLayingsIn,
  consequencesOf,
  controlsOf,
  Derived,
  type EditGroup,
  edit,
  FORM_HEADER,
  type LaidAs,
  type LampSituations,
  type MeterKind,
  type MeterReading,
  type Moment,
  matrixOfBoard,
  measure,
  type OpenRailway,
  openEnds,
  ownOf,
  type Position,
  type RailwayRecord,
  type RailwayState,
  type Range,
  RECORD_FORM,
  type RoutePress,
  routePress,
  type ThreadReading,
  Trial,
  type UnitDesign,
  unitDesigns,
  withUnchanged,
} from "@alderman/core";
import { expose } from "comlink";
import { indexedDbFindings, keepsNothing, type Standing } from "./keptFindings.ts";
import { changeOf, knownOverview, type Overview, type OverviewChange, overviewOf, partOf } from "./overview.ts";
import { receivedRecord, type SentRecord, workedOn } from "./sentRecord.ts";
import { DEAF, Turns } from "./turns.ts";

/** What a screen needs besides the whole railway's results. */
export interface Focus {
  turnoutId: string | null;
  asked: Record<string, Position>;
  /** The turnout that was thrown last, while what goes along with it still stands in `asked` as it did. */
  thrown: string | null;
  /** Control by which the turnout is thrown, by its assignment; its first one when null. */
  by: string | null;
  moment: Moment;
  red: string | null;
  black: string | null;
  range: Range;
  /** Kind of meter that its owner has. */
  kind: MeterKind;
  /** Whether its lamps are inspected in every fault situation. */
  lamp: boolean;
}

export interface FocusResult {
  turnoutId: string | null;
  /** Terminals that the meter's reading is of. */
  probes: { red: string | null; black: string | null };
  reading: ThreadReading | null;
  /** Positions to which it goes when it is thrown, with all that share its control or output; by their leaders. */
  along: Record<string, Position>;
  sheet: ReturnType<Derived["sheet"]>;
  meter: MeterReading | null;
  /** What each of its lamps shows when something is amiss. */
  situations: LampSituations[];
}

/** Steps and how many of them hold, for each leader. */
export type ProvingCounts = Record<string, { steps: number; passed: number; failed: number; stale: number }>;

let derived: Derived | null = null;

/** The record that came last. */
let received: RailwayRecord | null = null;

/** All that is found of the record that came last is known from earlier, when the railway stood as it does. */
let isKnown = false;

/** The name of this script says what is in it, once it is built. */
const kept = import.meta.env.PROD ? indexedDbFindings(location.pathname) : keepsNothing;

/** What follows from the record that came last. */
function derive(record: RailwayRecord): Derived {
  if (record === derived?.record) return derived;
  // what is new was copied on its way here
  received = derived ? withUnchanged(record, derived.record) : record;
  derived = new Derived(received, derived ?? undefined);
  return derived;
}

let sent: Overview | null = null;

/** Least time from one beat to the next, milliseconds. */
const BEAT = 200;
let lastBeat = 0;

/** Says that the work goes on, and how far it is; it is heard while this thread is busy. */
function beat(share: number): void {
  const now = performance.now();
  if (now - lastBeat < BEAT) return;
  lastBeat = now;
  const told: Beat = { beat: share };
  postMessage(told);
}

/** What the worker says while it works. */
export interface Beat {
  /** How far it is, 0 to 1. */
  beat: number;
}

/**
 * Longest that findings are looked for before those that are there are sent, milliseconds: of a railway that was opened just now;
 * after an edit, which takes less on a club's railway; and of what is left.
 */
const OPENED = 80;
const FIRST_PART = 250;
const PART = 500;
/** New things that are sent in one answer at most, of a railway that was opened just now and then: some 3 MB. */
const MOST_AT_FIRST = 2500;
const MOST_SENT = 5000;

/**
 * Goes on looking for findings; before loom and circuit are made, no further than what the record alone tells, or than to their being
 * made. @returns what does so until a time, and how far it is then
 */
function going(of: Derived): (until: number) => { made: number; isDone: boolean } {
  const { checking, isCut } = of;
  const { isAtCircuit } = checking;
  const hasComeOn = () => !isCut && (isAtCircuit ? of.isCut : checking.isAtCircuit);
  return (until) => {
    const made = checking.go((far) => {
      beat(far);
      return performance.now() > until || hasComeOn();
    });
    return { made, isDone: made === 1 || hasComeOn() };
  };
}

const turns = new Turns();

/** Goes on looking for findings, and says what came of it. */
async function part(of: Derived, milliseconds: number): Promise<OverviewChange> {
  // what was found while it was read is told at once; after another railway, it must first be known what of that one stands
  const isNew = sent ? of.isReady && sent.coming.includes("threads") : of.checking.share > 0;
  const share = isNew ? of.checking.share : await turns.go(performance.now() + milliseconds, going(of));
  // nothing is to be told before it is known what an edit left as it was
  if (sent && !of.isReady) return changeOf(sent, sent, 0);
  const now = overviewOf(of, sent);
  const next = partOf(now, sent, sent ? MOST_SENT : MOST_AT_FIRST);
  const change = changeOf(next, sent, next === now ? share : Math.min(share, LAST), isKnown);
  sent = next;
  if (share < 1) setTimeout(goAhead, 0, of, performance.now() + AHEAD);
  return change;
}

/** Longest that is gone on with while the window takes what was sent, milliseconds. */
const AHEAD = 100;

function goAhead(of: Derived, until: number): void {
  const now = performance.now();
  if (of !== derived || now >= until) return;
  const { isDone } = going(of)(Math.min(until, now + DEAF));
  if (!isDone) setTimeout(goAhead, 0, of, until);
}

/** The railway that is checked although nobody has opened it yet. */
let expected: Derived | null = null;

/** Checks a railway while nobody waits for anything. */
async function checkExpected(of: Derived): Promise<void> {
  expected = of;
  while (expected === of && of.checking.share < 1) await turns.go(performance.now() + PART, going(of));
}

/** Share that is told while all is checked but not all is sent. */
const LAST = 0.999;

/** Longest that a remedy is tried before it is asked whether something else is wanted, milliseconds. */
const TRIED = 40;

/** The remedy that is being tried. */
let trial: Trial | null = null;

function trialOf(of: Derived, key: string, label: string): Trial | null {
  const finding = of.findings.find((each) => each.key === key);
  const remedy = finding?.remedies.find((each) => each.label === label);
  return finding && remedy ? new Trial(of, finding, remedy) : null;
}

/** Time without another record after which what was found is kept, milliseconds. */
const KEPT_AFTER = 1000;
let keeping: ReturnType<typeof setTimeout> | undefined;

/** The edit of which it was asked last what it would do: one looks at one remedy at a time. */
let looksAhead: EditGroup | null = null;

const worker = {
  /**
   * Reads a railway as the server sent it, and begins with what the record alone tells, or with all of it where nobody waits; what comes
   * next is said against it. One that the window has to look at thing by thing is left to it.
   * @param isExpected nobody has opened it yet
   */
  async readAhead(headers: [string, string][], bytes: ArrayBuffer, isExpected: boolean): Promise<void> {
    turns.hurry();
    expected = null;
    derived = null;
    if (new Headers(headers).get(FORM_HEADER) !== RECORD_FORM) return;
    const { id: railwayId, revision, stamp, record } = JSON.parse(new TextDecoder().decode(bytes)) as OpenRailway;
    received = workedOn(record);
    if (isExpected) {
      // what fails fails again when it is asked for, and is told then
      checkExpected(derive(received)).catch(() => {});
      return;
    }
    // what is known already is told before anything is worked out
    if (await kept.known({ railwayId, revision, stamp })) return;
    going(derive(received))(performance.now() + OPENED);
  },

  /**
   * The railway as far as it is checked within a moment, or what is known of it from earlier; the rest is asked for by `more`.
   * @param anew everything is wanted, not only what changed since the last answer
   * @param of how the record stands on the server; null while it does not
   */
  async overview(record: SentRecord, anew: boolean, of: Standing | null): Promise<OverviewChange> {
    turns.hurry();
    expected = null;
    received = receivedRecord(record, received);
    isKnown = false;
    trial = null;
    if (anew) {
      sent = null;
      const known = of && (await kept.known(of));
      if (known) {
        isKnown = true;
        sent = knownOverview(known);
        return changeOf(sent, null, 0, isKnown);
      }
    }
    return part(derive(received), anew ? OPENED : FIRST_PART);
  },

  /** What was found since the last answer; null while there is no record. */
  async more(): Promise<OverviewChange | null> {
    return received && part(derive(received), PART);
  },

  /** Keeps all that was found, for when the railway is opened again as it stands; a moment later, if no other record comes before. */
  keep(of: Standing): void {
    clearTimeout(keeping);
    const found = derived;
    const keepIt = () => {
      if (found !== derived || found?.checking.share !== 1) return;
      void kept.keep(of, { findings: found.findings, loads: found.loads });
    };
    // what was known is kept already
    if (!isKnown) keeping = setTimeout(keepIt, KEPT_AFTER);
  },

  /** Another question waits: what is worked on is answered with what there is. */
  hurry(): void {
    turns.hurry();
  },

  focus({ turnoutId, thrown, by, moment, red, black, range, kind, lamp, ...before }: Focus): FocusResult {
    const thread = derived?.schematic.threads.find(({ turnout }) => turnout.id === turnoutId);
    const acting = thread?.turnout.id ?? null;
    // a control that was named may be gone by now, or ask for the other position only
    const position = ownOf(before.asked, thread?.turnout.id ?? "") ?? "N";
    const control =
      thread &&
      controlsOf(thread).find(({ assignment: { id, to } }) => id === by && (to === null || to === position))?.assignment
        .id;
    const along = derived && acting ? derived.circuitry.along(acting, position, control) : {};
    const asked = thrown === acting ? { ...before.asked, ...along } : before.asked;
    const state: RailwayState = {
      asked,
      moment: acting ? moment : "rest",
      acting: moment === "rest" ? null : acting,
      off: false,
      ...(control ? { by: control } : {}),
    };
    return {
      turnoutId,
      probes: { red, black },
      reading: derived && thread ? derived.reading(thread, position, moment, control) : null,
      along,
      sheet: derived && acting ? derived.sheet(acting) : [],
      situations: derived && thread && lamp ? derived.situations(thread) : [],
      meter: derived && red && black ? measure(derived.circuitry, red, black, range, state, undefined, kind) : null,
    };
  },

  /**
   * What an edit would do to the findings, before it is made; null while nothing is derived, and when another record came meanwhile,
   * or the question what another edit would do.
   */
  async consequences(group: EditGroup): Promise<Consequence | null> {
    const before = derived;
    looksAhead = group;
    if (!before) return null;
    const after = new Derived(edit(before.record, group.edits).record, before);
    for (const each of [before, after]) {
      while (each.checking.share < 1) {
        await turns.go(performance.now() + PART, going(each));
        if (before !== derived || group !== looksAhead) return null;
      }
    }
    return consequencesOf(before, group, after);
  },

  /** A net, or the commons of a zone, laid in each way, with what it takes and what arrives. */
  layings(of: { netId: string } | { zoneId: string }): LaidAs[] {
    if (!derived) return [];
    return "netId" in of ? compareLayings(derived, of.netId) : compareLayingsIn(derived, of.zoneId);
  },

  /** The button of a route pressed, solved; null when it is gone. @param key of its row in the board's matrix */
  routePress(boardId: string, key: string): RoutePress | null {
    const matrix = derived && matrixOfBoard(derived.record, boardId);
    return derived && matrix
      ? routePress(derived.record, derived.circuitry, derived.schematic.threads, matrix, key)
      : null;
  },

  /** What the discharge units of routes could be. */
  unitDesigns(): UnitDesign[] {
    return derived ? unitDesigns(derived.record, derived.circuitry, derived.schematic.threads) : [];
  },

  /**
   * Whether a remedy, made and solved, cures a finding; false when either is gone, null when it is not known yet: it is gone on with
   * when asked again. @param label of the remedy
   */
  cures(key: string, label: string): boolean | null {
    const isTried = trial && trial.before === derived && trial.finding.key === key && trial.remedy.label === label;
    if (!isTried) trial = derived && trialOf(derived, key, label);
    if (!trial) return false;
    const until = performance.now() + TRIED;
    const cures = trial.go(() => performance.now() > until);
    if (cures !== null) trial = null;
    return cures;
  },

  /** How much is left open. */
  openEnds(): number {
    return derived ? openEnds(derived.record).length : 0;
  },

  proving(): ProvingCounts {
    const counts: ProvingCounts = {};
    for (const thread of derived?.schematic.threads ?? []) {
      const states = derived?.standings(thread) ?? [];
      const of = (state: string) => states.filter((each) => each === state).length;
      counts[thread.turnout.id] = {
        steps: states.length,
        passed: of("passed"),
        failed: of("failed"),
        stale: of("stale"),
      };
    }
    return counts;
  },
};

export type DeriveWorker = typeof worker;
expose(worker);
