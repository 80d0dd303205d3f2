// Every rule fires on a railway with the mistake it is about, stays silent on railways that are right, and its remedies cure.
import { describe, expect, it } from "vitest";
import { drafted, findingsOf, railway, remedied, retyped, typed, withFigures } from "../../testing/build.ts";
import { chainedLamps, MISTAKES } from "../../testing/mistakes.ts";
import { DRIVING, FROGS, LAMPS } from "../../testing/recipes.ts";
import { ROUTED } from "../../testing/routes.ts";
import { curesOf } from "../consequences/cures.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { turnAt } from "../sense/edits.ts";
import { RULES } from "./rules.ts";

const mistake = (rule: string): RailwayRecord => {
  const make = MISTAKES[rule];
  if (!make) throw new Error(`No mistake for ${rule}.`);
  return make();
};

it("has a mistake to show for each rule", () => {
  expect(Object.keys(MISTAKES).sort()).toEqual(RULES.map(({ id }) => id).sort());
});

it.each(Object.keys(MISTAKES))("finds %s where it is, with numbers or names and a cure that cures", (id) => {
  const record = mistake(id);
  const derived = new Derived(record);
  const finding = derived.findings.find(({ ruleId }) => ruleId === id);
  expect(finding?.where).not.toBe("");
  expect(finding?.why).toMatch(/^\S.*[.]$/);
  expect(finding?.why).not.toMatch(/NaN|undefined|null|Infinity/);
  // the best remedy comes first, and cures
  const best = finding && curesOf(derived, finding).find(({ group }) => group);
  if (!finding || !best) return;
  const after = findingsOf(remedied(record, finding, best.label), id);
  expect(after.map(({ key }) => key)).not.toContain(finding.key);
});

/** What may be said of a railway that is right: what can only be kept in mind, wire on its way to coils, a fuse. */
const TO_BE_KEPT = [
  "wire-not-protected",
  "relay-at-start",
  "power-on-unsafe",
  "latching-locks-others",
  "pulse-lost-in-wire",
  "board-over-total",
  "coils-together",
  "train-keeps-asking",
  "start-restores-nothing",
  "same-colours-beside",
];

it("says nothing of railways that are right but what can only be kept in mind", () => {
  for (const [name, make] of Object.entries({ ...DRIVING, ...FROGS, ...LAMPS, ...ROUTED })) {
    const found = new Derived(make()).findings.filter(({ ruleId }) => !TO_BE_KEPT.includes(ruleId));
    expect(found.map(({ ruleId, why }) => `${name}: ${ruleId}, ${why}`)).toEqual([]);
  }
});

