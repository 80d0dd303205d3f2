import { typeOf } from "../catalogue/catalogue.ts";
import { freeInput, freeWays, inputsTaken } from "../equip/ways.ts";
import { ByWay } from "../record/byWay.ts";
import { assignmentsOfRole, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { AssignmentOf } from "../record/schemas.ts";
import { wayName } from "../schematic/nets.ts";
import { controlsOf, inputOf, type Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { made } from "./remedies.ts";
import { type Remedy, rule } from "./rule.ts";

/** Inputs in a row of a board that read a control, or outputs in a row that light a lamp. */
type Use = AssignmentOf<"input"> | AssignmentOf<"lamp">;

interface Overlap {
  deviceId: string;
  label: string;
  way: number;
  uses: Use[];
  /** What is there, by label. */
  names: string[];
  threads: Thread[];
}

export const waysOverlap = rule<Overlap>({
  id: "ways-overlap",
  stage: "equip",
  column: null,
  severity: "stop",
  title: "One input or output serves two things",
  about:
    "A control with two sides takes two inputs in a row, a lamp of two colours two outputs in a row that pull down. Where two of them meet at one number the board cannot tell them apart: one presses for the other, one lights with the other. The rule lists what each number of a board is used for.",
  look: ({ record, threads }) => {
    const ways = new ByWay<{ deviceId: string; way: number; uses: Use[] }>();
    const note = (deviceId: string, first: number, count: number, use: Use) => {
      for (let way = first; way < first + count; way++)
        ways.at(deviceId, way, () => ({ deviceId, way, uses: [] })).uses.push(use);
    };
    for (const input of assignmentsOfRole(record, "input"))
      note(input.deviceId, input.way, inputsTaken(record, input), input);
    for (const lamp of assignmentsOfRole(record, "lamp")) {
      const { drives } = typeOf(record, deviceOf(record, lamp.fromId));
      if (drives === "sink" && lamp.way !== null) note(lamp.fromId, lamp.way, 2, lamp);
    }
    const seen = new Set<string>();
    return ways.values().flatMap(({ deviceId, way, uses }): Overlap[] => {
      const key = uses.map(({ id }) => id).join();
      // two that meet at two numbers are one finding
      if (uses.length < 2 || seen.has(key)) return [];
      seen.add(key);
      const { label } = deviceOf(record, deviceId);
      const names = uses.map((use) => nameOf(record, use));
      return [{ deviceId, label, way, uses, names, threads: threadsOf(record, threads, uses) }];
    });
  },
  subject: ({ uses }) => uses.map(({ id }) => id).join(" "),
  where: ({ label, way }) => `${label}-${way}`,
  terminals: ({ label, way, names }) => [`${label}-${way}`, ...names],
  turnouts: ({ threads }) => threads,
  why: ({ label, way, names, uses }) =>
    `${label}-${way} is ${uses[0]?.role === "lamp" ? "an output" : "an input"} of ${list(names)}: the board cannot tell them apart.`,
  remedies: (overlap, { record }) => moved(record, overlap),
});

function nameOf(record: RailwayRecord, use: Use): string {
  if (use.role === "lamp") return deviceOf(record, use.deviceId).label;
  const { label } = deviceOf(record, use.controlId);
  return wayName(label, use.controlWay);
}

function threadsOf(record: RailwayRecord, threads: readonly Thread[], uses: readonly Use[]): Thread[] {
  const ids = new Set(uses.map(({ id }) => id));
  return threads.filter(
    (thread) =>
      thread.lamps.some(({ assignment }) => ids.has(assignment.id)) ||
      controlsOf(thread).some(({ device, assignment }) =>
        ids.has(inputOf(record, device.id, assignment.way)?.id ?? ""),
      ),
  );
}

/** The last of them to numbers that are free. */
function moved(record: RailwayRecord, { deviceId, label, uses, names }: Overlap): Remedy[] {
  const last = uses.at(-1);
  if (!last) return [];
  const count = last.role === "lamp" ? 2 : inputsTaken(record, last);
  const way = last.role === "lamp" ? freePair(record, deviceId) : freeInput(record, deviceId, count);
  if (way === null) return [];
  const words = `Move ${names.at(-1)} to ${label}-${way}`;
  return [made(record, words, (draft) => draft.put("assignment", { ...last, way }))];
}

function freePair(record: RailwayRecord, deviceId: string): number | null {
  const free = new Set(freeWays(record, deviceId, typeOf(record, deviceOf(record, deviceId)).outputs));
  return [...free].find((way) => free.has(way + 1)) ?? null;
}
