import { describe, expect, it } from "vitest";
import {
  drafted,
  findingsOf,
  mounted,
  railway,
  remedied,
  retyped,
  smallRailway,
  typed,
  withFigures,
} from "../../testing/build.ts";
import { onReversingToggle } from "../../testing/recipes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { setControls } from "../equip/controls.ts";
import { setAddress } from "../equip/equipment.ts";
import { setFeeder } from "../equip/feed.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { causeOf } from "./rule.ts";
import { RULES } from "./rules.ts";

it("finds nothing on a railway that is right", () => {
  expect(new Derived(smallRailway()).findings).toEqual([]);
});

it("has an identifier, a title and an explanation for each rule", () => {
  expect(new Set(RULES.map(({ id }) => id)).size).toBe(RULES.length);
  for (const { id, title, about } of RULES) {
    expect(id).toMatch(/^[a-z-]+$/);
    expect(title.length).toBeGreaterThan(10);
    expect(about.length).toBeGreaterThan(80);
  }
});

describe("a coil stays energised", () => {
  it("is found with a latching toggle, says how much flows, and is cured by a sprung one", () => {
    const record = retyped(smallRailway(), "T1", "toggle-latching");
    const [finding] = findingsOf(record, "coil-held-on");
    expect(finding).toMatchObject({ severity: "stop", where: "Y1", turnoutIds: ["y1", "y2"] });
    // five dead coils of one drained unit are one finding
    expect(finding!.why).toMatch(
      /^With T1 at [NR], coil [NR] of Y1 carries \d+ mA for as long as it is left so: \d+ mW, which make it \d+ K warmer in the end\. It empties CD1, so that Y2 cannot be thrown either\.$/,
    );
    expect(findingsOf(record, "goes-astray")).toEqual([]);
    expect(new Derived(remedied(record, finding!, "Make T1 a centre-off momentary toggle")).findings).toEqual([]);
  });

  it("carries amps from a bare supply, where the remedy is a discharge unit as well", () => {
    const bare = typed(
      typed(retyped(smallRailway(), "T1", "toggle-latching"), "y2", "driver", "CD1"),
      "y1",
      "driver",
      "PS2",
    );
    const [finding] = findingsOf(bare, "coil-held-on");
    expect(finding!.why).toMatch(/carries \d\.\d+ A/);
    expect(finding!.remedies.map(({ label }) => label)).toEqual([
      "Make T1 a centre-off momentary toggle",
      "Put Y1 on CD1",
      "Make T1 a centre-off momentary toggle, and put Y1 on a discharge unit",
    ]);
  });
});

describe("a motor on the wrong kind of output", () => {
  it("is found for coils on a stall-motor output, which also holds and overloads them", () => {
    const record = typed(typed(smallRailway(), "y1", "control", ""), "y1", "driver", "D1-4");
    const ids = new Derived(record).findings
      .filter(({ turnoutIds }) => turnoutIds.includes("y1"))
      .map(({ ruleId }) => ruleId);
    expect(ids).toEqual(expect.arrayContaining(["wrong-kind-for-output", "coil-held-on", "output-over-limit"]));
    const [finding] = findingsOf(record, "wrong-kind-for-output");
    const cured = remedied(record, finding!, "Put Y1 on CD1");
    expect(findingsOf(cured, "wrong-kind-for-output")).toEqual([]);
    expect(findingsOf(cured, "turnout-incomplete")[0]!.why).toBe("Y1 has no control.");
  });

  it("is found for a stall motor behind a discharge unit", () => {
    const record = typed(smallRailway(), "y2", "motor", "stall-motor");
    expect(findingsOf(record, "wrong-kind-for-output")[0]!.why).toMatch(
      /^CD1 gives a pulse for coils; Y2 is a stall motor/,
    );
  });
});