describe("why, in numbers", () => {
  it.each([
    ["unit-too-weak", /^CD1 gives each of 2 motors 0\.\d+ J in [\d.]+ ms; a firm throw takes 0\.15 J and 2\.0 ms\.$/],
    // trade check value: four servos of 0.65 A on a board of 2 A
    [
      "board-over-total",
      /^4 motors on SB1 would take 2\.60 A held against their stops; all its outputs together may give 2\.00 A\.$/,
    ],
    // five relays of 72 mA, and what the inputs take
    ["relays-beyond-controller", /^5 relays picked up at once take 372 mA from the 5 V of MC1; it gives 250 mA\.$/],
    [
      "short-would-not-trip",
      /^A short at D1 draws 6\d\.\d+ A through 0\.2\d ohm of supply and wire; TB1 trips at 65\.00 A\.$/,
    ],
    [
      "wire-over-current",
      /AWG 24 from P1-\d to K1-\d, carries 2\.\d+ A .*; it warms by 39 K, and 30 K at 2\.29 A is good practice for 8 cores together\.$/,
    ],
    [
      "wire-not-protected",
      /^PS1 shuts down from 3\.00 A; W\d+, AWG 24, bears 2\.29 A, and \d others? of its wires no more\.$/,
    ],
    // 16 V AC in a coil of 4 ohm, the supply's own resistance and the wires
    ["contact-over-amps", /^T1 carries 3\.\d+ A; its contact is rated 3\.00 A, for as long as it is held\.$/],
    // two motors of 60 ohm held against their stops: 2 x 12 V / 60 ohm, with what toggle and wires take
    ["plug-over-current", /^Pin P1-1 carries 2\d\d mA of W\d+ .*; it bears 100 mA\. Too much as well: W\d+ at P1-2, /],
    // 40 m and 25 mm of slack at each end
    ["longer-than-reel", /is cut at 40\.05 m, and 1 more wire at less; a reel holds 25 m\.$/],
    ["strip-out-of-reach", /^K\d is 1 m along; W\d+ from \S+ to \S+ goes to 4\.5 m along, and 1 more wire too far\.$/],
    [
      "joint-better-at-bench",
      /^W\d+ goes to A beside its tail TL1, which has room: 1 joint underneath that could be made at the bench\.$/,
    ],
    ["address-not-in-row", /^D1-1 is to have 11, .*D1-3 is to have 15.*; it takes 4 numbers in a row\.$/],
    ["answers-otherwise", /^D1-1 throws A and is to have 1; as it was last programmed or read, it answers to 3\.$/],
    ["node-number-shared", /^\S+ and \S+ are both to have number 9\.$/],
    ["event-unheard", /^B1 R is sent from IN1-2 \(B1, made at R\), and no output acts upon it\.$/],
    ["event-unproduced", /^ON1-1 is to act upon All to normal, and no input sends it\.$/],
    ["output-two-masters", /^ON1-1 \(A\) acts upon B1 N, B1 R and B2 R; the last one wins, whatever the others say\.$/],
    ["lamp-event-opposite", /^ON2-1 \(LP1\) is on while A lies the other way\.$/],
    [
      "short-event-shared",
      /^Short event 12, B1 R, is sent from IN1-2 .* and IN1-4 .*, which throw different turnouts\.$/,
    ],
    [
      "taught-otherwise",
      /^ON1-1 goes on upon "on" only upon B1 R as it was taught, and is wanted so that it goes off upon "on" only\.$/,
    ],
    ["learn-switch-on", /^The learning switch of ON1 is on, as its teaching sheet was last ticked\.$/],
    ["event-loop", /^IN1-6 sends .*, which works IN1-6 again\.$/],
    ["start-restores-nothing", /^B1 stays where it is put; after power-on nothing asks how it stands\.$/],
    ["feedback-shared", /^FE1-1 sends 1, and so does IN1-1; 1 to 16 are sent twice\.$/],
    ["setting-differs", /^The speed of SB1-1 is to be 3, and was read back as 5\.$/],
    ["no-spare-core", /^All cores of C1 are in use\.$/],
    ["same-colour-in-cable", /cores 1 and 9 of C1, are both white\.$/],
    [
      "colour-two-meanings",
      /^The lead at A\+ is red and serves as "throws to normal"; elsewhere red is "plus of a DC supply"\.$/,
    ],
    ["loop-in-net", /^W999 joins A-C and B-C, which other wires join already \(common return of the coils\)\.$/],
    ["same-colours-beside", /^P1-2 and P1-3 both get a blue wire, each for something else\.$/],
    ["lamp-reverse-voltage", /^An LED of LP1 sees 15\.\d V backwards; it bears 5\.0 V\.$/],
    [
      "lamp-volts-lost",
      /^2\.\d V of the 3\.0 V of PS\d arrive at LP16, the last of \d+ dim lamps; the rest is lost in wires that go on/,
    ],
    ["lamp-common", /^LP1 has its common to 0 V, and ON1 pulls down to 0 V as well: 0\.0 mA flow\.$/],
    ["latching-locks-others", /^T1 stays where it is put, so the address of DB1-1 cannot throw A against it\.$/],
    [
      "decoder-on-own-track",
      /^With TB1 shorted by a train, D1 keeps 0\.00 V of the 9\.0 V it needs, and cannot set A right\.$/,
    ],
    [
      "detector-rails",
      /^Block Siding is detected through BD1-3i in rail K; Platform and Loop in rail J\. Where they meet, BD1-3i sees nothing unless both rails are cut\.$/,
    ],
    [
      "train-keeps-asking",
      /^With a train at BD1-1 or BD1-2, the address of D1-1 cannot throw A against it, and A is thrown by itself when power returns; with trains at more than one, nothing is understood\.$/,
    ],
    ["reverser-kind", /^LR1 has an output for twin-coil motors; A is a stall motor\.$/],
    ["frog-wrong-rail", /^With A at N its frog carries the left rail and must carry the right one/],
    ["control-not-heard", /^IN1 has no supply, so it does not hear B1\.$/],
    ["relay-at-start", /^RB1 is active low: .* MC1 .* frogs or lamps of A may change over\.$/],
    ["power-on-unsafe", /^LR1 throws A to normal whenever power returns, under whatever stands there\.$/],
  ])("%s", (id, why) => {
    expect(findingsOf(mistake(id), id)[0]?.why).toMatch(why);
  });
});

