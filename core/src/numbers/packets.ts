import { accessoryAddress } from "./accessoryAddress.ts";

// Packets of the track bus, byte by byte: NMRA S-9.2 (form), S-9.2.1 and RCN-213 (accessory commands), S-9.2.1 and RCN-214
// (programming on the main, from memory), S-9.2.3 and RCN-216 (service mode).

/** Straight throws a turnout to its straight road or shows a clear signal; diverging the other. */
export type Direction = "straight" | "diverging";

/** What of a packet is what: so many bits from the left of a byte. */
export interface PacketField {
  byte: number;
  bits: string;
  about: string;
}

/** Bytes of a packet with its error byte, and what its bits mean. */
export interface Packet {
  bytes: number[];
  fields: PacketField[];
}

/**
 * A basic accessory packet: `10AAAAAA 1aaaDAAR EEEEEEEE`.
 * @param address as the command station shows it
 * @param shift 0, or 4 for a station that counts from raw 0
 * @param active D: the output is switched on, not off
 * @throws {RangeError} when no decoder can have the address
 * @example accessoryPacket(117, 0, "straight", true).bytes // [0x9e, 0xf9, 0x67]
 */
export function accessoryPacket(address: number, shift: 0 | 4, direction: Direction, active: boolean): Packet {
  const { decoder, pair } = accessoryAddress(address, shift);
  const second =
    0x80 | (highBits(decoder) << 4) | (Number(active) << 3) | (pair << 1) | Number(direction === "straight");
  return withError(
    [firstByte(decoder), second],
    [
      ["10", "accessory packet"],
      [6, "address, bits 7 to 2"],
      ["1", "basic accessory decoder"],
      [3, "address, bits 10 to 8, complemented"],
      [1, active ? "on" : "off"],
      [2, "address, bits 1 and 0: the pair"],
      [1, direction],
    ],
  );
}

/** The accessory address, direction and activity that a basic accessory packet says; null when it is no such packet. */
export function readAccessoryPacket(
  bytes: readonly number[],
  shift: 0 | 4,
): { address: number; direction: Direction; active: boolean } | null {
  const [first = 0, second = 0] = bytes;
  if (bytes.length !== 3 || !isWhole(bytes) || first >> 6 !== 0b10 || second >> 7 !== 1) return null;
  return {
    address: rawOf(first, second) - 3 + shift,
    direction: second & 1 ? "straight" : "diverging",
    active: (second & 8) !== 0,
  };
}

/**
 * An extended accessory packet, which sets a signal's aspect: `10AAAAAA 0aaa0AA1 DDDDDDDD EEEEEEEE`.
 * @param aspect 0 to 255
 * @throws {RangeError} when no decoder can have the address, or there is no such aspect
 */
export function aspectPacket(address: number, shift: 0 | 4, aspect: number): Packet {
  const { decoder, pair } = accessoryAddress(address, shift);
  const second = (highBits(decoder) << 4) | (pair << 1) | 1;
  return withError(
    [firstByte(decoder), second, byteOf(aspect, "Aspect")],
    [
      ["10", "accessory packet"],
      [6, "address, bits 7 to 2"],
      ["0", "extended accessory decoder"],
      [3, "address, bits 10 to 8, complemented"],
      ["0", "always"],
      [2, "address, bits 1 and 0"],
      ["1", "always"],
      [8, "aspect"],
    ],
  );
}

/** The address and aspect that an extended accessory packet says; null when it is no such packet. */
export function readAspectPacket(bytes: readonly number[], shift: 0 | 4): { address: number; aspect: number } | null {
  const [first = 0, second = 0, aspect = 0] = bytes;
  if (bytes.length !== 4 || !isWhole(bytes) || first >> 6 !== 0b10 || (second & 0b1000_1001) !== 1) return null;
  return { address: rawOf(first, second) - 3 + shift, aspect };
}

/** Writes or verifies. */
export type VariableAction = "write" | "verify";

const KINDS: Record<VariableAction, number> = { write: 0b11, verify: 0b01 };

/**
 * A packet that writes or verifies a variable of an accessory decoder on the main: `10AAAAAA 1aaaCDDD 1110KKVV VVVVVVVV
 * DDDDDDDD EEEEEEEE`, for the output of the address (C 1, its pair in DDD).
 * @param variable number of the configuration variable, 1 to 1024
 * @throws {RangeError} when address, variable or value cannot be
 */
export function onMainPacket(
  address: number,
  shift: 0 | 4,
  variable: number,
  value: number,
  action: VariableAction = "write",
): Packet {
  const { decoder, pair } = accessoryAddress(address, shift);
  const second = 0x80 | (highBits(decoder) << 4) | 0x08 | (pair << 1);
  return withError(
    [firstByte(decoder), second, ...variableBytes(0b1110_0000, variable, value, action)],
    [
      ["10", "accessory packet"],
      [6, "address, bits 7 to 2"],
      ["1", "basic accessory decoder"],
      [3, "address, bits 10 to 8, complemented"],
      ["1", "one output only"],
      [3, "which output"],
      ["1110", "access to a variable"],
      ...VARIABLE_FIELDS(action),
    ],
  );
}

