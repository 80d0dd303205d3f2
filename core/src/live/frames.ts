import type { EventFrame } from "../events/node.ts";

// Events as CAN frames, in the manner of NMRA S-9.7 (from memory): a producer/consumer event report has a 29-bit identifier of
// priority and type 195B4 with the sender's 12-bit alias, and carries a 64-bit event identifier. Frames go over TCP as text,
// ":X195B4123N0102030405060708;".

/** A CAN data frame. */
export interface CanFrame {
  /** 11 or 29 bits. */
  id: number;
  extended: boolean;
  /** At most 8 bytes. */
  data: readonly number[];
}

/** Upper 17 bits of the identifier of an event report. */
const EVENT_REPORT = 0x195b4;
/** The first three bytes of this railway's event identifiers; the fourth says on (1) or off (0). An invented number. */
const OWN_PREFIX = [0x05, 0x00, 0x00] as const;
/** The alias of what is no node: a gateway or a computer. */
export const GATEWAY_ALIAS = 0xfff;

/** @param alias of the sender, 12 bits */
export function eventFrame({ node, number, form }: EventFrame, alias: number): CanFrame {
  const data = [...OWN_PREFIX, form === "on" ? 1 : 0, node >> 8, node & 0xff, number >> 8, number & 0xff];
  return { id: EVENT_REPORT * 0x1000 + (alias & 0xfff), extended: true, data };
}

/** The event that a frame reports; null for any other frame. */
export function eventIn({ id, extended, data }: CanFrame): EventFrame | null {
  const [a, b, c, form = 2, nodeHigh = 0, nodeLow = 0, high = 0, low = 0] = data;
  if (!extended || Math.floor(id / 0x1000) !== EVENT_REPORT || data.length !== 8 || form > 1) return null;
  if (a !== OWN_PREFIX[0] || b !== OWN_PREFIX[1] || c !== OWN_PREFIX[2]) return null;
  return { node: nodeHigh * 256 + nodeLow, number: high * 256 + low, form: form === 1 ? "on" : "off" };
}

/** A frame as text. @example textOf({ id: 0x195b4123, extended: true, data: [1] }) // ":X195B4123N01;" */
export function textOf({ id, extended, data }: CanFrame): string {
  const name = id.toString(16).toUpperCase();
  const bytes = data.map((byte) => byte.toString(16).toUpperCase().padStart(2, "0")).join("");
  return `:${extended ? "X" : "S"}${name.padStart(extended ? 8 : 3, "0")}N${bytes};`;
}

const TEXT = /^:(X[0-9A-F]{8}|S[0-9A-F]{3})N((?:[0-9A-F]{2}){0,8});$/i;

/** The frame that a text says; null when it is none. */
export function frameIn(text: string): CanFrame | null {
  const [, head = "", bytes = ""] = TEXT.exec(text.trim()) ?? [];
  const id = Number.parseInt(head.slice(1), 16);
  const extended = head[0]?.toUpperCase() === "X";
  if (!head || id > (extended ? 0x1fffffff : 0x7ff)) return null;
  return { id, extended, data: bytesIn(bytes) };
}

/** @param hex pairs of digits */
export function bytesIn(hex: string): number[] {
  return (hex.match(/../g) ?? []).map((pair) => Number.parseInt(pair, 16));
}

/** Takes whole messages out of what has come over a stream; what is not finished yet is left. */
export function messagesIn(buffer: string, end: ";" | "\n"): { messages: string[]; rest: string } {
  const parts = buffer.split(end);
  const rest = parts.pop() ?? "";
  const messages = parts.map((part) => part.trim()).filter((part) => part !== "");
  return { messages: end === ";" ? messages.map((message) => `${message};`) : messages, rest };
}
