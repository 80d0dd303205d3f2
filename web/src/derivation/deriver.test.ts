import { emptyRecord, type RailwayRecord } from "@alderman/core";
import { expect, it, vi } from "vitest";
import type { Focus } from "./derive.worker.ts";
import { type AskWorker, Deriver, LONGEST_SILENCE, NO_RESULTS, type Results } from "./deriver.ts";
import type { OverviewChange } from "./overview.ts";
import { receivedRecord, type SentRecord } from "./sentRecord.ts";

const FOCUS: Focus = {
  turnoutId: null,
  asked: {},
  thrown: null,
  by: null,
  moment: "rest",
  red: null,
  black: null,
  range: "V",
  kind: "unknown",
  lamp: false,
};
const record = (name: string) => emptyRecord(name);

/** A change that makes an overview of which only one turnout is complete: the name. */
const changed = (name: string, share = 1): OverviewChange => ({
  ...{ complete: [name], partial: share < 1, coming: [], share, known: false },
  lists: {},
});

/** Answers records, as a worker has them of what is sent. */
function reading<T>(answer: (record: RailwayRecord) => T): (sent: SentRecord) => T {
  let received: RailwayRecord | null = null;
  return (sent) => {
    received = receivedRecord(sent, received);
    return answer(received);
  };
}

/** A worker whose answers wait until the test lets them out. */
function slowWorker() {
  const asked: string[] = [];
  const waiting: (() => void)[] = [];
  const answer = <T>(question: string, value: T): Promise<T> => {
    asked.push(question);
    return new Promise((done) => waiting.push(() => done(value)));
  };
  const worker = {
    overview: reading((given) => answer(`overview ${given.railway.name}`, changed(given.railway.name))),
    focus: (given: Focus) => answer(`focus ${given.turnoutId}`, { turnoutId: given.turnoutId }),
    proving: () => answer("proving", {}),
    openEnds: () => answer("open ends", 3),
    cures: (_key: string, label: string) => answer(`cures ${label}`, true),
    hurry: async () => {},
  } as unknown as AskWorker;
  const release = async () => {
    waiting.shift()?.();
    await new Promise((done) => setTimeout(done));
  };
  return { asked, worker, release };
}

function deriver(...workers: AskWorker[]) {
  const seen: Results[] = [];
  const stopped: number[] = [];
  const deaths: ((why: string) => void)[] = [];
  const beats: ((share: number) => void)[] = [];
  const subject = new Deriver((died, beat) => {
    const number = deaths.push(died) - 1;
    beats.push(beat);
    return { ask: workers[Math.min(number, workers.length - 1)]!, stop: () => void stopped.push(number) };
  });
  subject.publish = (results) => seen.push(results);
  return { subject, seen, latest: () => seen.at(-1), deaths, beats, stopped };
}

/** A worker that answers at once; `overview` may be played otherwise. */
const quickWorker = (overview?: (record: RailwayRecord) => Promise<unknown>) =>
  ({
    overview: reading(overview ?? (async ({ railway }) => changed(railway.name))),
    focus: async () => ({}),
    proving: async () => ({}),
    openEnds: async () => 0,
    consequences: async () => ({ cured: [] }),
    hurry: async () => {},
  }) as unknown as AskWorker;

const soon = () => new Promise((done) => setTimeout(done, 5));

it("asks for the overview, then the focus, then the proving and what is left open, and nothing twice", async () => {
  const { asked, worker, release } = slowWorker();
  const { subject, latest } = deriver(worker);
  subject.want("a", record("A"), FOCUS);
  for (let answer = 0; answer < 5; answer++) await release();
  expect(asked).toEqual(["overview A", "focus null", "proving", "open ends"]);
  expect(latest()).toMatchObject({
    overview: { complete: ["A"] },
    focus: { turnoutId: null },
    proving: {},
    openEnds: 3,
  });
  expect(latest()).toMatchObject({ railwayId: "a", state: "checked", failure: null });
});

