// Rails, blocks, signals, times and wire runs of a line, each held against something worked out another way.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted, railway, typed } from "../../testing/build.ts";
import { BALLOON, laid, marked, straightBlocks, stroke } from "../../testing/lines.ts";
import { edit } from "../catalogue/edit.ts";
import { addTurnoutTo } from "../equip/turnouts.ts";
import { emptyRecord, type RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";
import { RecordError } from "../record/problems.ts";
import { signalsAlong } from "./aspects.ts";
import { blocksOnLine, runTogether } from "./blocks.ts";
import { followsFrom } from "./follows.ts";
import { insulatedJoints } from "./insulatedJoints.ts";
import { moveTracks } from "./laying.ts";
import { lineLayout } from "./layout.ts";
import { placeTurnout } from "./marking.ts";
import { changeMark, layOutline, nextName, removeMark, setStand, turnMark } from "./marks.ts";
import { railsOf } from "./rails.ts";
import { reversing } from "./reversing.ts";
import { type Route, routesIn } from "./routes.ts";
import { runOf, runsOnLine } from "./runs.ts";
import { type LineState, reachFrom, signalsOn } from "./signals.ts";
import { automaticThrows, metresPerSecond, serves } from "./timing.ts";
import { explainTurning, turningOf } from "./turning.ts";
import { waysBetween } from "./wayfinding.ts";

const empty = () => emptyRecord("Line");
const drawn = (strokes: readonly Point[][]): RailwayRecord => ({
  ...empty(),
  tracks: strokes.map((points, index) => ({ id: `t${index}`, points, hidden: false })),
});
/** Gaps on some steps of a line, by their numbers among all of its steps. */
function gapped(record: RailwayRecord, picks: readonly [number, "both" | "left" | "right"][]): RailwayRecord {
  const steps = lineLayout(record).stretches.flatMap(({ points }) =>
    points.slice(1).map((to, index): [Point, Point] => [points[index] as Point, to]),
  );
  if (steps.length === 0) return record;
  return picks.reduce((now, [pick, rails]) => {
    const [a, b] = steps[pick % steps.length] as [Point, Point];
    return marked(now, ["gap", a, b, rails]);
  }, record);
}
const gap = fc.tuple(fc.nat(200), fc.constantFrom("both" as const, "left" as const, "right" as const));
const state = (more: Partial<LineState> = {}): LineState => {
  return { occupied: new Set(), held: new Set(), lies: () => "normal", ...more };
};

/** A detector without a place of its own. */
const DETECTOR = {
  ...{ id: "bd", typeId: "current-detector-4", label: "BD1", place: "layout" as const },
  ...{ runMetres: null, note: "" },
};

describe("the rails", () => {
  it("meet their opposites exactly where the line turns trains, and nowhere once its sections are parted", () => {
    fc.assert(
      fc.property(fc.array(stroke, { minLength: 1, maxLength: 6 }), (strokes) => {
        const record = drawn(strokes);
        const layout = lineLayout(record);
        const { conflict, cut } = reversing(layout.line);
        const meets = (of: RailwayRecord) => {
          const rails = railsOf(of);
          return lineLayout(of).stretches.some(
            // track that leads nowhere, or round in a circle, is no part of the graph
            (stretch) =>
              stretch.from !== null &&
              stretch.to !== null &&
              rails.at(stretch, 0, "left") === rails.at(stretch, 0, "right"),
          );
        };
        expect(meets(record)).toBe(conflict);
        const parted = cut.reduce((now, [from, to]) => {
          const stretch = layout.stretches.find((each) => each.from === from && each.to === to);
          const [a, b] = stretch?.points ?? [];
          return a && b ? marked(now, ["gap", a, b, "both"]) : now;
        }, record);
        const rails = railsOf(parted);
        for (const stretch of lineLayout(parted).stretches)
          if (stretch.from !== null && stretch.to !== null)
            expect(rails.at(stretch, stretch.points.length, "left")).not.toBe(
              rails.at(stretch, stretch.points.length, "right"),
            );
      }),
      { numRuns: 200 },
    );
  });

  it("are as long as the track, twice, however they are parted", () => {
    fc.assert(
      fc.property(
        fc.array(stroke, { minLength: 1, maxLength: 5 }),
        fc.array(gap, { maxLength: 6 }),
        (strokes, picks) => {
          const record = gapped(drawn(strokes), picks);
          const { pieces } = railsOf(record);
          const track = lineLayout(record).stretches.reduce((sum, { metres }) => sum + metres, 0);
          expect(pieces.reduce((sum, { metres }) => sum + metres, 0)).toBeCloseTo(2 * track, 6);
          const { blocks } = blocksOnLine(record);
          expect(blocks.reduce((sum, { metres }) => sum + metres, 0)).toBeCloseTo(track, 6);
        },
      ),
      { numRuns: 100 },
    );
  });

  it("are parted on one side only by a gap in one rail, whichever way the mark was set", () => {
    for (const [from, to, rails] of [
      [[4, 0], [5, 0], "left"],
      [[5, 0], [4, 0], "right"],
    ] as [Point, Point, "left" | "right"][]) {
      const record = marked(
        laid(empty(), [
          [
            [0, 0],
            [9, 0],
          ],
        ]),
        ["gap", from, to, rails],
      );
      const [stretch] = lineLayout(record).stretches;
      const found = railsOf(record);
      if (!stretch) throw new Error("no stretch");
      const isEast = stretch.points[0]?.[0] === 0;
      const [north, south] = isEast ? (["left", "right"] as const) : (["right", "left"] as const);
      expect(found.at(stretch, 0, north)).not.toBe(found.at(stretch, 8, north));
      expect(found.at(stretch, 0, south)).toBe(found.at(stretch, 8, south));
    }
  });

  it("behind a live frog are the frog's as far as the next gap, and a joint is wanted where other track comes in", () => {
    const plain = railway(["Y1", "", "stall-motor", "stall-decoder-8"], ["Y2", "", "stall-motor", "D1-2"]);
    const two = typed(typed(plain, "y1", "frog", "S1"), "y2", "frog", "S1");
    // a passing loop: frog faces frog on both tracks
    const loop = laid(
      two,
      [
        [
          [0, 0],
          [14, 0],
        ],
      ],
      [
        [
          [3, 0],
          [5, -2],
          [9, -2],
          [11, 0],
        ],
        "y1",
        "y2",
      ],
    );
    const wanting = insulatedJoints(loop).filter(({ made }) => !made);
    expect(wanting.map(({ where }) => where).sort()).toEqual([
      "Y1 normal, behind the frog",
      "Y1 reverse, behind the frog",
      "Y2 normal, behind the frog",
      "Y2 reverse, behind the frog",
    ]);
    const cured = wanting.reduce((now, { stretch, step, rails }) => {
      const [a, b] = [stretch.points[step], stretch.points[step + 1]] as [Point, Point];
      return marked(now, ["gap", a, b, rails]);
    }, loop);
    expect(insulatedJoints(cured).every(({ made }) => made)).toBe(true);
    // a siding that ends at a buffer is fed through the frog
    const siding = laid(
      two,
      [
        [
          [0, 0],
          [9, 0],
        ],
      ],
      [
        [
          [3, 0],
          [5, -2],
          [9, -2],
        ],
        "y1",
      ],
    );
    expect(insulatedJoints(siding)).toEqual([]);
  });
});

describe("blocks", () => {
  it("go as far as the next gaps, and take the first of their names", () => {
    const record = straightBlocks(empty(), ["A", "B", "C"]);
    const { blocks, named } = blocksOnLine(record);
    expect(blocks.map(({ name }) => name).sort()).toEqual(["A", "B", "C"]);
    expect(named(" b ")?.borders).toHaveLength(2);
    expect(runTogether(blocksOnLine(record))).toEqual([]);
    const gaps = record.marks.filter(({ what }) => what === "gap");
    const joined = edit(record, [{ op: "remove", kind: "mark", id: gaps[0]?.id ?? "" }]).record;
    expect(runTogether(blocksOnLine(joined)).map(({ marks }) => marks.map(({ name }) => name).sort())).toEqual([
      ["A", "B"],
    ]);
  });

  it("are watched by the detectors that name them, and go on being when they are called otherwise", () => {
    const watched = drafted(straightBlocks(railway(["Y1", ""]), ["A", "B"]), (draft) => {
      draft.put("device", DETECTOR);
      draft.assign("block", { deviceId: "bd", way: 2, block: "b", rail: "J" });
    });
    expect(blocksOnLine(watched).named("B")?.zones).toMatchObject([{ way: 2 }]);
    const mark = watched.marks.find((each) => each.what === "block" && each.name === "B");
    const renamed = edit(watched, changeMark(watched, mark?.id ?? "", { name: "Bay" }).edits).record;
    expect(blocksOnLine(renamed).named("Bay")?.zones).toMatchObject([{ way: 2, block: "Bay" }]);
  });

  it("marks get the next free name, are turned, and go", () => {
    const record = straightBlocks(empty(), ["A1", "A2"]);
    expect([nextName(record, "block"), nextName(record, "sensor")]).toEqual(["A3", "P1"]);
    const signal = record.marks.find(({ what }) => what === "signal");
    const turned = edit(record, turnMark(record, signal?.id ?? "")?.edits ?? []).record;
    expect(turned.marks.find(({ what }) => what === "signal")).toMatchObject({ x: 4, toX: 3 });
    expect(edit(record, removeMark(record, signal?.id ?? "")?.edits ?? []).record.marks).toHaveLength(3);
    expect(() => marked(record, ["block", [0, 5], [1, 5], "Z"])).toThrow("There is no track there to mark.");
  });
});

describe("marks", () => {
  it("go along when the whole line is mirrored, turned or shifted: rails, blocks and signals are as they were", () => {
    const moves = fc.constantFrom(
      { mirrored: true },
      { quarters: 1 },
      { quarters: 2, mirrored: true },
      { by: [3, 5] as Point },
    );
    fc.assert(
      fc.property(
        fc.array(stroke, { minLength: 1, maxLength: 4 }),
        fc.array(gap, { maxLength: 4 }),
        fc.array(fc.tuple(fc.nat(200), fc.boolean()), { maxLength: 4 }),
        moves,
        (strokes, picks, places, move) => {
          const plain = gapped(drawn(strokes), picks);
          const steps = lineLayout(plain).stretches.flatMap(({ points }) =>
            points.slice(1).map((to, index): [Point, Point] => [points[index] as Point, to]),
          );
          if (steps.length === 0) return;
          const placed = withTurnouts(plain);
          const full = places.reduce((now, [pick, isTurned], index) => {
            const [a, b] = steps[pick % steps.length] as [Point, Point];
            const feeder = marked(now, ["feeder", a, b, isTurned ? "J" : "K"]);
            return marked(
              feeder,
              ["block", a, b, `B${index}`],
              isTurned ? ["signal", a, b, `S${index}`] : ["signal", b, a, `S${index}`],
            );
          }, placed);
          const moved = movedAll(full, move);
          if (!moved) return;
          const told = (record: RailwayRecord) => {
            const { blocks, rails } = blocksOnLine(record);
            return {
              blocks: blocks
                .map(({ metres, marks }) => `${metres.toFixed(3)} ${marks.map(({ name }) => name).sort()}`)
                .sort(),
              pieces: rails.pieces.map(({ metres, gets }) => `${metres.toFixed(3)} ${[...gets].sort()}`).sort(),
              // some turnouts lie normal, some reverse, whatever has become of their place
              signals: signalsOn(record, state({ lies: (id) => (id.length % 2 ? "normal" : "reverse") }))
                .map(({ mark, aspect }) => `${mark.name} ${aspect}`)
                .sort(),
            };
          };
          expect(moved.marks).toHaveLength(full.marks.length);
          expect(told(moved)).toEqual(told(full));
        },
      ),
      { numRuns: 400 },
    );
  });
});

/** The line with a turnout at each pair of blades. */
function withTurnouts(record: RailwayRecord): RailwayRecord {
  return drafted(record, (draft) => {
    for (const [index, { point, second }] of lineLayout(record).junctions.entries()) {
      const turnout = addTurnoutTo(draft, `Y${10 ** (index % 3)}${index}`);
      draft.take(placeTurnout(draft.record, turnout.id, point, second));
    }
  });
}

/** The line moved as a whole; null where that would be no line any more. */
function movedAll(record: RailwayRecord, move: Parameters<typeof moveTracks>[2]): RailwayRecord | null {
  try {
    const group = moveTracks(
      record,
      record.tracks.map(({ id }) => id),
      move,
    );
    return group && edit(record, group.edits).record;
  } catch (error) {
    if (error instanceof RecordError) return null;
    throw error;
  }
}

describe("signals", () => {
  it("along a straight line show what the calculator for such lines says, whatever is occupied and held", () => {
    const names = ["A", "B", "C", "D", "E"];
    const record = straightBlocks(empty(), names);
    const open = edit(record, [
      { op: "put", kind: "mark", value: { id: "end", what: "end", x: 20, y: 0, name: "on", buffer: false } },
    ]).record;
    const { named } = blocksOnLine(open);
    fc.assert(
      fc.property(
        fc.array(fc.boolean(), { minLength: 5, maxLength: 5 }),
        fc.array(fc.boolean(), { minLength: 5, maxLength: 5 }),
        (busy, holds) => {
          const idOf = (name: string) => named(name)?.id ?? "";
          const signalOf = (name: string) =>
            open.marks.find((each) => each.what === "signal" && each.name === `at ${name}`)?.id ?? "";
          const shown = signalsOn(
            open,
            state({
              occupied: new Set(names.filter((_, index) => busy[index]).map(idOf)),
              held: new Set(
                names
                  .slice(0, 4)
                  .filter((_, index) => holds[index])
                  .map(signalOf),
              ),
            }),
          );
          const told = signalsAlong(
            names.map((id, index) => ({
              id,
              occupied: busy[index] ?? false,
              held: index < 4 && (holds[index] ?? false),
            })),
            false,
            "clear",
          );
          for (const { mark, aspect } of shown) expect(aspect).toBe(told.get(mark.name.slice(3))?.aspect);
          expect(shown).toHaveLength(4);
        },
      ),
    );
  });

  it("are red where blades lie against the way, and yellow before a buffer; each red has its cause", () => {
    const one = railway(["Y1", ""]);
    const line = laid(
      one,
      [
        [
          [0, 0],
          [9, 0],
        ],
      ],
      [
        [
          [2, -2],
          [4, -2],
          [6, 0],
        ],
        "y1",
      ],
    );
    const record = marked(line, ["gap", [3, 0], [4, 0], "both"], ["signal", [2, 0], [3, 0], "S1"]);
    const lying = (lie: "normal" | "reverse") => signalsOn(record, state({ lies: () => lie }))[0];
    expect(lying("normal")).toMatchObject({ aspect: "yellow", cause: null, ends: "buffer" });
    expect(lying("reverse")).toMatchObject({ aspect: "red", cause: { why: "blades", id: "y1" } });
    expect(signalsOn(record, state({ held: new Set([lying("normal")?.mark.id ?? ""]) }))[0]?.cause).toEqual({
      why: "held",
    });
  });

  it("never become less restrictive by a train more, on random lines", () => {
    const rank = { green: 0, yellow: 1, red: 2 };
    fc.assert(
      fc.property(
        fc.array(stroke, { minLength: 1, maxLength: 5 }),
        fc.array(gap, { maxLength: 5 }),
        fc.nat(100),
        fc.nat(100),
        (strokes, picks, at, busy) => {
          const plain = gapped(drawn(strokes), picks);
          const steps = lineLayout(plain).stretches.flatMap(({ points }) =>
            points.slice(1).map((to, index): [Point, Point] => [points[index] as Point, to]),
          );
          if (steps.length === 0) return;
          const [a, b] = steps[at % steps.length] as [Point, Point];
          const [c, d] = steps[(at * 7 + 3) % steps.length] as [Point, Point];
          const record = marked(plain, ["signal", a, b, "S1"], ["signal", d, c, "S2"]);
          const { blocks } = blocksOnLine(record);
          const block = blocks[busy % blocks.length];
          const before = signalsOn(record, state());
          const after = signalsOn(record, state({ occupied: new Set([block?.id ?? ""]) }));
          for (const [index, { aspect, blocks: guarded }] of after.entries()) {
            expect(rank[aspect]).toBeGreaterThanOrEqual(rank[before[index]?.aspect ?? "green"]);
            if (block && guarded.includes(block)) expect(aspect).toBe("red");
            if (aspect === "red") expect(after[index]?.cause).not.toBeNull();
          }
        },
      ),
      { numRuns: 100 },
    );
  });

  it("a train comes to every end that a way leads to without turning back", () => {
    const line = laid(
      railway(["Y1", ""]),
      [
        [
          [0, 0],
          [9, 0],
        ],
      ],
      [
        [
          [3, 0],
          [5, -2],
          [9, -2],
        ],
        "y1",
      ],
    );
    const layout = lineLayout(line);
    const from = layout.stretches.find(({ points }) => points.some(([x]) => x === 0));
    if (!from) throw new Error("no stretch");
    const along = from.points[0]?.[0] === 0;
    const ends = reachFrom(layout, { stretch: from, step: along ? 0 : from.points.length - 2, along });
    expect([...ends.values()].map((metres) => Math.round(metres * 10))).toHaveLength(2);
    const back = reachFrom(layout, { stretch: from, step: 0, along: !along });
    expect(back.size).toBe(1);
  });
});

describe("ways between two places", () => {
  it("between ends are the routes of the line, the shortest first, on random lines", () => {
    fc.assert(
      fc.property(fc.array(stroke, { minLength: 1, maxLength: 6 }), (strokes) => {
        const record = drawn(strokes);
        const { line, stretches } = lineLayout(record);
        const all = [...routesIn(line)].slice(0, 60);
        for (const { from, to } of all.slice(0, 8)) {
          const ways = [...waysBetween(record, { from, to })];
          const metres = ways.map((way) => way.metres);
          expect(metres).toEqual([...metres].sort((a, b) => a - b));
          const named = (settings: Route["settings"]) => JSON.stringify(Object.entries(settings).sort());
          const wanted = [...routesIn(line)].filter((route) => route.from === from && route.to === to);
          expect(ways.map(({ settings }) => named(settings)).sort()).toEqual(
            wanted.map(({ settings }) => named(settings)).sort(),
          );
          for (const way of ways)
            expect(way.metres).toBeCloseTo(
              way.stretches.reduce((sum, each) => sum + (stretches[each]?.metres ?? 0), 0),
            );
        }
      }),
      { numRuns: 100 },
    );
  });

  it("go from block to block, over what they are to go over, and give up when asked to", () => {
    const line = laid(
      railway(["Y1", ""], ["Y2", ""]),
      [
        [
          [0, 0],
          [14, 0],
        ],
      ],
      [
        [
          [3, 0],
          [5, -2],
          [9, -2],
          [11, 0],
        ],
        "y1",
        "y2",
      ],
    );
    const record = marked(
      line,
      ["gap", [1, 0], [2, 0], "both"],
      ["gap", [12, 0], [13, 0], "both"],
      ["gap", [6, -2], [7, -2], "both"],
      ["block", [0, 0], [1, 0], "West"],
      ["block", [13, 0], [14, 0], "East"],
    );
    const idOf = (name: string) => blocksOnLine(record).named(name)?.id ?? "";
    const wanted = { from: idOf("West"), to: idOf("East") };
    const ways = [...waysBetween(record, wanted)];
    expect(ways.map(({ settings }) => settings)).toEqual([
      { y1: "normal", y2: "normal" },
      { y1: "reverse", y2: "reverse" },
    ]);
    // from the middle of the one to the edge of the other
    expect(ways[0]?.metres).toBeCloseTo(0.1 * (1.5 / 2 + 11));
    expect([...waysBetween(record, { ...wanted, via: ["y1"] })]).toHaveLength(2);
    expect([...waysBetween(record, { ...wanted, via: ["nowhere"] })]).toEqual([]);
    const cut = waysBetween(record, wanted, 1);
    let step = cut.next();
    while (!step.done) step = cut.next();
    expect(step.value).toBe(false);
  });
});

describe("times", () => {
  // worked values of common practice: 3 s at 40 mph in 1:87 is 0.62 m, a coil's 0.05 s is 10 mm, 6 s at 30 mph 0.92 m
  it.each([
    [40, 3, 0.62],
    [40, 0.05, 0.01],
    [30, 6, 0.92],
  ])("at %d scale mph a train goes in %d s %d m", (mph, seconds, metres) => {
    expect(metresPerSecond({ scale: 87.1, trainKmh: mph * 1.609344 }) * seconds).toBeCloseTo(metres, 2);
  });

  it("of a turnout that a train throws: by which leg the train comes in, and whether the blades lie in time", () => {
    const loop = drafted(railway(["B1", "", "stall-motor", "input-decoder-4"]), (draft) => {
      draft.put("device", DETECTOR);
      draft.assign("block", { deviceId: "bd", way: 1, block: "In", rail: "J" });
      for (const to of ["N", "R"] as const)
        draft.assign("control", {
          deviceId: "bd",
          turnoutId: "b1",
          way: to === "N" ? 1 : 2,
          to,
          inverse: false,
          follows: false,
        });
    });
    const line = laid(
      loop,
      [
        [
          [-6, 0],
          [4, 0],
        ],
      ],
      [BALLOON, "b1"],
    );
    // the train comes back to B1 over the lower side of the loop
    const record = marked(line, ["gap", [8, 1], [7, 1], "both"], ["block", [6, 1], [5, 1], "In"]);
    const [thrown] = automaticThrows(record);
    expect(thrown).toMatchObject({ to: "N", seconds: 3.1 });
    const legs = thrown?.arrivals.map(({ leg }) => leg);
    expect(legs).toHaveLength(1);
    const geometry = lineLayout(record).junctions[0];
    expect(legs?.[0]).toBe(geometry?.normal === 7 ? "normal" : "reverse");
    expect(thrown && serves(thrown, thrown.arrivals[0] ?? { leg: "toe" })).toBe(legs?.[0] === "normal");
  });
});

describe("sections that turn trains", () => {
  const loop = () =>
    laid(
      railway(["B1", ""]),
      [
        [
          [0, 0],
          [4, 0],
        ],
      ],
      [BALLOON, "b1"],
    );

  it("are explained by following one rail until it meets the other", () => {
    const [told] = explainTurning(loop());
    expect(told?.walk.at(-1)).toMatch(
      /^It comes in at B1 (normal|reverse) on the left\. .* its right rail, and it left as the left one/,
    );
    expect(turningOf(loop())).toEqual({ sections: [], single: [] });
    const once = marked(loop(), ["gap", [6, -2], [7, -2], "both"]);
    expect(turningOf(once)).toMatchObject({ sections: [], single: [{}] });
    const parted = marked(once, ["gap", [6, 1], [7, 1], "both"], ["block", [9, -1], [9, 0], "Loop"]);
    const [section] = turningOf(parted).sections;
    expect(section?.gaps).toHaveLength(2);
    expect(section?.blocks.map(({ name }) => name)).toEqual(["Loop"]);
    // from the middle of one gap's step to the middle of the other's
    expect(section?.metres).toBeCloseTo(0.1 * (0.5 + 1 + 1.41 + 1 + 1.41 + 1 + 0.5), 1);
    // one rail parted once more makes a block, and no section
    const watched = marked(parted, ["gap", [9, 0], [9, -1], "left"]);
    expect(turningOf(watched).sections).toHaveLength(1);
  });

  it("are found where their gaps lie on other stretches than the one that would be cut", () => {
    // a siding within the loop: the section goes from before its first turnout to behind its second
    const hidden = laid(loop(), [
      [
        [5, 1],
        [6, 2],
        [7, 2],
        [8, 1],
      ],
    ]);
    const parted = marked(hidden, ["gap", [6, -2], [7, -2], "both"], ["gap", [4, 0], [5, 1], "both"]);
    const { sections, single } = turningOf(parted);
    expect([sections.length, single.length]).toEqual([1, 0]);
    expect(sections[0]?.gaps).toHaveLength(2);
  });

  it("the sides told differ, on every random line that turns trains", () => {
    fc.assert(
      fc.property(fc.array(stroke, { minLength: 2, maxLength: 6 }), (strokes) => {
        for (const { walk } of explainTurning(drawn(strokes))) {
          const [, comes, left] =
            /its (left|right) rail, and it left as the (left|right) one/.exec(walk.at(-1) ?? "") ?? [];
          expect([comes, left].sort()).toEqual(["left", "right"]);
        }
      }),
      { numRuns: 150 },
    );
  });

  it("without those that are found no way round turns trains, and with gaps that suffice no rail meets its opposite", () => {
    fc.assert(
      fc.property(
        fc.array(stroke, { minLength: 2, maxLength: 5 }),
        fc.array(fc.nat(200), { maxLength: 5 }),
        (strokes, picks) => {
          const record = gapped(
            drawn(strokes),
            picks.map((pick) => [pick, "both"]),
          );
          const { shorted } = followsFrom(record);
          if (shorted.conflict) return;
          const { sections, single } = turningOf(record);
          // what is turned is left out: the links of its stretches, and those that are parted once
          const gone = new Set(
            [...sections.flatMap(({ gaps }) => gaps), ...single].map(({ stretch }) => `${stretch.from} ${stretch.to}`),
          );
          const { line } = lineLayout(record);
          const left = { ...line, links: line.links.filter(([a, b]) => !gone.has(`${a} ${b}`)) };
          expect(reversing(left).conflict).toBe(false);
          expect(sections.length + single.length > 0).toBe(followsFrom(record).turning.conflict);
        },
      ),
      { numRuns: 200 },
    );
  });
});

describe("wire runs", () => {
  it("follow from where the board stands, along the trunk where there is one; a typed run wins", () => {
    const record = drafted(
      laid(
        railway(["Y1", "", "stall-motor", "stall-decoder-8"]),
        [
          [
            [0, 0],
            [9, 0],
          ],
        ],
        [
          [
            [4, 0],
            [6, -2],
          ],
          "y1",
        ],
      ),
      (draft) =>
        draft.take(setStand(draft.record, draft.record.devices.find(({ label }) => label === "D1")?.id ?? "", [10, 5])),
    );
    expect(runOf(record, "y1")).toBeCloseTo(1.1);
    const trunked = edit(
      record,
      layOutline(record, "trunk", [
        [0, 3],
        [12, 3],
      ])?.edits ?? [],
    ).record;
    expect(runOf(trunked, "y1")).toBeCloseTo(0.3 + 0.6 + 0.2);
    const bent = edit(
      record,
      layOutline(record, "trunk", [
        [4, 0],
        [4, 20],
        [10, 20],
        [10, 5],
      ])?.edits ?? [],
    ).record;
    expect(runOf(bent, "y1")).toBeCloseTo(2 + 0.6 + 1.5);
    expect(runsOnLine(edit(bent, []).record)).toBe(runsOnLine(bent));
    const typedRun = edit(
      record,
      record.turnouts.map((value) => ({ op: "put", kind: "turnout", value: { ...value, runMetres: 2.2 } })),
    ).record;
    expect(runOf(typedRun, "y1")).toBe(2.2);
    const [board] = record.marks.filter(({ what }) => what === "stand");
    const measured = edit(
      record,
      changeMark(record, board?.id ?? "", { alongMetres: 3, acrossMetres: 0.5 }).edits,
    ).record;
    expect(runOf(measured, "y1")).toBeCloseTo(3.1);
  });
});
