import { standing } from "../hands/words.ts";
import { deviceOf } from "../record/find.ts";
import type { Device } from "../record/schemas.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { sentence } from "./remedies.ts";
import { rule } from "./rule.ts";

interface Together {
  motors: Device[];
  thread: Thread;
  when: string;
}

export const coilsTogether = rule<Together>({
  id: "coils-together",
  stage: "equip",
  column: "control",
  severity: "note",
  title: "Both coils of a motor can be energised at once",
  about:
    "Two controls held opposite ways share the pulse between both coils, and the blades stay where they are. It does no harm for a moment: the one who throws sees nothing happen, and throws again. The rule holds any two controls at once.",
  look: ({ record, threads, hands }) => {
    const together = hands.filter(({ kind, when, all }) => {
      return kind === "coils" && !all && when.some(({ setting }) => setting.held);
    });
    if (together.length === 0) return [];
    return threads.flatMap((thread): Together[] => {
      const own = together.filter(({ id }) => thread.motors.some(({ device }) => device.id === id));
      if (own.length === 0) return [];
      const motors = own.map(({ id }) => deviceOf(record, id));
      return [{ motors, thread, when: standing(record, own[0]?.when ?? []) }];
    });
  },
  subject: ({ thread }) => thread.turnout.id,
  where: ({ thread }) => thread.label,
  terminals: ({ motors }) => motors.map(({ label }) => label),
  turnouts: ({ thread }) => [thread],
  why: ({ motors, when }) => {
    const stay = motors.length === 1 ? "it stays where it is" : "they stay where they are";
    return `${sentence(when)}, both coils of ${list(motors.map(({ label }) => label))} share the pulse, and ${stay}.`;
  },
  remedies: () => [],
});
