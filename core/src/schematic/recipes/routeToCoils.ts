import { traitsOf } from "../../catalogue/traits.ts";
import type { RailwayRecord } from "../../record/kinds.ts";
import { matricesOf } from "../../routes/boards.ts";
import type { End, Joiner } from "../nets.ts";
import type { Fitted } from "../thread.ts";
import { outTerminals } from "./toggleToMotor.ts";

/**
 * The button of a route sends the discharge unit's pulse to its row of the diode boards; the coils' commons lead back to the unit
 * as they do without routes. Where another button has to be held as well, the pulse goes through that one first. The diodes lie on the boards, and
 * from there each coil has its own wire.
 */
export function routeToCoils(record: RailwayRecord, fitted: (id: string) => Fitted, joiner: Joiner): void {
  for (const { rows, unitIds } of matricesOf(record)) {
    for (const { controlId, way, terminals } of rows) {
      const sides = contactOf(fitted(controlId), way);
      if (!sides) continue;
      const throughs = new Set(
        record.routeControls.flatMap((each) =>
          each.deviceId === controlId && each.way === way ? [each.throughId] : [],
        ),
      );
      const common: End = { deviceId: controlId, terminal: sides.common };
      for (const unitId of unitIds) {
        const plus: End = { deviceId: unitId, terminal: outTerminals(fitted(unitId))[0] };
        for (const throughId of throughs.size > 0 ? throughs : [null]) {
          if (throughId === null) joiner.join("pulse-plus", null, [plus, common]);
          else {
            joiner.join("pulse-plus", null, [plus, { deviceId: throughId, terminal: "C" }]);
            joiner.join("pulse-plus", null, [{ deviceId: throughId, terminal: "N" }, common]);
          }
        }
      }
      const rowEnds = [...terminals].map(([deviceId, terminal]): End => ({ deviceId, terminal }));
      joiner.join("route", null, [{ deviceId: controlId, terminal: sides.made }, ...rowEnds]);
    }
  }
}

/** The terminals of the contact by which a control asks for a route; null for what has none. */
export function contactOf({ type }: Fitted, way: number | null): { common: string; made: string } | null {
  switch (traitsOf(type).asks) {
    case "press":
      return type.poles === undefined ? { common: "C", made: "N" } : { common: `${way ?? 1}C`, made: `${way ?? 1}N` };
    case "position":
      return { common: "C", made: `${way ?? 1}` };
    default:
      return null;
  }
}
