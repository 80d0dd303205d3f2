import { traitsOf } from "../catalogue/traits.ts";
import { wayName } from "../schematic/nets.ts";
import { heardAt } from "../schematic/recipes/controlToInputs.ts";
import { controlsOf, type Thread, type ThreadControl } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { rule } from "./rule.ts";

interface Asking {
  thread: Thread;
  /** Zones and sensors that ask, and what they ask for. */
  zones: ThreadControl[];
  /** What else may throw the turnout, and cannot while a train stands there. */
  others: string[];
}

export const trainKeepsAsking = rule<Asking>({
  id: "train-keeps-asking",
  stage: "equip",
  column: "control",
  severity: "note",
  title: "A train that stands on a detector keeps asking",
  about:
    "A detector's output is closed for as long as its stretch is occupied, like a button that is held. While a train stands there nothing else throws the turnout against it, and a board that finds the input closed when its power returns throws the turnout at once, under whatever stands on it. Two stretches occupied at the same time ask for both positions, and the board understands neither. Keep trains shorter than the way between the two, and clear them before switching on.",
  look: (look) =>
    look.inThreads("trains ask", (thread): Asking[] => {
      const heard = controlsOf(thread).filter((control) => heardAt(thread, control));
      // what follows a stretch is meant to stand as it does
      const zones = heard.filter(({ type, assignment }) => watches(type) && !assignment.follows);
      if (zones.length === 0) return [];
      const driver = thread.motors[0]?.driver;
      const address = driver?.type.hears === "track" ? [`the address of ${driver.device.label}-${driver.way}`] : [];
      const hands = heard.filter(({ type }) => !watches(type)).map(({ device }) => device.label);
      return [{ thread, zones, others: [...hands, ...address] }];
    }),
  subject: ({ thread }) => thread.turnout.id,
  where: ({ thread }) => thread.label,
  terminals: ({ zones }) => zones.map(nameOf),
  turnouts: ({ thread }) => [thread],
  why: ({ thread, zones, others }) => {
    const standing = `With a train at ${list(zones.map(nameOf), "or")},`;
    const locked = others.length > 0 ? ` ${list(others)} cannot throw ${thread.label} against it, and` : "";
    const both = zones.length > 1 ? "; with trains at more than one, nothing is understood" : "";
    return `${standing}${locked} ${thread.label} is thrown by itself when power returns${both}.`;
  },
  remedies: () => [],
});

function watches(type: ThreadControl["type"]): boolean {
  const { inTrack } = traitsOf(type);
  return inTrack === "detector" || inTrack === "spot-sensor";
}

const nameOf = ({ device, assignment }: ThreadControl) => wayName(device.label, assignment.way);
