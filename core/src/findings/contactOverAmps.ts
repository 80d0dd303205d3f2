import { typesOfFamily } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { changeType } from "../equip/devices.ts";
import type { Circuitry } from "../readings/circuitry.ts";
import type { RailwayState } from "../readings/states.ts";
import { coilAmps, stateFor } from "../readings/threadReading.ts";
import { ByWay } from "../record/byWay.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { controlsOf, type Thread, type ThreadControl, type ThreadMotor } from "../schematic/thread.ts";
import { amps } from "../units/format.ts";
import { putOnDischargeUnit } from "./remedies.ts";
import { PULSE_TIMES } from "./routeContactAmps.ts";
import { type Look, POSITIONS, type Remedy, rule } from "./rule.ts";

interface Loaded {
  threads: Thread[];
  control: ThreadControl;
  /** Amps of all coils that it energises. */
  flows: number;
  rated: number;
  /** A discharge unit gives no more than a pulse. */
  inPulse: boolean;
}

export const contactOverAmps = rule<Loaded>({
  id: "contact-over-amps",
  stage: "equip",
  column: "control",
  severity: "look",
  title: "A control's contact carries more than it bears",
  about:
    "A toggle or button that makes the coils' own current carries amps. On a bare supply they flow for as long as it is held, and the contact's rating counts; from a discharge unit for some milliseconds, and a contact bears about three times its rating (common practice). Beyond that it pits and welds, and a welded contact holds the coil on. The rule solves the coils of all turnouts that the control throws.",
  look: (look) => [...coilsThrough(look)],
  subject: ({ control: { device, assignment } }) =>
    assignment.way === null ? device.id : `${device.id}-${assignment.way}`,
  where: ({ control }) => control.device.label,
  turnouts: ({ threads }) => threads,
  why: ({ control, flows, rated, inPulse }) => {
    const bears = inPulse
      ? `rated ${amps(rated)}, and bears ${amps(rated * PULSE_TIMES)} in a pulse`
      : `rated ${amps(rated)}, for as long as it is held`;
    return `${control.device.label} carries ${amps(flows)}; its contact is ${bears}.`;
  },
  remedies: (load, { record }) => [
    ...(load.inPulse || load.threads.length > 1 ? [] : load.threads.map((each) => putOnDischargeUnit(record, each))),
    ...stronger(record, load),
  ],
  caution: ({ control }) => control.type,
});

const found = new WeakMap<Look, readonly Loaded[]>();

/** Controls whose contact makes more of the coils' current than it bears; two rules want to know. */
export function coilsThrough(look: Look): readonly Loaded[] {
  const known = found.get(look) ?? overloaded(look);
  found.set(look, known);
  return known;
}

function overloaded(look: Look): Loaded[] {
  const loads = new ByWay<Loaded>();
  for (const thread of look.threads)
    for (const control of controlsOf(thread)) {
      const load = loadOf(look, thread, control);
      if (!load) continue;
      const known = loads.get(control.device.id, control.assignment.way);
      if (known) {
        known.threads.push(thread);
        known.flows += load.flows;
      } else loads.set(control.device.id, control.assignment.way, load);
    }
  return loads.values().filter(({ flows, rated, inPulse }) => flows > rated * (inPulse ? PULSE_TIMES : 1));
}

/** What flows through a control into coils that it energises itself; null where a board or a route's button stands between. */
function loadOf({ remember, circuitry }: Look, thread: Thread, control: ThreadControl): Loaded | null {
  const rated = control.type.figures.ratedAmps?.value;
  const coils = thread.motors.filter(({ type, driver, unit }) => {
    return traitsOf(type).movedBy === "pulse" && unit !== null && driver?.type.drives !== "matrix";
  });
  const [first] = coils;
  if (!rated || !first || control.reader || control.route) return null;
  const flows = remember(thread, `amps through ${control.assignment.id}`, () => {
    const at = POSITIONS.map((position) => {
      const state = stateFor(thread, position, "throwing");
      return thread.motors.reduce((sum, motor) => sum + flowsIn(circuitry, motor, state), 0);
    });
    return Math.max(...at);
  });
  return { threads: [thread], control, flows, rated, inPulse: traitsOf(first.unit?.type).gives === "pulse" };
}

/** What a motor takes, amps: by the busier of its coils. */
function flowsIn(circuitry: Circuitry, motor: ThreadMotor, state: RailwayState): number {
  if (traitsOf(motor.type).movedBy !== "pulse") return Math.abs(circuitry.amps(motor.device.id, "motor", state));
  const { N, R } = coilAmps(circuitry, motor, state).amps;
  return Math.max(Math.abs(N), Math.abs(R));
}

/** The same kind of control with a contact that bears what flows. */
function stronger(record: RailwayRecord, { control, flows, inPulse }: Loaded): Remedy[] {
  const { device, type } = control;
  const strong = typesOfFamily(record, "control").find(
    ({ model, poles, maintained, figures }) =>
      model === type.model &&
      poles === type.poles &&
      maintained === type.maintained &&
      (figures.ratedAmps?.value ?? 0) * (inPulse ? PULSE_TIMES : 1) >= flows,
  );
  if (!strong) return [];
  const label = `Fit ${device.label} with a heavy contact`;
  return [{ label, group: changeType(record, device.id, strong.id) }];
}
