import type { EventFrame } from "../events/node.ts";
import { type EventPlan, eventOfNumbers } from "../events/plan.ts";
import { readAccessoryPacket, readAspectPacket, readVariablePacket } from "../numbers/packets.ts";
import { eventIn, frameIn } from "./frames.ts";

/** What of a railway the log's words name. */
export interface Named {
  plan: EventPlan;
  shift: 0 | 4;
  /** What hangs on each output, as "Q1", by "ON2-1" or "D1-3". */
  drives: ReadonlyMap<string, string>;
}

/** A message of a stand-in in words. @example wordsOf(":X195B4010N0500000100100003;", named) // "B3 R on" */
export function wordsOf(message: string, named: Named): string {
  if (message.startsWith(":")) {
    const frame = frameIn(message);
    const event = frame && eventIn(frame);
    return event ? eventWords(event, named) : "a frame of another kind";
  }
  const [word = "", label = "", way = "", ...rest] = message.replace(/;$/, "").split(/\s+/);
  const output = `${label}-${way}`;
  const what = named.drives.get(output);
  const at = what ? `${output} (${what})` : output;
  switch (word) {
    case "PACKET": {
      const bytes = message
        .split(/\s+/)
        .slice(1)
        .map((hex) => Number.parseInt(hex, 16));
      return packetWords(bytes, named.shift);
    }
    case "TRACK":
      return `${label} is on the programming track`;
    case "SHOWS":
      return `signal at ${label} is told aspect ${way}`;
    case "WROTE":
      return `variable ${way} of ${label} is ${rest[0]} now`;
    case "ACK":
      return `${label} agrees: variable ${way} is ${rest[0]}`;
    case "SEEN":
      return `${at} moves to ${rest[0]}`;
    case "TOOK":
      return `${at} takes address ${rest[0]}`;
    case "MOVED":
      return `${at} goes ${rest[0]}`;
    case "NODE":
      return way === "0" ? `${label} has no number` : `${label} is node ${way}`;
    case "KNOWS":
      return `${at} upon ${eventName({ node: Number(rest[0]), number: Number(rest[1]) }, named)}: ${rest[2]}`;
    case "LEARNED":
      return `${at} learns ${eventName({ node: Number(rest[0]), number: Number(rest[1]) }, named)}: ${rest[2]}`;
    case "UNLEARNED":
      return `${label} unlearns ${eventName({ node: Number(way), number: Number(rest[0]) }, named)}`;
    case "PRESS":
      return `${at} is worked`;
    case "RELEASE":
      return `${at} is let go`;
    case "INPUT":
      return `feedback ${label} is ${way === "1" ? "on" : "off"}`;
    default:
      return "";
  }
}

/** What a packet on the track says. */
function packetWords(bytes: readonly number[], shift: 0 | 4): string {
  const aspect = readAspectPacket(bytes, shift);
  if (aspect) return `address ${aspect.address}, aspect ${aspect.aspect}`;
  const access = readVariablePacket(bytes, shift);
  if (access) {
    const where = access.address === null ? "programming track" : `address ${access.address}`;
    return `${where}, ${access.action} variable ${access.variable}: ${access.value}`;
  }
  const read = readAccessoryPacket(bytes, shift);
  return read ? `address ${read.address}, ${read.direction}${read.active ? "" : ", off"}` : "a packet";
}

function eventWords(event: EventFrame, named: Named): string {
  const name = eventName(event, named);
  return `${name}${name.endsWith("unknown") ? "," : ""} ${event.form}`;
}

function eventName(numbers: Pick<EventFrame, "node" | "number">, { plan }: Named): string {
  const { node, number } = numbers;
  const event = eventOfNumbers(plan, numbers);
  if (event) return event.label;
  return node === 0 ? `short event ${number}, unknown` : `event ${number} of node ${node}, unknown`;
}
