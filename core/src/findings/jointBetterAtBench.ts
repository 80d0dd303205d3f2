import { intoTail, tailsWithRoom } from "../loom/handTails.ts";
import type { Wire } from "../loom/wire.ts";
import type { Cable } from "../record/made.ts";
import type { Device } from "../record/schemas.ts";
import type { Thread } from "../schematic/thread.ts";
import { count, list } from "../units/format.ts";
import { rule } from "./rule.ts";
import { threadsOfWires } from "./threadsOf.ts";

interface Beside {
  motor: Device;
  tail: Cable;
  wires: Wire[];
  threads: Thread[];
}

export const jointBetterAtBench = rule<Beside>({
  id: "joint-better-at-bench",
  stage: "loom",
  column: null,
  severity: "note",
  title: "A joint underneath could be made at the bench",
  about:
    "What is soldered on one's back under a layout takes twice the time and is the joint that fails. A motor with a tail is joined at the bench, before it is fitted, and tested there; a single wire beside its tail is joined underneath after all. As long as the tail has a core free, take that.",
  look: ({ record, circuitry: { loom }, threads }) =>
    tailsWithRoom(record, loom).map(({ motor, tail, wires }) => ({
      ...{ motor, tail, wires },
      threads: threadsOfWires(threads, wires),
    })),
  subject: ({ motor }) => motor.id,
  where: ({ motor }) => motor.label,
  terminals: ({ wires }) => wires.flatMap(({ from, to }) => [from.name, to.name]),
  turnouts: ({ threads }) => threads,
  why: ({ motor, tail, wires }) =>
    `${list(wires.map(({ label }) => label))} ${wires.length === 1 ? "goes" : "go"} to ${motor.label} beside its tail ${tail.label}, which has room: ${count(wires.length, "joint")} underneath that could be made at the bench.`,
  remedies: ({ tail, wires }, { record, circuitry: { loom } }) => [
    {
      label: `Take ${wires.length === 1 ? "it" : "them"} through ${tail.label}`,
      group: intoTail(record, loom, tail, wires),
    },
  ],
});
