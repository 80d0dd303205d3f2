// The panels of Equip, drawn for every recipe: nothing fails, and what they say is what was worked out.
import type { Derived as CoreDerived, RailwayRecord } from "@alderman/core";
import { renderToStaticMarkup } from "react-dom/server";
import { Provider } from "react-redux";
import { beforeAll, describe, expect, it, vi } from "vitest";
import { Derived } from "../../../../core/src/derive.ts";
import { railway, smallRailway } from "../../../../core/testing/build.ts";
import { DRIVING, FROGS, LAMPS, semaphore } from "../../../../core/testing/recipes.ts";
import type { Results } from "../../worker/deriver.ts";
import { overviewOf } from "../../worker/overview.ts";

let results: Partial<Results> = {};
vi.mock("../../worker/derive.ts", () => ({
  useResults: () => results,
  useLeader: () => null,
  askConsequences: async () => null,
}));

let parts: {
  store: typeof import("../../store/store.ts")["store"];
  SensePanel: typeof import("./SensePanel.tsx")["SensePanel"];
  LampPanel: typeof import("./LampPanel.tsx")["LampPanel"];
  PowerUpSheet: typeof import("./PowerUpSheet.tsx")["PowerUpSheet"];
  BoardsSheet: typeof import("./BoardsSheet.tsx")["BoardsSheet"];
};

beforeAll(async () => {
  vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => undefined });
  parts = {
    store: (await import("../../store/store.ts")).store,
    SensePanel: (await import("./SensePanel.tsx")).SensePanel,
    LampPanel: (await import("./LampPanel.tsx")).LampPanel,
    PowerUpSheet: (await import("./PowerUpSheet.tsx")).PowerUpSheet,
    BoardsSheet: (await import("./BoardsSheet.tsx")).BoardsSheet,
  };
});

/** Opens a railway with everything worked out, its first turnout in view. */
function opened(record: RailwayRecord) {
  const derived = new Derived(record) as unknown as CoreDerived;
  const thread = derived.schematic.threads[0]!;
  parts.store.dispatch({ type: "railway/opened", payload: { id: "r", revision: 0, record, undo: null, redo: null } });
  results = {
    overview: overviewOf(derived),
    focus: {
      ...{ turnoutId: thread.turnout.id, probes: "", reading: null, sheet: [], meter: null },
      situations: derived.situations(thread),
    },
  };
  return { derived, thread };
}

/** The words of what is drawn, without tags. */
function words(element: React.ReactNode): string {
  const markup = renderToStaticMarkup(<Provider store={parts.store}>{element}</Provider>);
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
    const sense = words(<parts.SensePanel leader={thread.turnout.id} />);
    expect(sense).toContain("From finger to lamp");
    expect(sense).toContain("By this ledger everything goes as asked.");
    const lamp = words(<parts.LampPanel thread={thread} />);
    if (thread.lamp) for (const { what } of derived.situations(thread)) expect(lamp).toContain(what);
    else expect(lamp).toContain("has no lamp");
    const boards = words(<parts.BoardsSheet />);
    for (const { driver } of thread.motors) if (driver) expect(boards).toContain(driver.device.label);
    const power = words(<parts.PowerUpSheet />);
    expect(power).toContain("When power comes back");
    for (const text of [sense, lamp, boards, power]) expect(text).not.toMatch(NONSENSE);
  });
});

it("shows what boards and supplies give, and how many ways are free", () => {
  opened(smallRailway());
  const text = words(<parts.BoardsSheet />);
  // derived: two motors of 680 ohm on one output of eight, and the board's own 20 mA
  expect(text).toMatch(/D1 for stall motors 1\/8 7 26\.\d mA 7\.\d mA 26\.\d mA 320 mA/);
  expect(text).toMatch(/PS2 12 V DC 4\d\.\d mA/);
  expect(text).toContain("CD1 discharge unit");
});

it("says that there are no boards yet, and how they come", () => {
  opened(railway(["A", "", "stall-motor"]));
  expect(words(<parts.BoardsSheet />)).toContain("None yet. Allot proposes them, or add one.");
});

it("says which turnouts move when power returns", () => {
  opened(railway(["A", "", "stall-motor", "reverser-stall"]));
  expect(words(<parts.PowerUpSheet />)).toContain(
    "A may move by itself when power returns: look before you switch on.",
  );
  opened(smallRailway());
  expect(words(<parts.PowerUpSheet />)).toContain("Nothing moves by itself when power returns.");
});

it("names a turnout's places with how they are found out, and what guessing costs", () => {
  const { thread } = opened(
    railway(["A", "", "stall-motor", "input-decoder-4", "toggle-centre-off", "lamp-two-colour"]),
  );
  const text = words(<parts.SensePanel leader={thread.turnout.id} />);
  expect(text).toMatch(/label, for its own line T1 read it from its own line/);
  expect(text).toMatch(/leads at the motor A ohms from each lead to the output, power off/);
  expect(text).toMatch(
    /\d+ places of A are only assumed\. Trying takes about \d+ min with [\d.]+ swaps to be expected/,
  );
});

it("says that there is nothing to follow without a motor on a driver", () => {
  const { thread } = opened(railway(["A", "", "stall-motor"]));
  expect(words(<parts.SensePanel leader={thread.turnout.id} />)).toContain("A has no motor on a driver.");
});
