import fc from "fast-check";
import { expect, it } from "vitest";
import { railway, typed } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { RecordError } from "../record/problems.ts";
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

it("keeps every turnout on one output and its address with it, through any series of moves", () => {
  const six = () =>
    railway(
      ...["A", "B", "C", "D"].map((label, index) => [
        label,
        "",
        "stall-motor",
        index === 0 ? "stall-decoder-8" : `D1-${index + 1}`,
      ]),
      ["E", "", "stall-motor", "stall-decoder-8"],
      ["F", "", "stall-motor", "D2-2"],
    );
  const move = fc.tuple(
    fc.constantFrom("a", "b", "c", "d", "e", "f"),
    fc.constantFrom("d1", "d2"),
    fc.option(fc.integer({ min: 1, max: 8 })),
  );
  /** Address of each turnout; by factory setting, two boards have the same ones, so each is set. */
  const addressed = () =>
    ["a", "b", "c", "d", "e", "f"].reduce(
      (record, id, index) => typed(record, id, "address", String(101 + index)),
      six(),
    );
  fc.assert(
    fc.property(fc.array(move, { maxLength: 12 }), (moves) => {
      let record = addressed();
      for (const [id, board, way] of moves) {
        try {
          record = moved(record, id, board, way);
        } catch (error) {
          // where it is already, or no free output
          expect(error).toBeInstanceOf(RecordError);
        }
      }
      const { schematic, addresses } = new Derived(record);
      const outputs = schematic.threads.map(({ motors }) => motors[0]?.driver);
      expect(new Set(outputs.map((each) => `${each?.device.id}-${each?.way}`)).size).toBe(6);
      for (const [index, label] of ["A", "B", "C", "D", "E", "F"].entries())
        expect(addresses.find(({ throws }) => throws === label)?.address, label).toBe(101 + index);
    }),
    { numRuns: 60 },
  );
});
