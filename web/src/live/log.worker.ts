import { readCandump, textOf } from "@alderman/core";
import { expose } from "comlink";

/** Frames that are handed over at once, so that the window is never busy for long. */
const PART = 20_000;

const logWorker = {
  /** Reads a log; its frames are handed over part by part, as text. */
  async read(text: string, take: (part: { seconds: number; text: string }[]) => void) {
    const { frames, ...rest } = readCandump(text);
    for (let at = 0; at < frames.length; at += PART)
      await take(frames.slice(at, at + PART).map((frame) => ({ seconds: frame.seconds, text: textOf(frame) })));
    return rest;
  },
};
export type LogWorker = typeof logWorker;

expose(logWorker);
