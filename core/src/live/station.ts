import { readAccessoryPacket, readAspectPacket, readVariablePacket, type VariableAccess } from "../numbers/packets.ts";
import type { DecoderUnit, Hardware, SettingCell } from "./hardware.ts";

/** What can be amiss with the stand-in of a command station. */
export const STATION_FAULTS = {
  "no-answer": "it does not answer",
  "wrong-read": "it reads values wrong",
  closes: "it closes in the middle of an answer",
  babbles: "it says what nobody asked",
  "power-lost": "power goes in the middle of a write",
} as const;
export type StationFault = keyof typeof STATION_FAULTS;

/** What a lock says when settings can be written. */
export const LOCK_OPEN = "open";

/** The variables that hold the address of a decoder's first output: its low six bits and its high three (NMRA S-9.2.2, from memory). */
const ADDRESS_VARIABLES = { low: 1, high: 9 } as const;

/**
 * A command station with the decoders on its track, as a stand-in: it takes lines, and answers with lines. What the outputs do
 * it says as well, in place of the owner's eyes.
 *
 * PACKET 9E F9 67; TRACK D1; PRESS D1 3; LEAVE D1; READ SB1 2 speed; WRITE SB1 2 speed = 3.
 */
export class Station {
  /** The output of each decoder that takes the next address, by label. */
  private readonly programming = new Map<string, number>();
  private readonly decoders: Map<string, DecoderUnit>;
  private readonly settings: SettingCell[];
  private readonly shift: 0 | 4;
  /** Variables of each decoder that were written, by its label; the others are 0. */
  private readonly variables = new Map<string, Map<number, number>>();
  /** The decoder on the programming track. */
  private onTrack: string | null = null;

  constructor({ decoders, settings, shift }: Hardware) {
    this.decoders = new Map(decoders.map((unit) => [unit.label, { ...unit, addresses: [...unit.addresses] }]));
    this.settings = settings.map((cell) => ({ ...cell }));
    this.shift = shift;
  }

  /** Answers to a line, the last of which is OK, VALUE or ERR. */
  answer(line: string): string[] {
    const [word = "", ...rest] = line.trim().split(/\s+/);
    const text = rest.join(" ");
    switch (word.toUpperCase()) {
      case "PACKET":
        return this.packet(rest.map((hex) => Number.parseInt(hex, 16)));
      case "TRACK":
        if (!this.decoders.has(text)) return [`ERR there is no decoder ${text} to put on the programming track`];
        this.onTrack = text;
        return ["OK"];
      case "PRESS":
        return this.press(rest[0] ?? "", Number(rest[1]));
      case "LEAVE":
        this.programming.delete(rest[0] ?? "");
        return ["OK"];
      case "READ": {
        const cell = this.cellOf(text);
        return cell ? [`VALUE ${cell.value}`] : [`ERR nothing called ${text} can be read`];
      }
      case "WRITE": {
        const [what = "", value] = text.split("=", 2).map((part) => part.trim());
        const cell = this.cellOf(what);
        if (!cell || value === undefined) return [`ERR nothing called ${what} can be written`];
        if (!cell.isLock && this.isLocked(cell.label)) return [`ERR ${cell.label} is locked: its lock is opened first`];
        cell.value = value.trim();
        return ["OK"];
      }
      default:
        return [`ERR ${word || "an empty line"} is no command; PACKET, PRESS, LEAVE, READ and WRITE are`];
    }
  }

  private packet(bytes: readonly number[]): string[] {
    if (bytes.length === 0 || bytes.some((byte) => !(byte >= 0 && byte <= 255)))
      return ["ERR a packet is bytes in hexadecimal, as 9E F9 67"];
    const aspect = readAspectPacket(bytes, this.shift);
    if (aspect) return [`SHOWS ${aspect.address} ${aspect.aspect}`, "OK"];
    const variable = readVariablePacket(bytes, this.shift);
    if (variable) return [...this.variable(variable), "OK"];
    const read = readAccessoryPacket(bytes, this.shift);
    if (!read) return ["ERR no packet for accessories, or its error byte does not fit"];
    if (!read.active) return ["OK"];
    const to = read.direction === "straight" ? "N" : "R";
    const seen: string[] = [];
    for (const [label, unit] of this.decoders) {
      const way = this.programming.get(label);
      if (way !== undefined) {
        for (const each of unit.blocks[way - 1] ?? [way]) unit.addresses[each - 1] = read.address + each - way;
        this.programming.delete(label);
        seen.push(`TOOK ${label} ${way} ${read.address}`);
        continue;
      }
      for (const [index, address] of unit.addresses.entries())
        if (address === read.address) seen.push(`SEEN ${label} ${index + 1} ${to}`);
    }
    return [...seen, "OK"];
  }

  private press(label: string, way: number): string[] {
    const unit = this.decoders.get(label);
    if (!unit || !(way >= 1 && way <= unit.addresses.length)) return [`ERR there is no output ${way} of ${label}`];
    this.programming.set(label, way);
    return ["OK"];
  }

  /** Writes or verifies a variable: of what has the address, or of what is on the programming track. */
  private variable({ address, variable, value, action }: VariableAccess): string[] {
    const reached = [...this.decoders].filter(([label, { addresses }]) =>
      address === null ? label === this.onTrack : addresses.includes(address),
    );
    return reached.flatMap(([label, unit]): string[] => {
      if (action === "write") this.write(label, unit, variable, value);
      // on the main nothing comes back; on the programming track a decoder draws a short pulse when it agrees
      if (address !== null) return action === "write" ? [`WROTE ${label} ${variable} ${value}`] : [];
      return this.valueOf(label, unit, variable) === value ? [`ACK ${label} ${variable} ${value}`] : [];
    });
  }

  private write(label: string, unit: DecoderUnit, variable: number, value: number): void {
    const own = this.variables.get(label) ?? new Map<number, number>();
    this.variables.set(label, own);
    const { low, high } = ADDRESS_VARIABLES;
    const decoder = { low: this.valueOf(label, unit, low), high: this.valueOf(label, unit, high) };
    if (variable === low) decoder.low = value & 0x3f;
    else if (variable === high) decoder.high = value & 7;
    else own.set(variable, value);
    if (variable !== low && variable !== high) return;
    // all outputs in a row from the first of the decoder
    const first = (decoder.high * 64 + decoder.low) * 4 - 3 + this.shift;
    unit.addresses.forEach((_, index) => {
      unit.addresses[index] = first + index;
    });
  }

  private valueOf(label: string, { addresses: [first = 1] }: DecoderUnit, variable: number): number {
    const { low, high } = ADDRESS_VARIABLES;
    const decoder = Math.floor((first + 3 - this.shift) / 4);
    if (variable === low) return decoder & 0x3f;
    return variable === high ? decoder >> 6 : (this.variables.get(label)?.get(variable) ?? 0);
  }

  private isLocked(label: string): boolean {
    return this.settings.some((cell) => cell.isLock && cell.label === label && cell.value !== LOCK_OPEN);
  }

  /** @param what as "SB1 2 normal end" */
  private cellOf(what: string): SettingCell | undefined {
    const [label, way, ...name] = what.trim().split(/\s+/);
    return this.settings.find(
      (cell) => cell.label === label && cell.way === Number(way) && cell.name === name.join(" "),
    );
  }
}
