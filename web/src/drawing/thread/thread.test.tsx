// Every recipe's thread as it is drawn: all terminals can take a probe, and no value is without sense.
import { Derived, type Position, type RailwayRecord } from "@alderman/core";
import { drafted, mounted, railway, retyped, smallRailway, typed } from "@alderman/core/testing/build";
import { DRIVING, FROGS, LAMPS, SHARED, zonesAtInputs } from "@alderman/core/testing/recipes";
import { renderToStaticMarkup } from "react-dom/server";
import { Provider } from "react-redux";
import { expect, it } from "vitest";
import { emptyStore, openIn } from "../../../testing/openStore.ts";
import { wholeOverviewOf } from "../../derivation/overview.ts";
import { throwBy } from "../../store/view.ts";
import { ThreadDrawing } from "./ThreadDrawing.tsx";

const store = emptyStore();

/** The drawing of a thread as markup, and its words without tags. */
function drawn(
  record: RailwayRecord,
  label: string,
  position: Position = "N",
  moment: "rest" | "throwing" | "unsolved" = "rest",
) {
  const derived = new Derived(record);
  const thread = derived.schematic.threads.find((each) => each.label === label)!;
  openIn(store, record);
  const markup = renderToStaticMarkup(
    <Provider store={store}>
      <ThreadDrawing
        overview={wholeOverviewOf(derived)}
        thread={thread}
        reading={moment === "unsolved" ? null : derived.reading(thread, position, moment)}
      />
    </Provider>,
  );
  return {
    markup,
    words: markup
      .replaceAll(/<title>[^<]*<\/title>/g, "")
      .replaceAll(/<[^>]+>/g, " ")
      .replaceAll(/\s+/g, " "),
  };
}

const terminals = (markup: string) => [...markup.matchAll(/data-name="([^"]+)"/g)].map(([, name]) => name);

const THREADS: [string, RailwayRecord, string][] = [
  ["a coil motor on a discharge unit", smallRailway(), "Y1"],
  ["a second one on the same unit", smallRailway(), "Y2"],
  ["a crossover on a decoder output", smallRailway(), "M1/M2"],
  ["a crossover thrown against itself", mounted(smallRailway(), "m2", { opposite: true }), "M1/M2"],
  ["a coil motor on a decoder output", typed(smallRailway(), "y2", "driver", "D1-4"), "Y2"],
  ["a stall motor behind a discharge unit", typed(smallRailway(), "y2", "motor", "stall-motor"), "Y2"],
  ["a coil on a bare supply", typed(smallRailway(), "y1", "driver", "PS1"), "Y1"],
  ["a latching toggle", retyped(smallRailway(), "T1", "toggle-latching"), "Y1"],
  ["a lamp without a contact", typed(smallRailway(), "y1", "motor", "twin-coil-surface"), "Y1"],
  ["a turnout with nothing", railway(["A", "", "", "", "", ""]), "A"],
  ["a motor without a driver", railway(["A", "", "stall-motor", "", "", "lamp-two-colour"]), "A"],
  ["a driver without a control", railway(["A", "", "twin-coil-surface", "cdu", "", ""]), "A"],
];

const RECIPES = Object.entries({ ...DRIVING, ...FROGS, ...LAMPS }).map(
  ([what, make]): [string, RailwayRecord, string] => {
    const record = make() as unknown as RailwayRecord;
    return [what, record, record.turnouts.length > 1 ? "A/B" : "A"];
  },
);

const TOGETHER = [
  ...Object.entries(SHARED).map(([what, { make }]) => [what, make] as const),
  ["zones", zonesAtInputs] as const,
].flatMap(([what, make]) =>
  ["A", "B"].map((label): [string, RailwayRecord, string] => [`${what}: ${label}`, make(), label]),
);

it.each([...THREADS, ...RECIPES, ...TOGETHER])("draws %s, in both positions and moments", (_what, record, label) => {
  for (const position of ["N", "R"] as const) {
    for (const moment of ["rest", "throwing"] as const) {
      const { markup, words } = drawn(record, label, position, moment);
      expect(markup).not.toMatch(/NaN|undefined|null|Infinity/);
      expect(words).toContain("On the panel");
      // the same terminal may stand in both lanes, but no more
      const names = terminals(markup);
      for (const name of names) expect(names.filter((each) => each === name).length, name).toBeLessThanOrEqual(2);
    }
  }
});

it.each([...THREADS, ...RECIPES, ...TOGETHER])("says nothing of what is not solved yet: %s", (_what, record, label) => {
  const { markup, words } = drawn(record, label, "N", "unsolved");
  expect(markup).not.toMatch(/NaN|undefined|null|Infinity/);
  expect(words).toContain("On the panel");
  const said = /does not move|stays(?! where)|stands at|throws to|dead|dark|shows|carries [LR]|\d\.\d+ m?[VA]\b/;
  expect(words.match(new RegExp(`.{0,30}(${said.source}).{0,20}`))?.[0] ?? "").toBe("");
});

