// One turnout for each way of driving, commanding, feeding the frog and showing, for tests and for looking at.
import { edit } from "../src/catalogue/edit.ts";
import { addBoard, addBoardTo } from "../src/equip/devices.ts";
import type { Draft } from "../src/equip/draft.ts";
import { possiblePieces, setPiece } from "../src/equip/lampFittings.ts";
import { setLock } from "../src/equip/locks.ts";
import type { RailwayRecord } from "../src/record/kinds.ts";
import { drafted, railway, typed, withFigures } from "./build.ts";

interface How {
  turnoutId?: string;
  way?: number;
  to?: "N" | "R";
  inverse?: boolean;
  follows?: boolean;
}

const control = (deviceId: string, how: How = {}) => ({
  deviceId,
  ...{ turnoutId: "a", way: null, to: null, inverse: false, follows: false, ...how },
});

/** A thread driven by a bare 12 V supply through a reversing toggle. */
export function onReversingToggle(toggleType: string, ...rows: string[][]): RailwayRecord {
  return drafted(railway(...rows), (draft) => {
    const supply = draft.addDevice("dc-12", "PS", "layout");
    const toggle = draft.addDevice(toggleType, "T", "panel");
    for (const a of draft.record.assignments) {
      if (a.role === "motor") draft.assign("driver", { deviceId: supply.id, way: null, motorId: a.deviceId });
    }
    draft.assign("control", control(toggle.id));
  });
}

/** A crossover whose motors have a discharge unit each. */
export function unitForEach(): RailwayRecord {
  const pair = railway(
    ["A", "", "twin-coil-surface", "cdu-motor", "toggle-centre-off"],
    ["B", "A", "twin-coil-surface"],
  );
  return drafted(pair, (draft) => {
    const second = draft.addDevice("cdu-motor", "CU", "layout");
    draft.assign("supply", { deviceId: "ps1", toDeviceId: second.id });
    const driver = draft.record.assignments.find((a) => a.role === "driver" && a.motorId === "b");
    if (driver?.role === "driver") draft.put("assignment", { ...driver, deviceId: second.id });
  });
}

/** Two buttons read by a board with numbered inputs, whose messages throw an output of a node. */
export function readBy(reader: string, driver = "output-node-8"): RailwayRecord {
  return drafted(railway(["A", "", "stall-motor", driver, "push-pair"]), (draft) => {
    const board = draft.addDevice(reader, "IN", "layout");
    draft.assign("supply", { deviceId: "ps1", toDeviceId: board.id });
    if (reader === "input-node-16") draft.assign("commands", { deviceId: "cb1", toDeviceId: board.id });
    draft.assign("input", { deviceId: board.id, way: 3, controlId: "b1", controlWay: null });
  });
}

/** Two zones of a detector as the buttons of a decoder. */
export function detectorAsButton(): RailwayRecord {
  return drafted(railway(["A", "", "stall-motor", "input-decoder-4"]), (draft) => {
    const detector = draft.addDevice("current-detector-4", "BD", "layout");
    draft.assign("supply", { deviceId: "ps1", toDeviceId: detector.id });
    draft.assign("control", control(detector.id, { way: 1, to: "N" }));
    draft.assign("control", control(detector.id, { way: 2, to: "R" }));
  });
}

/** A servo board commanded by an output of a decoder. */
export function decoderAtServoBoard(): RailwayRecord {
  return withFigures(decoderPushing(), "SB1", { inputDiodes: 1 });
}

/** The same without the diodes in the board's inputs, which the decoder's 12 V destroy. */
export function decoderPushing(): RailwayRecord {
  return drafted(railway(["A", "", "servo", "servo-board-4"]), (draft) => {
    const decoder = draft.addDevice("stall-decoder-8", "D", "layout");
    const track = draft.addDevice("track-bus", "TB", "layout");
    draft.assign("supply", { deviceId: "ps1", toDeviceId: decoder.id });
    draft.assign("commands", { deviceId: track.id, toDeviceId: decoder.id });
    draft.assign("control", control(decoder.id, { way: 3 }));
  });
}

/** A lamp on outputs of a node that pull down to 0 V. */
export function lampOnNode(lamp: string): RailwayRecord {
  return withLamp("output-node-16", "ON", lamp, 5);
}

/** A semaphore on an output of a servo decoder. */
export function semaphore(): RailwayRecord {
  return withLamp("servo-decoder-4", "D", "semaphore-servo", 2);
}

