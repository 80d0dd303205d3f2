// How much wire lies between the terminals of a net.
import { expect, it } from "vitest";
import { railway } from "../../testing/build.ts";
import { Derived } from "../derive.ts";
import { reachFrom } from "./reach.ts";

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
  const there = reachFrom(loom, net!.id, `${plus!.deviceId}:${plus!.terminal}`);
  // the net is a chain, and the contact of C its end
  expect(there.get("c:S1c")).toBeCloseTo(
    own.reduce((sum, { ohms }) => sum + ohms, 0),
    12,
  );
  const back = reachFrom(loom, net!.id, "c:S1c");
  expect(back.get(`${plus!.deviceId}:${plus!.terminal}`)).toBeCloseTo(there.get("c:S1c")!, 12);
  expect([...reachFrom(loom, "nothing", "x:y")]).toEqual([["x:y", 0]]);
});
