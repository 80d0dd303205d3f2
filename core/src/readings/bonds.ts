import { ByWay } from "../record/byWay.ts";
import type { Position } from "../record/schemas.ts";
import { controlSides, sideMade, staysMade } from "../schematic/recipes/controlSides.ts";
import { controlsOf, type Thread, type ThreadControl } from "../schematic/thread.ts";
import { actsFor, askedOf, heldBy, isActing, type RailwayState } from "./states.ts";

/** Two threads that one control commands, or whose motors hang on one output: one cannot be asked without the other. */
interface Bond {
  to: Thread;
  /** The control as each of the two threads has it; null for an output. */
  control: { here: ThreadControl; there: ThreadControl } | null;
}

/**
 * What turnouts share, and so must do together: a toggle that commands two stands on one side only, a button of a route
 * throws all of its turnouts, and two motors on one output go with one command.
 */
export class Bonds {
  private readonly bonds = new Map<string, Bond[]>();
  private readonly led = new Map<string, Thread>();
  private readonly settled = new WeakMap<RailwayState, RailwayState>();
  /** All that the bonds do, as text. */
  readonly text: string;

  /** @param threads of the railway, in the owner's order */
  constructor(threads: readonly Thread[]) {
    const shares = new ByWay<Share[]>();
    const serve = (deviceId: string, way: number | null, share: Share) =>
      shares.at(deviceId, way, () => []).push(share);
    for (const thread of threads) {
      this.led.set(thread.turnout.id, thread);
      for (const control of controlsOf(thread)) {
        const way = isOneLever(control) ? null : control.assignment.way;
        serve(control.device.id, way, { thread, control });
      }
      for (const { driver } of thread.motors) {
        if (driver && driver.way !== null) serve(driver.device.id, driver.way, { thread, control: null });
      }
    }
    for (const those of shares.values()) {
      for (const here of those) for (const there of those) this.bind(here, there);
    }
    this.text = [...this.bonds].map(([leader, bonds]) => `${leader}: ${bonds.map(describe).join()}`).join("; ");
  }

  private bind(here: Share, there: Share): void {
    if (here.thread === there.thread || (here.control === null) !== (there.control === null)) return;
    // a rotary switch, or a button of several poles, asks for one route at a time
    if (here.control?.route?.id !== there.control?.route?.id) return;
    const control = here.control && there.control && { here: here.control, there: there.control };
    const leader = here.thread.turnout.id;
    this.bonds.set(leader, [...(this.bonds.get(leader) ?? []), { to: there.thread, control }]);
  }

  /**
   * The state as it comes about: what is asked of one turnout is asked of those that share its control or output. The one
   * that is acting comes first, then those that the state names, then the others in the owner's order.
   */
  settle(state: RailwayState): RailwayState {
    if (this.bonds.size === 0) return state;
    const known = this.settled.get(state);
    if (known) return known;
    const asked = new Map<string, Position>();
    const also = new Map<string, string | null>();
    const named = [state.acting ?? "", ...Object.keys(state.asked)].filter((leader) => this.bonds.has(leader));
    for (const leader of [...named, ...this.bonds.keys()]) {
      if (!asked.has(leader)) this.spread(leader, state, asked, also);
    }
    const settled: RailwayState = {
      ...state,
      asked: { ...state.asked, ...Object.fromEntries(asked) },
      ...(also.size > 0 ? { also } : {}),
    };
    this.settled.set(state, settled);
    this.settled.set(settled, settled);
    return settled;
  }

  /**
   * Positions to which a turnout goes when it is thrown, with all that share the control or the output that does it.
   * @param by the control, by its assignment; the turnout's first when not said
   */
  along(leader: string, position: Position, by?: string): Map<string, Position> {
    const state = { asked: { [leader]: position }, moment: "throwing", acting: leader, off: false } as const;
    const asked = new Map<string, Position>();
    this.spread(leader, by === undefined ? state : { ...state, by }, asked, new Map());
    return asked;
  }

  /** Asks a leader for what the state says, and all that are bound to it for what follows. */
  private spread(
    leader: string,
    state: RailwayState,
    asked: Map<string, Position>,
    also: Map<string, string | null>,
  ): void {
    asked.set(leader, askedOf(state, leader));
    const reached = [leader];
    for (const from of reached) {
      const position = asked.get(from) ?? "N";
      for (const bond of this.bonds.get(from) ?? []) {
        const to = bond.to.turnout.id;
        if (asked.has(to)) continue;
        const held = this.isHeld(bond, from, position, { ...state, also });
        if (!held && bond.control && !staysMade(bond.control.here)) continue;
        const follows = askedThere(bond, position);
        if (follows === null) continue;
        asked.set(to, follows);
        if (held) also.set(to, bond.control?.there.assignment.id ?? null);
        reached.push(to);
      }
    }
  }

  /** Whether what binds two threads is what throws the first of them in a state. */
  private isHeld({ control }: Bond, leader: string, position: Position, state: RailwayState): boolean {
    if (state.moment === "rest" || !isActing(state, leader)) return false;
    const thread = this.led.get(leader);
    if (!control || !thread) return true;
    return actsFor(thread, position, heldBy(state, leader)) === control.here;
  }
}

interface Share {
  thread: Thread;
  control: ThreadControl | null;
}

/** Both poles of a toggle go with its lever; zones and outputs of a board are each for themselves. */
function isOneLever({ type }: ThreadControl): boolean {
  return type.family === "control";
}

/** What a bond asks of the thread at its other end when a position is asked of the one at this end; null for nothing. */
function askedThere({ control }: Bond, position: Position): Position | null {
  if (!control) return position;
  const { here, there } = control;
  if (here.assignment.to !== null && here.assignment.to !== position) return null;
  const { N, R } = controlSides(here);
  if ((N === null || R === null) && !here.assignment.follows) return there.assignment.to ?? position;
  const follows = sideMade(there, sideMade(here, position));
  return there.assignment.to === null || there.assignment.to === follows ? follows : null;
}

function describe(bond: Bond): string {
  const { to, control } = bond;
  const through = control ? `${control.here.assignment.id} ${staysMade(control.here)}` : "output";
  return `${to.turnout.id} ${through} ${askedThere(bond, "N")} ${askedThere(bond, "R")}`;
}
