// New addresses by schemes, and the order in which boards are programmed to them.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted, railway } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { setAddress } from "../equip/equipment.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { threadsOf } from "../schematic/thread.ts";
import { addressList, isDue, type OutputAddress } from "./addressList.ts";
import { addressMap, gapsIn } from "./addressMap.ts";
import { reserveAddresses, resetBoard, setAnswer } from "./answers.ts";
import { applyRenumbering, programmingOrder, renumber, type Scheme } from "./renumber.ts";

const AT = "2026-05-12T20:14:00.000Z";
const listOf = (record: RailwayRecord) => addressList(record, threadsOf(record));
const of = (record: RailwayRecord, label: string) => listOf(record).find((output) => output.label === label)!;

/** Turnouts on decoders of eight single outputs and of four coils in a row, in two zones. */
function station(): RailwayRecord {
  const record = railway(
    ["12", "", "stall-motor", "stall-decoder-8"],
    ["7", "", "stall-motor", "D1"],
    ["Y3", "", "twin-coil-surface", "coil-decoder-4"],
    ["Y4", "", "twin-coil-surface", "D2"],
    ["31", "", "stall-motor", "stall-decoder-8"],
  );
  return drafted(record, (draft) => {
    for (const [order, id] of ["q", "y"].entries())
      draft.put("zone", { id, label: id.toUpperCase(), name: "", order, commons: null, plasticJoints: 0 });
    for (const turnout of record.turnouts)
      draft.put("turnout", { ...turnout, zoneId: turnout.label.startsWith("Y") ? "y" : "q" });
  });
}

const labelsOf = (record: RailwayRecord) => new Set(listOf(record).map(({ label }) => label));
const renumbered = (record: RailwayRecord, scheme: Scheme) => {
  const { changes } = renumber(record, listOf(record), labelsOf(record), scheme);
  const group = applyRenumbering(record, changes);
  return group ? edit(record, group.edits).record : record;
};

describe("schemes", () => {
  it("give each turnout the number of its label, boards in rows as far as that goes", () => {
    const record = station();
    const now = renumbered(record, { by: "turnout" });
    const thrown = listOf(now).flatMap(({ throws, address }) => (throws ? [`${throws} ${address}`] : []));
    // Y3 is the first of four in a row, which begins at 1, 5, 9: 3 is no such number
    expect(thrown.filter((each) => !each.startsWith("Y"))).toEqual(["12 12", "7 7", "31 31"]);
    const { unchanged } = renumber(record, listOf(record), labelsOf(record), { by: "turnout" });
    expect(unchanged).toEqual([{ label: "D2-1 to D2-4", why: "4 outputs in a row cannot begin at 3." }]);
  });

  it("give boards runs one after the other, and zones their own hundreds", () => {
    const boards = listOf(renumbered(station(), { by: "board", first: 101 }));
    expect(boards.map(({ address }) => address)).toEqual(Array.from({ length: 20 }, (_, index) => 101 + index));
    const zones = listOf(renumbered(station(), { by: "zone", size: 100 }));
    const thrown = zones.flatMap(({ throws, address }) => (throws ? [`${throws} ${address}`] : []));
    expect(thrown).toEqual(["12 101", "7 102", "Y3 201", "Y4 202", "31 103"]);
  });

  it("leave alone what was not chosen, and give no reserved number", () => {
    const record = station();
    const reserved = edit(record, reserveAddresses(record, 100, 103, "signals").edits).record;
    const only = new Set(["D1-1", "D1-2"]);
    const { changes } = renumber(reserved, listOf(reserved), only, { by: "board", first: 100 });
    expect(changes.map(({ label, to }) => `${label} ${to}`)).toEqual(["D1-1 104", "D1-2 105"]);
    expect(() => reserveAddresses(record, 9, 4, "x")).toThrow("The range ends at 4, before it begins at 9.");
  });

  const schemes: Scheme[] = [
    { by: "turnout" },
    { by: "board", first: 1 },
    { by: "board", first: 2030 },
    { by: "zone", size: 10 },
    { by: "zone", size: 100 },
  ];
  const addresses = fc.array(fc.tuple(fc.nat(19), fc.integer({ min: 4, max: 60 })), { maxLength: 14 });

  it("never leave two outputs with one address that did not share one before, nor one out of its row", () => {
    fc.assert(
      fc.property(fc.constantFrom(...schemes), addresses, fc.nat(2 ** 20 - 1), (scheme, stated, chosen) => {
        const record = stateAddresses(station(), stated);
        const all = listOf(record);
        const labels = new Set(all.flatMap(({ label }, index) => ((chosen >> index) & 1 ? [label] : [])));
        const { changes } = renumber(record, all, labels, scheme);
        for (const { label } of changes) expect(labels).toContain(label);
        const group = applyRenumbering(record, changes);
        const now = group ? listOf(edit(record, group.edits).record) : all;
        const changed = new Set(changes.map(({ label }) => label));
        for (const output of now) {
          if (changed.has(output.label)) expect(output.sharedWith, output.label).toEqual([]);
          expect(output.address).toBe(
            changes.find(({ label }) => label === output.label)?.to ?? of(record, output.label).address,
          );
        }
      }),
    );
  });
});

