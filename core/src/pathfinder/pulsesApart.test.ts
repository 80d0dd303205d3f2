// Pulses of coils go by wires of their own: however the loom is laid, none shares a return with what feeds boards and lamps.
import { expect, it } from "vitest";
import { DRIVING } from "../../testing/recipes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { setLaying } from "../loom/proposing.ts";
import { stateFor } from "../readings/threadReading.ts";
import type { Purpose } from "../record/purposes.ts";
import { TOPOLOGIES } from "../record/schemas.ts";

/** What logic returns by: the two of a DC supply. */
const FEEDS: readonly Purpose[] = ["dc-plus", "dc-zero"];
/** Of a board that pulses from its own capacitor, the share of a coil's energy that may be lost while that is charged again. */
const RECHARGE = 0.01;

it.each(Object.keys(DRIVING))("%s", (name) => {
  for (const commons of TOPOLOGIES) {
    const plain = new Derived(DRIVING[name]!());
    const group = setLaying(plain.record, plain.loom, { commons });
    const derived = group ? new Derived(edit(plain.record, group.edits).record) : plain;
    const purposes = new Map(derived.schematic.nets.map(({ id, purpose }) => [id, purpose]));
    const netOf = new Map(derived.loom.wires.map(({ element, net }) => [element, purposes.get(net)]));
    for (const thread of derived.schematic.threads)
      for (const motor of thread.motors)
        for (const position of ["N", "R"] as const) {
          const pulse = derived.circuitry.pulse(motor.device.id, position, stateFor(thread, position, "throwing"));
          if (!pulse || pulse.stored === 0) continue;
          const shared = [...pulse.wires].filter(([wire]) => FEEDS.includes(netOf.get(wire) as Purpose));
          const lost = shared.reduce((sum, [, joules]) => sum + joules, 0);
          expect(lost, `${motor.device.label} to ${position}`).toBeLessThanOrEqual(RECHARGE * pulse.joules);
        }
  }
});
