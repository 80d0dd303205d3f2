import { Draft } from "../equip/draft.ts";
import { nameOfPoint } from "../line/lattice.ts";
import { type LineLayout, lineLayout } from "../line/layout.ts";
import { liftTurnout } from "../line/marking.ts";
import { isOnStep, removeMark, stepOfMark, stepsOfLine } from "../line/marks.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread } from "../schematic/thread.ts";
import { type Remedy, rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

interface Unclear {
  /** Its own name, the same from one derivation to the next. */
  name: string;
  where: string;
  why: string;
  turnoutIds: string[];
  remedies: (record: RailwayRecord) => Remedy[];
  threads: Thread[];
}

export const lineUnclear = rule<Unclear>({
  id: "line-unclear",
  stage: "line",
  column: null,
  severity: "look",
  title: "Part of the line means nothing",
  about:
    "Track that meets other track runs on into it within an eighth of a turn, or no train goes there: it would be a drawing only. What has no meaning is kept and shown, and left out of routes and all that follows.",
  look: ({ record, threads }) =>
    unclearIn(record, lineLayout(record)).map((each) => ({
      ...each,
      threads: threadsOfTurnouts(threads, new Set(each.turnoutIds)),
    })),
  subject: ({ name }) => name,
  where: ({ where }) => where,
  turnouts: ({ threads }) => threads,
  why: ({ why }) => why,
  remedies: ({ remedies }, { record }) => remedies(record),
});

function unclearIn(record: RailwayRecord, layout: LineLayout): Omit<Unclear, "threads">[] {
  const { places, astray, lost } = layout;
  const meeting = places.flatMap(({ kind, point: [x, y] }): Omit<Unclear, "threads">[] => {
    if (kind !== "unclear" && kind !== "bend") return [];
    const why =
      kind === "bend"
        ? `At ${x}, ${y} track turns by a quarter or more, which no train takes.`
        : `At ${x}, ${y} tracks meet of which none runs on into the others.`;
    return [
      { name: `at-${x}-${y}`.replaceAll("--", "-m"), where: `${x}, ${y}`, why, turnoutIds: [], remedies: () => [] },
    ];
  });
  const off = astray.map(({ id, points }): Omit<Unclear, "threads"> => {
    const [[x, y] = [0, 0]] = points;
    return {
      name: `track-${id}`,
      where: `${x}, ${y}`,
      why: `The stretch that begins at ${x}, ${y} leaves the eight directions of the lattice.`,
      turnoutIds: [],
      remedies: (now) => [takeUpRemedy(now, id)],
    };
  });
  const loose = lost.map(({ turnoutId, x, y }): Omit<Unclear, "threads"> => {
    const label = find(record, "turnout", turnoutId)?.label ?? turnoutId;
    return {
      name: `spot-${turnoutId}`,
      where: label,
      why: `${label} is placed at ${x}, ${y}, where no track branches.`,
      turnoutIds: [turnoutId],
      remedies: (now) => [{ label: `Put ${label} back into the tray`, group: liftTurnout(now, turnoutId) }],
    };
  });
  const steps = stepsOfLine(layout);
  const adrift = record.marks.flatMap((mark): Omit<Unclear, "threads">[] => {
    const isThere = isOnStep(mark)
      ? steps.has(stepOfMark(mark))
      : mark.what === "stand" || layout.around.has(nameOfPoint([mark.x, mark.y]));
    if (isThere) return [];
    const name = "name" in mark ? `${mark.what} ${mark.name}` : mark.what;
    return [
      {
        ...{ name: `mark-${mark.id}`, where: `${mark.x}, ${mark.y}`, turnoutIds: [] },
        why: `The ${name} is marked at ${mark.x}, ${mark.y}, where there is no track.`,
        remedies: (now) => [{ label: `Take the ${name} away`, group: removeMark(now, mark.id) }],
      },
    ];
  });
  return [...meeting, ...off, ...loose, ...adrift];
}

function takeUpRemedy(record: RailwayRecord, trackId: string): Remedy {
  const draft = new Draft(record);
  draft.remove("track", trackId);
  return { label: "Take that stretch up", group: draft.group("Took up a stretch that left the lattice") };
}
