// What parts bear, with numbers that were worked out by hand: each limit is missed by what the trade would reckon on paper.
import { describe, expect, it } from "vitest";
import { drafted, findingsOf, railway, remedied, retyped, typed, withFigures } from "../../testing/build.ts";
import { FROGS, LAMPS, onReversingToggle, semaphore } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";

const whys = (record: RailwayRecord, rule: string) => findingsOf(record, rule).map(({ why }) => why);
const stall = (lamp = "", frog = "") => railway(["A", "", "stall-motor", "stall-decoder-8", "", lamp, frog]);

/** The first number before a unit in a sentence. */
const numberBefore = (text: string | undefined, unit: string) =>
  Number(new RegExp(`([\\d.]+) ${unit}`).exec(text ?? "")?.[1]);

describe("heat of resistors", () => {
  // derived: (15 - 2.2 - 0.7) V through 1000 ohm are some 12 mA: 0.15 to 0.17 W while it is lit, in both half cycles with a diode beside
  it("of a frog lamp is some 0.16 W, too much for a quarter watt's half and for an eighth of a watt", () => {
    const lamps = (watts: number) => withFigures(stall("lamps-frog-diodes", "S1"), "LP1", { resistorWatts: watts });
    const [told] = whys(lamps(0.125), "resistor-too-hot");
    expect(told).toMatch(/^With|^Whatever/);
    expect(numberBefore(told, "mW into heat")).toBeGreaterThan(145);
    expect(numberBefore(told, "mW into heat")).toBeLessThan(185);
    expect(whys(lamps(0.25), "resistor-too-hot")).toEqual([]);
  });

  it("of the plain frog lamps is half of that, since they are lit in one half cycle only", () => {
    const plain = withFigures(stall("lamps-frog", "S1"), "LP1", { resistorWatts: 0.05 });
    const heat = numberBefore(whys(plain, "resistor-too-hot")[0], "mW into heat");
    expect(heat).toBeGreaterThan(72);
    expect(heat).toBeLessThan(95);
  });

  // derived: some 24.6 V across 100 and 4 ohm are 0.23 A at the peak of the AC, 2.7 W in the mean; a finger's seconds bear 6.25 times the rating
  it("of a charging resistor is borne for the seconds of a press, and told of the coil that is left on", () => {
    const held = (watts: number) =>
      withFigures(railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"]), "CD1", { chargeWatts: watts });
    expect(whys(held(5), "resistor-too-hot")).toEqual([]);
    expect(whys(held(0.45), "resistor-too-hot")).toEqual([]);
    const [told] = whys(held(0.4), "resistor-too-hot");
    expect(told).toMatch(
      /^With T1 held at [NR], the charging resistor of CD1 turns 2\.\d W into heat; it bears 2\.5 W\.$/,
    );
    const left = railway(["A", "", "twin-coil-surface", "cdu", "toggle-latching"]);
    expect(whys(left, "resistor-too-hot")).toEqual([]);
    expect(whys(left, "coil-held-on")).toHaveLength(1);
  });

  it("is cured by a rating of twice as much", () => {
    const hot = withFigures(stall("lamps-frog-diodes", "S1"), "LP1", { resistorWatts: 0.125 });
    const [finding] = findingsOf(hot, "resistor-too-hot");
    expect(finding!.remedies.map(({ label }) => label)).toEqual(["Fit resistors of 500 mW in LP1"]);
    expect(whys(remedied(hot, finding!, /^Fit resistors/), "resistor-too-hot")).toEqual([]);
  });
});

describe("contacts", () => {
  // common practice: three times the rating for the second until a breaker opens; 3 A bear 9 A
  it("that feed a frog bear the track's short until the breaker opens, if it opens soon enough", () => {
    const onBooster = (trips: number) =>
      withFigures(stall("", "S1"), "TB1", { tripAmps: trips, ratedAmps: trips * 0.8 });
    expect(whys(onBooster(5), "contact-over-rating")).toEqual([]);
    expect(whys(onBooster(8.9), "contact-over-rating")).toEqual([]);
    expect(whys(onBooster(10), "contact-over-rating")).toEqual([
      "A short at the frog sends 10.00 A through A-S1c until TB1 opens; the contact is rated 3.00 A, and bears 9.00 A for that second.",
    ]);
    // a fuse of 2.5 A opens from 6.88 A
    const fused = withFigures(stall("", "S1"), "TB1", { tripAmps: 10, ratedAmps: 8, fuseAmps: 2.5 });
    expect(whys(fused, "contact-over-rating")).toEqual([]);
  });

  // derived: 12 V through 60 ohm of a stalled motor are 0.19 A with its leads
  it("of a reversing toggle carry what its motor takes for ever", () => {
    const strong = withFigures(onReversingToggle("toggle-reversing", ["A", "", "stall-motor"]), "A", {
      stalledOhms: 60,
    });
    const weak = (rated: number) => withFigures(strong, "T1", { ratedAmps: rated });
    expect(whys(weak(0.25), "contact-over-rating")).toEqual([]);
    const [told] = whys(weak(0.1), "contact-over-rating");
    expect(told).toMatch(/T1-\d[NR] carries 1[89]\d mA; the contact is rated 100 mA\.$/);
  });

  it("of a relay bear less than those of a motor when their type says so, and are exchanged by a button", () => {
    const relay = withFigures(FROGS["a relay beside a stall motor"]!(), "RY1", { contactAmps: 1 });
    const [finding] = findingsOf(relay, "contact-over-rating");
    expect(finding).toMatchObject({ where: "RY1", severity: "look" });
    const label = "Take contacts of 2 A for RY1";
    expect(finding!.remedies.map((each) => each.label)).toEqual([label]);
    expect(whys(remedied(relay, finding!, label), "contact-over-rating")).toEqual([]);
  });
});

describe("an automatic polarity unit", () => {
  const unit = FROGS["an automatic unit"]!();

  // derived: 15 V behind 0.2 ohm and a metre or two of wire give some 40 A: enough for 2 A, less than 60 A
  it("changes over as long as the track gives enough and nothing opens before", () => {
    expect(whys(unit, "polarity-unit-late")).toEqual([]);
    const lazy = withFigures(unit, "FP1", { tripAmps: 60 });
    expect(whys(lazy, "polarity-unit-late")[0]).toMatch(
      /^A wheel that bridges draws \d\d\.\d+ A from TB1; FP1 changes over from 60\.00 A\.$/,
    );
  });

  // IEC 60127-2 (from memory): a fuse of 0.63 A opens within seconds from 1.73 A
  it("comes too late behind a small fuse, and is set lower by a button", () => {
    const fused = withFigures(unit, "TB1", { fuseAmps: 0.63 });
    const [finding] = findingsOf(fused, "polarity-unit-late");
    expect(finding!.why).toBe("FP1 changes over from 2.00 A, and TB1 opens from 1.73 A.");
    expect(finding!.remedies.map(({ label }) => label)).toEqual(["Set FP1 to change over from 1.00 A"]);
    expect(whys(remedied(fused, finding!, /^Set FP1/), "polarity-unit-late")).toEqual([]);
  });
});

describe("what one output gives", () => {
  // derived: two motors of 15 mA and a relay of 18 mA beside one of them are 48 mA by their leaflets, an output gives 40 mA
  it("counts a relay beside a motor", () => {
    const pair = railway(["A", "", "stall-motor", "stall-decoder-8", "", "", "relay"], ["B", "A", "stall-motor"]);
    expect(whys(pair, "output-over-limit")[0]).toMatch(
      /^2 motors on D1-1 may take 48\.0 mA by their leaflets; the output may give 40\.0 mA\./,
    );
    expect(whys(typed(pair, "a", "frog", "S1"), "output-over-limit")).toEqual([]);
  });

  // derived: 18 V across 4 ohm and what is in its way are 3.7 A for one coil, 7 A for two side by side
  it("is the peak of a pulse for coils: one is borne, two are not", () => {
    const one = railway(["A", "", "twin-coil-surface", "coil-decoder-4"]);
    expect(whys(one, "output-over-limit")).toEqual([]);
    const two = railway(["A", "", "twin-coil-surface", "coil-decoder-4"], ["B", "A", "twin-coil-surface"]);
    const [finding] = findingsOf(two, "output-over-limit");
    expect(finding!.why).toMatch(/^D1-1 may give 6\.00 A; [67]\.\d\d A flow at the peak of a pulse\.$/);
    const apart = remedied(two, finding!, /^Move B to D1-2/);
    expect(whys(apart, "output-over-limit")).toEqual([]);
    const { circuitry, schematic } = new Derived(apart);
    for (const motor of schematic.threads[0]!.motors)
      expect(
        circuitry.motorGoesTo(motor.device.id, { asked: { a: "R" }, moment: "rest", acting: null, off: false }),
      ).toBe("R");
  });
});

describe("what a board gives in all", () => {
  it("counts the arms of semaphores and the lamps on its outputs", () => {
    const { boards } = new Derived(semaphore());
    const own = boards.find(({ deviceId }) => deviceId === "d2")!;
    expect(own.moving).toBeGreaterThan(10 * own.rest);
    const lamps = new Derived(LAMPS["outputs of a node that pull down"]!()).boards;
    expect(lamps.map(({ deviceId }) => deviceId)).toContain("on1");
  });

  // derived: three servos of 0.65 A at 15 - 5 V are 19.5 W, at 9 - 5 V 7.8 W
  it("is less the more volts its linear regulator has to take", () => {
    const three = railway(
      ["A", "", "servo", "servo-board-4", "toggle-latching"],
      ["B", "", "servo", "SB1-2", "toggle-latching"],
      ["C", "", "servo", "SB1-3", "toggle-latching"],
    );
    const on = (typeId: string) => whys(retyped(three, "PS1", typeId), "board-over-total");
    expect(on("dc-15")[0]).toContain("with 10.0 V left over its regulator bears 12.0 W of heat, which is 1.20 A");
    expect(on("dc-12")[0]).toContain("which is 1.71 A");
    expect(on("dc-9")).toEqual([]);
  });

  // derived: a controller's regulator bears 1.5 W: 375 mA of 4 V, 214 mA of 7 V; its own limit is 250 mA
  it("of a controller is what its small regulator bears on 12 V", () => {
    const relays = FROGS["a relay board that follows the turnout"]!();
    const supply = relays.devices.find(({ typeId }) => typeId === "dc-9")!;
    const strong = withFigures(retyped(relays, supply.label, "dc-12"), "MC1", { regulatorWatts: 0.3 });
    const [told] = whys(strong, "relays-beyond-controller");
    // 0.3 W of 7 V
    expect(told).toMatch(/; it gives 42\.9 mA\.$/);
    expect(whys(relays, "relays-beyond-controller")).toEqual([]);
  });
});

describe("an input of 5 V", () => {
  it("is kept from a decoder's 12 V by diodes, and still hears it", () => {
    const pushing = drafted(railway(["A", "", "servo", "servo-board-4"]), (draft) => {
      const decoder = draft.addDevice("stall-decoder-8", "D", "layout");
      const track = draft.addDevice("track-bus", "TB", "layout");
      draft.assign("supply", { deviceId: "ps1", toDeviceId: decoder.id });
      draft.assign("commands", { deviceId: track.id, toDeviceId: decoder.id });
      const asks = { turnoutId: "a", to: null, inverse: false, follows: false };
      draft.assign("control", { deviceId: decoder.id, way: 3, ...asks });
    });
    const [finding] = findingsOf(pushing, "input-over-volts");
    expect(finding!.why).toMatch(/^D1 puts 1[12]\.\d V on SB1-I1[NR]; it bears 5\.5 V\.$/);
    const cured = remedied(pushing, finding!, "Solder a diode into the lead of each input of SB1");
    const { circuitry, findings } = new Derived(cured);
    expect(findings.filter(({ severity }) => severity === "stop")).toEqual([]);
    for (const asked of ["N", "R"] as const) {
      const state = { asked: { a: asked }, moment: "rest", acting: null, off: false } as const;
      expect(circuitry.motorGoesTo("a", state)).toBe(asked);
      // what the board sees of 12 V is its own 5 V; of 0 V a diode's drop
      const seen = ["N", "R"]
        .map((side) => circuitry.volts(`sb1:I1${side}d`, "sb1:−", state) ?? 0)
        .sort((a, b) => a - b);
      expect(seen[0]!).toBeLessThan(1);
      expect(seen[1]!).toBeCloseTo(5, 1);
    }
  });
});
