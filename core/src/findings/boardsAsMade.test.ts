// Boards as hands may have made them: what the solved circuit does, findings tell; what they tell, is so.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted } from "../../testing/build.ts";
import { ladderRoads, ladderYard, routedYard, soldered } from "../../testing/routes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { type RoutePress, routePress } from "../diodes/pressed.ts";
import { STRAY_SHARE } from "../diodes/proof.ts";
import { coilWords, rowWords } from "../diodes/words.ts";
import { commandRoutes } from "../equip/routeSchools.ts";
import { addRoutes } from "../equip/routes.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Position } from "../record/schemas.ts";
import { matricesOf } from "../routes/boards.ts";

/** What a hand does to a part: leaves it, turns it, takes the other kind, or leaves it out. */
type Hand = "as planned" | "turned" | "other kind" | "left out";
const HANDS: readonly Hand[] = ["as planned", "as planned", "as planned", "turned", "other kind", "left out"];

/** A railway whose board was soldered by such hands, part by part. */
function madeBy(record: RailwayRecord, hands: readonly Hand[]): RailwayRecord {
  return drafted(soldered(record), (draft) => {
    for (const [index, part] of draft.record.boardParts.entries()) {
      const hand = hands[index % hands.length];
      if (hand === "left out") draft.remove("boardPart", part.id);
      // a wire has no way round
      if (hand === "turned" && part.with === "diode") draft.put("boardPart", { ...part, turned: true });
      if (hand === "other kind")
        draft.put("boardPart", { ...part, turned: false, with: part.with === "wire" ? "diode" : "wire" });
    }
  });
}

/** Tables of routes over the turnouts of a small yard: for each route what it does with each of them. */
const tables = fc.array(fc.array(fc.constantFrom("N", "R", null), { minLength: 3, maxLength: 3 }), {
  ...{ minLength: 2, maxLength: 4 },
});

/** A yard of three turnouts with a button for each row of a table; null where no row asks for anything. */
function routed(table: readonly (Position | null)[][]): RailwayRecord | null {
  const yard = ladderYard(4);
  const routes = table.flatMap((row, index) => {
    const settings = row.flatMap((to, turnout) => (to ? [{ turnoutId: `y${turnout + 1}`, to }] : []));
    return settings.length > 0 ? [{ label: `R${index + 1}`, settings }] : [];
  });
  if (routes.length === 0) return null;
  const named = edit(yard, addRoutes(yard, routes).edits).record;
  const ids = named.routes.map(({ id }) => id);
  return edit(named, commandRoutes(named, ids, "buttons").edits).record;
}

interface Pressed {
  words: string;
  press: RoutePress;
}

function pressedIn(derived: Derived): Pressed[] {
  const { record, circuitry, schematic } = derived;
  return matricesOf(record).flatMap((matrix) =>
    matrix.rows.flatMap((row) => {
      const press = routePress(record, circuitry, schematic.threads, matrix, row.key);
      return press ? [{ words: rowWords(record, row), press }] : [];
    }),
  );
}

const saidOf = (derived: Derived, ...ruleIds: string[]) =>
  derived.findings.filter(({ ruleId }) => ruleIds.includes(ruleId)).map(({ where, why }) => `${where} ${why}`);

describe("a board made by any hands", () => {
  it("moves no coil that is not asked, unless a finding says that current goes astray or a diode is turned", () => {
    fc.assert(
      fc.property(tables, fc.array(fc.constantFrom(...HANDS), { minLength: 1, maxLength: 12 }), (table, hands) => {
        const plan = routed(table);
        if (!plan) return;
        const derived = new Derived(madeBy(plan, hands));
        const astray = saidOf(derived, "route-sneak");
        const turned = saidOf(derived, "diode-turned");
        for (const { words, press } of pressedIn(derived))
          for (const { label, isWanted, joules, least } of press.coils)
            if (!isWanted && joules > STRAY_SHARE * least)
              expect(
                turned.length > 0 || astray.some((said) => said.includes(words) && said.includes(label)),
                `${words} moves ${label}`,
              ).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  it("reaches all that it asks, unless a finding says what it does not reach", () => {
    fc.assert(
      fc.property(tables, fc.array(fc.constantFrom(...HANDS), { minLength: 1, maxLength: 12 }), (table, hands) => {
        const plan = routed(table);
        if (!plan) return;
        const derived = new Derived(madeBy(plan, hands));
        const said = saidOf(derived, "route-unreached", "diode-turned", "route-coil-weak", "route-sneak");
        for (const { words, press } of pressedIn(derived))
          for (const { label, isWanted, joules, least } of press.coils)
            if (isWanted && joules < least)
              expect(
                said.some((each) => each.includes(words) || each.includes(label)),
                `${words} does not throw ${label}`,
              ).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  it("is right once all its buttons were pressed, and nothing more is said of it then", () => {
    fc.assert(
      fc.property(tables, fc.array(fc.constantFrom(...HANDS), { minLength: 1, maxLength: 12 }), (table, hands) => {
        const plan = routed(table);
        if (!plan) return;
        let record = madeBy(plan, hands);
        const rules = ["route-sneak", "diode-turned"];
        // one remedy after the other, as an owner would; each takes at least one part away from what is wrong
        for (let step = 0; step < 24; step++) {
          const finding = new Derived(record).findings.find(({ ruleId }) => rules.includes(ruleId));
          const group = finding?.remedies.find((remedy) => remedy.group)?.group;
          if (!group) break;
          record = edit(record, group.edits).record;
        }
        expect(saidOf(new Derived(record), ...rules)).toEqual([]);
      }),
      { numRuns: 40 },
    );
  });
});

describe("what a finding says of a board", () => {
  it("is the way that current takes, terminal by terminal, each step by a part that lies there", () => {
    const record = madeBy(routedYard(5), ["other kind", "as planned"]);
    const derived = new Derived(record);
    const [matrix] = matricesOf(record);
    const found = derived.findings.filter(({ ruleId }) => ruleId === "route-sneak");
    expect(found.length).toBeGreaterThan(0);
    for (const { why } of found) {
      const steps = [...why.matchAll(/by the (plain wire|diode)(?: back up)? to (\w+)/g)];
      const [, start] = /from (\w+) by/.exec(why) ?? [];
      let at = start;
      for (const [, by, to] of steps) {
        const part = matrix!.joins.find(
          ({ from, to: end, with: kind }) =>
            (kind === "wire") === (by === "plain wire") && [from, end].includes(at!) && [from, end].includes(to!),
        );
        expect(part, `${at} to ${to}: ${why}`).toBeDefined();
        at = to;
      }
      // it ends at the coil that it names
      const [, coil] = /energises (\S+ [NR]),/.exec(why) ?? [];
      const end = matrix!.coils.find(({ terminal }) => terminal === at);
      expect(end && coilWords(record, end)).toBe(coil);
    }
  });

  it("is nothing for a ladder of any size that was soldered as planned", () => {
    for (const roads of [2, 3, 5, 8]) {
      const { findings } = new Derived(soldered(routedYard(roads)));
      expect(
        findings.filter(({ severity }) => severity === "stop").map(({ why }) => why),
        `${roads} roads`,
      ).toEqual([]);
      expect(ladderRoads(roads)).toHaveLength(roads);
    }
  });
});
