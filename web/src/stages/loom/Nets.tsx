import {
  commonsOf,
  count,
  joules,
  type LaidAs,
  layNet,
  layZone,
  type Net,
  netName,
  ohms,
  PURPOSES,
  type RailwayRecord,
  setPlasticJoints,
  TOPOLOGY_WORDS,
  type Topology,
  usualLaying,
  volts,
  wiresByNet,
  type Zone,
} from "@alderman/core";
import { useEffect, useMemo, useState } from "react";
import { askLayings, useOverview } from "../../derivation/hooks.ts";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Field, FormGrid } from "../../kit/Field.tsx";
import { NumberField } from "../../kit/NumberField.tsx";
import { useRecord } from "../../session/hooks.ts";
import { type Making, useEdit, useTryEdit } from "../../session/useEdit.ts";
import { useAppDispatch } from "../../store/store.ts";

/** A net that goes to several places under the layout, or a zone with all commons that serve it alone. */
interface Row {
  id: string;
  name: string;
  about: string;
  of: Net | Zone;
  wires: number;
  metres: number;
}

/** Places from which on it matters how a net is laid. */
const LEAST_PLACES = 3;

const COLUMNS: DataColumn<Row>[] = [
  { id: "net", title: "Net of", mono: true, value: ({ name }) => name },
  { id: "about", title: "What", wraps: true, value: ({ about }) => about },
  { id: "wires", title: "Wires", figures: true, value: ({ wires }) => wires },
  { id: "metres", title: "m", figures: true, value: ({ metres }) => metres, cell: ({ metres }) => metres.toFixed(1) },
];

/** Commons and feeders with what they take, and each way of laying the chosen one beside the others. */
export function Nets() {
  const overview = useOverview();
  const record = useRecord();
  const [chosen, setChosen] = useState<string | null>(null);
  const rows = useMemo(() => {
    if (!overview || !record) return [];
    const ofNet = wiresByNet(overview.loom);
    const places = new Map(record.devices.map(({ id, place }) => [id, place]));
    const taken = (nets: readonly Net[]) => {
      const wires = nets.flatMap(({ id }) => ofNet.get(id) ?? []).filter(({ core }) => core === null);
      return { wires: wires.length, metres: wires.reduce((sum, { cutMetres }) => sum + cutMetres, 0) };
    };
    const zones = record.zones.map((zone): Row => {
      const nets = commonsOf(record, overview.nets, zone.id);
      const about = nets.length === 0 ? "rails" : `${count(nets.length, "common")}, rails`;
      return { id: `zone ${zone.id}`, name: `zone ${zone.label}`, about, of: zone, ...taken(nets) };
    });
    const nets = overview.nets.flatMap((net): Row[] => {
      const under = new Set(net.ends.flatMap(({ deviceId }) => (places.get(deviceId) === "layout" ? [deviceId] : [])));
      const [first] = net.ends;
      if (under.size < LEAST_PLACES || !first) return [];
      const about = PURPOSES[net.purpose].about;
      return [{ id: net.id, name: netName(record, first), about, of: net, ...taken([net]) }];
    });
    return [...zones, ...nets];
  }, [overview, record]);
  const row = rows.find(({ id }) => id === chosen);
  return (
    <>
      <DataTable
        label="Nets"
        items={rows}
        columns={COLUMNS}
        idOf={({ id }) => id}
        chosen={chosen}
        onChoose={({ id }) => setChosen(id)}
        empty={<p className="p-3 text-ink-2">No net goes to three places under the layout.</p>}
      />
      {row && record && (
        <div className="max-h-3/5 flex-none overflow-auto border-t border-rule-2 bg-sheet-2 px-3 py-1.5 text-small">
          {"ends" in row.of ? <NetWays record={record} net={row.of} /> : <ZoneWays record={record} zone={row.of} />}
        </div>
      )}
    </>
  );
}

/** What a net, or the commons of a zone, take in each way; null until all of them are laid and solved. */
function useLaid(record: RailwayRecord, what: "net" | "zone", id: string): LaidAs[] | null {
  const dispatch = useAppDispatch();
  const [found, setFound] = useState<{ record: RailwayRecord; id: string; ways: LaidAs[] } | null>(null);
  useEffect(() => {
    let gone = false;
    const of = what === "net" ? { netId: id } : { zoneId: id };
    void dispatch(askLayings(of)).then((ways) => !gone && setFound({ record, id, ways }));
    return () => {
      gone = true;
    };
  }, [what, id, record, dispatch]);
  return found?.record === record && found.id === id ? found.ways : null;
}

