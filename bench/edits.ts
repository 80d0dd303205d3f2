// From an edit to what follows from it, on the demo and on the generated railway of 400 turnouts.
import { Derived, edit, type RailwayRecord, stateFor, writeCell } from "@alderman/core";
import { line, measure } from "./measure.ts";

/** One cell of the list as the owner types it there, and what is typed the time after. */
interface Typed {
  turnoutId: string;
  column: string;
  texts: readonly [string, string];
}

/** Medians over a series of edits of one cell, each derived from the one before. */
function edits(record: RailwayRecord, { turnoutId, column, texts }: Typed) {
  let derived = new Derived(record);
  const anew = measure(1, () => void new Derived(record).findings);
  void derived.findings;
  const readings: number[] = [];
  const findings: number[] = [];
  for (let round = 0; round < 16; round++) {
    const group = writeCell(derived.record, turnoutId, column, texts[round % 2] ?? "");
    if (!group) throw new Error(`The bench's edit of ${column} changes nothing.`);
    const changed = edit(derived.record, group.edits).record;
    const began = performance.now();
    derived = new Derived(changed, derived);
    const thread = derived.schematic.threads.find(({ turnout }) => turnout.id === turnoutId);
    if (thread) for (const position of ["N", "R"] as const) derived.reading(thread, position, "throwing");
    readings.push(performance.now() - began);
    void derived.findings;
    findings.push(performance.now() - began);
  }
  const median = (times: number[]) => times.sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? Number.NaN;
  return { reading: median(readings), findings: median(findings), anew };
}

const CASES: readonly [what: string, on: "demo" | "club", typed: Typed][] = [
  ["Skerrin Ferry, a stall motor's run", "demo", { turnoutId: "l1", column: "run", texts: ["1.05", "1.1"] }],
  ["400 turnouts, a coil motor's run", "club", { turnoutId: "a5", column: "run", texts: ["1.05", "1.1"] }],
  ["400 turnouts, a stall motor's run", "club", { turnoutId: "b6", column: "run", texts: ["1.05", "1.1"] }],
  [
    "400 turnouts, a lamp taken away and put back",
    "club",
    { turnoutId: "b6", column: "lamp", texts: ["", "lamp-two-colour"] },
  ],
  [
    "400 turnouts, a motor of another kind",
    "club",
    { turnoutId: "a5", column: "motor", texts: ["twin-coil-surface", "twin-coil-under-board"] },
  ],
  [
    "400 turnouts, a toggle that stays put",
    "club",
    { turnoutId: "a5", column: "control", texts: ["toggle-latching", "toggle-centre-off"] },
  ],
  ["400 turnouts, another label", "club", { turnoutId: "b6", column: "label", texts: ["X1", "B6"] }],
];

export function benchEdits(demo: RailwayRecord, club: RailwayRecord): void {
  for (const [what, on, typed] of CASES) {
    const { reading, findings, anew } = edits({ demo, club }[on], typed);
    line(
      `${what}: an edit to its readings, and to all findings`,
      `${reading.toFixed(0)} ms, ${findings.toFixed(0)} ms (all anew ${anew.toFixed(0)} ms)`,
    );
  }
  const { heapUsed, rss } = process.memoryUsage();
  line(
    "Memory of this process with all that",
    `${Math.round(heapUsed / 1e6)} MB of heap, ${Math.round(rss / 1e6)} MB in all`,
  );
  const derived = new Derived(club);
  const [thread] = derived.schematic.threads;
  if (thread) {
    const state = stateFor(thread, "R", "throwing");
    const pulse = measure(
      5,
      () => void new Derived(club).circuitry.pulse(thread.motors[0]?.device.id ?? "", "R", state),
    );
    line("400 turnouts, from the record to one coil's pulse, nothing kept", `${pulse.toFixed(0)} ms`);
  }
}
