import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted, mounted, railway } from "../../testing/build.ts";
import { DRIVING, FROGS, LAMPS, semaphore } from "../../testing/recipes.ts";
import { edit } from "../catalogue/edit.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { threadsOf } from "../schematic/thread.ts";
import { adviceFor, explain, guessOf, recordFlip } from "./advice.ts";
import { noteSense, takeOver, turnAt } from "./edits.ts";
import { keyOf, type Ledger, ledgerOf } from "./ledger.ts";
import { PLACES } from "./places.ts";
import { solveParity } from "./solveParity.ts";

const AT = "2026-05-12T20:14:00.000Z";
const STALL = ["stall-motor", "stall-decoder-8", "", "lamp-two-colour", "S2"];
const stall = () => railway(["L1", "", ...STALL]);
const crossover = () => railway(["M1", "", ...STALL], ["M2", "M1", "stall-motor", "", "", "", "S2"]);
/** Three turnouts whose toggles are read by one board. */
const oneBoard = () =>
  railway(
    ["A", "", "stall-motor", "input-decoder-4", "toggle-latching", "lamp-two-colour", "S2"],
    ["B", "", "stall-motor", "D1-2", "toggle-latching", "", "S1"],
    ["C", "", "stall-motor", "D1-3", "toggle-latching"],
  );

const ledgers = (record: RailwayRecord) => threadsOf(record).map((thread) => ledgerOf(record, thread));
const advice = (record: RailwayRecord, index = 0) => {
  const threads = threadsOf(record);
  return adviceFor(record, threads, threads[index]!);
};
/** The record after something was seen: outcomes by `what label`, true where they went the other way. */
function saw(record: RailwayRecord, index: number, wrong: Record<string, boolean>): RailwayRecord {
  const ledger = ledgers(record)[index]!;
  const seen = Object.fromEntries(
    ledger.outcomes.flatMap(({ key, what, label }) => {
      const name = `${what} ${label}`;
      return name in wrong ? [[key, wrong[name] as boolean]] : [];
    }),
  );
  const found = explain(record, ledger, seen, AT);
  return found ? edit(record, found.group.edits).record : record;
}

describe("solveParity", () => {
  it("finds the cheapest set, or none", () => {
    const turns = [
      { bits: 0b11n, cost: 3 },
      { bits: 0b01n, cost: 1 },
      { bits: 0b10n, cost: 9 },
    ];
    expect(solveParity(turns, 0b10n)).toEqual([0, 1]);
    expect(solveParity(turns, 0n)).toEqual([]);
    expect(solveParity([{ bits: 0b11n, cost: 1 }], 0b01n)).toBeNull();
  });

  it("is as cheap as trying every subset", () => {
    const turn = fc.record({ bits: fc.bigInt({ min: 0n, max: 31n }), cost: fc.integer({ min: 1, max: 20 }) });
    fc.assert(
      fc.property(fc.array(turn, { maxLength: 9 }), fc.bigInt({ min: 0n, max: 31n }), (turns, wanted) => {
        let best = Number.POSITIVE_INFINITY;
        for (let choice = 0; choice < 1 << turns.length; choice++) {
          const chosen = turns.filter((_, index) => (choice >> index) & 1);
          if (chosen.reduce((bits, each) => bits ^ each.bits, 0n) === wanted)
            best = Math.min(
              best,
              chosen.reduce((sum, each) => sum + each.cost, 0),
            );
        }
        const found = solveParity(turns, wanted);
        const cost = found?.reduce((sum, index) => sum + turns[index]!.cost, 0) ?? Number.POSITIVE_INFINITY;
        expect(cost).toBe(best);
      }),
    );
  });

  it("solves systems of a hundred outcomes and turns, however many sets do it", () => {
    const bits = fc.bigInt({ min: 0n, max: (1n << 100n) - 1n });
    fc.assert(
      fc.property(
        fc.array(bits, { minLength: 60, maxLength: 120 }),
        fc.bigInt({ min: 0n, max: (1n << 60n) - 1n }),
        (all, chosen) => {
          const turns = all.map((each, index) => ({ bits: each, cost: 1 + (index % 7) }));
          const wanted = all.reduce((sum, each, index) => ((chosen >> BigInt(index)) & 1n ? sum ^ each : sum), 0n);
          const found = solveParity(turns, wanted);
          expect(found?.reduce((sum, index) => sum ^ all[index]!, 0n)).toBe(wanted);
        },
      ),
      { numRuns: 20 },
    );
  });
});

