import fc from "fast-check";
import { expect, it } from "vitest";
import { drafted, railway, withFigures } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { turnoutsFromTable } from "../equip/table.ts";
import { emptyRecord, type RailwayRecord } from "../record/kinds.ts";
import { PLAIN_TYPE } from "../record/schemas.ts";
import { acceptProposal, allot } from "./allot.ts";
import { type AllotOptions, usualOptions } from "./wants.ts";

/** Turnouts with stall motors in zones, one letter each; a digit after the letter is not looked at. */
function zoned(zones: string, motor = "stall-motor"): RailwayRecord {
  const rows = [...zones].map((zone, index) => [`${zone.toUpperCase()}${index + 1}`, `Zone ${zone}`, motor]);
  const empty = emptyRecord("Test");
  return edit(empty, turnoutsFromTable(empty, [["label", "zone", "motor"], ...rows]).edits).record;
}

const propose = (record: RailwayRecord, options: Partial<AllotOptions> = {}) =>
  allot(record, { ...usualOptions(record), ...options });
const accepted = (record: RailwayRecord, options: Partial<AllotOptions> = {}) => {
  const proposal = propose(record, options);
  return edit(
    record,
    acceptProposal(record, proposal, new Set(proposal.places.map(({ turnoutId }) => turnoutId))).edits,
  ).record;
};
const driven = (record: RailwayRecord) =>
  new Derived(record).schematic.threads.map(
    ({ label, motors }) => `${label} ${motors.map(({ driver }) => `${driver?.device.label}-${driver?.way}`).join(" ")}`,
  );
const addresses = (record: RailwayRecord) =>
  Object.fromEntries(new Derived(record).addresses.map(({ label, address }) => [label, address]));

it("needs the fewest boards, and keeps zones together", () => {
  // twelve turnouts in two zones, interleaved: two boards of eight, one for each zone
  const proposal = propose(zoned("abababababab"));
  expect(proposal.boards.map(({ label, deviceId }) => [label, deviceId])).toEqual([
    ["D1", null],
    ["D2", null],
  ]);
  expect(proposal.away).toBe(0);
  for (const zone of ["Zone a", "Zone b"])
    expect(new Set(proposal.places.filter((place) => place.zone === zone).map(({ board }) => board)).size).toBe(1);
});

it("takes what is free on a board that is there before a new one, and gives supplies and addresses", () => {
  const before = accepted(zoned("aaaaa"));
  expect(driven(before)).toEqual(["A1 D1-1", "A2 D1-2", "A3 D1-3", "A4 D1-4", "A5 D1-5"]);
  const more = edit(
    before,
    turnoutsFromTable(before, [
      ["label", "zone", "motor"],
      ...[6, 7, 8, 9].map((n) => [`A${n}`, "Zone a", "stall-motor"]),
    ]).edits,
  ).record;
  const record = accepted(more);
  // what the proposal foretold is what was made
  const foretold = propose(more);
  expect(foretold.places.map(({ label, address }) => [label, address])).toEqual([
    ["A6", 6],
    ["A7", 7],
    ["A8", 8],
    ["A9", 9],
  ]);
  expect(foretold.boards.map(({ label, fedBy }) => [label, fedBy])).toEqual([
    ["D1", "PS1"],
    ["D2", "PS1"],
  ]);
  expect(driven(record).slice(5)).toEqual(["A6 D1-6", "A7 D1-7", "A8 D1-8", "A9 D2-1"]);
  expect(addresses(record)).toMatchObject({ "D1-8": 8, "D2-1": 9, "D2-8": 16 });
  const derived = new Derived(record);
  expect(derived.complete).toHaveLength(9);
  expect(derived.findings.filter(({ severity }) => severity === "stop")).toEqual([]);
});

