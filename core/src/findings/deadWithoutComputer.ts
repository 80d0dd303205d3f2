import { BY_STATION } from "../catalogue/readers.ts";
import { actedOnByStation } from "../numbers/feedback.ts";
import type { Device } from "../record/schemas.ts";
import { controlsOf, type Thread } from "../schematic/thread.ts";
import { settingLines, wantSetting } from "../settings/settings.ts";
import { count, list } from "../units/format.ts";
import { rule } from "./rule.ts";

interface Dead {
  encoder: Device;
  /** Turnouts that no control throws by any other way. */
  threads: Thread[];
}

export const deadWithoutComputer = rule<Dead>({
  id: "dead-without-computer",
  stage: "numbers",
  column: null,
  severity: "note",
  title: "With the computer off, the panel is dead",
  about:
    "A feedback encoder only tells. When a computer turns its messages into commands, nothing on the panel throws these turnouts before that program runs again; the throttle still does. Many command stations can act on such messages by themselves.",
  look: ({ record, threads }) => {
    const encoders = settingLines(record).filter(({ setting }) => setting.isActor);
    return encoders.flatMap(({ device }): Dead[] => {
      if (actedOnByStation(record, device.id)) return [];
      const dead = threads.filter((thread) => {
        const controls = controlsOf(thread);
        // nodes hear each other without it
        const isOnBus = thread.motors.some(({ driver }) => driver?.type.hears === "bus");
        return controls.length > 0 && !isOnBus && controls.every(({ reader }) => reader?.device.id === device.id);
      });
      return dead.length > 0 ? [{ encoder: device, threads: dead }] : [];
    });
  },
  subject: ({ encoder }) => encoder.id,
  where: ({ encoder }) => encoder.label,
  turnouts: ({ threads }) => threads,
  why: ({ encoder, threads }) =>
    `${encoder.label} is acted on by a computer: while it is off, no button throws ${threads.length > 4 ? count(threads.length, "turnout") : list(threads.map(({ label }) => label))}.`,
  remedies: ({ encoder }, { record }) => {
    const line = settingLines(record).find(({ device, setting }) => device.id === encoder.id && setting.isActor);
    if (!line) return [];
    return [{ label: `Let the command station act on ${encoder.label}`, group: wantSetting(record, line, BY_STATION) }];
  },
});
