import { figureValue } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { Draft } from "../equip/draft.ts";
import { firstOfType, setFeeder } from "../equip/feed.ts";
import { isFedByTrack } from "../schematic/recipes/supplyToBoard.ts";
import { type Fitted, supplyOf, type Thread } from "../schematic/thread.ts";
import { list, volts } from "../units/format.ts";
import { rule } from "./rule.ts";

interface Disabled {
  decoder: Fitted;
  track: Fitted;
  threads: Thread[];
  left: number;
  least: number;
}

export const decoderOnOwnTrack = rule<Disabled>({
  id: "decoder-on-own-track",
  stage: "equip",
  column: "driver",
  severity: "look",
  title: "A short at its own turnout takes a decoder's power",
  about:
    "A train that runs onto a wrongly set turnout shorts the track, and a decoder that takes its power from the same track cannot set the turnout right until the train is pushed back by hand. A separate supply keeps it working; the commands come through the track in any case, so put decoders on a feed that trains cannot short. The rule lays a solved short across the decoder's track terminals.",
  look: ({ threads, circuitry, record }) => {
    const found = new Map<string, Disabled>();
    for (const thread of threads) {
      for (const { driver } of thread.motors) {
        const track = driver && supplyOf(record, driver.device.id);
        if (!driver || !track || !isFedByTrack(driver, track) || traitsOf(driver.type).inTrack === "reverser") continue;
        const known = found.get(driver.device.id);
        if (known) {
          if (!known.threads.includes(thread)) known.threads.push(thread);
          continue;
        }
        const id = driver.device.id;
        const short = circuitry.short(`${id}:J`, `${id}:K`, [`${id}:+`, `${id}:−`]);
        const least = figureValue(driver.type, "leastVolts");
        const left = short?.volts ?? 0;
        if (short && left < least) found.set(id, { decoder: driver, track, threads: [thread], left, least });
      }
    }
    return [...found.values()];
  },
  subject: ({ decoder }) => decoder.device.id,
  where: ({ decoder }) => decoder.device.label,
  terminals: ({ decoder }) => [`${decoder.device.label}-J`, `${decoder.device.label}-K`],
  turnouts: ({ threads }) => threads,
  why: ({ decoder, track, threads, left, least }) =>
    `With ${track.device.label} shorted by a train, ${decoder.device.label} keeps ${volts(Math.max(0, left))} of the ${volts(least)} it needs, and cannot set ${list(threads.map(({ label }) => label))} right.`,
  remedies: ({ decoder, track }, { record }) => {
    const draft = new Draft(record);
    const supply = firstOfType(draft, decoder.type.drives === "coil" ? "dc-18" : "dc-12");
    setFeeder(draft, decoder.device.id, "supply", supply.id);
    // its commands go on coming from where they came
    setFeeder(draft, decoder.device.id, "commands", track.device.id);
    const words = `Feed ${decoder.device.label} from ${supply.label}, a supply of its own`;
    return [{ label: words, group: draft.group(words) }];
  },
});
