import { amps, ohms, volts } from "../units/format.ts";
import type { DeviceType } from "./deviceType.ts";
import { traitsOf } from "./traits.ts";

/** Whether two kinds of thing can be joined: as they are, by something between, or not at all. */
export interface Verdict {
  fits: "fits" | "adapter" | "cannot";
  why: string;
}

/** The kinds that one turnout is to have; those left out are not looked at. */
export interface Kinds {
  motor?: DeviceType | undefined;
  driver?: DeviceType | undefined;
  control?: DeviceType | undefined;
  lamp?: DeviceType | undefined;
  /** What lights the lamp; the motor when not said. */
  lampFrom?: DeviceType | undefined;
}

const fits = (why: string): Verdict => ({ fits: "fits", why });
const adapter = (why: string): Verdict => ({ fits: "adapter", why });
const cannot = (why: string): Verdict => ({ fits: "cannot", why });

const GRADE = { fits: 0, adapter: 1, cannot: 2 } as const;

/**
 * The gate before buying: whether a motor, a driver, a control and a lamp go together, with the reason; the worst of what
 * each pair of them says.
 */
export function gate(kinds: Kinds): Verdict {
  const [first, ...rest] = gates(kinds);
  if (!first) return fits("nothing against it");
  return rest.reduce((worst, each) => (GRADE[each.fits] > GRADE[worst.fits] ? each : worst), first);
}

/** What each pair of kinds says. */
export function gates({ motor, driver, control, lamp, lampFrom }: Kinds): Verdict[] {
  return [
    ...(motor && driver ? [motorOnDriver(motor, driver, control)] : []),
    ...(driver && control ? [controlOnDriver(control, driver, motor)] : []),
    ...(lamp && (lampFrom ?? motor) ? [lampOn(lamp, (lampFrom ?? motor) as DeviceType)] : []),
  ];
}

function motorOnDriver(motor: DeviceType, driver: DeviceType, control: DeviceType | undefined): Verdict {
  if (driver.drives === "matrix" && traitsOf(motor).movedBy !== "pulse")
    return cannot(
      "diodes pass a pulse to one coil or the other, and it has none: let a decoder's macro or a message set it in the route",
    );
  if (traitsOf(motor).movedBy === "commands")
    return cannot("it has its decoder inside: join it to the track bus, without a driver");
  const bare = traitsOf(driver).gives === "dc" || traitsOf(driver).gives === "ac";
  switch (traitsOf(motor).movedBy) {
    case "pulse":
      if (driver.drives === "matrix") return fits("the pulse of a route's button, through a diode");
      if (traitsOf(driver).gives === "pulse" || driver.drives === "coil") return fits("a pulse for coils");
      if (bare)
        return adapter("a bare supply holds the coil on while the switch is held: put a discharge unit between");
      if (driver.drives === "pair")
        return cannot("an output for stall motors gives milliamps for ever; coils want amps for a moment");
      break;
    case "reversal":
      if (driver.drives === "pair") return enough(motor, driver);
      if (traitsOf(driver).gives === "dc")
        return control && traitsOf(control).asks !== "poles"
          ? cannot("a bare supply throws it only through a reversing toggle of two poles")
          : withinVolts(motor, driver);
      if (traitsOf(driver).gives === "ac") return cannot("it wants DC, reversed to throw");
      if (traitsOf(driver).gives === "pulse" || driver.drives === "coil")
        return cannot("a pulse does not hold a motor that must stay powered");
      break;
    case "signal":
      if (driver.drives === "servo") return fits("pulses and 5 V for a servo");
      if (driver.drives === "pair") return adapter("put a servo board behind the decoder's output");
      break;
  }
  return cannot(`${driver.name.toLowerCase()} gives nothing that it can use`);
}

/** Whether an output gives a motor its current, and how many it could. */
function enough(motor: DeviceType, driver: DeviceType): Verdict {
  const [limit, takes] = [driver.figures.outputAmps?.value, motor.figures.ratedAmps?.value];
  if (limit === undefined || takes === undefined) return fits("a reversed pair");
  const motors = Math.floor(limit / takes + 1e-9);
  if (motors < 1) return cannot(`it takes ${amps(takes)} and an output gives ${amps(limit)}`);
  return fits(`${amps(takes)} of ${amps(limit)}: up to ${motors} on one output`);
}

