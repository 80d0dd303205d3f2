// Volts at the nodes of a control bus: less at the end of a long thin supply than at its beginning.
import { expect, it } from "vitest";
import { retyped } from "../../testing/build.ts";
import { onBus } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import { nodeVolts } from "./nodeVolts.ts";

it("are what the supply gives, less what its wires take", () => {
  const volts = nodeVolts(new Derived(onBus("push-pair")).circuitry);
  expect(volts).toHaveLength(2);
  for (const { rest, worst, least } of volts) {
    expect(rest).toBeLessThan(12);
    expect(rest).toBeGreaterThan(11.9);
    expect(worst).toBeLessThanOrEqual(rest);
    expect(least).toBe(9);
  }
});

it("sink with thinner wire", () => {
  const record = onBus("push-pair");
  const thin = { ...record, railway: { ...record.railway, wireGauge: "AWG 28" as const } };
  const sum = (of: typeof record) => nodeVolts(new Derived(of).circuitry).reduce((all, { rest }) => all + rest, 0);
  expect(sum(thin)).toBeLessThan(sum(record));
});

it("are none where nothing is on a bus", () => {
  expect(nodeVolts(new Derived(retyped(onBus("push-pair"), "ON1", "stall-decoder-8")).circuitry)).toHaveLength(1);
});