it("says only what is new since the record that its worker has read already, and all to the next worker", async () => {
  const [read, other] = [record("A"), record("B")];
  const sent: SentRecord[] = [];
  const worker = {
    ...quickWorker(),
    overview: async (given: SentRecord) => {
      sent.push(given);
      return changed("A");
    },
  } as unknown as AskWorker;
  const held = [read];
  const subject = new Deriver(() => ({ ask: worker, stop: () => {}, takeRead: () => held.pop() ?? null }));
  subject.want("a", { ...read }, FOCUS);
  await soon();
  subject.want("b", other, FOCUS);
  await soon();
  subject.restart();
  await soon();
  expect(sent.map((each) => ("whole" in each ? "all" : each.railway?.name))).toEqual([undefined, "B", "all"]);
});

it("shows what is found in parts, the thread that is looked at before the rest", async () => {
  const asked: string[] = [];
  const shares = [0.4, 0.8, 1];
  const worker = {
    ...quickWorker(async ({ railway }) => changed(railway.name, 0.2)),
    focus: async () => {
      asked.push("focus");
      return {};
    },
    more: async () => {
      asked.push("more");
      return changed("A", shares.shift());
    },
  } as unknown as AskWorker;
  const { subject, seen, latest } = deriver(worker);
  subject.want("a", record("A"), FOCUS);
  await soon();
  expect(asked).toEqual(["focus", "more", "more", "more"]);
  const steps = seen.flatMap(({ overview, state, share }) => (overview ? [[state, overview.partial, share]] : []));
  expect(steps.filter(([, , share], n) => share !== steps[n - 1]?.[2])).toEqual([
    ["checking", true, 0.2],
    ["checking", true, 0.4],
    ["checking", true, 0.8],
    ["checked", false, null],
  ]);
  expect(latest()).toMatchObject({ state: "checked", proving: {}, openEnds: 0 });
});

it("reads the thread that is looked at once the circuit is made, for which a large railway takes a while", async () => {
  const asked: string[] = [];
  const made: OverviewChange["coming"][] = [["boards", "wires"], ["wires"], []];
  const worker = {
    ...quickWorker(async () => ({ ...changed("A", 0.05), coming: ["boards", "wires"] })),
    focus: async () => {
      asked.push("focus");
      return {};
    },
    more: async () => {
      asked.push("more");
      const coming = made.shift() ?? [];
      return { ...changed("A", coming.length > 0 ? 0.1 : 1), coming };
    },
  } as unknown as AskWorker;
  const { subject, latest } = deriver(worker);
  subject.want("a", record("A"), FOCUS);
  await soon();
  expect(asked).toEqual(["more", "more", "focus", "more"]);
  expect(latest()).toMatchObject({ state: "checked", focus: {} });
});

it("shows what is known from earlier at once, all else as it comes, and looks at it once more", async () => {
  const stood = { revision: 4, stamp: "s4" };
  const asked: unknown[] = [];
  const made: [coming: OverviewChange["coming"], share: number][] = [
    [["wires"], 0.1],
    [[], 0.5],
    [[], 1],
  ];
  const worker = {
    ...quickWorker(),
    overview: async (_sent: SentRecord, anew: boolean, of: unknown) => {
      asked.push([anew, of]);
      return { ...changed("A", 0), partial: false, coming: ["threads", "wires"], known: true };
    },
    more: async () => {
      const [coming, share] = made.shift()!;
      return { ...changed("A", share), partial: false, coming, known: true };
    },
    keep: async (of: unknown) => void asked.push(of),
  } as unknown as AskWorker;
  const { subject, seen, latest } = deriver(worker);
  subject.want("a", record("A"), FOCUS, stood);
  await soon();
  const steps = seen.flatMap(({ overview, state, share }) => (overview ? [`${state} ${share}`] : []));
  expect([...new Set(steps)]).toEqual(["known 0", "known 0.1", "checked 0.5", "checked null"]);
  expect(latest()).toMatchObject({ proving: {}, openEnds: 0 });
  expect(asked).toEqual([[true, { railwayId: "a", ...stood }], { railwayId: "a", ...stood }]);
});

