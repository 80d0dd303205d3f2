import { moveBy, moveOutput, outputsOf, type RailwayRecord } from "@alderman/core";
import { type DragEvent, type KeyboardEvent, useState } from "react";
import { useStore } from "react-redux";
import { shownRecord } from "../../session/shownSession.ts";
import { useEdit } from "../../session/useEdit.ts";
import type { RootState } from "../../store/store.ts";

/** Kind of what is dragged: a turnout, by its leader. */
const DRAGGED = "application/x-turnout";

/** What makes a row draggable as a turnout. */
export function draggable(leaderId: string) {
  return {
    draggable: true,
    onDragStart: (event: DragEvent) => {
      event.dataTransfer.setData(DRAGGED, leaderId);
      event.dataTransfer.effectAllowed = "move";
    },
  } as const;
}

/** Lets a turnout be dropped on a board, or on one of its outputs. */
export function useDrop(deviceId: string, way: number | null) {
  const act = useEdit();
  // the record is asked for when something is dropped, so that no row is drawn anew for every edit
  const store = useStore<RootState>();
  const [over, setOver] = useState(false);
  return {
    over,
    onDragOver: (event: DragEvent) => {
      if (!event.dataTransfer.types.includes(DRAGGED)) return;
      event.preventDefault();
      setOver(true);
    },
    onDragLeave: () => setOver(false),
    onDrop: (event: DragEvent) => {
      setOver(false);
      const leader = event.dataTransfer.getData(DRAGGED);
      const record = shownRecord(store.getState());
      if (!record || !leader) return;
      event.preventDefault();
      act(() => moveOutput(record, leader, deviceId, way));
    },
  };
}

/** The outputs of a board with what is on each: drag a turnout to another, or move it with Alt and the arrows. */
export function Outputs({ record, deviceId, label }: { record: RailwayRecord; deviceId: string; label: string }) {
  const act = useEdit();
  const outputs = outputsOf(record, deviceId);
  const onKey = (event: KeyboardEvent, leaderId: string) => {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (step === 0 || !event.altKey) return;
    event.preventDefault();
    act(() => moveBy(record, leaderId, step));
  };
  return (
    <section className="mt-4" aria-label={`Outputs of ${label}`}>
      <h3>Outputs</h3>
      <p className="quiet text-[12px]">
        Drag a turnout to another output, or move it with Alt and the arrows; its address goes with it.
      </p>
      <ul>
        {outputs.map((output) => (
          <OutputRow
            key={output.leaderId ?? `free ${output.way}`}
            deviceId={deviceId}
            name={`${label}-${output.way}`}
            {...output}
            onKey={onKey}
          />
        ))}
      </ul>
    </section>
  );
}

function OutputRow({
  deviceId,
  name,
  way,
  leaderId,
  label,
  onKey,
}: {
  deviceId: string;
  name: string;
  way: number;
  leaderId: string | null;
  label: string | null;
  onKey: (event: KeyboardEvent, leaderId: string) => void;
}) {
  const { over, ...drop } = useDrop(deviceId, way);
  return (
    <li className={`flex min-h-7 items-center gap-3 border-t border-rule px-1 ${over ? "drop-here" : ""}`} {...drop}>
      <b className="mono w-14">{name}</b>
      {leaderId ? (
        <button
          type="button"
          className="flex-1 cursor-grab text-left"
          {...draggable(leaderId)}
          onKeyDown={(event) => onKey(event, leaderId)}
        >
          {label}
        </button>
      ) : (
        <span className="quiet">free</span>
      )}
    </li>
  );
}