function withinVolts(motor: DeviceType, supply: DeviceType): Verdict {
  const [gives, least, most] = [supply.figures.volts, motor.figures.leastVolts, motor.figures.mostVolts];
  if (!gives || !least || !most) return fits("DC through a reversing toggle");
  if (gives.value > most.value)
    return cannot(`${volts(gives.value)} is more than the ${volts(most.value)} that it is made for`);
  if (gives.value < least.value)
    return cannot(`it runs from ${volts(least.value)}, and the supply gives ${volts(gives.value)}`);
  return fits("DC through a reversing toggle");
}

function controlOnDriver(control: DeviceType, driver: DeviceType, motor: DeviceType | undefined): Verdict {
  if (control.family !== "control") return fits("its output asks as a button would");
  if (driver.ownInputs) {
    if (traitsOf(control).asks === "poles")
      return adapter("one pole of it is enough; the inputs want one side closed to 0 V");
    if (control.maintained && driver.hears)
      return adapter("it stays where it is put and locks the throttle out: fit one that springs back");
    return fits("read by the inputs beside the output");
  }
  if (driver.hears || (driver.drives && driver.drives !== "matrix")) {
    const between = driver.hears === "bus" ? "an input node, taught to it" : "an input node or encoder and a computer";
    return adapter(`the board has no inputs: ${between} must read the control`);
  }
  // a discharge unit or a bare supply: the control switches the current itself
  if (traitsOf(control).asks === "signal")
    return cannot("its outputs carry milliamps for a board's inputs, not a motor's current");
  if (
    traitsOf(motor).movedBy === "reversal" ||
    (traitsOf(driver).gives === "dc" && traitsOf(control).asks === "poles")
  ) {
    return traitsOf(control).asks === "poles"
      ? fits("its two poles exchange plus and minus")
      : cannot("one pole cannot reverse a motor: it takes a reversing toggle of two");
  }
  if (traitsOf(control).asks === "poles") return cannot("it reverses plus and minus; coils want one side or the other");
  if (control.maintained) return cannot("left on, it burns a coil or drains the discharge unit");
  if (traitsOf(control).asks === "press")
    return adapter("one button throws one way: it takes two, one for each position");
  return fits("springs back: a pulse and no more");
}

function lampOn(lamp: DeviceType, from: DeviceType): Verdict {
  if (traitsOf(lamp).shows === "flag") return fits("moved by the throw bar, without a wire");
  if (traitsOf(lamp).movedBy === "signal")
    return from.drives === "servo" ? fits("on an output for servos") : adapter("it takes an output of a servo board");
  if (traitsOf(lamp).shows === "frog-leds") {
    return lamp.figures.diodes
      ? fits("between frog and rails")
      : cannot("on digital track power each LED sees the full voltage backwards: take the kind with diodes");
  }
  if (traitsOf(lamp).shows === "box")
    return traitsOf(from).inTrack === "spot-sensor"
      ? fits("its input is pulled to 0 V when the throw bar covers the sensor")
      : adapter("it takes a spot sensor at the throw bar: type it as FB1 from IR1");
  if (traitsOf(from).inTrack === "spot-sensor")
    return cannot("a sensor tells one thing: it takes a box with an input, which shows both");
  if (traitsOf(lamp).shows === "leds" && !lamp.figures.resistorOhms && !lamp.figures.commonOhms)
    return adapter("it has no resistor: a piece of a resistor board in its common keeps it from burning");
  if (from.drives === "sink") {
    return lamp.commonPlus
      ? fits("common to plus, on outputs that pull down")
      : cannot("its common goes to 0 V and the outputs pull down to 0 V as well: it takes a common to plus");
  }
  if (from.drives === "pair") return litBy(lamp, OUTPUT_VOLTS);
  if (from.drives === "contact" || from.contactSets > 0) return fits("by a contact, from its own supply");
  if (from.family === "motor") return adapter("the motor has no contact: a relay beside it lends one");
  return cannot(`${from.name.toLowerCase()} has nothing that could light it`);
}

/** Volts of an output for stall motors with nothing on it (common practice). */
const OUTPUT_VOLTS = 12;

/** Whether a lamp's resistor suits the volts it is given. */
function litBy({ figures }: DeviceType, given: number): Verdict {
  const [resistor, drop, rated] = [figures.resistorOhms ?? figures.commonOhms, figures.yellowVolts, figures.ratedAmps];
  if (!resistor || !drop || !rated) return fits("by the driver's output");
  const flows = (given - drop.value) / resistor.value;
  if (flows <= rated.value) return fits(`${amps(flows)} by the driver's output`);
  return adapter(
    `${amps(flows)} through its ${ohms(resistor.value)} is more than ${amps(rated.value)}: it takes a greater resistor`,
  );
}