describe("the line between right and wrong", () => {
  it("lets a train throw a turnout in time whichever way it comes, and tells of one that is late at the points too", () => {
    const late = mistake("throw-too-late");
    const slower = (trainKmh: number) =>
      findingsOf({ ...late, railway: { ...late.railway, trainKmh } }, "throw-too-late").map(({ why }) => why);
    expect(slower(20)).toEqual([]);
    expect(slower(60)).toHaveLength(1);
    // at 400 km/h the upper block is too short for it as well
    expect(slower(400)).toHaveLength(2);
  });

  it("lets a unit fire two motors, and proposes a capacitor or a unit for each when it cannot", () => {
    const [finding] = findingsOf(mistake("unit-too-weak"), "unit-too-weak");
    expect(finding?.remedies.map(({ label }) => label)).toEqual([
      "Give each motor a unit of its own",
      expect.stringMatching(/^Fit \d+ uF in CD1$/),
    ]);
    expect(findingsOf(DRIVING["two toggles for a crossover, one inverse"]!(), "unit-too-weak")).toEqual([]);
  });

  it("lets three servos stall on a board of 2 A", () => {
    const three = typed(mistake("board-over-total"), "d", "motor", "");
    // derived: 1.95 A of 7 V are 13.7 W in its regulator, which bears 12 W; of 4 V they are 7.8 W
    const [hot] = findingsOf(three, "board-over-total");
    expect(hot!.why).toBe(
      "3 motors on SB1 would take 1.95 A held against their stops; with 7.0 V left over its regulator bears 12.0 W of heat, which is 1.71 A.",
    );
    const supply = three.devices.find(({ typeId }) => typeId === "dc-12")!;
    expect(findingsOf(retyped(three, supply.label, "dc-9"), "board-over-total")).toEqual([]);
  });

  it("moves a turnout of an overloaded board to a new one, or to one of its kind with a free output", () => {
    const record = mistake("board-over-total");
    const [finding] = findingsOf(record, "board-over-total");
    expect(finding!.remedies.map(({ label }) => label)).toEqual(["Move D to a new board, SB2"]);
    const after = remedied(record, finding!, "Move D to a new board, SB2");
    expect(new Derived(after).schematic.threads.at(-1)!.motors[0]!.driver).toMatchObject({
      device: { label: "SB2" },
      way: 1,
    });
    const two = typed(mistake("board-over-total"), "d", "driver", "servo-board-4");
    const full = typed(two, "d", "driver", "SB1-4");
    expect(findingsOf(full, "board-over-total")[0]!.remedies[0]!.label).toBe("Move D to SB2");
  });

  it("feeds a frog from its motor's contact in place of a relay that drops out", () => {
    const record = FROGS["a relay board that follows the turnout"]!();
    const withContact = retyped(record, "A", "twin-coil-under-board");
    expect(findingsOf(record, "power-on-unsafe")[0]!.remedies).toEqual([]);
    const [finding] = findingsOf(withContact, "power-on-unsafe");
    const after = remedied(withContact, finding!, "Feed the frog of A from S1 of A");
    expect(findingsOf(after, "power-on-unsafe")).toEqual([]);
    expect(findingsOf(after, "frog-wrong-rail")).toEqual([]);
  });

  it("lets a screw hold two wires and a splice as many as there are", () => {
    const star = mistake("crowded-terminal");
    const [finding, ...more] = findingsOf(star, "crowded-terminal");
    expect(more).toEqual([]);
    expect(finding!.why).toMatch(/^4 wires end at CD1−: (W\d+(, | and ))+W\d+; a screw holds 2\.$/);
    expect(findingsOf(remedied(star, finding!, "Lay CD1− from one to the next"), "crowded-terminal")).toEqual([]);
    expect(findingsOf(remedied(star, finding!, "Lay CD1− as a trunk with droppers"), "crowded-terminal")).toEqual([]);
    const one = drafted(star, (draft) => {
      for (const id of ["c", "d"]) draft.removeWhole("turnout", id);
    });
    expect(findingsOf(one, "crowded-terminal")).toEqual([]);
  });

  it("puts dim lamps down to their wires, not to their resistors, and thicker wire cures it as well", () => {
    const record = mistake("lamp-volts-lost");
    const [finding, ...more] = findingsOf(record, "lamp-volts-lost");
    expect(more).toEqual([]);
    expect(findingsOf(record, "lamp-current")).toEqual([]);
    expect(finding!.remedies.map(({ label }) => label)).toEqual([
      expect.stringMatching(/^Move half of it to a second supply, PS\d$/),
      expect.stringMatching(/^Lay all wires in /),
    ]);
    expect(findingsOf(remedied(record, finding!, /^Lay all wires in /), "lamp-volts-lost")).toEqual([]);
    expect(findingsOf(chainedLamps(5), "lamp-volts-lost")).toEqual([]);
    // a resistor that is too great is no fault of the wires
    const great = withFigures(chainedLamps(5), "LP1", { resistorOhms: 1500 });
    expect(findingsOf(great, "lamp-current").map(({ where }) => where)).toEqual(["LP1"]);
  });

  it("lets three relays hang on the controller's 5 V", () => {
    const three = typed(typed(mistake("relays-beyond-controller"), "d", "frog", ""), "e", "frog", "");
    expect(findingsOf(three, "relays-beyond-controller")).toEqual([]);
  });

  it("calls crossed contact rails right when the motor is mounted the other way round, too", () => {
    const crossed = mistake("frog-wrong-rail");
    const opposite = drafted(crossed, (draft) => {
      const motor = draft.record.assignments.find((a) => a.role === "motor");
      if (motor?.role === "motor") draft.put("assignment", { ...motor, opposite: true, crossed: true });
    });
    // asked for normal the crossed leads and the mounting cancel out, so the contact still lies as before
    expect(findingsOf(opposite, "frog-wrong-rail")).toHaveLength(1);
    expect(findingsOf(opposite, "goes-astray")).toEqual([]);
  });

  it("does not mind a latching toggle where nothing else commands, nor a sprung one beside an address", () => {
    expect(findingsOf(DRIVING["servo board with a latching toggle"]!(), "latching-locks-others")).toEqual([]);
    expect(findingsOf(DRIVING["dual-control board with a toggle"]!(), "latching-locks-others")).toEqual([]);
  });

  it("does not mind the dropping out of relays that a stall motor's driver sets anew, or a plain contact", () => {
    expect(findingsOf(FROGS["a relay beside a stall motor"]!(), "power-on-unsafe")).toEqual([]);
    expect(findingsOf(FROGS["a relay board that follows the turnout"]!(), "power-on-unsafe")).toHaveLength(1);
  });

  it("tells a reverser of the right kind from one of the wrong kind, whichever it is", () => {
    expect(findingsOf(DRIVING["reverser with twin-coil output"]!(), "reverser-kind")).toEqual([]);
    const [wrong] = findingsOf(railway(["A", "", "twin-coil-surface", "reverser-stall"]), "reverser-kind");
    expect(wrong?.remedies[0]?.label).toBe("Make LR1 an automatic reverser with twin-coil output");
  });

  it("accepts detectors that all feed the same rail", () => {
    const same = drafted(mistake("detector-rails"), (draft) => {
      for (const a of draft.record.assignments) if (a.role === "block") draft.put("assignment", { ...a, rail: "K" });
    });
    expect(findingsOf(same, "detector-rails")).toEqual([]);
  });

  it("keeps a decoder on a supply of its own out of the reach of a short", () => {
    expect(findingsOf(DRIVING["decoder output, one motor"]!(), "decoder-on-own-track")).toEqual([]);
  });

  it("sees nothing backwards across a lamp on direct current", () => {
    expect(findingsOf(LAMPS["a contact"]!(), "lamp-reverse-voltage")).toEqual([]);
  });
});