it("puts a crossover on one output where the current allows, and on two where it does not", () => {
  const pair = railway(["M1", "", "stall-motor"], ["M2", "M1", "stall-motor"], ["M3", "M1", "stall-motor"]);
  // 3 x 15 mA are more than the 40 mA of an output
  expect(propose(pair).places.map(({ ways }) => ways)).toEqual([[1, 2, 3]]);
  expect(driven(accepted(pair))).toEqual(["M1/M2/M3 D1-1 D1-2 D1-3"]);
  const two = railway(["M1", "", "stall-motor"], ["M2", "M1", "stall-motor"]);
  expect(propose(two).places.map(({ ways }) => ways)).toEqual([[1]]);
  expect(driven(accepted(two))).toEqual(["M1/M2 D1-1 D1-1"]);
  expect(propose(pair, { split: false })).toMatchObject({
    places: [],
    stopped: [
      {
        label: "M1/M2/M3",
        why: "3 motors draw 45.0 mA and an output of Accessory decoder, eight stall-motor outputs gives 40.0 mA: 5.0 mA too much.",
      },
    ],
  });
});

it("says which limit stops a turnout, and by how much", () => {
  const hungry = withFigures(railway(["A", "", "stall-motor"]), "A", { ratedAmps: 0.06 });
  expect(propose(hungry).stopped[0]?.why).toMatch(
    /^1 motor draws 60.0 mA and an output of .* gives 40.0 mA: 20.0 mA too much/,
  );
  const coil = railway(["A", "", "twin-coil-surface"]);
  expect(propose(coil, { boards: { "twin-coil": "stall-decoder-8" } }).stopped[0]?.why).toMatch(
    /cannot drive it: an output for stall motors gives milliamps/,
  );
  expect(propose(coil, { boards: {} }).stopped[0]?.why).toMatch(/nothing is chosen that drives a twin-coil motor/);
  expect(() => propose(zoned("a".repeat(20)), { mostBoards: 2 })).toThrow(
    /It takes 3 new boards .* and 2 are allowed: 1 too few. 20 outputs are wanted and 16 would be free./,
  );
  const many = railway(
    ["A", "", "twin-coil-surface"],
    ...[..."BCDEFGHIJK"].map((label) => [label, "A", "twin-coil-surface"]),
  );
  expect(propose(many, { boards: { "twin-coil": "cdu" } }).stopped[0]?.why).toMatch(
    /11 coils fire together, and one capacitor discharge unit fires 9: 2 too many/,
  );
});

it("leaves alone what is equipped, and what has no motor unless one is said", () => {
  const record = railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "", ""], ["C", "", "slow-motor-decoder"]);
  expect(propose(record).places).toEqual([]);
  expect(propose(record, { motor: "stall-motor" }).places.map(({ label }) => label)).toEqual(["B"]);
  expect(driven(accepted(record, { motor: "stall-motor" })).slice(0, 2)).toEqual(["A D1-1", "B D1-2"]);
});

it("accepts some of a proposal, and nothing of one that no longer holds", () => {
  const record = zoned("aaa");
  const proposal = propose(record);
  const part = edit(record, acceptProposal(record, proposal, new Set(["a2"])).edits).record;
  expect(driven(part)).toEqual(
    ["A1 ", "A2 D1-2", "A3 "].map((text) => (text.endsWith(" ") ? `${text}undefined-undefined` : text)),
  );
  expect(() => acceptProposal(part, proposal, new Set(["a1", "a2"]))).toThrow(/A2 has a driver by now/);
  expect(() => acceptProposal(record, proposal, new Set())).toThrow(/No turnout of the proposal is chosen/);
  const gone = drafted(record, (draft) => {
    draft.unassign((a) => "turnoutId" in a && a.turnoutId === "a1");
    draft.remove("turnout", "a1");
  });
  expect(() => acceptProposal(gone, proposal, new Set(["a1"]))).toThrow(/A1 is not there any more/);
});

