import { type Loom, placeWords, type RailwayRecord } from "@alderman/core";
import { ZoomIn, ZoomOut } from "lucide-react";
import { Combobox } from "../../kit/Combobox.tsx";
import { IconButton } from "../../kit/IconButton.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { drawnName } from "./drawn.ts";

/** So many cables are shown side by side to choose from; any other, and strips, are found by typing. */
const MOST_TABS = 4;

/** Which cable or strip is drawn, chosen by its name, where it goes and where it is; and how large. */
export function DrawnChoice({
  record,
  loom,
  value,
  onChange,
  zoom,
  setZoom,
}: {
  record: RailwayRecord;
  loom: Loom;
  value: string;
  onChange: (name: string) => void;
  zoom: number;
  setZoom: (zoom: number) => void;
}) {
  const ends = new Map<string, Set<string>>();
  for (const { core, from, to } of loom.wires)
    if (core) ends.set(core.cableId, (ends.get(core.cableId) ?? new Set()).add(thingAt(from)).add(thingAt(to)));
  const options = [
    ...loom.cables.map((cable) => ({
      value: drawnName(cable),
      text: `${cable.label}, ${[...(ends.get(cable.id) ?? [])].join(" to ") || "not joined"}`,
    })),
    ...loom.strips.flatMap((strip) =>
      strip.kind === "splice"
        ? []
        : [{ value: drawnName(strip), text: `${strip.label}, ${placeWords(record, strip)}` }],
    ),
  ];
  const segments = loom.cables.slice(0, MOST_TABS).map((cable) => ({ value: drawnName(cable), text: cable.label }));
  return (
    <span className="flex items-center gap-2">
      <IconButton icon={ZoomOut} label="Smaller" disabled={zoom === SIZES[0]} onClick={() => setZoom(step(zoom, -1))} />
      <IconButton
        icon={ZoomIn}
        label="Larger"
        disabled={zoom === SIZES.at(-1)}
        onClick={() => setZoom(step(zoom, 1))}
      />
      {loom.cables.length <= MOST_TABS && (
        <Segmented label="Cable" value={value} segments={segments} onChange={onChange} />
      )}
      <Combobox className="w-52" label="Cable or strip" value={value} options={options} onChange={onChange} />
    </span>
  );
}

/** How often as wide as its sheet a drawing may be. */
const SIZES = [1, 1.5, 2, 3];

function step(zoom: number, by: 1 | -1): number {
  return SIZES[SIZES.indexOf(zoom) + by] ?? zoom;
}

/** What an end is at: a strip, or a device. @example "K1-3" is at "K1" */
function thingAt({ name }: { name: string }): string {
  const dash = name.lastIndexOf("-");
  return dash > 0 ? name.slice(0, dash) : name;
}
