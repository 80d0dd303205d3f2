// One railway for each rule, wired wrong in the way that the rule is about; for tests and for the sample of mistakes.

import { edit } from "../src/catalogue/edit.ts";
import { Derived } from "../src/derive.ts";
import { addBoardTo } from "../src/equip/devices.ts";
import { completed } from "../src/loom/completion.ts";
import { setLaying } from "../src/loom/proposing.ts";
import { keepWires, tickWires } from "../src/loom/work.ts";
import type { RailwayRecord } from "../src/record/kinds.ts";
import { PLAIN_TYPE } from "../src/record/schemas.ts";
import { drafted, mounted, railway, retyped, typed, withFigures } from "./build.ts";
import { BUS_MISTAKES } from "./busMistakes.ts";
import { LINE_MISTAKES } from "./lines.ts";
import {
  DRIVING,
  decoderPushing,
  detectorAsButton,
  lampOnNode,
  onReversingToggle,
  readBy,
  sensorAtThrowBar,
} from "./recipes.ts";
import { ROUTE_MISTAKES } from "./routes.ts";

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

/** A turnout thrown by trains, with two blocks detected in one rail and a third in the other. */
function oppositeRails(): RailwayRecord {
  return drafted(detectorAsButton(), (draft) => {
    const deviceId = "bd1";
    draft.assign("commands", { deviceId: "tb1", toDeviceId: deviceId });
    draft.assign("block", { deviceId, way: 1, block: "Platform", rail: "J" });
    draft.assign("block", { deviceId, way: 2, block: "Loop", rail: "J" });
    draft.assign("block", { deviceId, way: 3, block: "Siding", rail: "K" });
  });
}

/** A decoder that takes its power from the track. */
function onTrackPower(): RailwayRecord {
  return drafted(stall("", "S1"), (draft) => {
    draft.unassign((a) => a.role === "supply" && a.toDeviceId === "d1");
    draft.assign("supply", { deviceId: "tb1", toDeviceId: "d1" });
  });
}

/** A common of four coils with a wire to each from the one terminal of their unit. */
function commonLaidAsStar(): RailwayRecord {
  const rows = [..."ABCD"].map((label, index) => [
    ...[label, "", "twin-coil-surface", index === 0 ? "cdu" : "CD1", "toggle-centre-off"],
  ]);
  return drafted(railway(...rows), (draft) =>
    draft.put("laying", { id: "common", deviceId: "cd1", terminal: "−", topology: "star" }),
  );
}

/** A lamp whose wires were joined at one contact set, and which the plan has at the other since. */
function lampMovedOnPaper(): RailwayRecord {
  const record = completed(stall("lamp-two-colour"));
  const { loom } = new Derived(record);
  const ids = loom.wires.filter(({ purpose }) => purpose.startsWith("lamp")).map(({ id }) => id);
  const at = "2026-05-12T19:30:00.000Z";
  const made = (["fromJoinedAt", "toJoinedAt"] as const).reduce((now, step) => {
    const group = tickWires(now, loom, ids, step, at);
    return group ? edit(now, group.edits).record : now;
  }, record);
  return typed(made, "a", "lamp", "LP1 from S2");
}

/** A crossover whose strong motors are held against their stops through a plug of small pins. */
function motorsThroughPlug(): RailwayRecord {
  const pair = onReversingToggle("toggle-reversing", ["A", "", "stall-motor"], ["B", "A", "stall-motor"]);
  const record = completed(withFigures(pair, "A", { stalledOhms: 60 }));
  const { loom } = new Derived(record);
  const strip = record.strips.find(({ place }) => place === "panel");
  const plugged = drafted(record, (draft) => {
    if (strip) draft.put("strip", { ...strip, kept: true, pinAmps: 0.1 });
  });
  const kept = keepWires(
    plugged,
    loom,
    loom.wires.filter(({ run }) => run !== "layout").map(({ id }) => id),
    true,
  );
  return kept ? edit(plugged, kept.edits).record : plugged;
}

/** A turnout at the far end of a garden. */
function farFromBoards(): RailwayRecord {
  return typed(stall(), "a", "run", "40");
}

/** Two turnouts of a zone on one strip that is kept, of which less reach is asked since. */
function stripForBoth(): RailwayRecord {
  const coils = railway(
    ["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"],
    ["B", "", "twin-coil-surface", "CD1", "toggle-centre-off"],
  );
  const zoned = drafted(coils, (draft) => {
    draft.put("zone", { id: "q", label: "Q", name: "Quay", order: 1, commons: null, plasticJoints: 0 });
    for (const [index, turnout] of coils.turnouts.entries())
      draft.put("turnout", { ...turnout, zoneId: "q", runMetres: index === 0 ? 1 : 4.5 });
  });
  const far = allKept({ ...zoned, railway: { ...zoned.railway, stripsAt: "zones", reachMetres: 10 } });
  return { ...far, railway: { ...far.railway, reachMetres: 2 } };
}

