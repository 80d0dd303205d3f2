import { figureValue } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { Draft } from "../equip/draft.ts";
import { freeWays } from "../equip/ways.ts";
import { standing } from "../hands/words.ts";
import { ByWay } from "../record/byWay.ts";
import { deviceOf } from "../record/find.ts";
import type { Device } from "../record/schemas.ts";
import { relaysOf } from "../schematic/recipes/relayBesideMotor.ts";
import type { Thread, ThreadMotor } from "../schematic/thread.ts";
import { amps, count, volts } from "../units/format.ts";
import { POSITIONS, type Remedy, rule } from "./rule.ts";
import { threadsWith } from "./threadsOf.ts";

interface Overloaded {
  device: Device;
  /** What is written beside the output, as "D1-3". */
  label: string;
  way: number;
  threads: Thread[];
  motors: Thread["motors"];
  limit: number;
  /** Sum of what the motors' leaflets say, amps. */
  rated: number;
  solved: number;
  outputVolts: number;
  /** How things have to stand for it, when it takes more than all at rest. */
  when: string | null;
}

export const outputOverLimit = rule<Overloaded>({
  id: "output-over-limit",
  stage: "equip",
  column: "driver",
  severity: "stop",
  title: "An output gives more than it may",
  about:
    "Each output of a decoder has a limit. Both the solved current and the sum of what the motors' leaflets say must stay below it: the first is what flows with this output's inside resistance, the second what a stiffer output would have to give, relays beside the motors among them. An output for coils gives its most at the peak of a pulse. Besides all at rest the rule looks at every combination of what can be set.",
  look: ({ record, threads, hands, reading }) => {
    const byOutput = new ByWay<Overloaded>();
    for (const thread of threads) {
      for (const motor of thread.motors) {
        const { driver } = motor;
        if (!driver?.type.figures.outputAmps || driver.way === null) continue;
        const isPulse = driver.type.drives === "coil";
        const entry = byOutput.get(driver.device.id, driver.way) ?? {
          device: driver.device,
          label: `${driver.device.label}-${driver.way}`,
          way: driver.way,
          threads: [],
          motors: [],
          limit: figureValue(driver.type, "outputAmps"),
          rated: 0,
          solved: 0,
          outputVolts: 0,
          when: null,
        };
        byOutput.set(driver.device.id, driver.way, entry);
        entry.motors.push(motor);
        entry.rated += isPulse ? 0 : (motor.type.figures.ratedAmps?.value ?? 0) + relaysBeside(thread, motor);
        if (entry.threads.includes(thread)) continue;
        entry.threads.push(thread);
        for (const position of POSITIONS) {
          const { driverAmps, driverVolts } = reading(thread, position, isPulse ? "throwing" : "rest");
          if ((driverAmps ?? 0) > entry.solved) {
            entry.solved = driverAmps ?? 0;
            entry.outputVolts = Math.abs(driverVolts ?? 0);
            entry.when = isPulse ? "at the peak of a pulse" : null;
          }
        }
      }
    }
    for (const { kind, id, part, amps: flows, limit, when } of hands) {
      if (kind !== "output" || part === null) continue;
      // outputs of a detector are O1, O2 and so on, of a touch button N and R
      const way = Number(/\d+$/.exec(part)?.[0] ?? (part === "R" ? 2 : 1));
      const device = deviceOf(record, id);
      const none = { device, label: `${device.label}-${part}`, way, threads: threadsWith(threads, new Set([id])) };
      const entry = byOutput.at(id, way, () => ({
        ...none,
        ...{ motors: [], limit, rated: 0, solved: 0, outputVolts: 0, when: null },
      }));
      if (flows > entry.solved * MORE) Object.assign(entry, { solved: flows, when: standing(record, when) });
    }
    return byOutput.values().filter(({ limit, rated, solved }) => Math.max(rated, solved) > limit * (1 + 1e-9));
  },
  subject: ({ device, way }) => `${device.id}-${way}`,
  where: ({ label }) => label,
  terminals: ({ label }) => [label],
  turnouts: ({ threads }) => threads,
  why: ({ label, limit, rated, solved, motors, outputVolts, when }) => {
    const flows = `${amps(solved)} flow ${when ?? `at ${volts(outputVolts)}`}`;
    return rated > limit
      ? `${count(motors.length, "motor")} on ${label} may take ${amps(rated)} by their leaflets; the output may give ${amps(limit)}. As solved, ${flows}.`
      : `${label} may give ${amps(limit)}; ${flows}.`;
  },
  remedies: ({ device, threads, motors }, { record }) => {
    const last = motors.at(-1);
    const [free] = freeWays(record, device.id, last?.driver?.type.outputs ?? 0);
    if (!last?.driver || free === undefined || !["reversal", "pulse"].includes(traitsOf(last.type).movedBy ?? ""))
      return [];
    const draft = new Draft(record);
    draft.put("assignment", { ...last.driver.assignment, way: free });
    const to = `${last.device.label} to ${device.label}-${free}`;
    const remedy: Remedy = { label: `Move ${to}`, group: draft.group(`Moved ${to}`) };
    const sharing = threads.some((thread) => thread.followers.length > 0);
    return sharing && motors.length < 3
      ? [{ ...remedy, label: `${remedy.label}, with an address of its own` }]
      : [remedy];
  },
});

/** A current that is no more than this above another is the same. */
const MORE = 1 + 1e-6;

/** What the coils of relays take that lie across a motor's leads, amps. */
function relaysBeside(thread: Thread, { device }: ThreadMotor): number {
  return relaysOf(thread).reduce((sum, { relay, motor }) => {
    const isBeside = motor.device.id === device.id && traitsOf(relay.type).relay === "held";
    return sum + (isBeside ? (relay.type.figures.ratedAmps?.value ?? 0) : 0);
  }, 0);
}
