import { typeOf } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { Draft } from "../equip/draft.ts";
import { metresPerSecond } from "../line/timing.ts";
import { deviceOf } from "../record/find.ts";
import type { Thread, ThreadLamp } from "../schematic/thread.ts";
import { rule } from "./rule.ts";

interface Delays {
  thread: Thread;
  lamp: ThreadLamp;
  sensor: string;
  seconds: number;
  metres: number;
}

export const sensorDelaysRed = rule<Delays>({
  id: "sensor-delays-red",
  stage: "equip",
  column: "lamp",
  severity: "look",
  title: "A sensor at the throw bar delays the change to red",
  about:
    "A spot sensor tells at once that something covers it, and holds on for some seconds after it is uncovered. Of the two ends of the throw bar that show the right colours, one lets the light stay green for that time after the blades have left; at the other only the change to green comes late. Put it where the bar covers it while the light is red.",
  look: (look) =>
    look.inThreads("delays red", (thread) =>
      thread.lamps.flatMap((lamp): Delays[] => {
        const { fromId, coveredAt, crossed } = lamp.assignment;
        const from = deviceOf(look.record, fromId);
        const type = typeOf(look.record, from);
        const seconds = type.figures.releaseSeconds?.value ?? 0;
        if (traitsOf(type).inTrack !== "spot-sensor" || coveredAt === null || crossed || seconds === 0) return [];
        const [atNormal, atReverse] = lamp.type.colours ?? [];
        if ((coveredAt === "N" ? atNormal : atReverse) !== "green") return [];
        const metres = seconds * metresPerSecond(look.record.railway);
        return [{ thread, lamp, sensor: from.label, seconds, metres }];
      }),
    ),
  subject: ({ lamp }) => lamp.assignment.id,
  where: ({ lamp }) => lamp.device.label,
  turnouts: ({ thread }) => [thread],
  why: ({ lamp, sensor, seconds, metres }) =>
    `${lamp.device.label} is green while ${sensor} is covered, and stays so for ${seconds} s after the blades have left: ${metres.toFixed(2)} m of a train's way.`,
  remedies: ({ lamp, sensor }, { record }) => {
    const draft = new Draft(record);
    const at = lamp.assignment.coveredAt === "N" ? "R" : "N";
    draft.put("assignment", { ...lamp.assignment, coveredAt: at });
    const words = `Put ${sensor} where the bar covers it at ${at}`;
    return [{ label: words, group: draft.group(words) }];
  },
});
