import { Draft } from "../equip/draft.ts";
import { setAddress } from "../equip/equipment.ts";
import type { OutputAddress } from "../numbers/addressList.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { rule } from "./rule.ts";

interface Broken {
  outputs: [OutputAddress, ...OutputAddress[]];
  threads: Thread[];
}

export const addressNotInRow = rule<Broken>({
  id: "address-not-in-row",
  stage: "numbers",
  column: "address",
  severity: "stop",
  title: "A board cannot have these addresses",
  about:
    "Some boards take one address for several outputs: the first gets it, the others the next ones. Addresses that are not in a row cannot be put into such a board, whatever is written in a list.",
  look: ({ addresses, threads }) => {
    const blocks = new Map<string, OutputAddress[]>();
    for (const output of addresses) {
      if (output.block.length < 2) continue;
      const name = `${output.deviceId} ${output.block[0]}`;
      blocks.set(name, [...(blocks.get(name) ?? []), output]);
    }
    return [...blocks.values()].flatMap((outputs): Broken[] => {
      const [first] = outputs;
      if (!first || outputs.every(({ address, way }) => address - first.address === way - first.way)) return [];
      const turnouts = new Set(outputs.flatMap(({ turnoutIds }) => turnoutIds));
      const concerned = threads.filter(({ turnout }) => turnouts.has(turnout.id));
      return [{ outputs: outputs as Broken["outputs"], threads: concerned }];
    });
  },
  subject: ({ outputs: [{ deviceId, way }] }) => `row-${deviceId}-${way}`.slice(0, 80),
  where: ({ outputs: [{ label }] }) => label,
  terminals: ({ outputs }) => outputs.map(({ label }) => label),
  turnouts: ({ threads }) => threads,
  why: ({ outputs }) =>
    `${list(outputs.map(({ label, address }) => `${label} is to have ${address}`))}; it takes ${outputs.length} numbers in a row.`,
  remedies: ({ outputs }, { record }) =>
    outputs.flatMap((output) => {
      const [first] = outputs;
      const start = output.address - (output.way - first.way);
      // what throws something keeps its number, the others follow
      if (start < 0 || (output.throws === null && outputs.some(({ throws }) => throws !== null))) return [];
      const draft = new Draft(record);
      setAddress(draft, output.deviceId, output.way, output.address);
      const words = `Addresses ${start} to ${start + outputs.length - 1}, as ${output.label} has it`;
      return [{ label: words, group: draft.group(words) }];
    }),
});
