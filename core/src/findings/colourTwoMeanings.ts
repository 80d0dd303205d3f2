import { colourOf } from "../loom/colours.ts";
import { setLeadColour, setPurposeColour } from "../loom/customs.ts";
import { find } from "../record/find.ts";
import { PURPOSES, type Purpose } from "../record/purposes.ts";
import { type End, endKey, terminalName } from "../schematic/nets.ts";
import { devicesOfThread, type Thread } from "../schematic/thread.ts";
import { WIRE_COLOURS, type WireColour } from "../units/wireColours.ts";
import { type Look, type Remedy, rule } from "./rule.ts";

/** A colour that says one thing in one place and another in another: two purposes, or a lead of a device and a purpose. */
interface Clash {
  colour: WireColour;
  /** What the colour says where it is met with first. */
  purpose: Purpose;
  other: { purpose: Purpose; lead: (End & { name: string }) | null };
  threads: Thread[];
}

export const colourTwoMeanings = rule<Clash>({
  id: "colour-two-meanings",
  stage: "loom",
  column: null,
  severity: "note",
  title: "One colour, two meanings",
  about:
    "Red is the common here and a coil there: sooner or later somebody joins the two. One colour means one thing on the whole railway. Where a device is bought with leads of other colours, write them down, and put a sleeve of the railway's colour on each before it is joined.",
  look: (look) => [...amongPurposes(look), ...atLeads(look)],
  subject: ({ purpose, other }) => (other.lead ? endKey(other.lead) : `${purpose} ${other.purpose}`),
  where: ({ colour, other }) => other.lead?.name ?? colour,
  terminals: ({ other }) => (other.lead ? [other.lead.name] : []),
  turnouts: ({ threads }) => threads,
  why: ({ colour, purpose, other }) => {
    const said = `${WIRE_COLOURS[colour]} is "${PURPOSES[purpose].about}"`;
    return other.lead
      ? `The lead at ${other.lead.name} is ${WIRE_COLOURS[colour]} and serves as "${PURPOSES[other.purpose].about}"; elsewhere ${said}.`
      : `On this railway ${said} and "${PURPOSES[other.purpose].about}" too.`;
  },
  remedies: ({ purpose, other }, { record }): Remedy[] => {
    if (other.lead) {
      const colour = colourOf(record, other.purpose);
      const label = `Put a ${WIRE_COLOURS[colour]} sleeve on it`;
      return [{ label, group: setLeadColour(record, other.lead, colour) }];
    }
    return [purpose, other.purpose]
      .filter((each) => record.customs.some((custom) => custom.purpose === each))
      .map((each) => ({
        label: `${PURPOSES[each].about} ${WIRE_COLOURS[PURPOSES[each].colour]} again`,
        group: setPurposeColour(record, each, null),
      }));
  },
});

function amongPurposes({ record, circuitry }: Look): Clash[] {
  if (!record.customs.some(({ purpose }) => purpose !== null)) return [];
  const used = new Set(circuitry.schematic.nets.map(({ purpose }) => purpose));
  const first = new Map<WireColour, Purpose>();
  return [...used].flatMap((purpose): Clash[] => {
    const colour = colourOf(record, purpose);
    const other = first.get(colour);
    if (other === undefined) first.set(colour, purpose);
    return other === undefined ? [] : [{ colour, purpose: other, other: { purpose, lead: null }, threads: [] }];
  });
}

function atLeads({ record, circuitry, threads }: Look): Clash[] {
  const leads = record.customs.filter(({ deviceId }) => deviceId !== null);
  if (leads.length === 0) return [];
  const { nets } = circuitry.schematic;
  const purposeAt = new Map(nets.flatMap(({ ends, purpose }) => ends.map((end) => [endKey(end), purpose] as const)));
  const means = new Map(nets.map(({ purpose }) => [colourOf(record, purpose), purpose]));
  return leads.flatMap(({ deviceId, terminal, colour }): Clash[] => {
    const device = deviceId === null ? undefined : find(record, "device", deviceId);
    if (!device || terminal === null) return [];
    const purpose = purposeAt.get(endKey({ deviceId: device.id, terminal }));
    const meant = means.get(colour);
    if (purpose === undefined || meant === undefined || meant === purpose) return [];
    const own = threads.filter((thread) => devicesOfThread(thread).includes(device.id));
    const lead = { deviceId: device.id, terminal, name: terminalName(device.label, terminal) };
    return [{ colour, purpose: meant, other: { purpose, lead }, threads: own }];
  });
}
