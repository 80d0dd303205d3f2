// The line of the demo railway, laid as its owner would.
import { Draft, type EditGroup, edit, layTrack, nameEnd, type RailwayRecord, setGap, setHidden } from "@alderman/core";

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
      [5, 7],
      [4, 8],
      [3, 8],
      [2, 7],
      [2, 5],
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

/** The line as its owner laid it; L3 was entered as a right-hand turnout, and lies as a left-hand one. */
export function lineLaid(given: RailwayRecord): RailwayRecord {
  const draft = new Draft(given);
  const apply = (group: EditGroup | null) => draft.take(group);
  for (const [points, ...tray] of STROKES) apply(layTrack(draft.record, points, { tray }).group);
  for (const [x, y, name, buffer] of ENDS) apply(nameEnd(draft.record, [x, y], name, buffer));
  const behind = draft.record.tracks.find(({ points }) => points.length === 8);
  if (behind) apply(setHidden(draft.record, [behind.id], true));
  apply(setGap(draft.record, [5, 6], [5, 7], "both"));
  apply(setGap(draft.record, [3, 4], [4, 4], "both"));
  const { record } = edit(given, draft.edits);
  return edit(record, [{ op: "railway", value: { ...record.railway, stepMetres: 0.16 } }]).record;
}
