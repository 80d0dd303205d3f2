import { factEnds, type IdleWire } from "../loom/wire.ts";
import { moveWires, takeWiresOut } from "../loom/work.ts";
import { standingOfWire } from "../record/made.ts";
import { PURPOSES } from "../record/purposes.ts";
import { endKey } from "../schematic/nets.ts";
import { devicesOfThread, fitted, type Thread } from "../schematic/thread.ts";
import { NEVER } from "../sense/edits.ts";
import { list } from "../units/format.ts";
import { type Look, type Remedy, rule } from "./rule.ts";

interface InTheWay extends IdleWire {
  label: string;
  /** What is written at those of its ends that nothing is to be joined to. */
  dead: string[];
  /** What the plan has at its two ends, when it keeps them apart. */
  serves: string;
  threads: Thread[];
}

export const madeServesNothing = rule<InTheWay>({
  id: "made-serves-nothing",
  stage: "loom",
  column: null,
  severity: ({ fact, why }) => (why === "apart" && fact.fromJoinedAt && fact.toJoinedAt ? "stop" : "look"),
  title: "A wire that is made has no place in the plan",
  about:
    "What was cut, labelled or screwed in stays as it is when the plan changes. Where it no longer fits, the plan does not go over it without a word: the wire is moved, taken out, or the plan is changed back. A wire that joins what the plan keeps apart may be a short circuit as it is. Cores that are screwed in at both ends and not used yet are spare, and no mistake.",
  look: (look) =>
    look.circuitry.loom.idle.flatMap((idle) => (idle.why === "spare" ? [] : [{ ...idle, ...wordsOf(look, idle) }])),
  subject: ({ fact }) => fact.id,
  where: ({ label }) => label,
  terminals: ({ from, to }) => [from, to],
  turnouts: ({ threads }) => threads,
  why: ({ label, fact, from, to, why, dead, serves }) => {
    const is = standingOfWire(fact) === "kept" ? "is kept" : "is made";
    if (why === "apart") return `${label} ${is} and joins ${from} to ${to}, which the plan keeps apart${serves}.`;
    if (why === "stub") return `${label} ${is} from ${from} to ${to}; by the plan nothing goes on from there.`;
    if (why === "dead") return `${label} ${is} from ${from} to ${to}; the plan joins nothing to ${list(dead, "or")}.`;
    const loose = [fact.fromDeviceId || fact.fromStripId ? null : from, fact.toDeviceId || fact.toStripId ? null : to];
    return `${label} ${is}, and what it went to at ${list(loose.filter((name) => name !== null))} is gone.`;
  },
  remedies: ({ fact, label }, { record, circuitry }): Remedy[] => {
    const moved = moveWires(record, circuitry.loom, [fact.id]);
    return [
      ...(moved ? [{ label: moved.words.replace(/^Moved/, "Move"), group: moved }] : []),
      { label: `Take ${label} out`, group: takeWiresOut(record, [fact.id], NEVER) },
    ];
  },
});

function wordsOf({ circuitry, threads }: Look, { fact, from, to, why }: IdleWire): Omit<InTheWay, keyof IdleWire> {
  const joined = new Set(circuitry.schematic.nets.flatMap(({ ends }) => ends.map(endKey)));
  const isDead = (deviceId: string | null, terminal: string | null) =>
    deviceId !== null && !joined.has(`${deviceId}:${terminal}`);
  const at = new Set([fact.fromDeviceId, fact.toDeviceId]);
  return {
    serves: why === "apart" ? servesWords(circuitry, fact) : "",
    label: `W${fact.number}`,
    dead: [
      ...(isDead(fact.fromDeviceId, fact.fromTerminal) ? [from] : []),
      ...(isDead(fact.toDeviceId, fact.toTerminal) ? [to] : []),
    ],
    threads: threads.filter((thread) => devicesOfThread(thread).some((id) => at.has(id))),
  };
}

/** What the two nets are for that a wire would make one of; of supplies, which they are. */
function servesWords({ record, schematic, loom }: Look["circuitry"], fact: IdleWire["fact"]): string {
  const { from, to } = factEnds(fact);
  const words = [from, to].map((key) => {
    const net =
      schematic.nets.find(({ ends }) => ends.some((end) => endKey(end) === key)) ??
      schematic.nets.find(({ id }) =>
        loom.wires.some((wire) => wire.net === id && (wire.from.key === key || wire.to.key === key)),
      );
    if (!net) return null;
    const devices = new Set(net.ends.map(({ deviceId }) => deviceId));
    const supplies = [...devices].flatMap((id) => {
      const { device, type } = fitted(record, id);
      return type.family === "supply" ? [device.label] : [];
    });
    const about = PURPOSES[net.purpose].about;
    return supplies.length > 0 ? `${about}, of ${list(supplies)}` : about;
  });
  const [one, other] = words;
  return one && other ? `: ${one} from ${other}` : "";
}
