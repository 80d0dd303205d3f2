import { standing } from "../hands/words.ts";
import { bearsOf } from "../loom/bears.ts";
import { setStrip } from "../loom/hand.ts";
import { screwIdOf, type Wire } from "../loom/wire.ts";
import type { Strip } from "../record/made.ts";
import type { Thread } from "../schematic/thread.ts";
import { amps, list } from "../units/format.ts";
import { rule } from "./rule.ts";
import { threadsOfWires } from "./threadsOf.ts";

interface HotPin {
  strip: Strip;
  pin: string;
  wire: Wire;
  amps: number;
  may: number;
  when: string;
  /** Other pins of the plug that carry too much, with the wires on them. */
  others: string[];
  threads: Thread[];
}

/** Currents that differ by less than this share are the same one. */
const ALIKE = 1e-6;

export const plugOverCurrent = rule<HotPin>({
  id: "plug-over-current",
  stage: "loom",
  column: null,
  severity: "stop",
  title: "A plug carries more than its pins bear",
  about:
    "The pins of a small plug bear less than the wires soldered to them: a pin that carries too much for long grows hot, springs lose their grip, and the plug melts. The rule looks at the solved current of every wire that ends on a plug in every combination of what can be set. A common return for the whole panel is the pin to look at: give it several pins, a plug of its own, or one that bears more.",
  look: ({ record, circuitry, threads, hands }) => {
    const plugs = new Map(
      circuitry.loom.strips.flatMap((strip) => (strip.pinAmps === null ? [] : [[strip.id, strip]])),
    );
    if (plugs.size === 0) return [];
    const wires = new Map(circuitry.loom.wires.map((wire) => [wire.element, wire]));
    const worst = new Map<string, HotPin>();
    for (const { kind, id, amps: flows, limit: may, when } of hands) {
      const wire = kind === "wire" ? wires.get(id) : undefined;
      if (!wire || may >= bearsOf(circuitry.loom, wire)) continue;
      for (const { key, of, name } of [wire.from, wire.to]) {
        const strip = of ? undefined : plugs.get(screwIdOf(key));
        const known = worst.get(key);
        // of two wires at a pin that carry the same, the one of the lower number, whatever the last digits say
        const isWorse =
          !known ||
          flows > known.amps * (1 + ALIKE) ||
          (flows > known.amps * (1 - ALIKE) && wire.number < known.wire.number);
        if (!strip || strip.pinAmps !== may || !isWorse) continue;
        worst.set(key, {
          strip,
          pin: name,
          wire,
          amps: flows,
          may,
          when: standing(record, when),
          others: [],
          threads: [],
        });
      }
    }
    // one finding for each plug, at the pin that carries most
    return [...plugs.values()].flatMap((strip): HotPin[] => {
      const pins = [...worst.values()].filter((pin) => pin.strip === strip).sort((a, b) => b.amps - a.amps);
      const [first] = pins;
      if (!first) return [];
      // of several that carry the same, a circuit that goes through two pins, the one that comes first on the plug
      const alike = pins.filter(({ amps: flows }) => flows > first.amps * (1 - ALIKE));
      const most = alike.reduce((a, b) => (b.pin.localeCompare(a.pin, "en", { numeric: true }) < 0 ? b : a));
      const own = threadsOfWires(
        threads,
        pins.map(({ wire }) => wire),
      );
      return [
        {
          ...most,
          others: pins.filter((pin) => pin !== most).map(({ pin, wire }) => `${wire.label} at ${pin}`),
          threads: own,
        },
      ];
    });
  },
  subject: ({ strip }) => strip.id,
  where: ({ pin }) => pin,
  terminals: ({ pin }) => [pin],
  turnouts: ({ threads }) => threads,
  why: ({ pin, wire, amps: flows, may, when, others }) =>
    `Pin ${pin} carries ${amps(flows)} of ${wire.label} ${when}; it bears ${amps(may)}.${others.length > 0 ? ` Too much as well: ${list(others)}.` : ""}`,
  remedies: ({ strip }, { record, circuitry, hands }) => {
    // all pins of the plug have to bear what the worst of them carries
    const own = new Set(
      circuitry.loom.wires.flatMap(({ element, from, to }) =>
        [from, to].some(({ key, of }) => !of && screwIdOf(key) === strip.id) ? [element] : [],
      ),
    );
    const most = Math.max(0, ...hands.flatMap(({ kind, id, amps }) => (kind === "wire" && own.has(id) ? [amps] : [])));
    const needed = Math.ceil(most);
    return [
      {
        label: `Take a plug of ${needed} A a pin`,
        group: setStrip(record, circuitry.loom, strip.id, { pinAmps: needed }),
      },
      { label: "Join it by screws", group: setStrip(record, circuitry.loom, strip.id, { pinAmps: null }) },
    ];
  },
});