function withLamp(board: string, prefix: string, lamp: string, way: number): RailwayRecord {
  return drafted(railway(["A", "", "stall-motor", "stall-decoder-8"]), (draft: Draft) => {
    const from = draft.addDevice(board, prefix, "layout");
    const device = draft.addDevice(lamp, "LP", "panel");
    draft.assign("supply", { deviceId: "ps1", toDeviceId: from.id });
    if (board === "output-node-16")
      draft.assign("commands", { deviceId: draft.addDevice("control-bus", "CB", "layout").id, toDeviceId: from.id });
    draft.assign("lamp", {
      deviceId: device.id,
      turnoutId: "a",
      fromId: from.id,
      way,
      crossed: false,
      coveredAt: null,
    });
  });
}

/** A turnout whose control is followed as a level: a toggle, or a zone of a detector, read by an input node. */
export function followed(motor: string, driver: string, what: "toggle" | "zone"): RailwayRecord {
  return drafted(railway(["A", "", motor, driver]), (draft) => {
    const node = addBoardTo(draft, "input-node-16");
    const device =
      what === "zone" ? addBoardTo(draft, "current-detector-4") : draft.addDevice("toggle-latching", "T", "panel");
    const way = what === "zone" ? 1 : null;
    draft.assign("control", { ...control(device.id), way, follows: true });
    draft.assign("input", { deviceId: node.id, way: 5, controlId: device.id, controlWay: way });
  });
}

/** The control of A locked out by something that is added for it. */
export function lockedOut(record: RailwayRecord, lock: "new key switch" | "new relay"): RailwayRecord {
  const command = record.assignments.find((a) => a.role === "control");
  if (command?.role !== "control") throw new Error("No control in this test.");
  return edit(record, setLock(record, { controlId: command.deviceId, controlWay: command.way }, lock).edits).record;
}

/** A lamp without a resistor, whose common goes through a piece of a resistor board. */
export function onResistorBoard(record: RailwayRecord): RailwayRecord {
  const board = edit(record, addBoard(record, "resistor-board-6").edits).record;
  const [piece] = possiblePieces(board, "lp1");
  return edit(board, setPiece(board, "lp1", piece ?? null).edits).record;
}

/** A box with an input, told by a sensor at the throw bar of A that is covered at a position. */
export function sensorAtThrowBar(at: "N" | "R" = "R"): RailwayRecord {
  const record = stall("");
  const sensor = edit(record, addBoard(record, "infrared-sensor").edits).record;
  return typed(sensor, "a", "lamp", `fibre-box-input from IR1 at ${at}`);
}

const stall = (lamp: string, frog = "") => railway(["A", "", "stall-motor", "stall-decoder-8", "", lamp, frog]);
const coil = (lamp: string, frog = "", motor = "twin-coil-under-board") =>
  railway(["A", "", motor, "cdu", "toggle-centre-off", lamp, frog]);
const plain = (motor: string, driver = "", by = "") => railway(["A", "", motor, driver, by]);
const pair = (motor: string, driver: string, by = "") => railway(["A", "", motor, driver, by], ["B", "A", motor]);

