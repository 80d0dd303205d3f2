import {
  CABLE_COLOUR_WORDS,
  CABLE_COLOURS,
  CATALOGUE,
  type EditGroup,
  GAUGES,
  type RailwayRecord,
  recordError,
  setLaying,
  TOPOLOGIES,
  TOPOLOGY_WORDS,
} from "@alderman/core";
import { Download } from "lucide-react";
import { useParams } from "react-router";
import { useLoom } from "../derivation/hooks.ts";
import { buttonClass } from "../kit/Button.tsx";
import { ChoiceField } from "../kit/ChoiceField.tsx";
import { Dialog } from "../kit/Dialog.tsx";
import { Field, FieldGroup, FormGrid } from "../kit/Field.tsx";
import { NumberField } from "../kit/NumberField.tsx";
import { TextField } from "../kit/TextField.tsx";
import { useRecord } from "../session/hooks.ts";
import { useEdit, useTryEdit } from "../session/useEdit.ts";

const GAUGE_OPTIONS = GAUGES.map((value) => ({ value, text: value }));

const TOPOLOGY_OPTIONS = TOPOLOGIES.map((value) => ({ value, text: TOPOLOGY_WORDS[value] }));

const COLOUR_OPTIONS = CABLE_COLOURS.map((value) => ({ value, text: CABLE_COLOUR_WORDS[value] }));

