import type { Position } from "../record/schemas.ts";
import type { Thread, ThreadMotor } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { leadNames, swapLeads } from "./remedies.ts";
import { POSITIONS, rule } from "./rule.ts";

interface Against {
  thread: Thread;
  leader: ThreadMotor;
  other: ThreadMotor;
  position: Position;
  went: { leader: Position; other: Position };
}

export const pairThrownAgainst = rule<Against>({
  id: "pair-thrown-against",
  stage: "equip",
  column: "motor",
  severity: "stop",
  title: "A crossover's motors throw against each other",
  about:
    "Both ends of a crossover must lie alike, or a train on it splits the blades. Two motors on one output throw alike when their leads and their mounting agree; one mounted the other way round needs its leads crossed. The rule follows the solved voltage at each motor and the way it is mounted.",
  look: (look) =>
    look.inThreads("thrown against", (thread) => {
      const leader = thread.motors.find((motor) => motor.turnout.id === thread.turnout.id);
      if (!leader) return [];
      return thread.motors.flatMap((other): Against[] => {
        if (other === leader) return [];
        for (const position of POSITIONS) {
          const state = { asked: { [thread.turnout.id]: position }, moment: "rest", acting: null, off: false } as const;
          const went = [leader, other].map((motor) => look.circuitry.motorGoesTo(motor.device.id, state));
          const [first, second] = went;
          if (first && second && first !== second)
            return [{ thread, leader, other, position, went: { leader: first, other: second } }];
        }
        return [];
      });
    }),
  subject: ({ other }) => other.device.id,
  where: ({ thread, other }) => `${other.turnout.label} of ${thread.label}`,
  terminals: ({ other }) => leadNames(other),
  turnouts: ({ thread }) => [thread],
  why: ({ leader, other, position, went }) => {
    const mounted = leader.assignment.opposite !== other.assignment.opposite;
    const crossed = leader.assignment.crossed !== other.assignment.crossed;
    const cause = mounted
      ? `${other.device.label} is mounted the other way round and its leads are not crossed`
      : `the leads at ${list(leadNames(crossed && leader.assignment.crossed ? leader : other))} are crossed`;
    return `Asked for ${position}, ${leader.turnout.label} goes to ${went.leader} and ${other.turnout.label} to ${went.other}: ${cause}.`;
  },
  remedies: ({ thread, leader, other, position, went }, { record }) => {
    const wrong = went.leader === position ? other : leader;
    const invert = leader.driver && {
      label: "Reverse it in the decoder",
      group: null,
      harm: `one output drives both, so it would turn ${thread.motors.map((motor) => motor.turnout.label).join(" and ")} alike`,
    };
    return [swapLeads(record, wrong, leadNames(wrong)), ...(invert && leader.driver?.way ? [invert] : [])];
  },
});
