import type { Position } from "../record/schemas.ts";
import { controlSides, staysMade } from "../schematic/recipes/controlSides.ts";
import type { Heard } from "../schematic/recipes/controlToInputs.ts";
import type { ThreadControl } from "../schematic/thread.ts";
import { inputNode } from "./models.ts";
import type { Roles } from "./roles.ts";
import type { Solver } from "./solver.ts";
import { acts, askedOf, PRESSED, type RailwayState, turnedIf } from "./states.ts";

/** A control, and where it is heard. */
interface Listener {
  control: ThreadControl;
  heard: Heard;
}

/** What boards understand of the controls that ask them, from the solved volts of their inputs; found out once for a railway. */
export class Hearing {
  /** Set while it is being found out what boards hear from controls. */
  private listening = false;
  /** What the boards of each thread heard, by its leader and then by what was asked. */
  private readonly heard = new Map<string, Map<string, Position | null>>();

  constructor(
    private readonly roles: Roles,
    private readonly solver: Solver,
  ) {}

  get isListening(): boolean {
    return this.listening;
  }

  forget(): void {
    this.heard.clear();
  }

  /**
   * Takes over what was heard before an edit.
   * @param touches whether the edit touched the piece that holds an element
   * @returns whether boards hear the same as before; if not, nothing is taken over
   */
  takeOver(previous: Hearing, touches: (elementId: string) => boolean): boolean {
    for (const [leader, heard] of previous.heard) {
      if (!this.roles.led.has(leader)) continue;
      const isTouched = (this.roles.heardOf.get(leader) ?? []).some(({ heard: { board, common } }) =>
        touches(`${board.device.id}:${common}`),
      );
      if (!isTouched) this.heard.set(leader, new Map(heard));
      else if (!this.hearsAlike(leader, heard)) {
        this.forget();
        return false;
      }
    }
    return true;
  }

  /** Whether a thread's boards still hear what they heard when it was asked. */
  private hearsAlike(leader: string, heard: ReadonlyMap<string, Position | null>): boolean {
    return [...heard].every(([key, position]) => {
      const [asked, by] = key.split(" ");
      return this.hears(leader, asked as Position, by || undefined) === position;
    });
  }

  /**
   * Position that a thread's board understands when a control asks for one, from the solved volts of its inputs; what is
   * asked itself where no board listens; null when it hears nothing, or both at once.
   */
  hears(leader: string, asked: Position, by?: string): Position | null {
    const listeners = this.roles.heardOf.get(leader);
    const listener = listeners?.find(({ control }) => acts(control, asked, by));
    if (!listener) return asked;
    const own = this.heard.get(leader) ?? new Map<string, Position | null>();
    this.heard.set(leader, own);
    const key = `${asked} ${by ?? ""}`;
    const known = own.get(key);
    if (known !== undefined) return known;
    const before = this.listening;
    this.listening = true;
    try {
      const position = this.listen(listener, {
        asked: { [leader]: asked },
        ...PRESSED,
        acting: leader,
        ...(by ? { by } : {}),
      });
      own.set(key, position);
      return position;
    } finally {
      this.listening = before;
    }
  }

  private listen({ control, heard }: Listener, state: RailwayState): Position | null {
    const { board } = heard;
    const asked = askedOf(state, state.acting ?? "");
    const threshold = board.type.figures.thresholdVolts?.value ?? 0;
    const closed = (input: string) => {
      const volts = this.solver.volts(
        `${board.device.id}:${inputNode(board.type, input)}`,
        `${board.device.id}:−`,
        state,
      );
      return volts !== undefined && volts < threshold;
    };
    const sides = controlSides(control);
    const turned =
      this.roles.isTurned(board.device.id, null, "inputs") !== this.roles.isTurned(board.device.id, heard.way, "input");
    // inverted inputs of a control that lets go count as closed while nobody touches it
    if (turned && !staysMade(control)) return null;
    if (sides.press !== null) return closed(heard.press) ? asked : null;
    if (sides.N === null || sides.R === null) {
      const { to, follows } = control.assignment;
      if (follows) {
        const made: Position = sides.N === null ? "R" : "N";
        const level = closed(sides.N === null ? heard.R : heard.N);
        // inputs beside an output hear presses, not levels
        return level || control.reader ? turnedIf(turned !== !level, made) : null;
      }
      return to && closed(sides.N === null ? heard.R : heard.N) ? turnedIf(turned, to) : null;
    }
    const [normal, reverse] = [closed(heard.N), closed(heard.R)];
    if (normal === reverse) return null;
    return turnedIf(turned, normal ? "N" : "R");
  }
}
