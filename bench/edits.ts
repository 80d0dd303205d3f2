// From an edit to what follows from it, on the demo and on the generated railway of 400 turnouts.
import { Derived, edit, type RailwayRecord, stateFor, writeCell } from "@alderman/core";
import { line, measure } from "./measure.ts";

/** Medians over a series of edits of one turnout's run, each derived from the one before. */
function edits(record: RailwayRecord, turnoutId: string): { reading: number; findings: number; anew: number } {
  let derived = new Derived(record);
  const anew = measure(1, () => void new Derived(record).findings);
  void derived.findings;
  const readings: number[] = [];
  const findings: number[] = [];
  for (let round = 0; round < 15; round++) {
    const group = writeCell(derived.record, turnoutId, "run", (1 + (round + 1) / 20).toFixed(2));
    if (!group) throw new Error("The bench's edit changes nothing.");
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

export function benchEdits(demo: RailwayRecord, club: RailwayRecord): void {
  for (const [name, record, turnoutId] of [
    ["Skerrin Ferry, a stall motor's run", demo, "l1"],
    ["400 turnouts, a coil motor's run", club, "a5"],
    ["400 turnouts, a stall motor's run", club, "b6"],
  ] as const) {
    const { reading, findings, anew } = edits(record, turnoutId);
    line(
      `${name}: an edit to its readings, and to all findings`,
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
