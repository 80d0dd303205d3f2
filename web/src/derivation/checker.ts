import { wrap } from "comlink";
import type { Beat, DeriveWorker } from "./derive.worker.ts";
import { type AskWorker, Deriver, type StartWorker } from "./deriver.ts";

/** What checks the railway while one goes on working. */
export type Checker = Pick<
  Deriver,
  | "publish"
  | "begin"
  | "readAhead"
  | "want"
  | "restart"
  | "consequences"
  | "layings"
  | "cures"
  | "routePress"
  | "unitDesigns"
>;

const startWorker: StartWorker = (died, beat) => {
  const worker = new Worker(new URL("./derive.worker.ts", import.meta.url), { type: "module" });
  worker.addEventListener("error", ({ message }) => {
    worker.terminate();
    died(message ? `The checking ended by itself: ${message}.` : "The checking could not be started.");
  });
  worker.addEventListener("message", ({ data }: MessageEvent<Partial<Beat>>) => {
    if (data.beat !== undefined) beat(data.beat);
  });
  worker.addEventListener("messageerror", () => died("What the checking found could not be read."));
  return { ask: wrap<DeriveWorker>(worker) as AskWorker, stop: () => worker.terminate() };
};

/** The checker of this window, in a worker of its own. */
export function workerChecker(): Checker {
  return new Deriver(startWorker);
}
