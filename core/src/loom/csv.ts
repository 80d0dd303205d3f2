import { WIRE_COLOURS } from "../units/wireColours.ts";
import type { Loom } from "./loom.ts";

/** The wire schedule as CSV (RFC 4180), one wire a row, lengths in millimetres. */
export function wireScheduleCsv(loom: Loom): string {
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
  ];
  const rows = loom.wires.map((wire) => [
    wire.label,
    wire.from.name,
    wire.to.name,
    wire.run,
    wire.colour,
    WIRE_COLOURS[wire.colour],
    wire.gauge,
    String(Math.round(wire.cutMetres * 1000)),
    wire.core?.cable ?? "",
    wire.core ? String(wire.core.number) : "",
    ...wire.flags,
  ]);
  return [head, ...rows].map((row) => `${row.map(csvCell).join(",")}\r\n`).join("");
}

/** A cell quoted where RFC 4180 asks for it; text that a spreadsheet would run as a formula is kept as text. */
export function csvCell(text: string): string {
  const safe = /^[=+@\t\r]/.test(text) || /^-[^\d]/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}