// common practice: limit 40 mA; one, two, three motors of 15 mA: pass, pass, fail
it("counts motors on an output by their leaflets and by what flows", () => {
  const three = typed(
    railway(
      ["A", "", "stall-motor", "stall-decoder-8", "", ""],
      ["B", "A", "stall-motor", "", "", ""],
      ["C", "", "stall-motor", "D1-1", "", ""],
    ),
    "c",
    "driver",
    "D1-1",
  );
  const [finding] = findingsOf(three, "output-over-limit");
  expect(finding!.why).toMatch(
    /^3 motors on D1-1 may take 45.0 mA by their leaflets; the output may give 40.0 mA. As solved, 34.6 mA flow at 7.8 V/,
  );
  expect(findingsOf(remedied(three, finding!, "Move C to D1-2"), "output-over-limit")).toEqual([]);
  expect(findingsOf(smallRailway(), "output-over-limit")).toEqual([]);
});

it("warns above four fifths of a supply's rating and stops above it", () => {
  const rated = (amps: number) =>
    findingsOf(withFigures(smallRailway(), "PS2", { ratedAmps: amps }), "supply-over-rating");
  expect(rated(1)).toEqual([]);
  const [tight] = rated(0.05);
  expect(tight).toMatchObject({ severity: "look", where: "PS2" });
  expect(tight!.why).toMatch(
    /^PS2 gives 4\d\.\d mA with everything at rest \(4\d\.\d mA at rest, \d+\.?\d* mA while all move\); it is rated 50.0 mA/,
  );
  expect(rated(0.04)[0]).toMatchObject({ severity: "stop" });
});

describe("a lamp's current", () => {
  it("is too much with a small resistor, dim with a large one, and put right by the proposed one", () => {
    for (const [ohms, severity, words] of [
      [150, "stop", /rated 10.0 mA/],
      [1500, "look", /it is dim/],
      [39_000, "look", /that is dark/],
    ] as const) {
      const record = withFigures(smallRailway(), "LP1", { resistorOhms: ohms });
      const [finding] = findingsOf(record, "lamp-current");
      expect(finding).toMatchObject({ severity, where: "LP1" });
      expect(finding!.why).toMatch(words);
      expect(findingsOf(remedied(record, finding!, /^Fit .* at LP1$/), "lamp-current")).toEqual([]);
    }
  });
});

describe("addresses", () => {
  // common practice: two new boards with factory addresses 1 to 8 clash eight times
  it("clash eight times on two boards with factory settings, and one button renumbers the second", () => {
    const record = railway(
      ["A", "", "stall-motor", "stall-decoder-8", "", ""],
      ["B", "", "stall-motor", "stall-decoder-8", "", ""],
    );
    const found = findingsOf(record, "address-duplicate");
    // eight clashes of the same two boards are one finding
    expect(found).toHaveLength(1);
    expect(found[0]).toMatchObject({ severity: "stop", where: "Addresses 1 to 8" });
    expect(found[0]!.why).toBe(
      "A command to 1 reaches D1-1 (A, factory setting) and D2-1 (B, factory setting); 2 to 8 are no better.",
    );
    expect(findingsOf(remedied(record, found[0]!, "Number D2 from 9 to 16"), "address-duplicate")).toEqual([]);
  });

  it("outside what can be sent are impossible", () => {
    const at = (address: number) => drafted(smallRailway(), (draft) => setAddress(draft, "d1", 1, address));
    for (const address of [0, 2041]) {
      const [finding] = findingsOf(at(address), "address-impossible");
      expect(finding!.why).toBe(`D1-1 is given address ${address}; a command station can send 1 to 2040.`);
      expect(findingsOf(remedied(at(address), finding!, /^Give D1-1 address/), "address-impossible")).toEqual([]);
    }
    for (const address of [21, 2040]) expect(findingsOf(at(address), "address-impossible")).toEqual([]);
  });
});

describe("a crossover", () => {
  it("thrown against itself names the terminals to swap, and says why the decoder's setting does not help", () => {
    const record = mounted(smallRailway(), "m2", { opposite: true });
    const [finding] = findingsOf(record, "pair-thrown-against");
    expect(finding!.why).toBe(
      "Asked for N, M1 goes to N and M2 to R: M2 is mounted the other way round and its leads are not crossed.",
    );
    expect(finding!.terminals).toEqual(["M2+", "M2−"]);
    expect(finding!.remedies.find(({ group }) => group === null)?.harm).toMatch(/one output drives both/);
    expect(new Derived(remedied(record, finding!, "Swap the leads at M2+/M2−")).findings).toEqual([]);
  });

  it("whose leader is crossed is put right at the leader", () => {
    const record = mounted(smallRailway(), "m1", { crossed: true });
    const [finding] = findingsOf(record, "pair-thrown-against");
    expect(finding!.why).toMatch(/the leads at M1\+ and M1− are crossed\.$/);
    expect(new Derived(remedied(record, finding!, "Swap the leads at M1+/M1−")).findings).toEqual([]);
  });
});