it("counts what is known as of the state before once an edit is made", async () => {
  let goOn = () => {};
  const worker = {
    ...quickWorker(async ({ railway: { name } }) => ({ ...changed(name, 0.1), partial: false, known: name === "A" })),
    more: () =>
      new Promise((done) => {
        goOn = () => done({ ...changed("A", 0.2), partial: false, known: true });
      }),
  } as unknown as AskWorker;
  const { subject, latest } = deriver(worker);
  subject.want("a", record("A"), FOCUS, { revision: 4, stamp: "s4" });
  await soon();
  expect(latest()).toMatchObject({ state: "checked", share: 0.1 });
  subject.want("a", record("B"), FOCUS);
  expect(latest()).toMatchObject({ state: "checking", share: null, overview: { complete: ["A"] } });
  goOn();
  await soon();
  expect(latest()).toMatchObject({ state: "checking", share: 0.1, overview: { complete: ["B"], partial: false } });
});

it("has what was found kept when all is looked at and the server has the record, once for each of its revisions", async () => {
  const kept: unknown[] = [];
  const worker = { ...quickWorker(), keep: async (of: unknown) => void kept.push(of) } as unknown as AskWorker;
  const { subject } = deriver(worker);
  const given = record("A");
  const [third, fourth] = [
    { revision: 3, stamp: "s3" },
    { revision: 4, stamp: "s4" },
  ];
  const wanted = async (...want: Parameters<Deriver["want"]>) => {
    subject.want(...want);
    await soon();
  };
  await wanted("a", given, FOCUS, null);
  expect(kept).toEqual([]);
  await wanted("a", given, FOCUS, third);
  await wanted("a", given, { ...FOCUS, turnoutId: "y1" }, third);
  expect(kept).toEqual([{ railwayId: "a", ...third }]);
  // something was done and waits; then it does not
  const edited = record("A2");
  await wanted("a", edited, FOCUS, null);
  expect(kept).toHaveLength(1);
  await wanted("a", edited, FOCUS, fourth);
  expect(kept).toEqual([third, fourth].map((version) => ({ railwayId: "a", ...version })));
});

it("leaves the rest of a checking when another record is wanted", async () => {
  const asked: string[] = [];
  let next: (() => void) | null = null;
  const worker = {
    ...quickWorker(async ({ railway }) => {
      asked.push(railway.name);
      return changed(railway.name, railway.name === "B" ? 1 : 0.1);
    }),
    more: async () => {
      asked.push("more");
      next?.();
      next = null;
      return changed("A", 0.2);
    },
  } as unknown as AskWorker;
  const { subject, latest } = deriver(worker);
  next = () => subject.want("a", record("B"), FOCUS);
  subject.want("a", record("A"), FOCUS);
  await soon();
  expect(asked).toEqual(["A", "more", "B"]);
  expect(latest()).toMatchObject({ state: "checked", overview: { complete: ["B"] } });
});

it("hurries its worker when something else is wanted than what it works on", async () => {
  const { asked, worker, release } = slowWorker();
  const hurry = vi.fn(async () => {});
  const { subject } = deriver({ ...worker, hurry });
  const given = record("A");
  subject.want("a", given, FOCUS);
  subject.want("a", given, FOCUS);
  expect(hurry).not.toHaveBeenCalled();
  subject.want("a", given, { ...FOCUS, turnoutId: "y1" });
  expect(hurry).toHaveBeenCalledTimes(1);
  subject.want("a", record("B"), FOCUS);
  expect(hurry).toHaveBeenCalledTimes(2);
  for (let answer = 0; answer < 6; answer++) await release();
  expect(asked).toEqual(["overview A", "overview B", "focus null", "proving", "open ends"]);
  subject.want("a", record("C"), FOCUS);
  expect(hurry).toHaveBeenCalledTimes(2);
});

it("reads the thread that is looked at only when it is known what an edit left as it was", async () => {
  const asked: string[] = [];
  const shares = [0.5, 1];
  const worker = {
    ...quickWorker(async ({ railway }) => changed(railway.name, railway.name === "A" ? 1 : 0)),
    more: async () => {
      asked.push("more");
      return changed("B", shares.shift());
    },
    focus: async () => {
      asked.push("focus");
      return {};
    },
  } as unknown as AskWorker;
  const { subject, latest } = deriver(worker);
  subject.want("a", record("A"), FOCUS);
  await soon();
  subject.want("a", record("B"), FOCUS);
  await soon();
  expect(asked).toEqual(["focus", "more", "focus", "more"]);
  expect(latest()).toMatchObject({ state: "checked" });
});

