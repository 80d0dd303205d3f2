// Switches of a node whose meaning is found by one number that was read.
import fc from "fast-check";
import { expect, it } from "vitest";
import { onBus } from "../../testing/recipes.ts";
import { edit } from "../catalogue/edit.ts";
import { calibrate, nodeNumber, nodeSwitches } from "../units/nodeSwitches.ts";
import { calibrateNode } from "./calibrateNode.ts";
import { busNodes } from "./nodes.ts";

const AT = "2026-05-12T20:14:00.000Z";

it("says the number that was read, whatever the switches were taken for", () => {
  const bits = fc.integer({ min: 1, max: 8 });
  const setUp = bits.chain((count) =>
    fc.record({
      on: fc.array(fc.boolean(), { minLength: count, maxLength: count }),
      known: fc.array(fc.constantFrom(0 as const, 1 as const), { minLength: count, maxLength: count }),
      // no fewer than all switches together can say
      observed: fc.integer({ min: 255, max: 700 }),
    }),
  );
  fc.assert(
    fc.property(setUp, ({ on, known, observed }) => {
      const found = calibrate(on, observed, known);
      expect(nodeNumber(on, found!.onMeans, found!.offset)).toBe(observed);
      expect(found!.offset).toBeGreaterThanOrEqual(0);
    }),
  );
});

it("says nothing of a number that no meaning of the switches comes down to", () => {
  expect(calibrate([true, false], 0, [1, 1])).toBeNull();
});

it("finds inverted switches with an offset by the number that they say when all are off", () => {
  expect(calibrate([false, false, false, false], 16, [1, 1, 1, 1])).toEqual({ onMeans: [0, 0, 0, 0], offset: 1 });
});

it("gives the node a type of its own, by which its switches are drawn from then on", () => {
  const record = onBus("push-pair");
  const on = [false, false, false, false, false, false, false];
  const now = edit(record, calibrateNode(record, "on1", on, 128, AT).edits).record;
  expect(now.types).toMatchObject([{ basedOn: "output-node-8", switches: { offset: 1 } }]);
  const node = busNodes(now).find(({ line }) => line.of === "ON1")!;
  expect(node.line.read).toBe("128");
  expect(node.line.numbers).toEqual([1, 128]);
  // seen again with one switch on, its own type is mended
  const { onMeans, offset } = now.types[0]!.switches!;
  const again = edit(now, calibrateNode(now, "on1", [true, ...on.slice(1)], 127, AT).edits).record;
  expect(again.types).toHaveLength(1);
  expect(again.types[0]!.switches).toEqual({ onMeans, offset });
  expect(nodeSwitches(128, onMeans, offset).every(({ position }) => position === "off")).toBe(true);
  expect(() => calibrateNode(record, "on1", on, 0, AT)).toThrow(/No meaning of these switches says 0/);
});
