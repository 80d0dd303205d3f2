import { expect, it } from "vitest";
import { drafted, railway } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { threadsOf } from "../schematic/thread.ts";
import { recordFlip } from "./advice.ts";
import { noteSense, takeOver, turnAt } from "./edits.ts";
import { ledgerOf, senseAt } from "./ledger.ts";

const AT = "2026-05-12T20:14:00.000Z";
const shelf = () =>
  railway(
    ["A", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour", "S2"],
    ["B", "", "stall-motor", "D1-2", "", "lamp-two-colour", "S2"],
  );
const ledger = (record: RailwayRecord, label = "A") =>
  ledgerOf(record, threadsOf(record).find((thread) => thread.label === label)!);
const place = (record: RailwayRecord, link: string, label = "A") => {
  const found = ledger(record, label).links.find((each) => each.link === link);
  if (!found) throw new Error(`No place ${link} in this test.`);
  return found;
};

it("keeps a turn where it belongs: in the assignment, or in the ledger", () => {
  const leads = drafted(shelf(), (draft) => turnAt(draft, place(shelf(), "leads"), true, {}));
  expect(leads.assignments.find((a) => a.role === "motor" && a.turnoutId === "a")).toMatchObject({ crossed: true });
  expect(leads.senses).toEqual([]);
  const setting = drafted(shelf(), (draft) =>
    turnAt(draft, place(shelf(), "setting"), true, { known: "seen", at: AT }),
  );
  expect(setting.senses).toMatchObject([{ link: "setting", deviceId: "d1", way: 1, inverts: true, known: "seen" }]);
  for (const record of [leads, setting]) expect(ledger(record).outcomes.every(({ wrong }) => wrong)).toBe(true);
});

it("says of the other turnouts on the board nothing that is one output's", () => {
  const setting = drafted(shelf(), (draft) => turnAt(draft, place(shelf(), "setting"), true, { known: "seen" }));
  expect(ledger(setting, "B").outcomes.some(({ wrong }) => wrong)).toBe(false);
});

it("notes how a place is known without turning it, and counts what is turned by hand", () => {
  const record = shelf();
  const metered = edit(record, noteSense(record, place(record, "contact"), false, "metered", AT).edits).record;
  expect(place(metered, "contact")).toMatchObject({ inverts: false, known: "metered", flips: 0 });
  const once = edit(metered, recordFlip(metered, place(metered, "setting"), AT).edits).record;
  const twice = edit(once, recordFlip(once, place(once, "setting"), AT).edits).record;
  expect(place(once, "setting")).toMatchObject({ inverts: true, flips: 1 });
  expect(place(twice, "setting")).toMatchObject({ inverts: false, flips: 2 });
  expect(senseAt(twice, place(twice, "setting"))?.at).toBe(AT);
});

it("turns a motor round with its contacts", () => {
  const record = shelf();
  const turned = edit(record, recordFlip(record, place(record, "mounting"), AT).edits).record;
  expect(place(turned, "mounting").inverts).toBe(true);
  expect(place(turned, "contact").inverts).toBe(true);
  // the blades go the other way; frog and lamp, behind both, as before
  const wrong = Object.fromEntries(ledger(turned).outcomes.map(({ what, wrong: is }) => [what, is]));
  expect(wrong).toEqual({ blades: true, frog: false, lamp: false });
});

it("takes over from the first of a kind, and says from which", () => {
  const record = shelf();
  const taught = edit(record, noteSense(record, place(record, "contact"), true, "metered", AT).edits).record;
  const other = place(taught, "contact", "B");
  expect(other.likely).toEqual({ inverts: true, from: "A" });
  const group = takeOver(taught, [other], AT);
  expect(group.words).toBe("Took B to be like A");
  expect(place(edit(taught, group.edits).record, "contact", "B")).toMatchObject({
    ...{ inverts: true, known: "assumed", note: "like A", flips: 0 },
  });
});
