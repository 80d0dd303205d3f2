import { figureValue } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Element } from "../circuit/elements.ts";
import { type Circuitry, type Extra, SHORT_OHMS } from "../readings/circuitry.ts";
import type { RailwayState } from "../readings/states.ts";
import { AT_REST, stateFor } from "../readings/threadReading.ts";
import type { Position } from "../record/schemas.ts";
import { controlsOf, supplyOf, type Thread, type ThreadLamp } from "../schematic/thread.ts";
import { type Knows, knowledgeOf } from "./knowledge.ts";

/** What an indicator shows: a position, both at once, nothing, or whatever it showed before. */
export type Shows = Position | "both" | "dark" | "as before";

/** What an indicator shows in one situation, while the turnout lies at normal and at reverse. */
export interface Situation {
  what: string;
  N: Shows;
  R: Shows;
  /** Whether somebody who looks at it is told the truth, told nothing, or deceived. */
  tells: "truth" | "nothing" | "lie";
}

/**
 * What the lamp of a thread shows when all is well and when something is not: each wire open, each two wires shorted, no
 * power, a dead frog - from the solved circuit of that state - and what follows from what it knows: a motor that sticks, a
 * link that came off, the computer off.
 */
export function situationsOf(circuitry: Circuitry, thread: Thread): Situation[] {
  const { lamp } = thread;
  const knowledge = knowledgeOf(thread);
  if (!lamp || !knowledge) return [];
  const faults = lamp.type.leads ? wiredFaults(circuitry, thread, lamp) : unwiredFaults(circuitry, thread, lamp);
  return [...faults, ...beyondWires(knowledge.knows, thread)];
}

function situation(what: string, N: Shows, R: Shows): Situation {
  const wrong = (shown: Shows, position: Position) => (shown === "N" || shown === "R") && shown !== position;
  const tells = wrong(N, "N") || wrong(R, "R") ? "lie" : N === "N" && R === "R" ? "truth" : "nothing";
  return { what, N, R, tells };
}

function wiredFaults(circuitry: Circuitry, thread: Thread, lamp: ThreadLamp): Situation[] {
  const { device, type, from } = lamp;
  const [normal, reverse, common] = type.leads as readonly [string, string, string];
  const key = (lead: string) => `${device.id}:${lead}`;
  const name = (lead: string) => type.terminals.find((each) => each.name === lead)?.about.split(",")[0] ?? lead;
  const at = (position: Position, extra: Extra, off = false) =>
    shown(circuitry, lamp, { ...stateFor(thread, position, "rest"), off }, extra);
  const both = (what: string, extra: Extra, off = false) => situation(what, at("N", extra, off), at("R", extra, off));
  const open = (lead: string, what: string) => both(`${what} open`, { elements: [], loose: new Set([key(lead)]) });
  const shorted = (a: string, b: string, what: string) => {
    const bridge: Element = { kind: "resistor", id: "bridge", nodes: [key(a), key(b)], ohms: SHORT_OHMS };
    return both(`${what} touch`, { elements: [bridge] });
  };
  const supply = supplyOf(circuitry.record, device.id)?.device.label;
  const dead =
    traitsOf(from.type).inTrack === "frog" ? "no track power" : supply ? `no power at ${supply}` : "no power";
  return [
    both("all in order", { elements: [] }),
    open(normal, `wire of ${name(normal)}`),
    open(reverse, `wire of ${name(reverse)}`),
    open(common, "common wire"),
    shorted(normal, reverse, "the two colours' wires"),
    shorted(normal, common, `${name(normal)} and common`),
    shorted(reverse, common, `${name(reverse)} and common`),
    both(dead, { elements: [] }, true),
    ...(traitsOf(from.type).inTrack === "frog"
      ? [both("frog dead", { elements: [], loose: deadFrog(thread, from.device.id) })]
      : []),
  ];
}

/** The terminals whose wires feed a frog; open, they leave it dead while the lamp stays joined to it. */
function deadFrog({ frogs }: Thread, frogId: string): Set<string> {
  const frog = frogs.find(({ device }) => device.id === frogId);
  if (!frog?.from) return new Set();
  const way = frog.assignment.way ?? 1;
  return new Set([`${frog.from.device.id}:${frog.from.type.contactSets > 0 ? `S${way}c` : "F"}`]);
}

/** A semaphore without power stays where it stands; a flag needs none. */
function unwiredFaults(circuitry: Circuitry, thread: Thread, lamp: ThreadLamp): Situation[] {
  const shows = (position: Position): Shows => {
    if (traitsOf(lamp.type).movedBy === "signal")
      return circuitry.semaphoreShows(lamp, AT_REST[position]) ?? "as before";
    const [motor] = thread.motors;
    return motor ? (circuitry.motorGoesTo(motor.device.id, AT_REST[position]) ?? "as before") : "as before";
  };
  const well = situation("all in order", shows("N"), shows("R"));
  if (traitsOf(lamp.type).movedBy !== "signal") return [well];
  return [
    well,
    situation("signal wire open", "as before", "as before"),
    situation("no power", "as before", "as before"),
  ];
}

/** What the solved circuit does not hold: things that move, and whoever sends the commands. */
function beyondWires(knows: Knows, thread: Thread): Situation[] {
  // the motor stays at normal whatever is asked, so that at reverse the blades are not where they should be
  const rows: Situation[] = [];
  const row = (what: string, tells: Situation["tells"], R: Shows) => rows.push({ what, N: "N", R, tells });
  if (knows === "command") row("asked for R, the motor sticks at N", "lie", "R");
  else row("asked for R, the motor sticks at N", "truth", "N");
  if (knows === "blades") row("asked for R, the link came off at N", "truth", "N");
  else if (knows === "last train") row("asked for R, the link came off at N", "truth", "N");
  else row("asked for R, the link came off at N", "lie", "R");
  if (byMessages(thread)) {
    rows.push(
      knows === "command"
        ? { what: "computer or command station off", N: "as before", R: "as before", tells: "nothing" }
        : { what: "computer or command station off", N: "N", R: "R", tells: "truth" },
    );
  }
  return rows;
}

/** Whether a turnout's commands pass through a computer or command station. */
function byMessages(thread: Thread): boolean {
  const driver = thread.motors[0]?.driver;
  const read = controlsOf(thread).some(({ reader }) => reader !== null);
  const own = controlsOf(thread).length > 0 && (driver?.type.ownInputs ?? false);
  return read || (driver?.type.hears !== undefined && !own) || driver?.type.hears === "bus";
}

/** What lights in a state, with something amiss. */
function shown(circuitry: Circuitry, { device, type }: ThreadLamp, state: RailwayState, extra: Extra): Shows {
  const [normal, reverse] = type.leads as readonly [string, string, string];
  const least = figureValue(type, "leastAmps");
  const key = `${device.id}:${normal}`;
  const lit = { normal: false, reverse: false };
  const halves: RailwayState[] = circuitry.isOnTrack(key) ? [state, { ...state, half: -1 }] : [state];
  for (const half of halves) {
    const point = circuitry.solveWith(key, half, extra)?.circuit.point();
    if ((point?.amps(`${device.id}.${normal}`) ?? 0) >= least) lit.normal = true;
    if ((point?.amps(`${device.id}.${reverse}`) ?? 0) >= least) lit.reverse = true;
  }
  if (lit.normal && lit.reverse) return "both";
  return lit.normal ? "N" : lit.reverse ? "R" : "dark";
}
