import { count, type LaidWay, ranked, setLaying, TOPOLOGY_WORDS } from "@alderman/core";
import { useEffect, useRef, useState } from "react";
import { useLoom } from "../../derivation/hooks.ts";
import { Planning } from "../../derivation/plan.ts";
import { Mark } from "../../drawing/Mark.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Dialog } from "../../kit/Dialog.tsx";
import { Progress } from "../../kit/Progress.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";

const TAIL_WORDS = { wires: "single wires", one: "a tail each", two: "a tail for two" };

/** Ways to lay the whole loom side by side, each derived and solved; one of them is chosen. */
export function WaysDialog({ close }: { close: () => void }) {
  const record = useRecord();
  const loom = useLoom();
  const act = useEdit();
  const { ways, share, refused, stop } = useWays();
  const [chosenId, setChosen] = useState<string | null>(null);
  const [byRole, setByRole] = useState(true);
  if (!record || !loom) return null;
  const rows = ranked(ways);
  const chosen = rows.find(({ id }) => id === chosenId) ?? rows[0];
  const group =
    chosen && setLaying(record, loom, { ...chosen.fields, coresBy: byRole ? "role" : record.railway.coresBy });
  return (
    <Dialog
      wide
      title="Ways to lay the loom"
      about="Each is worked out and solved as a whole; what is made or kept stays as it is in all of them. First those within all limits, of these the least wire, with the fewest joints on one's back. Nothing is changed until you choose."
      close={close}
    >
      <DataTable
        flowing
        label="Ways to lay the loom"
        items={rows}
        columns={columnsWith(record.railway.currency, rows[0]?.id ?? "")}
        idOf={({ id }) => id}
        chosen={chosen?.id ?? null}
        onChoose={({ id }) => setChosen(id)}
      />
      {share < 1 && refused === null && (
        <div className="mt-2 flex items-center gap-3" role="status">
          <div className="flex-1 text-small text-ink-2">
            {count(ways.length, "way")} worked out ...
            <Progress label="Ways worked out" share={share} />
          </div>
          <Button size="small" onClick={stop}>
            Stop
          </Button>
        </div>
      )}
      {refused !== null && (
        <p role="alert" className="mt-2 bg-red-wash px-3 py-2">
          <Mark verdict="wrong" /> {refused}
        </p>
      )}
      {chosen && (
        <div className="mt-3 grid gap-2">
          {chosen.beyond.length > 0 && (
            <ul className="text-small">
              {chosen.beyond.map((each) => (
                <li key={each}>
                  <Mark verdict="doubtful" /> {each}
                </li>
              ))}
            </ul>
          )}
          <Checkbox checked={byRole} onChange={setByRole}>
            Cores of one colour for one purpose, as far as there are such cores
          </Checkbox>
          <div>
            <Button
              look="best"
              disabled={!group}
              onClick={() => {
                act(group ?? null);
                close();
              }}
            >
              {group ? `Lay it so: ${wordsOf(chosen)}` : "It is laid so"}
            </Button>
          </div>
        </div>
      )}
    </Dialog>
  );
}

/** The ways as they are found, in a thread of their own that is stopped when the dialog closes. */
function useWays() {
  const record = useRecord();
  // what is found is about the railway as it was when it was asked
  const [asked] = useState(record);
  const [ways, setWays] = useState<readonly LaidWay[]>([]);
  const [share, setShare] = useState(0);
  const [refused, setRefused] = useState<string | null>(null);
  const planning = useRef<Planning | null>(null);
  useEffect(() => {
    if (!asked) return;
    const own = new Planning();
    planning.current = own;
    setWays([]);
    const tell = (way: LaidWay, now: number) => {
      if (planning.current !== own) return;
      setWays((known) => [...known, way]);
      setShare(now);
    };
    own.ways(asked, tell).then((answer) => {
      if (planning.current !== own) return;
      if ("refused" in answer) setRefused(answer.refused);
      else setWays(answer.done);
      setShare(1);
    });
    return () => {
      planning.current = null;
      own.stop();
    };
  }, [asked]);
  const stop = () => {
    planning.current?.stop();
    planning.current = null;
    setShare(1);
  };
  return { ways, share, refused, stop };
}

function columnsWith(currency: string, best: string): DataColumn<LaidWay>[] {
  return [
    {
      ...{ id: "strips", title: "Strips", width: 112 },
      value: ({ fields }) => (fields.stripsAt === "zones" ? "in each zone" : "at the boards"),
      cell: ({ fields, id, present }) => (
        <span className={id === best ? "font-bold" : ""}>
          {fields.stripsAt === "zones" ? "in each zone" : "at the boards"}
          {present && <span className="font-normal text-ink-2"> now</span>}
        </span>
      ),
    },
    { id: "motors", title: "Motors by", width: 88, value: ({ fields }) => TAIL_WORDS[fields.motorTails] },
    { id: "commons", title: "Commons", width: 124, value: ({ fields }) => TOPOLOGY_WORDS[fields.commons] },
    { id: "gauge", title: "Cores", mono: true, width: 62, value: ({ fields }) => fields.cableGauge },
    { id: "wire", title: "Wire m", figures: true, width: 58, value: ({ wire }) => Math.round(wire * 10) / 10 },
    { id: "cable", title: "Cable m", figures: true, width: 60, value: ({ cable }) => Math.round(cable * 10) / 10 },
    { id: "bench", title: "Bench", figures: true, width: 52, value: ({ joints }) => joints.bench + joints.front },
    { id: "under", title: "Under", figures: true, width: 52, value: ({ joints }) => joints.underneath },
    { id: "hours", title: "Hours", figures: true, width: 50, value: ({ minutes }) => Math.round(minutes / 6) / 10 },
    { id: "cost", title: currency, figures: true, width: 50, value: ({ cost }) => Math.round(cost) },
    {
      ...{ id: "beyond", title: "Limits", value: ({ beyond, unused }) => beyond.length + unused },
      cell: ({ beyond, unused }) => (
        <>
          <Mark verdict={beyond.length > 0 ? "doubtful" : "good"} /> {beyond.length > 0 && `${beyond.length} beyond`}
          {unused > 0 && ` ${unused} made, of no use`}
        </>
      ),
    },
  ];
}

/** @example "strips in each zone, a tail for two motors, commons as a trunk with droppers" */
function wordsOf({ fields: { stripsAt, motorTails, commons } }: LaidWay): string {
  const strips = stripsAt === "zones" ? "strips in each zone" : "strips at the boards";
  return `${strips}, motors by ${TAIL_WORDS[motorTails]}, commons as ${TOPOLOGY_WORDS[commons]}`;
}