it.each([
  ["runs", { "D1-1": 1, "D1-8": 8, "D2-1": 9 }],
  ["numbers", { "D1-1": 1, "D1-2": 3, "D2-1": 2 }],
  ["zones", { "D1-1": 101, "D1-2": 102, "D2-1": 201 }],
  ["factory", { "D1-1": 1, "D1-2": 2, "D2-1": 1 }],
] as const)("gives addresses by %s", (how, some) => {
  const record = accepted(zoned("abababababab"), { addresses: how });
  expect(addresses(record)).toMatchObject(some);
  const all = Object.values(addresses(record));
  if (how !== "factory") expect(new Set(all).size).toBe(all.length);
});

it("adds a supply when the one that is there has no room", () => {
  const motors = zoned("a".repeat(64));
  const small = drafted(motors, (draft) => {
    draft.put("type", {
      ...PLAIN_TYPE,
      id: "own-12",
      basedOn: "dc-12",
      name: "Small 12 V",
      figures: { ratedAmps: 0.3 },
    });
    draft.put("device", { id: "ps1", typeId: "dc-12", label: "PS1", place: "layout", runMetres: null, note: "" });
  });
  // eight boards of 25 mA with eight motors of 15 mA each: 1.16 A of 1.6 A; one supply does
  expect(accepted(small).devices.filter(({ typeId }) => typeId === "dc-12")).toHaveLength(1);
  const twice = accepted(zoned("a".repeat(128)));
  expect(twice.devices.filter(({ typeId }) => typeId === "dc-12")).toHaveLength(2);
  expect(new Derived(twice).findings.filter(({ ruleId }) => ruleId === "supply-over-rating")).toEqual([]);
});

it("proposes for a whole club within the limits, and tells how far it is", () => {
  const zones = Array.from({ length: 20 }, (_, zone) => String.fromCharCode(97 + zone).repeat(20)).join("");
  const told: number[] = [];
  const record = zoned(zones);
  const proposal = allot(record, usualOptions(record), (share) => told.push(share));
  expect(proposal.places).toHaveLength(400);
  expect(proposal.boards).toHaveLength(50);
  // each zone's 20 outputs fill two boards and half of a third, which it shares with one other zone
  expect(proposal.away).toBe(40);
  expect(told.at(-1)).toBe(1);
});

it("foretells outputs, addresses and supplies just as they come to be, for any mix of turnouts", () => {
  const kinds = fc.constantFrom("stall-motor", "twin-coil-surface", "servo");
  const rows = fc.array(fc.tuple(kinds, fc.constantFrom("North", "South", "")), { minLength: 1, maxLength: 24 });
  fc.assert(
    fc.property(rows, fc.constantFrom("runs", "numbers", "factory" as const), (turnouts, addressing) => {
      const empty = emptyRecord("Test");
      const table = turnouts.map(([motor, zone], index) => [`${index + 1}`, zone, motor]);
      const record = edit(empty, turnoutsFromTable(empty, [["label", "zone", "motor"], ...table]).edits).record;
      const options = { ...usualOptions(record), addresses: addressing } as AllotOptions;
      const proposal = allot(record, options);
      const all = new Set(proposal.places.map(({ turnoutId }) => turnoutId));
      const after = new Derived(edit(record, acceptProposal(record, proposal, all).edits).record);
      for (const { turnoutId, board, ways, address } of proposal.places) {
        const thread = after.schematic.threads.find(({ turnout }) => turnout.id === turnoutId);
        const driver = thread?.motors[0]?.driver;
        expect([driver?.device.label, driver?.way]).toEqual([proposal.boards[board]?.label, ways[0]]);
        const made = after.addresses.find(({ deviceId, way }) => deviceId === driver?.device.id && way === driver?.way);
        expect(made?.address ?? null).toBe(address);
      }
      // nothing is left without a driver but what was said to be stopped
      expect(all.size + proposal.stopped.length).toBe(turnouts.length);
    }),
    { numRuns: 25 },
  );
});
