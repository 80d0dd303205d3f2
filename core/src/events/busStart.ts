import type { RailwayRecord } from "../record/kinds.ts";
import { staysMade } from "../schematic/recipes/controlSides.ts";
import { controlsOf, type Thread } from "../schematic/thread.ts";
import { inputsOf } from "./messages.ts";
import { type EventInput, eventPlan, type PlannedEvent } from "./plan.ts";

/** What happens on the bus when power comes on. */
export interface BusStart {
  /** Events that ask. */
  asks: PlannedEvent[];
  /** Inputs whose level says how a turnout should stand, in the order in which nodes answer: by their numbers, then inputs. */
  answers: EventInput[];
  /** Turnouts that are thrown by the answers, one after the other, by their labels. */
  order: string[];
}

/** Who asks at the start of a day, who answers, and which turnouts move in which order. */
export function busStart(record: RailwayRecord, threads: readonly Thread[]): BusStart {
  const plan = eventPlan(record, threads);
  const levels = new Set(
    threads.flatMap((thread) =>
      controlsOf(thread).flatMap((control) =>
        control.reader?.type.hears === "bus" && staysMade(control)
          ? inputsOf(control).map(({ way }) => `${control.reader?.device.id} ${way}`)
          : [],
      ),
    ),
  );
  const numberOf = ({ deviceId }: EventInput) => plan.nodeNumber.get(deviceId) ?? Number.POSITIVE_INFINITY;
  const answers = plan.events
    .flatMap(({ inputs }) => inputs.filter(({ deviceId, way }) => levels.has(`${deviceId} ${way}`)))
    .sort((a, b) => numberOf(a) - numberOf(b) || a.label.localeCompare(b.label, "en", { numeric: true }));
  const labels = new Map(threads.map(({ turnout, label }) => [turnout.id, label]));
  return {
    asks: plan.events.filter(({ asks }) => asks),
    answers,
    order: [...new Set(answers.flatMap(({ turnoutIds }) => turnoutIds.flatMap((id) => labels.get(id) ?? [])))],
  };
}
