import {
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
  TOPOLOGY_WORDS,
  type Topology,
  usualLaying,
  wiresByNet,
} from "@alderman/core";
import { useEffect, useMemo, useState } from "react";
import { askLayings, useOverview } from "../../derivation/hooks.ts";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { useRecord } from "../../session/hooks.ts";
import { type Making, useEdit } from "../../session/useEdit.ts";
import { useAppDispatch } from "../../store/store.ts";

/** A net that goes to several places under the layout. */
interface Row {
  id: string;
  name: string;
  about: string;
  net: Net;
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
    return overview.nets.flatMap((net): Row[] => {
      const under = new Set(net.ends.flatMap(({ deviceId }) => (places.get(deviceId) === "layout" ? [deviceId] : [])));
      const [first] = net.ends;
      if (under.size < LEAST_PLACES || !first) return [];
      const wires = (ofNet.get(net.id) ?? []).filter(({ core }) => core === null);
      const metres = wires.reduce((sum, { cutMetres }) => sum + cutMetres, 0);
      const about = PURPOSES[net.purpose].about;
      return [{ id: net.id, name: netName(record, first), about, net, wires: wires.length, metres }];
    });
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
          <Ways record={record} net={row.net} />
        </div>
      )}
    </>
  );
}

/** A net laid as star, chain and bus, and the choice of one: for the net, its zone, or the railway. */
function Ways({ record, net }: { record: RailwayRecord; net: Net }) {
  const overview = useOverview();
  const dispatch = useAppDispatch();
  const act = useEdit();
  const [found, setFound] = useState<{ record: RailwayRecord; ways: LaidAs[] } | null>(null);
  useEffect(() => {
    let gone = false;
    void dispatch(askLayings(net.id)).then((ways) => !gone && setFound({ record, ways }));
    return () => {
      gone = true;
    };
  }, [net, record, dispatch]);
  if (found?.record !== record) return <p className="text-ink-2">Laying it in each way ...</p>;
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
      {found.ways.map((way) => (
        <WayOfLaying key={way.topology} way={way} scopes={scopesOf(record, net)} act={act} />
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
  scopes,
  act,
}: {
  way: LaidAs;
  scopes: readonly Scope[];
  act: (making: Making) => boolean;
}) {
  const { topology, present, metres, splices, joints, farthest, weakest } = way;
  const words = TOPOLOGY_WORDS[topology];
  return (
    <section aria-label={words} className={`border-l-3 px-2 py-0.5 ${present ? "border-copper" : "border-rule-2"}`}>
      <b>{words}</b>
      {present && <span className="text-ink-2"> as it is</span>}
      <div>
        {metres.toFixed(1)} m, {count(joints.underneath, "joint")} underneath
        {splices > 0 && `, ${count(splices, "splice")}`}; {ohms(farthest.ohms)} to {farthest.name}
        {weakest && `; the weakest coil, ${weakest.label}, gets ${joules(weakest.joules)}`}
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
