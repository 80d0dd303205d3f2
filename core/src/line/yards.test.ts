// Yards on the line: what roads they offer, and whether the turnouts of a route make one way.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { railway } from "../../testing/build.ts";
import { laid, stroke } from "../../testing/lines.ts";
import { emptyRecord, type RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";
import { RecordError } from "../record/problems.ts";
import { lineLayout } from "./layout.ts";
import { routesIn } from "./routes.ts";
import type { Lie } from "./topology.ts";
import { offTheWay, proposedRoutes, yardEnds } from "./yards.ts";

/** A ladder of three roads up from the main line, with a ladder down again where it has two ends. */
function yard(ends: 1 | 2): RailwayRecord {
  const labels = ends === 2 ? ["w1", "w2", "e1", "e2"] : ["w1", "w2"];
  const record = railway(...labels.map((label) => [label.toUpperCase()]));
  const far: Point[] =
    ends === 2
      ? [
          [10, -2],
          [12, 0],
        ]
      : [[14, -2]];
  return laid(
    record,
    [
      [
        [0, 0],
        [14, 0],
      ],
    ],
    [[[2, 0], [4, -2], ...far], ...(ends === 2 ? ["w1", "e1"] : ["w1"])],
    [
      [
        [3, -1],
        [ends === 2 ? 11 : 14, -1],
      ],
      ...(ends === 2 ? ["w2", "e2"] : ["w2"]),
    ],
  );
}

/** Lays a stroke, where it makes no turn that is too sharp. */
function layIfAllowed(record: RailwayRecord, points: Point[]): RailwayRecord {
  try {
    return laid(record, [points]);
  } catch (error) {
    if (error instanceof RecordError) return record;
    throw error;
  }
}

const told = (record: RailwayRecord) =>
  proposedRoutes(record).map(({ routes }) =>
    routes.map(({ label, settings }) => `${label}: ${settings.map(({ turnoutId, to }) => turnoutId + to).join(" ")}`),
  );

describe("what a line offers", () => {
  it("is the roads of a yard, from one side to the other, straight on to the first", () => {
    expect(told(yard(1))).toEqual([["Road 1: w1N", "Road 2: w1R w2R", "Road 3: w1R w2N"]]);
  });

  it("is both ends at once where two lead to the same roads, and each by itself", () => {
    const [both, ...single] = told(yard(2));
    expect(both!.map((route) => route.split(": ")[1]!.split(" ").sort().join(" "))).toEqual([
      "e1N w1N",
      "e1R e2R w1R w2R",
      "e1R e2N w1R w2N",
    ]);
    expect(single).toHaveLength(2);
  });

  it("is nothing where two tracks only part, nor from a crossover", () => {
    const one = laid(
      railway(["A"]),
      [
        [
          [0, 0],
          [9, 0],
        ],
      ],
      [
        [
          [2, 0],
          [4, -2],
          [9, -2],
        ],
        "a",
      ],
    );
    expect(yardEnds(one)).toEqual([]);
    const pair = laid(
      railway(["A"], ["B"]),
      [
        [
          [0, 0],
          [9, 0],
        ],
      ],
      [
        [
          [0, -1],
          [9, -1],
        ],
      ],
      [
        [
          [4, 0],
          [5, -1],
        ],
        "a",
        "b",
      ],
    );
    expect(yardEnds(pair)).toEqual([]);
  });
});

describe("whether turnouts make one way", () => {
  it("is so for every route of any line, and offered routes are among them", () => {
    fc.assert(
      fc.property(fc.array(stroke, { minLength: 2, maxLength: 7 }), (strokes) => {
        const record = strokes.reduce(layIfAllowed, emptyRecord("Line"));
        const { line } = lineLayout(record);
        let looked = 0;
        for (const { settings } of routesIn(line, 300)) {
          if (++looked > 20) break;
          const lies = new Map(Object.entries(settings) as [string, Lie][]);
          expect(offTheWay(record, lies)).toEqual({ left: [], against: null });
        }
        for (const { routes } of proposedRoutes(record))
          for (const { settings } of routes) {
            const lies = new Map(
              settings.map(({ turnoutId, to }): [string, Lie] => [turnoutId, to === "N" ? "normal" : "reverse"]),
            );
            expect(offTheWay(record, lies).left).toEqual([]);
          }
      }),
      { numRuns: 120 },
    );
  });

  it("is not so for turnouts on two roads, and says which one a train would run against", () => {
    const lies = (settings: Record<string, Lie>) => new Map(Object.entries(settings));
    expect(offTheWay(yard(1), lies({ w1: "normal", w2: "reverse" }))).toEqual({ left: ["w2"], against: null });
    expect(offTheWay(yard(2), lies({ w1: "normal", e1: "reverse" }))).toEqual({ left: ["e1"], against: "e1" });
  });
});
