import { count, type LoggedFrame, list } from "@alderman/core";
import { proxy, wrap } from "comlink";
import type { Message } from "./liveServer.ts";
import type { LogWorker } from "./log.worker.ts";

/** Reads a log of frames from the disk, in a thread of its own; lines that are no frames are named, and all others kept. */
export async function readLog(file: File): Promise<{ messages: Message[]; words: string }> {
  const worker = new Worker(new URL("./log.worker.ts", import.meta.url), { type: "module" });
  const messages: Message[] = [];
  try {
    const { broken, brokenCount, left } = await wrap<LogWorker>(worker).read(
      await file.text(),
      proxy((part: { seconds: number; text: string }[]) => {
        for (const { seconds, text } of part) messages.push({ at: seconds * 1000, from: "bus", sent: false, text });
      }),
    );
    const named = broken.slice(0, MOST_NAMED).map(({ line, text }) => `line ${line} ("${text}")`);
    const more = brokenCount > named.length ? ` and ${brokenCount - named.length} more` : "";
    const wrong = brokenCount === 0 ? "" : ` No frames: ${list(named)}${more}.`;
    const over = left === 0 ? "" : ` ${count(left, "line")} beyond a million were left out.`;
    return { messages, words: `Read ${count(messages.length, "frame")} from ${file.name}.${wrong}${over}` };
  } finally {
    worker.terminate();
  }
}

/** Broken lines that are named one by one. */
const MOST_NAMED = 3;

export type { LoggedFrame };
