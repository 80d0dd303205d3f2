// What nobody would wire on purpose: it is named, and nothing of it is lost.
import { expect, it } from "vitest";
import { smallRailway } from "../../testing/build.ts";
import { edit, openRailwayFile } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { EditGroup, type EditGroup as Group } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Wire as Fact } from "../record/made.ts";
import { problemsOf } from "../record/problems.ts";
import { writeRailwayFile } from "../record/railwayFile.ts";
import { completed } from "./completion.ts";
import { setCable, setStrip, setWire } from "./hand.ts";
import { factEnds } from "./wire.ts";

const AT = "2026-05-12T20:00:00.000Z";

/** A wire joined by hand between two ways of strips, or a way and a terminal. */
function joined(number: number, ends: Partial<Fact>): Fact {
  return {
    ...{ id: `x${number}`, number, fromDeviceId: null, fromTerminal: null, fromStripId: null, fromWay: null },
    ...{ toDeviceId: null, toTerminal: null, toStripId: null, toWay: null, cableId: null, core: null },
    ...{ colour: "BK", gauge: "0.5 mm2", metres: 1, kept: false, cutAt: AT, labelledAt: null },
    ...{ fromJoinedAt: AT, toJoinedAt: AT, testedAt: null, outAt: null, note: "", ...ends },
  };
}

const withWires = (record: RailwayRecord, wires: Fact[]): RailwayRecord =>
  openRailwayFile(writeRailwayFile({ ...record, wires: [...record.wires, ...wires] }));

/** Why edits are not made: what is said of their fields, then of what they would make of the record. */
function refusal(record: RailwayRecord, group: Group | null): string {
  const parsed = EditGroup.safeParse(group);
  if (!parsed.success)
    return problemsOf(parsed.error)
      .map(({ message }) => message)
      .join(" ");
  try {
    edit(record, parsed.data.edits);
  } catch (error) {
    return String(error);
  }
  return "";
}

it("names a screw with two hundred wires, and keeps every one of them", () => {
  const record = completed(smallRailway());
  // the screw by which the pulse comes from the unit
  const entry = new Derived(record).loom.wires.find(({ from, to }) => to.name === "CD1+" && from.of === null)!;
  const [stripId = "", way = ""] = entry.from.key.split("/");
  const crowd = Array.from({ length: 200 }, (_, index) =>
    joined(1000 + index, { fromStripId: stripId, fromWay: Number(way), toDeviceId: "cd1", toTerminal: "+" }),
  );
  const derived = new Derived(withWires(record, crowd));
  const known = new Set([...derived.loom.wires.map(({ id }) => id), ...derived.loom.idle.map(({ fact }) => fact.id)]);
  for (const { id } of crowd) expect(known).toContain(id);
  const crowded = derived.findings.find(
    ({ ruleId, where }) => ruleId === "crowded-terminal" && where === entry.from.name,
  );
  expect(crowded?.why).toMatch(/^20[1-3] wires end at K1-\d+: .* and more; a screw holds 2\.$/);
});

it("reads a file whose wires contradict its plan, names each of them, and writes it back as it was", () => {
  const record = completed(smallRailway());
  const odd = [
    // two windings tied, a terminal that nothing is planned for, a way that goes nowhere
    joined(900, { fromDeviceId: "y1", fromTerminal: "N", toDeviceId: "y1", toTerminal: "R" }),
    joined(901, { fromDeviceId: "y1", fromTerminal: "N", toDeviceId: "y2", toTerminal: "N" }),
    joined(902, { fromStripId: "k1", fromWay: 11, toStripId: "k1", toWay: 12 }),
    joined(903, { fromDeviceId: "y1", fromTerminal: "N", toTerminal: "T9-N" }),
  ];
  const read = withWires(record, odd);
  const derived = new Derived(read);
  const named = derived.findings.filter(({ ruleId }) => ruleId === "made-serves-nothing").map(({ why }) => why);
  for (const number of [900, 901, 903]) expect(named.join("\n")).toContain(`W${number} `);
  expect(derived.loom.idle.find(({ fact }) => fact.number === 902)?.why).toBe("spare");
  for (const fact of odd) expect(read.wires).toContainEqual(fact);
  expect(openRailwayFile(writeRailwayFile(read))).toEqual(read);
});

it.each([0, 0.01, 201])("does not take %d m for a length", (metres) => {
  const record = completed(smallRailway());
  const { loom } = new Derived(record);
  const wire = loom.wires.find(({ core }) => core === null)!;
  const group = setWire(record, loom, wire.id, { metres });
  expect(refusal(record, group)).toMatch(/must be 0.05 to 200 m/);
  const cable = setCable(record, loom, "c1", { metres });
  expect(refusal(record, cable)).toMatch(/must be 0.05 to 200 m/);
});

it.each([
  [{ ways: 0 }, /ways/],
  [{ ways: 65 }, /ways/],
  [{ pinAmps: 0 }, /0.1 to 100 A/],
  [{ label: "" }, /must not be empty/],
  [{ label: "K1" }, /already a strip called K1/],
])("does not take a strip with %o", (fields, why) => {
  const record = completed(smallRailway());
  const { loom } = new Derived(record);
  expect(refusal(record, setStrip(record, loom, "p1", fields))).toMatch(why);
});

it("knows each wire by its ends, also a wire that goes back to where it came from", () => {
  const record = completed(smallRailway());
  const round = joined(950, { fromStripId: "k1", fromWay: 2, toStripId: "k1", toWay: 2 });
  const derived = new Derived(withWires(record, [round]));
  expect(factEnds(round).from).toBe(factEnds(round).to);
  const isKnown = [...derived.loom.wires.map(({ id }) => id), ...derived.loom.idle.map(({ fact }) => fact.id)];
  expect(isKnown).toContain("x950");
});
