import { Groups } from "../circuit/groups.ts";
import { wiresByNet } from "../loom/reach.ts";
import type { Loom, Wire } from "../loom/wire.ts";
import { takeWiresOut } from "../loom/work.ts";
import { PURPOSES } from "../record/purposes.ts";
import type { Thread } from "../schematic/thread.ts";
import { NEVER } from "../sense/edits.ts";
import { rule } from "./rule.ts";
import { threadsOfWires } from "./threadsOf.ts";

export const loopInNet = rule<{ wire: Wire; threads: Thread[] }>({
  id: "loop-in-net",
  stage: "loom",
  column: null,
  severity: "note",
  title: "Wires close a loop",
  about:
    "A net that can be followed round in a ring works, but hides a broken wire: everything goes on by the other way, until that one breaks too. A common or a bus that is a ring also picks up the pulses of its neighbours. What is planned never closes a loop; this one was made or kept by hand.",
  look: ({ circuitry, threads }) =>
    closingIn(circuitry.loom).map((wire) => ({ wire, threads: threadsOfWires(threads, [wire]) })),
  subject: ({ wire }) => wire.id,
  where: ({ wire }) => wire.label,
  terminals: ({ wire }) => [wire.from.name, wire.to.name],
  turnouts: ({ threads }) => threads,
  why: ({ wire }) =>
    `${wire.label} joins ${wire.from.name} and ${wire.to.name}, which other wires join already (${PURPOSES[wire.purpose].about}).`,
  remedies: ({ wire }, { record }) => [
    { label: `Take ${wire.label} out`, group: takeWiresOut(record, [wire.id], NEVER) },
  ],
});

const known = new WeakMap<readonly Wire[], readonly Wire[]>();

/** Wires of a loom that join what others join already. */
function closingIn(loom: Loom): readonly Wire[] {
  const closing = known.get(loom.wires) ?? findClosing(loom);
  known.set(loom.wires, closing);
  return closing;
}

function findClosing(loom: Loom): Wire[] {
  // what is planned is a tree: only facts can close a loop
  const nets = new Set(loom.wires.flatMap(({ fact, net }) => (fact ? [net] : [])));
  const byNet = wiresByNet(loom);
  return [...nets].flatMap((net) => {
    const joined = new Groups();
    const [planned, facts] = [[] as Wire[], [] as Wire[]];
    for (const wire of byNet.get(net) ?? []) (wire.fact ? facts : planned).push(wire);
    return [...planned, ...facts].filter((wire) => !joined.join(wire.from.key, wire.to.key));
  });
}
