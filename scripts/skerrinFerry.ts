// The demo railway, made as its owner would: entered, half built, half programmed, with what is wrong on it.
import {
  type Assignment,
  addBoard,
  addEvent,
  addRoutes,
  causeOf,
  commandRoutes,
  completed,
  Derived,
  Draft,
  type EditGroup,
  edit,
  emptyRecord,
  eventPlan,
  keepEvents,
  makeParts,
  matricesOf,
  type RailwayRecord,
  setAddress,
  setLink,
  setProducer,
  stepDone,
  type TestStep,
  testResult,
  threadsOf,
  tickWires,
  turnoutsFromTable,
  type WantedRoute,
  type WireStep,
  writeCell,
} from "@alderman/core";
import { largeUnit } from "./largeUnit.ts";
import { lineLaid } from "./skerrinFerryLine.ts";

const AT = "2026-05-12T19:30:00.000Z";

/** The part of Skerrin Ferry that can be planned so far. */
export function skerrinFerry(): RailwayRecord {
  let record = emptyRecord("Skerrin Ferry");
  record.railway.note =
    "Train-ferry terminal on a shelf 5.2 m by 0.6 m with a drop-down wing, H0. An invented railway; five things on it are wired wrong on purpose.";
  const apply = (edits: Parameters<typeof edit>[1]) => {
    record = edit(record, edits).record;
  };
  const boards = [
    "cdu",
    "stall-decoder-8",
    "servo-board-4",
    "input-node-16",
    "output-node-16",
    "current-detector-4",
    "reverser",
  ];
  for (const board of boards) apply(addBoard(record, board).edits);
  apply(turnoutsFromTable(record, turnoutRows()).edits);
  // enough for five coils at once
  apply(largeUnit(record, "Discharge unit of the ferry yard", { farads: 10_000e-6, chargeOhms: 47 }).edits);
  apply(addRoutes(record, roadsOfYard()).edits);
  apply(
    commandRoutes(
      record,
      record.routes.map(({ id }) => id),
      "buttons",
    ).edits,
  );
  for (const { joins } of matricesOf(record)) apply(makeParts(record, joins, "2026-05-10T14:20:00.000Z")?.edits ?? []);
  apply(planted(record).edits);
  apply(noted(record).edits);
  apply(halfProgrammed(record).edits);
  record = partlyTaught(record);
  record = yardTested(completed(record));
  // after the tests somebody fitted a latching toggle for Y4 beside the route buttons; the board was soldered without it
  apply(writeCell(record, "y4", "control", "toggle-latching")?.edits ?? []);
  record = halfBuilt(record);
  // bought last: its wires get their numbers after all others
  apply(addBoard(record, "encoder-16").edits);
  apply(feedbackBox(record).edits);
  record = completed(record);
  record = lineLaid(record);
  // its frog hangs on the linkspan's detector, as the line has it
  record = withTests(record, 14, [["l1", () => true]]);
  return kept(record, "wire-not-protected", "the wires behind the panel get a fuse; it is on the list");
}

/** Its turnouts: yard on coils, main line and linkspan on a decoder, shed on servos, quay on the bus, loop by detectors. */
function turnoutRows(): string[][] {
  const [stall, coil, lamp] = ["stall-motor", "twin-coil-under-board", "lamp-two-colour"];
  const yard = ["Y1", "Y2", "Y3", "Y4", "Y5"].map((label, index) => [
    label,
    `Ferry yard, ladder turnout ${index + 1}`,
    index === 0 ? "left" : "right",
    "Ferry yard",
    "",
    label === "Y5" ? "twin-coil-surface" : coil,
    "CD1",
    // route buttons through a diode board
    "",
    label === "Y5" ? "" : lamp,
    "",
    String(0.8 + index * 0.3),
    // one contact each, which the lamp has; the motor without a contact needs a unit for the frog
    label === "Y5" ? "polarity unit" : "",
  ]);
  return [
    ["label", "name", "hand", "zone", "with", "motor", "driver", "control", "lamp", "address", "run", "frog"],
    ["M1", "Main line, west end of crossover", "left", "Main line", "", stall, "D1-1", "", lamp, "21", "1.2", "S2"],
    ["M2", "Main line, east end of crossover", "left", "Main line", "M1", stall, "", "", "", "", "0.9", "S2"],
    ["L1", "Linkspan, road 1", "right", "Linkspan", "", stall, "D1-2", "", lamp, "22", "2.1", "S2"],
    ["L2", "Linkspan, road 2", "left", "Linkspan", "", stall, "D1-3", "", lamp, "23", "2.4", "S2 crossed"],
    [
      "L3",
      "Linkspan, road 3",
      "right",
      "Linkspan",
      "",
      stall,
      "D1-4",
      "",
      "semaphore-servo from SB1-3",
      "24",
      "2.7",
      "S2",
    ],
    [
      "S1",
      "Engine shed",
      "left",
      "Shed",
      "",
      "servo-contact",
      "SB1-1",
      "toggle-latching",
      "mechanical-flag",
      "",
      "1.6",
      "S1",
    ],
    ["S2", "Coal road", "right", "Shed", "", "servo-contact", "SB1-2", "push-button", "", "", "1.8", "S1"],
    [
      "Q1",
      "Quay",
      "left",
      "Quay",
      "",
      stall,
      "output-node-8",
      "push-pair by IN1-1",
      "lamp-two-colour-12 from ON1-1",
      "",
      "1.4",
      "S2",
    ],
    [
      "B1",
      "Balloon loop, behind the backscene",
      "left",
      "Loop",
      "",
      stall,
      "input-decoder-4",
      "BD1-1 to N + BD1-2 to R",
      "lamps-frog",
      "31",
      "2.2",
      "S2",
    ],
    ...yard,
  ];
}

