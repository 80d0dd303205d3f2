// How much wire lies between the terminals of a net.
import { expect, it } from "vitest";
import { railway } from "../../testing/build.ts";
import { Derived } from "../derive.ts";
import { reachFrom, wiresBetween } from "./reach.ts";

it("adds the wires up along a chain, whichever end one begins at", () => {
  const { loom, schematic } = new Derived(
    railway(
      ["A", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour"],
      ["B", "", "stall-motor", "D1-2", "", "lamp-two-colour"],
      ["C", "", "stall-motor", "D1-3", "", "lamp-two-colour"],
    ),
  );
  const net = schematic.nets.find(({ ends }) =>
    ends.some(({ deviceId, terminal }) => `${deviceId}:${terminal}` === "c:S1c"),
  );
  const own = loom.wires.filter((wire) => wire.net === net!.id);
  expect(own.length).toBeGreaterThan(2);
  const [plus] = net!.ends;
  const there = reachFrom(loom, `${plus!.deviceId}:${plus!.terminal}`);
  // the net is a chain, and the contact of C its end
  expect(there.get("c:S1c")).toBeCloseTo(
    own.reduce((sum, { ohms }) => sum + ohms, 0),
    12,
  );
  const back = reachFrom(loom, "c:S1c");
  expect(back.get(`${plus!.deviceId}:${plus!.terminal}`)).toBeCloseTo(there.get("c:S1c")!, 12);
  expect([...reachFrom(loom, "x:y")]).toEqual([["x:y", 0]]);

  const way = wiresBetween(loom, "c:S1c", `${plus!.deviceId}:${plus!.terminal}`);
  expect(way.map(({ id }) => id).sort()).toEqual(own.map(({ id }) => id).sort());
  expect([way[0]!.from.key, way[0]!.to.key]).toContain("c:S1c");
  expect(wiresBetween(loom, "c:S1c", "d1:1A")).toEqual([]);
  expect(wiresBetween(loom, "c:S1c", "c:S1c")).toEqual([]);
});