/** What belongs to the railway as a whole: name, wire sizes, lengths, how the command station counts. */
export function RailwayDialog({ close }: { close: () => void }) {
  const record = useRecord();
  const { railwayId } = useParams();
  const tryEdit = useTryEdit();
  const act = useEdit();
  const loom = useLoom();
  if (!record) return null;
  const { railway } = record;
  const setting = (words: string, change: Partial<RailwayRecord["railway"]>): EditGroup => ({
    words: words.slice(0, 200),
    edits: [{ op: "railway", value: { ...railway, ...change } }],
  });
  const laying = (fields: Parameters<typeof setLaying>[2]) => () => {
    // what is made stays where it is, which the loom has to say
    if (!loom) throw recordError("The wires are still being worked out. Try again in a moment.");
    return setLaying(record, loom, fields);
  };
  const set = (...to: Parameters<typeof setting>) => tryEdit(setting(...to));
  const lay = (...to: Parameters<typeof laying>) => tryEdit(laying(...to));
  return (
    <Dialog title={railway.name} about="Settings of the railway. Each is saved when it is changed." close={close}>
      <FormGrid>
        <Field label="Name">
          {(ids) => (
            <TextField ids={ids} value={railway.name} save={(name) => set(`The railway is called ${name}`, { name })} />
          )}
        </Field>
      </FormGrid>
      <FieldGroup title="Wires and cables">
        <ChoiceField
          label="Single wires"
          value={railway.wireGauge}
          options={GAUGE_OPTIONS}
          onChange={(wireGauge) => act(setting(`Single wires are ${wireGauge}`, { wireGauge }))}
        />
        <ChoiceField
          label="Cores of cables"
          value={railway.cableGauge}
          options={GAUGE_OPTIONS}
          onChange={(cableGauge) => act(setting(`Cores of cables are ${cableGauge}`, { cableGauge }))}
        />
        <ChoiceField
          label="Trunks"
          value={railway.busGauge}
          options={GAUGE_OPTIONS}
          onChange={(busGauge) => act(setting(`Trunks are ${busGauge}`, { busGauge }))}
        />
        <ChoiceField
          label="Cores of a cable"
          value={String(railway.cableCores)}
          options={sizes("cores", railway.cableCores)}
          onChange={(cores) => act(setting(`Cables have ${cores} cores`, { cableCores: Number(cores) }))}
        />
        <ChoiceField
          label="Colours of cores"
          value={railway.cableColours}
          options={COLOUR_OPTIONS}
          onChange={(cableColours) =>
            act(setting(`Cores are coloured as ${CABLE_COLOUR_WORDS[cableColours]}`, { cableColours }))
          }
        />
        <ChoiceField
          label="Ways of a strip"
          value={String(railway.stripWays)}
          options={sizes("ways", railway.stripWays)}
          onChange={(ways) => act(setting(`Strips have ${ways} ways`, { stripWays: Number(ways) }))}
        />
      </FieldGroup>
      <FieldGroup title="Where things are">
        <MetresField
          label="Cable, panel to layout, m"
          value={railway.cableMetres}
          set={(cableMetres) => set(`The cable is ${cableMetres} m`, { cableMetres })}
        />
        <MetresField
          label="Usual wire to a motor, m"
          value={railway.runMetres}
          set={(runMetres) => set(`A wire to a motor is ${runMetres} m`, { runMetres })}
        />
        <MetresField
          label="Between turnouts, m"
          value={railway.spacingMetres}
          set={(spacingMetres) => set(`Turnouts are ${spacingMetres} m apart`, { spacingMetres })}
        />
        <MetresField
          label="A step of the line diagram, m"
          value={railway.stepMetres}
          set={(stepMetres) => set(`A step of the line is ${stepMetres} m`, { stepMetres })}
        />
        <MetresField
          label="From a control to its strip, m"
          value={railway.tailMetres}
          set={(tailMetres) => set(`A tail is ${tailMetres} m`, { tailMetres })}
        />
        <MetresField
          label="Slack at each end, m"
          value={railway.slackMetres}
          set={(slackMetres) => set(`${slackMetres} m more are cut at each end`, { slackMetres })}
        />
        <MetresField
          label="Wire on a reel, m"
          value={railway.reelMetres}
          set={(reelMetres) => set(`A reel holds ${reelMetres} m`, { reelMetres })}
        />
      </FieldGroup>
      <FieldGroup title="Trains">
        <NumbersField
          label="Scale, 1 to"
          value={railway.scale}
          set={(scale) => set(`The scale is 1 to ${scale}`, { scale })}
        />
        <NumbersField
          label={railway.units === "imperial" ? "Speed of trains, mph" : "Speed of trains, km/h"}
          value={Math.round((railway.trainKmh / kmPer(railway)) * 10) / 10}
          set={(speed) => set(`Trains run at ${speed}`, { trainKmh: speed * kmPer(railway) })}
        />
        <MetresField
          label="The longest train, m"
          value={railway.trainMetres}
          set={(trainMetres) => set(`The longest train is ${trainMetres} m`, { trainMetres })}
        />
      </FieldGroup>
      <FieldGroup title="How it is laid">
        <ChoiceField
          label="Commons of pulses"
          value={railway.commons}
          options={TOPOLOGY_OPTIONS}
          onChange={(commons) => act(setting(`Commons are ${TOPOLOGY_WORDS[commons]}`, { commons }))}
        />
        <ChoiceField
          label="Feeders"
          value={railway.feeders}
          options={TOPOLOGY_OPTIONS}
          onChange={(feeders) => act(setting(`Feeders are ${TOPOLOGY_WORDS[feeders]}`, { feeders }))}
        />
        <ChoiceField
          label="Strips under the layout"
          value={railway.stripsAt}
          options={[
            { value: "boards", text: "beside the boards" },
            { value: "zones", text: "in each zone" },
          ]}
          onChange={(stripsAt) => act(laying({ stripsAt }))}
        />
        <MetresField
          label="Reach of a strip, m"
          value={railway.reachMetres}
          set={(reachMetres) => lay({ reachMetres })}
        />
        <ChoiceField
          label="Cores go by"
          value={railway.coresBy}
          options={[
            { value: "number", text: "number: first free" },
            { value: "role", text: "role: same colour" },
          ]}
          onChange={(coresBy) => act(laying({ coresBy }))}
        />
        <ChoiceField
          label="Motors are joined by"
          value={railway.motorTails}
          options={[
            { value: "wires", text: "single wires" },
            { value: "one", text: "a tail each" },
            { value: "two", text: "a tail for two" },
          ]}
          onChange={(motorTails) => act(laying({ motorTails }))}
        />
        <Field label="Cores of a tail">
          {(ids) => (
            <NumberField
              ids={ids}
              value={railway.tailCores}
              save={(cores) =>
                cores === null || !Number.isInteger(cores) ? "Type a whole number." : lay({ tailCores: cores })
              }
            />
          )}
        </Field>
        <Field label="Ways, cores left spare, %">
          {(ids) => (
            <NumberField
              ids={ids}
              value={Math.round(railway.spareShare * 100)}
              save={(share) =>
                share === null
                  ? "Type a share, 0 to 50."
                  : set(`${share} % are left spare`, { spareShare: share / 100 })
              }
            />
          )}
        </Field>
      </FieldGroup>
      <FieldGroup title="Addresses">
        <ChoiceField
          label="Command station counts"
          value={railway.addressShift === 4 ? "4" : "0"}
          options={[
            { value: "0", text: "as the standard does" },
            { value: "4", text: "from raw 0: four off" },
          ]}
          onChange={(shift) => act(setting("How addresses are counted", { addressShift: shift === "4" ? 4 : 0 }))}
        />
      </FieldGroup>
      <p className="mt-2 text-small text-ink-2">
        To find out how it counts: throw addresses 1 and 5, and see which of them moves the first output of a board with
        factory settings.
      </p>
      <div className="mt-3">
        <Field label="Note" stacked>
          {(ids) => (
            <TextField
              ids={ids}
              lines={4}
              value={railway.note}
              save={(note) => set("Changed the railway's note", { note })}
            />
          )}
        </Field>
      </div>
      <a className={buttonClass("plain", "normal", "mt-3")} href={`/api/railways/${railwayId}/file`} download>
        <Download size={14} aria-hidden="true" /> Export the railway as a file
      </a>
    </Dialog>
  );
}

/** Kilometres in a unit of speed. */
function kmPer({ units }: RailwayRecord["railway"]): number {
  return units === "imperial" ? KM_PER_MILE : 1;
}

const KM_PER_MILE = 1.609344;

/** A length that may not be left out. */
function MetresField(props: Omit<Parameters<typeof NumbersField>[0], "what">) {
  return <NumbersField {...props} what="metres" />;
}

/** A number that may not be left out. */
function NumbersField({
  label,
  value,
  set,
  what = "a number",
}: {
  what?: string;
  label: string;
  value: number;
  set: (metres: number) => ReturnType<ReturnType<typeof useTryEdit>>;
}) {
  return (
    <Field label={label}>
      {(ids) => (
        <NumberField ids={ids} value={value} save={(metres) => (metres === null ? `Type ${what}.` : set(metres))} />
      )}
    </Field>
  );
}

/** The sizes of strips or cables in the catalogue, and the one that is set. */
function sizes(figure: "ways" | "cores", now: number) {
  const known = CATALOGUE.flatMap(({ figures }) => figures[figure]?.value ?? []);
  return [...new Set([...known, now])]
    .sort((a, b) => a - b)
    .map((size) => ({ value: String(size), text: String(size) }));
}
