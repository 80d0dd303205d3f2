import { type FoundWay, type RailwayRecord, type Wanted, waysBetween } from "@alderman/core";
import { expose } from "comlink";

/** Ways that are shown at most. */
const MOST = 500;

const worker = {
  /** The ways between two places, the shortest first; `isAll` when there are no more. */
  find(record: RailwayRecord, wanted: Wanted): { ways: FoundWay[]; isAll: boolean } {
    const ways: FoundWay[] = [];
    const found = waysBetween(record, wanted);
    for (let next = found.next(); ; next = found.next()) {
      if (next.done) return { ways, isAll: next.value };
      if (ways.length === MOST) return { ways, isAll: false };
      ways.push(next.value);
    }
  },
};

export type WaysWorker = typeof worker;
expose(worker);
