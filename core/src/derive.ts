import { Checking } from "./findings/checking.ts";
import { type Finding, type Look, POSITIONS } from "./findings/rule.ts";
import { lacks } from "./findings/turnoutIncomplete.ts";
import { sweeping, sweepsOf } from "./hands/hands.ts";
import { type SupplyLoad, supplyLoads } from "./hands/supplyLoads.ts";
import type { Found } from "./hands/sweep.ts";
import { type LampSituations, situationsOf } from "./indicators/situations.ts";
import { watchedRails } from "./line/blocks.ts";
import { loomInSteps, loomOf } from "./loom/loom.ts";
import type { Loom } from "./loom/wire.ts";
import { addressList, type OutputAddress } from "./numbers/addressList.ts";
import { chainOf } from "./proving/chain.ts";
import { expecting, plannedSteps, type TestStep, testSteps } from "./proving/testSteps.ts";
import { type Standing, standingOf } from "./proving/verdict.ts";
import { type BoardLoad, boardLoads } from "./readings/boardLoads.ts";
import { type Asked, Circuitry } from "./readings/circuitry.ts";
import { type NodeVolts, nodeVolts } from "./readings/nodeVolts.ts";
import type { Moment } from "./readings/states.ts";
import { stateFor, type ThreadReading, threadReading } from "./readings/threadReading.ts";
import { indexAfter } from "./record/find.ts";
import type { RailwayRecord } from "./record/kinds.ts";
import type { Position } from "./record/schemas.ts";
import { atOnce, type Steps } from "./record/steps.ts";
import { type Schematic, schematicAfter } from "./schematic/schematic.ts";
import { devicesOfThread, type Thread } from "./schematic/thread.ts";

/** Everything that follows from a record. Parts are worked out when first asked for, and once. */
export class Derived {
  readonly schematic: Schematic;
  readonly addresses: OutputAddress[];
  /** What was derived before an edit, until what it left as it was is taken over from there. */
  private basis: Derived | null = null;
  private readonly takingOver: Steps<void>;
  private woven: Loom | null = null;
  private solver: Circuitry | null = null;
  private readonly kept = new Map<string, unknown>();
  /** What was found out of each thread, its readings and what rules remember, by its leader and what it is. */
  private readonly remembered = new Map<string, Map<string, Remembered>>();
  /** Leaders of threads whose part of that is the one from before an edit: it is read here, and copied before anything is added. */
  private readonly borrowed = new Set<string>();
  /** Threads in which a rule found something, or has not looked, by what it calls that; in their order. */
  private readonly unclear = new Map<string, readonly Thread[]>();

  /** @param previous what was derived before an edit; solutions that the edit did not touch are taken over when they are asked for */
  constructor(
    readonly record: RailwayRecord,
    previous?: Derived,
  ) {
    if (previous) indexAfter(record, previous.record);
    this.schematic = schematicAfter(record, previous, watchedRails(record));
    this.addresses = addressList(record, this.schematic.threads);
    // one that was passed over by a newer edit has nothing to take over from itself
    this.basis = previous?.basis ?? previous ?? null;
    this.takingOver = this.takeOver();
  }

  /** Whether all is taken over that an edit left as it was. */
  get isReady(): boolean {
    return this.basis === null;
  }

  private makeReady(): void {
    if (!this.isReady) atOnce(this.takingOver);
  }

  get loom(): Loom {
    this.makeReady();
    this.woven ??= loomOf(this.record, this.schematic);
    return this.woven;
  }

  get circuitry(): Circuitry {
    this.makeReady();
    this.solver ??= new Circuitry(this.record, this.schematic, this.loom);
    return this.solver;
  }

  /** Whether the loom is woven and its circuit cut into pieces, which takes a while on a large railway; after an edit, whether they were before it. */
  get isCut(): boolean {
    return (this.basis ?? this).solver !== null;
  }

  /** Takes over loom and circuit that are made, and what was found out in them, as far as an edit left them alone. */
  private *takeOver(): Steps<void> {
    const { basis, record, schematic } = this;
    if (basis?.woven) {
      const woven = yield* loomInSteps(record, schematic, basis);
      yield;
      if (basis.solver) {
        const solver = new Circuitry(record, schematic, woven, basis.solver);
        yield;
        yield* solver.takingOver(basis.solver);
        this.solver = solver;
        this.takeOverFound(basis, solver);
      }
      this.woven = woven;
    }
    // what was before need not be kept
    this.basis = null;
  }

