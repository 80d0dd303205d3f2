import { findType, typeOf, typesOfFamily } from "../catalogue/catalogue.ts";
import { feed, removeDeviceFrom } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { setControl, setDriver, setLamp, setMotor } from "../equip/equipment.ts";
import { assignmentsOfDevice, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/schemas.ts";
import { supplyOf, type Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { type Remedy, rule } from "./rule.ts";

/** One thing that a turnout lacks, and what would provide it. */
interface Missing {
  words: string;
  remedies: (record: RailwayRecord) => Remedy[];
}

interface Incomplete {
  thread: Thread;
  missing: Missing[];
}

export const turnoutIncomplete = rule<Incomplete>({
  id: "turnout-incomplete",
  severity: "look",
  title: "A turnout is not completely equipped",
  about:
    "A turnout is complete when each of its motors has a driver, the driver has its supply and its commands, a switched driver has a control, and a lamp that is fitted has a contact and a supply. No lamp at all is a choice, and complete.",
  look: ({ threads, record }) =>
    threads
      .map((thread) => ({ thread, missing: missingParts(record, thread) }))
      .filter(({ missing }) => missing.length > 0),
  subject: ({ thread }) => thread.turnout.id,
  where: ({ thread }) => thread.label,
  turnouts: ({ thread }) => [thread],
  why: ({ thread, missing }) => `${thread.label} ${list(missing.map(({ words }) => words))}.`,
  remedies: ({ missing }, { record }) => missing.flatMap(({ remedies }) => remedies(record)).slice(0, 3),
});

/** What a thread still lacks; empty when it is complete. */
export function missingParts(record: RailwayRecord, thread: Thread): Missing[] {
  const without = [thread.turnout, ...thread.followers].filter(
    (turnout) => !thread.motors.some((motor) => motor.turnout.id === turnout.id),
  );
  if (without.length > 0) {
    return without.map((turnout) => ({
      words: thread.followers.length > 0 ? `has no motor at ${turnout.label}` : "has no motor",
      remedies: () =>
        typesOfFamily(record, "motor")
          .slice(0, 3)
          .map((type) =>
            remedy(
              record,
              `Fit a ${type.name.split(",")[0]?.toLowerCase()}${type.contactSets === 0 ? ", no contact" : ""}`,
              (draft) => setMotor(draft, turnout.id, type.id),
            ),
          ),
    }));
  }
  return [...missingDriver(record, thread), ...missingControl(thread), ...missingForLamp(record, thread)];
}

function missingDriver(record: RailwayRecord, thread: Thread): Missing[] {
  const driver = thread.motors[0]?.driver;
  if (!driver || thread.motors.some((motor) => !motor.driver)) {
    return [{ words: "has no driver", remedies: () => driverRemedies(record, thread) }];
  }
  const missing: Missing[] = [];
  const { device, type } = driver;
  const feeding = (draft: Draft) => feed(draft, device, type);
  if (type.family === "driver" && !supplyOf(record, device.id)) {
    missing.push({
      words: `has a driver, ${device.label}, without a supply`,
      remedies: () => [remedy(record, `Feed ${device.label}`, feeding)],
    });
  }
  const hears = assignmentsOfDevice(record, device.id).some((a) => a.role === "commands" && a.toDeviceId === device.id);
  if (type.model === "stall-decoder" && !hears) {
    missing.push({
      words: `has a decoder, ${device.label}, that hears no commands`,
      remedies: () => [remedy(record, `Join ${device.label} to the track bus`, feeding)],
    });
  }
  return missing;
}

function missingControl({ control, motors, turnout }: Thread): Missing[] {
  const driver = motors[0]?.driver;
  if (!driver) return [];
  if (driver.type.outputs === 0 && !control) {
    return [
      {
        words: "has no control",
        remedies: (record) => [
          remedy(record, "Fit a centre-off momentary toggle", (draft) =>
            setControl(draft, turnout.id, { typeId: "toggle-centre-off" }),
          ),
        ],
      },
    ];
  }
  if (driver.type.outputs > 0 && control) {
    return [
      {
        words: `has a control, ${control.device.label}, that nothing reads: ${driver.device.label} takes commands from the track only`,
        remedies: (record) => [
          remedy(record, `Take ${control.device.label} away`, (draft) => setControl(draft, turnout.id, null)),
        ],
      },
    ];
  }
  return [];
}

function missingForLamp(record: RailwayRecord, { lamp, turnout }: Thread): Missing[] {
  if (!lamp) return [];
  const motor = deviceOf(record, lamp.assignment.motorId);
  const type = typeOf(record, motor);
  const takeAway = () => [
    remedy(record, `Take ${lamp.device.label} away`, (draft) => setLamp(draft, turnout.id, null)),
  ];
  if (lamp.assignment.way > type.contactSets) {
    return [
      {
        words: `has a lamp, ${lamp.device.label}, but ${motor.label} has no contact for it`,
        remedies: () => {
          const withContact = typesOfFamily(record, "motor").find(
            (each) => each.model === type.model && each.contactSets > 0,
          );
          const fit = withContact
            ? [remedy(record, "Fit a motor with contact", (draft) => setMotor(draft, turnout.id, withContact.id))]
            : [];
          return [...fit, ...takeAway()];
        },
      },
    ];
  }
  if (!supplyOf(record, lamp.device.id)) {
    return [
      {
        words: `has a lamp, ${lamp.device.label}, without a supply`,
        remedies: () => [
          remedy(record, `Feed ${lamp.device.label} with 5 V DC`, (draft) => {
            removeDeviceFrom(draft, lamp.device.id);
            setLamp(draft, turnout.id, { typeId: lamp.type.id });
          }),
        ],
      },
    ];
  }
  return [];
}

/** A free output of a board of the right kind, or the discharge unit that is there. */
function driverRemedies(record: RailwayRecord, thread: Thread): Remedy[] {
  const wanted = thread.motors[0]?.type.model === "stall-motor" ? "stall-decoder" : "cdu";
  return record.devices.flatMap((device) => {
    const type = findType(record, device.typeId);
    if (type?.model !== wanted) return [];
    const used = new Set(
      record.assignments.map((a) => (a.role === "driver" && a.deviceId === device.id ? a.way : null)),
    );
    const way =
      type.outputs === 0 ? null : Array.from({ length: type.outputs }, (_, i) => i + 1).find((each) => !used.has(each));
    if (way === undefined) return [];
    const label = way === null ? device.label : `${device.label}-${way}`;
    return [
      remedy(record, `Put it on ${label}`, (draft) =>
        setDriver(draft, thread.turnout.id, { deviceId: device.id, way }),
      ),
    ];
  });
}

function remedy(record: RailwayRecord, label: string, make: (draft: Draft) => void): Remedy {
  const draft = new Draft(record);
  make(draft);
  return { label, group: draft.group(label) };
}
