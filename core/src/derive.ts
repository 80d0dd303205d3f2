import { Checking } from "./findings/checking.ts";
import type { Finding, Look } from "./findings/rule.ts";
import { missingParts } from "./findings/turnoutIncomplete.ts";
import { sweeping, sweepsOf } from "./hands/hands.ts";
import { type SupplyLoad, supplyLoads } from "./hands/supplyLoads.ts";
import type { Found } from "./hands/sweep.ts";
import { type LampSituations, situationsOf } from "./indicators/situations.ts";
import { watchedRails } from "./line/blocks.ts";
import { loomAfter, loomOf } from "./loom/loom.ts";
import type { Loom } from "./loom/wire.ts";
import { addressList, type OutputAddress } from "./numbers/addressList.ts";
import { chainOf } from "./proving/chain.ts";
import { expecting, plannedSteps, type TestStep, testSteps } from "./proving/testSteps.ts";
import { type Standing, standingOf } from "./proving/verdict.ts";
import { type BoardLoad, boardLoads } from "./readings/boardLoads.ts";
import { type Asked, Circuitry } from "./readings/circuitry.ts";
import { type NodeVolts, nodeVolts } from "./readings/nodeVolts.ts";
import type { Moment } from "./readings/states.ts";
import { type ThreadReading, threadReading } from "./readings/threadReading.ts";
import { indexAfter } from "./record/find.ts";
import type { RailwayRecord } from "./record/kinds.ts";
import type { Position } from "./record/schemas.ts";
import { type Schematic, schematicAfter } from "./schematic/schematic.ts";
import { devicesOfThread, type Thread } from "./schematic/thread.ts";

/** Everything that follows from a record. Parts are worked out when first asked for, and once. */
export class Derived {
  readonly schematic: Schematic;
  readonly addresses: OutputAddress[];
  private woven: Loom | null = null;
  private solver: Circuitry | null = null;
  private readonly kept = new Map<string, unknown>();
  /** What was found out of each thread, its readings and what rules remember, by its leader and what it is. */
  private readonly remembered = new Map<string, Map<string, Remembered>>();

  /** @param previous what was derived before an edit; solutions that the edit did not touch are taken over */
  constructor(
    readonly record: RailwayRecord,
    previous?: Derived,
  ) {
    if (previous) indexAfter(record, previous.record);
    this.schematic = schematicAfter(record, previous, watchedRails(record));
    this.addresses = addressList(record, this.schematic.threads);
    // loom and circuit that are made are taken over at once, so that what was before need not be kept
    if (previous?.woven) this.woven = loomAfter(record, this.schematic, previous);
    if (!previous?.solver || !this.woven) return;
    this.solver = new Circuitry(record, this.schematic, this.woven, previous.solver);
    this.takeOver(previous);
  }

  get loom(): Loom {
    this.woven ??= loomOf(this.record, this.schematic);
    return this.woven;
  }

  get circuitry(): Circuitry {
    this.solver ??= new Circuitry(this.record, this.schematic, this.loom);
    return this.solver;
  }

  /** Whether the loom is woven and its circuit cut into pieces, which takes a while on a large railway. */
  get isCut(): boolean {
    return this.solver !== null;
  }

  /** What was found out of threads by asking only what the edit left as it was. */
  private takeOver(previous: Derived): void {
    const { circuitry } = this;
    const { changes } = circuitry;
    if (!changes) return;
    const before = new Set(previous.schematic.threads);
    for (const thread of this.schematic.threads) {
      const known = before.has(thread) ? previous.remembered.get(thread.turnout.id) : undefined;
      const devices = devicesOfThread(thread);
      if (!known || devices.some((id) => changes.remade.has(id))) continue;
      const standing = new Map(known);
      // what nothing in the circuit was asked for may rest on anything that hangs together with the thread
      if (devices.some((id) => changes.touched.has(id)))
        for (const [what, { asked }] of known)
          if (asked.length === 0 || !asked.every((each) => circuitry.stands(each))) standing.delete(what);
      this.remembered.set(thread.turnout.id, standing);
    }
  }

