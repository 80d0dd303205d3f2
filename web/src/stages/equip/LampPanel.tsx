import { type DeviceType, knowledgeOf, type Shows, type Situation, type Thread } from "@alderman/core";
import { useEffect } from "react";
import { useResults } from "../../derivation/hooks.ts";
import { Mark } from "../../parts/Mark.tsx";
import { useAppDispatch } from "../../store/store.ts";
import { watchLamp } from "../../store/view.ts";

const TELLS = { truth: "good", nothing: "open", lie: "wrong" } as const;
const TELLS_WORDS = { truth: "the truth", nothing: "nothing", lie: "a lie" } as const;

/** What the lamp of a thread knows, and what it shows when something is amiss. */
export function LampPanel({ thread }: { thread: Thread }) {
  const { focus } = useResults();
  const dispatch = useAppDispatch();
  useEffect(() => {
    dispatch(watchLamp(true));
    return () => void dispatch(watchLamp(false));
  }, [dispatch]);
  const knowledge = knowledgeOf(thread);
  const { lamp } = thread;
  if (!lamp || !knowledge)
    return <p className="quiet p-3">{thread.label} has no lamp: whoever throws it must see the blades.</p>;
  const situations = focus?.turnoutId === thread.turnout.id ? focus.situations : [];
  return (
    <div className="grid gap-1 pb-3">
      <p className="px-2.5 pt-2">
        <b className="mono">{lamp.device.label}</b> knows <b>{knowledge.words}</b>. It cannot tell {knowledge.cannot}.
      </p>
      <p className="quiet px-2.5 text-[12px]">
        It shows the road, not a permission: a train on the other leg sees it from behind.
      </p>
      <table className="list wraps" aria-label="What the lamp shows">
        <thead>
          <tr>
            <th>When</th>
            <th>Lying at N</th>
            <th>Lying at R</th>
            <th>Tells</th>
          </tr>
        </thead>
        <tbody>
          {situations.map((situation) => (
            <Row key={situation.what} situation={situation} type={lamp.type} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Row({ situation, type }: { situation: Situation; type: DeviceType }) {
  const moves = situation.what.startsWith("asked for");
  return (
    <tr>
      <td>{situation.what}</td>
      <td>{moves ? <span className="quiet">as above</span> : showsWords(situation.N, type)}</td>
      <td>{showsWords(situation.R, type)}</td>
      <td className="whitespace-nowrap">
        <Mark verdict={TELLS[situation.tells]} size={14} /> {TELLS_WORDS[situation.tells]}
      </td>
    </tr>
  );
}

/** A position in the lamp's own words: its colours, or where the arm stands. */
function showsWords(shows: Shows, { leads, terminals }: DeviceType): string {
  if (shows !== "N" && shows !== "R") return shows;
  const lead = leads?.[shows === "N" ? 0 : 1];
  const colour = terminals.find(({ name }) => name === lead)?.about.split(",")[0];
  return `${shows}${colour ? `, ${colour}` : ""}`;
}
