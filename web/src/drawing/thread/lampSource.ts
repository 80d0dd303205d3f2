import type { Fitted, ThreadLamp } from "@alderman/core";
import { traitsOf } from "@alderman/core";
import { type DrawnEnd, drawnEnd, type Wiring } from "./wiring.ts";

/** Where a lamp's conductors end, and what the lamp then knows. */
export interface LampSource {
  kind: "contact" | "frog" | "output" | "sensor";
  title: string;
  label: string;
  /** Terminals in the order of the lamp's own; null where nothing is joined. */
  ends: (DrawnEnd | null)[];
  knows: string;
}

/** Terminals of a lamp or arm in the order of its conductors. */
export function lampTerminals({ type }: ThreadLamp): readonly string[] {
  if (type.leads) return type.leads;
  if (traitsOf(type).shows === "box") return ["I", "+", "−"];
  return traitsOf(type).movedBy === "signal" ? ["S", "+", "−"] : [];
}

/** Links of the way back from the blades: what lights the lamp and the lamp; a flag has but itself. */
export function linksBack(lamp: ThreadLamp | null): number {
  return lamp === null ? 0 : lampTerminals(lamp).length === 0 ? 1 : 2;
}

/** What lights a lamp, by the nets that its terminals are in. @param supply what goes through its contact, if one does */
export function sourceOf(lamp: ThreadLamp, supply: Fitted | null, wiring: Wiring): LampSource {
  const { from, assignment } = lamp;
  const { label } = from.device;
  const ends = lampTerminals(lamp).map((terminal) => {
    const net = drawnEnd(lamp, terminal).key;
    if (lamp.resistor && terminal === lamp.type.leads?.[2]) return wiring.endOn(net, lamp.resistor);
    return wiring.endOn(net, from) ?? (supply && wiring.endOn(net, supply));
  });
  if (traitsOf(from.type).inTrack === "frog") {
    return { kind: "frog", title: `Frog ${label}`, label, ends, knows: "knows what the frog carries" };
  }
  if (traitsOf(from.type).inTrack === "spot-sensor") {
    const knows = `covered with the blades at ${assignment.coveredAt ?? "R"}`;
    return { kind: "sensor", title: `Sensor ${label}`, label, ends, knows };
  }
  if (from.type.family === "motor" || from.type.contactSets > 0) {
    return { kind: "contact", title: "", label, ends, knows: "" };
  }
  const title = `Output ${label}-${assignment.way ?? 1}`;
  return { kind: "output", title, label, ends, knows: "knows the last command only" };
}
