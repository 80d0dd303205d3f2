// From an edit to what follows from it, on the demo and on the generated railway of 400 turnouts.
import {
  addBoard,
  addTurnout,
  complete,
  completed,
  Derived,
  type EditGroup,
  edit,
  type RailwayRecord,
  removeDevice,
  removeTurnouts,
  stateFor,
  writeCell,
} from "@alderman/core";
import { line, measure } from "./measure.ts";

/** An edit as an owner makes it, on a turnout, and the edit of the time after. */
interface Made {
  turnoutId: string;
  make: (record: RailwayRecord, round: number) => EditGroup | null;
}

/** What is typed into one cell of the list, in turns. */
const typed = (turnoutId: string, column: string, ...texts: string[]): Made => ({
  turnoutId,
  make: (record, round) => writeCell(record, turnoutId, column, texts[round % texts.length] ?? ""),
});

/** The least of some times, and their median, milliseconds: other work on the machine makes some longer, none shorter. */
function leastAndMedian(times: number[]): string {
  const sorted = times.sort((a, b) => a - b);
  const [least, median] = [sorted[0], sorted[Math.floor(sorted.length / 2)]];
  return least === undefined || median === undefined ? "none" : `${least.toFixed(0)} to ${median.toFixed(0)} ms`;
}

/** Times over a series of edits, each derived from the one before, with what is proposed of the loom written down after each. */
function edits(given: RailwayRecord, { turnoutId, make }: Made) {
  const record = completed(given);
  let derived = new Derived(record);
  const anew = measure(1, () => void new Derived(record).findings);
  void derived.findings;
  const readings: number[] = [];
  const findings: number[] = [];
  const written: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const group = make(derived.record, round);
    if (!group) throw new Error("An edit of the bench changes nothing.");
    const changed = edit(derived.record, group.edits).record;
    const began = performance.now();
    derived = new Derived(changed, derived);
    const thread = derived.schematic.threads.find(({ turnout }) => turnout.id === turnoutId);
    if (thread) for (const position of ["N", "R"] as const) derived.reading(thread, position, "throwing");
    readings.push(performance.now() - began);
    void derived.findings;
    findings.push(performance.now() - began);
    const proposed = complete(changed, derived).edits;
    if (proposed.length === 0) continue;
    const whole = edit(changed, proposed).record;
    const then = performance.now();
    derived = new Derived(whole, derived);
    void derived.findings;
    written.push(performance.now() - then);
  }
  return {
    ...{ reading: leastAndMedian(readings), findings: leastAndMedian(findings), written: leastAndMedian(written) },
    anew,
  };
}

/** Rounds of each case. */
const ROUNDS = 24;

/** Runs of which no two are alike, so that no pulse is remembered from an earlier round; what turns back finds its own there, as undo does. */
const RUNS = Array.from({ length: ROUNDS }, (_, round) => (1.05 + round / 100).toFixed(2));

/** Twelve kinds of edit on the railway of 400, as speed is judged by them, and one on the demo. */
const CASES: readonly [what: string, on: "demo" | "club", made: Made][] = [
  ["Skerrin Ferry, a stall motor's run", "demo", typed("l1", "run", ...RUNS)],
  ["400 turnouts, a coil motor's run", "club", typed("a5", "run", ...RUNS)],
  ["400 turnouts, a stall motor's run", "club", typed("b6", "run", ...RUNS)],
  ["400 turnouts, a lamp taken away and put back", "club", typed("b6", "lamp", "", "lamp-two-colour")],
  ["400 turnouts, a motor of another kind", "club", typed("a5", "motor", "twin-coil-surface", "twin-coil-under-board")],
  ["400 turnouts, a toggle that stays put", "club", typed("a5", "control", "toggle-latching", "toggle-centre-off")],
  ["400 turnouts, another output", "club", typed("b6", "driver", "", "stall-decoder-8")],
  ["400 turnouts, a frog fed by a contact", "club", typed("b6", "frog", "S2", "")],
  ["400 turnouts, another hand", "club", typed("b6", "hand", "wye", "left")],
  ["400 turnouts, another address", "club", typed("b6", "address", "1900", "1901")],
  ["400 turnouts, another label", "club", typed("b6", "label", "X1", "B6")],
  [
    "400 turnouts, a turnout added and removed",
    "club",
    {
      turnoutId: "b6",
      make: (record, round) => (round % 2 === 0 ? addTurnout(record, "ZZ1") : removeTurnouts(record, ["zz1"])),
    },
  ],
  [
    "400 turnouts, a board added and removed",
    "club",
    {
      turnoutId: "b6",
      make: (record, round) => {
        if (round % 2 === 0) return addBoard(record, "stall-decoder-8");
        // the last one that was added has the greatest number
        const boards = record.devices.filter(({ typeId }) => typeId === "stall-decoder-8");
        const number = ({ label }: { label: string }) => Number(label.replace(/\D/g, ""));
        const added = boards.sort((a, b) => number(b) - number(a))[0];
        return removeDevice(record, added?.id ?? "");
      },
    },
  ],
];

export function benchEdits(demo: RailwayRecord, club: RailwayRecord): void {
  for (const [what, on, made] of CASES) {
    const { reading, findings, written, anew } = edits({ demo, club }[on], made);
    line(
      `${what}: an edit to its readings, to all findings, and again with its proposals written down`,
      `${reading}, ${findings}, ${written} (all anew ${anew.toFixed(0)} ms)`,
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
