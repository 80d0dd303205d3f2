import { traitsOf } from "../catalogue/traits.ts";
import { bothHalves } from "../readings/states.ts";
import { ALL_MOVING, AT_REST } from "../readings/threadReading.ts";
import { terminalName } from "../schematic/nets.ts";
import { type Fitted, supplyOf, type Thread, type ThreadMotor } from "../schematic/thread.ts";
import { volts } from "../units/format.ts";
import { type Look, POSITIONS, rule } from "./rule.ts";
import { otherSupplies, outOfRange } from "./supplyOutOfRange.ts";
import { suitsDriver } from "./wrongKindForOutput.ts";

interface OverVolts {
  thread: Thread;
  motor: Moved;
  sees: number;
  least: number;
  most: number;
}

export const motorOverVolts = rule<OverVolts>({
  id: "motor-over-volts",
  stage: "equip",
  column: "motor",
  severity: "stop",
  title: "A motor gets more volts than it bears",
  about:
    "A stall motor stays powered at the end of its travel, and turns the more volts into the more heat: with half as many again more than twice as much. A tenth more than it is made for it bears, as supplies differ by that. A servo's electronics die above their volts at once. The rule solves the volts at the motor, standing and moving, in both positions and half cycles, against what it is made for.",
  look: (look) =>
    look.inThreads("over volts", (thread) =>
      movedIn(thread).flatMap((motor): OverVolts[] => {
        const { leastVolts, mostVolts } = motor.type.figures;
        const by = traitsOf(motor.type).movedBy;
        if (!mostVolts || (by !== "reversal" && by !== "signal")) return [];
        const sees = look.remember(thread, `volts at ${motor.device.id}`, () => voltsAt(look, motor));
        if (sees <= mostVolts.value * (by === "signal" ? 1 + 1e-6 : BORNE)) return [];
        // what drives it is of the wrong kind, or gets too much itself: that is told, and cures this too
        if ((isMotor(motor) && !suitsDriver(thread, motor)) || (motor.driver && outOfRange(look, motor.driver.device)))
          return [];
        return [{ thread, motor, sees, least: leastVolts?.value ?? 0, most: mostVolts.value }];
      }),
    ),
  subject: ({ motor }) => motor.device.id,
  where: ({ motor }) => motor.device.label,
  terminals: ({ motor }) => ["+", "−"].map((terminal) => terminalName(motor.device.label, terminal)),
  turnouts: ({ thread }) => [thread],
  why: ({ motor, sees, most }) => {
    const from = motor.driver ? `, from ${motor.driver.device.label}` : "";
    return `${motor.device.label} sees ${volts(sees)}${from}; it is made for ${volts(most)} at most.`;
  },
  remedies: ({ motor, sees, least, most }, { record }) => {
    const { driver } = motor;
    if (!driver) return [];
    const supply = traitsOf(driver.type).gives === "dc" ? driver : supplyOf(record, driver.device.id);
    return supply ? otherSupplies(record, { supply, gets: sees, least, most }) : [];
  },
  caution: ({ motor }) => motor.type,
});

/** A motor, or the arm of a semaphore, with what drives it. */
export type Moved = Fitted & { driver: Fitted | null };

/** The motors of a thread, and the arms that its lamps are. */
export function movedIn({ motors, lamps }: Thread): Moved[] {
  const arms = lamps.filter(({ type }) => traitsOf(type).movedBy === "signal");
  return [...motors, ...arms.map(({ device, type, from }) => ({ device, type, driver: from }))];
}

/** Whether it moves blades. */
export function isMotor(moved: Moved): moved is ThreadMotor {
  return "turnout" in moved;
}

/** Share of what a stall motor is made for that it bears: supplies differ by a tenth from what they say (common practice). */
const BORNE = 1.1;

/** At rest and while all of them move, in both positions and half cycles. */
const ALL_STATES = POSITIONS.flatMap((position) => [AT_REST[position], ALL_MOVING[position]]).flatMap(bothHalves);

/** The most volts between a motor's terminals, whatever is asked, standing or moving. */
function voltsAt({ circuitry }: Look, { device }: Moved): number {
  return Math.max(
    ...ALL_STATES.map((state) => Math.abs(circuitry.volts(`${device.id}:+`, `${device.id}:−`, state) ?? 0)),
  );
}
