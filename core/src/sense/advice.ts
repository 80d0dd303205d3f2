import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { KnownFrom } from "../record/notes.ts";
import { recordError } from "../record/problems.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { turnAt } from "./edits.ts";
import { keyOf, type Ledger, type Link, ledgerOf } from "./ledger.ts";
import { PLACES } from "./places.ts";
import { solveParity } from "./solveParity.ts";

/** One thing to be turned round by hand: where, what it takes, what it changes. */
export interface Flip {
  link: Link;
  /** What is done, as "Swap the leads at M2". */
  words: string;
  minutes: number;
  stored: string;
  /** A reset of the device undoes it. */
  reset: boolean;
  /** Labels of the turnouts that it turns. */
  scope: string[];
  /** Labels of the outcomes that it would turn wrong, which are right now. */
  spoils: string[];
}

/** What to do about a turnout that does the opposite of what it is asked. */
export interface Advice {
  /** The fewest flips that put everything right, the cheapest of those; empty when all is right. */
  plan: Flip[];
  /** Every single flip that puts the turnout right, the cheapest first; empty when it takes more than one. */
  singles: Flip[];
}

/** Weighs a flip more than any number of minutes. */
const ONE_FLIP = 10_000;

/** Places that several turnouts share. */
const SHARED = "inputs";

/**
 * What to turn round, by what is written in the ledger: the fewest flips for this turnout and all others with which it
 * shares a place, so that what is wrong at a whole board is put right there.
 */
export function adviceFor(record: RailwayRecord, threads: readonly Thread[], thread: Thread): Advice {
  const ledger = ledgerOf(record, thread);
  if (!ledger.outcomes.some(({ wrong }) => wrong)) return { plan: [], singles: [] };
  const shared = ledger.links.filter(({ link }) => link === SHARED);
  const keys = new Set(shared.map(({ key }) => key));
  const beside = threads
    .filter((other) => other.turnout.id !== thread.turnout.id)
    .map((other) => ledgerOf(record, other))
    .filter(({ links }) => links.some(({ key }) => keys.has(key)));
  const group = [ledger, ...beside];
  const best = cheapest(group, shared);
  const plan = best.map(({ link, of }) => flipAt(link, of, group));
  const singles = ledger.links
    .filter((link) => PLACES[link.link].turn !== null && cures(ledger, link))
    .map((link) => flipAt(link, ledger, group))
    .sort((a, b) => a.spoils.length - b.spoils.length || a.minutes - b.minutes);
  return { plan: plan.sort((a, b) => a.minutes - b.minutes), singles };
}

/** The cheapest set of flips for a group of ledgers, tried with every choice of the places that they share. */
function cheapest(group: readonly Ledger[], shared: readonly Link[]): { link: Link; of: Ledger }[] {
  let best: { flips: { link: Link; of: Ledger }[]; cost: number } | null = null;
  for (let choice = 0; choice < 1 << shared.length; choice++) {
    const turned = shared.filter((_, index) => (choice >> index) & 1);
    const flips = turned.map((link) => ({ link, of: group[0] as Ledger }));
    let cost = turned.reduce((sum, { link }) => sum + ONE_FLIP + PLACES[link].minutes, 0);
    for (const ledger of group) {
      const own = ledger.links.filter(({ link }) => link !== SHARED && PLACES[link].turn !== null);
      const wrong = wrongBits(ledger) ^ bitsOf(ledger, new Set(turned.map(({ key }) => key)));
      const turns = own.map((link) => ({ bits: flipBits(ledger, link), cost: ONE_FLIP + PLACES[link.link].minutes }));
      const found = solveParity(turns, wrong);
      if (!found) {
        cost = Number.POSITIVE_INFINITY;
        break;
      }
      for (const index of found) {
        flips.push({ link: own[index] as Link, of: ledger });
        cost += turns[index]?.cost ?? 0;
      }
    }
    if (cost < (best?.cost ?? Number.POSITIVE_INFINITY)) best = { flips, cost };
  }
  return best?.flips ?? [];
}

function wrongBits({ outcomes }: Ledger): bigint {
  return bitsWhere(outcomes, ({ wrong }) => wrong);
}

/** A bit for each of a list that meets a condition. */
function bitsWhere<T>(list: readonly T[], meets: (each: T) => boolean): bigint {
  return list.reduce((bits, each, index) => (meets(each) ? bits | (1n << BigInt(index)) : bits), 0n);
}

/** Outcomes that change when the places with these keys turn. */
function bitsOf({ outcomes }: Ledger, keys: ReadonlySet<string>): bigint {
  return bitsWhere(outcomes, ({ chain }) => chain.filter((key) => keys.has(key)).length % 2 === 1);
}

/** Outcomes that change when somebody turns a place by hand; a motor that is turned round takes its contacts with it. */
function flipBits(ledger: Ledger, link: Link): bigint {
  return bitsOf(ledger, new Set(turnedWith(link).map(keyOf)));
}

/** The places that turn when one is turned by hand. */
function turnedWith({ link, deviceId, way }: Link) {
  const at = { link, deviceId, way };
  return link === "mounting" ? [at, { ...at, link: "contact" as const }] : [at];
}

function cures(ledger: Ledger, link: Link): boolean {
  return flipBits(ledger, link) === wrongBits(ledger);
}

