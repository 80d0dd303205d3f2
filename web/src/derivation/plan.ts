import type { AllotOptions, Compared, EditGroup, Proposal, RailwayRecord } from "@alderman/core";
import { proxy, type Remote, wrap } from "comlink";
import type { Answer, PlanWorker } from "./plan.worker.ts";

/** A plan that is being made and can be stopped: stopping ends its thread, so that nothing comes of it. */
export class Planning {
  private readonly thread = new Worker(new URL("./plan.worker.ts", import.meta.url), { type: "module" });
  private readonly remote: Remote<PlanWorker> = wrap<PlanWorker>(this.thread);

  /** The railway without its pictures, which no plan looks at. */
  private lean(record: RailwayRecord): RailwayRecord {
    return { ...record, photos: [], tests: [], readings: [] };
  }

  propose(
    record: RailwayRecord,
    options: AllotOptions,
    tell: (share: number, what: string) => void,
  ): Promise<Answer<Proposal>> {
    return this.remote.propose(this.lean(record), options, proxy(tell));
  }

  accept(record: RailwayRecord, proposal: Proposal, chosen: readonly string[]): Promise<Answer<EditGroup>> {
    return this.remote.accept(this.lean(record), proposal, [...chosen]);
  }

  compare(record: RailwayRecord, schoolId: string, turnoutIds: readonly string[]): Promise<Answer<Compared>> {
    return this.remote.compare(this.lean(record), schoolId, [...turnoutIds]);
  }

  stop(): void {
    this.thread.terminate();
  }
}
