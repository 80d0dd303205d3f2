// Railways with a line: laid stroke by stroke as an owner would.
import fc from "fast-check";
import { edit } from "../src/catalogue/edit.ts";
import { simplified, wayBetween } from "../src/line/lattice.ts";
import { layTrack } from "../src/line/laying.ts";
import { setGap } from "../src/line/marking.ts";
import { setMark } from "../src/line/marks.ts";
import type { RailwayRecord } from "../src/record/kinds.ts";
import type { Point } from "../src/record/line.ts";
import { drafted, railway, typed } from "./build.ts";

/** Lays strokes, each with the turnouts of the list that come into being. */
export function laid(record: RailwayRecord, ...strokes: [points: Point[], ...tray: string[]][]): RailwayRecord {
  return strokes.reduce(
    (now, [points, ...tray]) => edit(now, layTrack(now, points, { tray }).group?.edits ?? []).record,
    record,
  );
}

/** A line that comes back to itself behind B1. */
export const BALLOON: Point[] = [
  [4, 0],
  [6, -2],
  [8, -2],
  [9, -1],
  [9, 0],
  [8, 1],
  [5, 1],
  [4, 0],
];

const one = () => railway(["B1", "", "stall-motor", "stall-decoder-8"]);
const MAIN: Point[] = [
  [0, 0],
  [8, 0],
];

export const LINE_MISTAKES: Record<string, () => RailwayRecord> = {
  "reversing-ungapped": () =>
    laid(
      one(),
      [
        [
          [0, 0],
          [4, 0],
        ],
      ],
      [BALLOON, "b1"],
    ),
  "line-unclear": () =>
    drafted(one(), (draft) => {
      draft.put("track", { id: "t", points: MAIN, hidden: false });
      draft.put("spot", { id: "s", turnoutId: "b1", x: 4, y: 0, second: false, turned: false, powerRouting: false });
    }),
  "hand-differs": () =>
    laid(
      typed(one(), "b1", "hand", "right"),
      [MAIN],
      [
        [
          [4, 0],
          [6, -2],
        ],
        "b1",
      ],
    ),
  "crossover-zones": () => {
    const two = railway(["B1", "", "stall-motor", "stall-decoder-8"], ["B2", "", "stall-motor", "D1-2"]);
    const zoned = typed(typed(two, "b1", "zone", "Main"), "b2", "zone", "Loop");
    const parallel: Point[] = MAIN.map(([x, y]) => [x, y + 2]);
    return laid(
      zoned,
      [MAIN],
      [parallel],
      [
        [
          [3, 0],
          [5, 2],
        ],
        "b1",
        "b2",
      ],
    );
  },
  "leg-nowhere": () =>
    laid(
      one(),
      [MAIN],
      [
        [
          [4, 0],
          [6, -2],
        ],
        "b1",
      ],
    ),
  "not-placed": () =>
    laid(
      railway(["B1", "", "stall-motor", "stall-decoder-8"], ["B2", "", "stall-motor", "D1-2"]),
      [MAIN],
      [
        [
          [4, 0],
          [6, -2],
        ],
        "b1",
      ],
    ),
};

const point: fc.Arbitrary<Point> = fc.tuple(fc.integer({ min: 0, max: 9 }), fc.integer({ min: 0, max: 6 }));

/** A stroke as a hand draws it: through some points, always within the eight directions. */
export const stroke: fc.Arbitrary<Point[]> = fc
  .array(point, { minLength: 2, maxLength: 4 })
  .map((through) =>
    simplified(through.flatMap((to, index) => (index === 0 ? [to] : wayBetween(through[index - 1] ?? to, to)))),
  )
  .filter((points) => points.length > 1);

/** Sets marks on steps of a line: gaps by the rails that they part, blocks and signals by their names, feeders. */
export function marked(
  record: RailwayRecord,
  ...marks: (
    | ["gap", from: Point, to: Point, rails: "both" | "left" | "right"]
    | ["block" | "signal" | "sensor", from: Point, to: Point, name: string]
    | ["feeder", from: Point, to: Point, leftGets: "J" | "K"]
  )[]
): RailwayRecord {
  return marks.reduce((now, [what, from, to, word]) => {
    if (what === "gap") return edit(now, setGap(now, from, to, word as "both" | "left" | "right")?.edits ?? []).record;
    const fields = what === "feeder" ? { leftGets: word as "J" | "K" } : { name: word };
    return edit(now, setMark(now, what, from, to, fields).group.edits).record;
  }, record);
}

/** A straight line of blocks, four steps each, with a gap and a signal between one and the next, for trains to the right. */
export function straightBlocks(record: RailwayRecord, names: readonly string[]): RailwayRecord {
  const line = laid(record, [
    [
      [0, 0],
      [4 * names.length, 0],
    ],
  ]);
  return names.reduce((now, name, index) => {
    const x = 4 * index;
    const block = marked(now, ["block", [x + 1, 0], [x + 2, 0], name]);
    if (index === names.length - 1) return block;
    return marked(block, ["gap", [x + 4, 0], [x + 5, 0], "both"], ["signal", [x + 3, 0], [x + 4, 0], `at ${name}`]);
  }, line);
}
