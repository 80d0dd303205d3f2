import { isMarked, removeMark } from "../line/marks.ts";
import { type SignalShown, signalsOn } from "../line/signals.ts";
import { rule } from "./rule.ts";

export const signalGuardsNothing = rule<SignalShown>({
  id: "signal-guards-nothing",
  stage: "line",
  column: null,
  severity: "look",
  title: "A signal guards no block",
  about:
    "A signal guards what lies from the first gap ahead of it as far as the next signal for the same direction. With no gap between the two it can never be red for a train, only for blades and for being held.",
  look: ({ record }) =>
    isMarked(record, "signal")
      ? signalsOn(record, { occupied: new Set(), held: new Set(), lies: () => "normal" }).filter(
          ({ blocks, cause }) => blocks.length === 0 && cause?.why !== "blades",
        )
      : [],
  subject: ({ mark }) => mark.id,
  where: ({ mark }) => mark.name,
  turnouts: () => [],
  why: ({ mark, next, ends }) =>
    `Ahead of ${mark.name} there is no gap as far as ${next && next !== mark ? next.name : ends ? "the end of the track" : "the line goes"}: it tells nothing of trains.`,
  remedies: ({ mark }, { record }) => [{ label: `Take ${mark.name} away`, group: removeMark(record, mark.id) }],
});
