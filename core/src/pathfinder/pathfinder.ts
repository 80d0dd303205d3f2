import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { laidCable } from "../loom/cables.ts";
import type { WorkPlace } from "../loom/places.ts";
import { progressOf } from "../loom/progress.ts";
import { setLaying, type WaysOfLaying } from "../loom/proposing.ts";
import type { Loom } from "../loom/wire.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { isJunction } from "../record/made.ts";
import { MOTOR_TAILS, STRIP_PLACES, TOPOLOGIES } from "../record/schemas.ts";
import { needsOf } from "../stock/needs.ts";
import { stockLines } from "../stock/stock.ts";
import { workPlan } from "../tasks/tasks.ts";
import { GAUGES, type Gauge, ohmsPerMetre } from "../units/gauge.ts";

/** A way to lay the whole loom, derived and solved: what it takes, and what would be beyond its limits. */
export interface LaidWay {
  id: string;
  fields: WayFields;
  /** The railway is laid so now. */
  present: boolean;
  /** Single wire and cable to cut, metres. */
  wire: number;
  cable: number;
  strips: number;
  splices: number;
  /** Joints that are not made yet, by where they are made. */
  joints: Record<WorkPlace, number>;
  /** All that is left to do, at the owner's pace. */
  minutes: number;
  /** What is to be bought of wire, cables, strips and small parts, beyond what is on the shelf, in the railway's currency. */
  cost: number;
  /** Wires that are made or kept and would serve nothing, beyond those that serve nothing now. */
  unused: number;
  /** Findings of drop, trip and reach, as "title: where". */
  beyond: string[];
}

/** What one way says that another says otherwise. */
export type WayFields = Pick<WaysOfLaying, "stripsAt" | "motorTails" | "commons" | "cableGauge">;

/** Rules by which wire is too thin, too long, or not protected. */
const LIMITS: readonly string[] = [
  "wire-over-current",
  "wire-not-protected",
  "short-would-not-trip",
  "plug-over-current",
  "pulse-lost-in-wire",
  "unit-too-weak",
  "lamp-volts-lost",
  "longer-than-reel",
  "strip-out-of-reach",
  "crowded-terminal",
];

/** Thicker cores are tried for so many ways, the best first. */
const MOST_THICKER = 3;
/** A way that takes more wire than the least by no more than this share is as good. */
const AS_GOOD = 0.05;

/**
 * Every way to lay the loom that differs for this railway: strips beside the boards or in each zone, motors by single wires or
 * by tails, commons as star, chain or bus; and thicker cores for the best of them where these are beyond a limit. What is
 * made or kept stays as it is in all of them. Each is derived and solved when it is asked for.
 *
 * @returns each way, with the share of the work that is done by then
 */
export function* waysToLay(record: RailwayRecord): Generator<{ way: LaidWay; share: number }> {
  const before = new Derived(record);
  const plain = plainWays(record, before);
  const found: LaidWay[] = [];
  const of = plain.length + 2 * MOST_THICKER;
  const seen = new Set<string>();
  for (const [index, fields] of plain.entries()) {
    const { way, loom } = laid(before, fields);
    // what makes no difference here is told once, as it is now or as the simplest that comes to it
    const name = loom.wires
      .map(({ element, metres }) => `${element} ${metres}`)
      .sort()
      .join();
    if (seen.has(name)) continue;
    seen.add(name);
    found.push(way);
    yield { way, share: (index + 1) / of };
  }
  const best = ranked(found).slice(0, MOST_THICKER);
  for (const { fields, beyond } of best) {
    for (const cableGauge of beyond.length > 0 ? thicker(fields.cableGauge) : []) {
      const { way } = laid(before, { ...fields, cableGauge });
      found.push(way);
      yield { way, share: Math.min(1, found.length / of) };
    }
  }
}

/** The edits by which a railway is laid in a way; null when it is laid so. */
export function layAs(record: RailwayRecord, fields: Partial<WaysOfLaying>) {
  return setLaying(record, new Derived(record).loom, fields);
}

/**
 * Ways with the best first: fewest beyond their limits, and what is made serves; of those the least wire, and of ways that take about as much the
 * fewest joints underneath.
 */
