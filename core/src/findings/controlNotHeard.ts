import { figureValue } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { Draft } from "../equip/draft.ts";
import { feed } from "../equip/feed.ts";
import { stateFor } from "../readings/threadReading.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Position } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import { staysMade } from "../schematic/recipes/controlSides.ts";
import { type Heard, heardAt } from "../schematic/recipes/controlToInputs.ts";
import { controlsOf, isSameControl, supplyOf, type Thread, type ThreadControl } from "../schematic/thread.ts";
import type { At } from "../sense/chains.ts";
import { NEVER, turnAt } from "../sense/edits.ts";
import { senseAt } from "../sense/ledger.ts";
import { volts } from "../units/format.ts";
import { type Look, POSITIONS, rule } from "./rule.ts";

interface Deaf {
  /** Those that the control commands; the first of them was looked at. */
  threads: Thread[];
  control: ThreadControl;
  heard: Heard;
  position: Position;
  input: string;
  /** Volts at the input while it is asked; null when no common 0 V joins the two. */
  at: number | null;
  powered: boolean;
  /** Places by which its inputs are inverted, so that they count as closed while nobody touches the control. */
  inverted: At[];
}

export const controlNotHeard = rule<Deaf>({
  id: "control-not-heard",
  stage: "equip",
  column: "control",
  severity: "stop",
  title: "A board does not hear its control",
  about:
    "A control asks by pulling a board's input down to the board's own 0 V. Without a common 0 V between the two, without the board's supply, or with both inputs closed at once, the board understands nothing. The rule presses each control in the solved circuit and looks at the volts of the inputs.",
  *look(look) {
    const found: Deaf[] = [];
    const all = yield* look.inThreads("deaf to controls", (thread) =>
      controlsOf(thread).flatMap((control) => {
        const heard = heardAt(thread, control);
        const [deaf] = heard ? deafTo(look, thread, control, heard) : [];
        return deaf ? [{ thread, control, deaf }] : [];
      }),
    );
    for (const { thread, control, deaf } of all) {
      const known = found.find((each) => isSameControl(each.control, control));
      if (known) known.threads.push(thread);
      else found.push({ ...deaf, threads: [thread] });
    }
    return found;
  },
  subject: ({ control: { device, assignment } }) =>
    assignment.way === null ? device.id : `${device.id}-${assignment.way}`,
  where: ({ control }) => control.device.label,
  terminals: ({ heard, input }) => [terminalName(heard.board.device.label, input)],
  turnouts: ({ threads }) => threads,
  why: ({ control, heard, position, input, at, powered, inverted }) => {
    const board = heard.board.device.label;
    if (powered && inverted.length > 0)
      return `The inputs of ${board} that hear ${control.device.label} are inverted: both count as closed while nobody touches it, and ${board} understands nothing.`;
    if (!powered) return `${board} has no supply, so it does not hear ${control.device.label}.`;
    const name = terminalName(board, input);
    if (at === null)
      return `No common 0 V joins ${control.device.label} and ${board}: ${name} stays open when ${position} is asked for.`;
    const threshold = volts(figureValue(heard.board.type, "thresholdVolts"));
    return `${name} stands at ${volts(at)} when ${control.device.label} asks for ${position}; ${board} hears what lies below ${threshold}, at one input at a time.`;
  },
  remedies: ({ heard, powered, inverted }, { record }) => {
    const draft = new Draft(record);
    if (powered && inverted.length > 0) {
      for (const place of inverted) turnAt(draft, place, false, { known: "seen", at: NEVER });
      const words = `Set the inputs of ${heard.board.device.label} as they came`;
      return [{ label: words, group: draft.group(words) }];
    }
    if (powered) return [];
    feed(draft, heard.board.device, heard.board.type);
    const words = `Feed ${heard.board.device.label}`;
    return [{ label: words, group: draft.group(words) }];
  },
});

function deafTo({ record, circuitry }: Look, thread: Thread, control: ThreadControl, heard: Heard): Deaf[] {
  const { to } = control.assignment;
  const asked = POSITIONS.filter((position) => to === null || to === position);
  const id = heard.board.device.id;
  return asked
    .filter((position) => circuitry.hears(thread.turnout.id, position, control.assignment.id) === null)
    .map((position) => {
      const input = to === null && traitsOf(control.type).asks === "press" ? heard.press : heard[position];
      const state = stateFor(thread, position, "throwing", control.assignment.id);
      const at = circuitry.volts(`${id}:${input}`, `${id}:−`, state) ?? null;
      const powered = supplyOf(record, id) !== null;
      return {
        threads: [thread],
        control,
        heard,
        position,
        input,
        at,
        powered,
        inverted: invertedAt(record, control, heard),
      };
    });
}

/** Senses that invert the inputs of a control that lets go; none where two of them cancel each other, or it stays put. */
function invertedAt(record: RailwayRecord, control: ThreadControl, { board, way }: Heard): At[] {
  if (staysMade(control)) return [];
  const places: At[] = [
    { link: "inputs", deviceId: board.device.id, way: null },
    { link: "input", deviceId: board.device.id, way },
  ];
  const inverting = places.filter((place) => senseAt(record, place)?.inverts);
  return inverting.length === 1 ? inverting : [];
}