it("drops what was wanted in between, and never shows an older result after a newer wish", async () => {
  const { asked, worker, release } = slowWorker();
  const { subject, seen } = deriver(worker);
  for (const name of ["A", "B", "C", "D"]) subject.want("a", record(name), FOCUS);
  await release();
  await release();
  expect(asked.slice(0, 2)).toEqual(["overview A", "overview D"]);
  const shown = seen.flatMap(({ overview }) => (overview ? overview.complete : []));
  expect(new Set(shown)).toEqual(new Set(["D"]));
});

it("answers a new focus without working out the record anew", async () => {
  const { asked, worker, release } = slowWorker();
  const { subject } = deriver(worker);
  const same = record("A");
  subject.want("a", same, FOCUS);
  for (let answer = 0; answer < 4; answer++) await release();
  subject.want("a", same, { ...FOCUS, turnoutId: "y1" });
  await release();
  expect(asked).toEqual(["overview A", "focus null", "proving", "open ends", "focus y1"]);
});

it("is checking until the record as it is has been looked at, also while an earlier overview is shown", async () => {
  const { worker, release } = slowWorker();
  const { subject, latest } = deriver(worker);
  subject.want("a", record("A"), FOCUS);
  expect(latest()).toMatchObject({ state: "checking", overview: null });
  await release();
  expect(latest()?.state).toBe("checked");
  subject.want("a", record("A2"), FOCUS);
  expect(latest()).toMatchObject({ state: "checking", overview: { complete: ["A"] } });
});

it("shows nothing of another railway, however late its answer comes", async () => {
  const { worker, release } = slowWorker();
  const { subject, seen, latest } = deriver(worker);
  subject.want("a", record("A"), FOCUS);
  subject.want("b", record("B"), FOCUS);
  expect(latest()).toMatchObject({ railwayId: "b", state: "checking", overview: null });
  for (let answer = 0; answer < 2; answer++) await release();
  expect(latest()).toMatchObject({ railwayId: "b", overview: { complete: ["B"] } });
  expect(seen.every(({ railwayId, overview }) => overview === null || railwayId === "b")).toBe(true);
});

it("says once that something could not be worked out, and tries again with the next record", async () => {
  let calls = 0;
  const worker = quickWorker(async ({ railway }) => {
    calls++;
    if (railway.name === "bad") throw new Error("Sources contradict each other.");
    return changed("good");
  });
  const { subject, latest, stopped } = deriver(worker);
  subject.want("a", record("bad"), FOCUS);
  await soon();
  expect(latest()).toMatchObject({ state: "failed", failure: "Sources contradict each other." });
  expect([calls, stopped]).toEqual([1, [0]]);
  subject.want("a", record("good"), FOCUS);
  await soon();
  expect(latest()).toMatchObject({ state: "checked", failure: null });
});

it("starts a worker that died anew at once and says so, and leaves it at that when it happens again", async () => {
  const { worker: mute } = slowWorker();
  const { subject, seen, latest, deaths, stopped } = deriver(mute, quickWorker());
  subject.want("a", record("A"), FOCUS);
  deaths[0]!("The checking ended by itself.");
  await soon();
  expect(seen.map(({ state, failure }) => [state, failure])).toContainEqual([
    "checking",
    "The checking ended by itself. It was started anew.",
  ]);
  expect(latest()).toMatchObject({ state: "checked", failure: null, overview: { complete: ["A"] } });
  expect([deaths.length, stopped]).toEqual([2, [0]]);
  // with no question open; a worker that is gone already says nothing more
  deaths[0]!("Late.");
  deaths[1]!("Again.");
  await soon();
  expect(latest()).toMatchObject({ state: "failed", failure: "Again." });
  // what is known already stays to be seen
  expect(latest()?.overview).not.toBeNull();
  subject.restart();
  expect(latest()).toMatchObject({ state: "checking", failure: null });
  await soon();
  expect(latest()).toMatchObject({ state: "checked", overview: { complete: ["A"] } });
});