/**
 * A service-mode packet in direct mode, on the programming track: `0111KKVV VVVVVVVV DDDDDDDD EEEEEEEE`.
 * @throws {RangeError} when variable or value cannot be
 */
export function serviceModePacket(variable: number, value: number, action: VariableAction = "write"): Packet {
  return withError(variableBytes(0b0111_0000, variable, value, action), [
    ["0111", "service mode, direct"],
    ...VARIABLE_FIELDS(action),
  ]);
}

/** What is said of a variable, on the main to whatever has the address, or on the programming track to what is there. */
export interface VariableAccess {
  /** Null on the programming track. */
  address: number | null;
  variable: number;
  value: number;
  action: VariableAction;
}

/** What a packet says of a variable of an accessory decoder; null when it is no such packet. */
export function readVariablePacket(bytes: readonly number[], shift: 0 | 4): VariableAccess | null {
  if (!isWhole(bytes)) return null;
  const [first = 0, second = 0] = bytes;
  const isService = bytes.length === 4 && first >> 4 === 0b0111;
  const isOnMain = bytes.length === 6 && first >> 6 === 0b10 && (second & 0x88) === 0x88;
  if (!isService && !isOnMain) return null;
  const [head = 0, low = 0, value = 0] = isService ? bytes : bytes.slice(2);
  const action = (head >> 2) & 3;
  if ((isOnMain && head >> 4 !== 0b1110) || (action !== KINDS.write && action !== KINDS.verify)) return null;
  return {
    address: isService ? null : rawOf(first, second) - 3 + shift,
    variable: ((head & 3) << 8) + low + 1,
    value,
    action: action === KINDS.write ? "write" : "verify",
  };
}

/** Whether the last byte is the exclusive or of the others. */
function isWhole(bytes: readonly number[]): boolean {
  return bytes.length > 1 && bytes.reduce((sum, byte) => sum ^ byte, 0) === 0;
}

/** Raw address of an accessory packet's first two bytes. */
function rawOf(first: number, second: number): number {
  return ((first & 0x3f) | ((~(second >> 4) & 7) << 6)) * 4 + ((second >> 1) & 3);
}

/** Bits of a packet between its preamble and its end: a 0 before each byte, a 1 at the end (NMRA S-9.2). */
export function packetBits({ bytes }: Pick<Packet, "bytes">): string {
  return `${bytes.map((byte) => `0${bitsOf(byte)}`).join("")}1`;
}

/** @example bitsOf(5) // "00000101" */
export function bitsOf(byte: number): string {
  return byte.toString(2).padStart(8, "0");
}

/** @example hexOf(158) // "9E" */
export function hexOf(byte: number): string {
  return byte.toString(16).toUpperCase().padStart(2, "0");
}

function firstByte(decoder: number): number {
  return 0x80 | (decoder & 0x3f);
}

function highBits(decoder: number): number {
  return ~(decoder >> 6) & 7;
}

const VARIABLE_FIELDS = (action: VariableAction): Shape[] => [
  [2, action === "write" ? "write a byte" : "verify a byte"],
  [2, "variable less one, bits 9 and 8"],
  [8, "variable less one, bits 7 to 0"],
  [8, "value"],
];

function variableBytes(head: number, variable: number, value: number, action: VariableAction): number[] {
  if (!Number.isInteger(variable) || variable < 1 || variable > 1024)
    throw new RangeError(`Variable ${variable} is not between 1 and 1024.`);
  const index = variable - 1;
  return [head | (KINDS[action] << 2) | (index >> 8), index & 0xff, byteOf(value, "Value")];
}

function byteOf(value: number, what: string): number {
  if (!Number.isInteger(value) || value < 0 || value > 255)
    throw new RangeError(`${what} ${value} is not between 0 and 255.`);
  return value;
}

/** Bits with what they mean: so many, or as they always are. */
type Shape = [bits: number | string, about: string];

/** Adds the error byte, the exclusive or of all others, and cuts the bytes into their fields. */
function withError(bytes: number[], shape: Shape[]): Packet {
  const all = [...bytes, bytes.reduce((sum, byte) => sum ^ byte, 0)];
  const text = all.map(bitsOf).join("");
  let at = 0;
  const fields = [...shape, [8, "error byte: exclusive or of the others"] as Shape].map(([bits, about]) => {
    const length = typeof bits === "string" ? bits.length : bits;
    const field = { byte: Math.floor(at / 8), bits: text.slice(at, at + length), about };
    at += length;
    return field;
  });
  return { bytes: all, fields };
}