/** Every way of driving and commanding, by what it is called; each throws normal and reverse as asked. */
export const DRIVING: Record<string, () => RailwayRecord> = {
  "toggle and discharge unit": () => plain("twin-coil-surface", "cdu", "toggle-centre-off"),
  "toggle and high-efficiency coils": () => plain("twin-coil-efficient", "cdu", "toggle-centre-off"),
  "two push buttons and discharge unit": () => plain("twin-coil-surface", "cdu", "push-pair"),
  "a discharge unit for each motor": unitForEach,
  "two toggles for a crossover, one inverse": () =>
    pair("twin-coil-surface", "cdu", "toggle-centre-off + toggle-centre-off inverse"),
  "reversing toggle and stall motor": () => onReversingToggle("toggle-reversing", ["A", "", "stall-motor"]),
  "reversing toggle, sprung, and stall motor": () =>
    onReversingToggle("toggle-reversing-centre-off", ["A", "", "stall-motor"]),
  "reversing toggle and two stall motors": () =>
    onReversingToggle("toggle-reversing", ["A", "", "stall-motor"], ["B", "A", "stall-motor"]),
  "decoder output, one motor": () => plain("stall-motor", "stall-decoder-8"),
  "decoder output, two motors": () => pair("stall-motor", "stall-decoder-8"),
  "decoder for coils": () => plain("twin-coil-surface", "coil-decoder-4"),
  "decoder for servos": () => plain("servo", "servo-decoder-4"),
  "decoder with a toggle at its inputs": () => plain("stall-motor", "input-decoder-4", "toggle-centre-off"),
  "decoder with two buttons at its inputs": () => plain("stall-motor", "input-decoder-4", "push-pair"),
  "decoder with one button for each press": () => plain("stall-motor", "input-decoder-4", "push-button"),
  "decoder with a button for each position": () =>
    plain("stall-motor", "input-decoder-4", "push-button to N + push-button to R"),
  "decoder with a touch button": () => plain("stall-motor", "input-decoder-4", "touch-button"),
  "dual-control board with a toggle": () => plain("stall-motor", "dual-control-board", "toggle-centre-off"),
  "dual-control board with a toggle at the dispatcher": () =>
    plain("stall-motor", "dual-control-board", "toggle-centre-off + toggle-centre-off inverse"),
  "servo board with a latching toggle": () => plain("servo", "servo-board-4", "toggle-latching"),
  "servo board with a button": () => plain("servo", "servo-board-4", "push-button"),
  "servo board with a rotary switch": () => plain("servo-contact", "servo-board-4", "rotary"),
  "servo board behind a decoder": decoderAtServoBoard,
  "output node": () => plain("stall-motor", "output-node-8"),
  "buttons read by an input node": () => readBy("input-node-16"),
  "buttons read by a feedback encoder": () => readBy("encoder-16"),
  "detector as a button": detectorAsButton,
  "servo node": () => plain("servo", "servo-node-8"),
  "reverser with twin-coil output": () => plain("twin-coil-surface", "reverser-coil"),
  "reverser with stall-motor output": () => plain("stall-motor", "reverser-stall"),
  "a toggle that is followed": () => followed("stall-motor", "output-node-8", "toggle"),
  "a zone that is followed": () => followed("servo", "servo-node-8", "zone"),
  "toggle and discharge unit, locked out by a key": () =>
    lockedOut(plain("twin-coil-surface", "cdu", "toggle-centre-off"), "new key switch"),
  "toggle at inputs, locked out by a key": () =>
    lockedOut(plain("stall-motor", "input-decoder-4", "toggle-centre-off"), "new key switch"),
  "reversing toggle, locked out by a relay": () =>
    lockedOut(onReversingToggle("toggle-reversing", ["A", "", "stall-motor"]), "new relay"),
  "slow motor with its decoder inside": () => plain("slow-motor-decoder"),
};

/** Every way of feeding a frog; each carries the rail of the road to which the blades lie. */
export const FROGS: Record<string, () => RailwayRecord> = {
  "a contact of the motor": () => stall("", "S2"),
  "a contact of a coil motor": () => coil("", "S1"),
  "a relay beside a stall motor": () => stall("", "relay"),
  "a latching relay beside coils": () => coil("", "relay", "twin-coil-surface"),
  "a relay board that follows the turnout": () => coil("", "relay-board-2", "twin-coil-surface"),
  "an automatic unit": () => coil("", "polarity unit", "twin-coil-surface"),
  "a servo's microswitch": () => railway(["A", "", "servo-contact", "servo-board-4", "toggle-latching", "", "S1"]),
};

/** Every way of lighting a lamp; each is lit in one colour at normal and in the other at reverse. */
export const LAMPS: Record<string, () => RailwayRecord> = {
  "a contact": () => stall("lamp-two-colour"),
  "a contact, common to plus": () => stall("lamp-two-colour-plus"),
  "the contact of a relay": () => stall("lamp-two-colour from relay"),
  "the driver's output": () => stall("lamp-two-colour-12 from driver"),
  "the driver's output, common to plus": () => stall("lamp-two-colour-plus from driver"),
  "outputs of a node that pull down": () => lampOnNode("lamp-two-colour-plus"),
  "the frog": () => stall("lamps-frog-diodes", "S2"),
  "a fibre box": () => coil("fibre-signal-box"),
  "a dwarf signal": () => stall("dwarf-signal"),
  "a contact, one resistor in the common": () => stall("lamp-two-colour-one-resistor"),
  "a contact, through a resistor board": () => onResistorBoard(stall("lamp-two-colour-bare")),
  "two single lamps": () => stall("lamps-single-pair"),
  "a contact, and outputs of the driver": () => stall("lamp-two-colour + lamp-two-colour-12 from driver"),
  "contacts of both motors of a crossover": () =>
    railway(
      ["A", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour"],
      ["B", "A", "stall-motor", "", "", "lamp-two-colour"],
    ),
  "a sensor at the throw bar": () => sensorAtThrowBar(),
};

/** Two turnouts, A and B, that lead themselves and have one control between them, in the ways given. */
function shared(motor: string, driver: string, type: string, ofA: How, ofB: How): RailwayRecord {
  const two = railway(["A", "", motor, driver], ["B", "", motor, driver === "cdu" ? "CD1" : driver]);
  return drafted(two, (draft) => {
    const device = draft.addDevice(type, "T", "panel");
    const unit =
      draft.record.devices.find(({ typeId }) => typeId === "dc-12") ?? draft.addDevice("dc-12", "PS", "layout");
    for (const a of draft.record.assignments) {
      if (a.role === "motor" && driver === "")
        draft.assign("driver", { deviceId: unit.id, way: null, motorId: a.deviceId });
    }
    draft.assign("control", control(device.id, { ...ofA, turnoutId: "a" }));
    draft.assign("control", control(device.id, { ...ofB, turnoutId: "b" }));
  });
}

/** Two turnouts on one output of a decoder, each with the address of the other. */
function onOneOutput(): RailwayRecord {
  return railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "", "stall-motor", "D1-1"]);
}