/** A motor with a tail, and a wire that was kept as a single one before. */
function wireBesideTail(): RailwayRecord {
  const record = completed(stall());
  const { loom } = new Derived(record);
  const [wire] = loom.wires.filter(({ from, to }) => [from, to].some(({ of }) => of?.deviceId === "a"));
  const kept = keepWires(record, loom, [wire?.id ?? ""], true);
  const now = kept ? edit(record, kept.edits).record : record;
  const tails = setLaying(now, new Derived(now).loom, { motorTails: "one" });
  return allKept(tails ? edit(now, tails.edits).record : now);
}

/** A cable whose cores are all in use. */
function fullCable(): RailwayRecord {
  const record = stall("lamp-two-colour");
  return { ...record, railway: { ...record.railway, cableCores: 3, spareShare: 0 } };
}

/** Toggles of many coils on one cable of twelve cores, which signal cable has not the colours for. */
function manyCores(): RailwayRecord {
  const rows = [..."ABCDE"].map((label, index) => [
    ...[label, "", "twin-coil-surface", index === 0 ? "cdu" : "CD1", "toggle-centre-off"],
  ]);
  const record = railway(...rows);
  return allKept({ ...record, railway: { ...record.railway, cableCores: 10, spareShare: 0 } });
}

/** A motor with a lead in the colour of another purpose. */
function redLead(): RailwayRecord {
  return drafted(stall(), (draft) =>
    draft.put("custom", { id: "lead", purpose: null, deviceId: "a", terminal: "+", colour: "RD" }),
  );
}

/** A common that is made, and a wire more from one coil to the next by which it can be followed round in a ring. */
function ringInCommon(): RailwayRecord {
  const rows = [..."AB"].map((label, index) => [
    ...[label, "", "twin-coil-surface", index === 0 ? "cdu" : "CD1", "toggle-centre-off"],
  ]);
  const record = completed(railway(...rows));
  const { loom } = new Derived(record);
  const ids = loom.wires.filter(({ purpose }) => purpose === "pulse-return").map(({ id }) => id);
  const at = "2026-05-12T19:30:00.000Z";
  const group = tickWires(record, loom, ids, "toJoinedAt", at);
  const made = group ? edit(record, group.edits).record : record;
  return drafted(made, (draft) => {
    const [wire] = made.wires.filter(({ id }) => ids.includes(id));
    if (!wire) return;
    const ends = {
      ...{ fromDeviceId: "a", fromTerminal: "C", fromStripId: null, fromWay: null },
      ...{ toDeviceId: "b", toTerminal: "C", toStripId: null, toWay: null },
    };
    draft.put("wire", { ...wire, ...ends, id: "ring", number: 999, cableId: null, core: null, fromJoinedAt: at });
  });
}

/** Two tails of one colour side by side: for the second the owner had no other left. */
function twoAlike(): RailwayRecord {
  const record = allKept(coil());
  const tail = new Derived(record).loom.wires.find(({ from, run }) => run === "panel" && from.name === "T1-R");
  return drafted(record, (draft) => {
    for (const wire of record.wires) if (wire.id === tail?.id) draft.put("wire", { ...wire, colour: "BU" });
  });
}

/** The railway with all of its wires kept as they are. */
function allKept(given: RailwayRecord): RailwayRecord {
  const record = completed(given);
  const { loom } = new Derived(record);
  const ids = loom.wires.map(({ id }) => id);
  const kept = keepWires(record, loom, ids, true);
  return kept ? edit(record, kept.edits).record : record;
}

/** A coil that a bare supply holds through a core of a cable. */
function heldThroughCable(): RailwayRecord {
  const record = drafted(coil("cdu", "toggle-latching"), (draft) => {
    const supply = draft.addDevice("dc-12", "PS", "layout");
    const driver = draft.record.assignments.find((a) => a.role === "driver");
    if (driver?.role === "driver") draft.put("assignment", { ...driver, deviceId: supply.id });
  });
  return record;
}

/** A coil that takes a strong pulse, so far away that the wire keeps too much of it. */
function farAway(): RailwayRecord {
  return withFigures(typed(coil(), "a", "run", "55"), "A", { pulseJoules: 0.6 });
}

/** Two decoders with an address that both answer to. */
function sameAddress(): RailwayRecord {
  const two = railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "", "stall-motor", "stall-decoder-8"]);
  return drafted(two, (draft) => {
    for (const deviceId of ["d1", "d2"]) draft.assign("address", { deviceId, way: 1, address: 1901 });
  });
}

