import { ahead, startThread } from "../session/early.ts";
import type { Beat } from "./derive.worker.ts";
import { type AskWorker, Deriver, type StartWorker } from "./deriver.ts";
import { workedOn } from "./sentRecord.ts";

/** What checks the railway while one goes on working. */
export type Checker = Pick<
  Deriver,
  "publish" | "want" | "restart" | "consequences" | "layings" | "cures" | "routePress" | "unitDesigns"
>;

const startWorker: StartWorker = (died, beat) => {
  const read = ahead.takeThread();
  const { worker, remote } = read ?? startThread();
  worker.addEventListener("error", ({ message }) => {
    worker.terminate();
    died(message ? `The checking ended by itself: ${message}.` : "The checking could not be started.");
  });
  worker.addEventListener("message", ({ data }: MessageEvent<Partial<Beat>>) => {
    if (data.beat !== undefined) beat(data.beat);
  });
  worker.addEventListener("messageerror", () => died("What the checking found could not be read."));
  const takeRead = () => {
    const record = read?.takeRead();
    return record ? workedOn(record) : null;
  };
  return { ask: remote as AskWorker, stop: () => worker.terminate(), takeRead };
};

/** The checker of this window, in a worker of its own. */
export function workerChecker(): Checker {
  return new Deriver(startWorker);
}
