import { standing } from "../hands/words.ts";
import { deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { sentence } from "./remedies.ts";
import { rule } from "./rule.ts";

interface Together {
  motors: Device[];
  threads: Thread[];
  when: string;
  /** What tells it from others: the turnout, the diode board on which buttons of routes meet, or the control that stands behind all of them. */
  subject: string;
  /** Motors to which the same control does it, in other company. */
  besides: Device[];
  where: string;
}

export const coilsTogether = rule<Together>({
  id: "coils-together",
  stage: "equip",
  column: "control",
  severity: "note",
  title: "Both coils of a motor can be energised at once",
  about:
    "Two controls held opposite ways, or two buttons of routes, share the pulse between both coils, and the blades stay where they are. It does no harm for a moment: the one who throws sees nothing happen, and throws again. The rule holds any two controls at once.",
  look: ({ record, threads, hands }) => {
    const together = hands.filter(({ kind, when, all }) => {
      return kind === "coils" && !all && when.some(({ setting }) => setting.held);
    });
    if (together.length === 0) return [];
    const onBoards = new Map<string, Together>();
    const byStanding = new Map<string, Together>();
    const single = threads.flatMap((thread): Together[] => {
      const own = together.filter(({ id }) => thread.motors.some(({ device }) => device.id === id));
      const [first] = own;
      if (!first) return [];
      const motors = own.map(({ id }) => deviceOf(record, id));
      const when = first.when;
      const board = ofRoutes(record, when) ? thread.motors[0]?.driver?.device : undefined;
      const found = { motors, threads: [thread], when: standing(record, when), besides: [] };
      const stands = when.find(({ setting }) => !setting.held && setting.stands !== "let go");
      if (!board && stands) {
        // one control that was left on meets whatever is pressed beside it
        const known = byStanding.get(stands.deviceId);
        byStanding.set(stands.deviceId, {
          ...(known ?? { ...found, subject: thread.turnout.id, where: thread.label }),
          ...(known ? { besides: [...known.besides, ...motors], threads: [...known.threads, thread] } : {}),
        });
        return [];
      }
      if (!board) return [{ ...found, subject: thread.turnout.id, where: thread.label }];
      // any two buttons of one matrix can be held at once: that is said once
      const known = onBoards.get(board.id);
      onBoards.set(board.id, {
        ...(known ?? { ...found, subject: board.id, where: board.label }),
        ...(known ? { motors: [...known.motors, ...motors], threads: [...known.threads, thread] } : {}),
        when: `with two buttons of routes pressed at once, as ${list(heldNames(record, when).slice(0, 2))}`,
      });
      return [];
    });
    return [...onBoards.values(), ...byStanding.values(), ...single];
  },
  subject: ({ subject }) => subject,
  where: ({ where }) => where,
  terminals: ({ motors }) => motors.map(({ label }) => label),
  turnouts: ({ threads }) => threads,
  why: ({ motors, when, besides }) => {
    const stay = motors.length === 1 ? "it stays where it is" : "they stay where they are";
    return `${sentence(when)}, both coils of ${list(motors.map(({ label }) => label))} share the pulse, and ${stay}.${besides.length > 0 ? ` So it is with ${list(besides.map(({ label }) => label))}.` : ""}`;
  },
  remedies: () => [],
});

type When = Parameters<typeof standing>[1];

/** Whether what is held are two buttons of routes at least, and nothing else. */
function ofRoutes(record: RailwayRecord, when: When): boolean {
  const buttons = new Set(record.routeControls.map(({ deviceId }) => deviceId));
  const held = when.filter(({ setting }) => setting.held);
  return held.length > 1 && held.every(({ deviceId }) => buttons.has(deviceId));
}

function heldNames(record: RailwayRecord, when: When): string[] {
  return when.flatMap(({ deviceId, setting }) =>
    setting.held ? [setting.name(deviceOf(record, deviceId).label)] : [],
  );
}
