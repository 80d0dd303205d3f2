import { figureValue, findType } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { addBoardTo, copyType } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { setFeeder } from "../equip/feed.ts";
import { storesPulse } from "../readings/models.ts";
import type { Pulse } from "../readings/pulse.ts";
import { stateFor } from "../readings/threadReading.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Fitted, supplyOf, type Thread, type ThreadMotor } from "../schematic/thread.ts";
import { count, joules, milliseconds } from "../units/format.ts";
import { pulseWords } from "./pulseWords.ts";
import { type Look, POSITIONS, type Remedy, rule } from "./rule.ts";

interface TooWeak {
  thread: Thread;
  unit: Fitted;
  motors: ThreadMotor[];
  /** What the motor that gets least gets. */
  pulse: Pulse;
  least: number;
  leastSeconds: number;
}

export const unitTooWeak = rule<TooWeak>({
  id: "unit-too-weak",
  stage: "equip",
  column: "driver",
  severity: "stop",
  title: "A discharge unit is too weak for what fires together",
  about:
    "One unit fires two motors easily and up to about six. Coils thrown together share its charge: each gets a part of the energy, and the pulse is over the sooner. The rule follows the throw of each turnout through time and holds what the weakest coil gets against the least that throws it; wire counts as it is laid.",
  look: (look) => look.inThreads("unit too weak", (thread) => weakOn(look, thread)),
  subject: ({ thread }) => thread.turnout.id,
  where: ({ unit }) => unit.device.label,
  terminals: ({ motors }) => motors.map(({ device }) => device.label),
  turnouts: ({ thread }) => [thread],
  why: ({ unit, motors, pulse, least, leastSeconds }) => {
    const each = `${unit.device.label} gives each of ${count(motors.length, "motor")} ${pulseWords(pulse)}`;
    return `${each}; a firm throw takes ${joules(least)} and ${milliseconds(leastSeconds)}.`;
  },
  remedies: (found, { record }) => [...unitEach(record, found), ...moreFarads(record, found)],
  caution: ({ unit }) => unit.type,
});

/** A thread whose motors together ask more of a unit than it gives; empty when it gives enough. */
export function weakOn(look: Look, thread: Thread): TooWeak[] {
  return look.remember(thread, "too weak", () => findWeak(look, thread));
}

function findWeak({ circuitry }: Look, thread: Thread): TooWeak[] {
  const unit = thread.motors[0]?.driver;
  const motors = thread.motors.filter(
    ({ type, driver }) => traitsOf(type).movedBy === "pulse" && driver?.device.id === unit?.device.id,
  );
  const [first] = motors;
  if (!unit || !first || !storesPulse(unit.type) || motors.length < 2) return [];
  const least = figureValue(first.type, "pulseJoules");
  const leastSeconds = figureValue(first.type, "pulseSeconds");
  const pulses = POSITIONS.flatMap((position) =>
    motors.map((motor) => {
      const state = stateFor(thread, position, "throwing");
      const coil = motor.assignment.crossed ? (position === "N" ? "R" : "N") : position;
      const flows = Math.abs(circuitry.amps(motor.device.id, coil, state)) > figureValue(motor.type, "restAmps");
      return flows ? circuitry.pulse(motor.device.id, coil, state) : null;
    }),
  ).filter((pulse) => pulse !== null);
  const weakest = pulses.sort((a, b) => a.joules - b.joules)[0];
  if (!weakest || (weakest.joules >= least && weakest.secondsAboveHalf >= leastSeconds)) return [];
  // one that could not throw a single motor is weak for another reason
  if (weakest.joules * motors.length < least) return [];
  return [{ thread, unit, motors, pulse: weakest, least, leastSeconds }];
}

/** A small unit beside each motor. */
function unitEach(record: RailwayRecord, { unit, motors }: TooWeak): Remedy[] {
  if (traitsOf(unit.type).gives !== "pulse") return [];
  const draft = new Draft(record);
  const supply = supplyOf(record, unit.device.id);
  for (const { driver } of motors.slice(1)) {
    const own = addBoardTo(draft, "cdu-motor");
    if (supply) setFeeder(draft, own.id, "supply", supply.device.id);
    if (driver) draft.put("assignment", { ...driver.assignment, deviceId: own.id });
  }
  const label = "Give each motor a unit of its own";
  return [{ label, group: draft.group(`${motors.map(({ device }) => device.label).join(" and ")} have a unit each`) }];
}

/** A capacitor large enough, to the next of the usual sizes. */
function moreFarads(record: RailwayRecord, { unit, pulse, least, leastSeconds }: TooWeak): Remedy[] {
  const farads = figureValue(unit.type, "farads");
  const needed = farads * Math.max(least / pulse.joules, leastSeconds / pulse.secondsAboveHalf);
  const chosen = USUAL_FARADS.find((each) => each >= needed);
  if (!chosen || traitsOf(unit.type).gives !== "pulse") return [];
  const size = `${Math.round(chosen * 1e6)} uF`;
  const known = record.types.find(
    (own) => own.figures.farads === chosen && traitsOf(findType(record, own.id)).gives === "pulse",
  );
  if (known) return [fit(record, unit, known.id, size)];
  const { group, id } = copyType(record, unit.type.id, `Discharge unit, ${size}`);
  const draft = new Draft(record);
  for (const edit of group.edits) {
    if (edit.op === "put" && edit.kind === "type") {
      draft.put("type", { ...edit.value, figures: { ...edit.value.figures, farads: chosen } });
    }
  }
  draft.put("device", { ...unit.device, typeId: id });
  return [{ label: `Fit ${size} in ${unit.device.label}`, group: draft.group(`${unit.device.label} has ${size} now`) }];
}

function fit(record: RailwayRecord, unit: Fitted, typeId: string, size: string): Remedy {
  const draft = new Draft(record);
  draft.put("device", { ...unit.device, typeId });
  return { label: `Fit ${size} in ${unit.device.label}`, group: draft.group(`${unit.device.label} has ${size} now`) };
}

/** Capacitors that are sold for discharge units, farads (common practice). */
const USUAL_FARADS = [2200e-6, 3300e-6, 4700e-6, 6800e-6, 10_000e-6, 15_000e-6];
