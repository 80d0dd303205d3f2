import { bytesIn, type CanFrame } from "./frames.ts";

// Logs of the Linux CAN tools as text, one frame a line: "(1436509052.249713) can0 195B4123#0102030405060708" (candump -L, from
// memory). Identifiers of 29 bits have eight digits, of 11 bits three.

/** A frame with when it was on the bus, seconds, and on which bus. */
export interface LoggedFrame extends CanFrame {
  seconds: number;
  bus: string;
}

/** A line that is no frame. */
export interface BrokenLine {
  line: number;
  text: string;
}

const LINE = /^\((\d+)\.(\d{1,6})\)\s+(\S{1,16})\s+([0-9A-F]{3}|[0-9A-F]{8})#((?:[0-9A-F]{2}){0,8})$/i;
/** Broken lines that are kept to be named; the others are counted. */
const MOST_BROKEN = 100;
/** Characters of a broken line that are kept. */
const SHOWN = 80;

/** A line of a log. @example lineOf({ seconds: 1.5, bus: "can0", id: 0x123, extended: false, data: [1] }) // "(1.500000) can0 123#01" */
export function lineOf({ seconds, bus, id, extended, data }: LoggedFrame): string {
  const name = id
    .toString(16)
    .toUpperCase()
    .padStart(extended ? 8 : 3, "0");
  const bytes = data.map((byte) => byte.toString(16).toUpperCase().padStart(2, "0")).join("");
  return `(${seconds.toFixed(6)}) ${bus} ${name}#${bytes}`;
}

/** The frame of a line; null when it is none. */
export function frameOfLine(text: string): LoggedFrame | null {
  const [, whole = "", part = "", bus = "", name = "", bytes = ""] = LINE.exec(text.trim()) ?? [];
  const id = Number.parseInt(name, 16);
  const extended = name.length === 8;
  if (!name || id > (extended ? 0x1fffffff : 0x7ff)) return null;
  return { seconds: Number(whole) + Number(part.padEnd(6, "0")) / 1e6, bus, id, extended, data: bytesIn(bytes) };
}

/**
 * Reads a log. What is no frame is named by its line, and all others are kept.
 * @param most lines that are read; of a longer log the last ones are left out
 */
export function readCandump(
  text: string,
  most = 1_000_000,
): { frames: LoggedFrame[]; broken: BrokenLine[]; brokenCount: number; left: number } {
  const frames: LoggedFrame[] = [];
  const broken: BrokenLine[] = [];
  let brokenCount = 0;
  let left = 0;
  let line = 0;
  for (let start = 0; start < text.length; ) {
    const end = text.indexOf("\n", start);
    const next = end < 0 ? text.length : end;
    const each = text.slice(start, next);
    start = next + 1;
    line++;
    if (each.trim() === "") continue;
    if (line > most) {
      left++;
      continue;
    }
    const frame = frameOfLine(each);
    if (frame) frames.push(frame);
    else {
      brokenCount++;
      if (broken.length < MOST_BROKEN) broken.push({ line, text: each.slice(0, SHOWN) });
    }
  }
  return { frames, broken, brokenCount, left };
}

/** A log as text, its last line ended. */
export function writeCandump(frames: readonly LoggedFrame[]): string {
  return frames.map((frame) => `${lineOf(frame)}\n`).join("");
}
