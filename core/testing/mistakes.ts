// One railway for each rule, wired wrong in the way that the rule is about; for tests and for the sample of mistakes.
import type { RailwayRecord } from "../src/record/kinds.ts";
import { drafted, mounted, railway, retyped, typed, withFigures } from "./build.ts";
import { DRIVING, lampOnNode, readBy } from "./recipes.ts";

const stall = (lamp = "", frog = "") => railway(["A", "", "stall-motor", "stall-decoder-8", "", lamp, frog]);
const coil = (driver = "cdu", control = "toggle-centre-off", frog = "") =>
  railway(["A", "", "twin-coil-surface", driver, control, "", frog]);

/** Five turnouts whose frogs hang on one relay board without a supply of its own. */
function fiveRelays(): RailwayRecord {
  const labels = ["A", "B", "C", "D", "E"];
  const first = railway(
    ...labels.map((label) => [label, "", "twin-coil-surface", label === "A" ? "cdu" : "CD1", "toggle-centre-off"]),
  );
  const board = typed(first, "a", "frog", "relay-board-8");
  return labels
    .slice(1)
    .reduce((record, label, index) => typed(record, label.toLowerCase(), "frog", `RB1-S${index + 2}`), board);
}

/** Two blocks fed through detectors in opposite rails. */
function oppositeRails(): RailwayRecord {
  return drafted(stall(), (draft) => {
    const detector = draft.addDevice("current-detector-4", "BD", "layout");
    draft.assign("supply", { deviceId: "ps1", toDeviceId: detector.id });
    draft.assign("commands", { deviceId: "tb1", toDeviceId: detector.id });
    draft.assign("block", { deviceId: detector.id, way: 1, block: "Platform", rail: "J" });
    draft.assign("block", { deviceId: detector.id, way: 2, block: "Loop", rail: "J" });
    draft.assign("block", { deviceId: detector.id, way: 3, block: "Siding", rail: "K" });
  });
}

/** A decoder that takes its power from the track. */
function onTrackPower(): RailwayRecord {
  return drafted(stall("", "S1"), (draft) => {
    draft.unassign((a) => a.role === "supply" && a.toDeviceId === "d1");
    draft.assign("supply", { deviceId: "tb1", toDeviceId: "d1" });
  });
}

/** The same in the thinnest wire. */
function thin(record: RailwayRecord): RailwayRecord {
  return { ...record, railway: { ...record.railway, wireGauge: "AWG 28" } };
}

/** A coil that a bare supply holds through thin wire. */
function heldThroughThinWire(): RailwayRecord {
  const bare = typed(coil("cdu", "toggle-latching"), "a", "driver", "PS1");
  return thin(bare);
}

/** A coil behind a cable so thin that a good part of the pulse stays in it. */
function thinCable(): RailwayRecord {
  const record = coil();
  return { ...record, railway: { ...record.railway, cableGauge: "AWG 28", cableMetres: 6 } };
}

/** Sixteen lamps far from one another, chained from turnout to turnout on one supply. @param runMetres from each to the next */
export function chainedLamps(runMetres: number): RailwayRecord {
  const driver = (index: number) => (index % 8 === 0 ? "stall-decoder-8" : `D${index < 8 ? 1 : 2}-${(index % 8) + 1}`);
  const record = railway(
    ...[..."ABCDEFGHIJKLMNOP"].map((label, index) => [label, "", "stall-motor", driver(index), "", "lamp-two-colour"]),
  );
  return drafted(record, (draft) => {
    for (const turnout of record.turnouts) draft.put("turnout", { ...turnout, runMetres });
  });
}

export const MISTAKES: Record<string, () => RailwayRecord> = {
  "coil-held-on": () => coil("cdu", "toggle-latching"),
  "wrong-kind-for-output": () => railway(["A", "", "stall-motor", "cdu", "toggle-centre-off"]),
  "reverser-kind": () => railway(["A", "", "stall-motor", "reverser-coil"]),
  "output-over-limit": () =>
    railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "A", "stall-motor"], ["C", "A", "stall-motor"]),
  "board-over-total": () =>
    railway(
      ["A", "", "servo", "servo-board-4", "toggle-latching"],
      ["B", "", "servo", "SB1-2", "toggle-latching"],
      ["C", "", "servo", "SB1-3", "toggle-latching"],
      ["D", "", "servo", "SB1-4", "toggle-latching"],
    ),
  "relays-beyond-controller": fiveRelays,
  "supply-out-of-range": () => retyped(stall(), "PS1", "dc-18"),
  "supply-over-rating": () => withFigures(stall(), "PS1", { ratedAmps: 0.03 }),
  "short-would-not-trip": () => thin(withFigures(stall(), "TB1", { tripAmps: 65 })),
  "wire-over-current": heldThroughThinWire,
  "wire-not-protected": () => thin(stall()),
  "pair-thrown-against": () =>
    mounted(railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "A", "stall-motor"]), "b", { opposite: true }),
  "contact-used-twice": () => stall("lamp-two-colour", "S1"),
  "frog-wrong-rail": () => stall("", "S1 crossed"),
  "detector-rails": oppositeRails,
  "unit-too-weak": () =>
    withFigures(DRIVING["two toggles for a crossover, one inverse"]?.() ?? coil(), "CD1", { farads: 1000e-6 }),
  "goes-astray": () => mounted(stall(), "a", { crossed: true }),
  "control-not-heard": () =>
    drafted(readBy("encoder-16"), (draft) => draft.unassign((a) => a.role === "supply" && a.toDeviceId === "in1")),
  "pulse-lost-in-wire": thinCable,
  "lamp-common": () => lampOnNode("lamp-two-colour-12"),
  "lamp-current": () => withFigures(stall("lamp-two-colour"), "LP1", { resistorOhms: 100 }),
  "rests-on-hearsay": () =>
    drafted(withFigures(stall(), "D1", { outputAmps: 0.06 }), (draft) =>
      draft.put("fact", {
        ...{ id: "limit", text: "An output bears 60 mA", standing: "heard", source: "at a meeting" },
        ...{ typeId: "own-d1", figure: "outputAmps", deviceId: null, at: "2026-05-12T20:14:00.000Z" },
      }),
    ),
  "lamp-tells-opposite": () =>
    drafted(stall("lamp-two-colour"), (draft) => {
      const lamp = draft.record.assignments.find((a) => a.role === "lamp");
      if (lamp?.role === "lamp") draft.put("assignment", { ...lamp, crossed: true });
    }),
  "lamp-volts-lost": () => chainedLamps(40),
  "lamp-reverse-voltage": () => stall("lamps-frog", "S2"),
  "latching-locks-others": () => railway(["A", "", "stall-motor", "dual-control-board", "toggle-latching"]),
  "decoder-on-own-track": onTrackPower,
  "relay-at-start": () => coil("cdu", "toggle-centre-off", "relay-board-1"),
  "power-on-unsafe": () => railway(["A", "", "twin-coil-surface", "reverser-coil"]),
  "address-duplicate": () =>
    railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "", "stall-motor", "stall-decoder-8"]),
  "address-impossible": () =>
    drafted(stall(), (draft) => draft.assign("address", { deviceId: "d1", way: 1, address: 5000 })),
  "turnout-incomplete": () => railway(["A", "", "stall-motor"]),
};
