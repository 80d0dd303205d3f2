import { traitsOf } from "../catalogue/traits.ts";
import { followControls } from "../events/edits.ts";
import { eventPlan } from "../events/plan.ts";
import { toldOutputs } from "../events/told.ts";
import type { Pulse } from "../readings/pulse.ts";
import { actsFor } from "../readings/states.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Position } from "../record/schemas.ts";
import { isLeftOn, type Thread, type ThreadMotor } from "../schematic/thread.ts";
import { adviceFor, recordFlip } from "../sense/advice.ts";
import { NEVER } from "../sense/edits.ts";
import { ledgerOf } from "../sense/ledger.ts";
import { PLACES } from "../sense/places.ts";
import { list, volts } from "../units/format.ts";
import { lostOf } from "./pulseLostInWire.ts";
import { pulseWords } from "./pulseWords.ts";
import { leadNames, putOnDischargeUnit, swapLeads } from "./remedies.ts";
import { type Look, POSITIONS, type Remedy, rule } from "./rule.ts";
import { lacks } from "./turnoutIncomplete.ts";
import { weakOn } from "./unitTooWeak.ts";
import { suitsDriver } from "./wrongKindForOutput.ts";

interface Astray {
  /** Threads and motors that fail alike, all on one driver. */
  threads: Thread[];
  motors: ThreadMotor[];
  position: Position;
  went: Position | null;
  /** Label of the driver and the volts it has to give at rest. */
  driver: { id: string; label: string; volts: number };
  /** The pulse of a coil whose slug does not even begin to move. */
  pulse: Pulse | null;
  /** What turns it the other way, as parts of a sentence. */
  causes: string[];
}

export const goesAstray = rule<Astray>({
  id: "goes-astray",
  stage: "equip",
  column: "motor",
  severity: ({ went }) => (went === null ? "stop" : "look"),
  title: "A motor does not go where it is asked",
  about:
    "The rule throws each turnout in the solved circuit. Motors that get too little to move are named together with what their driver has to give; one that goes to the other side is turned somewhere between finger and blades: its leads, its mounting, a setting, an input.",
  *look(look) {
    const weak = new Map<string, Astray>();
    const turned: Astray[] = [];
    const all = yield* look.inThreads("astray", (thread) => {
      // what a unit cannot fire together, what nothing hears and what does not suit have findings of their own
      if (lacks(look, thread) || weakOn(look, thread).length > 0) return [];
      if (
        look.remember(thread, "deaf", () => isDeaf(look, thread)) ||
        thread.motors.some((motor) => !suitsDriver(thread, motor))
      )
        return [];
      return look.remember(thread, "strays", () => strays(look, thread)).map((astray) => ({ thread, astray }));
    });
    for (const { thread, astray } of all) {
      const known = weak.get(astray.driver.id);
      if (astray.went !== null) turned.push(astray);
      // a copy, since what is remembered of a thread is added to here
      else if (!known) weak.set(astray.driver.id, { ...astray, threads: [thread], motors: [...astray.motors] });
      else {
        if (!known.threads.includes(thread)) known.threads.push(thread);
        known.motors.push(...astray.motors);
      }
    }
    return [...weak.values(), ...turned];
  },
  subject: ({ went, driver, motors }) => (went === null ? driver.id : (motors[0]?.device.id ?? driver.id)),
  where: ({ went, driver, motors }) => (went === null ? driver.label : list(motors.map(({ device }) => device.label))),
  terminals: ({ motors }) => motors.flatMap(leadNames),
  turnouts: ({ threads }) => threads,
  why: ({ motors, position, went, driver, pulse, causes }) => {
    const named = list(motors.map(({ device }) => device.label));
    if (went === null) {
      const get = motors.length === 1 ? "gets" : "get";
      const much = pulse ? pulseWords(pulse) : "too little to move";
      return `${named} ${get} ${much}: ${driver.label} has ${volts(driver.volts)} to give.`;
    }
    const because = causes.length > 0 ? `: ${list(causes)}` : ", and nothing that is known of it says why";
    return `Asked for ${position}, ${named} goes to ${went}${because}.`;
  },
  remedies: ({ threads: [thread, ...more], motors, went }, { record, threads }) => {
    if (!thread) return [];
    if (went !== null)
      return [...turnRemedies(record, threads, thread, motors), ...eventRemedies(record, threads, motors)];
    // a supply that is too weak for a coil charges a unit all the same
    const isBare = motors.every(({ driver, unit }) => unit && driver && traitsOf(driver.type).gives === "dc");
    return isBare && more.length === 0 ? [putOnDischargeUnit(record, thread)] : [];
  },
});

/** Whether no board hears what the thread is asked for by its first control. */
function isDeaf({ circuitry }: Look, { turnout }: Thread): boolean {
  return POSITIONS.some((position) => circuitry.hears(turnout.id, position) === null);
}