it("advises on a crossover of twenty outcomes: five controls, two motors, a frog and a lamp", () => {
  const controls = Array.from({ length: 5 }, (_, index) => `toggle-centre-off${index === 1 ? " inverse" : ""}`);
  const record = railway(
    ["A", "", "twin-coil-under-board", "cdu", controls.join(" + "), "lamp-two-colour", ""],
    ["B", "A", "twin-coil-under-board", "", "", "", "S1"],
  );
  const wrong = mounted(record, "b", { opposite: true });
  expect(ledgers(wrong)[0]!.outcomes).toHaveLength(20);
  expect(advice(wrong).plan.map(({ words }) => words)).toEqual(["Swap the leads at B"]);
});

it("puts a motor that runs the other way right in the setting first, and says that a reset undoes it", () => {
  const record = saw(stall(), 0, { "blades L1": true, "frog L1": true, "lamp LP1": true });
  expect(ledgers(record)[0]!.outcomes.every(({ wrong }) => wrong)).toBe(true);
  const { plan, singles } = advice(record);
  expect(plan.map(({ words }) => words)).toEqual(["Reverse it in the setting at D1-1"]);
  expect(singles.map(({ words, minutes, reset }) => [words, minutes, reset])).toEqual([
    ["Reverse it in the setting at D1-1", 1, true],
    ["Swap the leads at L1", 3, false],
  ]);
  const after = edit(record, recordFlip(record, plan[0]!.link, AT).edits).record;
  expect(ledgers(after)[0]!.outcomes.some(({ wrong }) => wrong)).toBe(false);
  const { flips, known, inverts } = ledgers(after)[0]!.links.find(({ link }) => link === "setting")!;
  expect({ flips, known, inverts }).toEqual({ flips: 1, known: "seen", inverts: true });
});

it("turns one end of a crossover at its own leads, because the setting would turn both", () => {
  const record = mounted(crossover(), "m2", { opposite: true });
  const { plan, singles } = advice(record);
  expect(plan.map(({ words }) => words)).toEqual(["Swap the leads at M2"]);
  expect(singles.map(({ words }) => words)).toEqual(["Swap the leads at M2"]);
  expect(plan[0]!.scope).toEqual(["M1/M2"]);
});

it("looks at a control that speaks for its own line by itself: its leads or its label, and nothing that both share", () => {
  const record = DRIVING["two toggles for a crossover, one inverse"]!();
  const [ledger] = ledgers(record);
  const byOther = ledger!.outcomes.filter(({ by }) => by === "T2").map(({ key }) => key);
  const seen = Object.fromEntries(ledger!.outcomes.map(({ key }) => [key, byOther.includes(key)]));
  const wrong = edit(record, explain(record, ledger!, seen, AT)!.group.edits).record;
  expect(advice(wrong).singles.map(({ words, minutes }) => [words, minutes])).toEqual([
    ["Exchange the outer leads at T2", 2],
    ["Change the label at T2", 3],
  ]);
});

