import { amps, type DeviceType } from "@alderman/core";
import { memo, type ReactNode, Suspense, useState } from "react";
import { Button } from "../../kit/Button.tsx";
import { ManyItems } from "../../kit/ManyItems.tsx";
import { part } from "../../kit/part.tsx";
import { type BoardEntry, boardKind, isDrawnAlike, useBoards, worstOf } from "./boardEntries.ts";
import { WaysGlyph } from "./smallGlyphs.tsx";

const BoardDialog = part(async () => (await import("./BoardDialogs.tsx")).BoardDialog);
const AddBoardDialog = part(async () => (await import("./BoardDialogs.tsx")).AddBoardDialog);

/** Height of a row, pixels. */
const ROW_HEIGHT = 27;

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
          <ManyItems
            label="Boards and supplies"
            items={entries}
            idOf={({ device }) => device.id}
            item={(entry) => <BoardRow {...entry} open={open} />}
            height={ROW_HEIGHT}
          />
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
      style={{ minHeight: ROW_HEIGHT }}
      onClick={() => open(device.id)}
    >
      <b className="mono">{device.label}</b>
      <span className="truncate text-small">{wordsFor(type, load)}</span>
      {used.length > 0 && <Ways used={used} />}
    </button>
  );
}, isDrawnAlike);

function wordsFor(type: DeviceType, load: BoardEntry["load"]): string {
  if (type.family !== "supply") return boardKind(type);
  const rated = type.figures.ratedAmps?.value ?? 0;
  return load && rated > 0 ? `${type.short}, ${amps(worstOf(load))} of ${amps(rated)}` : type.short;
}

/** Outputs, inputs or zones of a board in use, as a drawing and in figures. */
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