describe("a motor that goes astray", () => {
  it("by crossed leads is worth a look and is put right by swapping them", () => {
    const record = mounted(smallRailway(), "y1", { crossed: true });
    const [finding] = findingsOf(record, "goes-astray");
    expect(finding).toMatchObject({
      severity: "look",
      where: "Y1",
      why: "Asked for N, Y1 goes to R: its leads are crossed.",
    });
    expect(new Derived(remedied(record, finding!, /^Swap/)).findings).toEqual([]);
  });
});

describe("a turnout not completely equipped", () => {
  it("says what it lacks, step by step, and offers the next one", () => {
    let record = railway(["Y1", "", "twin-coil-surface", "cdu", "toggle-centre-off", ""], ["A", "", "", "", "", ""]);
    const next = (why: string, remedy: RegExp) => {
      const [finding] = findingsOf(record, "turnout-incomplete");
      expect(finding!.why).toBe(why);
      record = remedied(record, finding!, remedy);
    };
    next("A has no motor.", /under-board|twin-coil motor$/);
    next("A has no driver.", /^Put it on CD1$/);
    next("A has no control.", /momentary toggle/);
    expect(new Derived(record).findings).toEqual([]);
  });

  it("names a lamp without a contact, and a control that nothing reads", () => {
    const lampless = typed(smallRailway(), "y1", "motor", "twin-coil-surface");
    const [finding] = findingsOf(lampless, "turnout-incomplete");
    expect(finding!.why).toBe("Y1 has a lamp, LP1, but Y1 has no contact for it.");
    expect(findingsOf(remedied(lampless, finding!, "Fit a motor with contact"), "turnout-incomplete")).toEqual([]);
    const idle = typed(smallRailway(), "m1", "control", "toggle-centre-off");
    expect(findingsOf(idle, "turnout-incomplete")[0]!.why).toMatch(
      /T3, that nothing reads: D1 takes commands from the track only/,
    );
    const one = typed(smallRailway(), "y1", "control", "push-button");
    const [onlyOne] = findingsOf(one, "turnout-incomplete");
    expect(onlyOne!.why).toBe("Y1 has nothing that throws it to R: B1 reaches one coil only.");
    expect(findingsOf(remedied(one, onlyOne!, "Fit a centre-off momentary toggle"), "turnout-incomplete")).toEqual([]);
  });

  it("names a board without supply or commands", () => {
    const bare = drafted(smallRailway(), (draft) =>
      draft.unassign((a) => (a.role === "supply" || a.role === "commands") && a.toDeviceId === "d1"),
    );
    const [finding] = findingsOf(bare, "turnout-incomplete");
    expect(finding!.why).toMatch(/without a supply and has a decoder, D1, that hears no commands/);
    expect(findingsOf(remedied(bare, finding!, "Feed D1"), "turnout-incomplete")).toEqual([]);
  });
});

it("keeps an accepted finding out of the count until its cause changes; never one that stops", () => {
  const record = mounted(smallRailway(), "y1", { crossed: true });
  const [finding] = findingsOf(record, "goes-astray");
  const accept = (cause: string) =>
    drafted(record, (draft) =>
      draft.put("acceptance", {
        id: "a1",
        rule: "goes-astray",
        subject: finding!.key.slice("goes-astray:".length),
        cause,
        reason: "label reads so",
        at: "2026-05-12T20:00:00.000Z",
      }),
    );
  expect(findingsOf(accept(finding!.why), "goes-astray")[0]!.kept).toBe("label reads so");
  expect(findingsOf(accept("something else"), "goes-astray")[0]!.kept).toBeNull();
});