  /** What was found out of threads by asking only what the edit left as it was. */
  private takeOverFound(previous: Derived, circuitry: Circuitry): void {
    const { changes } = circuitry;
    if (!changes) return;
    const before = new Set(previous.schematic.threads);
    const places = new Map(this.schematic.threads.map((thread, place) => [thread, place]));
    /** Threads of which not everything stands that was known. */
    const fresh: Thread[] = [];
    for (const thread of this.schematic.threads) {
      const known = before.has(thread) ? previous.remembered.get(thread.turnout.id) : undefined;
      const devices = devicesOfThread(thread);
      if (!known || devices.some((id) => changes.remade.has(id))) {
        fresh.push(thread);
        continue;
      }
      let standing = known;
      // what nothing in the circuit was asked for may rest on anything that hangs together with the thread
      if (devices.some((id) => changes.touched.has(id))) {
        const stands = ({ asked }: Remembered) => asked.length > 0 && asked.every((each) => circuitry.stands(each));
        standing = new Map([...known].filter(([, each]) => stands(each)));
        fresh.push(thread);
      } else this.borrowed.add(thread.turnout.id);
      this.remembered.set(thread.turnout.id, standing);
    }
    for (const [what, threads] of previous.unclear) {
      const again = fresh.filter(({ turnout }) => !this.remembered.get(turnout.id)?.has(what));
      const all = new Set([...threads.filter((thread) => places.has(thread)), ...again]);
      this.unclear.set(
        what,
        [...all].sort((a, b) => (places.get(a) ?? 0) - (places.get(b) ?? 0)),
      );
    }
  }

  /** @param by control by which the thread is thrown or held, when it is not its first one */
  readonly reading = (thread: Thread, position: Position, moment: Moment, by?: string): ThreadReading =>
    this.remember(thread, `reading ${position} ${moment} ${by ?? ""}`, () =>
      threadReading(this.circuitry, thread, position, moment, by),
    );

  /** What depends on a thread and all that is joined to it, and on nothing else: found out once, and kept while an edit leaves them alone. */
  readonly remember = <T>(thread: Thread, what: string, make: () => T): T => {
    this.makeReady();
    const known = this.remembered.get(thread.turnout.id)?.get(what);
    if (known) {
      for (const each of known.asked) this.solver?.asked.note(each);
      return known.made as T;
    }
    const found = this.noted(make);
    this.ownOf(thread).set(what, found);
    return found.made;
  };

  /**
   * What is found by looking at each thread and all that is joined to it, and at nothing else. Where nothing was found is not looked
   * at again as long as edits leave it alone.
   */
  readonly inThreads = <S>(what: string, find: (thread: Thread) => S[]): Steps<S[]> => this.lookInto(what, find);

  private *lookInto<S>(what: string, find: (thread: Thread) => S[]): Steps<S[]> {
    this.makeReady();
    const still: Thread[] = [];
    const all: S[] = [];
    for (const thread of this.unclear.get(what) ?? this.schematic.threads) {
      const { made, asked } = this.noted(() => find(thread));
      if (made.length > 0) still.push(thread);
      else this.ownOf(thread).set(what, { made: null, asked });
      all.push(...made);
      yield;
    }
    this.unclear.set(what, still);
    return all;
  }

  /** What was found out of a thread, to be added to. */
  private ownOf({ turnout: { id } }: Thread): Map<string, Remembered> {
    const known = this.remembered.get(id);
    // an edit that is only tried must leave nothing behind with the railway that it was tried on
    const own = known && !this.borrowed.delete(id) ? known : new Map(known);
    this.remembered.set(id, own);
    return own;
  }

  private noted<T>(make: () => T): { made: T; asked: readonly Asked[] } {
    return this.solver?.asked.during(make) ?? { made: make(), asked: [] };
  }

  get findings(): Finding[] {
    return this.once("findings", () => {
      this.checking.go(() => false);
      return this.checking.findings;
    });
  }

  /** Looks for findings in steps; for who wants to show what is found meanwhile, or to be interrupted. */
  get checking(): Checking {
    return this.once(
      "checking",
      () =>
        new Checking(this.look(), {
          takeOver: () => this.takingOver,
          settle: () => this.settling(),
          sweep: () => this.sweeping(),
        }),
    );
  }

  /**
   * Weaves the loom, and finds out where the motors of each thread go, for which most else waits: thread by thread, the share that is
   * done after each.
   */
  *settling(): Generator<number, void> {
    yield* this.weaving();
    const { circuitry, schematic } = this;
    for (const [number, thread] of schematic.threads.entries()) {
      this.remember(thread, "where its motors go", () => {
        for (const position of POSITIONS)
          for (const { device } of thread.motors) circuitry.motorGoesTo(device.id, stateFor(thread, position, "rest"));
      });
      yield (number + 1) / schematic.threads.length;
    }
  }

  private *weaving(): Generator<number, void> {
    this.makeReady();
    const steps = loomInSteps(this.record, this.schematic, undefined);
    // whoever asks for it meanwhile gets it at once
    while (!this.woven) {
      const { done, value } = steps.next();
      if (done) this.woven = value;
      yield 0;
    }
  }

  /** Looks at what can be set in each piece, and then at what each supply gives: how far the pieces are after each step, 0 to 1. */
  private *sweeping(): Generator<number, void> {
    const { circuitry } = this;
    yield* sweeping(circuitry);
    // what a supply is asked to give is kept with the circuit
    for (const _ of supplyLoads(circuitry)) yield 1;
  }

  private look(): Look {
    const { record, addresses, reading, remember, inThreads } = this;
    const derived = this;
    return {
      ...{ record, addresses, reading, remember, inThreads, threads: this.schematic.threads },
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
    return this.once("loads", () => atOnce(supplyLoads(this.circuitry)));
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
      this.schematic.threads.filter((thread) => !lacks(this, thread)).map(({ turnout }) => turnout.id),
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
