import { figureValue } from "../catalogue/catalogue.ts";
import type { Position } from "../record/schemas.ts";
import { supplyOf, type Thread, type ThreadMotor } from "../schematic/thread.ts";
import type { Circuitry, Moment, RailwayState } from "./circuitry.ts";
import type { Pulse } from "./pulse.ts";

export interface MotorReading {
  motorId: string;
  /** Volts across the winding, or across the coil that carries more. */
  volts: number;
  /** Amps in the winding, or in each coil. */
  amps: { N: number; R: number };
  goesTo: Position | null;
  /** The pulse in the coil that was thrown, while it is thrown. */
  pulse: Pulse | null;
}

export interface ThreadReading {
  /** Volts and amps of driver and motors are effective values of an alternating supply. */
  alternating: boolean;
  position: Position;
  moment: Moment;
  motors: MotorReading[];
  /** Volts A to B of the decoder output, or across the discharge unit; null without a driver. */
  driverVolts: number | null;
  /** Amps that the driver gives this thread. */
  driverAmps: number | null;
  lamp: { green: number; yellow: number; contactVolts: number } | null;
}

/** Everything at rest, all turnouts standing alike. */
export const AT_REST: Record<Position, RailwayState> = {
  N: { asked: {}, otherwise: "N", moment: "rest", acting: null, off: false },
  R: { asked: {}, otherwise: "R", moment: "rest", acting: null, off: false },
};

/**
 * State in which a thread is asked for a position: thrown or held, all others stand at normal; at rest, all stand where
 * it does, so that one solution serves all threads.
 */
export function stateFor(thread: Thread, position: Position, moment: Moment): RailwayState {
  if (moment === "rest") return AT_REST[position];
  return { asked: { [thread.turnout.id]: position }, moment, acting: thread.turnout.id, off: false };
}

/** Computed volts and amps along a thread in one position and moment; effective values where the supply alternates. */
export function threadReading(circuitry: Circuitry, thread: Thread, position: Position, moment: Moment): ThreadReading {
  const state = stateFor(thread, position, moment);
  const { lamp } = thread;
  const supply = lamp && supplyOf(circuitry.record, lamp.device.id);
  const driver = thread.motors[0]?.driver;
  return {
    alternating: driver ? circuitry.isAlternating(`${driver.device.id}:~1`) && driver.type.model !== "cdu" : false,
    position,
    moment,
    motors: thread.motors.map((motor) => motorReading(circuitry, motor, state)),
    ...driverReading(circuitry, thread, state),
    lamp: lamp && {
      green: circuitry.amps(lamp.device.id, "G", state),
      yellow: circuitry.amps(lamp.device.id, "Y", state),
      contactVolts:
        (supply &&
          circuitry.volts(`${lamp.assignment.motorId}:S${lamp.assignment.way}c`, `${supply.device.id}:−`, state)) ??
        0,
    },
  };
}

/** Factor from the solved peak to the effective value where the supply alternates. */
function effective(circuitry: Circuitry, key: string): number {
  return circuitry.isAlternating(key) ? Math.SQRT1_2 : 1;
}

function motorReading(circuitry: Circuitry, motor: ThreadMotor, state: RailwayState): MotorReading {
  const id = motor.device.id;
  const goesTo = circuitry.motorGoesTo(id, state);
  if (motor.type.model === "stall-motor") {
    const amps = circuitry.amps(id, "motor", state);
    return {
      motorId: id,
      volts: circuitry.volts(`${id}:+`, `${id}:−`, state) ?? 0,
      amps: { N: amps, R: amps },
      goesTo,
      pulse: null,
    };
  }
  const scale = effective(circuitry, `${id}:C`);
  const amps = { N: circuitry.amps(id, "N", state) * scale, R: circuitry.amps(id, "R", state) * scale };
  const busier = Math.abs(amps.N) >= Math.abs(amps.R) ? "N" : "R";
  const thrown = state.moment === "throwing" && Math.abs(amps[busier]) > figureValue(motor.type, "restAmps");
  const pulse = thrown ? circuitry.pulse(id, busier, state) : null;
  return { motorId: id, volts: amps[busier] * figureValue(motor.type, "coilOhms"), amps, goesTo, pulse };
}

function driverReading(circuitry: Circuitry, thread: Thread, state: RailwayState) {
  const driver = thread.motors[0]?.driver;
  if (!driver) return { driverVolts: null, driverAmps: null };
  const id = driver.device.id;
  if (driver.way !== null) {
    return {
      driverVolts: circuitry.volts(`${id}:${driver.way}A`, `${id}:${driver.way}B`, state) ?? 0,
      driverAmps: decoderAmps(circuitry, id, driver.way, state),
    };
  }
  const [plus, minus] =
    driver.type.model === "cdu" ? ["+", "−"] : driver.type.terminals.map((terminal) => terminal.name);
  const onThis = thread.motors.filter((motor) => motor.driver?.device.id === id);
  const amps = onThis.map(({ device, type }) =>
    type.model === "stall-motor"
      ? Math.abs(circuitry.amps(device.id, "motor", state))
      : Math.abs(circuitry.amps(device.id, "N", state)) + Math.abs(circuitry.amps(device.id, "R", state)),
  );
  const scale = effective(circuitry, `${id}:${plus}`);
  return {
    driverVolts: (circuitry.volts(`${id}:${plus}`, `${id}:${minus}`, state) ?? 0) * scale,
    driverAmps: amps.reduce((sum, each) => sum + each, 0) * scale,
  };
}

/** Amps that a decoder output lets through, whichever way round it stands. */
function decoderAmps(circuitry: Circuitry, deviceId: string, way: number, state: RailwayState): number {
  return Math.max(...["A+", "B+"].map((side) => Math.abs(circuitry.amps(deviceId, `${way}${side}`, state))));
}