/** The six roads of the ferry yard, as the line leads to them: straight on to the first, along the ladder to the others. */
function roadsOfYard(): WantedRoute[] {
  return Array.from({ length: 6 }, (_, index) => ({
    label: `Road ${index + 1}`,
    settings: Array.from({ length: Math.min(index + 1, 5) }, (_, at) => {
      const isReverse = at === 0 ? index > 0 : at === index;
      return { turnoutId: `y${at + 1}`, to: isReverse ? ("R" as const) : ("N" as const) };
    }),
  }));
}

/** M2, wired wrong on purpose as the frog of L2, the lamps of Q1 and B1 and the toggle of Y4 are; and the rest of the addresses. */
function planted(record: RailwayRecord): EditGroup {
  const draft = new Draft(record);
  const called = (label: string) => record.devices.find((device) => device.label === label)?.id ?? "";
  // outputs not in use follow the run of the board
  for (const way of [5, 6, 7, 8]) setAddress(draft, called("D1"), way, 20 + way);
  for (const way of [2, 3, 4]) setAddress(draft, called("D2"), way, 30 + way);
  // M2 hangs on the far side of the baseboard beam, and its leads were not crossed
  const motor = record.assignments.find(
    (a): a is Extract<Assignment, { role: "motor" }> => a.role === "motor" && a.turnoutId === "m2",
  );
  if (motor) draft.put("assignment", { ...motor, opposite: true });
  for (const [way, block] of ["Loop, west", "Loop, east", "Linkspan"].entries())
    draft.assign("block", { deviceId: called("BD1"), way: way + 1, block, rail: "J" });
  return draft.group("Planted");
}

/**
 * Its loom half built: the yard's wires are made and joined, two of them proved, the main line's cut and labelled, the quay's
 * only planned. One tail of the yard hangs on another screw than the plan has it.
 */
function halfBuilt(planned: RailwayRecord): RailwayRecord {
  let record = completed(planned);
  const tick = (turnouts: readonly string[], step: WireStep, at: string) => {
    const { loom } = new Derived(record);
    // the buttons of the yard's routes belong to no single turnout of it
    const isOf = (turnoutId: string | null, purpose: string) =>
      turnoutId ? turnouts.includes(turnoutId) : purpose === "route" && turnouts.includes("y1");
    const ids = loom.wires.flatMap(({ id, turnoutId, purpose }) => (isOf(turnoutId, purpose) ? [id] : []));
    const group = tickWires(record, loom, ids, step, at);
    if (group) record = edit(record, group.edits).record;
  };
  const yard = ["y1", "y2", "y3", "y4", "y5"];
  tick(yard, "cutAt", "2026-05-09T19:10:00.000Z");
  tick(yard, "labelledAt", "2026-05-09T20:05:00.000Z");
  tick(yard, "fromJoinedAt", "2026-05-10T10:30:00.000Z");
  tick(yard, "toJoinedAt", "2026-05-10T16:45:00.000Z");
  tick(["m1", "m2"], "cutAt", "2026-05-11T19:20:00.000Z");
  tick(["m1", "m2"], "labelledAt", "2026-05-11T19:50:00.000Z");
  return edit(record, onAnotherScrew(record).edits).record;
}

