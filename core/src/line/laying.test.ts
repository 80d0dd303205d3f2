// Laying, taking up, moving and marking: nothing is drawn that has no meaning, and nothing is lost.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { smallRailway } from "../../testing/build.ts";
import { BALLOON, laid, stroke } from "../../testing/lines.ts";
import { edit } from "../catalogue/edit.ts";
import { applyEdits, type EditGroup } from "../record/edits.ts";
import { emptyRecord, type RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";
import { RecordError } from "../record/problems.ts";
import { readRailwayFile, writeRailwayFile } from "../record/railwayFile.ts";
import { couple, followsFrom, routesBetweenEnds } from "./follows.ts";
import { type Becoming, becomesAlong, layTrack, moveTracks, nextLabel, takeUp, takeUpStep } from "./laying.ts";
import { lineLayout } from "./layout.ts";
import {
  liftTurnout,
  nameEnd,
  openJunctions,
  placeTurnout,
  setGap,
  setHidden,
  setSlip,
  trayOf,
  turnNormal,
} from "./marking.ts";

const done = (record: RailwayRecord, group: EditGroup | null) => edit(record, group?.edits ?? []).record;
const MAIN: Point[] = [
  [0, 0],
  [12, 0],
];
const BRANCH: Point[] = [
  [4, 0],
  [6, -2],
  [12, -2],
];
const yard = () => laid(emptyRecord("Yard"), [MAIN], [BRANCH]);
const refused = (make: () => unknown) => {
  try {
    make();
  } catch (error) {
    if (error instanceof RecordError) return error.problems[0]!.message;
    throw error;
  }
  return "";
};

describe("laying", () => {
  it("says what comes into being, and makes a turnout of the list of it", () => {
    const main = laid(emptyRecord("Yard"), [MAIN]);
    const { group, becomes } = layTrack(main, BRANCH);
    expect(becomes).toEqual([{ point: [4, 0], words: "left-hand turnout, Y1" }]);
    expect(group?.words).toBe("Laid track: left-hand turnout, Y1");
    const now = done(main, group);
    expect(now.turnouts).toMatchObject([{ label: "Y1", hand: "left" }]);
    expect(now.spots).toMatchObject([{ turnoutId: "y1", x: 4, y: 0 }]);
    expect(
      layTrack(now, [
        [8, 0],
        [10, 2],
      ]).becomes[0]?.words,
    ).toBe("right-hand turnout, Y2");
    expect(layTrack(now, [[3, 0]]).group).toBeNull();
    expect(
      layTrack(now, [
        [1, 3],
        [1, -3],
      ]).becomes,
    ).toEqual([{ point: [1, 0], words: "crossing" }]);
  });

  it("takes turnouts from the tray, whose hand is theirs if it was known", () => {
    const list = smallRailway();
    const [first, second] = trayOf(list);
    const now = laid(list, [MAIN], [BRANCH, second!.id]);
    expect(now.turnouts).toHaveLength(list.turnouts.length);
    expect(trayOf(now).map(({ id }) => id)).toContain(first!.id);
    expect(trayOf(now).map(({ id }) => id)).not.toContain(second!.id);
  });

  it("refuses what no train would run on, with what to do", () => {
    const now = yard();
    expect(
      refused(() =>
        layTrack(now, [
          [8, 0],
          [8, 3],
        ]),
      ),
    ).toMatch(/branch off by an eighth of a turn/);
    expect(
      refused(() =>
        layTrack(now, [
          [20, 0],
          [22, 0],
          [22, 2],
        ]),
      ),
    ).toMatch(/turn by a quarter or more/);
    expect(
      refused(() =>
        layTrack(now, [
          [0, 5],
          [3, 6],
        ]),
      ),
    ).toMatch(/eight directions/);
    const three: Point[] = [
      [4, 0],
      [6, 2],
    ];
    expect(refused(() => layTrack(now, three))).toMatch(/press 3 to make it one/);
    const made = done(now, layTrack(now, three, { threeWay: true }).group);
    expect(lineLayout(made).at.get("4,0")?.kind).toBe("three-way");
    expect(made.turnouts).toHaveLength(2);
  });

  it("takes a name from an end that is none any more, and says so", () => {
    const named = done(yard(), nameEnd(yard(), [12, 0], "road 1", true));
    const { becomes, group } = layTrack(named, [
      [12, 0],
      [15, 0],
    ]);
    expect(becomes).toEqual([{ point: [12, 0], words: 'end "road 1" is none any more', goes: true }]);
    expect(done(named, group).marks).toEqual([]);
    expect(refused(() => nameEnd(named, [5, 0], "x", true))).toBe("No track ends at 5, 0.");
  });

  it("numbers after the nearest turnout of its kind", () => {
    const now = yard();
    expect(nextLabel(now, [5, 0])).toBe("Y2");
    const renamed = { ...now, turnouts: now.turnouts.map((turnout) => ({ ...turnout, label: "Dock 9" })) };
    expect(nextLabel(renamed, [5, 0])).toBe("Dock 10");
  });
});

describe("changing", () => {
  it("puts a turnout that has lost its track back into the tray, with all that it has", () => {
    const now = yard();
    const [, branch] = now.tracks;
    const group = takeUp(now, [branch!.id]);
    expect(group?.words).toBe("Took up 1 stretch of track: Y1 is in the tray again");
    const without = done(now, group);
    expect(without.spots).toEqual([]);
    expect(without.turnouts).toEqual(now.turnouts);
    expect(takeUp(now, ["nowhere"])).toBeNull();
    const step = done(now, takeUpStep(now, [8, 0], [9, 0]));
    expect(step.tracks).toHaveLength(3);
    expect(lineLayout(step).ends).toHaveLength(5);
  });

  it("moves, turns and mirrors stretches with what lies on them, and copies track alone", () => {
    const now = done(yard(), setGap(yard(), [8, 0], [9, 0], "left"));
    const all = now.tracks.map(({ id }) => id);
    const moved = done(now, moveTracks(now, all, { by: [3, 5] }));
    expect(moved.spots).toMatchObject([{ x: 7, y: 5 }]);
    expect(moved.marks).toMatchObject([{ x: 11, y: 5, toX: 12, toY: 5, rails: "left" }]);
    expect(lineLayout(moved).junctions).toMatchObject([{ hand: "left", turnout: { label: "Y1" } }]);
    const mirrored = done(now, moveTracks(now, all, { mirrored: true }));
    expect(lineLayout(mirrored).junctions).toMatchObject([{ hand: "right", turnout: { label: "Y1" } }]);
    expect(mirrored.marks).toMatchObject([{ rails: "right" }]);
    const round = [1, 2, 3, 4].reduce((each) => done(each, moveTracks(each, all, { quarters: 1 })), now);
    expect(round).toEqual(now);
    const copied = done(now, moveTracks(now, all, { by: [0, 8] }, true));
    expect(copied.tracks).toHaveLength(4);
    expect(copied.turnouts.map(({ label }) => label)).toEqual(["Y1", "Y2"]);
  });

  it("lets a turnout go along with its branch", () => {
    const now = yard();
    const group = moveTracks(now, [now.tracks[1]!.id], { by: [2, 0] });
    expect(group?.words).toBe("Moved 1 stretch");
    const moved = done(now, group);
    expect(moved.spots).toMatchObject([{ turnoutId: "y1", x: 6, y: 0 }]);
    expect(moved.turnouts).toEqual(now.turnouts);
  });

  it("puts turnouts at blades, exchanges them, and takes them off", () => {
    const list = laid(smallRailway(), [MAIN], [BRANCH, "m1"]);
    const now = done(list, placeTurnout(list, "y1", [4, 0]));
    expect(now.spots).toMatchObject([{ turnoutId: "y1" }]);
    expect(trayOf(now).map(({ id }) => id)).toContain("m1");
    const lifted = done(now, liftTurnout(now, "y1"));
    expect(openJunctions(lifted)).toHaveLength(1);
    expect(liftTurnout(lifted, "y1")).toBeNull();
    expect(refused(() => placeTurnout(lifted, "y1", [5, 0]))).toMatch(/no blades at 5, 0/);
    // the leg that the owner calls normal is where routes lie
    const turned = done(now, turnNormal(now, "y1"));
    const lie = (record: RailwayRecord) =>
      routesBetweenEnds(record).routes.find(({ to, from }) => [from, to].includes("end 12,0"))?.settings.y1;
    expect([lie(now), lie(turned)]).toEqual(["normal", "reverse"]);
  });

  it("gives a crossing blades and takes them away, with their turnouts", () => {
    const crossing = laid(
      emptyRecord("Crossing"),
      [MAIN],
      [
        [
          [2, 4],
          [10, -4],
        ],
      ],
    );
    const slip = done(crossing, setSlip(crossing, [6, 0], "double"));
    expect(slip.turnouts.map(({ label }) => label)).toEqual(["Y1", "Y2"]);
    expect(routesBetweenEnds(slip).routes).toHaveLength(4);
    // a single slip leads over by one of its two curves
    const ways = (record: RailwayRecord) =>
      routesBetweenEnds(record).routes.map(({ from, to }) => [from, to].sort().join(" "));
    const single = done(slip, setSlip(slip, [6, 0], "single"));
    const turned = done(slip, setSlip(slip, [6, 0], "single", true));
    expect([ways(single).length, ways(turned).length]).toEqual([3, 3]);
    expect(new Set([...ways(single), ...ways(turned)])).toEqual(new Set(ways(slip)));
    expect(ways(done(single, turnNormal(single, "y1"))).sort()).toEqual(ways(single).sort());
    const without = done(slip, setSlip(slip, [6, 0], null));
    expect(without.spots).toEqual([]);
    expect(without.turnouts).toHaveLength(2);
    expect(setSlip(crossing, [6, 0], null)).toBeNull();
    expect(refused(() => setSlip(crossing, [3, 0], "single"))).toMatch(/Only a crossing by an eighth/);
  });

  it("parts rails and joins them, and says what is out of sight", () => {
    const now = yard();
    const parted = done(now, setGap(now, [8, 0], [9, 0], "both"));
    expect(done(parted, setGap(parted, [9, 0], [8, 0], null)).marks).toEqual([]);
    expect(refused(() => setGap(now, [8, 3], [9, 3], "both"))).toBe("There is no track to part there.");
    const hidden = done(now, setHidden(now, [now.tracks[1]!.id], true));
    expect(followsFrom(hidden).hiddenMetres).toBeCloseTo((6 + 2 * Math.SQRT2) * 0.1, 9);
    expect(setHidden(now, [now.tracks[1]!.id], false)).toBeNull();
  });
});

describe("what follows", () => {
  it("is the same track whatever a turnout is called, and names it as it is called now", () => {
    const now = yard();
    const before = lineLayout(now);
    const renamed = { ...now, turnouts: now.turnouts.map((turnout) => ({ ...turnout, label: "Dock" })) };
    const layout = lineLayout(renamed);
    expect(layout.line).toBe(before.line);
    expect(layout.at.get("4,0")?.junctions[0]?.turnout?.label).toBe("Dock");
    expect(layout.junctions[0]).toBe(layout.at.get("4,0")?.junctions[0]);
    expect(routesBetweenEnds(renamed).routes).toBe(routesBetweenEnds(now).routes);
    expect(lineLayout(now)).toEqual(before);
  });

  it("a diagonal between parallels is a crossover, offered to be thrown together", () => {
    const now = laid(
      emptyRecord("Two"),
      [MAIN],
      [
        [
          [0, 2],
          [12, 2],
        ],
      ],
      [
        [
          [4, 0],
          [6, 2],
        ],
      ],
    );
    const [crossover] = followsFrom(now).crossovers;
    expect(crossover).toMatchObject({ isCoupled: false, pair: [{ label: "Y1" }, { label: "Y2" }] });
    const coupled = done(now, couple(now, crossover!));
    expect(followsFrom(coupled).crossovers).toMatchObject([{ isCoupled: true }]);
    expect(followsFrom(yard()).crossovers).toEqual([]);
  });

  it("a loop turns trains until it is cut, and is named with its legs", () => {
    const now = laid(
      emptyRecord("Loop"),
      [
        [
          [0, 0],
          [4, 0],
        ],
      ],
      [BALLOON],
    );
    const { turning, shorted } = followsFrom(now);
    expect(turning.cut).toEqual([["y1.normal", "y1.reverse"]]);
    expect(shorted.conflict).toBe(true);
    const parted = done(now, setGap(now, [6, -2], [7, -2], "both"));
    expect(followsFrom(parted)).toMatchObject({ turning: { conflict: true }, shorted: { conflict: false } });
    // one rail parted is one rail joined
    const half = done(now, setGap(now, [6, -2], [7, -2], "left"));
    expect(followsFrom(half).shorted.conflict).toBe(true);
  });
});

it("whatever is laid, taken up and moved has meaning, and is undone to the letter", () => {
  const deeds = fc.array(
    fc.oneof(
      fc.record({ lay: stroke }),
      fc.record({ up: fc.nat(20) }),
      fc.record({ step: fc.nat(40) }),
      fc.record({
        move: fc.nat(20),
        by: fc.tuple(fc.integer({ min: -3, max: 3 }), fc.integer({ min: -3, max: 3 })),
        quarters: fc.nat(3),
        mirrored: fc.boolean(),
      }),
    ),
    { maxLength: 12 },
  );
  fc.assert(
    fc.property(deeds, (all) => {
      let record = emptyRecord("Any");
      for (const deed of all) {
        const before = record;
        try {
          record = applied(record, deed);
        } catch (error) {
          if (!(error instanceof RecordError)) throw error;
          expect(error.message).toMatch(/^\S.*[.]$/s);
        }
        const { junctions, lost } = lineLayout(record);
        // everything that was laid has a turnout at each pair of blades, and no turnout lies on nothing
        expect(lost).toEqual([]);
        expect(junctions.filter(({ turnout }) => turnout === null)).toEqual([]);
        expect(record.turnouts.length).toBeGreaterThanOrEqual(before.turnouts.length);
      }
      expect(readRailwayFile(writeRailwayFile(record))).toEqual(record);
      void followsFrom(record);
      void routesBetweenEnds(record);
    }),
    { numRuns: 150 },
  );

  type Deed =
    | { lay: Point[] }
    | { up: number }
    | { step: number }
    | { move: number; by: Point; quarters: number; mirrored: boolean };
  function applied(record: RailwayRecord, deed: Deed): RailwayRecord {
    const group = groupOf(record, deed);
    if (!group) return record;
    const { record: now, inverses } = applyEdits(record, group.edits);
    expect(applyEdits(now, inverses).record).toEqual(record);
    return now;
  }
  function said(all: readonly Becoming[]): string[] {
    return all.map(({ point, words }) => `${point} ${words.replace(/, Y\d+$/, "")}`).sort();
  }
  function groupOf(record: RailwayRecord, deed: Deed): EditGroup | null {
    if ("lay" in deed) {
      const { group, becomes } = layTrack(record, deed.lay, { threeWay: true });
      // what is told while one draws is what comes
      const told = becomesAlong(record, deed.lay, { threeWay: true });
      expect(said(told)).toEqual(said(becomes.filter(({ goes }) => !goes)));
      return group;
    }
    const track = (number: number) => record.tracks[number % Math.max(1, record.tracks.length)];
    if ("up" in deed) return takeUp(record, [track(deed.up)?.id ?? ""]);
    if ("step" in deed) {
      const { stretches } = lineLayout(record);
      const points = stretches[deed.step % Math.max(1, stretches.length)]?.points ?? [];
      return points.length < 2 ? null : takeUpStep(record, points[0]!, points[1]!);
    }
    return moveTracks(record, [track(deed.move)?.id ?? ""], deed);
  }
});
