import { Draft } from "../equip/draft.ts";
import { setAddress } from "../equip/equipment.ts";
import { isDue, type OutputAddress } from "../numbers/addressList.ts";
import type { Thread } from "../schematic/thread.ts";
import { rule } from "./rule.ts";

interface Otherwise {
  output: OutputAddress;
  threads: Thread[];
}

export const answersOtherwise = rule<Otherwise>({
  id: "answers-otherwise",
  stage: "numbers",
  column: "address",
  severity: "look",
  title: "An output answers to another address than it is to have",
  about:
    "What a board answers to is in the board, not on paper. As long as the two differ, the throttle moves nothing, or the wrong turnout. Program the output in Numbers, or let the list say what is there.",
  look: ({ addresses, threads }) =>
    addresses.flatMap((output): Otherwise[] => {
      if (output.answer === null || !isDue(output) || output.throws === null) return [];
      return [{ output, threads: threads.filter(({ turnout }) => output.turnoutIds.includes(turnout.id)) }];
    }),
  subject: ({ output: { deviceId, way } }) => `answer-${deviceId}-${way}`.slice(0, 80),
  where: ({ output }) => output.label,
  terminals: ({ output }) => [output.label],
  turnouts: ({ threads }) => threads,
  why: ({ output: { label, throws, address, now, answer } }) =>
    `${label} throws ${throws} and is to have ${address}; ${answer?.how === "reset" ? "since it was reset" : "as it was last programmed or read"}, it answers to ${now}.`,
  remedies: ({ output: { deviceId, way, label, now } }, { record }) => {
    const draft = new Draft(record);
    setAddress(draft, deviceId, way, now);
    return [{ label: `Let ${label} have ${now}, as it is`, group: draft.group(`${label} has address ${now}`) }];
  },
});