function flipAt(link: Link, of: Ledger, group: readonly Ledger[]): Flip {
  const { turn, minutes, stored, reset } = PLACES[link.link];
  const touched = group.filter(({ links }) => links.some(({ key }) => key === link.key));
  const spoils = touched.flatMap((ledger) => {
    const bits = flipBits(ledger, link);
    return ledger.outcomes
      .filter(({ wrong }, index) => !wrong && (bits >> BigInt(index)) & 1n)
      .map(({ what, label }) => `${what} of ${label}`);
  });
  return {
    link,
    words: `${turn ?? PLACES[link.link].name} at ${link.at}`,
    ...{ minutes, stored, reset },
    scope: touched.length > 0 ? touched.map(({ label }) => label) : [of.label],
    spoils,
  };
}

/** Writes down that a place was turned round by hand. */
export function recordFlip(record: RailwayRecord, link: Link, at: string): EditGroup {
  const draft = new Draft(record);
  for (const each of turnedWith(link)) {
    const now = each.link === link.link ? link.inverts : isTurned(draft.record, each);
    const flipped = each.link === link.link;
    turnAt(draft, each, !now, { flipped, at, ...(flipped ? { known: "seen" as const, note: "" } : {}) });
  }
  return draft.group(`${PLACES[link.link].turn ?? PLACES[link.link].name} at ${link.at}`);
}

function isTurned(record: RailwayRecord, at: Parameters<typeof keyOf>[0]): boolean {
  const key = keyOf(at);
  return record.senses.some((sense) => sense.inverts && keyOf(sense) === key);
}

/** How unlikely it is that a place is otherwise than it is known. */
const TRUST: Record<KnownFrom, number> = { assumed: 1, drawn: 30, heard: 300, seen: 300, metered: 3000 };

/** The places where things are most often other than thought, the likeliest first (common practice). */
const DOUBTFUL: readonly string[] = ["contact", "mounting", "leads", "event", "linkage", "setting", "lamp", "frog"];

/**
 * Takes what was seen into the ledger: where it is not what the ledger foretold, the places of which least is known are put
 * down as turned, so that it foretells what was seen.
 *
 * @param seen outcomes by their key: whether each did the opposite of what was asked; those not named were not looked at
 * @returns the edits with the places put down, or null when the ledger foretold just that
 * @throws {RecordError} when no places could make all of it so
 */
export function explain(
  record: RailwayRecord,
  ledger: Ledger,
  seen: Readonly<Record<string, boolean>>,
  at: string,
): { group: EditGroup; places: Link[] } | null {
  const looked = ledger.outcomes.filter(({ key }) => key in seen);
  const other = looked.map(({ key, wrong }) => seen[key] !== wrong);
  if (!other.includes(true)) return null;
  const few: Ledger = { ...ledger, outcomes: looked };
  const turns = ledger.links.map((link) => {
    const doubt = DOUBTFUL.indexOf(link.link);
    const shared = link.link === SHARED ? 50 : 0;
    const cost = TRUST[link.known] * (1 + (doubt < 0 ? DOUBTFUL.length : doubt) / 100) + shared;
    return { bits: bitsOf(few, new Set([link.key])), cost };
  });
  const wanted = bitsWhere(other, (is) => is);
  const found = solveParity(turns, wanted);
  if (!found)
    throw recordError(
      `Not all of that can be so at once: ${list(looked.map(({ what, label }) => `${what} of ${label}`))} hang on the same places. Look again.`,
    );
  const places = found.map((index) => ledger.links[index] as Link);
  const draft = new Draft(record);
  for (const link of places)
    turnAt(draft, link, !link.inverts, { known: "seen", note: "put down by what was seen", at });
  const wrong = looked.filter(({ key }) => seen[key]).map(({ what, label }) => `${what} of ${label}`);
  const words = wrong.length > 0 ? `Saw ${list(wrong)} go the other way` : "Saw everything go as asked";
  return { group: draft.group(`${words}: put down to ${list(places.map(({ at: where }) => where))}`), places };
}

/** What is still guessed, and what it may cost. */
export interface Guess {
  /** Places of which nothing is known. */
  unknown: number;
  /** Outcomes that hang on at least one of them. */
  open: number;
  /** Swaps to be expected when all are simply tried: half of what is open. */
  swaps: number;
  tryMinutes: number;
  /** Minutes to find out all unknown places instead. */
  measureMinutes: number;
}

/** Minutes to throw a turnout both ways and look (common practice). */
const LOOK_MINUTES = 1;

/** What trying costs, and what measuring first costs, over some ledgers. */
export function guessOf(ledgers: readonly Ledger[]): Guess {
  const unknown = new Map<string, Link>();
  let open = 0;
  let swapMinutes = 0;
  for (const { links, outcomes } of ledgers) {
    for (const link of links) if (link.known === "assumed") unknown.set(link.key, link);
    for (const { chain } of outcomes) {
      const guessed = links.filter(({ key, known }) => known === "assumed" && chain.includes(key));
      if (guessed.length === 0) continue;
      open++;
      const costs = guessed.filter(({ link }) => PLACES[link].turn !== null).map(({ link }) => PLACES[link].minutes);
      swapMinutes += Math.min(...costs, 5) / 2;
    }
  }
  return {
    unknown: unknown.size,
    open,
    swaps: open / 2,
    tryMinutes: open * LOOK_MINUTES + swapMinutes,
    measureMinutes: [...unknown.values()].reduce((sum, { link }) => sum + PLACES[link].findMinutes, 0),
  };
}