/** Sixteen lamps for 3 V far from one another, chained from turnout to turnout on one supply. @param step from each to the next, metres */
export function chainedLamps(step: number): RailwayRecord {
  const driver = (index: number) => (index % 8 === 0 ? "stall-decoder-8" : `D${index < 8 ? 1 : 2}-${(index % 8) + 1}`);
  const record = railway(
    ...[..."ABCDEFGHIJKLMNOP"].map((label, index) => [label, "", "stall-motor", driver(index), "", "lamp-two-colour"]),
  );
  const supply = record.devices.find(({ typeId }) => typeId === "dc-5");
  return drafted(withFigures(record, supply?.label ?? "", { volts: 3 }), (draft) => {
    const own = { ...PLAIN_TYPE, id: "lamp-3-volts", basedOn: "lamp-two-colour", name: "lamp for 3 V" };
    draft.put("type", { ...own, figures: { resistorOhms: 100 } });
    for (const device of record.devices)
      if (device.typeId === "lamp-two-colour") draft.put("device", { ...device, typeId: own.id });
    for (const [index, turnout] of record.turnouts.entries())
      draft.put("turnout", { ...turnout, runMetres: (index + 1) * step });
  });
}

/** Two latching reversing toggles on one motor and one supply. */
export function twoReversingToggles(): RailwayRecord {
  return drafted(onReversingToggle("toggle-reversing", ["A", "", "stall-motor"]), (draft) => {
    const second = draft.addDevice("toggle-reversing", "T", "panel");
    draft.assign("control", {
      deviceId: second.id,
      turnoutId: "a",
      way: null,
      to: null,
      inverse: false,
      follows: false,
    });
  });
}

/** Two stall motors on a supply each, thrown by one reversing toggle. */
function oneToggleOnTwoSupplies(): RailwayRecord {
  const two = onReversingToggle("toggle-reversing", ["A", "", "stall-motor"], ["B", "", "stall-motor"]);
  return drafted(two, (draft) => {
    draft.assign("control", { deviceId: "t1", turnoutId: "b", way: null, to: null, inverse: false, follows: false });
    const second = draft.addDevice("dc-12", "PS", "layout");
    const driver = draft.record.assignments.find((a) => a.role === "driver" && a.motorId === "b");
    if (driver?.role === "driver") draft.put("assignment", { ...driver, deviceId: second.id });
  });
}

/** Two turnouts whose buttons are read at one input of a node. */
function oneInput(): RailwayRecord {
  const two = railway(
    ["A", "", "stall-motor", "output-node-8", "push-pair"],
    ["B", "", "stall-motor", "ON1-2", "push-pair"],
  );
  return drafted(two, (draft) => {
    const node = addBoardTo(draft, "input-node-16");
    draft.assign("input", { deviceId: node.id, way: 3, controlId: "b1", controlWay: null });
    draft.assign("input", { deviceId: node.id, way: 4, controlId: "b2", controlWay: null });
  });
}

/** A button read on one control bus, its turnout driven by a node on another. */
function twoBuses(): RailwayRecord {
  return drafted(readBy("input-node-16"), (draft) => {
    const second = draft.addDevice("control-bus", "CB", "layout");
    draft.unassign((a) => a.role === "commands" && a.toDeviceId === "in1");
    draft.assign("commands", { deviceId: second.id, toDeviceId: "in1" });
  });
}