interface Shared {
  make: () => RailwayRecord;
  stays: boolean;
  follows: { N: string; R: string };
}

/** Two turnouts that share something, by what it is; whether it goes on asking when let go, and where
 * B goes when A is asked for normal and for reverse. */
export const SHARED: Record<string, Shared> = {
  "one reversing toggle": {
    make: () => shared("stall-motor", "", "toggle-reversing", {}, {}),
    stays: true,
    follows: { N: "N", R: "R" },
  },
  "one reversing toggle, for B labelled the other way": {
    make: () => shared("stall-motor", "", "toggle-reversing", {}, { inverse: true }),
    stays: true,
    follows: { N: "R", R: "N" },
  },
  "one latching toggle at two outputs": {
    make: () => shared("stall-motor", "input-decoder-4", "toggle-latching", {}, { inverse: true }),
    stays: true,
    follows: { N: "R", R: "N" },
  },
  "a pole of one lever each": {
    make: () =>
      shared("twin-coil-surface", "cdu", "toggle-reversing-centre-off", { way: 1 }, { way: 2, inverse: true }),
    stays: false,
    follows: { N: "R", R: "N" },
  },
  "one output of a decoder": { make: onOneOutput, stays: true, follows: { N: "N", R: "R" } },
};

/** One button of a route: it asks A for normal and B for reverse, each at its output's own inputs. */
export function routeButton(): RailwayRecord {
  return shared("stall-motor", "input-decoder-4", "push-button", { to: "N" }, { to: "R" });
}

/** Two zones of a detector, each at an input of its own, each asking one turnout for reverse. */
export function zonesAtInputs(): RailwayRecord {
  const two = railway(["A", "", "stall-motor", "output-node-8"], ["B", "", "stall-motor", "output-node-8"]);
  return drafted(two, (draft) => {
    const node = draft.addDevice("input-node-16", "IN", "layout");
    const detector = draft.addDevice("current-detector-4", "BD", "layout");
    for (const { id } of [node, detector]) draft.assign("supply", { deviceId: "ps1", toDeviceId: id });
    draft.assign("commands", { deviceId: "cb1", toDeviceId: node.id });
    for (const [index, turnoutId] of ["a", "b"].entries()) {
      const way = index + 1;
      draft.assign("control", control(detector.id, { turnoutId, way, to: "R" }));
      draft.assign("input", { deviceId: node.id, way: way + 4, controlId: detector.id, controlWay: way });
    }
  });
}

/**
 * Turnouts A, B and so on with stall motors on an output node, each thrown by a control at two inputs of an input node; the
 * nodes are on one control bus and have numbers from 16 on.
 */
export function onBus(...controls: string[]): RailwayRecord {
  const labels = controls.map((_, index) => String.fromCharCode(65 + index));
  const rows = labels.map((label, index) => [label, "", "stall-motor", index === 0 ? "output-node-8" : "ON1"]);
  return drafted(railway(...rows), (draft) => {
    const node = draft.addDevice("input-node-16", "IN", "layout");
    const bus = draft.record.devices.find(({ typeId }) => typeId === "control-bus");
    draft.assign("supply", { deviceId: "ps1", toDeviceId: node.id });
    draft.assign("commands", { deviceId: bus?.id ?? "", toDeviceId: node.id });
    for (const [index, label] of labels.entries()) {
      const control = draft.addDevice(controls[index] ?? "", "B", "panel");
      const turnoutId = label.toLowerCase();
      draft.assign("control", {
        ...{ deviceId: control.id, turnoutId, way: null, to: null, inverse: false, follows: false },
      });
      draft.assign("input", { deviceId: node.id, way: 1 + 2 * index, controlId: control.id, controlWay: null });
    }
    const nodes = draft.record.devices.filter(({ typeId }) => typeId.includes("-node-"));
    for (const [index, { id: deviceId }] of nodes.entries())
      draft.put("setting", {
        ...{ id: `${deviceId}-number`, deviceId, way: null, name: "node number", wanted: String(16 + index) },
        ...{ read: null, readAt: null },
      });
  });
}
