import { Draft } from "../equip/draft.ts";
import { stateFor } from "../readings/threadReading.ts";
import { terminalName } from "../schematic/nets.ts";
import { heardAt } from "../schematic/recipes/controlToInputs.ts";
import { controlsOf, type Fitted, type Thread, type ThreadControl } from "../schematic/thread.ts";
import { volts } from "../units/format.ts";
import { fitWithFigures } from "./remedies.ts";
import { type Look, POSITIONS, type Remedy, rule } from "./rule.ts";

interface Pushed {
  thread: Thread;
  control: ThreadControl;
  board: Fitted;
  input: string;
  sees: number;
  most: number;
}

export const inputOverVolts = rule<Pushed>({
  id: "input-over-volts",
  stage: "equip",
  column: "control",
  severity: "stop",
  title: "An input gets more volts than it is made for",
  about:
    "The inputs of boards stand at 5 V and want to be pulled to 0 V by a contact. An output of a decoder pushes its own 12 V into them by turns, which destroys them. A diode in the lead of each input, its band towards the output, lets the output pull down and keeps it from pushing; an optocoupler does the same and keeps the two apart. The rule solves the volts at every input that a control is joined to, in both positions.",
  look: (look) => look.inThreads("pushed", (thread) => pushedOn(look, thread)),
  subject: ({ board, control }) => `${board.device.id} ${control.assignment.id}`.slice(0, 80),
  where: ({ board, input }) => terminalName(board.device.label, input),
  terminals: ({ board, input }) => [terminalName(board.device.label, input)],
  turnouts: ({ thread }) => [thread],
  why: ({ control, board, input, sees, most }) =>
    `${control.device.label} puts ${volts(sees)} on ${terminalName(board.device.label, input)}; it bears ${volts(most)}.`,
  remedies: ({ board }, { record }): Remedy[] => {
    const draft = new Draft(record);
    fitWithFigures(draft, board, "diodes in its inputs", { inputDiodes: 1 });
    const label = `Solder a diode into the lead of each input of ${board.device.label}`;
    return [{ label, group: draft.group(label) }];
  },
  caution: ({ board }) => board.type,
});

/** The input of each control of a thread that sees most, where that is more than it bears. */
function pushedOn({ circuitry }: Look, thread: Thread): Pushed[] {
  return controlsOf(thread).flatMap((control): Pushed[] => {
    const heard = heardAt(thread, control);
    const most = heard?.board.type.figures.inputMost?.value;
    // only what gives volts of its own can push
    if (!heard || most === undefined || !control.type.drives || heard.board.type.figures.inputDiodes?.value) return [];
    const { board } = heard;
    const seen = [...new Set([heard.N, heard.R])].map((input) => ({
      input,
      sees: Math.max(
        ...POSITIONS.map((position) =>
          Math.abs(
            circuitry.volts(
              `${board.device.id}:${input}`,
              `${board.device.id}:−`,
              stateFor(thread, position, "rest"),
            ) ?? 0,
          ),
        ),
      ),
    }));
    const [worst] = seen.sort((a, b) => b.sees - a.sees);
    return worst && worst.sees > most ? [{ thread, control, board, most, ...worst }] : [];
  });
}
