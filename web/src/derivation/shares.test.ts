import { addTurnout, completed, Derived, edit, emptyRecord, tickWires } from "@alderman/core";
import { railway, smallRailway } from "@alderman/core/testing/build";
import { expect, it } from "vitest";
import { NO_RESULTS, type Results } from "./deriver.ts";
import { overviewOf, wholeOverviewOf } from "./overview.ts";
import { equipShare, loomShare, numbersShare, proveShare, routesShare } from "./shares.ts";

/** What is shown of a railway with this overview and these counts. */
const results = (overview: Results["overview"], proving: Results["proving"] = null): Results => ({
  ...NO_RESULTS,
  overview,
  proving,
});
const overview = (record: ReturnType<typeof smallRailway>) => wholeOverviewOf(new Derived(record));

it("counts turnouts, followers among them, that are completely equipped", () => {
  const record = smallRailway();
  expect(equipShare(4, results(overview(record)))).toMatchObject({ done: 4, of: 4 });
  const more = edit(record, addTurnout(record, "Z").edits).record;
  expect(equipShare(5, results(overview(more)))).toMatchObject({ done: 4, of: 5 });
});

it("counts joints that are made", () => {
  const record = completed(smallRailway());
  const { loom } = overview(record);
  expect(loomShare(4, results(overview(record)))).toMatchObject({ done: 0, of: 2 * loom.wires.length });
  const group = tickWires(record, loom, ["w1", "w2"], "toJoinedAt", "2026-05-10T10:30:00.000Z");
  const now = overview(edit(record, group?.edits ?? []).record);
  expect(loomShare(4, results(now))).toMatchObject({ done: 2, of: 2 * loom.wires.length });
});

it("counts outputs in use that have an address of their own", () => {
  expect(numbersShare(4, results(overview(smallRailway())))).toMatchObject({ done: 1, of: 1 });
  const clash = railway(
    ["A", "", "stall-motor", "stall-decoder-8", "", ""],
    ["B", "", "stall-motor", "stall-decoder-8", "", ""],
  );
  expect(numbersShare(2, results(overview(clash)))).toMatchObject({ done: 0, of: 2 });
});

it("counts test steps, and nothing at all before anything is known", () => {
  const proving = { a: { steps: 7, passed: 3, failed: 1, stale: 1 }, b: { steps: 5, passed: 5, failed: 0, stale: 0 } };
  expect(proveShare(2, results(null, proving))).toMatchObject({ done: 8, of: 12 });
  for (const share of [equipShare, loomShare, numbersShare, proveShare]) expect(share(0, results(null))).toBeNull();
  expect(loomShare(0, results(overview(emptyRecord("x")), {}))).toMatchObject({ done: 0, of: 0 });
  const opened = overviewOf(new Derived(smallRailway()));
  expect(loomShare(4, results(opened))).toBeNull();
  expect(routesShare(4, results(opened), smallRailway())).toBeNull();
  expect(numbersShare(4, results(opened))).toMatchObject({ done: 1, of: 1 });
});