it("notices a worker that hangs, and lets one go on that still beats", async () => {
  vi.useFakeTimers();
  try {
    const { worker: mute } = slowWorker();
    const { subject, latest, beats, stopped } = deriver(mute, mute);
    subject.want("a", record("A"), FOCUS);
    for (const share of [0.2, 0.4, 0.6]) {
      await vi.advanceTimersByTimeAsync(LONGEST_SILENCE - 1_000);
      beats[0]!(share);
      expect(latest()).toMatchObject({ state: "checking", share, failure: null });
    }
    await vi.advanceTimersByTimeAsync(LONGEST_SILENCE + 1);
    expect(stopped).toEqual([0]);
    expect(latest()).toMatchObject({
      ...{ state: "checking", share: null },
      failure: "The checking did not come on for 60 seconds. It was started anew.",
    });
    await vi.advanceTimersByTimeAsync(LONGEST_SILENCE + 1);
    expect(stopped).toEqual([0, 1]);
    expect(latest()).toMatchObject({ state: "failed", failure: "The checking did not come on for 60 seconds." });
  } finally {
    vi.useRealTimers();
  }
});

it("gives no consequences rather than an error when it cannot say", async () => {
  const worker = { ...quickWorker(), consequences: () => Promise.reject(new Error("no")) } as unknown as AskWorker;
  expect(await deriver(worker).subject.consequences({ words: "x", edits: [] })).toBeNull();
  expect(await deriver(quickWorker()).subject.consequences({ words: "x", edits: [] })).toEqual({ cured: [] });
});

it("solves remedies one by one when nothing else is wanted, an edit first, and forgets those of the record before", async () => {
  const { asked, worker, release } = slowWorker();
  const { subject } = deriver(worker);
  const verdicts: (boolean | null)[] = [];
  const note = (cures: boolean | null) => void verdicts.push(cures);
  subject.want("a", record("A"), FOCUS);
  for (let answer = 0; answer < 4; answer++) await release();
  void subject.cures("coil-held-on:y1", "Spring").then(note);
  void subject.cures("coil-held-on:y1", "Move").then(note);
  await release();
  expect(asked.slice(4)).toEqual(["cures Spring", "cures Move"]);
  expect(verdicts).toEqual([true]);
  subject.want("a", record("A2"), FOCUS);
  await release();
  expect(asked.slice(6)).toEqual(["overview A2"]);
  expect(verdicts).toEqual([true, null]);
});

it("goes on with a remedy that is not solved yet, but not before what is wanted meanwhile", async () => {
  const { asked, worker, release } = slowWorker();
  let left = 2;
  const slow = {
    ...worker,
    cures: (key: string, label: string) => worker.cures(key, label).then((cures) => (left-- > 0 ? null : cures)),
  };
  const { subject } = deriver(slow);
  const verdicts: (boolean | null)[] = [];
  const given = record("A");
  subject.want("a", given, FOCUS);
  for (let answer = 0; answer < 4; answer++) await release();
  void subject.cures("coil-held-on:y1", "Spring").then((cures) => void verdicts.push(cures));
  await release();
  subject.want("a", given, { ...FOCUS });
  await release();
  expect(verdicts).toEqual([]);
  expect(asked.slice(4).map((each) => each.split(" ")[0])).toEqual(["cures", "cures", "focus"]);
  for (let answer = 0; answer < 2; answer++) await release();
  expect(asked.slice(7)).toEqual(["cures Spring"]);
  expect(verdicts).toEqual([true]);
});

it("does not offer a remedy that cannot be solved, and goes on", async () => {
  const worker = { ...quickWorker(), cures: () => Promise.reject(new Error("no")) } as unknown as AskWorker;
  const { subject, latest } = deriver(worker);
  subject.want("a", record("A"), FOCUS);
  await soon();
  expect(await subject.cures("k", "l")).toBe(false);
  expect(latest()?.state).toBe("checked");
});

it("forgets all results when no railway is open", async () => {
  const { worker, release } = slowWorker();
  const { subject, latest } = deriver(worker);
  subject.want("a", record("A"), FOCUS);
  await release();
  subject.want(null, null, FOCUS);
  expect(latest()).toEqual(NO_RESULTS);
});
