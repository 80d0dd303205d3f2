import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted, findingsOf, railway, withFigures } from "../../testing/build.ts";
import type { Element } from "../circuit/elements.ts";
import { energyAbove } from "../circuit/transient.ts";
import { Derived } from "../derive.ts";
import { NO_PULSE, type Pulse, PulseCircuits, pulseThrough, voltsShareFor } from "./pulse.ts";
import { stateFor } from "./threadReading.ts";

/** The current of a capacitor through resistors, from its peak, at even moments over eight time constants. */
function exponential(peak: number, tau: number): { seconds: number[]; amps: number[] } {
  const seconds = Array.from({ length: 2001 }, (_, index) => (8 * tau * index) / 2000);
  return { seconds, amps: seconds.map((second) => peak * Math.exp(-second / tau)) };
}

const Positive = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe("energy while a current moves a slug", () => {
  // derived: of i = I e^(-t/T), R i^2 integrates to R I^2 T / 2 (1 - (least / I)^2) until it has fallen to the least
  it("is what the integral of an exponential gives", () => {
    fc.assert(
      fc.property(Positive(0.5, 20), Positive(1e-3, 0.1), Positive(1, 20), Positive(0, 1), (peak, tau, ohms, share) => {
        const { seconds, amps } = exponential(peak, tau);
        const whole = (ohms * peak ** 2 * tau) / 2;
        const found = energyAbove(seconds, amps, ohms, share * peak);
        expect(Math.abs(found - whole * (1 - share ** 2))).toBeLessThan(2e-3 * whole);
      }),
    );
  });

  it("is nothing below the least, and everything where it is 0", () => {
    const { seconds, amps } = exponential(1, 0.01);
    expect(energyAbove(seconds, amps, 4, 1.001)).toBe(0);
    expect(energyAbove(seconds, amps, 4, 0)).toBeCloseTo(0.02, 4);
    // twice the current has four times the heat
    expect(energyAbove(seconds, amps, 4, 0, 2)).toBeCloseTo(0.08, 4);
  });
});

describe("the volts that a pulse takes", () => {
  const pulseOf = (peak: number, moveAmps: number): Pulse => {
    const curve = { ...exponential(peak, 0.02), ohms: 4, moveAmps };
    return { ...NO_PULSE, joules: energyAbove(curve.seconds, curve.amps, 4, moveAmps), peakAmps: peak, curve };
  };

  // derived: V^2 (1 - (least / V I)^2) = V^2 - (least / I)^2 of the whole energy
  it("grow where a part of the energy is of no use", () => {
    const pulse = pulseOf(5, 1.2);
    const whole = (4 * 25 * 0.02) / 2;
    const expected = Math.sqrt(0.15 / whole + (1.2 / 5) ** 2);
    expect(voltsShareFor(pulse, 0.15)).toBeCloseTo(expected, 3);
    // without a least current, energy goes with the square of the volts
    expect(voltsShareFor(pulseOf(5, 0), 0.15)).toBeCloseTo(Math.sqrt(0.15 / whole), 3);
    expect(voltsShareFor(pulse, 2)).toBeNull();
    expect(voltsShareFor(NO_PULSE, 0.15)).toBeNull();
  });
});

describe("a coil on a bare supply", () => {
  const coil = railway(["A", "", "twin-coil-surface", "", "toggle-centre-off"]);
  const on = (typeId: string) =>
    drafted(coil, (draft) => {
      const supply = draft.addDevice(typeId, "PS", "layout");
      draft.assign("driver", { deviceId: supply.id, way: null, motorId: "a" });
    });

  // derived: 5 V through 4 ohm and its wires are 1.07 A, by which the slug does not move however long it is held
  it("does not move by 5 V, and is told by its current", () => {
    const record = on("dc-5");
    const [finding] = findingsOf(record, "goes-astray");
    expect(finding!.why).toBe("A gets 1.07 A at most, where its slug moves from 1.20 A: PS1 has 5.0 V to give.");
    expect(finding!.remedies.map(({ label }) => label)).toEqual(["Put A on CD1"]);
    const derived = new Derived(record);
    const [thread] = derived.schematic.threads;
    const state = stateFor(thread!, "N", "throwing");
    expect(derived.circuitry.pulse("a", "N", state)).toMatchObject({ joules: 0 });
    expect(derived.circuitry.motorGoesTo("a", state)).toBeNull();
  });

  it("moves by 12 V, and by 5 V where its type moves by less", () => {
    expect(findingsOf(on("dc-12"), "goes-astray")).toEqual([]);
    expect(findingsOf(withFigures(on("dc-5"), "A", { moveAmps: 0.5 }), "goes-astray")).toEqual([]);
  });
});

