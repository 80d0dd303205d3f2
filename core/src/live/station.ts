import { readAccessoryPacket } from "../numbers/packets.ts";
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

/**
 * A command station with the decoders on its track, as a stand-in: it takes lines, and answers with lines. What the outputs do
 * it says as well, in place of the owner's eyes.
 *
 * PACKET 9E F9 67; PRESS D1 3; LEAVE D1; READ SB1 2 speed; WRITE SB1 2 speed = 3.
 */
export class Station {
  /** The output of each decoder that takes the next address, by label. */
  private readonly programming = new Map<string, number>();
  private readonly decoders: Map<string, DecoderUnit>;
  private readonly settings: SettingCell[];
  private readonly shift: 0 | 4;

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
        const [what = "", value] = text.split(/\s*=\s*/, 2);
        const cell = this.cellOf(what);
        if (!cell || value === undefined) return [`ERR nothing called ${what} can be written`];
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
    const read = readAccessoryPacket(bytes, this.shift);
    if (!read) return ["ERR no accessory packet, or its error byte does not fit"];
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

  /** @param what as "SB1 2 normal end" */
  private cellOf(what: string): SettingCell | undefined {
    const [label, way, ...name] = what.trim().split(/\s+/);
    return this.settings.find(
      (cell) => cell.label === label && cell.way === Number(way) && cell.name === name.join(" "),
    );
  }
}
