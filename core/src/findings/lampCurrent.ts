import { figureValue } from "../catalogue/catalogue.ts";
import { Draft } from "../equip/draft.ts";
import { freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type OwnType, PLAIN_TYPE, type Position } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import { type Fitted, supplyOf, type Thread, type ThreadLamp } from "../schematic/thread.ts";
import { amps, ohms, volts } from "../units/format.ts";
import { preferredAtLeast } from "../units/preferredValues.ts";
import { joinedAtContacts } from "./contactUsedTwice.ts";
import { onDc } from "./frogLampsOnDc.ts";
import { starvedLamp } from "./lampVoltsLost.ts";
import { POSITIONS, type Remedy, rule } from "./rule.ts";

interface Lit {
  thread: Thread;
  lamp: NonNullable<Thread["lamp"]>;
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
    "The resistor takes what the supply has over the LED's own forward voltage; supply volts divided by ohms is not the current. Above its rating a lamp fails early; below half of it a lamp is dim, and below about 1 mA dark. The rule looks at the solved current of the lit colour in both positions.",
  look: (look) => {
    const joined = joinedAtContacts(look.record);
    return look.threads.flatMap((thread): Lit[] => {
      const { record, reading } = look;
      const { lamp } = thread;
      const supply = lamp && (supplyOf(record, lamp.device.id) ?? supplyOf(record, lamp.from.device.id));
      if (!lamp?.type.leads || !supply || !canLight(lamp)) return [];
      // what wires take, or a contact that serves two things, has another finding and another cure
      if (starvedLamp(look, thread) || joined.has(lamp.device.id) || onDc(record, thread).length > 0) return [];
      const leads = lamp.type.leads;
      const rated = figureValue(lamp.type, "ratedAmps");
      const lit = POSITIONS.map((position): Lit => {
        const reads = reading(thread, position, "rest").lamp ?? { normal: 0, reverse: 0 };
        const side = reads.normal >= reads.reverse ? "normal" : "reverse";
        return { thread, lamp, supply, position, lead: leads[side === "normal" ? 0 : 1], amps: reads[side], rated };
      });
      const wrong = lit.filter(({ amps: flows }) => flows > rated || flows < rated / 2);
      return wrong.sort((a, b) => b.amps - a.amps).slice(0, 1);
    });
  },
  subject: ({ lamp }) => lamp.device.id,
  where: ({ lamp }) => lamp.device.label,
  terminals: ({ lamp, lead }) => [terminalName(lamp.device.label, lead)],
  turnouts: ({ thread }) => [thread],
  why: ({ lamp, supply, position, lead, amps: flows, rated }) => {
    const colour = lamp.type.terminals.find(({ name }) => name === lead)?.about.split(",")[0];
    const resistor = ohms(figureValue(lamp.type, "resistorOhms"));
    const lit = `${lamp.device.label} takes ${amps(flows)} in ${colour} at ${position}, from ${supply.device.label} through ${resistor}`;
    if (flows > rated) return `${lit}; it is rated ${amps(rated)}.`;
    return `${lit}; ${flows < figureValue(lamp.type, "leastAmps") ? "that is dark" : `below ${amps(rated / 2)} it is dim`}.`;
  },
  remedies: (lit, { record }) => [fitResistor(record, lit)],
});

/** A lamp on a contact that is not there, or on outputs that cannot light it, has another finding. */
function canLight({ type, assignment, from }: ThreadLamp): boolean {
  if (from.type.drives === "sink" && !type.commonPlus) return false;
  const byContact = from.type.contactSets > 0 || from.type.family === "motor";
  return !byContact || (assignment.way ?? 1) <= from.type.contactSets;
}

/** Fits the standard resistor for three quarters of the rated current, as an own type which other lamps can share. */
function fitResistor(record: RailwayRecord, { lamp, supply, rated }: Lit): Remedy {
  const forward = Math.min(figureValue(lamp.type, "greenVolts"), figureValue(lamp.type, "yellowVolts"));
  const left = Math.max(figureValue(supply.type, "volts") - forward, 0.1);
  const chosen = preferredAtLeast(left / (rated * AIM_SHARE), "E24");
  const name = `Two-colour lamp with ${ohms(chosen)}, for ${volts(figureValue(supply.type, "volts"))}`;
  const draft = new Draft(record);
  let own = record.types.find((type) => type.name === name);
  if (!own) {
    const basis = record.types.find((type) => type.id === lamp.type.id);
    own = {
      ...PLAIN_TYPE,
      ...basis,
      id: freshId(record, "type", `lamp-${chosen}-ohm`),
      basedOn: basis?.basedOn ?? lamp.type.id,
      name,
      figures: { ...basis?.figures, resistorOhms: chosen },
    } satisfies OwnType;
    draft.put("type", own);
  }
  draft.put("device", { ...lamp.device, typeId: own.id });
  return {
    label: `Fit ${ohms(chosen)} at ${lamp.device.label}`,
    group: draft.group(`${lamp.device.label} has ${ohms(chosen)} now`),
  };
}
