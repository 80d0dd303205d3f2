// The line of the demo railway, laid as its owner would.
import {
  changeMark,
  Draft,
  type EditGroup,
  edit,
  layOutline,
  layTrack,
  nameEnd,
  type Point,
  type RailwayRecord,
  setGap,
  setHidden,
  setMark,
  setStand,
} from "@alderman/core";

/** What is laid, stroke by stroke, with the turnouts of the list that come into being. */
const STROKES: readonly [points: [number, number][], ...turnouts: string[]][] = [
  [
    [
      [3, 4],
      [30, 4],
    ],
  ],
  [
    [
      [8, 6],
      [30, 6],
    ],
  ],
  // the loop behind the backscene
  [
    [
      [6, 4],
      [5, 5],
      [5, 8],
      [4, 9],
      [2, 9],
      [1, 8],
      [1, 5],
      [2, 4],
      [3, 4],
    ],
    "b1",
  ],
  [
    [
      [12, 4],
      [10, 6],
    ],
    "m1",
    "m2",
  ],
  [
    [
      [13, 6],
      [12, 7],
      [8, 7],
    ],
    "q1",
  ],
  [
    [
      [17, 6],
      [15, 8],
      [14, 9],
      [8, 9],
    ],
    "s1",
  ],
  [
    [
      [15, 8],
      [8, 8],
    ],
    "s2",
  ],
  [
    [
      [20, 6],
      [23, 9],
      [30, 9],
    ],
    "l1",
  ],
  [
    [
      [21, 7],
      [30, 7],
    ],
    "l2",
  ],
  [
    [
      [22, 8],
      [30, 8],
    ],
    "l3",
  ],
  // the ladder of the ferry yard
  [
    [
      [20, 4],
      [25, -1],
      [30, -1],
    ],
    "y1",
  ],
  [
    [
      [21, 3],
      [30, 3],
    ],
    "y2",
  ],
  [
    [
      [22, 2],
      [30, 2],
    ],
    "y3",
  ],
  [
    [
      [23, 1],
      [30, 1],
    ],
    "y4",
  ],
  [
    [
      [24, 0],
      [30, 0],
    ],
    "y5",
  ],
];

const ENDS: readonly [x: number, y: number, name: string, buffer: boolean][] = [
  ...[4, 3, 2, 1, 0, -1].map((y, index): [number, number, string, boolean] => [30, y, `road ${index + 1}`, true]),
  ...[6, 7, 8, 9].map((y, index): [number, number, string, boolean] => [30, y, `deck ${index + 1}`, false]),
  [8, 6, "wing", true],
  [8, 7, "quay", true],
  [8, 8, "shed", true],
  [8, 9, "coal", true],
];

/** Where rails are parted: the loop at both ends and in the middle, the crossover, frog against frog, edges of blocks. */
const GAPS: readonly [from: Point, to: Point, rails: "both" | "left" | "right"][] = [
  [[5, 5], [5, 6], "both"],
  [[3, 4], [4, 4], "both"],
  // between the loop's detectors one rail is enough: that in which they sit
  [[3, 9], [4, 9], "left"],
  [[10, 4], [11, 4], "right"],
  [[11, 5], [10, 6], "both"],
  [[11, 6], [12, 6], "both"],
  [[15, 6], [16, 6], "both"],
  [[17, 4], [18, 4], "both"],
  [[18, 6], [19, 6], "both"],
];

const MARKS: readonly ["block" | "signal" | "sensor", from: Point, to: Point, name: string][] = [
  ["block", [1, 6], [1, 5], "Loop, west"],
  ["block", [5, 7], [5, 8], "Loop, east"],
  ["block", [9, 4], [10, 4], "Main"],
  ["block", [23, 4], [24, 4], "Yard"],
  ["block", [24, 6], [25, 6], "Linkspan"],
  ["signal", [16, 4], [17, 4], "YS"],
  ["signal", [8, 4], [7, 4], "LP"],
  ["signal", [5, 6], [5, 5], "LX"],
  ["signal", [18, 6], [19, 6], "LS"],
  ["sensor", [28, 6], [29, 6], "P1"],
];

/** Where feeders come up; the rear rail is K throughout, and each parted piece has its own. */
const FEEDERS: readonly [from: Point, to: Point, leftGets: "J" | "K"][] = [
  [[7, 4], [8, 4], "K"],
  [[1, 7], [1, 8], "J"],
  [[5, 8], [4, 9], "K"],
  [[8, 6], [9, 6], "K"],
  [[14, 4], [15, 4], "K"],
  [[14, 6], [15, 6], "K"],
  [[17, 6], [18, 6], "K"],
  [[19, 6], [20, 6], "K"],
  [[18, 4], [19, 4], "K"],
];

const STANDS: readonly [label: string, at: Point][] = [
  ["D1", [18, 11]],
  ["CD1", [23, 11]],
  ["SB1", [13, 11]],
  ["BD1", [4, 11]],
];

/** The wing that is let down, and the line along which the cables run. */
const OUTLINES: readonly ["lift-out" | "trunk", Point[]][] = [
  [
    "lift-out",
    [
      [7, 10],
      [7, 5],
      [9, 5],
      [9, 10],
    ],
  ],
  [
    "trunk",
    [
      [3, 10],
      [28, 10],
    ],
  ],
];

/** The line as its owner laid it; L3 was entered as a right-hand turnout, and lies as a left-hand one. */
export function lineLaid(given: RailwayRecord): RailwayRecord {
  const draft = new Draft(given);
  const apply = (group: EditGroup | null) => draft.take(group);
  for (const [points, ...tray] of STROKES) apply(layTrack(draft.record, points, { tray }).group);
  for (const [x, y, name, buffer] of ENDS) apply(nameEnd(draft.record, [x, y], name, buffer));
  const behind = draft.record.tracks.find(({ points }) => points.length === 9);
  if (behind) apply(setHidden(draft.record, [behind.id], true));
  for (const [from, to, rails] of GAPS) apply(setGap(draft.record, from, to, rails));
  for (const [what, from, to, name] of MARKS) {
    const lamp =
      name === "LS" ? draft.record.devices.find(({ typeId }) => typeId === "semaphore-servo")?.id : undefined;
    const { id, group } = setMark(draft.record, what, from, to, { name });
    apply(group);
    if (lamp) apply(changeMark(draft.record, id, { deviceId: lamp }));
  }
  for (const [from, to, leftGets] of FEEDERS) apply(setMark(draft.record, "feeder", from, to, { leftGets }).group);
  for (const [label, at] of STANDS) {
    const board = draft.record.devices.find((device) => device.label === label);
    if (board) apply(setStand(draft.record, board.id, at));
  }
  for (const [what, points] of OUTLINES) apply(layOutline(draft.record, what, points));
  const { record } = edit(given, draft.edits);
  return edit(record, [{ op: "railway", value: { ...record.railway, stepMetres: 0.16 } }]).record;
}
