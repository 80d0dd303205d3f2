// @vitest-environment happy-dom
// Marks on the line: where a hand sets them, what is said of signals, and how they are drawn.
import {
  blocksOnLine,
  edit,
  emptyRecord,
  layTrack,
  lineLayout,
  type Mark,
  type RailwayRecord,
  RecordError,
  setGap,
  setMark,
  signalsOn,
} from "@alderman/core";
import { render } from "@testing-library/react";
import { expect, it } from "vitest";
import { LineGround, LineMarks, LineWrong } from "./LineMarks.tsx";
import { boardsOf, markAt, standAt } from "./marking.ts";
import { metresAndSeconds, signalWords, watchWords } from "./words.ts";

const MAIN: [number, number][] = [
  [0, 0],
  [12, 0],
];
const done = (record: RailwayRecord, group: { edits: Parameters<typeof edit>[1] } | null) =>
  edit(record, group?.edits ?? []).record;

/** A straight line with a gap in the middle, a block on each side and a signal before the gap. */
function signalled(): RailwayRecord {
  const empty = emptyRecord("Signals");
  const line = done(empty, layTrack(empty, MAIN).group);
  const parted = done(line, setGap(line, [6, 0], [7, 0], "both"));
  const west = done(parted, setMark(parted, "block", [1, 0], [2, 0], { name: "West" }).group);
  const east = done(west, setMark(west, "block", [9, 0], [10, 0], { name: "East" }).group);
  return done(east, setMark(east, "signal", [5, 0], [6, 0], { name: "S1" }).group);
}
const state = (record: RailwayRecord, ...occupied: string[]) => ({
  occupied: new Set(occupied.map((name) => blocksOnLine(record).named(name)?.id ?? "")),
  held: new Set<string>(),
  lies: () => "normal" as const,
});

it("stands a signal at the side of the track that is pointed at, for the trains that have it on their right", () => {
  const record = signalled();
  const step: [[number, number], [number, number]] = [
    [2, 0],
    [3, 0],
  ];
  const put = ({ group }: ReturnType<typeof markAt>) => (group.edits[0] as { value: Mark }).value;
  // below the track, for trains to the right; above it, for trains to the left
  expect(put(markAt(record, "signal", step, [2.5, 0.5]))).toMatchObject({ x: 2, toX: 3 });
  expect(put(markAt(record, "signal", step, [2.5, -0.5]))).toMatchObject({ x: 3, toX: 2 });
  // a block has no side
  expect(put(markAt(record, "block", step, [2.5, -0.5]))).toMatchObject({ x: 2, toX: 3 });
});

it("says that there is no board to put down, where none is", () => {
  expect(boardsOf(signalled())).toEqual([]);
  expect(() => standAt(signalled(), null, [1, 1])).toThrow(RecordError);
});

it("says what a signal shows and why, and what watches a block, in words", () => {
  const record = signalled();
  const [clear] = signalsOn(record, state(record));
  const [busy] = signalsOn(record, state(record, "East"));
  const [held] = signalsOn(record, { ...state(record), held: new Set([clear!.mark.id]) });
  expect([clear, busy, held].map((signal) => signalWords(record, signal!))).toEqual([
    "yellow: the track ends at a buffer",
    "red: East is occupied",
    "red: it is held",
  ]);
  expect(watchWords(record, { zones: [] })).toBe("nothing");
  // 60 km/h in 1:87.1 is 0.191 m in a second
  expect(metresAndSeconds(record, 1.91)).toBe("1.91 m, 10.0 s");
});

it("draws names, what signals show, where a train stands and what is wrong", () => {
  const record = signalled();
  const busy = state(record, "East");
  const { container } = render(
    <svg>
      <title>Line</title>
      <LineGround record={record} occupied={busy.occupied} chosen={null} />
      <LineMarks
        record={record}
        layout={lineLayout(record)}
        signals={signalsOn(record, busy)}
        occupied={busy.occupied}
        chosen={null}
      />
      <LineWrong
        findings={
          [
            { key: "a", where: "4, 0", kept: null, severity: "stop" },
            { key: "b", where: "5, 0", kept: "on purpose", severity: "stop" },
            { key: "c", where: "East", kept: null, severity: "look" },
          ] as never
        }
      />
    </svg>,
  );
  expect(container.querySelector("[data-aspect]")?.getAttribute("data-aspect")).toBe("red");
  expect([...container.querySelectorAll("text")].map(({ textContent }) => textContent).sort()).toEqual([
    "East",
    "S1",
    "West",
  ]);
  const train = [...container.querySelectorAll("[data-occupied]")];
  expect(train.map((each) => each.getAttribute("data-occupied"))).toEqual(["East"]);
  // from the middle of the gap to the end of the track
  const xs = train[0]!
    .getAttribute("points")!
    .split(" ")
    .map((point) => Number(point.split(",")[0]));
  expect([Math.min(...xs), Math.max(...xs)]).toEqual([6.5 * 28, 12 * 28]);
  expect([...container.querySelectorAll("[data-wrong]")].map((each) => each.getAttribute("data-wrong"))).toEqual([
    "4, 0",
  ]);
});
