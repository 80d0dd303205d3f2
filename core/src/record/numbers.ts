import * as z from "zod/mini";
import { Id, Label, Name, Text, Way, When } from "./fields.ts";

/** An accessory address as the command station shows it; whether a decoder can have it depends on how the station counts. */
export const Address = z.int().check(z.gte(0, "must be 0 to 65535"), z.lte(65_535, "must be 0 to 65535"));

/** Addresses that are kept for something that is not here yet, or not of this railway: no scheme gives them away. */
export const Reserve = z.strictObject({
  id: Id,
  first: Address,
  last: Address,
  what: Name.check(z.minLength(1, "must not be empty")),
});
export type Reserve = z.infer<typeof Reserve>;

const SettingText = Text.check(z.maxLength(40, "must have at most 40 characters"));

/** What is wanted of something that is set in a device itself, and what was read back from it. */
export const DeviceSetting = z.strictObject({
  id: Id,
  deviceId: Id,
  /** The output that it is of; null for the device as a whole. */
  way: z.nullable(Way),
  name: Label,
  /** Null as the factory set it. */
  wanted: z.nullable(SettingText),
  /** As it was last read from the device, or seen; null when nobody has looked. */
  read: z.nullable(SettingText),
  readAt: z.nullable(When),
});
export type DeviceSetting = z.infer<typeof DeviceSetting>;

const EventNumber = z.int().check(z.gte(1, "must be 1 to 65535"), z.lte(65_535, "must be 1 to 65535"));

/**
 * An event of the control bus, as the owner names it; it has an on and an off form. A long one carries the number of the node
 * that produces it, a short one its own number alone.
 */
export const BusEvent = z.strictObject({
  id: Id,
  label: Label,
  /** The node whose number it carries; null for a short event. */
  nodeId: z.nullable(Id),
  number: EventNumber,
  /** It asks the nodes how things stand, at the start of a day. */
  asks: z.boolean(),
});
export type BusEvent = z.infer<typeof BusEvent>;

/** An input of a node that produces an event: its on form when the input is made, its off form when it is let go. */
export const Producer = z.strictObject({ id: Id, eventId: Id, deviceId: Id, way: Way });
export type Producer = z.infer<typeof Producer>;

/**
 * What an output does upon an event. acts: on upon on, off upon off. inverted: the other way round. on, off: on or off upon on,
 * nothing upon off, as for buttons that let go.
 */
export const EVENT_ACTIONS = ["acts", "inverted", "on", "off"] as const;
export type EventAction = (typeof EVENT_ACTIONS)[number];

/** What an output of a node is to do upon an event. */
export const Consumer = z.strictObject({
  id: Id,
  eventId: Id,
  deviceId: Id,
  way: Way,
  action: z.enum(EVENT_ACTIONS),
});
export type Consumer = z.infer<typeof Consumer>;

/** What an output of a node was taught: a fact, in the numbers that went over the bus, whatever is wanted. */
export const Taught = z.strictObject({
  id: Id,
  deviceId: Id,
  way: Way,
  /** Number of the node in a long event; 0 in a short one. */
  node: z.int().check(z.gte(0, "must be 0 to 65535"), z.lte(65_535, "must be 0 to 65535")),
  number: EventNumber,
  /** Null when it was unlearned. */
  action: z.nullable(z.enum(EVENT_ACTIONS)),
  at: When,
});
export type Taught = z.infer<typeof Taught>;

/** How it is known what an output answers to. reset: the board was reset, or another one was put in its place. */
export const ANSWER_SOURCES = ["programmed", "read", "reset"] as const;
export type AnswerSource = (typeof ANSWER_SOURCES)[number];

/** What an output of a board answers to, as somebody made or found it: a fact, whatever address is wanted. */
export const Answer = z.strictObject({
  id: Id,
  deviceId: Id,
  way: Way,
  address: Address,
  how: z.enum(ANSWER_SOURCES),
  /** What the board showed, in the owner's words. */
  seen: Name,
  at: When,
});
export type Answer = z.infer<typeof Answer>;
