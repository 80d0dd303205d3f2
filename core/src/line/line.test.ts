// What a line diagram means: places by the directions of their tracks, and the same from whatever order it was laid in.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { BALLOON, stroke } from "../../testing/lines.ts";
import { emptyRecord, type RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";
import { frogNeeds } from "./frogs.ts";
import { nameOfPoint, pointsAlong } from "./lattice.ts";
import { lineLayout } from "./layout.ts";
import { reversing } from "./reversing.ts";
import { linksOfRoute, routesIn } from "./routes.ts";

/** A railway with stretches of track, and slips. */
function drawn(stretches: readonly Point[][], slips: readonly Point[] = []): RailwayRecord {
  return {
    ...emptyRecord("Line"),
    tracks: stretches.map((points, index) => ({ id: `t${index}`, points, hidden: false })),
    marks: slips.map(([x, y], index) => ({ id: `s${index}`, what: "slip", x, y, slip: "double", other: false })),
  };
}

const placeAt = (record: RailwayRecord, x: number, y: number) => lineLayout(record).at.get(nameOfPoint([x, y]));
const main: Point[] = [
  [0, 0],
  [10, 0],
];

describe("where tracks meet", () => {
  it.each([
    [
      "a left-hand turnout",
      [
        [4, 0],
        [6, -2],
      ],
      "turnout",
      { hand: "left", toe: 4, normal: 0, reverse: 1 },
    ],
    [
      "a right-hand turnout",
      [
        [4, 0],
        [6, 2],
      ],
      "turnout",
      { hand: "right", toe: 4, normal: 0, reverse: 7 },
    ],
    [
      "one seen from the other side",
      [
        [4, 0],
        [2, -2],
      ],
      "turnout",
      { hand: "right", toe: 0, normal: 4, reverse: 3 },
    ],
  ])("%s", (_, branch, kind, blades) => {
    const place = placeAt(drawn([main, branch as Point[]]), 4, 0);
    expect(place).toMatchObject({ kind, junctions: [{ ...blades, turnout: null }] });
  });

  it("a wye, a three-way turnout, crossings, a slip, and what is none of them", () => {
    const wye = drawn([
      [
        [0, 0],
        [4, 0],
      ],
      [
        [4, 0],
        [6, -2],
      ],
      [
        [4, 0],
        [6, 2],
      ],
    ]);
    expect(placeAt(wye, 4, 0)).toMatchObject({ kind: "turnout", junctions: [{ hand: "wye", toe: 4 }] });
    const three = drawn([
      main,
      [
        [4, 0],
        [6, -2],
      ],
      [
        [4, 0],
        [6, 2],
      ],
    ]);
    expect(placeAt(three, 4, 0)).toMatchObject({ kind: "three-way", junctions: [{ hand: "left" }, { hand: "right" }] });
    const square = drawn([
      main,
      [
        [4, -3],
        [4, 3],
      ],
    ]);
    expect(placeAt(square, 4, 0)).toMatchObject({ kind: "crossing", acute: false, junctions: [] });
    const acute: Point[] = [
      [1, 3],
      [7, -3],
    ];
    expect(placeAt(drawn([main, acute]), 4, 0)).toMatchObject({ kind: "crossing", acute: true });
    expect(placeAt(drawn([main, acute], [[4, 0]]), 4, 0)).toMatchObject({ kind: "slip", junctions: [{}, {}] });
    const square3 = drawn([
      main,
      [
        [4, 0],
        [4, 3],
      ],
    ]);
    expect(placeAt(square3, 4, 0)?.kind).toBe("unclear");
    expect(
      placeAt(
        drawn([
          [
            [0, 0],
            [4, 0],
            [4, 4],
          ],
        ]),
        4,
        0,
      )?.kind,
    ).toBe("bend");
  });

  it("routes go through a slip every way, through a crossing straight only, and through a three-way turnout to each leg", () => {
    const acute: Point[] = [
      [1, 3],
      [7, -3],
    ];
    const count = (record: RailwayRecord) => [...routesIn(lineLayout(record).line)].length;
    expect(count(drawn([main, acute]))).toBe(2);
    expect(count(drawn([main, acute], [[4, 0]]))).toBe(4);
    expect(
      count(
        drawn([
          main,
          [
            [4, 0],
            [6, -2],
          ],
          [
            [4, 0],
            [6, 2],
          ],
        ]),
      ),
    ).toBe(3);
  });

  it("a balloon loop turns trains, and its stretch has its length", () => {
    const record = drawn([
      [
        [0, 0],
        [4, 0],
      ],
      BALLOON,
    ]);
    // both legs bend away: a wye
    expect(placeAt(record, 4, 0)).toMatchObject({ kind: "turnout", junctions: [{ hand: "wye" }] });
    const { line, stretches } = lineLayout(record);
    expect(reversing(line).conflict).toBe(true);
    const round = stretches.find(
      ({ from, to }) => from !== null && to !== null && !from.startsWith("end") && !to.startsWith("end"),
    )!;
    // 2 + 1 + 1 + 1 slanted steps, 2 + 1 + 3 straight ones of 0.1 m
    expect(round.metres).toBeCloseTo((6 + 5 * Math.SQRT2) * 0.1, 9);
  });

  it("keeps what leaves the lattice, circles and turnouts without track apart, and means nothing by them", () => {
    const record: RailwayRecord = {
      ...drawn([
        [
          [0, 0],
          [5, 2],
        ],
        [
          [0, 5],
          [1, 4],
          [2, 4],
          [3, 5],
          [2, 6],
          [1, 6],
          [0, 5],
        ],
      ]),
      spots: [{ id: "p", turnoutId: "y1", x: 9, y: 9, second: false, turned: false, powerRouting: false }],
    };
    const layout = lineLayout(record);
    expect(layout.astray).toHaveLength(1);
    expect(layout.lost).toHaveLength(1);
    expect(layout.stretches).toMatchObject([{ from: null, to: null }]);
    expect(layout.line).toMatchObject({ turnouts: [], ends: [], links: [] });
  });
});

/** What a layout says, whatever the order it was found in. */
function said(record: RailwayRecord) {
  const { places, stretches, line } = lineLayout(record);
  const sorted = (texts: string[]) => texts.sort();
  return {
    places: sorted(
      places.map(
        ({ point: at, kind, junctions }) =>
          `${at} ${kind} ${junctions.map(({ hand, toe, normal }) => [hand, toe, normal])}`,
      ),
    ),
    links: sorted(line.links.map((link) => [...link].sort().join(" - "))),
    ends: sorted([...line.ends]),
    metres: sorted(stretches.map(({ metres }) => metres.toFixed(6))),
  };
}

it("names every point once, on the lattice and far beyond it", () => {
  const far = fc.integer({ min: -60_000, max: 60_000 });
  fc.assert(
    fc.property(fc.array(fc.tuple(far, far), { maxLength: 20 }), (points) => {
      for (const [x, y] of points) {
        expect(nameOfPoint([x, y])).toBe(`${x},${y}`);
        // a second time, when it is remembered
        expect(nameOfPoint([x, y])).toBe(`${x},${y}`);
      }
    }),
  );
});

describe("whatever is laid", () => {
  it("means the same in any order, cut into steps and turned round", () => {
    fc.assert(
      fc.property(fc.array(stroke, { maxLength: 6 }), fc.nat(), (stretches, seed) => {
        const steps = stretches.flatMap((points) => {
          const along = pointsAlong(points)!;
          return along.slice(1).map((to, index): Point[] => [to, along[index]!]);
        });
        const order = steps.map((step, index) => ({ step, rank: (index * 7919 + seed) % 104_729 }));
        const shuffled = order.sort((a, b) => a.rank - b.rank).map(({ step }) => step);
        expect(said(drawn(shuffled))).toEqual(said(drawn(stretches)));
      }),
      { numRuns: 200 },
    );
  });

  it("has one link at each port, and every step of track in one stretch", () => {
    fc.assert(
      fc.property(fc.array(stroke, { maxLength: 6 }), (stretches) => {
        const { line, stretches: found } = lineLayout(drawn(stretches));
        const ports = line.links.flat();
        expect(new Set(ports).size).toBe(ports.length);
        const steps = new Set(
          stretches.flatMap((points) =>
            pointsAlong(points)!
              .slice(1)
              .map((to, n) => [to, pointsAlong(points)![n]!].map(String).sort().join(" ")),
          ),
        );
        const walked = found.flatMap(({ points }) =>
          points.slice(1).map((to, n) => [to, points[n]!].map(String).sort().join(" ")),
        );
        expect(new Set(walked)).toEqual(steps);
        expect(walked.length).toBe(steps.size);
      }),
      { numRuns: 200 },
    );
  });

  it("gives each frog the rail on whose side it lies, for a train that walks through it either way", () => {
    const vector = (direction: number): Point => [
      Math.round(Math.cos((direction * Math.PI) / 4)),
      -Math.round(Math.sin((direction * Math.PI) / 4)),
    ];
    fc.assert(
      fc.property(fc.array(stroke, { minLength: 2, maxLength: 7 }), fc.boolean(), (stretches, turned) => {
        for (const junction of lineLayout(drawn(stretches)).junctions) {
          const spot = turned
            ? { id: "s", turnoutId: "y", x: 0, y: 0, second: false, turned, powerRouting: false }
            : null;
          for (const { position, rail, edge } of frogNeeds({ ...junction, spot })) {
            const [taken, other] =
              (position === "N") !== turned ? [junction.normal, junction.reverse] : [junction.reverse, junction.normal];
            // the frog is on the side of the route that is not taken; y goes down the sheet
            const [tx, ty] = vector(taken);
            const [ox, oy] = vector(other);
            expect(rail).toBe(tx * oy - ty * ox < 0 ? "left" : "right");
            const [fx, fy] = vector(junction.toe + 4);
            const [sx, sy] = rail === "left" ? [fy, -fx] : [-fy, fx];
            expect(edge).toBe(sy > 0 ? "front" : sy < 0 ? "rear" : sx > 0 ? "right" : "left");
          }
        }
      }),
      { numRuns: 150 },
    );
  });

  it("follows each route from end to end over links that hang together", () => {
    fc.assert(
      fc.property(fc.array(stroke, { minLength: 1, maxLength: 7 }), (stretches) => {
        const { line } = lineLayout(drawn(stretches));
        for (const route of [...routesIn(line)].slice(0, 40)) {
          const links = linksOfRoute(line, route);
          expect(links[0]?.[0]).toBe(route.from);
          expect(links.at(-1)?.[1]).toBe(route.to);
          expect(links).toHaveLength(Object.keys(route.settings).length + 1);
        }
      }),
      { numRuns: 80 },
    );
  });

  it("cuts no rail within a three-way turnout, whichever of its pairs of blades comes first", () => {
    const stretches: Point[][] = [
      [
        [3, 1],
        [1, 1],
        [0, 0],
      ],
      [
        [5, 0],
        [0, 0],
      ],
      [
        [3, 2],
        [3, 1],
        [4, 0],
        [0, 4],
        [1, 4],
        [3, 2],
      ],
    ];
    for (const flip of [1, -1]) {
      const { line } = lineLayout(drawn(stretches.map((points) => points.map(([x, y]): Point => [x, flip * y]))));
      const { cut } = reversing(line);
      expect(cut).toHaveLength(2);
      for (const link of cut) expect(line.within).not.toContainEqual(link);
    }
  });

  it("mirrored changes nothing but hands, and turned by quarters nothing at all", () => {
    fc.assert(
      fc.property(fc.array(stroke, { maxLength: 6 }), (stretches) => {
        const hands = (record: RailwayRecord) =>
          lineLayout(record)
            .junctions.map(({ hand }) => hand)
            .sort();
        const shape = (record: RailwayRecord) => {
          const { kinds, routes } = {
            kinds: lineLayout(record)
              .places.map(({ kind }) => kind)
              .sort(),
            routes: [...routesIn(lineLayout(record).line)].length,
          };
          return { kinds, routes, turns: reversing(lineLayout(record).line).cut.length };
        };
        const changed = (change: (at: Point) => Point) => drawn(stretches.map((points) => points.map(change)));
        const plain = drawn(stretches);
        const mirrored = changed(([x, y]) => [x, -y]);
        const turned = changed(([x, y]) => [-y, x]);
        expect(shape(mirrored)).toEqual(shape(plain));
        expect(shape(turned)).toEqual(shape(plain));
        expect(hands(turned)).toEqual(hands(plain));
        const other = { left: "right", right: "left", wye: "wye" } as const;
        expect(hands(mirrored)).toEqual(
          hands(plain)
            .map((hand) => other[hand])
            .sort(),
        );
      }),
      { numRuns: 300 },
    );
  });
});
