import { traitsOf } from "../../catalogue/traits.ts";
import type { RailwayRecord } from "../../record/kinds.ts";
import type { End, Joiner } from "../nets.ts";
import { supplyOf, type ThreadLamp } from "../thread.ts";
import { powerTerminals } from "./supplyToBoard.ts";

/**
 * A supply goes through a contact of a motor or relay to one lead of a two-colour lamp or the other; the lamp's common
 * goes back to the supply's other side. The lamp then knows how the motor's arm or the relay lies.
 */
export function lampFromContact(record: RailwayRecord, lamp: ThreadLamp, joiner: Joiner): void {
  const { leads } = lamp.type;
  if (!leads || traitsOf(lamp.from.type).inTrack === "frog" || lamp.from.type.contactSets === 0) return;
  const { crossed } = lamp.assignment;
  const way = lamp.assignment.way ?? 1;
  const supply = supplyOf(record, lamp.device.id);
  const id = lamp.turnout.id;
  const atLamp = (terminal: string) => ({ deviceId: lamp.device.id, terminal });
  const [normal, reverse] = leads;
  const [plus, minus] = supply ? powerTerminals(supply) : ["+", "−"];
  const [toContact, toCommon] = lamp.type.commonPlus ? [minus, plus] : [plus, minus];
  const [purpose, back] = lamp.type.commonPlus ? (["dc-zero", "dc-plus"] as const) : (["dc-plus", "dc-zero"] as const);
  if (way <= lamp.from.type.contactSets) {
    const atContact = (end: string) => ({ deviceId: lamp.from.device.id, terminal: `S${way}${end}` });
    if (supply) joiner.join(purpose, id, [{ deviceId: supply.device.id, terminal: toContact }, atContact("c")]);
    joiner.join("lamp-normal", id, [atContact("n"), atLamp(crossed ? reverse : normal)]);
    joiner.join("lamp-reverse", id, [atContact("r"), atLamp(crossed ? normal : reverse)]);
  }
  if (supply) joinCommon(lamp, joiner, back, { deviceId: supply.device.id, terminal: toCommon });
}

/** A lamp's common lead goes back as it is, or through a piece of a resistor board. */
export function joinCommon(lamp: ThreadLamp, joiner: Joiner, purpose: "dc-plus" | "dc-zero", to: End): void {
  const common = { deviceId: lamp.device.id, terminal: lamp.type.leads?.[2] ?? "0" };
  const { resistor, turnout } = lamp;
  if (!resistor) {
    joiner.join(purpose, turnout.id, [to, common]);
    return;
  }
  const at = (terminal: string) => ({ deviceId: resistor.device.id, terminal });
  joiner.join("lamp-common", turnout.id, [at(`${resistor.way}`), common]);
  joiner.join(purpose, turnout.id, [to, at("C")]);
}