it("lets every terminal of the thread take a probe", () => {
  const coil = terminals(drawn(smallRailway(), "Y1").markup);
  expect(coil).toEqual(
    expect.arrayContaining([
      "T1-N",
      "T1-C",
      "T1-R",
      "CD1+",
      "CD1−",
      "Y1-N",
      "Y1-C",
      "Y1-R",
      "Y1-S1c",
      "Y1-S1n",
      "Y1-S1r",
      "LP1-G",
      "LP1-Y",
      "LP1-0",
      "PS3+",
      "PS3−",
    ]),
  );
  const pair = terminals(drawn(smallRailway(), "M1/M2").markup);
  expect(pair).toEqual(
    expect.arrayContaining([
      "TB1-J",
      "TB1-K",
      "D1-J",
      "D1-K",
      "D1-1A",
      "D1-1B",
      "M1+",
      "M1−",
      "M2+",
      "M2−",
      "M1-S1c",
      "LP2-G",
    ]),
  );
  expect(coil.filter((name) => /^[PK]\d-\d+$/.test(name ?? ""))).toHaveLength(12);
});

it("writes the values of the position and moment asked for", () => {
  expect(drawn(smallRailway(), "M1/M2", "R").words).toContain("−8.9 V A to B 26.1 mA of 40.0 mA");
  expect(drawn(smallRailway(), "M1/M2", "R").words).toContain("M2 stands at R");
  expect(drawn(smallRailway(), "M1/M2", "N", "throwing").words).toContain("11.1 V A to B 7.7 mA");
  expect(drawn(smallRailway(), "Y1", "R", "throwing").words).toMatch(/R 4\.\d\d A/);
  expect(drawn(smallRailway(), "Y1", "R").words).toMatch(/7\.\d mA yellow lit/);
});

it("draws the zone that asks for the position looked at, and each zone to its own input", () => {
  const record = drafted(zonesAtInputs(), (draft) => {
    const zones = draft.record.assignments.filter((a) => a.role === "control");
    for (const zone of zones) {
      if (zone.role !== "control" || zone.turnoutId !== "b") continue;
      draft.put("assignment", { ...zone, turnoutId: "a", to: "N" });
    }
  });
  const reverse = drawn(record, "A", "R", "throwing");
  expect(reverse.words).toContain("Zone BD1-1");
  expect(drawn(record, "A", "N", "throwing").words).toContain("Zone BD1-2");
  expect(terminals(reverse.markup)).toEqual(expect.arrayContaining(["BD1-O1", "BD1-O2", "IN1-I5", "IN1-I6"]));
});

it("says that a unit that another toggle drains is not charged", () => {
  expect(drawn(smallRailway(), "Y1").words).toContain("ready to give");
  const drained = drawn(retyped(smallRailway(), "T2", "toggle-latching"), "Y1").words;
  expect(drained).toContain("not charged");
  expect(drained).not.toContain("ready to give");
});

it("draws the control that it is thrown by, with its terminals", () => {
  const record = drafted(smallRailway(), (draft) => {
    const second = draft.addDevice("toggle-centre-off", "T9", "panel");
    draft.assign("control", {
      deviceId: second.id,
      turnoutId: "y1",
      way: null,
      to: null,
      inverse: false,
      follows: false,
    });
  });
  const { id, label } = record.devices.find((device) => device.label.startsWith("T9"))!;
  expect(terminals(drawn(record, "Y1").markup)).toContain("T1-N");
  const second = record.assignments.find((a) => a.role === "control" && a.deviceId === id)!;
  store.dispatch(throwBy({ turnoutId: "y1", controlId: second.id }));
  const { markup, words } = drawn(record, "Y1");
  expect(terminals(markup)).toEqual(expect.arrayContaining([`${label}-N`, `${label}-C`, `${label}-R`]));
  expect(terminals(markup)).not.toContain("T1-N");
  expect(words).toContain(`Toggle ${label}`);
});

it("says where a wire comes by way of another terminal", () => {
  const { railway: own, ...record } = smallRailway();
  const { words } = drawn({ ...record, railway: { ...own, commons: "chain" } }, "Y2");
  expect(words).toContain("C via T1-C");
  expect(words).toContain("C via Y1-C");
});

it("names what is still to be chosen", () => {
  expect(drawn(railway(["A", "", "", "", "", ""]), "A").words).toContain("Choose a motor for A");
  expect(drawn(railway(["A", "", "stall-motor", "", "", ""]), "A").words).toMatch(
    /Choose a control .*Choose a driver|Choose a driver/,
  );
  expect(drawn(railway(["A", "", "twin-coil-surface", "cdu", "", ""]), "A").words).toContain("Choose a control");
  expect(drawn(smallRailway(), "Y2").words).toContain("No lamp");
});

it("fences the fault where it is to be mended and nowhere else", () => {
  const fences = (record: RailwayRecord) => drawn(record, "M1/M2").markup.split('stroke-dasharray="4 3"').length - 1;
  expect(fences(smallRailway())).toBe(0);
  expect(fences(mounted(smallRailway(), "m2", { opposite: true }))).toBe(1);
});

it("draws a flag without a contact, and numbers the links without a gap", () => {
  const flag = drawn(railway(["A", "", "stall-motor", "stall-decoder-8", "", "mechanical-flag", "S2"]), "A");
  expect(flag.words).toMatch(/6 ?Flag MF1/);
  expect(flag.words).toMatch(/7 ?Frog A/);
  expect(flag.words).not.toContain("No supply");
  const dark = drawn(railway(["A", "", "stall-motor", "stall-decoder-8", "", "", "S2"]), "A");
  expect(dark.words).toMatch(/5 ?Blades .*6 ?Frog A/);
});