it("offers a second supply for half of what hangs on an overloaded one", () => {
  const two = railway(
    ["A", "", "stall-motor", "stall-decoder-8", "", ""],
    ["B", "", "stall-motor", "stall-decoder-8", "", ""],
  );
  const record = withFigures(two, "PS1", { ratedAmps: 0.05 });
  const [finding] = findingsOf(record, "supply-over-rating");
  expect(finding!.caution).toMatch(/approved plug-in supply/);
  const split = remedied(record, finding!, /second supply, PS2/);
  const feeds = split.assignments.filter((a) => a.role === "supply").map((a) => `${a.deviceId} ${a.toDeviceId}`);
  expect(feeds.sort()).toEqual(["ps1 d1", "ps2 d2"]);
  expect(findingsOf(split, "supply-over-rating")).toEqual([]);
});

it("shows the caution wherever something can be burnt", () => {
  const [held] = findingsOf(retyped(smallRailway(), "T1", "toggle-latching"), "coil-held-on");
  expect(held!.caution).toMatch(/discharge it before working on it/);
});

it("gives each finding a key that lasts while its subject does, and no two the same", () => {
  const record = mounted(retyped(smallRailway(), "T1", "toggle-latching"), "m2", { opposite: true });
  const keys = new Derived(record).findings.map(({ key }) => key);
  expect(new Set(keys).size).toBe(keys.length);
  const renamed = typed(typed(record, "y1", "label", "Yard 1"), "y2", "name", "second");
  expect(new Derived(renamed).findings.map(({ key }) => key)).toEqual(keys);
});

it("puts the gravest first, and what is accepted after all that counts", () => {
  const dim = withFigures(withFigures(smallRailway(), "LP1", { resistorOhms: 1500 }), "LP2", { resistorOhms: 1500 });
  const keys = (record: RailwayRecord) => new Derived(record).findings.map(({ key }) => key);
  const record = mounted(dim, "m2", { opposite: true });
  expect(new Derived(record).findings.map(({ severity }) => severity)).toEqual(["stop", "look", "look"]);
  const [wrong, first, second] = keys(record);
  const { ruleId, why } = new Derived(record).findings[1]!;
  const accepted = drafted(record, (draft) =>
    draft.put("acceptance", {
      ...{ id: "kept", rule: ruleId, subject: first!.slice(ruleId.length + 1), cause: causeOf(why) },
      ...{ reason: "bright enough", at: "2026-05-12T20:27:00.000Z" },
    }),
  );
  expect(keys(accepted)).toEqual([wrong, second, first]);
});

describe("a pulse lost in thin wire", () => {
  const withCable = (metres: number, gauge: "AWG 24" | "0.75 mm2" = "AWG 24") => {
    const record = smallRailway();
    const value = { ...record.railway, cableMetres: metres, cableGauge: gauge };
    return edit(record, [{ op: "railway", value }]).record;
  };

  it("is not found while the coil gets enough, however much is lost", () => {
    expect(findingsOf(withCable(2), "pulse-lost-in-wire")).toEqual([]);
    // two cores of 15 m are 2.5 ohm beside a coil of 4: 40 % is lost, and 0.6 J are left where 0.15 J throw
    expect(findingsOf(withCable(15), "pulse-lost-in-wire")).toEqual([]);
  });

  // derived: two cores of 62 m of AWG 24 are 10.4 ohm beside a coil of 4: two of three parts are lost, and the slug stands still at the end
  it("is told as joules lost of joules stored, and cured by a thicker one", () => {
    const [finding] = findingsOf(withCable(62), "pulse-lost-in-wire");
    expect(finding).toMatchObject({ severity: "look", where: "Y1" });
    const told =
      /Y1 gets (0\.1\d) J in \d+ ms; .* Of the (1\.\d+) J stored, ([01]\.\d+) J are lost in wires: (\d\d) %\.$/;
    expect(finding!.why).toMatch(told);
    const [, gets, stored, lost, share] = told.exec(finding!.why)!.map(Number);
    // by hand: what an exponential current leaves in a resistor while it is above a least one, (1 - (least / peak)^2) of all of it
    const [peak, loop] = [24.4 / 14.9, 14.9];
    expect(Math.abs(gets! / (((stored! * 4) / loop) * (1 - (1.2 / peak) ** 2)) - 1)).toBeLessThan(0.2);
    expect((100 * lost!) / stored!).toBeCloseTo(share!, -0.5);
    const cured = remedied(withCable(62), finding!, /Lay all cables in 0.5 mm2/);
    expect(cured.railway.cableGauge).toBe("0.5 mm2");
    expect(findingsOf(cured, "pulse-lost-in-wire")).toEqual([]);
  });

  it("is not blamed on the wire where the unit is drained", () => {
    const record = retyped(withCable(100), "T1", "toggle-latching");
    expect(findingsOf(record, "coil-held-on")).toHaveLength(1);
    expect(findingsOf(record, "pulse-lost-in-wire")).toEqual([]);
  });

  it("stops the work where the coil no longer throws, and is named as the cause of that", () => {
    const findings = findingsOf(withCable(200), "pulse-lost-in-wire");
    expect(findings[0]!.severity).toBe("stop");
    expect(findingsOf(withCable(200), "goes-astray")).toEqual([]);
  });
});

