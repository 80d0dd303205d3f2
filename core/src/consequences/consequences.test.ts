import { expect, it } from "vitest";
import { mounted, railway, smallRailway, withFigures } from "../../testing/build.ts";
import { Derived } from "../derive.ts";
import { changeType, setFigure } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { turnAt } from "../sense/edits.ts";
import { consequencesOf, touchedWords } from "./consequences.ts";

it("says what a remedy changes before it does, and what that cures", () => {
  const record = mounted(smallRailway(), "m2", { opposite: true });
  const derived = new Derived(record);
  const [finding] = derived.findings.filter(({ ruleId }) => ruleId === "pair-thrown-against");
  const group = finding!.remedies[0]!.group!;
  expect(touchedWords(record, group.edits)).toEqual([
    {
      what: "M2",
      from: "leads straight, mounted the other way round",
      to: "leads crossed, mounted the other way round",
    },
  ]);
  const { loom, ...others } = consequencesOf(derived, group);
  expect(others).toEqual({ cured: [finding!.why], raised: [], readings: [] });
  // the two leads end where the other one did
  expect(loom).toEqual([
    expect.stringMatching(/^New: W\d+ and W\d+$/),
    expect.stringMatching(/^No longer needed: W\d+ and W\d+$/),
  ]);
});

it("says what would be wrong after an edit that was not before", () => {
  const record = smallRailway();
  const { cured, raised } = consequencesOf(new Derived(record), changeType(record, "t1", "toggle-latching"));
  expect(cured).toEqual([]);
  expect(raised.some((why) => /^With T1 at N, coil N of Y1 carries/.test(why))).toBe(true);
  expect(touchedWords(record, changeType(record, "t1", "toggle-latching").edits)).toEqual([
    { what: "T1", from: "Toggle, centre-off, momentary both ways", to: "Toggle, latching" },
  ]);
});

it("shows what another figure of a type in use would change", () => {
  const record = withFigures(railway(["A", "", "stall-motor", "stall-decoder-8"]), "A", { ratedAmps: 0.015 });
  const group = setFigure(record, "own-a", "stalledOhms", 100);
  expect(touchedWords(record, group.edits)).toEqual([
    {
      what: "own A",
      from: "current when stalled, by its leaflet (at 10.2 V): 15.0 mA",
      to: "current when stalled, by its leaflet (at 10.2 V): 15.0 mA, resistance while stalled: (10.2 V at 15 mA): 100 ohm",
    },
  ]);
  const { raised, readings } = consequencesOf(new Derived(record), group);
  expect(raised.join()).toMatch(/40.0 mA/);
  // 12 V behind 120 ohm: 15.0 mA through 680 ohm, 54.5 mA through 100 ohm
  expect(readings).toContainEqual({ label: "A", what: "driver at rest", from: "15.0 mA", to: "54.5 mA" });
});

it("names every kind of assignment in plain words, as it was and as it will be", () => {
  const record = railway(
    ["A", "", "stall-motor", "input-decoder-4", "toggle-centre-off", "lamp-two-colour", "S2"],
    ["B", "", "stall-motor"],
  );
  const words = (make: (draft: Draft) => void) => {
    const draft = new Draft(record);
    make(draft);
    return touchedWords(record, draft.edits).map(({ what, from, to }) => `${what}: ${from} > ${to}`);
  };
  const of = (role: string) => record.assignments.find((a) => a.role === role) as never;
  expect(words((draft) => draft.put("assignment", { ...(of("lamp") as object), crossed: true } as never))).toEqual([
    "LP1: lit by A-S1 > lit by A-S1, leads exchanged",
  ]);
  expect(words((draft) => draft.put("assignment", { ...(of("frog") as object), crossed: true } as never))).toEqual([
    "AF: fed by A-S2 > fed by A-S2, rails exchanged",
  ]);
  expect(words((draft) => draft.put("assignment", { ...(of("control") as object), inverse: true } as never))).toEqual([
    "T1: commands A > commands A, labelled for the other line",
  ]);
  expect(words((draft) => draft.assign("driver", { deviceId: "d1", way: 2, motorId: "b" }))).toEqual([
    "D1: not there > drives B from D1-2",
  ]);
  expect(words((draft) => draft.assign("address", { deviceId: "d1", way: 2, address: 44 }))).toEqual([
    "D1: as the factory set it > output 2 answers to 44",
  ]);
  expect(words((draft) => draft.unassign((a) => a.role === "supply" && a.toDeviceId === "d1"))).toEqual([
    "PS1: feeds D1 > taken away",
  ]);
  expect(words((draft) => turnAt(draft, { link: "setting", deviceId: "d1", way: 1 }, true, { known: "seen" }))).toEqual(
    ["Sense ledger: not there > direction in the settings turns, seen"],
  );
});
