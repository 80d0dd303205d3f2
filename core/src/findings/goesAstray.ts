import type { Position } from "../record/schemas.ts";
import type { Thread, ThreadMotor } from "../schematic/thread.ts";
import { leadNames, swapLeads } from "./remedies.ts";
import { POSITIONS, rule } from "./rule.ts";
import { missingParts } from "./turnoutIncomplete.ts";

interface Astray {
  thread: Thread;
  motor: ThreadMotor;
  position: Position;
  went: Position | null;
}

export const goesAstray = rule<Astray>({
  id: "goes-astray",
  severity: ({ went }) => (went === null ? "stop" : "look"),
  title: "A motor does not go where it is asked",
  about:
    "The rule throws each turnout in the solved circuit. A motor that gets too little to move is named with what it gets; one that goes to the other side has its leads or its mounting the other way round. Where every motor of a crossover is turned alike, they are all named.",
  look: (look) =>
    look.threads.flatMap((thread) => {
      if (missingParts(look.record, thread).length > 0) return [];
      return thread.motors.flatMap((motor): Astray[] => {
        for (const position of POSITIONS) {
          const state = { asked: { [thread.turnout.id]: position }, moment: "rest", acting: null, off: false } as const;
          const went = look.circuitry.motorGoesTo(motor.device.id, state);
          const leader = thread.motors[0];
          const leaderWent = leader && look.circuitry.motorGoesTo(leader.device.id, state);
          // a pair at odds has a finding of its own
          if (went !== null && leaderWent !== went) return [];
          if (went !== position) return [{ thread, motor, position, went }];
        }
        return [];
      });
    }),
  subject: ({ motor }) => motor.device.id,
  where: ({ motor }) => motor.device.label,
  terminals: ({ motor }) => leadNames(motor),
  turnouts: ({ thread }) => [thread],
  why: ({ motor, position, went }) =>
    went === null
      ? `Asked for ${position}, ${motor.device.label} gets too little to move.`
      : `Asked for ${position}, ${motor.device.label} goes to ${went}: ${motor.assignment.opposite ? "it is mounted the other way round" : "its leads are crossed"}.`,
  remedies: ({ motor, went }, { record }) => (went === null ? [] : [swapLeads(record, motor, leadNames(motor))]),
});
