import { expect, it } from "vitest";
import { drafted, findingsOf, railway, remedied, typed } from "../../testing/build.ts";
import { MISTAKES } from "../../testing/mistakes.ts";
import { edit } from "../catalogue/edit.ts";
import { addBoard } from "../equip/devices.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Debt } from "../record/notes.ts";
import { threadsOf } from "../schematic/thread.ts";
import { noteSense } from "../sense/edits.ts";
import { ledgerOf } from "../sense/ledger.ts";
import { openEnds } from "./openEnds.ts";

const AT = "2026-05-12T20:14:00.000Z";
const texts = (record: RailwayRecord) =>
  openEnds(record).map(({ kind, text, blocks }) => `${kind}: ${text} | ${blocks}`);
/** With every place of every chain metered, so that nothing is assumed. */
const metered = (record: RailwayRecord) =>
  threadsOf(record)
    .flatMap((thread) => ledgerOf(record, thread).links)
    .reduce((now, link) => edit(now, noteSense(now, link, link.inverts, "metered", AT).edits).record, record);
const whole = () => metered(railway(["A", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour"]));

it("owes nothing when everything is decided and known", () => {
  expect(texts(whole())).toEqual([]);
});

it("names what a turnout lacks, an unknown hand, idle boards and what is only assumed", () => {
  const handed = railway(["A", "", "stall-motor", "stall-decoder-8", "", "", "S2"], ["B", "", ""]);
  const record = typed(handed, "a", "hand", "unknown");
  const idle = edit(record, addBoard(record, "servo-board-4").edits).record;
  expect(texts(idle)).toEqual([
    "undecided: B has no motor | its wires and its test sheet",
    "undecided: A: which hand it is | which rail its frog must carry",
    "open end: SB1, servo board, four outputs with inputs, does nothing yet | nothing",
    "open end: 1 turnout or pair of which the sense is partly assumed; about 1 swaps to be expected | the first train over each",
  ]);
  expect(texts(typed(idle, "a", "hand", "left")).some((text) => text.includes("which hand"))).toBe(false);
});

it("holds what was noted by hand until it is done", () => {
  const debt: Debt = {
    ...{ id: "d", kind: "awaited", text: "connector ordered", blocks: "the wing", turnoutId: "a" },
    ...{ done: false, at: AT },
  };
  const record = drafted(whole(), (draft) => draft.put("debt", debt));
  expect(openEnds(record)).toMatchObject([{ text: "A: connector ordered", blocks: "the wing", debtId: "d" }]);
  expect(texts(drafted(record, (draft) => draft.put("debt", { ...debt, done: true })))).toEqual([]);
});

it("says which turnouts rest on hearsay, and lets go when it is measured or given up", () => {
  const record = MISTAKES["rests-on-hearsay"]!();
  expect(texts(record)[0]).toBe("open end: Heard only: An output bears 60 mA | A");
  const [finding] = findingsOf(record, "rests-on-hearsay");
  expect(finding?.why).toBe('"An output bears 60 mA" was only heard (at a meeting), and A rests on it.');
  expect(findingsOf(remedied(record, finding!, "It is measured now"), "rests-on-hearsay")).toEqual([]);
  const given = remedied(record, finding!, /^Plan as if it were false/);
  expect(given.facts).toEqual([]);
  expect(given.types[0]?.figures).toEqual({});
});