/** The tail of the last button of the yard hangs on the last way of its strip. */
function onAnotherScrew(record: RailwayRecord): EditGroup {
  const draft = new Draft(record);
  const button = record.routeControls.find(({ routeId }) => routeId === "road-6")?.deviceId;
  const tail = record.wires.find((wire) => wire.fromDeviceId === button && wire.fromTerminal === "N");
  const strip = record.strips.find(({ id }) => id === tail?.toStripId);
  if (tail && strip) {
    const last = record.strips.filter(({ place }) => place === strip.place).at(-1) ?? strip;
    draft.put("wire", { ...tail, toStripId: last.id, toWay: last.ways });
  }
  return draft.group("Joined on another screw");
}

/**
 * D1 is half programmed: two outputs have their addresses, the third was found to answer to another one; a range is reserved.
 * One servo is set up, a setting of the other was read back otherwise.
 */
function halfProgrammed(record: RailwayRecord): EditGroup {
  const draft = new Draft(record);
  const deviceId = record.devices.find(({ label }) => label === "D1")?.id ?? "";
  const wanted = (way: number) =>
    record.assignments.find((a) => a.role === "address" && a.deviceId === deviceId && a.way === way);
  for (const [way, seen] of [
    [1, "lamp 1 blinked, then steady"],
    [2, "lamp 2 blinked, then steady"],
  ] as const) {
    const found = wanted(way);
    const address = found?.role === "address" ? found.address : way;
    const how = { how: "programmed", seen, at: `2026-05-12T19:0${way}:00.000Z` } as const;
    draft.put("answer", { id: `d1-${way}`, deviceId, way, address, ...how });
  }
  const read = { how: "read", seen: "still moves at 3", at: "2026-05-12T19:20:00.000Z" } as const;
  draft.put("answer", { id: "d1-3", deviceId, way: 3, address: 3, ...read });
  // the servos of the shed: one set up, the other's speed taken otherwise
  const board = record.devices.find(({ label }) => label === "SB1")?.id ?? "";
  const servo = [
    [1, "mid", "1.45 ms", "1.45 ms"],
    [1, "normal end", "1.25 ms", "1.25 ms"],
    [1, "reverse end", "1.7 ms", "1.7 ms"],
    [1, "speed", "3", "3"],
    [2, "mid", "1.55 ms", "1.55 ms"],
    [2, "normal end", "1.3 ms", null],
    [2, "speed", "3", "5"],
  ] as const;
  for (const [way, name, wanted, found] of servo) {
    const id = `${board}-${way}-${name.replace(" ", "-")}`;
    const readAt = found === null ? null : "2026-05-11T20:30:00.000Z";
    draft.put("setting", { id, deviceId: board, way, name, wanted, read: found, readAt });
  }
  // nodes by their switches: one was read otherwise, and one has none yet
  for (const [label, wanted, found] of [
    ["IN1", "14", "16"],
    ["ON1", "21", "21"],
  ] as const) {
    const deviceId = record.devices.find((device) => device.label === label)?.id ?? "";
    const number = {
      deviceId,
      way: null,
      name: "node number",
      wanted,
      read: found,
      readAt: "2026-05-10T11:00:00.000Z",
    };
    draft.put("setting", { id: `${deviceId}-number`, ...number });
  }
  draft.put("reserve", { id: "semaphores", first: 61, last: 68, what: "semaphores, not yet bought" });
  return draft.group("Half programmed");
}

/**
 * Events of the quay: the node for lamps is taught what lights LP4 at normal; a switch for the quay's lights is read, and
 * nobody acts upon it; and a level from the barge lights LP4 at reverse as well.
 */
function partlyTaught(before: RailwayRecord): RailwayRecord {
  let record = before;
  const apply = (make: (record: RailwayRecord, threads: ReturnType<typeof threadsOf>) => EditGroup | null) => {
    record = edit(record, make(record, threadsOf(record))?.edits ?? []).record;
  };
  const at = (label: string, way: number) => ({
    ...{ deviceId: record.devices.find((device) => device.label === label)?.id ?? "", way, label: `${label}-${way}` },
  });
  apply(keepEvents);
  for (const [label, way] of [
    ["Lights of the quay", 3],
    ["Barge alongside", 4],
  ] as const) {
    apply((now, threads) => addEvent(now, threads, label));
    const event = record.events.find((each) => each.label === label);
    apply((now, threads) => setProducer(now, threads, at("IN1", way), event?.id ?? ""));
    if (label === "Barge alongside")
      apply((now, threads) => setLink(now, threads, event?.id ?? "", at("ON1", 2), "acts"));
  }
  for (const { eventId, deviceId, way } of eventPlan(record, threadsOf(record)).links) {
    if (deviceId !== at("ON1", 1).deviceId || way !== 1) continue;
    const minute = eventId.endsWith("1") ? "10" : "11";
    const step = { kind: "teach", eventId, way } as const;
    apply((now, threads) => stepDone(now, threads, deviceId, step, `2026-05-10T11:${minute}:00.000Z`));
    const end = { kind: "end", eventId: null, way: null } as const;
    apply((now, threads) => stepDone(now, threads, deviceId, end, "2026-05-10T11:12:00.000Z"));
  }
  return record;
}

