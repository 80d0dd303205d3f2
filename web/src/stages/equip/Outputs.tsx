import { moveBy, outputsOf, type RailwayRecord } from "@alderman/core";
import { GripVertical } from "lucide-react";
import type { KeyboardEvent } from "react";
import { useEdit } from "../../session/useEdit.ts";
import { DROP_HERE, TurnoutDragging, useDragTurnout, useDropTurnout } from "./dragging.tsx";

/** The outputs of a board with what is on each: drag a turnout to another, or move it with Alt and the arrows. */
export function Outputs({ record, deviceId, label }: { record: RailwayRecord; deviceId: string; label: string }) {
  const act = useEdit();
  const onKey = (event: KeyboardEvent, leaderId: string) => {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (step === 0 || !event.altKey) return;
    event.preventDefault();
    act(() => moveBy(record, leaderId, step));
  };
  return (
    <section className="mt-4" aria-label={`Outputs of ${label}`}>
      <h3>Outputs</h3>
      <p className="text-small text-ink-2">
        Drag a turnout to another output, or move it with Alt and the arrows; its address goes with it.
      </p>
      <TurnoutDragging>
        <ul>
          {outputsOf(record, deviceId).map(({ way, leaderId, label: turnout }) => (
            <OutputRow
              key={leaderId ?? `free ${way}`}
              place={{ deviceId, way, name: `${label}-${way}` }}
              leaderId={leaderId}
              turnout={turnout ?? ""}
              onKey={onKey}
            />
          ))}
        </ul>
      </TurnoutDragging>
    </section>
  );
}

function OutputRow({
  place,
  leaderId,
  turnout,
  onKey,
}: {
  place: { deviceId: string; way: number; name: string };
  leaderId: string | null;
  turnout: string;
  onKey: (event: KeyboardEvent, leaderId: string) => void;
}) {
  const { ref, over } = useDropTurnout(place, "outputs");
  return (
    <li ref={ref} className={`flex min-h-7 items-center gap-3 border-t border-rule px-1 ${over ? DROP_HERE : ""}`}>
      <b className="mono w-14">{place.name}</b>
      {leaderId ? (
        <OutputTurnout leaderId={leaderId} turnout={turnout} onKey={onKey} />
      ) : (
        <span className="text-ink-2">free</span>
      )}
    </li>
  );
}

function OutputTurnout({
  leaderId,
  turnout,
  onKey,
}: {
  leaderId: string;
  turnout: string;
  onKey: (event: KeyboardEvent, leaderId: string) => void;
}) {
  const { ref, listeners, attributes } = useDragTurnout(leaderId, turnout, "outputs");
  return (
    <button
      ref={ref}
      type="button"
      className="flex flex-1 cursor-grab touch-manipulation items-center gap-1 text-left"
      {...attributes}
      {...listeners}
      onKeyDown={(event) => {
        onKey(event, leaderId);
        if (!event.defaultPrevented) listeners.onKeyDown?.(event);
      }}
    >
      <GripVertical size={13} aria-hidden="true" className="text-ink-2" />
      {turnout}
    </button>
  );
}