it("puts a lamp that tells the opposite right at its own leads, and a frog at its rails", () => {
  const lamp = saw(stall(), 0, { "blades L1": false, "frog L1": false, "lamp LP1": true });
  expect(advice(lamp).plan.map(({ words }) => words)).toEqual(["Swap its leads at LP1"]);
  const frog = saw(stall(), 0, { "blades L1": false, "frog L1": true, "lamp LP1": false });
  expect(advice(frog).plan.map(({ words }) => words)).toEqual(["Swap the two rails at L1F"]);
  // both together hang on the contact, which cannot be turned: two swaps
  const both = saw(stall(), 0, { "blades L1": false, "frog L1": true, "lamp LP1": true });
  expect(ledgers(both)[0]!.links.find(({ link }) => link === "contact")).toMatchObject({
    inverts: true,
    known: "seen",
  });
  expect(advice(both)).toMatchObject({ singles: [], plan: [{ words: "Swap its leads at LP1" }, { minutes: 5 }] });
});

it("says which turnouts a board's inputs would spoil, and turns them all when all are wrong", () => {
  let record = saw(oneBoard(), 0, { "blades A": true, "frog A": true, "lamp LP1": true });
  const inputs = advice(record).singles.find(({ link }) => link.link === "inputs")!;
  expect(inputs.scope).toEqual(["A", "B", "C"]);
  expect(inputs.spoils).toEqual(["blades of B", "frog of B", "blades of C"]);
  expect(advice(record).plan[0]!.link.link).not.toBe("inputs");
  record = saw(record, 1, { "blades B": true, "frog B": true });
  record = saw(record, 2, { "blades C": true });
  expect(advice(record).plan.map(({ words }) => words)).toEqual(["Invert all inputs at D1"]);
});

it("keeps what was metered against what was only assumed, and refuses what cannot be", () => {
  const ledger = ledgers(stall())[0]!;
  const contact = ledger.links.find(({ link }) => link === "contact")!;
  const metered = edit(stall(), noteSense(stall(), contact, false, "metered", AT).edits).record;
  const record = saw(metered, 0, { "blades L1": false, "frog L1": true, "lamp LP1": true });
  const turned = ledgers(record)[0]!.links.filter(({ inverts }) => inverts);
  expect(turned.map(({ link }) => link)).not.toContain("contact");
  expect(turned).toHaveLength(2);
  const flag = railway(["A", "", "stall-motor", "stall-decoder-8", "", "mechanical-flag"]);
  expect(() => saw(flag, 0, { "blades A": true, "lamp MF1": false })).toThrow(/Not all of that can be so at once/);
});

it("teaches the others of a kind and mounting, which stay assumed", () => {
  const rows = ["A", "B", "C"].map((label, index) => [label, "", "stall-motor", `D1-${index + 1}`, "", "", "S2"]);
  let record = mounted(
    railway(
      ["Z", "", "stall-motor", "stall-decoder-8"],
      ...rows.map((r) => (r[3] === "D1-1" ? [...r.slice(0, 3), "D1-4", ...r.slice(4)] : r)),
    ),
    "c",
    { opposite: true },
  );
  const first = ledgers(record)
    .find(({ label }) => label === "A")!
    .links.find(({ link }) => link === "contact")!;
  record = edit(record, noteSense(record, first, true, "metered", AT).edits).record;
  const likely = ledgers(record).map(({ links }) => links.find(({ link }) => link === "contact"));
  expect(likely.map((link) => link?.likely ?? null)).toEqual([null, null, { inverts: true, from: "A" }, null]);
  record = edit(record, takeOver(record, [likely[2]!], AT).edits).record;
  expect(ledgers(record)[2]!.links.find(({ link }) => link === "contact")).toMatchObject({
    ...{ inverts: true, known: "assumed", note: "like A" },
  });
});

