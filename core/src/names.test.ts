// Names that every object has in JavaScript are names like others: on turnouts, boards, blocks, routes, events.
import { expect, it } from "vitest";
import { railway, withFigures } from "../testing/build.ts";
import { edit, openRailwayFile } from "./catalogue/edit.ts";
import { Derived } from "./derive.ts";
import { stateFor } from "./readings/threadReading.ts";
import { putEdit } from "./record/edits.ts";
import { RecordError } from "./record/problems.ts";
import { writeRailwayFile } from "./record/railwayFile.ts";

const ODD = ["Constructor", "toString", "__proto__", "valueOf", "hasOwnProperty", "prototype"];
const PLAIN = ["A1", "A2", "A3", "A4", "A5", "A6"];

/** A railway of one of everything that is called by some names. */
const called = ([a = "", b = "", c = "", d = "", e = "", f = ""]: readonly string[]) =>
  railway(
    [a, "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour", "S1"],
    [b, a, "stall-motor"],
    [c, "", "twin-coil-under-board", "cdu", "toggle-latching", "lamps-frog", "S1"],
    [d, "", "servo", "servo-board-4", "toggle-latching", "", "relay"],
    [e, "", "twin-coil-surface", "coil-decoder-4"],
    [f, "", "stall-motor", "input-decoder-4", "toggle-centre-off"],
  );

it("come to the same findings, readings and wires as other names", () => {
  const [odd, plain] = [new Derived(called(ODD)), new Derived(called(PLAIN))];
  expect(odd.findings.map(({ ruleId, severity }) => `${ruleId} ${severity}`).sort()).toEqual(
    plain.findings.map(({ ruleId, severity }) => `${ruleId} ${severity}`).sort(),
  );
  expect(odd.loom.wires.length).toBe(plain.loom.wires.length);
  const goes = (derived: Derived) =>
    derived.schematic.threads
      .map((thread) =>
        (["N", "R"] as const).map((position) => {
          const { motors } = derived.reading(thread, position, "throwing");
          return motors.map(({ goesTo, amps }) => `${goesTo} ${amps.N.toFixed(6)}`).join();
        }),
      )
      .sort();
  expect(goes(odd)).toEqual(goes(plain));
  for (const thread of odd.schematic.threads) {
    expect(odd.sheet(thread.turnout.id).length).toBeGreaterThan(0);
    expect(odd.circuitry.along(thread.turnout.id, "R")[thread.turnout.id]).toBe("R");
    expect(stateFor(thread, "R", "rest").asked[thread.turnout.id]).toBe("R");
  }
});

it("go through a file and back, and through edits one after the other", () => {
  const record = called(ODD);
  expect(openRailwayFile(writeRailwayFile(record))).toEqual(record);
  const before = new Derived(record);
  const after = new Derived(withFigures(record, "Constructor", { ratedAmps: 0.02 }), before);
  expect(after.findings.map(({ key }) => key).sort()).toEqual(
    new Derived(after.record).findings.map(({ key }) => key).sort(),
  );
});

it.each(["toString", "constructor", "hasOwnProperty", "valueOf"])("are no figures of a type: %s", (name) => {
  const own = withFigures(called(PLAIN), "CD1", { farads: 0.005 }).types[0]!;
  const put = putEdit("type", { ...own, figures: { [name]: 1 } });
  expect(() => edit(withFigures(called(PLAIN), "CD1", { farads: 0.005 }), [put])).toThrow(RecordError);
});

it.each([
  ["half a character", "a\ud800b", false],
  ["a control character", "a\u0007b", false],
  ["an emoji of several", "👩‍🔧 shed", true],
  ["a word with a joiner", "می‌خواهم", true],
])("may hold %s or not", (_, name, may) => {
  const text = writeRailwayFile(called(PLAIN));
  const renamed = text.replace('"name": "Test"', `"name": ${JSON.stringify(name)}`);
  expect(renamed).not.toBe(text);
  if (may) expect(openRailwayFile(renamed).railway.name).toBe(name);
  else expect(() => openRailwayFile(renamed)).toThrow(/name/);
});

it("leave no half of a character in what is noted at length", () => {
  const text = writeRailwayFile(called(PLAIN)).replace(/"note": ""/, '"note": "gone \\ud800"');
  expect(() => openRailwayFile(text)).toThrow(/half of one is in it/);
});
