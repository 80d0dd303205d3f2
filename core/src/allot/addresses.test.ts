import { describe, expect, it } from "vitest";
import { drafted, railway, typed } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { turnoutsFromTable } from "../equip/table.ts";
import { emptyRecord, type RailwayRecord } from "../record/kinds.ts";
import { acceptProposal, allot } from "./allot.ts";
import { type Addressing, usualBoard, usualOptions } from "./wants.ts";

function listed(...labels: string[]): RailwayRecord {
  const rows = labels.map((label) => [label, label.startsWith("W") ? "West" : "East", "stall-motor"]);
  const empty = emptyRecord("Test");
  return edit(empty, turnoutsFromTable(empty, [["label", "zone", "motor"], ...rows]).edits).record;
}

function allotted(record: RailwayRecord, addresses: Addressing): RailwayRecord {
  const proposal = allot(record, { ...usualOptions(record), addresses });
  const all = new Set(proposal.places.map(({ turnoutId }) => turnoutId));
  return edit(record, acceptProposal(record, proposal, all).edits).record;
}

const byTurnout = (record: RailwayRecord) =>
  Object.fromEntries(
    new Derived(record).addresses.flatMap(({ throws, address }) => (throws === null ? [] : [[throws, address]])),
  );

describe("addresses of an allotment", () => {
  it("are the turnouts' own numbers, and the next free one where two have the same", () => {
    expect(byTurnout(allotted(listed("E12", "W12", "E7", "W40"), "numbers"))).toEqual({
      E12: 12,
      W12: 13,
      E7: 7,
      W40: 40,
    });
  });

  it("go on behind the highest when a label has no number", () => {
    const record = allotted(listed("E3", "West"), "numbers");
    expect(byTurnout(record)).toEqual({ E3: 3, West: 4 });
  });

  it("begin a hundred for each zone, in the owner's order of zones", () => {
    expect(byTurnout(allotted(listed("W1", "E1", "W2", "E2"), "zones"))).toEqual({
      W1: 101,
      W2: 102,
      E1: 201,
      E2: 202,
    });
  });

  it("leave those of boards that are there alone, and never meet them", () => {
    const before = typed(railway(["A", "", "stall-motor", "stall-decoder-8"]), "a", "address", "30");
    const more = edit(
      before,
      turnoutsFromTable(before, [["label", "motor"], ...Array.from({ length: 9 }, (_, n) => [`B${n}`, "stall-motor"])])
        .edits,
    ).record;
    const record = allotted(more, "runs");
    const all = new Derived(record).addresses.map(({ address }) => address);
    expect(new Set(all).size).toBe(all.length);
    expect(byTurnout(record)).toMatchObject({ A: 30 });
  });

  it("say when none is left, and nothing is done", () => {
    const last = typed(railway(["A", "", "stall-motor", "stall-decoder-8"]), "a", "address", "2039");
    const full = Array.from({ length: 8 }, (_, n) => [`B${n}`, "stall-motor"]);
    const record = edit(last, turnoutsFromTable(last, [["label", "motor"], ...full]).edits).record;
    expect(() => allotted(record, "runs")).toThrow(/No address is left for D2-2: numbers from 2041 to 2040 are in use/);
    // a station that counts from raw 0 has four more
    const shifted: RailwayRecord = { ...record, railway: { ...record.railway, addressShift: 4 } };
    expect(() => allotted(shifted, "runs")).toThrow(/D2-6/);
  });
});

it("offers the board that the railway uses most for a kind of motor, else the usual one", () => {
  expect(usualBoard(emptyRecord("x"), "stall-motor")).toBe("stall-decoder-8");
  expect(usualBoard(emptyRecord("x"), "twin-coil")).toBe("cdu");
  expect(usualBoard(emptyRecord("x"), "unwired")).toBeNull();
  const nodes = railway(
    ["A", "", "stall-motor", "output-node-8"],
    ["B", "", "stall-motor", "ON1-2"],
    ["C", "", "stall-motor", "stall-decoder-8"],
  );
  expect(usualBoard(nodes, "stall-motor")).toBe("output-node-8");
});

it("needs no addresses for boards that have none", () => {
  const record = drafted(railway(["A", "", "servo"]), () => {});
  const options = { ...usualOptions(record), boards: { servo: "servo-board-4" } };
  const proposal = allot(record, options);
  const after = edit(record, acceptProposal(record, proposal, new Set(["a"])).edits).record;
  expect(after.assignments.some(({ role }) => role === "address")).toBe(false);
  expect(new Derived(after).schematic.threads[0]?.motors[0]?.driver?.device.label).toBe("SB1");
});
