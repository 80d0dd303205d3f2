import { type BuildSheet, type Construction, layBoard } from "@alderman/core";
import { expose } from "comlink";

const worker = {
  /** Lays a construction between two rows of terminals. @param tell hears how far it is, and how many parts cross so far */
  lay(construction: Construction, tell: (done: { share: number; crossings: number }) => void): BuildSheet {
    const work = layBoard(construction);
    for (let step = work.next(); ; step = work.next()) {
      if (step.done) return step.value;
      tell(step.value);
    }
  },
};

export type BoardWorker = typeof worker;
expose(worker);
