import type { Wire, WireStep } from "@alderman/core";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Tick } from "../../kit/Tick.tsx";
import { shortDateAndTime } from "../../tools/when.ts";
import { STEPS } from "./steps.ts";

/** Ticks a step off for wires, or takes it back. */
export type TickWires = (ids: readonly string[], step: WireStep, done: boolean) => void;

/** A column for each step of the work on a wire, ticked off one by one. */
export function stepColumns(tick: TickWires): DataColumn<Wire>[] {
  return STEPS.map(({ step, title, about }) => ({
    ...{ id: step, title, value: ({ fact }) => fact?.[step] ?? "" },
    cell: (wire) => {
      const at = wire.fact?.[step];
      return (
        <Tick
          label={`${wire.label} ${about(wire)}`}
          checked={Boolean(at)}
          about={at ? `${about(wire)}, ${shortDateAndTime(at)}` : undefined}
          onChange={(done) => tick([wire.id], step, done)}
        />
      );
    },
  }));
}