it("expects half of what is open to be swapped, and tells trying from measuring", () => {
  const guess = guessOf(ledgers(stall()));
  expect(guess).toMatchObject({ open: 3, swaps: 1.5 });
  expect(guess.unknown).toBe(ledgers(stall())[0]!.links.length);
  expect(guess.measureMinutes).toBe(
    ledgers(stall())[0]!.links.reduce((sum, { link }) => sum + PLACES[link].findMinutes, 0),
  );
  const known = ledgers(stall())[0]!.links.reduce(
    (record, link) => edit(record, noteSense(record, link, false, "metered", AT).edits).record,
    stall(),
  );
  expect(guessOf(ledgers(known))).toEqual({ unknown: 0, open: 0, swaps: 0, tryMinutes: 0, measureMinutes: 0 });
});

/** Fewest flips that put right what is wrong, by looking at every combination in breadth. */
function fewest(all: readonly Ledger[], actual: ReadonlySet<string>): number {
  const outcomes = all.flatMap((ledger) => ledger.outcomes);
  const bits = (keys: readonly string[]) =>
    outcomes.reduce((sum, { chain }, index) => {
      const odd = chain.filter((key) => keys.includes(key)).length % 2 === 1;
      return sum | (odd ? 1 << index : 0);
    }, 0);
  const flips = new Map(
    all.flatMap(({ links }) =>
      links.filter(({ link }) => PLACES[link].turn !== null).map((link) => [link.key, bits(byHand(link))]),
    ),
  );
  let reached = new Set([bits([...actual])]);
  const before = new Set(reached);
  for (let count = 0; ; count++) {
    if (reached.has(0)) return count;
    reached = new Set([...reached].flatMap((state) => [...flips.values()].map((flip) => state ^ flip)));
    for (const state of before) reached.delete(state);
    for (const state of reached) before.add(state);
    if (reached.size === 0) return Number.POSITIVE_INFINITY;
  }
}

/** What turns in the world when somebody turns a place by hand. */
function byHand({ key, link, deviceId }: Ledger["links"][number]): string[] {
  return link === "mounting" ? [key, keyOf({ link: "contact", deviceId, way: null })] : [key];
}

const exhibits: Record<string, () => RailwayRecord> = {
  ...DRIVING,
  ...FROGS,
  ...LAMPS,
  semaphore,
  crossover,
  oneBoard,
};

it.each(Object.keys(exhibits))("ends with everything right in no more flips than needed: %s", (name) => {
  fc.assert(
    fc.property(fc.infiniteStream(fc.boolean()), fc.boolean(), (hidden, partly) => {
      let record = exhibits[name]!();
      // what is really turned in the world; the ledger knows nothing of it
      const actual = new Set(
        ledgers(record).flatMap(({ links }) => links.filter(() => hidden.next().value).map(({ key }) => key)),
      );
      if (partly) {
        const [link] = ledgers(record)[0]!.links;
        record = drafted(record, (draft) => link && turnAt(draft, link, actual.has(link.key), { known: "metered" }));
      }
      const optimum = fewest(ledgers(record), actual);
      let flips = 0;
      for (;;) {
        const wrong = (chain: readonly string[]) => chain.filter((key) => actual.has(key)).length % 2 === 1;
        for (const [index] of threadsOf(record).entries()) {
          const ledger = ledgers(record)[index]!;
          const seen = Object.fromEntries(ledger.outcomes.map(({ key, chain }) => [key, wrong(chain)]));
          const found = explain(record, ledger, seen, AT);
          if (found) record = edit(record, found.group.edits).record;
        }
        const next = threadsOf(record).flatMap((_, index) => advice(record, index).plan)[0];
        if (!next) break;
        for (const key of byHand(next.link)) if (!actual.delete(key)) actual.add(key);
        record = edit(record, recordFlip(record, next.link, AT).edits).record;
        flips++;
        if (flips > optimum) break;
      }
      expect(flips).toBe(optimum);
      for (const { outcomes } of ledgers(record)) {
        for (const { chain, wrong } of outcomes) {
          expect(chain.filter((key) => actual.has(key)).length % 2).toBe(0);
          expect(wrong).toBe(false);
        }
      }
    }),
    { numRuns: 20 },
  );
});
