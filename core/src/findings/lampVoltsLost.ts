import { figureValue } from "../catalogue/catalogue.ts";
import { lampIn } from "../readings/threadReading.ts";
import { type Fitted, supplyOf, type Thread, type ThreadLamp } from "../schematic/thread.ts";
import { count, volts } from "../units/format.ts";
import { layThicker, splitSupply } from "./remedies.ts";
import { type Look, POSITIONS, rule } from "./rule.ts";

/** Share of a supply's volts lost in wires from which they and not the resistor are why a lamp is dim (common practice). */
const LOST_SHARE = 0.1;

/** A lamp that gets too little of its supply's volts to be bright. */
interface Starved {
  thread: Thread;
  lamp: ThreadLamp;
  supply: Fitted;
  /** What arrives of them while it takes its current. */
  volts: number;
}

interface Lost {
  supply: Fitted;
  /** Those that are dim, the dimmest last. */
  lamps: Starved[];
}

export const lampVoltsLost = rule<Lost>({
  id: "lamp-volts-lost",
  stage: "loom",
  column: "lamp",
  severity: "look",
  title: "Lamps are dim because wires take their volts",
  about:
    "Lamps that share a supply hang on wires that go on from turnout to turnout, and what each of them takes flows through all wires before it: the volts lost grow with the square of their number. No resistor cures that. The rule looks at the solved volts behind each lamp's contact where its current is below half of what it is rated for, which beside a bright one is seen; feed the far half from a supply of its own, or lay thicker wire.",
  *look(look) {
    const bySupply = new Map<string, Lost>();
    const all = yield* look.inThreads("lamps starved", (thread) =>
      thread.lamps.flatMap((lamp) => starvedLamp(look, thread, lamp) ?? []),
    );
    for (const starved of all) {
      const { supply } = starved;
      const known = bySupply.get(supply.device.id) ?? { supply, lamps: [] };
      bySupply.set(supply.device.id, known);
      known.lamps.push(starved);
    }
    for (const { lamps } of bySupply.values()) lamps.sort((a, b) => b.volts - a.volts);
    return [...bySupply.values()];
  },
  subject: ({ supply }) => supply.device.id,
  where: ({ supply }) => supply.device.label,
  turnouts: ({ lamps }) => lamps.map(({ thread }) => thread),
  why: ({ supply, lamps }) => {
    const last = lamps.at(-1);
    const of = volts(figureValue(supply.type, "volts"));
    const others = lamps.length > 1 ? `, the last of ${count(lamps.length, "dim lamp")}` : "";
    return `${volts(last?.volts ?? 0)} of the ${of} of ${supply.device.label} arrive at ${last?.lamp.device.label ?? ""}${others}; the rest is lost in wires that go on from turnout to turnout.`;
  },
  remedies: ({ supply }, { record }) => [...splitSupply(record, supply), ...layThicker(record, "wireGauge")],
});

/** A lamp when it is dim for want of volts; null when it is bright, or dim for another reason. */
export function starvedLamp(look: Look, thread: Thread, lamp: ThreadLamp): Starved | null {
  return look.remember(thread, `starved ${lamp.device.id}`, () => findStarved(look, thread, lamp));
}

function findStarved({ record, reading }: Look, thread: Thread, lamp: ThreadLamp): Starved | null {
  const supply = supplyOf(record, lamp.device.id);
  if (!lamp.type.leads || !supply) return null;
  let arriving = Number.POSITIVE_INFINITY;
  let dimmest = Number.POSITIVE_INFINITY;
  for (const position of POSITIONS) {
    const reads = lampIn(reading(thread, position, "rest"), lamp);
    if (reads?.contactVolts == null) return null;
    arriving = Math.min(arriving, Math.abs(reads.contactVolts));
    dimmest = Math.min(dimmest, Math.max(reads.normal, reads.reverse));
  }
  const enough = dimmest >= figureValue(lamp.type, "ratedAmps") / 2;
  const arrives = arriving > figureValue(supply.type, "volts") * (1 - LOST_SHARE);
  return enough || arrives ? null : { thread, lamp, supply, volts: arriving };
}
