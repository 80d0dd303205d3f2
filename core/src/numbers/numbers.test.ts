import { expect, it } from "vitest";
import { drafted, railway, smallRailway, typed } from "../../testing/build.ts";
import { setAddress } from "../equip/equipment.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { threadsOf } from "../schematic/thread.ts";
import { addressRange } from "./accessoryAddress.ts";
import { addressList, freeAddress } from "./addressList.ts";

const listOf = (record: RailwayRecord) => addressList(record, threadsOf(record));

it("lists every output with its factory address until another is stated", () => {
  const list = listOf(smallRailway());
  expect(list.map(({ label, address }) => `${label} ${address}`)).toEqual(
    Array.from({ length: 8 }, (_, i) => `D1-${i + 1} ${i + 1}`),
  );
  expect(list[0]).toMatchObject({
    throws: "M1/M2",
    turnoutIds: ["m1"],
    factory: true,
    packet: { decoder: 1, pair: 0, raw: 4 },
  });
  expect(list[1]).toMatchObject({ throws: null, factory: true });
  const stated = listOf(typed(smallRailway(), "m1", "address", "117"));
  expect(stated[0]).toMatchObject({ address: 117, factory: false, packet: { decoder: 30, pair: 0, raw: 120 } });
});

it("names all turnouts on an output, unlinked ones too", () => {
  const two = railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "", "stall-motor", "D1-1"]);
  expect(listOf(two)[0]).toMatchObject({ label: "D1-1", throws: "A, B", turnoutIds: ["a", "b"] });
});

it("lets an address go back to the factory's", () => {
  const back = typed(typed(smallRailway(), "m1", "address", "117"), "m1", "address", "");
  expect(listOf(back)[0]).toMatchObject({ address: 1, factory: true });
});

it("names the others with the same address, on any board", () => {
  const two = railway(
    ["A", "", "stall-motor", "stall-decoder-8", "", ""],
    ["B", "", "stall-motor", "stall-decoder-8", "", ""],
  );
  const list = listOf(two);
  expect(list.every(({ sharedWith }) => sharedWith.length === 1)).toBe(true);
  expect(list.find(({ label }) => label === "D2-3")?.sharedWith).toEqual(["D1-3"]);
});

it("sorts boards by number, not by letter", () => {
  const rows = Array.from({ length: 11 }, (_, i) => [`T${i}`, "", "stall-motor", "stall-decoder-8", "", ""]);
  const boards = [...new Set(listOf(railway(...rows)).map(({ label }) => label.slice(0, label.indexOf("-"))))];
  expect(boards).toEqual(["D1", "D2", "D3", "D4", "D5", "D6", "D7", "D8", "D9", "D10", "D11"]);
});

it("finds the next free address, and none when all are taken", () => {
  const record = drafted(smallRailway(), (draft) => setAddress(draft, "d1", 3, 12));
  expect(freeAddress(record, listOf(record))).toBe(3);
  expect(freeAddress(record, listOf(record), 12)).toBe(13);
  const { first, last } = addressRange(0);
  const full = Array.from({ length: last - first + 1 }, (_, i) => ({ ...listOf(record)[0]!, address: first + i }));
  expect(freeAddress(record, full)).toBeNull();
});

it("counts four off for a station that begins at raw 0", () => {
  const record = smallRailway();
  const shifted = { ...record, railway: { ...record.railway, addressShift: 4 as const } };
  expect(listOf(shifted)[0]!.packet).toEqual({ decoder: 0, pair: 0, raw: 0 });
  expect(addressRange(4)).toEqual({ first: 1, last: 2044 });
});
