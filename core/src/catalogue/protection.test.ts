import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { findingsOf, railway, remedied, typed, withFigures } from "../../testing/build.ts";
import { MISTAKES } from "../../testing/mistakes.ts";
import { genericType } from "./catalogue.ts";
import { flowsForEver, fuseFor, fuseWords, opensFrom, protectionOf } from "./protection.ts";

const supply = (figures: Record<string, number>) => {
  const type = genericType("dc-12")!;
  const own = Object.fromEntries(
    Object.entries(figures).map(([name, value]) => [name, { ...type.figures[name]!, value }]),
  );
  return { figures: { ...type.figures, ...own } };
};

describe("what ends a current", () => {
  it("is a supply's own limit where there is no fuse", () => {
    expect(protectionOf(supply({}))).toEqual({ trips: 3, fuse: null });
    expect(flowsForEver(protectionOf(supply({})))).toBe(3);
    expect(opensFrom(protectionOf(supply({})))).toBe(3);
  });

  // IEC 60127-2 (from memory): 1.5 times for an hour, 2.1 times within half an hour, 2.75 times within seconds
  it("is a fuse where that is the first to open: half as much again flows for ever, and a short has to draw 2.75 times", () => {
    const fused = protectionOf(supply({ fuseAmps: 1 }));
    expect(flowsForEver(fused)).toBeCloseTo(1.45);
    expect(opensFrom(fused)).toBeCloseTo(2.75);
    // a supply that limits at 3 A opens no fuse of 2 A within seconds, but shuts down itself
    expect(opensFrom(protectionOf(supply({ fuseAmps: 2 })))).toBe(3);
    expect(opensFrom({ trips: null, fuse: null })).toBe(Number.POSITIVE_INFINITY);
  });

  it("is told in words", () => {
    const words = [1.4, 1.8, 2.5, 3, 20].map((times) => fuseWords(2, 2 * times));
    expect(words).toEqual([
      "holds it for ever",
      "may hold it for an hour",
      "may take half an hour to open",
      "opens within seconds",
      "opens at once",
    ]);
  });

  it("and a fuse that is proposed for a wire lets nothing flow for ever that the wire does not bear", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 40, noNaN: true }), (bears) => {
        const size = fuseFor(bears);
        if (size === null) expect(bears).toBeLessThan(0.2 * 1.45);
        else expect(flowsForEver({ trips: null, fuse: size })).toBeLessThanOrEqual(bears);
      }),
    );
  });
});

describe("a fuse behind a supply", () => {
  it("protects thin cores where the supply shuts down too late, and is proposed so", () => {
    const record = MISTAKES["wire-not-protected"]!();
    const [finding] = findingsOf(record, "wire-not-protected").filter(({ where }) => where === "PS1");
    expect(finding!.why).toMatch(/^PS1 shuts down from 3\.00 A; W\d+, AWG 24, bears 2\.29 A/);
    const fused = remedied(record, finding!, /^Put a fuse of 1\.25 A behind PS1/);
    expect(findingsOf(fused, "wire-not-protected").filter(({ where }) => where === "PS1")).toEqual([]);
    // derived: 1.6 A hold 2.32 A for ever, which is more than the core bears
    const large = withFigures(record, "PS1", { fuseAmps: 1.6 });
    expect(findingsOf(large, "wire-not-protected").find(({ where }) => where === "PS1")!.why).toMatch(
      /^The fuse of 1\.60 A behind PS1 holds 2\.32 A for ever; W\d+, AWG 24, bears 2\.29 A/,
    );
  });

  it("is too small where what hangs on it takes more", () => {
    const servos = railway(...["A", "B", "C", "D"].map((label) => [label, "", "servo", "servo-board-4"]));
    const board = servos.devices.find(({ typeId }) => typeId.startsWith("dc-"))!;
    const fused = withFigures(servos, board.label, { fuseAmps: 0.5 });
    const [finding] = findingsOf(fused, "supply-over-rating");
    expect(finding!.why).toMatch(/; the fuse behind it is of 500 mA, and 400 mA is good practice\.$/);
  });

  it("does not open by a short at the end of a long thin feeder, which draws too little", () => {
    const far = typed(railway(["A", "", "stall-motor", "stall-decoder-8"]), "a", "run", "1");
    const strong = withFigures(far, "TB1", { tripAmps: 500, fuseAmps: 50 / 2.5 });
    const thin = { ...strong, railway: { ...strong.railway, wireGauge: "AWG 28" as const } };
    const [finding] = findingsOf(thin, "short-would-not-trip").filter(({ where }) => where === "TB1");
    expect(finding!.why).toMatch(
      /^A short at D1 draws \d\d\.\d+ A through 0\.\d+ ohm of supply and wire; the fuse of 20\.00 A behind TB1 .*, and opens within seconds from 55\.00 A\.$/,
    );
  });
});
