import { WIRE_STEPS } from "../record/made.ts";
import { WIRE_COLOURS } from "../units/wireColours.ts";
import type { Loom } from "./wire.ts";

/** The wire schedule as a table: headings, then one wire a row, lengths in millimetres, and what was done of it when. */
export function wireScheduleRows(loom: Loom): (string | number)[][] {
  const head = [
    "wire",
    "from",
    "to",
    "run",
    "colour code",
    "colour",
    "gauge",
    "cut mm",
    "cable",
    "core",
    "flag at from",
    "flag at to",
    "standing",
    "cut",
    "labelled",
    "joined at from",
    "joined at to",
    "tested",
  ];
  const rows = loom.wires.map((wire) => [
    wire.label,
    wire.from.name,
    wire.to.name,
    wire.run,
    wire.colour,
    WIRE_COLOURS[wire.colour],
    wire.gauge,
    Math.round(wire.cutMetres * 1000),
    wire.core?.cable ?? "",
    wire.core?.number ?? "",
    ...wire.flags,
    wire.standing,
    ...WIRE_STEPS.map((step) => wire.fact?.[step] ?? ""),
  ]);
  return [head, ...rows];
}
