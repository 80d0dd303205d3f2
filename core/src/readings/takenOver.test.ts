// After an edit of equipment nothing moves in the circuit but what it touched.
import { describe, expect, it } from "vitest";
import { railway, threadOf, typed } from "../../testing/build.ts";
import { Derived } from "../derive.ts";
import { completed } from "../loom/completion.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread } from "../schematic/thread.ts";
import { measure } from "./meter.ts";

/** Six turnouts, each with a toggle and a lamp, so that each has screws of its own on the strips. */
const six = () =>
  railway(
    ...["A", "B", "C", "D", "E", "F"].map((label, index) => [
      label,
      "",
      "stall-motor",
      index === 0 ? "input-decoder-4" : index < 4 ? `D1-${index + 1}` : index === 4 ? "input-decoder-4" : "D2-2",
      "toggle-centre-off",
      "lamp-two-colour",
    ]),
  );
const AT_REST = { asked: {}, moment: "rest", acting: null, off: false } as const;

function read(derived: Derived): void {
  for (const thread of derived.schematic.threads)
    for (const position of ["N", "R"] as const) derived.reading(thread, position, "throwing");
  void derived.findings;
}

/** The screw of a panel strip on which a control's terminal hangs. */
function screwOf({ loom }: Derived, end: string): string {
  const wire = loom.wires.find(({ from, to, run }) => run === "panel" && [from.key, to.key].includes(end));
  const screw = wire && [wire.from, wire.to].find(({ key }) => key.startsWith("p"));
  if (!screw) throw new Error(`No screw for ${end} in this test.`);
  return screw.key;
}

describe("after a lamp of the first turnout is taken away", () => {
  const before = new Derived(completed(six()));
  read(before);
  const after = new Derived(typed(before.record, "a", "lamp", ""), before);

  it("leaves the others on their screws, in the same circuits", () => {
    expect(screwOf(after, "t6:N")).toBe(screwOf(before, "t6:N"));
    // as many pieces were solved before anything is asked: they came along
    expect(after.circuitry.counts.solved).toBeGreaterThan(0);
    expect(after.circuitry.counts.solved).toBeGreaterThan(before.circuitry.counts.solved / 2);
  });

  it("keeps the threads that it left alone as the same objects, and their readings", () => {
    const same = (label: string) => threadOf(after, label) === threadOf(before, label);
    expect(["A", "B", "C", "D", "E", "F"].filter((label) => !same(label))).toEqual(["A"]);
  });

  it("reads at a screw what it joins", () => {
    const volts = (derived: Derived, screw: string) =>
      measure(derived.circuitry, screw, "d2:−", "V", { ...AT_REST, asked: {} }).value;
    // an input that nothing pulls down, on whichever screw it hangs
    const open = volts(before, screwOf(before, "t6:N"));
    expect(open).toBeGreaterThan(3);
    expect(volts(after, screwOf(after, "t6:N"))).toBeCloseTo(open!, 9);
  });

  it("finds the same as from the record anew", () => {
    const anew = new Derived(after.record);
    expect(after.findings.map(({ key, why }) => `${key} ${why}`)).toEqual(
      anew.findings.map(({ key, why }) => `${key} ${why}`),
    );
  });
});

/** What an edit leaves of the threads' readings, as the labels of those that are the same objects. */
function kept(record: RailwayRecord, change: (record: RailwayRecord) => RailwayRecord): string[] {
  const before = new Derived(record);
  read(before);
  const earlier = new Map(before.schematic.threads.map((thread) => [thread.label, reading(before, thread)]));
  const after = new Derived(change(record), before);
  return after.schematic.threads
    .filter((thread) => earlier.get(thread.label) === reading(after, thread))
    .map(({ label }) => label);
}

const reading = (derived: Derived, thread: Thread) => derived.reading(thread, "R", "throwing");

describe("readings after an edit", () => {
  // two supplies, so that not all hang together
  const mixed = () =>
    railway(
      ["A", "", "twin-coil-under-board", "cdu", "toggle-centre-off"],
      ["B", "", "twin-coil-under-board", "CD1", "toggle-centre-off"],
      ["M", "", "stall-motor", "stall-decoder-8"],
      ["S", "", "servo", "servo-decoder-4"],
    );

  it.each([
    ["a longer run", (record: RailwayRecord) => typed(record, "a", "run", "7"), ["M", "S"]],
    // what hangs on the same track bus is touched with it
    ["a motor taken away", (record: RailwayRecord) => typed(record, "m", "motor", ""), ["A", "B"]],
    ["another name", (record: RailwayRecord) => typed(record, "a", "name", "Yard"), ["B", "M", "S"]],
  ])("are the same where it touched nothing: %s", (_, change, wanted) => {
    const same = kept(mixed(), change);
    for (const label of wanted) expect(same).toContain(label);
  });

  it("are the same on a board that hears the track bus to which a frog elsewhere is joined", () => {
    const shared = railway(
      ["A", "", "stall-motor", "stall-decoder-8"],
      ["B", "", "stall-motor", "D1-2"],
      ["C", "", "stall-motor", "stall-decoder-8"],
    );
    const before = new Derived(shared);
    const after = new Derived(typed(shared, "c", "frog", "S2"), before);
    const piece = (terminal: string) => after.circuitry.piece(terminal);
    expect(piece("cf:L")).toBe(piece("d1:J"));
    expect(kept(shared, (record) => typed(record, "c", "frog", "S2"))).toEqual(["A", "B"]);
  });

  it("are looked at anew where a board listens in what changed", () => {
    const heard = railway(
      ["A", "", "stall-motor", "input-decoder-4", "toggle-centre-off"],
      ["B", "", "stall-motor", "D1-2", "toggle-centre-off"],
    );
    const before = new Derived(heard);
    read(before);
    const changed = typed(heard, "a", "control", "");
    const after = new Derived(changed, before);
    read(after);
    const anew = new Derived(changed);
    for (const thread of after.schematic.threads)
      expect(after.reading(thread, "R", "throwing").motors).toEqual(
        anew.reading(threadOf(anew, thread.label), "R", "throwing").motors,
      );
  });
});