describe("a pulse that circuits share", () => {
  /** A charged capacitor through a contact and wires into a coil; the way out is laid in so many wires of so many ohms. */
  const circuit = (name: string, out: readonly number[], moveAmps = 1): ReturnType<typeof pulseThrough> => {
    const nodeAt = (place: number) => (place === out.length ? `${name}:coil` : `${name}:joint ${place}`);
    const elements: Element[] = [
      { kind: "capacitor", id: `${name}.store`, nodes: [`${name}:+`, `${name}:0`], farads: 0.0047, volts: 24 },
      { kind: "switch", id: `${name}.made`, nodes: [`${name}:+`, nodeAt(0)], closed: true, onOhms: 0.05, offOhms: 1e9 },
      { kind: "coil", id: `${name}.N`, nodes: [`${name}:coil`, `${name}:back`], henries: 0.003, ohms: 4 },
      ...out.map((ohms, place): Element => {
        return { kind: "resistor", id: `${name} ${place}>`, nodes: [nodeAt(place), nodeAt(place + 1)], ohms };
      }),
      { kind: "resistor", id: `${name} back>`, nodes: [`${name}:back`, `${name}:0`], ohms: 0.3 },
    ];
    return pulseThrough(elements, () => moveAmps, new PulseCircuits());
  };

  it("is the same whatever its parts are called, and however its wires are cut, and tells each by its own names", () => {
    const one = circuit("M1", [0.4]);
    const other = circuit("M2", [0.1, 0.3]);
    expect(other.key).toBe(one.key);
    const ran = one.run();
    const [first, second] = [one.named(ran).get("M1.N"), other.named(ran).get("M2.N")];
    expect(second).toEqual({ ...first, wires: expect.anything() });
    expect(second!.joules).toBeGreaterThan(0.2);
    // each wire takes its share of what the way takes
    expect(second!.wires.get("M2 0>")! * 3).toBeCloseTo(second!.wires.get("M2 1>")!, 9);
    expect(second!.wires.get("M2 0>")! + second!.wires.get("M2 1>")!).toBeCloseTo(first!.wires.get("M1 0>")!, 9);
    // and as run by itself
    const own = other.named(other.run()).get("M2.N");
    expect(own!.joules).toBeCloseTo(second!.joules, 9);
    expect(own!.wires.get("M2 1>")).toBeCloseTo(second!.wires.get("M2 1>")!, 9);
  });

  it("is another one with more wire, or where more current moves the slug", () => {
    const keys = [circuit("M1", [0.4]), circuit("M1", [0.41]), circuit("M1", [0.4], 1.2)].map(({ key }) => key);
    expect(new Set(keys).size).toBe(3);
  });

  it("is followed once for the two coils of a motor", () => {
    const derived = new Derived(railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"]));
    const motor = derived.schematic.threads[0]!.motors[0]!.device.id;
    const [normal, reverse] = (["N", "R"] as const).map((position) =>
      derived.circuitry.pulse(motor, position, stateFor(derived.schematic.threads[0]!, position, "throwing")),
    );
    expect(normal!.joules).toBeGreaterThan(0);
    // not equal by chance: the same curve
    expect(reverse!.curve).toBe(normal!.curve);
    expect([...reverse!.wires.keys()]).not.toEqual([...normal!.wires.keys()]);
  });
});
