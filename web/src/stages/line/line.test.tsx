// @vitest-environment happy-dom
// Pointing at the line, and how it is drawn: labels keep off the track, blades lie as they were asked.
import {
  Derived,
  edit,
  emptyRecord,
  type Finding,
  layTrack,
  lineLayout,
  nameEnd,
  type RailwayRecord,
} from "@alderman/core";
import { stroke } from "@alderman/core/testing/lines";
import { render } from "@testing-library/react";
import fc from "fast-check";
import { expect, it } from "vitest";
import { gravest, isAbout } from "./concerns.ts";
import { pointMeant, stepsAt, trackNear, tracksIn } from "./hit.ts";
import { LineDrawing } from "./LineDrawing.tsx";
import { anchorOf, drawnAt, labelSide, latticeAt } from "./shapes.ts";
import { STEP } from "./useCamera.ts";

const laid = (...strokes: [number, number][][]): RailwayRecord =>
  strokes.reduce(
    (record, points) => edit(record, layTrack(record, points).group?.edits ?? []).record,
    emptyRecord("Drawn"),
  );
const MAIN: [number, number][] = [
  [0, 0],
  [8, 0],
];
const BRANCH: [number, number][] = [
  [4, 0],
  [6, -2],
];

it("finds the stretch and the step that are meant, and nothing where none is near", () => {
  const record = laid(MAIN, BRANCH);
  const [main, branch] = record.tracks;
  expect(trackNear(record, [2.4, 0.2])).toEqual({
    trackId: main!.id,
    step: [
      [2, 0],
      [3, 0],
    ],
  });
  expect(trackNear(record, [5.5, -1.6])?.trackId).toBe(branch!.id);
  expect(trackNear(record, [2.4, 0.6])).toBeNull();
  expect(tracksIn(record, [9, 1], [-1, -1])).toEqual([main!.id]);
  expect(tracksIn(record, [-1, -3], [9, 1])).toHaveLength(2);
});

it("means a point of the lattice only when one points at it", () => {
  expect(pointMeant([STEP * 3 + 4, STEP * 2 - 4])).toBe("3,2");
  expect(pointMeant([STEP * 3.5, STEP * 2])).toBeNull();
  expect(stepsAt([STEP, STEP / 2])).toEqual([1, 0.5]);
  // no minus nought, which would be another point
  expect(Object.is(latticeAt([-1, -1])[0], 0)).toBe(true);
  expect(latticeAt(drawnAt([-3, 7]) as [number, number])).toEqual([-3, 7]);
});

it("sets labels where no track goes, at any place of any line", () => {
  fc.assert(
    fc.property(fc.array(stroke, { maxLength: 6 }), (strokes) => {
      const tracks = strokes.map((points, index) => ({ id: `t${index}`, points, hidden: false }));
      const { places, around } = lineLayout({ ...emptyRecord("Any"), tracks });
      for (const place of places)
        if (place.directions.length < 8) expect(place.directions).not.toContain(labelSide(place, around));
    }),
    { numRuns: 100 },
  );
  // above the turnout another track runs: its name goes elsewhere
  const { at, around } = lineLayout(
    laid(
      MAIN,
      [
        [4, 0],
        [6, 2],
      ],
      [
        [0, -1],
        [8, -1],
      ],
    ),
  );
  expect(labelSide(at.get("4,0")!, around)).not.toBe(2);
  expect([2, 0, 4].map((side) => anchorOf(side as 0 | 2 | 4))).toEqual(["middle", "start", "end"]);
});

it("draws blades as they were asked, names, and rings around what is wrong", () => {
  const track = laid(MAIN, BRANCH);
  const record = edit(track, nameEnd(track, [8, 0], "Quarry", false).edits).record;
  const { id } = record.turnouts[0]!;
  const draw = (asked: Record<string, "N" | "R">, wrong = new Map<string, "stop" | "look">()) =>
    render(
      <svg>
        <title>Line</title>
        <LineDrawing
          record={record}
          layout={lineLayout(record)}
          asked={asked}
          wrong={wrong}
          chosen={{ tracks: new Set(), place: null }}
        />
      </svg>,
    ).container;
  const blade = (container: HTMLElement) =>
    container.querySelector('path[stroke="var(--copper)"]')?.getAttribute("d") ?? "";
  const [normal, reverse] = [draw({}), draw({ [id]: "R" })];
  const [, , end = ""] = /L([\d.]+) (-?[\d.]+)/.exec(blade(normal)) ?? [];
  expect(Number(end)).toBeCloseTo(0, 6);
  expect(Number(/L[\d.]+ (-?[\d.]+)/.exec(blade(reverse))?.[1])).toBeLessThan(-5);
  expect(normal.textContent).toContain("Y1");
  expect(normal.textContent).toContain("Quarry");
  expect(normal.querySelector('circle[stroke="var(--red)"]')).toBeNull();
  expect(draw({}, new Map([[id, "stop"]])).querySelector('circle[stroke="var(--red)"]')).not.toBeNull();
});

it("shows at a turnout what is about it, and not what is told of many for something that they share", () => {
  const record = laid(MAIN, BRANCH);
  const turnout = record.turnouts[0]!;
  const [finding] = new Derived(record).findings.filter(({ turnoutIds }) => turnoutIds.includes(turnout.id));
  const of = (more: Partial<Finding>): Finding => ({ ...finding!, kept: null, severity: "look", where: "", ...more });
  const many = ["a", "b", "c", turnout.id];
  expect(isAbout(of({ turnoutIds: [turnout.id] }), turnout)).toBe(true);
  expect(isAbout(of({ turnoutIds: many }), turnout)).toBe(false);
  expect(isAbout(of({ turnoutIds: many, where: turnout.label }), turnout)).toBe(true);
  expect(isAbout(of({ turnoutIds: [turnout.id], kept: "as it is" }), turnout)).toBe(false);
  expect(isAbout(of({ turnoutIds: [turnout.id], severity: "note" }), turnout)).toBe(false);
  expect(isAbout(of({ turnoutIds: ["lead"] }), { ...turnout, movesWith: "lead" })).toBe(true);
  const all = [of({ turnoutIds: [turnout.id] }), of({ turnoutIds: [turnout.id], severity: "stop" })];
  expect(gravest(record, all)).toEqual(new Map([[turnout.id, "stop"]]));
  expect(gravest(null, all).size).toBe(0);
});
