import { typeOf } from "../catalogue/catalogue.ts";
import { Draft } from "../equip/draft.ts";
import { takeLampAway } from "../equip/lamps.ts";
import { bothHalves } from "../readings/states.ts";
import { AT_REST } from "../readings/threadReading.ts";
import { assignmentsOfRole, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { AssignmentOf, Device } from "../record/schemas.ts";
import { terminalName, wayName } from "../schematic/nets.ts";
import type { Thread, ThreadLamp } from "../schematic/thread.ts";
import { amps, list } from "../units/format.ts";
import { lightByContact, made } from "./remedies.ts";
import { type Look, POSITIONS, type Remedy, rule } from "./rule.ts";

interface Loaded {
  zone: AssignmentOf<"block">;
  device: Device;
  /** What flows with no train there, and from what it tells a train at the sensitive end of its tolerance, amps. */
  flows: number;
  tells: number;
  threads: Thread[];
}

export const detectorSeesLoad = rule<Loaded>({
  id: "detector-sees-load",
  stage: "equip",
  column: "lamp",
  severity: "look",
  title: "A detector sees a train where none stands",
  about:
    "A current detector tells whatever takes current behind it: an engine, a lit coach, an axle with a resistor, and just so a pair of lamps between frog and rails, which is lit all the time. A block that is always occupied keeps its signals at danger and holds its turnouts. Show the blades by a contact or by the driver's output instead, fed ahead of the detector, or leave that zone out. The rule solves both half cycles with no train anywhere, all turnouts at normal and at reverse, and holds what flows through each zone against the least that it tells.",
  look: (look) =>
    assignmentsOfRole(look.record, "block").flatMap((zone): Loaded[] => {
      const device = deviceOf(look.record, zone.deviceId);
      const { figures } = typeOf(look.record, device);
      if (!figures.detectAmps) return [];
      const flows = withoutTrain(look, zone);
      const tells = figures.detectAmps.value * (1 - figures.detectAmps.tolerance);
      return flows < tells ? [] : [{ zone, device, flows, tells, threads: threadsBehind(look, zone) }];
    }),
  subject: ({ zone }) => zone.id,
  where: ({ device, zone }) => wayName(device.label, zone.way),
  terminals: ({ device, zone }) => [terminalName(device.label, `${zone.way}o`)],
  turnouts: ({ threads }) => threads,
  why: ({ device, zone, flows, tells, threads }) => {
    const lamps = threads.flatMap((thread) => lampsAtFrogs(thread).map((lamp) => lamp.device.label));
    const by = lamps.length > 0 ? ` by ${list(lamps)}` : "";
    return `${amps(flows)} flow through ${wayName(device.label, zone.way)}${by} while nothing stands in ${zone.block}; it may tell a train from ${amps(tells)}.`;
  },
  remedies: ({ threads }, { record }) => lampsElsewhere(record, threads),
});

/** The most that flows through a zone with no train on the line, amps. */
function withoutTrain({ circuitry }: Look, { deviceId, way }: AssignmentOf<"block">): number {
  const through = POSITIONS.flatMap((position) =>
    bothHalves(AT_REST[position]).map((state) => circuitry.amps(deviceId, `${way}.sense`, state)),
  );
  return Math.max(...through.map(Math.abs));
}

/** All lamps behind the zone are lit by contacts of their motors; where one has none free, they can only be taken away. */
function lampsElsewhere(record: RailwayRecord, threads: readonly Thread[]): Remedy[] {
  const lit = threads.flatMap((thread) => lampsAtFrogs(thread).map((lamp) => ({ thread, lamp })));
  if (lit.length === 0) return [];
  const draft = new Draft(record);
  const contacts = lit.map(({ thread, lamp }) => lightByContact(draft, thread, lamp));
  const names = list(lit.map(({ lamp }) => lamp.device.label));
  if (contacts.every((contact) => contact !== null)) {
    const label = `Light ${names} by ${list(contacts)}`;
    return [{ label, group: draft.group(label) }];
  }
  return [
    made(record, `Take ${names} away`, (away) => {
      for (const { lamp } of lit) takeLampAway(away, lamp.assignment.id);
    }),
  ];
}

function lampsAtFrogs({ frogs, lamps }: Thread): ThreadLamp[] {
  return lamps.filter(({ from }) => frogs.some(({ device }) => device.id === from.device.id));
}

/** Threads whose frogs hang on a zone and feed lamps. */
function threadsBehind({ threads, circuitry }: Look, { deviceId, way }: AssignmentOf<"block">): Thread[] {
  return threads.filter(
    (thread) =>
      lampsAtFrogs(thread).length > 0 &&
      thread.frogs.some(({ turnout }) =>
        circuitry.schematic.watched.get(turnout.id)?.some((zone) => zone.deviceId === deviceId && zone.way === way),
      ),
  );
}
