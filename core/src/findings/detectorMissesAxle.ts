import { Draft } from "../equip/draft.ts";
import { AT_REST } from "../readings/threadReading.ts";
import { assignmentsOfRole } from "../record/find.ts";
import type { AssignmentOf } from "../record/schemas.ts";
import { terminalName, wayName } from "../schematic/nets.ts";
import { type Fitted, fitted } from "../schematic/thread.ts";
import { amps, ohms } from "../units/format.ts";
import { preferredAtMost } from "../units/preferredValues.ts";
import { fitWithFigures } from "./remedies.ts";
import { type Look, type Remedy, rule } from "./rule.ts";

interface Missed {
  detector: Fitted;
  /** The zone through which an axle takes least. */
  zone: AssignmentOf<"block">;
  /** What flows through it with an axle in the block, and from what it tells a train for sure, amps. */
  flows: number;
  needs: number;
}

/** Less than this comes from no supply, amps. */
const NOTHING = 1e-6;

/** Currents that differ by less than a millionth are the same one. */
const ALIKE = 1 - 1e-6;

/** Times the current from which a detector tells, for dirt on wheels and rails (common practice). */
const SPARE = 2;

export const detectorMissesAxle = rule<Missed>({
  id: "detector-misses-axle",
  stage: "equip",
  column: null,
  severity: "look",
  title: "A detector may not see a wagon",
  about:
    "A wagon takes no current: a resistor across the insulation of an axle makes a current detector see it. Too large a resistor, or too little on the track, and a wagon that came off its train stands in a block that counts as clear. The rule puts one axle with its resistor into each watched block and solves what then flows through the zone, in either half cycle, against the most that the detector may need by its tolerance. Twice that is good practice, for dirt on wheels and rails.",
  look: (look) => {
    const least = new Map<string, Missed>();
    for (const zone of assignmentsOfRole(look.record, "block")) {
      const detector = fitted(look.record, zone.deviceId);
      const tells = detector.type.figures.detectAmps;
      const flows = tells && withAxle(look, zone);
      // a track that nothing feeds is incomplete, and has another finding
      if (!tells || flows === null || flows === undefined || flows < NOTHING) continue;
      const needs = tells.value * (1 + tells.tolerance);
      // of zones alike the first is named, whatever the last digits say
      const known = least.get(zone.deviceId);
      if (flows >= needs || (known && flows >= known.flows * ALIKE)) continue;
      least.set(zone.deviceId, { detector, zone, flows, needs });
    }
    return [...least.values()];
  },
  subject: ({ detector }) => detector.device.id,
  where: ({ detector }) => detector.device.label,
  terminals: ({ detector, zone }) => [terminalName(detector.device.label, `${zone.way}o`)],
  turnouts: () => [],
  why: ({ detector, zone, flows, needs }) => {
    const axle = ohms(detector.type.figures.axleOhms?.value ?? 0);
    return `An axle with ${axle} in ${zone.block} takes ${amps(flows)} through ${wayName(detector.device.label, zone.way)}, which may tell a train only from ${amps(needs)}.`;
  },
  remedies: ({ detector, flows }, { record }) => smallerResistors(record, detector, flows),
});

/** What flows through a zone with one axle in its block, amps, in the half cycle in which it is more; null where no track feeds it. */
function withAxle({ circuitry }: Look, { deviceId, way }: AssignmentOf<"block">): number | null {
  const number = circuitry.piece(`${deviceId}.${way}.axle`);
  const piece = number === undefined ? undefined : circuitry.pieces[number];
  if (number === undefined || !piece) return null;
  const through = ([1, -1] as const).map((half) => {
    const states = circuitry
      .statesOf(piece, { ...AT_REST.N, half })
      .map((state, place) =>
        piece.members[place]?.device.id === deviceId ? { ...state, standing: new Set([way]) } : state,
      );
    return Math.abs(circuitry.solveAs(number, states).amps(`${deviceId}.${way}.sense`) ?? 0);
  });
  return Math.max(...through);
}

/** Axles with the largest usual resistor that the detector tells for sure. */
function smallerResistors(record: Look["record"], detector: Fitted, flows: number): Remedy[] {
  const { axleOhms, detectAmps } = detector.type.figures;
  if (!axleOhms || !detectAmps) return [];
  const value = preferredAtMost((flows * axleOhms.value) / (SPARE * detectAmps.value), "E24");
  const draft = new Draft(record);
  fitWithFigures(draft, detector, `axles of ${ohms(value)}`, { axleOhms: value });
  const label = `Fit resistors of ${ohms(value)} to the axles`;
  return [{ label, group: draft.group(label) }];
}