export const MISTAKES: Record<string, () => RailwayRecord> = {
  ...BUS_MISTAKES,
  ...LINE_MISTAKES,
  ...ROUTE_MISTAKES,
  "sensor-delays-red": () => sensorAtThrowBar("N"),
  "short-by-hands": twoReversingToggles,
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
  "contact-over-amps": () =>
    withFigures(
      drafted(railway(["A", "", "twin-coil-surface", "", "toggle-centre-off"]), (draft) => {
        draft.assign("driver", { deviceId: draft.addDevice("ac-16", "PS", "layout").id, way: null, motorId: "a" });
      }),
      "PS1",
      { ratedAmps: 5, tripAmps: 8 },
    ),
  "input-over-volts": decoderPushing,
  "barely-switches": () => withFigures(retyped(stall("", "relay"), "RY1", "relay-dpdt"), "RY1", { pullInVolts: 8.2 }),
  "contact-over-rating": () => withFigures(stall("", "S1"), "A", { contactAmps: 1 }),
  "resistor-too-hot": () => withFigures(stall("lamps-frog-diodes", "S1"), "LP1", { resistorWatts: 0.125 }),
  "polarity-unit-late": () => withFigures(stall("", "polarity-unit"), "TB1", { fuseAmps: 0.63 }),
  "motor-over-volts": () => retyped(onReversingToggle("toggle-reversing", ["A", "", "stall-motor"]), "PS1", "dc-15"),
  "supply-over-rating": () => withFigures(stall(), "PS1", { ratedAmps: 0.03 }),
  "short-would-not-trip": () => withFigures(stall(), "TB1", { tripAmps: 65 }),
  "wire-over-current": heldThroughCable,
  "wire-not-protected": () => onReversingToggle("toggle-reversing", ["A", "", "stall-motor"]),
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
  "pulse-lost-in-wire": farAway,
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
  "frog-lamps-on-dc": () =>
    drafted(stall("lamps-frog", "S2"), (draft) => {
      const supply = draft.addDevice("dc-12", "PS", "layout");
      draft.unassign((a) => a.role === "supply" && a.toDeviceId === "af");
      draft.assign("supply", { deviceId: supply.id, toDeviceId: "af" });
    }),
  "lamp-volts-lost": () => chainedLamps(12),
  "lamp-reverse-voltage": () => stall("lamps-frog", "S2"),
  "back-feed": oneToggleOnTwoSupplies,
  "coils-together": () => coil("cdu", "toggle-centre-off + toggle-centre-off"),
  "made-serves-nothing": lampMovedOnPaper,
  "crowded-terminal": commonLaidAsStar,
  "plug-over-current": motorsThroughPlug,
  "longer-than-reel": farFromBoards,
  "strip-out-of-reach": stripForBoth,
  "joint-better-at-bench": wireBesideTail,
  "no-spare-core": fullCable,
  "same-colour-in-cable": manyCores,
  "colour-two-meanings": redLead,
  "loop-in-net": ringInCommon,
  "same-colours-beside": twoAlike,
  "ways-overlap": oneInput,
  "output-shared": () => railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "", "stall-motor", "D1-1"]),
  "board-unreached": () =>
    drafted(readBy("input-node-16"), (draft) => draft.unassign((a) => a.role === "commands" && a.toDeviceId === "in1")),
  "other-bus": twoBuses,
  "train-keeps-asking": detectorAsButton,
  "latching-locks-others": () => railway(["A", "", "stall-motor", "dual-control-board", "toggle-latching"]),
  "decoder-on-own-track": onTrackPower,
  "relay-at-start": () => coil("cdu", "toggle-centre-off", "relay-board-1"),
  "power-on-unsafe": () => railway(["A", "", "twin-coil-surface", "reverser-coil"]),
  "address-duplicate": sameAddress,
  "address-not-in-row": () =>
    drafted(railway(["A", "", "twin-coil-surface", "coil-decoder-4"]), (draft) => {
      for (const [way, address] of [11, 12, 15, 14].entries())
        draft.assign("address", { deviceId: "d1", way: way + 1, address });
    }),
  "feedback-shared": () =>
    drafted(readBy("encoder-16"), (draft) => {
      const second = draft.addDevice("encoder-16", "FE", "layout");
      draft.assign("supply", { deviceId: "ps1", toDeviceId: second.id });
    }),
  "dead-without-computer": () =>
    // nodes hear each other by themselves; a decoder hears the track
    readBy("encoder-16", "stall-decoder-8"),
  "node-number-shared": () =>
    drafted(twoBuses(), (draft) => {
      for (const deviceId of draft.record.devices.flatMap(({ id, typeId }) => (/-node-/.test(typeId) ? [id] : [])))
        draft.put("setting", {
          ...{ id: `${deviceId}-number`, deviceId, way: null, name: "node number", wanted: "9" },
          ...{ read: null, readAt: null },
        });
    }),
  "setting-differs": () =>
    drafted(railway(["A", "", "servo", "servo-board-4"]), (draft) => {
      const speed = { deviceId: "sb1", way: 1, name: "speed", wanted: "3", read: "5" };
      draft.put("setting", { id: "sb1-1-speed", ...speed, readAt: "2026-05-12T20:14:00.000Z" });
    }),
  "answers-otherwise": () =>
    drafted(stall(), (draft) => {
      const answer = { id: "d1-1", deviceId: "d1", way: 1, address: 3, how: "read", seen: "" } as const;
      draft.put("answer", { ...answer, at: "2026-05-12T20:14:00.000Z" });
    }),
  "address-impossible": () =>
    drafted(stall(), (draft) => draft.assign("address", { deviceId: "d1", way: 1, address: 5000 })),
  "turnout-incomplete": () => railway(["A", "", "stall-motor"]),
};
