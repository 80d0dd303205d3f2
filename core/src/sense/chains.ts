import type { DeviceType } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { SenseLink } from "../record/notes.ts";
import { staysMade } from "../schematic/recipes/controlSides.ts";
import { heardAt } from "../schematic/recipes/controlToInputs.ts";
import { isRelay } from "../schematic/recipes/relayBesideMotor.ts";
import {
  controlsOf,
  drivesItself,
  type Fitted,
  type Thread,
  type ThreadControl,
  type ThreadFrog,
  type ThreadLamp,
  type ThreadMotor,
} from "../schematic/thread.ts";

/** A place that can turn normal into reverse: of a device, or of one of its ways. */
export interface At {
  link: SenseLink;
  deviceId: string;
  way: number | null;
}

/** What can be seen or metered of a thread, with the places between it and the finger. */
export interface Thing {
  what: "blades" | "frog" | "lamp";
  id: string;
  label: string;
  chain: At[];
}

/** The places from the finger to what a board understands, and whether a board listens at all. */
export interface Front {
  places: At[];
  heard: boolean;
}

export function frontOf(thread: Thread, control: ThreadControl | null): Front {
  if (!control) return { places: [], heard: false };
  const { device, type, assignment } = control;
  const places: At[] = [];
  // a button that asks for the other position at each press, or for one only, has no sides to exchange
  const single = assignment.to !== null || traitsOf(type).asks === "press";
  if (!single && type.family === "control")
    places.push({ link: "label", deviceId: device.id, way: null }, { link: "control", deviceId: device.id, way: null });
  const heard = heardAt(thread, control);
  // inverting both inputs of a pair exchanges them only where one of the two is always closed
  if (heard && !single && staysMade(control)) {
    places.push({ link: "inputs", deviceId: heard.board.device.id, way: null });
    places.push({ link: "input", deviceId: heard.board.device.id, way: heard.way });
  }
  return { places, heard: heard !== null };
}

/** The chains of places in a thread, from the finger on. */
export class Chains {
  /** Commands come as messages that somebody was taught. */
  private readonly messages: boolean;

  constructor(
    private readonly thread: Thread,
    private readonly front: Front,
  ) {
    this.messages = controlsOf(thread).some(({ reader }) => reader !== null);
  }

  /** All that can be seen or metered; what is not fed or driven is left out. */
  things(): Thing[] {
    const { thread } = this;
    const things: Thing[] = thread.motors
      .filter((motor) => motor.driver || drivesItself(motor))
      .map((motor) => ({ what: "blades", ...motor.turnout, chain: this.blades(motor) }));
    for (const frog of thread.frogs) {
      const chain = this.frog(frog);
      if (chain) things.push({ what: "frog", ...frog.turnout, chain });
    }
    for (const lamp of thread.lamps) {
      const chain = this.lamp(lamp);
      if (chain) things.push({ what: "lamp", ...lamp.device, chain });
    }
    return things;
  }

  private blades(motor: ThreadMotor): At[] {
    return [...this.arm(motor), at(motor, "linkage")];
  }

  /** Up to the motor's arm. */
  private arm(motor: ThreadMotor): At[] {
    const { movedBy } = traitsOf(motor.type);
    const wired = movedBy === "reversal" || movedBy === "pulse";
    return [
      ...this.output(motor),
      ...(drivesItself(motor) ? [at(motor, "setting")] : []),
      ...(wired ? [at(motor, "leads")] : []),
      at(motor, "mounting"),
    ];
  }

  /** Up to the output that drives a motor. */
  private output({ driver }: ThreadMotor): At[] {
    return [...this.front.places, ...(driver ? this.ofOutput(driver.type, driver.device.id, driver.way) : [])];
  }

  /** Up to what a program is told: nothing of a control that switches the motor's current itself. */
  private understood(): At[] {
    return this.front.heard ? [...this.front.places] : [];
  }

  /** What is set in a board between what it understood and what its output does. */
  private ofOutput(type: DeviceType, deviceId: string, way: number | null): At[] {
    if (way === null) return [];
    const links: At[] = [];
    if (type.hears === "bus" || this.messages) links.push({ link: "event", deviceId, way });
    if (type.drives === "servo") links.push({ link: "end-points", deviceId, way });
    else if (type.hears && traitsOf(type).inTrack === null && (type.drives === "pair" || type.drives === "coil"))
      links.push({ link: "setting", deviceId, way });
    return links;
  }

  private motorOf(turnoutId: string): ThreadMotor | undefined {
    return this.thread.motors.find(({ turnout }) => turnout.id === turnoutId);
  }

  /** Up to a contact of a motor or relay; null when it has none that follows the turnout. */
  private contact(from: Fitted, way: number | null, turnoutId: string): At[] | null {
    if ((way ?? 1) > from.type.contactSets) return null;
    const motor = this.thread.motors.find(({ device }) => device.id === from.device.id);
    if (motor) return [...this.arm(motor), at(motor, "contact")];
    if (!isRelay(from)) return from.type.drives === "contact" ? this.understood() : null;
    const beside = this.motorOf(turnoutId) ?? this.thread.motors[0];
    return beside ? this.output(beside) : null;
  }

  private frog({ from, turnout, device, assignment }: ThreadFrog): At[] | null {
    if (!from) return null;
    if (traitsOf(from.type).inTrack === "polarity-unit") {
      const motor = this.motorOf(turnout.id);
      return motor ? this.blades(motor) : null;
    }
    const chain = this.contact(from, assignment.way, turnout.id);
    return chain && [...chain, at({ device }, "frog")];
  }

  private lamp(lamp: ThreadLamp): At[] | null {
    const { frogs, motors } = this.thread;
    const { from, type, assignment, turnout } = lamp;
    if (traitsOf(type).shows === "flag") {
      const motor = motors.find((each) => each.device.id === from.device.id) ?? this.motorOf(turnout.id);
      return motor ? this.blades(motor) : null;
    }
    const links = this.ofOutput(from.type, from.device.id, assignment.way);
    if (traitsOf(type).movedBy === "signal")
      return from.type.drives === "servo" ? [...this.front.places, ...links] : null;
    let chain: At[] | null;
    if (traitsOf(from.type).inTrack === "spot-sensor") {
      const motor = this.motorOf(turnout.id);
      chain = motor ? this.blades(motor) : null;
    } else if (traitsOf(from.type).inTrack === "frog") {
      const frog = frogs.find((each) => each.device.id === from.device.id);
      chain = frog ? this.frog(frog) : null;
    } else if (from.type.drives === "pair" || from.type.drives === "sink") chain = [...this.front.places, ...links];
    else chain = this.contact(from, assignment.way, turnout.id);
    return chain && [...chain, at(lamp, "lamp")];
  }
}

function at({ device }: Pick<Fitted, "device">, link: SenseLink): At {
  return { link, deviceId: device.id, way: null };
}
