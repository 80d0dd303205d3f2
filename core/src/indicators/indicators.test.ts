import { describe, expect, it } from "vitest";
import { railway, typed } from "../../testing/build.ts";
import { DRIVING, LAMPS, semaphore } from "../../testing/recipes.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { knowledgeOf } from "./knowledge.ts";

const first = (record: RailwayRecord) => {
  const derived = new Derived(record);
  return { derived, thread: derived.schematic.threads[0]! };
};
/** Each situation as `what: shown at N / at R, what it tells`. */
const table = (record: RailwayRecord) => {
  const { derived, thread } = first(record);
  return Object.fromEntries(
    derived.situations(thread)[0]!.rows.map(({ what, N, R, tells }) => [what, `${N} / ${R}, ${tells}`]),
  );
};

const KNOWN: [string, () => RailwayRecord, string][] = [
  ["a contact of the motor", LAMPS["a contact"]!, "arm"],
  ["a relay beside the motor", LAMPS["the contact of a relay"]!, "command"],
  ["the driver's output", LAMPS["the driver's output"]!, "command"],
  ["outputs of a node", LAMPS["outputs of a node that pull down"]!, "command"],
  ["the frog by a contact", LAMPS["the frog"]!, "frog"],
  [
    "the frog by a polarity unit",
    () => railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off", "lamps-frog-diodes", "polarity unit"]),
    "last train",
  ],
  ["the throw bar", () => railway(["A", "", "stall-motor", "stall-decoder-8", "", "mechanical-flag"]), "blades"],
  ["a semaphore's servo", semaphore, "command"],
];

it.each(KNOWN)("says what a lamp knows that is lit by %s", (_by, make, knows) => {
  const { thread } = first(make());
  expect(knowledgeOf(thread, thread.lamps[0]!).knows).toBe(knows);
});

it("says nothing of a turnout without a lamp", () => {
  const { derived, thread } = first(DRIVING["decoder output, one motor"]!());
  expect(thread.lamps).toEqual([]);
  expect(derived.situations(thread)).toEqual([]);
});

it("shows what a lamp on a contact does when a wire is open, shorted or without power", () => {
  expect(table(LAMPS["a contact"]!())).toEqual({
    "all in order": "N / R, truth",
    "wire of green open": "dark / R, nothing",
    "wire of yellow open": "N / dark, nothing",
    "common wire open": "dark / dark, nothing",
    // one contact then feeds both colours
    "the two colours' wires touch": "both / both, nothing",
    "green and common touch": "dark / R, nothing",
    "yellow and common touch": "N / dark, nothing",
    "no power at PS2": "dark / dark, nothing",
    "asked for R, the motor sticks at N": "N / N, truth",
    "asked for R, the link came off at N": "N / R, lie",
    "computer or command station off": "N / R, truth",
  });
});

it("shows that a lamp at the driver's output tells a good throw when the motor sticks", () => {
  const rows = table(LAMPS["the driver's output"]!());
  expect(rows["all in order"]).toBe("N / R, truth");
  expect(rows["asked for R, the motor sticks at N"]).toBe("N / R, lie");
  expect(rows["computer or command station off"]).toBe("as before / as before, nothing");
});

it("shows lamps from the frog dark with a dead frog's track power off", () => {
  const rows = table(LAMPS["the frog"]!());
  expect(rows["all in order"]).toBe("N / R, truth");
  expect(rows["no track power"]).toBe("dark / dark, nothing");
  expect(rows["frog dead"]).toBe("both / both, nothing");
});

it.each(Object.keys(LAMPS))("has every lamp tell the truth while all is in order, and no power dark: %s", (name) => {
  const rows = table(LAMPS[name]!());
  expect(rows["all in order"]).toBe("N / R, truth");
  const [power] = Object.entries(rows).filter(([what]) => /^no .*power/.test(what));
  expect(power?.[1]).toBe("dark / dark, nothing");
});

it("leaves a semaphore where it stood, and a flag with the blades", () => {
  expect(table(semaphore())["no power"]).toBe("as before / as before, nothing");
  const flag = table(railway(["A", "", "stall-motor", "stall-decoder-8", "", "mechanical-flag"]));
  expect(flag["all in order"]).toBe("N / R, truth");
  expect(flag["asked for R, the link came off at N"]).toBe("N / N, truth");
});

describe("lying is not asking", () => {
  it("does not call a lamp a liar that shows where the blades were left by a throw that failed", () => {
    const drained = railway(["A", "", "twin-coil-under-board", "cdu", "toggle-latching", "lamp-two-colour"]);
    expect(table(drained)["all in order"]).toBe("N / N, truth");
  });

  it("has no power at the frog's lamps while the command station is off, and none while its colours' wires touch", () => {
    const at = table(LAMPS["the frog"]!());
    expect(at["computer or command station off"]).toBe("dark / dark, nothing");
    // the two wires lie at the two rails: they short the track
    expect(at["the two colours' wires touch"]).toBe("dark / dark, nothing");
    expect(at["no track power"]).toBe("dark / dark, nothing");
  });

  it("shows the road before until a wheel has run over a frog with a polarity unit", () => {
    const rows = table(
      railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off", "lamps-frog-diodes", "polarity unit"]),
    );
    expect(rows["all in order, after the first wheel"]).toBe("N / R, truth");
    expect(rows["thrown, and no wheel over the frog since"]).toBe("R / N, lie");
  });

  it("passes no verdict on lamps at a frog while the hand is unknown", () => {
    const record = typed(LAMPS["the frog"]!(), "a", "hand", "unknown");
    const { derived, thread } = first(record);
    expect(new Set(derived.situations(thread)[0]!.rows.map(({ tells }) => tells))).toEqual(new Set(["nothing"]));
    expect(derived.reading(thread, "R", "rest").frogs[0]).toMatchObject({ wanted: null });
    expect(derived.sheet("a").filter(({ step }) => /^(frog|lamp)-/.test(step.key))).toEqual([]);
    expect(derived.findings.filter(({ ruleId }) => ruleId === "frog-wrong-rail")).toEqual([]);
  });
});