/** The commons of a zone in each way, the choice of one for the zone, and its plastic rail joints. */
function ZoneWays({ record, zone }: { record: RailwayRecord; zone: Zone }) {
  const act = useEdit();
  const tryEdit = useTryEdit();
  const ways = useLaid(record, "zone", zone.id);
  const make = (topology: Topology) => layZone(record, zone.id, topology);
  const scopes = [{ name: `in ${zone.label}`, words: `All commons of ${zone.label} so`, make }];
  return (
    <div className="grid gap-1 py-1">
      {ways === null && <p className="text-ink-2">Laying them in each way ...</p>}
      {ways?.length === 0 && <p className="text-ink-2">No common of pulses serves this zone alone.</p>}
      {ways?.map((way) => (
        <WayOfLaying key={way.topology} way={way} currency={record.railway.currency} scopes={scopes} act={act} />
      ))}
      <FormGrid narrow>
        <Field label="Plastic rail joints">
          {(ids) => (
            <NumberField
              ids={ids}
              value={zone.plasticJoints}
              save={(joints) => tryEdit(() => setPlasticJoints(record, zone.id, joints ?? 0))}
            />
          )}
        </Field>
      </FormGrid>
      <p className="text-ink-2">
        Where its rails have feeds of their own they are parted from the next zone by two plastic joints at each track
        that leaves it; feeders then go {TOPOLOGY_WORDS.blocks}. The joints are on the buy list.
      </p>
    </div>
  );
}

/** A net laid in each way, and the choice of one: for the net, its zone, or the railway. */
function NetWays({ record, net }: { record: RailwayRecord; net: Net }) {
  const overview = useOverview();
  const act = useEdit();
  const ways = useLaid(record, "net", net.id);
  if (ways === null) return <p className="text-ink-2">Laying it in each way ...</p>;
  const chosen = record.layings.some(({ deviceId, terminal }) =>
    net.ends.some((end) => end.deviceId === deviceId && end.terminal === terminal),
  );
  const wires = (overview && wiresByNet(overview.loom).get(net.id)) ?? [];
  const made = wires.filter(({ fact }) => fact !== null).length;
  return (
    <div className="grid gap-1 py-1">
      {made > 0 && (
        <p className="text-ink-2">
          {made} of its {count(wires.length, "wire")} {made === 1 ? "is" : "are"} made or kept, and stay as they are;
          only new ones follow the choice.
        </p>
      )}
      {ways.map((way) => (
        <WayOfLaying
          key={way.topology}
          way={way}
          currency={record.railway.currency}
          scopes={scopesOf(record, net)}
          act={act}
        />
      ))}
      {chosen && (
        <Button size="small" onClick={() => act(() => layNet(record, net, null))}>
          Lay it as usual again
        </Button>
      )}
    </div>
  );
}

/** What a choice can count for, with the edit that makes it. */
interface Scope {
  name: string;
  /** What its button says. */
  words: string;
  make: (topology: Topology) => Making;
}

function scopesOf(record: RailwayRecord, net: Net): Scope[] {
  const scopes: Scope[] = [{ name: "here", words: "Lay it so", make: (topology) => layNet(record, net, topology) }];
  const field = usualLaying(net.purpose);
  const zones = new Set(
    net.ends.flatMap(({ turnoutId }) => record.turnouts.find(({ id }) => id === turnoutId)?.zoneId ?? []),
  );
  const [zoneId] = zones;
  const zone = zones.size === 1 ? record.zones.find(({ id }) => id === zoneId) : undefined;
  if (field === "commons" && zone)
    scopes.push({
      name: `in ${zone.label}`,
      words: `All commons of ${zone.label} so`,
      make: (topology) => layZone(record, zone.id, topology),
    });
  if (field !== null) {
    const make = (topology: Topology): Making => ({
      words: `Laid all ${field} as ${TOPOLOGY_WORDS[topology]}`,
      edits: [{ op: "railway", value: { ...record.railway, [field]: topology } }],
    });
    scopes.push({ name: `all ${field}`, words: `All ${field} so`, make });
  }
  return scopes;
}

function WayOfLaying({
  way,
  currency,
  scopes,
  act,
}: {
  way: LaidAs;
  currency: string;
  scopes: readonly Scope[];
  act: (making: Making) => boolean;
}) {
  const { topology, present, metres, splices, blocks, joints, cost, farthest, weakest } = way;
  const words = TOPOLOGY_WORDS[topology];
  return (
    <section aria-label={words} className={`border-l-3 px-2 py-0.5 ${present ? "border-copper" : "border-rule-2"}`}>
      <b>{words}</b>
      {present && <span className="text-ink-2"> as it is</span>}
      <div>
        {metres.toFixed(1)} m, {count(joints.underneath, "joint")} underneath
        {splices > 0 && `, ${count(splices, "splice")}`}
        {blocks > 0 && `, ${count(blocks, "block")}`}; about {cost.toFixed(2)} {currency}; {ohms(farthest.ohms)} to{" "}
        {farthest.name}
        {weakest
          ? `; the weakest coil, ${weakest.label}, gets ${joules(weakest.joules)}`
          : `, ${volts(farthest.ohms)} lost for each ampere`}
      </div>
      {!present && (
        <div className="flex flex-wrap gap-1 pt-0.5">
          {scopes.map(({ name, words: button, make }) => (
            <Button key={name} size="small" aria-label={`Lay ${words}, ${name}`} onClick={() => act(make(topology))}>
              {button}
            </Button>
          ))}
        </div>
      )}
    </section>
  );
}
