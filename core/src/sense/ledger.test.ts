// What the ledger multiplies out to is what the solved circuit does, whichever places turn normal into reverse.
import fc from "fast-check";
import { expect, it } from "vitest";
import { drafted, railway, typed } from "../../testing/build.ts";
import { DRIVING, FROGS, followed, LAMPS, semaphore } from "../../testing/recipes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { addTurnout } from "../equip/write.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Position } from "../record/schemas.ts";
import { controlsOf, type Thread } from "../schematic/thread.ts";
import { turnAt } from "./edits.ts";
import { type Ledger, ledgerOf } from "./ledger.ts";

/** What the solved circuit does with each outcome of a ledger: true where it does the opposite of what was asked. */
function solved(derived: Derived, thread: Thread, { outcomes }: Ledger): boolean[] {
  return outcomes.map(({ thingId: id, controlId, what }) => {
    const by = controlId === null || controlId === thread.control?.assignment.id ? undefined : controlId;
    const to = controlsOf(thread).find(({ assignment }) => assignment.id === controlId)?.assignment.to;
    // a control that asks for one position is tried for that one, each other for reverse
    const position: Position = to ?? "R";
    const reading = derived.reading(thread, position, by ? "held" : "rest", by);
    if (what === "blades") {
      const index = thread.motors.findIndex(({ turnout }) => turnout.id === id);
      return reading.motors[index]?.goesTo !== position;
    }
    if (what === "frog") {
      const frog = reading.frogs.find(({ turnoutId }) => turnoutId === id);
      const motor = thread.motors.findIndex(({ turnout }) => turnout.id === id);
      const bladesWrong = reading.motors[motor]?.goesTo !== position;
      // right for the blades while they are wrong is wrong for what was asked
      return (frog?.carries === frog?.wanted) === bladesWrong;
    }
    const lamp = reading.lamps.find(({ deviceId }) => deviceId === id);
    if (lamp?.arm) return lamp.arm !== position;
    return (lamp?.normal ?? 0) > (lamp?.reverse ?? 0) !== (position === "N");
  });
}

/** Turns an arbitrary choice of a thread's places. */
function turned(record: RailwayRecord, chosen: readonly boolean[]): RailwayRecord {
  const [thread] = new Derived(record).schematic.threads;
  if (!thread) return record;
  const { links } = ledgerOf(record, thread);
  return drafted(record, (draft) => {
    for (const [index, link] of links.entries())
      if (chosen[index % chosen.length]) turnAt(draft, link, !link.inverts, {});
  });
}

const all: Record<string, () => RailwayRecord> = { ...DRIVING, ...FROGS, ...LAMPS, semaphore };

it.each(Object.keys(all))("predicts what the circuit does, whatever is turned: %s", (name) => {
  const record = all[name]?.() as RailwayRecord;
  const before = new Derived(record);
  const [first] = before.schematic.threads;
  expect(ledgerOf(record, first!).outcomes.some(({ wrong }) => wrong)).toBe(false);
  fc.assert(
    fc.property(fc.array(fc.boolean(), { minLength: 14, maxLength: 14 }), (chosen) => {
      const now = turned(record, chosen);
      const derived = new Derived(now, before);
      const [thread] = derived.schematic.threads;
      const ledger = ledgerOf(now, thread!);
      expect(ledger.outcomes.map(({ wrong }) => wrong)).toEqual(solved(derived, thread!, ledger));
    }),
    { numRuns: 12, examples: [[Array.from({ length: 14 }, () => true)]] },
  );
});

it("holds every place of a crossover's chain, in order from the finger to the lamp", () => {
  const pair = railway(
    ["M1", "", "stall-motor", "input-decoder-4", "toggle-latching", "lamp-two-colour", "S2"],
    ["M2", "M1", "stall-motor"],
  );
  const [thread] = new Derived(pair).schematic.threads;
  const { links, outcomes } = ledgerOf(pair, thread!);
  expect(links.map(({ link, at }) => `${link} ${at}`)).toEqual([
    "label T1",
    "control T1",
    "input D1-1",
    "inputs D1",
    "setting D1-1",
    "leads M1",
    "leads M2",
    "mounting M1",
    "mounting M2",
    "linkage M1",
    "linkage M2",
    "contact M1",
    "frog M1F",
    "lamp LP1",
  ]);
  expect(outcomes.map(({ what, label }) => `${what} ${label}`)).toEqual([
    "blades M1",
    "blades M2",
    "frog M1",
    "lamp LP1",
  ]);
  expect(links.every(({ known, inverts }) => known === "assumed" && !inverts)).toBe(true);
});

it("has no place at the inputs of a control that lets go: inverted, both count as closed, which exchanges nothing", () => {
  const sprung = railway(["A", "", "stall-motor", "input-decoder-4", "toggle-centre-off"]);
  const [thread] = new Derived(sprung).schematic.threads;
  expect(ledgerOf(sprung, thread!).links.map(({ link }) => link)).not.toContain("input");
});

it("has the zones of one detector as places of their own, at their inputs", () => {
  const one = followed("stall-motor", "output-node-8", "zone");
  const two = drafted(typed(edit(one, addTurnout(one, "B").edits).record, "b", "motor", "stall-motor"), (draft) => {
    draft.assign("driver", { deviceId: "on1", way: 2, motorId: "b" });
    draft.assign("control", {
      ...{ deviceId: "bd1", turnoutId: "b", way: 2, to: null },
      ...{ inverse: false, follows: true },
    });
    draft.assign("input", { deviceId: "in1", way: 6, controlId: "bd1", controlWay: 2 });
    draft.put("sense", {
      ...{ id: "s", link: "input", deviceId: "in1", way: 6, inverts: true, known: "seen", flips: 0, note: "" },
      at: "2026-01-01T00:00:00.000Z",
    });
  });
  const derived = new Derived(two);
  const [a, b] = derived.schematic.threads.map((thread) => ledgerOf(two, thread));
  expect([a, b].map((ledger) => ledger!.links.filter(({ link }) => link === "input").map(({ at }) => at))).toEqual([
    ["IN1-5"],
    ["IN1-6"],
  ]);
  expect([a, b].map((ledger) => ledger!.outcomes.map(({ wrong }) => wrong))).toEqual([[false], [true]]);
  const goes = derived.schematic.threads.map((thread) => derived.reading(thread, "R", "rest").motors[0]?.goesTo);
  expect(goes).toEqual(["R", "N"]);
});
