import { figureValue } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { junctionVolts, RECTIFIER } from "../circuit/elements.ts";
import { changeType } from "../equip/devices.ts";
import type { Circuitry } from "../readings/circuitry.ts";
import { inputNode } from "../readings/models.ts";
import { secondsAbove } from "../readings/pulse.ts";
import { combined, NO_SPREAD, shareBelow } from "../readings/spread.ts";
import type { RailwayState } from "../readings/states.ts";
import { ALL_MOVING, AT_REST, stateFor } from "../readings/threadReading.ts";
import { feederOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { asksBy, controlSides } from "../schematic/recipes/controlSides.ts";
import { heardAt } from "../schematic/recipes/controlToInputs.ts";
import { relaysOf } from "../schematic/recipes/relayBesideMotor.ts";
import { controlsOf, type Fitted, supplyOf, type Thread } from "../schematic/thread.ts";
import { milliseconds, volts } from "../units/format.ts";
import { isMotor, movedIn } from "./motorOverVolts.ts";
import { type Look, POSITIONS, type Remedy, rule } from "./rule.ts";
import { otherSupplies, outOfRange } from "./supplyOutOfRange.ts";
import { suitsDriver } from "./wrongKindForOutput.ts";

interface Barely {
  at: Fitted;
  /** What it does when it gets enough, as part of a sentence. */
  does: string;
  /** What it gets, and from which on it does that; volts, or seconds of a pulse. */
  gets: number;
  least: number;
  unit: "V" | "s";
  /** Share of builds of these parts in which it does not. */
  share: number;
  thread: Thread;
}

/** Fewer builds than this that fail are none that matter. */
const FEW = 1e-3;

/**
 * What gets more than this many times its least is in no danger: no chain of parts differs by that much; a regulator's output
 * by still less.
 */
const SAFE = 1.4;
const SAFE_REGULATED = 1.08;

export const barelySwitches = rule<Barely>({
  id: "barely-switches",
  stage: "equip",
  column: null,
  severity: ({ share }) => (share > OFTEN ? "stop" : "look"),
  title: "By its parts' tolerances, something may not switch",
  about:
    "Supplies, resistors and coils differ from what is printed on them, and so does the least by which a relay picks up or a motor starts. What works on paper by a few tenths of a volt works in one build and not in the next, or not on a warm day. The rule looks at relays, stall motors, servos and boards' inputs that get little more than they need: how far each part of the chain may bring them, all parts independent, and in how many of such builds it is too little. A latching relay also needs its volts for some milliseconds.",
  look: (look) => look.inThreads("barely switches", (thread) => barelyOn(look, thread)),
  subject: ({ at }) => at.device.id,
  where: ({ at }) => at.device.label,
  turnouts: ({ thread }) => [thread],
  why: ({ at, does, gets, least, unit, share }) => {
    const [has, needs] = unit === "V" ? [volts(gets), volts(least)] : [milliseconds(gets), milliseconds(least)];
    if (does === DROPS)
      return `At normal ${at.device.label} keeps ${has}, and ${does} only below ${needs}: by the tolerances of its parts ${failing(share)}.`;
    if (does === COUNTS)
      return `An input of ${at.device.label} is pulled down to ${has}, and ${does} below ${needs}: by the tolerances of its parts ${failing(share)}.`;
    const what = unit === "V" ? "gets" : "has its volts for";
    return `${at.device.label} ${what} ${has}, and ${does} from ${needs} on: by the tolerances of its parts ${failing(share)}.`;
  },
  remedies: (found, { record }) => [...otherRelay(record, found), ...otherVolts(record, found)],
  caution: ({ at }) => at.type,
});

/** From this share of builds on it is a mistake rather than a risk. */
const OFTEN = 0.1;

/** @example failing(0.05) // "one such build in 20 fails" */
function failing(share: number): string {
  if (share > 0.999) return "every such build fails";
  return share > HALF
    ? `${Math.round(share * 100)} of 100 such builds fail`
    : `one such build in ${Math.round(1 / share)} fails`;
}

/** What gets so little on a thread that some builds fail. */
function barelyOn(look: Look, thread: Thread): Barely[] {
  return look.remember(thread, "barely", () => {
    const found = [
      ...ofMotors(look, thread),
      ...ofRelays(look, thread),
      ...ofRelayBoards(look, thread),
      ...ofLocks(look, thread),
      ...ofInputs(look, thread),
    ];
    return found.filter(({ share }) => share >= FEW);
  });
}

/** Whether a device of a thread does not switch even if all its parts are as printed: what follows from that is told of it. */
export function failsAsPrinted(look: Look, thread: Thread, deviceId: string): boolean {
  return barelyOn(look, thread).some(({ at, share }) => at.device.id === deviceId && share > HALF);
}

/** Parts as printed are the middle of all builds. */
const HALF = 0.45;

/** Volts that are looked at more closely because they are little more than what is needed. */
function shareOf(
  circuitry: Circuitry,
  [plus, minus]: readonly [string, string],
  states: readonly RailwayState[],
  { value: least, tolerance }: { value: number; tolerance: number },
  safe = SAFE,
): { gets: number; share: number } | null {
  const each = states.map((state) => ({ state, gets: Math.abs(circuitry.volts(plus, minus, state) ?? 0) }));
  const [lowest] = each.sort((a, b) => a.gets - b.gets);
  if (!lowest || lowest.gets > least * safe) return null;
  const spread = circuitry.spreadOf(plus, minus, lowest.state)?.spread;
  return spread ? { gets: lowest.gets, share: shareBelow(lowest.gets, spread, least, tolerance) } : null;
}

/** Stall motors, servos and arms where they get least. */
function ofMotors(look: Look, thread: Thread): Barely[] {
  const { circuitry } = look;
  return movedIn(thread).flatMap((motor): Barely[] => {
    const { device, type, driver } = motor;
    const { leastVolts } = type.figures;
    const by = traitsOf(type).movedBy;
    if (!leastVolts || !driver || (by !== "reversal" && by !== "signal")) return [];
    if ((isMotor(motor) && !suitsDriver(thread, motor)) || outOfRange(look, driver.device)) return [];
    // a servo takes most while all of them move; a stall motor when it stalls, unless its control lets go of it
    const isSprung = asksBy(thread.control) === "poles" && !thread.control?.type.maintained;
    const states = POSITIONS.map((position) =>
      by === "signal" ? ALL_MOVING[position] : isSprung ? stateFor(thread, position, "throwing") : AT_REST[position],
    );
    const ends = [`${device.id}:+`, `${device.id}:−`] as const;
    const found = shareOf(circuitry, ends, states, leastVolts, by === "signal" ? SAFE_REGULATED : SAFE);
    // a motor that gets too little for certain does not move, which is told otherwise
    if (!found || (isMotor(motor) && found.gets < leastVolts.value)) return [];
    return [{ at: motor, does: "runs", least: leastVolts.value, unit: "V", thread, ...found }];
  });
}

/** Relays beside motors: held ones by their volts at reverse, latching ones by how long the pulse lasts. */
function ofRelays({ circuitry }: Look, thread: Thread): Barely[] {
  return relaysOf(thread).flatMap(({ relay, motor }): Barely[] => {
    const { pullInVolts, operateSeconds } = relay.type.figures;
    if (!pullInVolts) return [];
    const { id } = relay.device;
    if (traitsOf(relay.type).relay === "held") {
      const found = shareOf(circuitry, [`${id}:coil`, `${id}:A2`], [AT_REST.R], pullInVolts);
      // one that gets nothing at all hangs on a motor that gets nothing
      return [
        ...(found && found.gets > pullInVolts.value / 2
          ? [{ at: relay, does: "picks up", least: pullInVolts.value, unit: "V" as const, thread, ...found }]
          : []),
        ...staysUp(circuitry, thread, relay),
      ];
    }
    if (!operateSeconds) return [];
    const shortest = POSITIONS.flatMap((position) => {
      const state = stateFor(thread, position, "throwing");
      const coil = motor.assignment.crossed ? (position === "N" ? "R" : "N") : position;
      const pulse = circuitry.pulse(motor.device.id, coil, state);
      return pulse && pulse.joules > 0 ? [secondsAbove(pulse, pullInVolts.value)] : [];
    }).sort((a, b) => a - b)[0];
    if (shortest === undefined) return [];
    // the pulse lasts as long as its capacitor is large
    const farads = (motor.unit ?? motor.driver)?.type.figures.farads?.tolerance ?? 0;
    const share = shareBelow(shortest, combined([shortest * farads]), operateSeconds.value, operateSeconds.tolerance);
    return [{ at: relay, does: "goes over", gets: shortest, least: operateSeconds.value, unit: "s", share, thread }];
  });
}

/** A relay that keeps more volts at normal than it lets go at. */
function staysUp(circuitry: Circuitry, thread: Thread, relay: Fitted): Barely[] {
  const { dropOutVolts } = relay.type.figures;
  const { id } = relay.device;
  const gets = circuitry.volts(`${id}:coil`, `${id}:A2`, AT_REST.N) ?? 0;
  if (!dropOutVolts || gets < dropOutVolts.value / SAFE) return [];
  const spread = circuitry.spreadOf(`${id}:coil`, `${id}:A2`, AT_REST.N)?.spread ?? NO_SPREAD;
  const share = 1 - shareBelow(gets, spread, dropOutVolts.value, dropOutVolts.tolerance);
  return [{ at: relay, does: DROPS, gets, least: dropOutVolts.value, unit: "V", share, thread }];
}

/** What a relay does when its coil gets less. */
const DROPS = "drops out";

/** Relays of a board, whose controller's 5 V sag as more of them are picked up. */
function ofRelayBoards({ circuitry }: Look, thread: Thread): Barely[] {
  const used = [...thread.frogs, ...thread.lamps].flatMap(({ from, assignment }) =>
    from?.type.hears === "pins" && assignment.way !== null ? [{ at: from, way: assignment.way }] : [],
  );
  return used.flatMap(({ at, way }): Barely[] => {
    const { pullInVolts } = at.type.figures;
    if (!pullInVolts) return [];
    const across = [`${at.device.id}:RV`, `${at.device.id}:coil${way}`] as const;
    // the position at which it is to be picked up
    const gets = (position: "N" | "R") => Math.abs(circuitry.volts(...across, AT_REST[position]) ?? 0);
    const up = gets("N") > gets("R") ? "N" : "R";
    const found = shareOf(circuitry, across, [AT_REST[up]], pullInVolts);
    return found && found.gets > pullInVolts.value / 2
      ? [{ at, does: `picks up relay ${way}`, least: pullInVolts.value, unit: "V", thread, ...found }]
      : [];
  });
}

/** Relays that lock a control out when a key picks them up: by what stands at the key, less their own diode. */
function ofLocks({ record, circuitry }: Look, thread: Thread): Barely[] {
  return controlsOf(thread).flatMap(({ lock }): Barely[] => {
    const pullInVolts = lock?.type.figures.pullInVolts;
    if (!lock || !pullInVolts || traitsOf(lock.type).relay !== "held") return [];
    const keyId = feederOf(record, lock.device.id, "commands");
    if (keyId === null) return [];
    const diode = junctionVolts(RECTIFIER, pullInVolts.value / figureValue(lock.type, "coilOhms"));
    const least = { ...pullInVolts, value: pullInVolts.value + diode };
    const found = shareOf(circuitry, [`${keyId}:C`, `${lock.device.id}:A2`], [AT_REST.N], least);
    if (!found || found.gets < least.value / 2) return [];
    return [{ at: lock, does: "picks up", least: least.value, unit: "V", thread, ...found }];
  });
}

/** Inputs that a control pulls to 0 V, which has to be below what counts as closed. */
function ofInputs({ circuitry }: Look, thread: Thread): Barely[] {
  return controlsOf(thread).flatMap((control): Barely[] => {
    const heard = heardAt(thread, control);
    const thresholdVolts = heard?.board.type.figures.thresholdVolts;
    if (!heard || !thresholdVolts) return [];
    const { board } = heard;
    const sides = controlSides(control);
    return (["N", "R", "press"] as const).flatMap((side): Barely[] => {
      if (sides[side] === null) return [];
      const asked = side === "press" ? "N" : side;
      const state = stateFor(thread, asked, "throwing", control.assignment.id);
      const ends = [`${board.device.id}:${inputNode(board.type, heard[side])}`, `${board.device.id}:−`] as const;
      const gets = circuitry.volts(...ends, state);
      // far below is no matter, and what does not close at all is told otherwise
      if (gets === undefined || gets < thresholdVolts.value / SAFE || gets > thresholdVolts.value) return [];
      const spread = circuitry.spreadOf(...ends, state)?.spread ?? NO_SPREAD;
      const share = 1 - shareBelow(gets, spread, thresholdVolts.value, thresholdVolts.tolerance);
      return [{ at: board, does: COUNTS, gets, least: thresholdVolts.value, unit: "V", share, thread }];
    });
  });
}

/** What an input does when a control pulls it down far enough. */
const COUNTS = "counts as closed";

/** A relay of fewer volts across a motor's leads, which leave it some 8 of 12 V. */
function otherRelay(record: RailwayRecord, { at, unit, does }: Barely): Remedy[] {
  if (unit !== "V" || does === DROPS || does === COUNTS || traitsOf(at.type).relay !== "held" || at.type.id === LESS)
    return [];
  const label = `Take a relay of 9 V for ${at.device.label}`;
  return [{ label, group: changeType(record, at.device.id, LESS) }];
}

const LESS = "relay-dpdt-9";

/** A supply of more volts for what drives a motor. */
function otherVolts(record: RailwayRecord, { at, thread, gets, unit }: Barely): Remedy[] {
  const motor = movedIn(thread).find(({ device }) => device.id === at.device.id);
  const { leastVolts, mostVolts } = at.type.figures;
  if (!motor?.driver || !leastVolts || !mostVolts || unit !== "V") return [];
  const { driver } = motor;
  const supply = traitsOf(driver.type).gives === "dc" ? driver : supplyOf(record, driver.device.id);
  const least = leastVolts.value * 1.1;
  return supply && traitsOf(supply.type).gives === "dc"
    ? otherSupplies(record, { supply, gets, least, most: mostVolts.value })
    : [];
}
