import type { Position } from "../record/schemas.ts";
import type { BoardJoin, Matrix, MatrixCoil, MatrixRow } from "../routes/boards.ts";
import { controlsOf, type Thread } from "../schematic/thread.ts";
import type { Circuitry } from "./circuitry.ts";
import type { Pulse } from "./pulse.ts";
import type { RailwayState } from "./states.ts";
import { stateFor } from "./threadReading.ts";

/** The button of a route pressed, everything else at rest, solved. Amps are peaks where the supply alternates. */
export interface Press {
  row: MatrixRow;
  /** What the button is to energise. */
  wanted: MatrixCoil[];
  state: RailwayState;
  coils: PressedCoil[];
  /** Through the contact, and through each part of the boards, in the first instant, amps. */
  contactAmps: number;
  parts: { join: BoardJoin; amps: number }[];
}

export interface PressedCoil {
  coil: MatrixCoil;
  isWanted: boolean;
  /** In the first instant. */
  amps: number;
}

/** Presses that were solved, for as long as the circuit is what it is. */
const solved = new WeakMap<Circuitry, Map<string, Press | null>>();

/**
 * Presses one button of a matrix. Where several routes are asked for by one contact, all of them are.
 * @param threads of the railway
 * @returns null when no turnout of its routes hangs on the boards
 */
export function press(circuitry: Circuitry, threads: readonly Thread[], matrix: Matrix, row: MatrixRow): Press | null {
  const own = solved.get(circuitry) ?? new Map<string, Press | null>();
  solved.set(circuitry, own);
  const known = own.get(row.key);
  if (known !== undefined) return known;
  const made = solve(circuitry, threads, matrix, row);
  own.set(row.key, made);
  return made;
}

function solve(circuitry: Circuitry, threads: readonly Thread[], matrix: Matrix, row: MatrixRow): Press | null {
  const wish = matrix.wishes.find(({ button }) => button === row.key);
  if (!wish) return null;
  const state = pressedState(threads, row);
  if (!state) return null;
  const asked = new Set(wish.coils);
  const ampsOf = (deviceId: string, part: string) => Math.abs(circuitry.amps(deviceId, part, state));
  const motors = new Map(threads.flatMap((thread) => thread.motors.map((motor) => [motor.device.id, motor] as const)));
  const coils = matrix.coils.map((coil): PressedCoil => {
    // leads that are exchanged at the motor lead to its other coil
    const own = motors.get(coil.motorId)?.assignment.crossed ? otherSide(coil.side) : coil.side;
    return { coil: { ...coil, side: own }, isWanted: asked.has(coil.key), amps: ampsOf(coil.motorId, own) };
  });
  return {
    row,
    wanted: matrix.coils.filter(({ key }) => asked.has(key)),
    state,
    coils,
    contactAmps: contactAmps(circuitry, row, state),
    parts: matrix.joins.map((join) => ({ join, amps: ampsOf(join.boardId, `${join.from}_${join.to}`) })),
  };
}

const otherSide = (side: Position): Position => (side === "N" ? "R" : "N");

function contactAmps(circuitry: Circuitry, { controlId, way }: MatrixRow, state: RailwayState): number {
  const amps = (part: string) => Math.abs(circuitry.amps(controlId, part, state));
  // a button of one pole has its contact called by its terminal
  return way === null ? amps("N") : amps(`${way}`);
}

/** What a coil gets in a press, by a transient of what then conducts; all coils of a press are found out at once. */
export function pulseIn(circuitry: Circuitry, { state }: Press, { coil }: PressedCoil): Pulse | null {
  return circuitry.pulse(coil.motorId, coil.side, state);
}

/** The state in which a row's contact is held; null when nothing on the boards is asked by it. */
function pressedState(threads: readonly Thread[], row: MatrixRow): RailwayState | null {
  for (const thread of threads)
    for (const { device, assignment, route } of controlsOf(thread)) {
      if (!route || device.id !== row.controlId || assignment.way !== row.way || assignment.to === null) continue;
      return stateFor(thread, assignment.to, "throwing", assignment.id);
    }
  return null;
}
