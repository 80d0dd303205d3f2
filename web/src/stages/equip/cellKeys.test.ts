import { COLUMNS } from "@alderman/core";
import { smallRailway } from "@alderman/core/testing/build";
import type { KeyboardEvent } from "react";
import { expect, it, vi } from "vitest";
import { onCellKey } from "./cellKeys.ts";
import type { GridEdits } from "./useGridEdits.ts";
import type { Selection } from "./useSelection.ts";

const { turnouts } = smallRailway();
const columnOf = (id: string) => COLUMNS.findIndex((column) => column.id === id);

/** What a key did on a cell, as the calls that it made; "left" when it was not the cell's to take. */
function pressed(key: string, row: number, column: string, held: Partial<KeyboardEvent> = {}) {
  const calls: unknown[][] = [];
  const noting = (name: string) => vi.fn((...args: unknown[]) => void calls.push([name, ...args]));
  const selection = Object.fromEntries(
    ["move", "edit", "letGo", "all", "toHeading"].map((name) => [name, noting(name)]),
  );
  const edits = Object.fromEntries(["move", "fill", "clear"].map((name) => [name, noting(`edits.${name}`)]));
  const event = { key, altKey: false, ctrlKey: false, metaKey: false, shiftKey: false, ...held } as KeyboardEvent;
  const taken = onCellKey(
    event,
    { row, column: columnOf(column) },
    {
      ...{ turnouts, columns: COLUMNS },
      selection: selection as unknown as Selection,
      edits: edits as unknown as GridEdits,
    },
  );
  return taken ? calls : "left";
}

it("moves by arrows and page keys, and widens what is chosen with Shift", () => {
  const at = columnOf("motor");
  expect(pressed("ArrowDown", 1, "motor")).toEqual([["move", { row: 2, column: at }, false]]);
  expect(pressed("ArrowRight", 1, "motor", { shiftKey: true })).toEqual([["move", { row: 1, column: at + 1 }, true]]);
  expect(pressed("PageDown", 1, "motor")).toEqual([["move", { row: 21, column: at }, false]]);
  expect(pressed("End", 1, "motor")).toEqual([["move", { row: 1, column: COLUMNS.length - 1 }, false]]);
  // from the first row up to the headings, which sort
  expect(pressed("ArrowUp", 0, "motor")).toEqual([["toHeading", at]]);
});

it("begins to edit by Enter, F2 and letters, but no label by a letter", () => {
  const place = { row: 1, column: columnOf("motor") };
  expect(pressed("Enter", 1, "motor")).toEqual([["edit", { ...place, begin: null }]]);
  expect(pressed("s", 1, "motor")).toEqual([["edit", { ...place, begin: { text: "s", letter: true } }]]);
  // t, n and v are commands there, and / and ? are everywhere
  for (const key of ["t", "n", "v"]) expect(pressed(key, 1, "label")).toBe("left");
  for (const key of ["/", "?", "Tab", "Shift"]) expect(pressed(key, 1, "motor")).toBe("left");
  // the row that adds is typed into at once
  expect(pressed("t", turnouts.length, "label")).toMatchObject([["edit", { row: turnouts.length }]]);
});

it("fills, chooses all, empties and moves outputs by the keys that say so, and leaves other shortcuts alone", () => {
  expect(pressed("d", 1, "motor", { ctrlKey: true })).toEqual([["edits.fill"]]);
  expect(pressed("a", 1, "motor", { metaKey: true })).toEqual([["all"]]);
  expect(pressed("Delete", 1, "motor")).toEqual([["edits.clear", { row: 1, column: columnOf("motor") }]]);
  expect(pressed("Escape", 1, "motor")).toEqual([["letGo"]]);
  expect(pressed("z", 1, "motor", { ctrlKey: true })).toBe("left");
  const follower = turnouts.findIndex(({ movesWith }) => movesWith !== null);
  expect(pressed("ArrowDown", follower, "driver", { altKey: true })).toEqual([
    ["edits.move", turnouts[follower]!.movesWith, 1],
  ]);
  expect(pressed("ArrowDown", follower, "motor", { altKey: true })).toBe("left");
});