  /** @param by control by which the thread is thrown or held, when it is not its first one */
  readonly reading = (thread: Thread, position: Position, moment: Moment, by?: string): ThreadReading =>
    this.remember(thread, `reading ${position} ${moment} ${by ?? ""}`, () =>
      threadReading(this.circuitry, thread, position, moment, by),
    );

  /** What depends on a thread and all that is joined to it, and on nothing else: found out once, and kept while an edit leaves them alone. */
  readonly remember = <T>(thread: Thread, what: string, make: () => T): T => {
    const own = this.remembered.get(thread.turnout.id) ?? new Map<string, Remembered>();
    this.remembered.set(thread.turnout.id, own);
    const known = own.get(what);
    if (known) {
      for (const each of known.asked) this.solver?.asked.note(each);
      return known.made as T;
    }
    const found = this.solver?.asked.during(make) ?? { made: make(), asked: [] };
    own.set(what, found);
    return found.made;
  };

  get findings(): Finding[] {
    return this.once("findings", () => {
      this.checking.go(() => false);
      return this.checking.findings;
    });
  }

  /** Looks for findings in steps; for who wants to show what is found meanwhile, or to be interrupted. */
  get checking(): Checking {
    return this.once("checking", () => new Checking(this.look(), () => sweeping(this.circuitry)));
  }

  private look(): Look {
    const { record, addresses, reading, remember } = this;
    const derived = this;
    return {
      ...{ record, addresses, reading, remember, threads: this.schematic.threads },
      get circuitry() {
        return derived.circuitry;
      },
      get loads() {
        return derived.loads;
      },
      get boards() {
        return derived.boards;
      },
      get hands() {
        return derived.hands;
      },
    };
  }

  get loads(): SupplyLoad[] {
    return this.once("loads", () => supplyLoads(this.circuitry));
  }

  /** What can go wrong by anything that hands, trains, boards and restarts can set. */
  get hands(): Found[] {
    return this.once("hands", () => sweepsOf(this.circuitry).flatMap(({ found }) => found));
  }

  /** What arrives at the nodes of a control bus. */
  get nodeVolts(): NodeVolts[] {
    return this.once("node volts", () => nodeVolts(this.circuitry));
  }

  get boards(): BoardLoad[] {
    return this.once("boards", () => boardLoads(this.circuitry));
  }

  /** Leaders of the threads that are completely equipped. */
  get complete(): string[] {
    return this.once("complete", () =>
      this.schematic.threads
        .filter((thread) => missingParts(this.record, thread).length === 0)
        .map(({ turnout }) => turnout.id),
    );
  }

  /** The test sheet of a thread with where each step stands. */
  sheet(leaderId: string): { step: TestStep; standing: Standing }[] {
    return this.once(`sheet ${leaderId}`, () => {
      const thread = this.schematic.threads.find(({ turnout }) => turnout.id === leaderId);
      if (!thread) return [];
      const tests = this.record.tests.filter((test) => test.turnoutId === leaderId);
      return testSteps(this.circuitry, thread).map((step) => ({ step, standing: standingOf(step, tests) }));
    });
  }

  /** Where each step of a thread's test sheet stands; only steps that have a result are worked out. */
  standings(thread: Thread): Standing["state"][] {
    return this.once(`standings ${thread.turnout.id}`, () => {
      const planned = plannedSteps(this.record, thread);
      const tests = this.record.tests.filter((test) => test.turnoutId === thread.turnout.id);
      const chain = tests.length > 0 ? chainOf(this.record, this.loom, thread) : {};
      return planned.map((step) => {
        if (!tests.some((test) => test.step === step.key)) return "open";
        return standingOf(expecting(this.circuitry, thread, step, chain), tests).state;
      });
    });
  }

  /** What each lamp of a thread shows when all is well and when something is amiss. */
  situations(thread: Thread): LampSituations[] {
    return this.once(`situations ${thread.turnout.id}`, () =>
      thread.lamps.map((lamp) => ({
        lampId: lamp.device.id,
        rows: situationsOf(this.circuitry, thread, lamp),
      })),
    );
  }

  private once<T>(key: string, make: () => T): T {
    if (!this.kept.has(key)) this.kept.set(key, make());
    return this.kept.get(key) as T;
  }
}

/** Something that was found out of a thread, and from what in the circuit. */
interface Remembered {
  made: unknown;
  asked: readonly Asked[];
}
