// Railways with a line: laid stroke by stroke as an owner would.
import fc from "fast-check";
import { edit } from "../src/catalogue/edit.ts";
import { addBoard } from "../src/equip/devices.ts";
import { simplified, wayBetween } from "../src/line/lattice.ts";
import { layTrack } from "../src/line/laying.ts";
import { setGap } from "../src/line/marking.ts";
import { setMark } from "../src/line/marks.ts";
import type { RailwayRecord } from "../src/record/kinds.ts";
import type { Point } from "../src/record/line.ts";
import { drafted, railway, typed, withFigures } from "./build.ts";

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

/** The railway with a detector, the zones of which watch blocks by their names. */
function watched(record: RailwayRecord, ...names: string[]): RailwayRecord {
  const board = edit(record, addBoard(record, "current-detector-4").edits).record;
  const deviceId = board.devices.find(({ typeId }) => typeId === "current-detector-4")?.id ?? "";
  return drafted(board, (draft) => {
    for (const [index, block] of names.entries()) draft.assign("block", { deviceId, way: index + 1, block, rail: "J" });
  });
}

/** A balloon loop with a detector on each way back to its turnout, which throws it; the lower one begins at a gap. */
function loopThrown(gap: [Point, Point], to: "N" | "R"): RailwayRecord {
  const seen = watched(railway(["B1", "", "stall-motor", "input-decoder-4"]), "Lower", "Upper");
  const line = laid(
    typed(seen, "b1", "control", `BD1-1 to ${to} + BD1-2 to N`),
    [
      [
        [0, 0],
        [4, 0],
      ],
    ],
    [BALLOON, "b1"],
  );
  const run = edit(line, [{ op: "railway", value: { ...line.railway, trainMetres: 0.3 } }]).record;
  return marked(
    run,
    ["gap", ...gap, "both"],
    ["gap", [4, 0], [5, 1], "both"],
    ["gap", [4, 0], [5, -1], "both"],
    ["block", [6, 1], [5, 1], "Lower"],
    ["block", [7, -2], [6, -2], "Upper"],
  );
}

/** Two wyes, tail to tail, with one gap in both rails on each of their sides: two of their turnouts have to be turned. */
function twoWyes(): RailwayRecord {
  const wye = (y: number, up: 1 | -1): Point[][] => [
    [
      [0, y],
      [8, y],
    ],
    [
      [2, y],
      [4, y - 2 * up],
      [4, y - 4 * up],
    ],
    [
      [6, y],
      [4, y - 2 * up],
    ],
  ];
  const line = laid(one(), ...[...wye(0, 1), ...wye(-8, -1)].map((points): [Point[]] => [points]));
  return marked(
    line,
    ...([0, -8] as const).flatMap((y): Marking[] => {
      const up = y === 0 ? -1 : 1;
      return [
        ["gap", [4, y], [5, y], "both"],
        ["gap", [3, y + up], [4, y + 2 * up], "both"],
        ["gap", [5, y + up], [4, y + 2 * up], "both"],
      ];
    }),
    ["gap", [4, -4], [4, -5], "both"],
  );
}

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
  "block-bridged": () =>
    marked(
      laid(one(), [MAIN]),
      ["gap", [2, 0], [3, 0], "both"],
      ["gap", [4, 0], [5, 0], "both"],
      ["block", [3, 0], [4, 0], "Short"],
    ),
  "hidden-unseen": () => {
    const drawn = laid(
      one(),
      [MAIN],
      [
        [
          [4, 0],
          [6, -2],
        ],
        "b1",
      ],
    );
    return { ...drawn, tracks: drawn.tracks.map((track) => ({ ...track, hidden: true })) };
  },
  "frog-joint-missing": () => {
    const two = railway(["Y1", "", "stall-motor", "stall-decoder-8"], ["Y2", "", "stall-motor", "D1-2"]);
    const fed = typed(typed(two, "y1", "frog", "S1"), "y2", "frog", "S1");
    const passing: Point[] = [
      [3, 0],
      [5, -2],
      [9, -2],
      [11, 0],
    ];
    return laid(
      fed,
      [
        [
          [0, 0],
          [14, 0],
        ],
      ],
      [passing, "y1", "y2"],
    );
  },
  "blocks-run-together": () =>
    marked(laid(one(), [MAIN]), ["block", [0, 0], [1, 0], "A"], ["block", [6, 0], [7, 0], "B"]),
  "feeders-against": () =>
    marked(laid(one(), [MAIN]), ["feeder", [0, 0], [1, 0], "J"], ["feeder", [6, 0], [7, 0], "K"]),
  "rail-unfed": () => marked(laid(one(), [MAIN]), ["gap", [4, 0], [5, 0], "both"], ["feeder", [0, 0], [1, 0], "J"]),
  "detector-rail-uncut": () =>
    marked(
      watched(laid(one(), [MAIN]), "A", "B"),
      ...(["A", "B"].map((name, index) => ["block", [5 * index, 0], [5 * index + 1, 0], name]) as Marking[]),
      ["gap", [3, 0], [4, 0], "right"],
      ["feeder", [0, 0], [1, 0], "J"],
      ["feeder", [6, 0], [7, 0], "J"],
    ),
  "detector-sees-load": () =>
    watched(
      marked(
        laid(
          railway(["B1", "", "stall-motor", "stall-decoder-8", "", "lamps-frog-diodes", "S1"]),
          [MAIN],
          [
            [
              [4, 0],
              [6, -2],
            ],
            "b1",
          ],
        ),
        ["block", [0, 0], [1, 0], "A"],
      ),
      "A",
    ),
  "detector-misses-axle": () =>
    withFigures(watched(straightBlocks(one(), ["A", "B"]), "A", "B"), "BD1", { axleOhms: 22_000 }),
  "block-unwatched": () => watched(straightBlocks(one(), ["A", "B"]), "A", "C"),
  "signal-guards-nothing": () => marked(laid(one(), [MAIN]), ["signal", [3, 0], [4, 0], "S1"]),
  "section-too-short": () =>
    marked(
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
      ["gap", [6, -2], [7, -2], "both"],
      ["gap", [8, 1], [7, 1], "both"],
    ),
  "sections-touch": twoWyes,
  "throw-too-late": () =>
    loopThrown(
      [
        [8, 1],
        [7, 1],
      ],
      "R",
    ),
  "throw-wrong-leg": () =>
    loopThrown(
      [
        [9, 0],
        [9, -1],
      ],
      "N",
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

type Marking =
  | ["gap", from: Point, to: Point, rails: "both" | "left" | "right"]
  | ["block" | "signal" | "sensor", from: Point, to: Point, name: string]
  | ["feeder", from: Point, to: Point, leftGets: "J" | "K"];

/** Sets marks on steps of a line: gaps by the rails that they part, blocks and signals by their names, feeders. */
export function marked(record: RailwayRecord, ...marks: Marking[]): RailwayRecord {
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
