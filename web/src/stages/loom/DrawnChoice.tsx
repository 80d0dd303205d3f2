import type { Loom, RailwayRecord } from "@alderman/core";
import { ZoomIn, ZoomOut } from "lucide-react";
import { useMemo } from "react";
import { Combobox } from "../../kit/Combobox.tsx";
import { IconButton } from "../../kit/IconButton.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { drawnName, drawnOptions } from "./drawn.ts";

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
  const options = useMemo(() => drawnOptions(record, loom), [record, loom]);
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
