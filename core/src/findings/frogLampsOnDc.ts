import { traitsOf } from "../catalogue/traits.ts";
import { Draft } from "../equip/draft.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Fitted, supplyOf, type Thread, type ThreadLamp } from "../schematic/thread.ts";
import { lightByContact } from "./remedies.ts";
import { type Remedy, rule } from "./rule.ts";

interface OnDc {
  thread: Thread;
  lamp: ThreadLamp;
  supply: Fitted;
}

export const frogLampsOnDc = rule<OnDc>({
  id: "frog-lamps-on-dc",
  stage: "equip",
  column: "lamp",
  severity: "look",
  title: "Lamps between frog and rails are dark half of the time on direct current",
  about:
    "Two LEDs from the frog to the rails face the same way. On digital track power each half cycle lights one of them; on direct current only the one lights whose rail is the more positive, so that one position is dark, and the other one when the train runs back. No resistor and no diode cures that: light the lamp from a contact of the motor with a supply of its own.",
  look: (look) => look.inThreads("on DC", (thread) => thread.lamps.flatMap((lamp) => onDc(look.record, thread, lamp))),
  subject: ({ lamp }) => lamp.device.id,
  where: ({ lamp }) => lamp.device.label,
  terminals: ({ lamp }) => [lamp.device.label],
  turnouts: ({ thread }) => [thread],
  why: ({ lamp, supply }) =>
    `${lamp.device.label} hangs between frog and rails fed by ${supply.device.label}, direct current: one of its LEDs is dark, and the other one when the current is reversed.`,
  remedies: ({ thread, lamp }, { record }) => byContact(record, thread, lamp),
});

/** Whether a lamp hangs between a frog and rails that carry direct current. */
export function hangsOnDc(record: RailwayRecord, lamp: ThreadLamp): boolean {
  const supply = traitsOf(lamp.type).shows === "frog-leds" ? supplyOf(record, lamp.from.device.id) : null;
  return traitsOf(supply?.type).gives === "dc";
}

function onDc(record: RailwayRecord, thread: Thread, lamp: ThreadLamp): OnDc[] {
  if (traitsOf(lamp.type).shows !== "frog-leds") return [];
  const supply = supplyOf(record, lamp.from.device.id);
  return supply && traitsOf(supply.type).gives === "dc" ? [{ thread, lamp, supply }] : [];
}

function byContact(record: RailwayRecord, thread: Thread, lamp: ThreadLamp): Remedy[] {
  const draft = new Draft(record);
  const contact = lightByContact(draft, thread, lamp);
  if (contact === null) return [];
  const label = `Light it by ${contact}`;
  return [{ label, group: draft.group(label) }];
}
