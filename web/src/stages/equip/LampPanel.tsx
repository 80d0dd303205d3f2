import { type DeviceType, knowledgeOf, type Shows, type Situation, type Thread } from "@alderman/core";
import { useEffect } from "react";
import { useFocusResult } from "../../derivation/hooks.ts";
import { Mark } from "../../drawing/Mark.tsx";
import { useDrawnLamp } from "../../drawing/thread/useDrawnLamp.ts";
import { DataTable } from "../../kit/DataTable.tsx";
import { useAppDispatch } from "../../store/store.ts";
import { watchLamp } from "../../store/view.ts";
import { LampSelector } from "./LampSelector.tsx";

const SHOWS = { truth: "good", nothing: "open", lie: "wrong" } as const;
const SHOWS_WORDS = { truth: "the truth", nothing: "nothing", lie: "a lie" } as const;

/** What a lamp of a thread knows, and what it shows when something is amiss. */
export function LampPanel({ thread }: { thread: Thread }) {
  const focus = useFocusResult();
  const dispatch = useAppDispatch();
  useEffect(() => {
    dispatch(watchLamp(true));
    return () => void dispatch(watchLamp(false));
  }, [dispatch]);
  const lamp = useDrawnLamp(thread);
  if (!lamp)
    return <p className="p-3 text-ink-2">{thread.label} has no lamp: whoever throws it must see the blades.</p>;
  const knowledge = knowledgeOf(thread, lamp);
  const all = focus?.turnoutId === thread.turnout.id ? focus.situations : [];
  const situations = all.find(({ lampId }) => lampId === lamp.device.id)?.rows ?? [];
  return (
    <div className="grid gap-1 pb-3">
      {thread.lamps.length > 1 && (
        <div className="px-2.5 pt-2">
          <LampSelector thread={thread} />
        </div>
      )}
      <p className="px-2.5 pt-2">
        <b className="mono">{lamp.device.label}</b> knows <b>{knowledge.words}</b>. It cannot tell {knowledge.cannot}.
      </p>
      <p className="px-2.5 text-small text-ink-2">
        It shows the route, not a permission: a train on the other leg sees it from behind.
      </p>
      <DataTable<Situation>
        flowing
        label="What the lamp shows"
        items={situations}
        idOf={({ what }) => what}
        columns={[
          { id: "when", title: "When", wraps: true, value: ({ what }) => what },
          {
            ...{ id: "n", title: "Lying at N", wraps: true },
            cell: ({ what, N }) =>
              what.startsWith("asked for") ? <span className="text-ink-2">as above</span> : showsWords(N, lamp.type),
          },
          { id: "r", title: "Lying at R", wraps: true, cell: ({ R }) => showsWords(R, lamp.type) },
          {
            ...{ id: "shows", title: "It shows", width: 110, value: ({ tells }) => tells },
            cell: ({ tells }) => (
              <>
                <Mark verdict={SHOWS[tells]} size={14} /> {SHOWS_WORDS[tells]}
              </>
            ),
          },
        ]}
      />
    </div>
  );
}

/** A position in the lamp's own words: its colours, or where the arm stands. */
function showsWords(shows: Shows, { colours }: DeviceType): string {
  if (shows !== "N" && shows !== "R") return shows;
  const colour = colours?.[shows === "N" ? 0 : 1];
  return `${shows}${colour ? `, ${colour}` : ""}`;
}