/** What turns a motor's blades, by the sense ledger, as parts of a sentence. */
function causesOf(record: RailwayRecord, thread: Thread, { turnout }: ThreadMotor): string[] {
  const { links, outcomes } = ledgerOf(record, thread);
  const outcome = outcomes.find(({ what, thingId }) => what === "blades" && thingId === turnout.id);
  return links
    .filter(({ key, inverts }) => inverts && outcome?.chain.includes(key))
    .map(({ link, at }) => {
      if (link === "leads") return "its leads are crossed";
      return link === "mounting"
        ? "it is mounted the other way round"
        : `${PLACES[link].name} at ${at} ${PLACES[link].many ? "turn" : "turns"} it`;
    });
}

/** What events do to the output that drives a motor, where that is why it does not follow. */
function eventCause({ record, threads }: Look, thread: Thread, { driver }: ThreadMotor, position: Position): string[] {
  const told =
    driver &&
    toldOutputs(record, threads)
      .get(driver.device.id)
      ?.get(driver.way ?? 1);
  if (!told) return [];
  const own = told.find(({ leader }) => leader === thread.turnout.id);
  const label = `${driver.device.label}-${driver.way}`;
  if (!own || own[position] === null) return [`no event tells ${label} to go there`];
  return own[position] === (position === "R") ? [] : [`${label} acts the other way upon its events`];
}

/** Every single thing that can be turned to put a thread right; its leads first, because anybody can. */
function turnRemedies(
  record: RailwayRecord,
  threads: readonly Thread[],
  thread: Thread,
  motors: readonly ThreadMotor[],
): Remedy[] {
  const { plan, singles } = adviceFor(record, threads, thread);
  const swaps = motors.filter(({ device }) =>
    [...plan, ...singles].some(({ link }) => link.link === "leads" && link.deviceId === device.id),
  );
  const others = [...plan, ...singles.filter(({ spoils }) => spoils.length === 0)].filter(
    ({ link }) => link.link !== "leads",
  );
  const turns = new Map(
    others.map(({ link, words, reset }) => {
      const label = reset ? `${words} (a reset undoes it)` : words;
      return [link.key, { label, group: recordFlip(record, link, NEVER) }];
    }),
  );
  return [...swaps.map((motor) => swapLeads(record, motor, leadNames(motor))), ...turns.values()];
}

/** Outputs that events drive act as the controls of their turnout ask. */
function eventRemedies(record: RailwayRecord, threads: readonly Thread[], motors: readonly ThreadMotor[]): Remedy[] {
  const { outputs } = eventPlan(record, threads);
  return motors.flatMap(({ driver }): Remedy[] => {
    const output = outputs.find(({ deviceId, way }) => deviceId === driver?.device.id && way === driver.way);
    const group = output ? followControls(record, threads, output) : null;
    return group ? [{ label: group.words, group }] : [];
  });
}

/** The motors of a thread that do not follow; a pair at odds has a finding of its own. */
function strays(look: Look, thread: Thread): Astray[] {
  const { record, circuitry, threads, reading } = look;
  for (const position of POSITIONS) {
    const state = { asked: { [thread.turnout.id]: position }, moment: "rest", acting: null, off: false } as const;
    const went = thread.motors.map((motor) => circuitry.motorGoesTo(motor.device.id, state));
    const moved = new Set(went.filter((to) => to !== null));
    const found = thread.motors.flatMap((motor, index): Astray[] => {
      const to = went[index] ?? null;
      // what a route gives too little, or sends elsewhere, is told of the route
      if (to === null && actsFor(thread, position, undefined)?.route) return [];
      // what wires take has a finding of its own
      if (to === null && lostOf(look, thread, motor).length > 0) return [];
      if (to === position || (to !== null && moved.size > 1) || !motor.driver) return [];
      const { device } = motor.driver;
      // a control that is left on empties a unit for all of them, which is a finding about the control
      const { unit } = motor;
      const empties = (each: Thread) =>
        each.motors.some((other) => other.unit?.device.id === unit?.device.id) && isLeftOn(each);
      if (to === null && unit && threads.some(empties)) return [];
      return [
        {
          threads: [thread],
          motors: [motor],
          position,
          went: to,
          driver: {
            id: device.id,
            label: device.label,
            volts: Math.abs(reading(thread, position, "rest").driverVolts ?? 0),
          },
          pulse: to === null ? tooFaint(look, thread, motor, position) : null,
          causes: to === null ? [] : [...causesOf(record, thread, motor), ...eventCause(look, thread, motor, position)],
        },
      ];
    });
    if (found.length > 0) return found;
  }
  return [];
}

/** The pulse of a coil in which less flows than moves its slug; null where it moves, and for other motors. */
function tooFaint({ reading }: Look, thread: Thread, motor: ThreadMotor, position: Position): Pulse | null {
  const found = reading(thread, position, "throwing").motors.find(({ motorId }) => motorId === motor.device.id);
  const pulse = found?.pulse;
  return pulse && pulse.peakAmps < pulse.curve.moveAmps ? pulse : null;
}
