import { traitsOf } from "../catalogue/traits.ts";
import { isRelay } from "../schematic/recipes/relayBesideMotor.ts";
import type { Thread, ThreadLamp } from "../schematic/thread.ts";

/** What a lamp follows, the closest to the blades last. */
export type Knows = "command" | "arm" | "frog" | "last train" | "sensor" | "blades";

/** What a lamp follows, and what it therefore cannot tell. */
export interface Knowledge {
  knows: Knows;
  words: string;
  cannot: string;
}

const KNOWLEDGE: Record<Knows, Omit<Knowledge, "knows">> = {
  command: {
    words: "the last command",
    cannot: "whether anything moved: a motor that sticks, and blades held by a stone, look like a good throw",
  },
  arm: {
    words: "the motor's arm, by its contact",
    cannot: "the blades: a link that came off, or blades that do not close, look like a good throw",
  },
  frog: {
    words: "the polarity of the frog",
    cannot: "the blades: it follows the contact that feeds the frog, and needs track power",
  },
  "last train": {
    words: "what the last train made the polarity unit do",
    cannot: "anything until a wheel has run over the frog: after a throw it still shows the road before",
  },
  sensor: {
    words: "the blades, by a sensor at the throw bar",
    cannot: "whether they close tightly, nor dust or sunlight on the sensor from the bar",
  },
  blades: { words: "the blades themselves", cannot: "whether they close tightly" },
};

/** What a lamp of a thread knows. */
export function knowledgeOf({ frogs }: Thread, lamp: ThreadLamp): Knowledge {
  const knows = knownBy(lamp, frogs);
  return { knows, ...KNOWLEDGE[knows] };
}

function knownBy({ type, from }: ThreadLamp, frogs: Thread["frogs"]): Knows {
  if (traitsOf(type).shows === "flag") return "blades";
  if (traitsOf(from.type).inTrack === "spot-sensor") return "sensor";
  if (traitsOf(from.type).inTrack === "frog") {
    const frog = frogs.find(({ device }) => device.id === from.device.id);
    return traitsOf(frog?.from?.type).inTrack === "polarity-unit" ? "last train" : "frog";
  }
  // a relay beside the motor is switched by what drives the motor, not by the motor
  if (isRelay(from) || from.type.family !== "motor") return "command";
  return "arm";
}
