import {
  addBoard,
  amps,
  type Device,
  type DeviceType,
  findType,
  freeWays,
  removeDevice,
  type SupplyLoad,
  supplyOf,
  typesOfFamily,
} from "@alderman/core";
import { useState } from "react";
import { SheetDialog } from "../../parts/Dialogs.tsx";
import { useEdit } from "../../parts/FindingCard.tsx";
import { useAppSelector } from "../../store/store.ts";
import { useResults } from "../../worker/derive.ts";
import { DeviceFields } from "./DeviceFields.tsx";
import { NotesAndPhotos } from "./NotesAndPhotos.tsx";
import { Outputs, useDrop } from "./Outputs.tsx";
import { WaysGlyph } from "./smallGlyphs.tsx";

/** Boards with outputs used and free, and supplies with what they give. */
export function Boards() {
  const record = useAppSelector((state) => state.railway.record);
  const { overview } = useResults();
  const [open, setOpen] = useState<string | null>(null);
  const [adding, setAdding] = useState(false);
  if (!record) return null;
  const boards = record.devices
    .map((device) => ({ device, type: findType(record, device.typeId) }))
    .filter(
      (each): each is { device: Device; type: DeviceType } =>
        each.type !== undefined && ["driver", "supply"].includes(each.type.family),
    )
    .sort(
      (a, b) =>
        a.type.family.localeCompare(b.type.family) ||
        a.device.label.localeCompare(b.device.label, "en", { numeric: true }),
    );
  const chosen = boards.find(({ device }) => device.id === open);
  return (
    <>
      <div className="flex items-center px-2.5 pb-1.5 pt-3.5">
        <h3>Boards and supplies</h3>
        <span className="grow" />
        <button type="button" className="btn !min-h-6" onClick={() => setAdding(true)}>
          Add board
        </button>
      </div>
      {boards.map(({ device, type }) => (
        <BoardRow
          key={device.id}
          device={device}
          type={type}
          load={overview?.loads.find(({ deviceId }) => deviceId === device.id)}
          open={() => setOpen(device.id)}
        />
      ))}
      {chosen && <BoardDialog {...chosen} close={() => setOpen(null)} />}
      {adding && <AddBoardDialog close={() => setAdding(false)} />}
    </>
  );
}

/** A board or supply in the list; a turnout dropped on it gets its first free output. */
function BoardRow({
  device,
  type,
  load,
  open,
}: {
  device: Device;
  type: DeviceType;
  load: SupplyLoad | undefined;
  open: () => void;
}) {
  const record = useAppSelector((state) => state.railway.record);
  const { over, ...drop } = useDrop(record, device.id, null);
  return (
    <button
      type="button"
      className={`grid w-full grid-cols-[32px_1fr_auto_auto] items-center gap-2 border-t border-rule px-2.5 text-left hover:bg-sheet-2 ${over ? "drop-here" : ""}`}
      style={{ minHeight: 27 }}
      onClick={open}
      {...drop}
    >
      <b className="mono">{device.label}</b>
      <span className="truncate text-[12px]">{wordsFor(type, load)}</span>
      {type.outputs > 0 && <Ways deviceId={device.id} outputs={type.outputs} />}
    </button>
  );
}

function wordsFor(type: DeviceType, load: SupplyLoad | undefined): string {
  if (type.family === "driver")
    return type.model === "cdu" ? "discharge unit" : (KINDS[type.drives ?? ""] ?? type.short);
  const rated = type.figures.ratedAmps?.value ?? 0;
  return load && rated > 0 ? `${type.short}, ${amps(load.worst)} of ${amps(rated)}` : type.short;
}

/** What a board drives, in few words. */
const KINDS: Record<string, string> = {
  pair: "for stall motors",
  coil: "for coils",
  servo: "for servos",
  contact: "relays",
  sink: "for lamps",
};

/** Outputs of a board in use, as a drawing and in figures. */
function Ways({ deviceId, outputs }: { deviceId: string; outputs: number }) {
  const record = useAppSelector((state) => state.railway.record);
  const free = new Set(record ? freeWays(record, deviceId, outputs) : []);
  const used = Array.from({ length: outputs }, (_, index) => !free.has(index + 1));
  return (
    <>
      {outputs <= 8 && <WaysGlyph used={used} />}
      <span className="mono text-[12px]">
        {outputs - free.size}/{outputs}
      </span>
    </>
  );
}

/** One board or supply: its type, what feeds it, what it gives. */
function BoardDialog({ device, type, close }: { device: Device; type: DeviceType; close: () => void }) {
  const record = useAppSelector((state) => state.railway.record);
  const { overview } = useResults();
  const act = useEdit();
  if (!record) return null;
  const supply = supplyOf(record, device.id);
  const load = overview?.loads.find(({ deviceId }) => deviceId === device.id);
  return (
    <SheetDialog title={`${device.label}, ${type.name}`} about={type.about} close={close}>
      <div className="grid grid-cols-[120px_1fr] items-center gap-x-4 gap-y-2">
        <DeviceFields device={device} type={type} />
        {type.family === "driver" && (
          <>
            <span>Fed by</span>
            <span>{supply ? `${supply.device.label}, ${supply.type.name}` : "nothing yet"}</span>
          </>
        )}
        {load && (
          <>
            <span>Gives</span>
            <span>
              {amps(load.rest)} at rest, {amps(load.moving)} while all move, at most {amps(load.worst)} {load.when}
            </span>
          </>
        )}
      </div>
      {type.family === "driver" && type.outputs > 0 && (
        <Outputs record={record} deviceId={device.id} label={device.label} />
      )}
      <NotesAndPhotos record={record} subject={{ kind: "device", of: device }} />
      {type.caution && <p className="mt-3 border-l-3 border-copper bg-copper-wash px-3 py-2">{type.caution}</p>}
      <button
        type="button"
        className="btn mt-4"
        onClick={() => {
          act(removeDevice(record, device.id));
          close();
        }}
      >
        Remove {device.label}
      </button>
    </SheetDialog>
  );
}

function AddBoardDialog({ close }: { close: () => void }) {
  const record = useAppSelector((state) => state.railway.record);
  const act = useEdit();
  if (!record) return null;
  return (
    <SheetDialog
      title="Add a board or supply"
      about="A board brings the supply that it needs, unless there is one already."
      close={close}
    >
      <ul>
        {[...typesOfFamily(record, "driver"), ...typesOfFamily(record, "supply")].map((type) => (
          <li key={type.id} className="flex items-center gap-3 border-t border-rule py-2">
            <div className="min-w-0 flex-1">
              <b>{type.name}</b>
              <p className="quiet text-[12px]">{type.about}</p>
            </div>
            <button
              type="button"
              className="btn"
              onClick={() => {
                act(addBoard(record, type.id));
                close();
              }}
            >
              Add
            </button>
          </li>
        ))}
      </ul>
    </SheetDialog>
  );
}
