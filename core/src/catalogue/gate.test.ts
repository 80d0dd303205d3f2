// The gate before buying against the solved circuit: what it lets through works, what it stops does not.
import { describe, expect, it } from "vitest";
import { drafted, railway } from "../../testing/build.ts";
import { Derived } from "../derive.ts";
import { addBoardTo } from "../equip/devices.ts";
import { setControl, setDriver } from "../equip/equipment.ts";
import { setLamp } from "../equip/lamps.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { CATALOGUE, genericType } from "./catalogue.ts";
import { drivesMotors } from "./checkTypes.ts";
import { gate } from "./gate.ts";

const kind = (id: string) => genericType(id)!;
const MOTORS = CATALOGUE.filter(({ family }) => family === "motor");
const DRIVERS = CATALOGUE.filter((type) => (type.family === "driver" || type.id === "dc-12") && drivesMotors(type));
const CONTROLS = CATALOGUE.filter(({ family }) => family === "control");

/** One turnout with a motor, a driver and perhaps a control. */
function built(motor: string, driver: string, control?: string): RailwayRecord {
  return drafted(railway(["A", "", motor]), (draft) => {
    const board = addBoardTo(draft, driver);
    setDriver(draft, "a", { deviceId: board.id, way: kind(driver).outputs > 0 ? 1 : null });
    if (control) setControl(draft, "a", { typeId: control });
  });
}

/** Whether the motor goes both ways as asked, and nothing is found that will burn, short or not work. */
function works(record: RailwayRecord): boolean {
  const derived = new Derived(record);
  const [thread] = derived.schematic.threads;
  const goes = (["N", "R"] as const).every(
    (position) => derived.reading(thread!, position, "throwing").motors[0]?.goesTo === position,
  );
  const stopped = derived.findings.some(({ severity }) => severity === "stop");
  return goes && !stopped && derived.complete.length === 1;
}

describe.each(MOTORS.map(({ id }) => id))("a %s", (motor) => {
  it("is driven by what the gate lets through, and by nothing that it stops", () => {
    for (const driver of DRIVERS) {
      // drivers that take no commands of their own are tried with a control that suits the motor
      const own = kind(motor).model === "stall-motor" ? "toggle-reversing" : "toggle-centre-off";
      const control = driver.hears || driver.ownInputs ? (driver.hears ? undefined : "toggle-centre-off") : own;
      const verdict = gate({ motor: kind(motor), driver, control: control ? kind(control) : undefined });
      const text = `${motor} on ${driver.id} by ${control}: ${verdict.fits}, ${verdict.why}`;
      if (kind(motor).model === "decoder-motor") expect(verdict.fits, text).toBe("cannot");
      else if (verdict.fits !== "adapter")
        expect({ text, works: works(built(motor, driver.id, control)) }).toEqual({
          text,
          works: verdict.fits === "fits",
        });
    }
  });
});

it.each([
  ["twin-coil-surface", "cdu"],
  ["stall-motor", "dc-12"],
  ["stall-motor", "input-decoder-4"],
  ["servo", "servo-board-4"],
  ["twin-coil-under-board", "coil-decoder-4"],
])("lets those controls through that throw a %s on %s", (motor, driver) => {
  for (const control of CONTROLS) {
    const verdict = gate({ motor: kind(motor), driver: kind(driver), control });
    const text = `${control.id} for ${motor} on ${driver}: ${verdict.fits}, ${verdict.why}`;
    if (verdict.fits === "adapter") continue;
    expect({ text, works: works(built(motor, driver, control.id)) }).toEqual({ text, works: verdict.fits === "fits" });
  }
});

it.each(CATALOGUE.filter(({ family }) => family === "lamp").map(({ id }) => id))(
  "lights a %s from a contact when the gate lets it through",
  (lamp) => {
    const verdict = gate({ motor: kind("stall-motor"), lamp: kind(lamp) });
    const record = railway(["A", "", "stall-motor", "stall-decoder-8", "", "", "S2"]);
    if (verdict.fits !== "fits") return;
    const lit = drafted(record, (draft) => setLamp(draft, "a", { typeId: lamp }));
    const found = new Derived(lit).findings.filter(({ severity }) => severity === "stop");
    expect({ why: verdict.why, found: found.map(({ why }) => why) }).toEqual({ why: verdict.why, found: [] });
  },
);

it("says why not, with the numbers", () => {
  expect(gate({ motor: kind("twin-coil-surface"), driver: kind("stall-decoder-8") })).toEqual({
    fits: "cannot",
    why: "an output for stall motors gives milliamps for ever; coils want amps for a moment",
  });
  expect(gate({ motor: kind("stall-motor"), driver: kind("stall-decoder-8") }).why).toBe(
    "15.0 mA of 40.0 mA: up to 2 on one output",
  );
  expect(gate({ motor: kind("stall-motor"), driver: kind("dc-18"), control: kind("toggle-reversing") }).why).toBe(
    "18.0 V is more than the 12.0 V that it is made for",
  );
  expect(gate({ lamp: kind("lamp-two-colour"), lampFrom: kind("output-node-16") })).toEqual({
    fits: "cannot",
    why: "its common goes to 0 V and the outputs pull down to 0 V as well: it takes a common to plus",
  });
  expect(gate({ lamp: kind("lamp-two-colour"), lampFrom: kind("stall-decoder-8") })).toMatchObject({ fits: "adapter" });
  expect(gate({ motor: kind("twin-coil-surface"), lamp: kind("lamp-two-colour") })).toMatchObject({ fits: "adapter" });
  expect(gate({})).toEqual({ fits: "fits", why: "nothing against it" });
});
