import { Draft } from "../equip/draft.ts";
import { setGap } from "../line/marking.ts";
import { turnoutPort } from "../line/topology.ts";
import { type Section, turningOf } from "../line/turning.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { type Remedy, rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

interface TooShort {
  section: Section;
  trainMetres: number;
  threads: Thread[];
}

export const sectionTooShort = rule<TooShort>({
  id: "section-too-short",
  stage: "line",
  column: null,
  severity: "look",
  title: "A section that turns trains is shorter than the longest train",
  about:
    "The rails of the section change sides while the train is in it. A train that stands over both ends at once, with metal wheels or lit coaches, bridges both gaps, and no side suits both: a short at one end or the other. The longest train has to fit between the gaps.",
  look: ({ record, threads }) =>
    turningOf(record).sections.flatMap((section): TooShort[] => {
      const { trainMetres } = record.railway;
      if (section.metres >= trainMetres) return [];
      const ports = section.gaps.flatMap(({ stretch: { from, to } }) => [from, to].flatMap((port) => port ?? []));
      const ids = new Set(ports.flatMap((port) => turnoutPort(port)?.id ?? []));
      return [{ section, trainMetres, threads: threadsOfTurnouts(threads, ids) }];
    }),
  subject: ({ section }) => section.id,
  where: ({ section }) => sectionName(section),
  turnouts: ({ threads }) => threads,
  why: ({ section, trainMetres }) =>
    `${sectionName(section)} is ${section.metres.toFixed(2)} m between its gaps; the longest train is ${trainMetres} m.`,
  remedies: ({ section, trainMetres }, { record }) => apart(record, section, trainMetres),
});

/** What a section is called: by the blocks in it, else by where it begins. */
export function sectionName({ blocks, gaps: [gap] }: Section): string {
  if (blocks.length > 0) return list(blocks.map(({ name }) => name ?? ""));
  return `The section at ${(gap?.stretch.points[gap.step] ?? []).join(", ")}`;
}

/** The gaps as far apart as the stretch allows, where both lie on it and the train fits in then. */
function apart(record: RailwayRecord, { gaps }: Section, trainMetres: number): Remedy[] {
  const [one, other] = gaps;
  if (!one || !other || gaps.length > 2 || one.stretch !== other.stretch) return [];
  const { points, metres } = one.stretch;
  const last = points.length - 2;
  const between = (metres * (last - 2)) / (points.length - 1);
  if (last < 3 || between < trainMetres) return [];
  const draft = new Draft(record);
  const part = (step: number, rails: "both" | null) =>
    draft.take(setGap(draft.record, points[step] as Point, points[step + 1] as Point, rails));
  for (const { step } of gaps) part(step, null);
  for (const step of [1, last - 1]) part(step, "both");
  const label = `Part the rails farther apart, ${between.toFixed(2)} m`;
  return [{ label, group: draft.group(label) }];
}
