import { fuseWords, opensFrom, protectionOf } from "../catalogue/protection.ts";
import { sourceOf } from "../catalogue/source.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { reachFrom } from "../loom/reach.ts";
import type { Loom } from "../loom/wire.ts";
import { SHORT_OHMS } from "../readings/circuitry.ts";
import { AT_REST } from "../readings/threadReading.ts";
import { assignmentsOfRole } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { AssignmentOf } from "../record/schemas.ts";
import type { Steps } from "../record/steps.ts";
import { terminalName } from "../schematic/nets.ts";
import { isFedByTrack, powerTerminals } from "../schematic/recipes/supplyToBoard.ts";
import { type Fitted, fitted, type Thread } from "../schematic/thread.ts";
import { amps, ohms } from "../units/format.ts";
import { GAUGES, ohmsPerMetre, squareMillimetres } from "../units/gauge.ts";
import { layWires } from "./remedies.ts";
import { type Look, type Remedy, rule } from "./rule.ts";
import { threadsOn } from "./threadsOf.ts";

type Feeds = AssignmentOf<"supply"> | AssignmentOf<"commands">;

interface Silent {
  supply: Fitted;
  at: Fitted;
  ends: [string, string];
  flows: number;
  trips: number;
  loop: number;
  threads: Thread[];
}

/** Less than this through a short comes from no supply, amps. */
const NOTHING = 1e-3;

export const shortWouldNotTrip = rule<Silent>({
  id: "short-would-not-trip",
  stage: "loom",
  column: null,
  severity: "stop",
  title: "A short at the far end would not shut the supply down",
  about:
    "The coin test, on paper: a short circuit at the farthest point has to draw more than the supply's breaker trips at, or 2.75 times the fuse behind it, or it goes on and heats the wire. Long thin feeders keep the current below it. The rule lays a solved short across whatever hangs farthest on each supply.",
  *look(look) {
    const fed = new Map<string, Feeds[]>();
    for (const role of ["supply", "commands"] as const) {
      for (const assignment of assignmentsOfRole(look.record, role)) {
        const known = fed.get(assignment.deviceId);
        if (known) known.push(assignment);
        else fed.set(assignment.deviceId, [assignment]);
      }
    }
    const silent: Silent[] = [];
    for (const [id, feeds] of fed) silent.push(...(yield* farthest(look, fitted(look.record, id), feeds)));
    return silent;
  },
  subject: ({ supply }) => supply.device.id,
  where: ({ supply }) => supply.device.label,
  terminals: ({ at, ends }) => ends.map((end) => terminalName(at.device.label, end)),
  turnouts: ({ threads }) => threads,
  why: ({ supply, at, flows, trips, loop }) =>
    `A short at ${at.device.label} draws ${amps(flows)} through ${ohms(loop)} of supply and wire; ${opening(supply, flows, trips)}.`,
  remedies: (found, { record }) => thickerFeeder(record, found),
  caution: ({ supply }) => supply.type,
});

/** What ends a short, and from which current on. */
function opening({ device, type }: Fitted, flows: number, opens: number): string {
  const { fuse, trips } = protectionOf(type);
  return fuse !== null && opens !== trips
    ? `the fuse of ${amps(fuse)} behind ${device.label} ${fuseWords(fuse, flows)}, and opens within seconds from ${amps(opens)}`
    : `${device.label} trips at ${amps(opens)}`;
}

/** The thinnest wire with which the short would draw enough. */
function thickerFeeder(record: RailwayRecord, { supply, trips, loop }: Silent): Remedy[] {
  const { openVolts, ohms: own } = sourceOf(supply.type);
  const inside = own + SHORT_OHMS;
  const present = record.railway.wireGauge;
  const enough = GAUGES.filter((gauge) => {
    const laid = ((loop - inside) * ohmsPerMetre(gauge)) / ohmsPerMetre(present);
    return openVolts / (inside + laid) >= trips;
  });
  const [gauge] = enough.sort((a, b) => squareMillimetres(a) - squareMillimetres(b));
  return gauge ? [layWires(record, "wireGauge", gauge)] : [];
}

