// Papers made and set in threads: here with stand-ins that answer when they are told to.
import type { PaperOptions } from "@alderman/core";
import { smallRailway } from "@alderman/core/testing/build";
import { expose } from "comlink";
import { expect, it } from "vitest";
import { PaperWork } from "./papers.ts";
import type { PaperHead } from "./pdfParts.ts";

const HEAD: PaperHead = { railway: "Test", date: "today", size: { width: 210, height: 297 } };

/** Threads that make papers called as they are asked for, and set them slowly; how many were started and stopped. */
function threads({ dies = false } = {}) {
  const log: string[] = [];
  const channels: { stopped: boolean; die: () => void }[] = [];
  const start = () => {
    const number = channels.length;
    const { port1, port2 } = new MessageChannel();
    const listeners = new Map<string, (() => void)[]>();
    const state = { stopped: false, die: () => {} };
    channels.push(state);
    expose(
      {
        begin: () => void log.push(`begin on ${number}`),
        paper: (id: string) =>
          id === "odd" ? { refused: "odd: no such size" } : { paper: { id, title: id, parts: [] } },
        pdf: async ({ id }: { id: string }) => {
          await new Promise((go) => setTimeout(go, 5));
          log.push(`${id} set on ${number}`);
          if (dies) state.die();
          return new Uint8Array([id.length]);
        },
        xlsx: (papers: unknown[]) => new Uint8Array([papers.length]),
      },
      port2,
    );
    port1.start();
    state.die = () => {
      for (const each of listeners.get("error") ?? []) each();
    };
    return {
      postMessage: port1.postMessage.bind(port1),
      addEventListener: (type: string, listener: never) => {
        if (type === "message") port1.addEventListener("message", listener);
        else listeners.set(type, [...(listeners.get(type) ?? []), listener]);
      },
      removeEventListener: (type: string, listener: never) => port1.removeEventListener(type as "message", listener),
      terminate: () => {
        state.stopped = true;
        port1.close();
        port2.close();
      },
    };
  };
  return { log, channels, start };
}

it("sets each paper once, in the order that was asked for, and leaves out what was refused", async () => {
  const { log, channels, start } = threads();
  const work = new PaperWork(start as never);
  await work.begin(smallRailway(), {} as PaperOptions);
  const told: number[] = [];
  const { made, files } = await work.pdfs(["a", "bb", "odd", "ccc", "dddd"], HEAD, ({ set }) => told.push(set));
  expect(files.map(({ name, bytes }) => [name, bytes[0]])).toEqual([
    ["a.pdf", 1],
    ["bb.pdf", 2],
    ["ccc.pdf", 3],
    ["dddd.pdf", 4],
  ]);
  expect(made[2]).toEqual({ refused: "odd: no such size" });
  expect(log.filter((line) => line.includes("set")).length).toBe(4);
  expect(told.at(-1)).toBe(4);
  work.stop();
  expect(channels.every(({ stopped }) => stopped)).toBe(true);
});

it("says so when a thread ends by itself", async () => {
  const { start } = threads({ dies: true });
  const work = new PaperWork(start as never);
  await work.begin(smallRailway(), {} as PaperOptions);
  await expect(work.pdfs(["a", "b"], HEAD, () => {})).rejects.toThrow(
    "ended by itself. Try again; nothing was changed",
  );
  work.stop();
});

it("makes one workbook of all papers", async () => {
  const { start } = threads();
  const work = new PaperWork(start as never);
  await work.begin(smallRailway(), {} as PaperOptions);
  const made = await work.make(["a", "b"], () => {});
  const papers = made.flatMap((each) => ("paper" in each ? [each.paper] : []));
  expect((await work.xlsx(papers, "x.xlsx")).bytes[0]).toBe(2);
  work.stop();
});
