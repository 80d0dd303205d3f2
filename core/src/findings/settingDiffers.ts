import { devicesOfThread, type Thread } from "../schematic/thread.ts";
import { type SettingLine, settingLines, wantSetting } from "../settings/settings.ts";
import { rule } from "./rule.ts";

interface Differs {
  line: SettingLine;
  threads: Thread[];
}

/** Whether a thread has a device; of a board with outputs, the very output. */
function concerns(thread: Thread, { device, way }: SettingLine): boolean {
  if (way === null) return devicesOfThread(thread).includes(device.id);
  return thread.motors.some(({ driver }) => driver?.device.id === device.id && driver.way === way);
}

export const settingDiffers = rule<Differs>({
  id: "setting-differs",
  stage: "numbers",
  column: null,
  severity: "look",
  title: "A setting was read back otherwise than wanted",
  about:
    "What was written into a device is not always what it took: a lock was shut, a value out of range, another board heard it. What counts is what it gives back. Write it again and read it back, or let the list say what is there.",
  look: ({ record, threads }) => {
    if (record.settings.every(({ read }) => read === null)) return [];
    return settingLines(record).flatMap((line): Differs[] =>
      // a learning switch that was left on has a finding of its own
      line.standing === "differs" && !line.setting.isLearn
        ? [{ line, threads: threads.filter((thread) => concerns(thread, line)) }]
        : [],
    );
  },
  subject: ({ line }) => `setting-${line.id}`.replaceAll(" ", "-").slice(0, 80),
  where: ({ line }) => line.of,
  turnouts: ({ threads }) => threads,
  why: ({ line: { of, setting, wanted, read } }) =>
    `The ${setting.name} of ${of} is to be ${wanted}, and was read back as ${read}.`,
  remedies: ({ line }, { record }) => [
    { label: `Want ${line.read}, as it is`, group: wantSetting(record, line, line.read) },
  ],
});