/**
 * Share of the most wire to anything on a supply from which a short is solved, and of what flows in that at the farthest which the
 * others draw at least: what loads take hardly matters beside it. One that draws more than trips by so much as reckoned by its ohms
 * need not be solved.
 */
const FAR = 0.9;

/** Something on a supply, and the ohms of wire to it; infinite when it is not joined by wire alone. */
interface Reached {
  at: Fitted;
  ends: [string, string];
  keys: [string, string];
  wire: number;
}

/** The thing on a supply at which a short draws least, when that does not trip it. */
function* farthest({ record, circuitry, threads }: Look, supply: Fitted, feeds: readonly Feeds[]): Steps<Silent[]> {
  const trips = opensFrom(protectionOf(supply.type));
  if (supply.type.family !== "supply" || !Number.isFinite(trips)) return [];
  const alternating = traitsOf(supply.type).gives === "ac" ? Math.SQRT1_2 : 1;
  const reached = reachedBy(record, circuitry.loom, supply, feeds);
  const byWire = reached.filter(({ wire }) => Number.isFinite(wire)).sort((a, b) => b.wire - a.wire);
  const others = reached.filter(({ wire }) => !Number.isFinite(wire));
  const shortAt = ({ at, ends, keys }: Reached): Silent[] => {
    const found = circuitry.short(keys[0], keys[1], keys);
    // what is not joined to the supply at all is incomplete, not silent
    if (!found || found.amps < NOTHING) return [];
    const flows = found.amps * alternating;
    const loop = sourceOf(supply.type).openVolts / flows;
    return [{ supply, at, ends, flows, trips, loop, threads: [] }];
  };
  const most = byWire[0]?.wire ?? 0;
  const { openVolts, ohms: own } = sourceOf(supply.type);
  // loads take no more beside a short than without one, so that at least this is left for it
  const given = circuitry.remember(`given at rest by ${supply.device.id}`, () =>
    circuitry.prospectiveAmps(supply.device.id, "inside", AT_REST.N),
  );
  const taken = Math.abs(given) * alternating;
  const reckoned = (openVolts - taken * own) / (own + most + SHORT_OHMS);
  const far = reckoned * FAR > trips ? [] : byWire.filter(({ wire }) => wire >= most * FAR);
  yield;
  const shorts = far.slice(0, 1).flatMap(shortAt);
  // where the farthest draws well above what trips, those about as far do so too
  const isWell = shorts.some(({ flows }) => flows * FAR > trips);
  for (const each of [...(isWell ? [] : far.slice(1)), ...others]) {
    yield;
    shorts.push(...shortAt(each));
  }
  const [least] = shorts.sort((a, b) => a.flows - b.flows);
  if (!least || least.flows >= least.trips) return [];
  return [{ ...least, threads: threadsOn(record, threads, supply.device.id) }];
}

function reachedBy(record: RailwayRecord, loom: Loom, supply: Fitted, feeds: readonly Feeds[]): Reached[] {
  const out = powerTerminals(supply).map((terminal) => {
    return reachFrom(loom, `${supply.device.id}:${terminal}`);
  });
  const between = (a: number, keys: readonly [string, string]) =>
    (out[a]?.get(keys[0]) ?? Number.POSITIVE_INFINITY) + (out[1 - a]?.get(keys[1]) ?? Number.POSITIVE_INFINITY);
  return feeds.flatMap((assignment): Reached[] => {
    const at = fitted(record, assignment.toDeviceId);
    if (at.type.family === "lamp" || traitsOf(at.type).inTrack === "detector") return [];
    const byTrack = assignment.role === "commands" || isFedByTrack(at, supply);
    const ends: [string, string] = byTrack ? ["J", "K"] : powerTerminals(at);
    const keys = ends.map((end) => `${at.device.id}:${end}`) as [string, string];
    return [{ at, ends, keys, wire: Math.min(between(0, keys), between(1, keys)) }];
  });
}