describe("a board's range of volts", () => {
  // common practice: an eight-output decoder is made for 9 to 15 V DC; 12 V fits, 18 V does not
  it("fits 12 V and 15 V", () => {
    expect(findingsOf(smallRailway(), "supply-out-of-range")).toEqual([]);
    expect(findingsOf(retyped(smallRailway(), "PS2", "dc-15"), "supply-out-of-range")).toEqual([]);
  });

  it("is left above and below, and a fitting supply is proposed", () => {
    const high = retyped(smallRailway(), "PS2", "dc-18");
    const [finding] = findingsOf(high, "supply-out-of-range");
    expect(finding).toMatchObject({ severity: "stop", where: "D1" });
    expect(finding!.why).toBe("D1 has 18.0 V from PS2, 18 V DC supply; it is made for 9.0 V to 15.0 V.");
    expect(findingsOf(remedied(high, finding!, "Make PS2 a 12 V DC supply"), "supply-out-of-range")).toEqual([]);
    expect(findingsOf(retyped(smallRailway(), "PS2", "dc-5"), "supply-out-of-range")[0]!.why).toMatch(/has 5\.0 V/);
  });

  // derived: 25 V AC, 29 V with nothing on it, would charge a capacitor to about 39 V
  it("protects a capacitor", () => {
    const [finding] = findingsOf(withFigures(smallRailway(), "PS1", { volts: 25 }), "supply-out-of-range");
    expect(finding!.why).toMatch(/CD1 has 3\d\.\d V .* made for 12\.0 V to 35\.0 V/);
    expect(finding!.caution).toMatch(/discharge it before/);
  });
});

// school B of the trade: a capacitor at each motor, so that two motors on one toggle each have enough
it("lets a unit of its own throw a motor firmly, and two such units two motors of a crossover's worth", () => {
  const record = railway(
    ["A", "", "twin-coil-under-board", "cdu-motor", "toggle-centre-off", ""],
    ["B", "", "twin-coil-efficient", "cdu-motor", "toggle-centre-off", ""],
  );
  const derived = new Derived(record);
  expect(derived.findings).toEqual([]);
  for (const label of ["A", "B"]) {
    const thread = derived.schematic.threads.find((each) => each.label === label)!;
    for (const position of ["N", "R"] as const) {
      const { goesTo, pulse } = derived.reading(thread, position, "throwing").motors[0]!;
      expect(goesTo).toBe(position);
      expect(pulse!.joules).toBeGreaterThan(0.3);
    }
  }
});

