import { figureValue } from "../catalogue/catalogue.ts";
import { sourceOf } from "../catalogue/source.ts";
import { Draft } from "../equip/draft.ts";
import { dimBelow } from "../readings/brightness.ts";
import { lampIn } from "../readings/threadReading.ts";
import { freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type OwnType, PLAIN_TYPE, type Position } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import { type Fitted, supplyOf, type Thread, type ThreadLamp } from "../schematic/thread.ts";
import { amps, ohms, volts } from "../units/format.ts";
import { preferredAtLeast } from "../units/preferredValues.ts";
import { joinedAtContacts } from "./contactUsedTwice.ts";
import { hangsOnDc } from "./frogLampsOnDc.ts";
import { starvedLamp } from "./lampVoltsLost.ts";
import { type Look, POSITIONS, type Remedy, rule } from "./rule.ts";

interface Lit {
  thread: Thread;
  lamp: ThreadLamp;
  supply: Fitted;
  position: Position;
  /** Terminal of the one that is lit. */
  lead: string;
  amps: number;
  rated: number;
}

/** Share of the rated current that a proposed resistor aims at (common practice). */
const AIM_SHARE = 0.75;

export const lampCurrent = rule<Lit>({
  id: "lamp-current",
  stage: "equip",
  column: "lamp",
  severity: ({ amps: lit, rated }) => (lit > rated ? "stop" : "look"),
  title: "A lamp has the wrong current",
  about:
    "The resistor takes what the supply has over the LED's own forward voltage; supply volts divided by ohms is not the current. Above its rating a lamp fails early; below a quarter of it a lamp looks half as bright at most, and below about 1 mA dark. The rule looks at the solved current of the lit colour in both positions.",
  look: (look) =>
    look.inThreads("lamp current", (thread) => thread.lamps.flatMap((lamp) => wronglyLit(look, thread, lamp))),
  subject: ({ lamp }) => lamp.device.id,
  where: ({ lamp }) => lamp.device.label,
  terminals: ({ lamp, lead }) => [terminalName(lamp.device.label, lead)],
  turnouts: ({ thread }) => [thread],
  why: ({ lamp, supply, position, lead, amps: flows, rated }) => {
    const colour = lamp.type.colours?.[lead === lamp.type.leads?.[0] ? 0 : 1];
    const total = resistorOf(lamp);
    const through = total > 0 ? `through ${ohms(total)}` : "without a resistor";
    const lit = `${lamp.device.label} takes ${amps(flows)} in ${colour} at ${position}, from ${supply.device.label} ${through}`;
    if (flows > rated) return `${lit}; it is rated ${amps(rated)}.`;
    return `${lit}; ${flows < figureValue(lamp.type, "leastAmps") ? "that is dark" : `below ${amps(dimBelow(rated))} it is dim`}.`;
  },
  remedies: (lit, { record }) => [fitResistor(record, lit)],
});

/** A lamp whose lit colour takes more than it may, or too little to be seen. */
function wronglyLit(look: Look, thread: Thread, lamp: ThreadLamp): Lit[] {
  const { record, reading } = look;
  const supply = supplyOf(record, lamp.device.id) ?? supplyOf(record, lamp.from.device.id);
  const { leads } = lamp.type;
  if (!leads || !supply || !canLight(lamp)) return [];
  // what wires take, or a contact that serves two things, has another finding and another cure
  const hasAnother = starvedLamp(look, thread, lamp) || joinedAtContacts(record).has(lamp.device.id);
  if (hasAnother || hangsOnDc(record, lamp)) return [];
  const rated = figureValue(lamp.type, "ratedAmps");
  const lit = POSITIONS.map((position): Lit => {
    const reads = lampIn(reading(thread, position, "rest"), lamp) ?? { normal: 0, reverse: 0 };
    const side = reads.normal >= reads.reverse ? "normal" : "reverse";
    return { thread, lamp, supply, position, lead: leads[side === "normal" ? 0 : 1], amps: reads[side], rated };
  });
  const wrong = lit.filter(({ amps: flows }) => flows > rated || flows < Math.max(dimBelow(rated), leastOf(lamp.type)));
  return wrong.sort((a, b) => b.amps - a.amps).slice(0, 1);
}

/** Below this it is dark, amps. */
function leastOf({ figures }: Fitted["type"]): number {
  return figures.leastAmps?.value ?? 0;
}

/** A lamp on a contact that is not there, or on outputs that cannot light it, has another finding. */
function canLight({ type, assignment, from }: ThreadLamp): boolean {
  if (from.type.drives === "sink" && !type.commonPlus) return false;
  const byContact = from.type.contactSets > 0 || from.type.family === "motor";
  return !byContact || (assignment.way ?? 1) <= from.type.contactSets;
}

/** Ohms in the way of one colour's current: in its lead, in the common lead, on a resistor board. */
function resistorOf({ type, resistor }: ThreadLamp): number {
  const own = type.figures.resistorOhms?.value ?? type.figures.commonOhms?.value ?? 0;
  return own + pieceOhms(resistor);
}

function pieceOhms(piece: ThreadLamp["resistor"]): number {
  return piece ? figureValue(piece.type, "firstOhms") + figureValue(piece.type, "secondOhms") : 0;
}

/** A lamp that is sold with a resistor, in place of one without. */
const WITH_RESISTOR = "lamp-two-colour";

/** Fits the standard resistor for three quarters of the rated current, as an own type which other lamps can share. */
function fitResistor(record: RailwayRecord, { lamp, supply, rated }: Lit): Remedy {
  const forward = Math.min(figureValue(lamp.type, "greenVolts"), figureValue(lamp.type, "yellowVolts"));
  const left = Math.max(sourceOf(supply.type).openVolts - forward, 0.1);
  const chosen = preferredAtLeast(Math.max(left / (rated * AIM_SHARE) - pieceOhms(lamp.resistor), 1), "E24");
  const inCommon = lamp.type.figures.commonOhms !== undefined;
  const bare = !inCommon && lamp.type.figures.resistorOhms === undefined;
  const colours = lamp.type.colours ? ` (${lamp.type.colours.join(" and ")})` : "";
  const name = `Lamp with ${ohms(chosen)}${inCommon ? " in its common" : ""}, for ${volts(figureValue(supply.type, "volts"))}${colours}`;
  const draft = new Draft(record);
  const model = bare ? WITH_RESISTOR : (record.types.find(({ id }) => id === lamp.type.id)?.basedOn ?? lamp.type.id);
  let own = record.types.find((type) => type.name === name && type.basedOn === model);
  if (!own) {
    const basis = record.types.find((type) => type.id === lamp.type.id);
    own = {
      ...PLAIN_TYPE,
      ...basis,
      id: freshId(record, "type", `lamp-${chosen}-ohm`),
      basedOn: model,
      name,
      figures: { ...basis?.figures, [inCommon ? "commonOhms" : "resistorOhms"]: chosen },
    } satisfies OwnType;
    draft.put("type", own);
  }
  draft.put("device", { ...lamp.device, typeId: own.id });
  return {
    label: `Fit ${ohms(chosen)} at ${lamp.device.label}`,
    group: draft.group(`${lamp.device.label} has ${ohms(chosen)} now`),
  };
}
