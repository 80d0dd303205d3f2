// A wire that somebody joined where the plan has no use for it: what is wrong on the railway is so in the readings.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { smallRailway } from "../../testing/build.ts";
import { EXHIBITS, randomRailway } from "../../testing/exhibits.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { completed } from "../loom/completion.ts";
import { endAt } from "../loom/hand.ts";
import { laidWires } from "../loom/laidWires.ts";
import { screwKey } from "../loom/wire.ts";
import { tickWires } from "../loom/work.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { RecordError } from "../record/problems.ts";
import { measure } from "./meter.ts";
import { AT_REST } from "./threadReading.ts";

const AT = "2026-05-12T20:00:00.000Z";

/** The railway with all of its wires joined at both ends. */
function allMade(record: RailwayRecord): RailwayRecord {
  return (["fromJoinedAt", "toJoinedAt"] as const).reduce((now, step) => {
    const { loom } = new Derived(now);
    const ids = loom.wires.map(({ id }) => id);
    const group = tickWires(now, loom, ids, step, AT);
    return group ? edit(now, group.edits).record : now;
  }, completed(record));
}

/** The record with the end of a wire at another way than it is. */
function misjoined(record: RailwayRecord, wireId: string, end: "from" | "to", stripId: string, way: number) {
  const group = endAt(record, new Derived(record).loom, wireId, end, { stripId, way });
  return group ? edit(record, group.edits).record : record;
}

describe("a wire joined at the neighbouring screw", () => {
  const made = allMade(smallRailway());
  const { loom } = new Derived(made);
  const tail = loom.wires.find(({ from, run }) => run === "layout" && from.key === screwKey("k1", 2))!;
  const wrong = misjoined(made, tail.id, "from", "k1", 3);

  it("ties the two nets in the circuit, as it does on the railway", () => {
    const [right, tied] = [new Derived(made), new Derived(wrong)];
    const read = ({ circuitry }: Derived) => measure(circuitry, screwKey("k1", 3), tail.to.key, "ohm", AT_REST.N).value;
    // a wire of 0.5 mm2 has 39 ohm a kilometre (IEC 60228), each coil 4 ohm
    expect(read(right)).toBeGreaterThan(1);
    expect(read(tied)).toBeCloseTo(tail.metres * 0.039, 2);
    expect(laidWires(tied.loom).length).toBe(tied.loom.wires.length + 1);
  });

  it("is found by its finding, and gone with it", () => {
    const derived = new Derived(wrong);
    const finding = derived.findings.find(({ ruleId }) => ruleId === "made-serves-nothing")!;
    expect(finding.severity).toBe("stop");
    expect(finding.why).toMatch(/which the plan keeps apart: .*throws to (normal|reverse).* from .*throws to/);
    const move = finding.remedies.find(({ label }) => label.startsWith("Move"))!;
    const mended = edit(wrong, move.group!.edits).record;
    const after = new Derived(mended);
    expect(laidWires(after.loom)).toBe(after.loom.wires);
  });

  it("matters to nobody while an end of it is not joined yet", () => {
    const { loom: now } = new Derived(wrong);
    const loose = edit(wrong, tickWires(wrong, now, [tail.id], "toJoinedAt", null)!.edits).record;
    const derived = new Derived(loose);
    expect(laidWires(derived.loom)).toBe(derived.loom.wires);
  });
});

it("has the same findings after an edit as anew, whatever was joined wrong", () => {
  const deed = fc.tuple(fc.nat(200), fc.boolean(), fc.nat(10), fc.integer({ min: 1, max: 12 }));
  fc.assert(
    fc.property(randomRailway(4), fc.array(deed, { minLength: 1, maxLength: 4 }), (start, deeds) => {
      let derived = new Derived(allMade(start));
      for (const [which, isFrom, strip, way] of deeds) {
        const { wires, strips } = derived.loom;
        const wire = wires[which % Math.max(1, wires.length)];
        const at = strips[strip % Math.max(1, strips.length)];
        if (!wire || !at) return;
        try {
          const record = misjoined(derived.record, wire.id, isFrom ? "from" : "to", at.id, way);
          derived = new Derived(record, derived);
        } catch (error) {
          if (!(error instanceof RecordError)) throw error;
          continue;
        }
        expect(derived.findings).toEqual(new Derived(derived.record).findings);
      }
    }),
    { numRuns: Number(process.env.AS_BUILT_RUNS ?? 25) },
  );
}, 60_000);

it.each(Object.entries(EXHIBITS))("reads as planned when all is made as planned: %s", (_, make) => {
  const record = make();
  if (record.wires.length > 0) return;
  const { loom } = new Derived(allMade(record));
  expect(laidWires(loom)).toBe(loom.wires);
});
