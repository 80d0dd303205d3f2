import {
  type AllotOptions,
  acceptProposal,
  allot,
  type BuiltAs,
  type Compared,
  compareBuilds,
  compareRouteSchools,
  compareSchool,
  Derived,
  type EditGroup,
  type LaidWay,
  type Proposal,
  type RailwayRecord,
  RecordError,
  type RouteSchoolCompared,
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

/** All that is found, each told as it comes. */
function toldAll<T>(found: Iterable<T>, tell: (each: T) => void): T[] {
  const all: T[] = [];
  for (const each of found) {
    all.push(each);
    tell(each);
  }
  return all;
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

  /** The ways to build a diode board, told one by one, each with every button pressed. */
  builds(record: RailwayRecord, boardId: string, tell: (built: BuiltAs) => void): Answer<BuiltAs[]> {
    return answered(() => toldAll(compareBuilds(new Derived(record), boardId), tell));
  },

  /** The ways of the trade to ask for routes, told one by one. */
  routeSchools(
    record: RailwayRecord,
    routeIds: readonly string[],
    tell: (school: RouteSchoolCompared) => void,
  ): Answer<RouteSchoolCompared[]> {
    return answered(() => toldAll(compareRouteSchools(new Derived(record), routeIds), tell));
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
