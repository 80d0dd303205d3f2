import {
  type AllotOptions,
  acceptProposal,
  allot,
  type Compared,
  compareSchool,
  type EditGroup,
  type LaidWay,
  type Proposal,
  type RailwayRecord,
  RecordError,
  SCHOOLS,
  waysToLay,
} from "@alderman/core";
import { expose } from "comlink";

/** What was asked for, or the sentence that says why not: errors lose their kind on the way between threads. */
export type Answer<T> = { done: T } | { refused: string };

function answered<T>(make: () => T): Answer<T> {
  try {
    return { done: make() };
  } catch (error) {
    if (error instanceof RecordError) return { refused: error.message };
    throw error;
  }
}

/** Planning that takes its time, apart from the worker that derives: it can be stopped at any moment. */
const worker = {
  propose(record: RailwayRecord, options: AllotOptions, tell: (share: number, what: string) => void): Answer<Proposal> {
    let told = 0;
    return answered(() =>
      allot(record, options, (share, what) => {
        if (share - told < 0.02 && share < 1) return;
        told = share;
        tell(share, what);
      }),
    );
  },

  accept(record: RailwayRecord, proposal: Proposal, chosen: readonly string[]): Answer<EditGroup> {
    return answered(() => acceptProposal(record, proposal, new Set(chosen)));
  },

  /** Every way to lay the loom, told one by one. */
  ways(record: RailwayRecord, tell: (way: LaidWay, share: number) => void): Answer<LaidWay[]> {
    return answered(() => {
      const found: LaidWay[] = [];
      for (const { way, share } of waysToLay(record)) {
        found.push(way);
        tell(way, share);
      }
      return found;
    });
  },

  /** What one school means; asked one by one, so that each shows as it comes. */
  compare(record: RailwayRecord, schoolId: string, turnoutIds: readonly string[]): Answer<Compared> {
    return answered(() => {
      const school = SCHOOLS.find(({ id }) => id === schoolId) ?? SCHOOLS[0];
      if (!school) throw new Error("There are no schools.");
      return compareSchool(record, school, turnoutIds);
    });
  },
};

export type PlanWorker = typeof worker;
expose(worker);
