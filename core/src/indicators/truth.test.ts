// What must hold of every way of showing a turnout, whatever is amiss.
import { describe, expect, it } from "vitest";
import { LAMPS, semaphore } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import { knowledgeOf } from "./knowledge.ts";
import type { Situation } from "./situations.ts";

const ALL = { ...LAMPS, semaphore };

function situations(name: string): { knows: string; rows: Situation[]; named: (what: RegExp) => Situation[] } {
  const derived = new Derived(ALL[name as keyof typeof ALL]!());
  const [thread] = derived.schematic.threads;
  if (!thread) throw new Error(`No thread for ${name} in this test.`);
  const [lamp] = thread.lamps;
  const rows = derived.situations(thread)[0]?.rows ?? [];
  return {
    knows: lamp ? knowledgeOf(thread, lamp).knows : "nothing",
    rows,
    named: (what) => rows.filter((row) => what.test(row.what)),
  };
}

describe.each(Object.keys(ALL))("shown by %s", (name) => {
  const { knows, rows, named } = situations(name);

  it("tells the truth when all is in order", () => {
    expect(named(/^all in order$/)).toMatchObject([{ N: "N", R: "R", tells: "truth" }]);
  });

  it("never tells a position that is not, for a wire that is open or for want of power", () => {
    for (const row of named(/open$|no power|no track power/)) expect(row, row.what).not.toMatchObject({ tells: "lie" });
  });

  it("goes dark or stays as it was without power", () => {
    const [off] = named(/no power|no track power/);
    expect(off).toBeDefined();
    for (const shown of [off?.N, off?.R]) expect(["dark", "as before"]).toContain(shown);
  });

  it("is believed wrongly about a motor that sticks just when it knows the command only", () => {
    expect(named(/motor sticks/)[0]?.tells).toBe(knows === "command" ? "lie" : "truth");
  });

  it("is believed wrongly about a link that came off unless it looks at the blades", () => {
    expect(named(/link came off/)[0]?.tells).toBe(["blades", "sensor", "last train"].includes(knows) ? "truth" : "lie");
  });

  it("names each situation once", () => {
    expect(new Set(rows.map(({ what }) => what)).size).toBe(rows.length);
  });
});

it("has a wire for each lead of a lamp to come loose, and each two of them to touch", () => {
  const { named } = situations("a contact");
  expect(named(/open$/)).toHaveLength(3);
  expect(named(/touch$/)).toHaveLength(3);
  // what touches the common is dark in its own position only
  expect(named(/^green and common touch$/)).toMatchObject([{ N: "dark", R: "R" }]);
  expect(named(/^common wire open$/)).toMatchObject([{ N: "dark", R: "dark" }]);
});
