// The panels of Equip, drawn for every recipe: nothing fails, and what they say is what was worked out.
import { Derived, type RailwayRecord } from "@alderman/core";
import { railway, smallRailway } from "@alderman/core/testing/build";
import { DRIVING, FROGS, LAMPS, semaphore } from "@alderman/core/testing/recipes";
import { renderToStaticMarkup } from "react-dom/server";
import { Provider } from "react-redux";
import { describe, expect, it } from "vitest";
import { emptyStore, openIn } from "../../../testing/openStore.ts";
import { wholeOverviewOf } from "../../derivation/overview.ts";
import { BoardsSheet } from "./BoardsSheet.tsx";
import { LampPanel } from "./LampPanel.tsx";
import { PowerUpSheet } from "./PowerUpSheet.tsx";
import { SensePanel } from "./SensePanel.tsx";

const store = emptyStore();

/** Opens a railway with everything worked out, its first turnout in view. */
function opened(record: RailwayRecord) {
  const derived = new Derived(record);
  const thread = derived.schematic.threads[0]!;
  openIn(store, record, {
    overview: wholeOverviewOf(derived),
    focus: {
      ...{
        turnoutId: thread.turnout.id,
        probes: { red: null, black: null },
        along: {},
        reading: null,
        sheet: [],
        meter: null,
      },
      situations: derived.situations(thread),
    },
  });
  return { derived, thread };
}

/** The words of what is drawn, without tags. */
function words(element: React.ReactNode): string {
  const markup = renderToStaticMarkup(<Provider store={store}>{element}</Provider>);
  return markup
    .replaceAll(/<[^>]*>/g, " ")
    .replaceAll(/\s+/g, " ")
    .replaceAll("&#x27;", "'");
}

const ALL: Record<string, () => RailwayRecord> = { ...DRIVING, ...FROGS, ...LAMPS, semaphore };
const NONSENSE = /NaN|undefined|null|Infinity|\[object/;

describe.each(Object.keys(ALL))("%s", (name) => {
  it("has its sense, its lamp, its power-up and its boards drawn", () => {
    const { derived, thread } = opened(ALL[name]!());
    const sense = words(<SensePanel leader={thread.turnout.id} />);
    expect(sense).toContain("From finger to lamp");
    expect(sense).toContain("According to these entries, everything moves as asked.");
    const lamp = words(<LampPanel thread={thread} />);
    for (const { rows } of derived.situations(thread)) for (const { what } of rows) expect(lamp).toContain(what);
    if (thread.lamps.length === 0) expect(lamp).toContain("has no lamp");
    const boards = words(<BoardsSheet />);
    for (const { driver } of thread.motors) if (driver) expect(boards).toContain(driver.device.label);
    const power = words(<PowerUpSheet />);
    expect(power).toContain("When power comes back");
    for (const text of [sense, lamp, boards, power]) expect(text).not.toMatch(NONSENSE);
  });
});

it("shows what boards and supplies give, and how many ways are free", () => {
  opened(smallRailway());
  const text = words(<BoardsSheet />);
  // derived: two motors of 680 ohm on one output of eight, and the board's own 20 mA
  expect(text).toMatch(/D1 for stall motors 1\/8 7 26\.\d mA 7\.\d mA 26\.\d mA 320 mA/);
  expect(text).toMatch(/PS2 12 V DC 4\d\.\d mA/);
  expect(text).toContain("CD1 discharge unit");
});

it("says that there are no boards yet, and how they come", () => {
  opened(railway(["A", "", "stall-motor"]));
  expect(words(<BoardsSheet />)).toContain("None yet. Allot outputs proposes them, or add one.");
});

it("says which turnouts move when power returns", () => {
  opened(railway(["A", "", "stall-motor", "reverser-stall"]));
  expect(words(<PowerUpSheet />)).toContain("A may move by itself when power returns: look before you switch on.");
  opened(smallRailway());
  expect(words(<PowerUpSheet />)).toContain("Nothing moves by itself when power returns.");
});

it("names a turnout's places with how they are found out, and what guessing costs", () => {
  const { thread } = opened(
    railway(["A", "", "stall-motor", "input-decoder-4", "toggle-centre-off", "lamp-two-colour"]),
  );
  const text = words(<SensePanel leader={thread.turnout.id} />);
  expect(text).toMatch(/label, for its own line T1 read it from its own line/);
  expect(text).toMatch(/leads at the motor A ohms from each lead to the output, power off/);
  expect(text).toMatch(
    /\d+ places of A are only assumed\. Trying takes about \d+ min with [\d.]+ swaps to be expected/,
  );
});

it("says that there is nothing to follow without a motor on a driver", () => {
  const { thread } = opened(railway(["A", "", "stall-motor"]));
  expect(words(<SensePanel leader={thread.turnout.id} />)).toContain("A has no motor on a driver.");
});
