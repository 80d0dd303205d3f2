// What an edit changed is cut anew, and comes to the same pieces as the whole railway cut anew.
import fc from "fast-check";
import { expect, it } from "vitest";
import { smallRailway, typed } from "../../testing/build.ts";
import { after, deeds, randomRailway } from "../../testing/exhibits.ts";
import { Derived } from "../derive.ts";
import { completed } from "../loom/completion.ts";

/** The pieces by what is in them: devices, and terminals that wires join. */
const contents = ({ circuitry }: Derived) =>
  circuitry.pieces
    .map(({ members, wires }) =>
      [...members.map(({ device }) => device.id).sort(), ...wires.map(({ id }) => id).sort()].join(" "),
    )
    .sort();

it("comes to the same pieces as from the record anew, each terminal in the piece that has its wires", () => {
  fc.assert(
    fc.property(randomRailway(5), fc.array(deeds, { minLength: 1, maxLength: 6 }), (start, all) => {
      let record = start;
      let derived = new Derived(record);
      for (const deed of all) {
        record = after(record, deed);
        derived = new Derived(record, derived);
      }
      expect(contents(derived)).toEqual(contents(new Derived(record)));
      for (const [number, { wires, members }] of derived.circuitry.pieces.entries()) {
        for (const { nodes } of wires) for (const node of nodes) expect(derived.circuitry.piece(node)).toBe(number);
        expect(members.length + wires.length).toBeGreaterThan(0);
      }
    }),
    { numRuns: 40 },
  );
});

it("keeps the pieces that an edit leaves alone, as the same objects with their solutions", () => {
  const before = new Derived(completed(smallRailway()));
  void before.findings;
  const now = new Derived(typed(before.record, "y1", "lamp", ""), before);
  const kept = new Set(before.circuitry.pieces);
  const others = now.circuitry.pieces.filter((piece) => !kept.has(piece));
  // the lamp of M1 hangs on the same supply, and the motor of Y1 loses what its contact lit
  const touched = new Set(others.flatMap(({ members }) => members.map(({ device }) => device.label)));
  expect([...touched].sort()).toEqual(["LP2", "M1", "PS3", "Y1"]);
});
