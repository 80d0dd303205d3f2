import { typeOf } from "../catalogue/catalogue.ts";
import type { Family } from "../catalogue/deviceType.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { screwIdOf, type WireEnd } from "./wire.ts";

/** How a wire's end is joined. */
export type JointKind = "screw" | "tag" | "splice" | "rail" | "pin";

/** What there is to say of each kind of joint (common practice). */
export const JOINT_WORDS: Record<JointKind, string> = {
  screw: "screw: ferrule, or strands bare and twisted; never tinned",
  tag: "solder tag: sleeve on first, tin, hook, solder",
  splice: "splice: strip, wrap, solder and sleeve, or crimp",
  rail: "rail: tin rail and dropper, solder outside, glue the dropper",
  pin: "pin: crimp or solder, one wire to a pin",
};

/** The same in a word or two, where there is no room. */
export const JOINT_SHORT: Record<JointKind, string> = {
  screw: "screw, ferrule",
  tag: "solder tag",
  splice: "splice",
  rail: "solder to rail",
  pin: "plug pin",
};

/** Boards and supplies have screws; motors, toggles and lamps have tags or legs to solder to (common practice). */
const OF_FAMILY: Record<Family, JointKind> = {
  motor: "tag",
  driver: "screw",
  reader: "screw",
  supply: "screw",
  control: "tag",
  lamp: "tag",
  track: "rail",
  lock: "tag",
  wiring: "tag",
};

/** How a wire is joined at an end: by what it is joined to. */
export function jointAt(record: RailwayRecord, { key, of }: WireEnd): JointKind {
  if (of) {
    const device = find(record, "device", of.deviceId);
    return device ? OF_FAMILY[typeOf(record, device).family] : "tag";
  }
  const strip = find(record, "strip", screwIdOf(key));
  if (strip?.kind === "splice") return "splice";
  return strip?.pinAmps ? "pin" : "screw";
}