/** The feedback box: how two turnouts lie goes to a computer by contacts that nothing else uses, numbered from 17 on. */
function feedbackBox(record: RailwayRecord): EditGroup {
  const draft = new Draft(record);
  const called = (label: string) => record.devices.find((device) => device.label === label)?.id ?? "";
  const deviceId = called("FE1");
  for (const [index, label] of ["M2", "L3"].entries())
    draft.assign("input", { deviceId, way: index + 1, controlId: called(label), controlWay: 1 });
  const start = { deviceId, way: null, name: "start number", wanted: "17", read: "17" };
  draft.put("setting", { id: `${deviceId}-start`, ...start, readAt: "2026-05-12T20:40:00.000Z" });
  return draft.group("Feedback box");
}

/** What the owner knows, has heard, and owes. */
function noted(record: RailwayRecord): EditGroup {
  const draft = new Draft(record);
  const known = (link: "contact" | "leads" | "mounting" | "setting", deviceId: string, way: number | null = null) =>
    draft.put("sense", {
      ...{ id: `${link}-${deviceId}`, link, deviceId, way, inverts: false, known: "metered" },
      ...{ flips: 0, note: "", at: AT },
    });
  known("contact", "l1");
  known("leads", "l1");
  known("mounting", "l1");
  draft.put("debt", {
    ...{ id: "wing", kind: "awaited", text: "multi-way connector for the drop-down wing", blocks: "the loop's wires" },
    ...{ turnoutId: "b1", done: false, at: AT },
  });
  draft.put("debt", {
    ...{ id: "quay-box", kind: "undecided", text: "where the push-button box of the quay hangs", blocks: "its cable" },
    ...{ turnoutId: "q1", done: false, at: AT },
  });
  draft.put("fact", {
    ...{ id: "release", text: "The loop's detectors release after 2 s", standing: "read", typeId: null },
    ...{ figure: null, deviceId: "bd1", source: "leaflet", at: AT },
  });
  return draft.group("Noted");
}

/** The railway with the findings of a rule kept, for a reason. */
function kept(record: RailwayRecord, rule: string, reason: string): RailwayRecord {
  const draft = new Draft(record);
  for (const { key, ruleId, why } of new Derived(record).findings.filter((finding) => finding.ruleId === rule)) {
    const subject = key.slice(ruleId.length + 1);
    draft.put("acceptance", { id: `${rule}-${subject}`, rule, subject, cause: causeOf(why), reason, at: AT });
  }
  return draft.edits.length > 0 ? edit(record, draft.edits).record : record;
}

/** Steps of a turnout's sheet that were tested, and what has become of their chain since. */
type Tested = [
  turnoutId: string,
  wanted: (step: TestStep) => boolean,
  change?: (chain: TestStep["chain"]) => TestStep["chain"],
];

/** Some tests of Y1, one of them made before its turnout's wire was moved. */
function yardTested(record: RailwayRecord): RailwayRecord {
  return withTests(record, 27, [
    ["y1", (step) => step.key.startsWith("coil") || step.key.startsWith("charge")],
    [
      "y1",
      (step) => step.key.startsWith("throw-n"),
      (chain) =>
        Object.fromEntries(
          Object.entries(chain).map(([name, was]) => [
            name,
            was.includes(" to Y1-N:") ? was.replace(/: .*/, ": AWG 24, 1.4 m, BU") : was,
          ]),
        ),
    ],
  ]);
}

/** Tests that all passed. @param first minute of the evening on which they were made, one a minute */
function withTests(record: RailwayRecord, first: number, tested: readonly Tested[]): RailwayRecord {
  const derived = new Derived(record);
  const draft = new Draft(record);
  let minute = first;
  for (const [turnoutId, wanted, change] of tested)
    for (const { step } of derived.sheet(turnoutId).filter(({ step }) => wanted(step))) {
      const read = step.expected === null ? null : Number((step.expected * 1.01).toFixed(1));
      const found = step.unit === "seen" ? { seen: step.wanted ?? "" } : { read };
      const at = `2026-05-12T20:${String(minute++).padStart(2, "0")}:00.000Z`;
      const result = testResult(step, found, `${turnoutId}-${step.key}`.slice(0, 40), at);
      draft.put("test", change ? { ...result, chain: change(step.chain) } : result);
    }
  return edit(record, draft.edits).record;
}
