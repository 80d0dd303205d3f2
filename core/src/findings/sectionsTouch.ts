import { turnoutPort } from "../line/topology.ts";
import { type Section, turningOf } from "../line/turning.ts";
import type { Thread } from "../schematic/thread.ts";
import { rule } from "./rule.ts";
import { sectionName } from "./sectionTooShort.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

interface Touching {
  one: Section;
  other: Section;
  threads: Thread[];
}

export const sectionsTouch = rule<Touching>({
  id: "sections-touch",
  stage: "line",
  column: null,
  severity: "look",
  title: "Two sections that turn trains meet at one gap",
  about:
    "Each section's rails change sides when a train comes in. Where two meet with nothing between, a wheel on the gap may make both change at once, and they chase each other. Leave a stretch of plain track between, longer than an engine, or let one reverser serve both.",
  look: ({ record, threads }) =>
    turningOf(record).sections.flatMap((one, index, all) =>
      one.touches.flatMap((other): Touching[] => {
        if (all.indexOf(other) < index) return [];
        const gaps = [...one.gaps, ...other.gaps];
        const ports = gaps.flatMap(({ stretch: { from, to } }) => [from, to].flatMap((port) => port ?? []));
        const ids = new Set(ports.flatMap((port) => turnoutPort(port)?.id ?? []));
        return [{ one, other, threads: threadsOfTurnouts(threads, ids) }];
      }),
    ),
  subject: ({ one, other }) => `${one.id}-${other.id}`.slice(0, 80),
  where: ({ one, other }) => `${sectionName(one)}/${sectionName(other)}`.slice(0, 40),
  turnouts: ({ threads }) => threads,
  why: ({ one, other }) =>
    `${sectionName(one)} and ${sectionName(other)} turn trains, and meet at a gap with no other track between.`,
  remedies: () => [],
});
