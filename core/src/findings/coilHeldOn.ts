import { traitsOf } from "../catalogue/traits.ts";
import type { Draft } from "../equip/draft.ts";
import { setDriver } from "../equip/equipment.ts";
import type { Found } from "../hands/sweep.ts";
import { standing } from "../hands/words.ts";
import { coilHeat } from "../readings/coilHeat.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { matricesOf } from "../routes/boards.ts";
import { terminalName } from "../schematic/nets.ts";
import { controlsOf, type Thread, type ThreadMotor } from "../schematic/thread.ts";
import { amps, list, seconds, watts } from "../units/format.ts";
import { dischargeUnit, made, putOnDischargeUnit, sentence } from "./remedies.ts";
import { type Remedy, rule } from "./rule.ts";

interface Held {
  thread: Thread;
  motor: ThreadMotor;
  found: Found;
  when: string;
  /** It takes a finger that holds a control. */
  held: boolean;
  /** The other turnouts on a unit that is emptied by it. */
  dead: Thread[];
}

export const coilHeldOn = rule<Held>({
  id: "coil-held-on",
  stage: "equip",
  column: "control",
  severity: ({ held }) => (held ? "look" : "stop"),
  title: "A coil stays energised",
  about:
    "A twin-coil motor is made for a pulse of some tens of milliseconds. Current that goes on heats the coil, with amps until it burns within seconds, and drains the discharge unit so that nothing else can fire. The rule sets every control, in every combination that matters, and looks at the solved current in each coil: what stays there with nobody touching anything, and what a finger that stays on a control heats by more than 2 W. How warm a coil becomes follows from its watts, as of one body.",
  look: ({ record, threads, hands }) => {
    const worst = new Map<string, Held>();
    for (const found of hands) {
      if (found.kind !== "coil") continue;
      const thread = threads.find(({ motors }) => motors.some(({ device }) => device.id === found.id));
      const motor = thread?.motors.find(({ device }) => device.id === found.id);
      if (!thread || !motor || comesAstray(record, thread, motor, found)) continue;
      const held = found.when.some(({ setting }) => setting.held);
      const known = worst.get(found.id);
      if (known && (known.held === held ? known.found.amps * ALIKE >= found.amps : held)) continue;
      const dead = held ? [] : others(threads, thread, motor);
      worst.set(found.id, { thread, motor, found, when: standing(record, found.when), held, dead });
    }
    return [...worst.values()];
  },
  subject: ({ motor }) => motor.device.id,
  where: ({ motor }) => motor.device.label,
  terminals: ({ motor, found }) => [terminalName(motor.device.label, found.part ?? "C")],
  turnouts: ({ thread, dead }) => [thread, ...dead],
  why: ({ motor, found: { part, amps: flows }, when, held, dead }) => {
    const { watts: heat, kelvin, burnsAfter } = coilHeat(motor.type, flows);
    const lasts = held ? "for as long as a finger stays there" : "for as long as it is left so";
    const becomes =
      burnsAfter === null
        ? `which make it ${Math.round(kelvin)} K warmer in the end`
        : `which burn it after some ${seconds(burnsAfter)}`;
    const besides =
      dead.length > 0
        ? ` It empties ${motor.unit?.device.label}, so that ${list(dead.map(({ label }) => label))} cannot be thrown either.`
        : "";
    return `${sentence(when)}, coil ${part} of ${motor.device.label} carries ${amps(flows)} ${lasts}: ${watts(heat)}, ${becomes}.${besides}`;
  },
  remedies: ({ thread, motor, found }, { record }) => {
    const asking = new Set(found.when.map(({ deviceId }) => deviceId));
    const latching = controlsOf(thread).filter(({ device, type }) => type.maintained && asking.has(device.id));
    const spring = (draft: Draft) => {
      for (const { device } of latching) draft.put("device", { ...device, typeId: "toggle-centre-off" });
    };
    const isUnit = traitsOf(motor.unit?.type).gives === "pulse";
    const remedies: Remedy[] = [];
    const names = list(latching.map(({ device }) => device.label));
    const sprung = `Make ${names} ${latching.length > 1 ? "centre-off momentary toggles" : "a centre-off momentary toggle"}`;
    if (latching.length > 0) remedies.push(made(record, sprung, spring));
    if (!isUnit) remedies.push(putOnDischargeUnit(record, thread));
    if (!isUnit && latching.length > 0)
      remedies.push(
        made(record, `${sprung}, and put ${thread.label} on a discharge unit`, (draft) => {
          spring(draft);
          setDriver(draft, thread.turnout.id, { deviceId: dischargeUnit(draft).id, way: null });
        }),
      );
    return remedies;
  },
  caution: ({ motor }) => motor.type,
});

/** Currents that differ by no more than rounding are the same: the first that was found is told. */
const ALIKE = 1 + 1e-6;

/**
 * Whether current comes to a motor on a diode board from a control that asks another turnout: it goes astray over the board, and that is
 * told of the board.
 */
function comesAstray(record: RailwayRecord, thread: Thread, { driver }: ThreadMotor, { when }: Found): boolean {
  if (driver?.type.drives !== "matrix" || when.length === 0) return false;
  const own = new Set(controlsOf(thread).map(({ device }) => device.id));
  const direct = new Set(matricesOf(record).flatMap(({ directs }) => directs.map(({ controlId }) => controlId)));
  return (
    when.some(({ deviceId }) => direct.has(deviceId)) &&
    !when.some(({ deviceId }) => direct.has(deviceId) && own.has(deviceId))
  );
}

/** Turnouts that hang on the same discharge unit as a motor. */
function others(threads: readonly Thread[], own: Thread, { unit }: ThreadMotor): Thread[] {
  if (traitsOf(unit?.type).gives !== "pulse") return [];
  const isOn = ({ motors }: Thread) => motors.some((motor) => motor.unit?.device.id === unit?.device.id);
  return threads.filter((thread) => thread !== own && isOn(thread));
}