/** The record with addresses stated for outputs, chosen by numbers; those that a board cannot have are left. */
function stateAddresses(record: RailwayRecord, stated: readonly (readonly [number, number])[]): RailwayRecord {
  return drafted(record, (draft) => {
    const all = listOf(record);
    for (const [index, address] of stated) {
      const { deviceId, way } = all[index] as OutputAddress;
      setAddress(draft, deviceId, way, address);
    }
  });
}

describe("the order of programming", () => {
  it("brings every output to its address, and gives none that another output answers to at that moment", () => {
    const known = fc.array(fc.tuple(fc.nat(19), fc.integer({ min: 4, max: 60 })), { maxLength: 14 });
    fc.assert(
      fc.property(known, known, (wanted, answers) => {
        let record = stateAddresses(station(), wanted);
        for (const [index, address] of answers) {
          const { deviceId, way } = listOf(record)[index] as OutputAddress;
          record = edit(
            record,
            setAnswer(record, deviceId, way, address, { how: "read", seen: "", at: AT }).edits,
          ).record;
        }
        const before = listOf(record);
        const steps = programmingOrder(record, before);
        const temporary = steps.filter(({ isTemporary }) => isTemporary).length;
        expect(steps.length - temporary).toBeLessThanOrEqual(before.length);
        expect(temporary).toBeLessThanOrEqual(steps.length - temporary);
        for (const { deviceId, ways, address, alsoAt } of steps) {
          const numbers = ways.map((_, place) => address + place);
          const others = listOf(record).filter(
            (output) => numbers.includes(output.now) && !(output.deviceId === deviceId && ways.includes(output.way)),
          );
          // only what has this very address in the plan too, and is not to move, is met there
          expect(others.map(({ label }) => label).sort()).toEqual([...alsoAt].sort());
          for (const other of others) expect(isDue(other)).toBe(false);
          record = edit(
            record,
            setAnswer(record, deviceId, ways[0]!, address, { how: "programmed", seen: "", at: AT }).edits,
          ).record;
        }
        expect(listOf(record).filter(isDue)).toEqual([]);
        expect(programmingOrder(record, listOf(record))).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });

  it("lets only one of a ring go aside, not what waits for it", () => {
    // D2 and D1-2 want each other's numbers; D1-1, which comes first, only waits for D2
    let record = stateAddresses(station(), [
      [0, 22],
      [1, 21],
      [8, 25],
    ]);
    const found = { how: "read" as const, seen: "", at: AT };
    for (const [deviceId, way, address] of [
      ["d1", 1, 40],
      ["d1", 2, 25],
      ["d2", 1, 21],
    ] as const)
      record = edit(record, setAnswer(record, deviceId, way, address, found).edits).record;
    const steps = programmingOrder(record, listOf(record));
    expect(steps.map(({ label, isTemporary }) => `${label}${isTemporary ? " aside" : ""}`)).toEqual([
      "D2-1 to D2-4 aside",
      "D1-1",
      "D1-2",
      "D2-1 to D2-4",
    ]);
  });

  it("uses a number in between where two outputs exchange theirs", () => {
    const record = stateAddresses(
      station(),
      [
        [0, 2],
        [1, 1],
      ].map(([index, address]) => [index!, address!] as const),
    );
    const apart = stateAddresses(
      record,
      Array.from({ length: 8 }, (_, way) => [12 + way, 40 + way] as const),
    );
    const clear = stateAddresses(apart, [[8, 21]]);
    const steps = programmingOrder(clear, listOf(clear)).filter(({ label }) => label.startsWith("D1"));
    expect(steps.map(({ label, isTemporary }) => `${label}${isTemporary ? " in between" : ""}`)).toEqual([
      "D1-1 in between",
      "D1-2",
      "D1-1",
    ]);
    expect(steps[0]!.address).not.toBe(2);
  });
});

it("knows what outputs answer to, for all that get their numbers at once, until the board is reset", () => {
  const record = station();
  const seen = { how: "programmed" as const, seen: "it blinked", at: AT };
  const taught = edit(record, setAnswer(record, "d2", 2, 22, seen).edits).record;
  expect(listOf(taught).flatMap(({ label, now }) => (label.startsWith("D2") ? [now] : []))).toEqual([21, 22, 23, 24]);
  expect(of(taught, "D2-2")).toMatchObject({ answer: { ...seen, address: 22 }, now: 22, address: 2 });
  expect(isDue(of(taught, "D2-2"))).toBe(true);
  const wanted = drafted(taught, (draft) => setAddress(draft, "d2", 2, 22));
  expect(
    listOf(wanted)
      .filter(({ label }) => label.startsWith("D2"))
      .some(isDue),
  ).toBe(false);
  const reset = edit(wanted, resetBoard(wanted, "d2", "new board", AT).edits).record;
  expect(
    listOf(reset)
      .filter(({ label }) => label.startsWith("D2"))
      .every(isDue),
  ).toBe(true);
  expect(of(reset, "D2-4").answer).toMatchObject({ how: "reset", address: 4, seen: "new board" });
  expect(() => drafted(record, (draft) => setAddress(draft, "d2", 4, 2))).toThrow(
    "D2-4 gets its address with 3 others, in a row: it is 4 at least.",
  );
});

it("shows the whole range: taken, reserved, free, clashing, and what is not programmed yet", () => {
  const record = stateAddresses(station(), [
    ...Array.from({ length: 8 }, (_, way) => [way, 100 + way] as const),
    [8, 200],
    ...Array.from({ length: 8 }, (_, way) => [12 + way, 300 + way] as const),
    [19, 100],
  ]);
  const reserved = edit(record, reserveAddresses(record, 500, 509, "signals").edits).record;
  const places = addressMap(reserved, listOf(reserved));
  expect(places).toHaveLength(2040);
  const at = (address: number) => places[address - 1]!;
  expect(at(100).state).toBe("clash");
  expect(at(101)).toMatchObject({ state: "due", outputs: [{ label: "D1-2" }] });
  // as bought, three boards answer to 1
  expect(at(1)).toMatchObject({ state: "free" });
  expect(at(1).still.map(({ label }) => label)).toEqual(["D1-1", "D2-1", "D3-1"]);
  expect(at(505)).toMatchObject({ state: "reserved", reserved: "signals" });
  expect(at(2040).state).toBe("free");
  expect(gapsIn(places)[0]).toEqual([108, 199]);
});
