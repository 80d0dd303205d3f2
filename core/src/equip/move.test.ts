import { expect, it } from "vitest";
import { railway, typed } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/schemas.ts";
import { moveBy, moveOutput, outputsOf } from "./move.ts";

const three = () =>
  typed(
    railway(
      ["A", "", "stall-motor", "stall-decoder-8"],
      ["B", "A", "stall-motor"],
      ["C", "", "stall-motor", "D1-2"],
      ["Y", "", "twin-coil-surface", "coil-decoder-4"],
    ),
    "a",
    "address",
    "40",
  );
const moved = (record: RailwayRecord, id: string, board: string, way: number | null) =>
  edit(record, moveOutput(record, id, board, way).edits).record;
const on = (record: RailwayRecord, board = "d1") =>
  outputsOf(record, board)
    .map(({ label }) => label ?? "-")
    .join(" ");
const address = (record: RailwayRecord, label: string) =>
  new Derived(record).addresses.find((output) => output.throws === label)?.address;

it("moves a pair to a free output, and its address with it", () => {
  const record = moved(three(), "a", "d1", 5);
  expect(on(record)).toBe("- C - - A/B - - -");
  expect(address(record, "A/B")).toBe(40);
  expect(new Derived(record).complete).toContain("a");
});

it("exchanges two turnouts that are on the outputs", () => {
  const record = moved(three(), "a", "d1", 2);
  expect(on(record)).toBe("C A/B - - - - - -");
  expect([address(record, "A/B"), address(record, "C")]).toEqual([40, 2]);
});

it("goes up and down by one, and takes the first free output of another board", () => {
  const record = three();
  expect(on(edit(record, moveBy(record, "c", 1).edits).record)).toBe("A/B - C - - - - -");
  expect(() => moveBy(record, "a", -1)).toThrow(/D1 has outputs 1 to 8/);
  const more = typed(typed(record, "c", "driver", "stall-decoder-8"), "c", "driver", "D3-4");
  expect(on(moved(more, "a", "d3", null), "d3")).toBe("A/B - - C - - - -");
});

it("says what it cannot do", () => {
  const record = three();
  expect(() => moveOutput(record, "y", "d1", 3)).toThrow(/D1 cannot drive Y: an output for stall motors/);
  expect(() => moveOutput(record, "a", "d1", 9)).toThrow(/D1 has outputs 1 to 8/);
  expect(() => moveOutput(record, "a", "d1", 1)).toThrow(/A\/B is there already/);
  expect(() => moveOutput(record, "a", "ps1", 1)).toThrow(/no numbered outputs/);
});