describe("what turns between finger and blades", () => {
  const inverted = (link: "input" | "inputs" | "setting", way: number | null, toggle = "toggle-latching") =>
    drafted(railway(["A", "", "stall-motor", "input-decoder-4", toggle]), (draft) =>
      turnAt(draft, { link, deviceId: "d1", way }, true, { known: "seen" }),
    );

  it("is nothing at the inputs of a toggle that springs back: inverted, both count as closed, and nothing is heard", () => {
    for (const [link, way] of [
      ["input", 1],
      ["inputs", null],
    ] as const) {
      const record = inverted(link, way, "toggle-centre-off");
      const derived = new Derived(record);
      const finding = derived.findings.find(({ ruleId }) => ruleId === "control-not-heard")!;
      expect(finding.why).toMatch(/^The inputs of D1 that hear T1 are inverted: both count as closed/);
      expect(derived.findings.filter(({ ruleId }) => ruleId === "goes-astray")).toEqual([]);
      expect(curesOf(derived, finding).map(({ label }) => label)).toEqual(["Set the inputs of D1 as they came"]);
    }
  });

  it.each([
    ["input", 1, "sense of the input at D1-1 turns it", /^Invert the input at D1-1/],
    ["inputs", null, "sense of all inputs at D1 turns it", /^Invert all inputs at D1/],
    ["setting", 1, "direction in the settings at D1-1 turns it", /^Reverse it in the setting at D1-1/],
  ] as const)("is named and can be turned where it is: %s", (link, way, cause, remedy) => {
    const record = inverted(link, way);
    // the board hears well; it understands the opposite
    expect(findingsOf(record, "control-not-heard")).toEqual([]);
    const [finding] = findingsOf(record, "goes-astray");
    expect(finding?.why).toContain(cause);
    expect(finding?.remedies[0]?.label).toMatch(/^Swap the leads at A/);
    expect(findingsOf(remedied(record, finding!, remedy), "goes-astray")).toEqual([]);
  });
});
