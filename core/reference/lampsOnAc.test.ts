// LEDs on AC: their mean over the cycle, against the integral by many steps and against ngspice.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ledModel } from "../src/circuit/elements.ts";
import { Derived } from "../src/derive.ts";
import { halfWaveMean } from "../src/readings/threadReading.ts";
import type { RailwayRecord } from "../src/record/kinds.ts";
import { drafted, findingsOf, railway, remedied } from "../testing/build.ts";
import { runNgspice } from "../testing/ngspice.ts";

/** A lamp behind a motor's contact on a supply of 12 V AC. */
function onAc(lamp: string): RailwayRecord {
  const record = railway(["A", "", "stall-motor", "stall-decoder-8", "", lamp]);
  return drafted(record, (draft) => {
    const own = record.devices.find(({ label }) => label === "LP1")!;
    const supply = draft.addDevice("ac-12", "PS", "layout");
    draft.unassign((a) => a.role === "supply" && a.toDeviceId === own.id);
    draft.assign("supply", { deviceId: supply.id, toDeviceId: own.id });
  });
}

/** The lamp as it is read at normal. */
function readingOf(record: RailwayRecord) {
  const derived = new Derived(record);
  return derived.reading(derived.schematic.threads[0]!, "N", "rest").lamps[0]!;
}

it("has the mean that many steps over the cycle give", () => {
  fc.assert(
    fc.property(fc.double({ min: 0.01, max: 0.95, noNaN: true }), (share) => {
      let sum = 0;
      const steps = 20_000;
      for (let step = 0; step < steps; step++)
        sum += Math.max(0, Math.sin((2 * Math.PI * (step + 0.5)) / steps) - share) / (1 - share);
      expect(halfWaveMean(1, share)).toBeCloseTo(sum / steps, 5);
    }),
  );
  expect(halfWaveMean(1, 1)).toBe(0);
});

describe("a lamp of 390 ohm on 12 V AC", () => {
  // derived: 12 V rated are 13.8 V with nothing on it, 19.5 V at the peak; 2.2 V across the LED: 44 mA at the peak, 13 mA in the mean;
  // backwards it sees all of the peak
  it("takes 13 mA in the mean, and sees 19.5 V backwards", () => {
    const reads = readingOf(onAc("lamp-two-colour"));
    expect(reads.normal).toBeCloseTo(0.013, 3);
    expect(reads.backwardsVolts).toBeCloseTo(13.8 * Math.SQRT2, 2);
    expect(reads.contactVolts).toBeCloseTo(13.8, 0);
  });

  it("takes what ngspice finds over the cycle", () => {
    const { is, n } = ledModel(2.2, 0.01);
    const netlist = [
      "lamp",
      "V1 1 0 SIN(0 19.5161 50)",
      "R1 1 2 1.9",
      "R2 2 3 390",
      "D1 3 0 LED",
      `.model LED D(IS=${is} N=${n})`,
      ".end",
    ].join("\n");
    const control = [
      "source lamp.cir",
      "tran 10u 40m",
      "meas tran mean avg i(v1) from=20m to=40m",
      "echo $&mean > out.txt",
    ];
    const theirs = Math.abs(Number(runNgspice({ "lamp.cir": netlist }, control.join("\n")).trim()));
    expect(Math.abs(readingOf(onAc("lamp-two-colour")).normal / theirs - 1)).toBeLessThan(0.02);
  });

  it("is told of both, and fed from DC has neither", () => {
    const record = onAc("lamp-two-colour-12");
    const [backwards] = findingsOf(record, "lamp-reverse-voltage");
    expect(backwards!.why).toBe("An LED of LP1 sees 19.5 V backwards; it bears 5.0 V.");
    // 4.3 mA of 10 in the mean: two thirds as bright to the eye, which is not dim
    expect(readingOf(record).normal).toBeGreaterThan(0.004);
    expect(findingsOf(record, "lamp-current")).toEqual([]);
    const fed = remedied(record, backwards!, "Feed LP1 from a supply of DC");
    expect(findingsOf(fed, "lamp-reverse-voltage")).toEqual([]);
    expect(findingsOf(fed, "lamp-current")).toEqual([]);
  });
});
