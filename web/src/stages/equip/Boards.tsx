import {
  amps,
  type BoardLoad,
  type Device,
  type DeviceType,
  findType,
  freeWays,
  type RailwayRecord,
  type SupplyLoad,
  traitsOf,
} from "@alderman/core";
import { lazy, memo, type ReactNode, Suspense, useMemo, useState } from "react";
import { useResults } from "../../derivation/hooks.ts";
import { Button } from "../../kit/Button.tsx";
import { useRecord } from "../../session/hooks.ts";
import { WaysGlyph } from "./smallGlyphs.tsx";

const BoardDialog = lazy(async () => ({ default: (await import("./BoardDialogs.tsx")).BoardDialog }));
const AddBoardDialog = lazy(async () => ({ default: (await import("./BoardDialogs.tsx")).AddBoardDialog }));

/** A board or supply as the lists show it. */
export interface BoardEntry {
  device: Device;
  type: DeviceType;
  /** What a supply gives, or the outputs of a board together; undefined where nothing lasting flows. */
  load: SupplyLoad | BoardLoad | undefined;
  /** Whether each of its numbered outputs is in use. */
  used: readonly boolean[];
}

/** Boards first, then supplies, by label. */
export function useBoards(): BoardEntry[] {
  const record = useRecord();
  const { overview } = useResults();
  return useMemo(() => {
    const given = [...(overview?.loads ?? []), ...(overview?.boards ?? [])];
    return record ? entriesOf(record, new Map(given.map((load) => [load.deviceId, load]))) : [];
  }, [record, overview?.loads, overview?.boards]);
}

function entriesOf(record: RailwayRecord, loads: ReadonlyMap<string, SupplyLoad | BoardLoad>): BoardEntry[] {
  return record.devices
    .flatMap((device): BoardEntry[] => {
      const type = findType(record, device.typeId);
      if (!type || !["driver", "supply"].includes(type.family)) return [];
      const free = new Set(freeWays(record, device.id, type.outputs));
      const used = Array.from({ length: type.outputs }, (_, index) => !free.has(index + 1));
      return [{ device, type, load: loads.get(device.id), used }];
    })
    .sort(
      (a, b) =>
        a.type.family.localeCompare(b.type.family) ||
        a.device.label.localeCompare(b.device.label, "en", { numeric: true }),
    );
}

/** Whether two entries are drawn alike. */
export function isDrawnAlike<P extends BoardEntry>(a: P, b: P): boolean {
  const figures = ({ load }: P) => (load ? `${load.rest} ${load.moving} ${worstOf(load)}` : "");
  return a.device === b.device && a.type === b.type && a.used.join() === b.used.join() && figures(a) === figures(b);
}

/** Boards with outputs used and free, and supplies with what they give, in a narrow list. */
export function Boards() {
  const entries = useBoards();
  return (
    <WithDialogs entries={entries}>
      {(open, add) => (
        <>
          <div className="flex items-center px-2.5 pb-1.5 pt-3.5">
            <h3>Boards and supplies</h3>
            <span className="grow" />
            <Button size="small" onClick={add}>
              Add board
            </Button>
          </div>
          {entries.map((entry) => (
            <BoardRow key={entry.device.id} {...entry} open={open} />
          ))}
        </>
      )}
    </WithDialogs>
  );
}

/** A list of boards with the dialogs that it opens. */
export function WithDialogs({
  entries,
  children,
}: {
  entries: readonly BoardEntry[];
  children: (open: (deviceId: string) => void, add: () => void) => ReactNode;
}) {
  const [open, setOpen] = useState<string | null>(null);
  const [adding, setAdding] = useState(false);
  const chosen = entries.find(({ device }) => device.id === open);
  return (
    <>
      {children(setOpen, () => setAdding(true))}
      <Suspense>
        {chosen && <BoardDialog {...chosen} close={() => setOpen(null)} />}
        {adding && <AddBoardDialog close={() => setAdding(false)} />}
      </Suspense>
    </>
  );
}

/** A board or supply in the list; it opens with its outputs. */
const BoardRow = memo(function BoardRow({
  device,
  type,
  load,
  used,
  open,
}: BoardEntry & { open: (deviceId: string) => void }) {
  return (
    <button
      type="button"
      className="grid w-full grid-cols-[32px_1fr_auto_auto] items-center gap-2 border-t border-rule px-2.5 text-left hover:bg-sheet-2"
      style={{ minHeight: 27 }}
      onClick={() => open(device.id)}
    >
      <b className="mono">{device.label}</b>
      <span className="truncate text-small">{wordsFor(type, load)}</span>
      {used.length > 0 && <Ways used={used} />}
    </button>
  );
}, isDrawnAlike);

function wordsFor(type: DeviceType, load: BoardEntry["load"]): string {
  if (type.family === "driver") return boardKind(type);
  const rated = type.figures.ratedAmps?.value ?? 0;
  return load && rated > 0 ? `${type.short}, ${amps(worstOf(load))} of ${amps(rated)}` : type.short;
}

/** The greatest load of all moments looked at, amps. */
export function worstOf(load: SupplyLoad | BoardLoad): number {
  return "worst" in load ? load.worst : Math.max(load.rest, load.moving);
}

/** What a board is for, in few words. */
export function boardKind(type: DeviceType): string {
  return traitsOf(type).gives === "pulse" ? "discharge unit" : (KINDS[type.drives ?? ""] ?? type.short);
}

const KINDS: Record<string, string> = {
  pair: "for stall motors",
  coil: "for coils",
  servo: "for servos",
  contact: "relays",
  sink: "for lamps",
};

/** Outputs of a board in use, as a drawing and in figures. */
export function Ways({ used }: { used: readonly boolean[] }) {
  return (
    <>
      {used.length <= 8 && <WaysGlyph used={used} />}
      <span className="mono text-small">
        {used.filter(Boolean).length}/{used.length}
      </span>
    </>
  );
}