describe("volts that a thing is not made for", () => {
  it("are told of a board on AC, which gets them either way, and cured by a supply of DC", () => {
    const wrong = drafted(railway(["A", "", "servo", "servo-board-4", "toggle-latching"]), (draft) => {
      const board = draft.record.devices.find(({ label }) => label === "SB1")!;
      const ac = draft.addDevice("ac-16", "PS", "layout");
      setFeeder(draft, board.id, "supply", ac.id);
    });
    const [finding] = findingsOf(wrong, "supply-out-of-range");
    // 18.4 V effective with nothing on it are 26 V at their peak
    expect(finding!.why).toMatch(/^SB1 gets AC from PS\d, 16 V AC .*, up to 2[56]\.\d V either way; .* DC\.$/);
    expect(findingsOf(remedied(wrong, finding!, finding!.remedies[0]!.label), "supply-out-of-range")).toEqual([]);
  });

  it("are told of a stall motor on 18 V, as they are solved at the motor, and not of one on 12 or 13 V", () => {
    const on = (volts: number) =>
      findingsOf(
        withFigures(onReversingToggle("toggle-reversing", ["A", "", "stall-motor"]), "PS1", { volts }),
        "motor-over-volts",
      );
    expect(on(12)).toEqual([]);
    expect(on(13)).toEqual([]);
    expect(on(18).map(({ why }) => why)).toEqual(["A sees 18.0 V, from PS1; it is made for 12.0 V at most."]);
  });

  it.each(["input-node-16", "current-detector-4", "infrared-sensor", "touch-button"])(
    "are told of whatever states a range: %s",
    (typeId) => {
      const fed = (supply: string) =>
        drafted(railway(["A", ""]), (draft) => {
          const device = draft.addDevice(typeId, "Z", "layout");
          setFeeder(draft, device.id, "supply", draft.addDevice(supply, "PS", "layout").id);
        });
      expect(findingsOf(fed("dc-12"), "supply-out-of-range")).toEqual([]);
      expect(findingsOf(fed("dc-18"), "supply-out-of-range").map(({ where }) => where)).toEqual(["Z1"]);
    },
  );
});

describe("contacts that make the current of coils", () => {
  const onAc = (ratedAmps: number, ...labels: string[]) =>
    withFigures(
      withFigures(
        drafted(railway(...labels.map((label) => [label, "", "twin-coil-surface", ""])), (draft) => {
          const supply = draft.addDevice("ac-16", "PS", "layout");
          const toggle = draft.addDevice("toggle-centre-off", "T", "panel");
          for (const { id } of draft.record.turnouts) {
            draft.assign("driver", { deviceId: supply.id, way: null, motorId: id });
            setControls(draft, id, [{ device: { deviceId: toggle.id } }]);
          }
        }),
        "PS1",
        { ratedAmps: 20, tripAmps: 40 },
      ),
      "T1",
      { ratedAmps },
    );
  const told = (record: RailwayRecord) => findingsOf(record, "contact-over-amps").map(({ why }) => why);

  it("are told by their rating on a bare supply, as long as they are held", () => {
    expect(told(onAc(5, "A"))).toEqual([]);
    expect(told(onAc(2, "A"))).toEqual([expect.stringMatching(/^T1 carries 3\.\d+ A; its contact is rated 2\.00 A/)]);
  });

  it("carry the coils of all turnouts that they throw", () => {
    const [one] = told(onAc(1, "A"));
    const [both] = told(onAc(1, "A", "B"));
    const ampsIn = (why: string | undefined) => Number(/carries ([\d.]+) A/.exec(why ?? "")?.[1]);
    expect(ampsIn(both)).toBeGreaterThan(1.6 * ampsIn(one));
    expect(ampsIn(both)).toBeLessThanOrEqual(2.1 * ampsIn(one));
  });

  it("bear three times as much in a pulse, and are cured by a discharge unit", () => {
    const charged = (ratedAmps: number) =>
      told(withFigures(railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"]), "T1", { ratedAmps }));
    expect(charged(3)).toEqual([]);
    // 21.2 V in some 4 ohm
    expect(charged(1)).toEqual([expect.stringMatching(/carries [45]\.\d+ A; .* bears 3\.00 A in a pulse\.$/)]);
    const held = onAc(2, "A");
    const [finding] = findingsOf(held, "contact-over-amps");
    expect(told(remedied(held, finding!, finding!.remedies[0]!.label))).toEqual([]);
  });

  it("are no matter where a board makes the current", () => {
    const decoder = railway(["A", "", "twin-coil-surface", "coil-decoder-4", "toggle-centre-off"]);
    expect(told(withFigures(decoder, "T1", { ratedAmps: 0.1 }))).toEqual([]);
  });
});