export function ranked(ways: readonly LaidWay[]): LaidWay[] {
  const metres = ({ wire, cable }: LaidWay) => wire + cable;
  const least = new Map<number, number>();
  for (const way of ways) {
    const { length } = way.beyond;
    least.set(length, Math.min(least.get(length) ?? Number.POSITIVE_INFINITY, metres(way)));
  }
  const excess = (way: LaidWay) => {
    const best = least.get(way.beyond.length) ?? 0;
    return metres(way) <= best * (1 + AS_GOOD) ? 0 : metres(way);
  };
  return [...ways].sort(
    (a, b) =>
      a.beyond.length - b.beyond.length ||
      a.unused - b.unused ||
      excess(a) - excess(b) ||
      a.joints.underneath - b.joints.underneath ||
      metres(a) - metres(b) ||
      Number(b.present) - Number(a.present),
  );
}

/** Ways with the cores that the railway has, as it is laid now first; no choice where it would make no difference. */
function plainWays({ railway, zones }: RailwayRecord, { schematic }: Derived): WayFields[] {
  const isPulsed = schematic.nets.some(({ purpose }) => purpose === "pulse-return" || purpose === "pulse-plus");
  const nowFirst = <T>(all: readonly T[], now: T): T[] => [now, ...all.filter((each) => each !== now)];
  const commons = isPulsed ? nowFirst(TOPOLOGIES, railway.commons) : [railway.commons];
  const places = zones.length > 0 ? nowFirst(STRIP_PLACES, railway.stripsAt) : [railway.stripsAt];
  return places.flatMap((stripsAt) =>
    nowFirst(MOTOR_TAILS, railway.motorTails).flatMap((motorTails) =>
      commons.map((topology) => ({ stripsAt, motorTails, commons: topology, cableGauge: railway.cableGauge })),
    ),
  );
}

/** The next thicker sizes of the same kind, two at most. */
function thicker(gauge: Gauge): Gauge[] {
  const isMetric = gauge.endsWith("mm2");
  return GAUGES.filter((other) => other.endsWith("mm2") === isMetric && ohmsPerMetre(other) < ohmsPerMetre(gauge))
    .sort((a, b) => ohmsPerMetre(b) - ohmsPerMetre(a))
    .slice(0, 2);
}

function laid(before: Derived, fields: WayFields): { way: LaidWay; loom: Loom } {
  const group = setLaying(before.record, before.loom, fields);
  const record = group ? edit(before.record, group.edits).record : before.record;
  const derived = group ? new Derived(record, before) : before;
  const { loom, schematic, findings } = derived;
  const singles = loom.wires.filter(({ core }) => core === null);
  const metres = (lengths: readonly number[]) => Math.round(lengths.reduce((sum, each) => sum + each, 0) * 100) / 100;
  const { bench, front, underneath } = progressOf(loom.wires);
  const lines = stockLines(record, needsOf({ record, loom, schematic }));
  const plan = workPlan(record, loom, schematic, lines);
  const way: LaidWay = {
    id: Object.values(fields).join(" "),
    fields,
    present: group === null,
    wire: metres(singles.map(({ cutMetres }) => cutMetres)),
    cable: metres(loom.cables.map((cable) => laidCable(record.railway, loom, cable).cutMetres)),
    strips: loom.strips.filter(({ kind }) => kind === "screws").length,
    splices: loom.strips.filter(isJunction).length,
    joints: {
      bench: bench.of - bench.done,
      front: front.of - front.done,
      underneath: underneath.of - underneath.done,
    },
    minutes: Object.values(plan.minutes).reduce((sum, each) => sum + each, 0),
    cost: lines.reduce((sum, { thing, sum: price }) => (thing.startsWith("type:") ? sum : sum + price), 0),
    unused: Math.max(0, loom.idle.length - before.loom.idle.length),
    beyond: findings.flatMap(({ ruleId, title, where, kept, turnoutIds }) =>
      LIMITS.includes(ruleId) && kept === null
        ? [`${title}: ${where || turnoutIds.map((id) => find(record, "turnout", id)?.label).join(", ")}`]
        : [],
    ),
  };
  return { way, loom };
}
