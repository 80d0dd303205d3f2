// A measuring point that reads the same whatever is broken proves nothing: each step of each sheet has a fault that it shows.
import { expect, it } from "vitest";
import { EXHIBITS } from "../../testing/exhibits.ts";
import type { Element } from "../circuit/elements.ts";
import { Derived } from "../derive.ts";
import { OPEN_OHMS } from "../readings/kit.ts";
import { measure } from "../readings/meter.ts";
import { stateFor } from "../readings/threadReading.ts";
import type { Thread } from "../schematic/thread.ts";
import { looseOf, type TestStep, testSteps } from "./testSteps.ts";

/** One part broken: a contact that does not close, a source that gives nothing, anything else open. */
function broken(element: Element): Element {
  switch (element.kind) {
    case "switch":
      return { ...element, onOhms: element.offOhms };
    case "voltage":
      return { ...element, volts: 0 };
    case "resistor":
    case "coil":
      return { ...element, ohms: OPEN_OHMS };
    case "diode":
      return { ...element, model: { ...element.model, rs: OPEN_OHMS } };
    default:
      return element;
  }
}

/** Whether a step's reading leaves its band when one lead is loose, or one part is broken; true for what is only looked at. */
function tells({ circuitry }: Derived, thread: Thread, step: TestStep): boolean {
  const { unit, like = step.probes, position, expected, low, high } = step;
  if (!like || unit === "seen" || unit === "mA" || expected === null || low === null || high === null) return true;
  // nothing arrives where the railway has a mistake, and that is told as a finding
  if (Math.abs(expected) < 1e-6) return true;
  const state = stateFor(thread, position ?? "N", "rest");
  const apart = looseOf(step);
  const solved = circuitry.solveWith(like.red, state, { elements: [] });
  if (!solved) return false;
  const differs = (fault: Parameters<typeof measure>[5]) => {
    const { value } = measure(circuitry, like.red, like.black, unit, state, fault);
    return value === null || value < low || value > high;
  };
  const ends = new Set(solved.wires.flatMap(({ nodes }) => nodes));
  return (
    [...ends].some((end) => differs({ ...apart, loose: new Set([...(apart.loose ?? []), end]) })) ||
    solved.parts.some(({ element: { id } }) =>
      differs({ ...apart, build: (each) => (each.id === id ? broken(each) : each) }),
    )
  );
}

it("of each sheet of every sixth exhibit shows one fault at least", { timeout: 120_000 }, () => {
  const names = Object.keys(EXHIBITS).filter((_, index) => index % 6 === 1);
  let looked = 0;
  for (const name of names) {
    const record = EXHIBITS[name]!();
    if (record.turnouts.length > 6) continue;
    const derived = new Derived(record);
    for (const thread of derived.schematic.threads)
      for (const step of testSteps(derived.circuitry, thread)) {
        looked++;
        expect(tells(derived, thread, step), `${name}: ${step.key}`).toBe(true);
      }
  }
  expect(looked).toBeGreaterThan(100);
});
