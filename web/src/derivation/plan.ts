import {
  type AllotOptions,
  type BuiltAs,
  type Compared,
  type EditGroup,
  type LaidWay,
  lean,
  type Proposal,
  type RailwayRecord,
  type RouteSchoolCompared,
} from "@alderman/core";
import { proxy, type Remote, wrap } from "comlink";
import type { Answer, PlanWorker } from "./plan.worker.ts";

/** The thread that plans, as far as it is used: a worker, or a stand-in for one. */
export type PlanThread = Pick<Worker, "postMessage" | "addEventListener" | "removeEventListener" | "terminate">;

const startThread = (): PlanThread => new Worker(new URL("./plan.worker.ts", import.meta.url), { type: "module" });

/** A plan that is being made and can be stopped: stopping ends its thread, so that nothing comes of it. */
export class Planning {
  private readonly thread: PlanThread;
  private readonly remote: Remote<PlanWorker>;
  /** Comes when the thread cannot be started, or fails. */
  private readonly died: Promise<{ refused: string }>;

  constructor(start: () => PlanThread = startThread) {
    this.thread = start();
    this.remote = wrap<PlanWorker>(this.thread);
    this.died = new Promise((end) => {
      const died = () => end({ refused: "The planning ended by itself. Try again; nothing was changed." });
      this.thread.addEventListener("error", died);
      this.thread.addEventListener("messageerror", died);
    });
  }

  /** @param tell how far it is; nothing comes after the answer, although the two go different ways between the threads */
  async propose(
    record: RailwayRecord,
    options: AllotOptions,
    tell: (share: number, what: string) => void,
  ): Promise<Answer<Proposal>> {
    let answered = false;
    const working = proxy((share: number, what: string) => {
      if (!answered) tell(share, what);
    });
    const answer = await this.answerOf(this.remote.propose(lean(record, ["plan"]), options, working));
    answered = true;
    return answer;
  }

  accept(record: RailwayRecord, proposal: Proposal, chosen: readonly string[]): Promise<Answer<EditGroup>> {
    return this.answerOf(this.remote.accept(lean(record, ["plan"]), proposal, [...chosen]));
  }

  /** @param tell each way as it is found, with how far it is; nothing comes after the answer */
  async ways(record: RailwayRecord, tell: (way: LaidWay, share: number) => void): Promise<Answer<LaidWay[]>> {
    let answered = false;
    const working = proxy((way: LaidWay, share: number) => {
      if (!answered) tell(way, share);
    });
    const answer = await this.answerOf(this.remote.ways(lean(record, ["plan", "picture"]), working));
    answered = true;
    return answer;
  }

  /** @param tell each way to build a board as it is proved; nothing comes after the answer */
  async builds(record: RailwayRecord, boardId: string, tell: (built: BuiltAs) => void): Promise<Answer<BuiltAs[]>> {
    const [working, end] = untilAnswered(tell);
    const answer = await this.answerOf(this.remote.builds(lean(record, ["plan"]), boardId, proxy(working)));
    end();
    return answer;
  }

  /** @param tell each way to ask for routes as it is worked out; nothing comes after the answer */
  async routeSchools(
    record: RailwayRecord,
    routeIds: readonly string[],
    tell: (school: RouteSchoolCompared) => void,
  ): Promise<Answer<RouteSchoolCompared[]>> {
    const [working, end] = untilAnswered(tell);
    const answer = await this.answerOf(this.remote.routeSchools(lean(record, ["plan"]), [...routeIds], proxy(working)));
    end();
    return answer;
  }

  compare(record: RailwayRecord, schoolId: string, turnoutIds: readonly string[]): Promise<Answer<Compared>> {
    return this.answerOf(this.remote.compare(lean(record, ["plan"]), schoolId, [...turnoutIds]));
  }

  stop(): void {
    this.thread.terminate();
  }

  private answerOf<T>(answer: Promise<Answer<T>>): Promise<Answer<T>> {
    return Promise.race([answer, this.died]);
  }
}

/** What is told on the way, until the answer is there: the two go different ways between the threads. */
function untilAnswered<T>(tell: (each: T) => void): [working: (each: T) => void, end: () => void] {
  let answered = false;
  return [
    (each) => {
      if (!answered) tell(each);
    },
    () => {
      answered = true;
    },
  ];
}
