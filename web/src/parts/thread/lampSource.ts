import { outputEnds, type Thread, type ThreadLamp, terminalName } from "@alderman/core";
import type { DrawnEnd } from "./wiring.ts";

/** Where a lamp's conductors end, and what the lamp then knows. */
export interface LampSource {
  kind: "contact" | "frog" | "output";
  title: string;
  label: string;
  ends: (DrawnEnd | null)[];
  knows: string;
}

/** Terminals of a lamp or arm in the order of its conductors. */
export function lampTerminals({ type }: ThreadLamp): readonly string[] {
  if (type.leads) return type.leads;
  return type.model === "servo" ? ["S", "+", "−"] : [];
}

export function sourceOf(thread: Thread, lamp: ThreadLamp, supply: { id: string; label: string } | null): LampSource {
  const { from, assignment, type } = lamp;
  const way = assignment.way ?? 1;
  const { device } = from;
  const at = (terminal: string, of: { id: string; label: string } = device): DrawnEnd => ({
    key: `${of.id}:${terminal}`,
    name: terminalName(of.label, terminal),
  });
  const inOrder = <T>(normal: T, reverse: T, common: T): T[] =>
    assignment.crossed ? [reverse, normal, common] : [normal, reverse, common];
  if (from.type.model === "frog") {
    const turnout = thread.frogs.find((frog) => frog.device.id === device.id)?.turnout ?? thread.turnout;
    // the lamp lit at normal hangs on the rail that the frog leaves then
    const atNormal = turnout.hand === "left" ? "R" : "L";
    const ends = inOrder(at(atNormal), at(atNormal === "L" ? "R" : "L"), at("F"));
    return {
      kind: "frog",
      title: `Frog ${device.label}`,
      label: device.label,
      ends,
      knows: "knows what the frog carries",
    };
  }
  if (type.model === "servo") {
    const ends = ["S", "+", "−"].map((letter) => at(`${way}${letter}`));
    return { kind: "output", title: `Output ${device.label}-${way}`, label: device.label, ends, knows: COMMAND };
  }
  const output = from.type.contactSets === 0 && from.type.family !== "motor" ? outputEnds(lamp, way) : null;
  if (output) {
    const ends = inOrder(at(output.normal), at(output.reverse), at(output.common));
    return { kind: "output", title: `Output ${device.label}-${way}`, label: device.label, ends, knows: COMMAND };
  }
  const hasContact = way <= from.type.contactSets;
  const contact = (end: string) => (hasContact ? at(`S${way}${end}`) : null);
  const back = type.commonPlus ? "+" : "−";
  // rows follow the lamp's leads, wherever the contact's sides lead
  const [normal, reverse] = assignment.crossed ? [contact("r"), contact("n")] : [contact("n"), contact("r")];
  return {
    kind: "contact",
    title: "",
    label: device.label,
    ends: [normal, reverse, supply ? at(back, supply) : null],
    knows: "",
  };
}

const COMMAND = "knows the last command only";
