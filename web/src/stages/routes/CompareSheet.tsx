import {
  type BuiltAs,
  commandRoutes,
  type Matrix,
  type RailwayRecord,
  type RouteSchool,
  type RouteSchoolCompared,
  routeSchoolWords,
  setConstruction,
} from "@alderman/core";
import { useEffect, useState } from "react";
import { Planning } from "../../derivation/plan.ts";
import { Mark } from "../../drawing/Mark.tsx";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Progress } from "../../kit/Progress.tsx";
import { SheetBody } from "../../kit/Sheet.tsx";
import { useEdit } from "../../session/useEdit.ts";

const KINDS = { fewest: "Fewest diodes", full: "A diode at every link", cascaded: "Cascaded" };

/** The ways to build the boards and to ask for the routes side by side, each worked out and solved. */
export function CompareSheet({ record, matrix }: { record: RailwayRecord; matrix: Matrix | undefined }) {
  const edit = useEdit();
  const boardId = matrix?.boards[0]?.id ?? null;
  const ids = record.routes.map(({ id }) => id);
  const builds = useTold<BuiltAs>(
    (planning, tell) => (boardId === null ? null : planning.builds(record, boardId, tell)),
    record,
    boardId ?? "",
  );
  const schools = useTold<RouteSchoolCompared>(
    (planning, tell) => (ids.length === 0 ? null : planning.routeSchools(record, ids, tell)),
    record,
    "",
  );
  const { currency } = record.railway;
  return (
    <SheetBody label="Comparison" className="grid content-start gap-4 p-3">
      {boardId !== null && (
        <section className="grid gap-1.5" aria-label="Constructions">
          <h3>Built in three ways, every button pressed in the solved circuit</h3>
          {builds.refused && <p className="text-red">{builds.refused}</p>}
          <DataTable<BuiltAs>
            flowing
            label="Constructions"
            items={builds.found}
            idOf={({ kind }) => kind}
            columns={[
              {
                id: "kind",
                title: "Construction",
                cell: ({ kind, isPresent }) => (isPresent ? <b>{KINDS[kind]}</b> : KINDS[kind]),
                value: ({ kind }) => KINDS[kind],
              },
              { id: "diodes", title: "Diodes", width: 60, value: ({ diodes }) => diodes },
              { id: "wires", title: "Wires", width: 56, value: ({ wires }) => wires },
              { id: "drops", title: "In a row", width: 64, value: ({ mostDrops }) => mostDrops },
              {
                id: "weakest",
                title: "Weakest coil",
                width: 130,
                value: ({ weakest }) => (weakest ? `${weakest.label} ${weakest.joules.toFixed(2)} J` : ""),
              },
              {
                id: "surge",
                title: "Diode takes",
                width: 104,
                value: ({ diodeAmps, surgeAmps }) => `${diodeAmps.toFixed(1)} of ${surgeAmps} A`,
              },
              { id: "button", title: "Button", width: 64, value: ({ contactAmps }) => `${contactAmps.toFixed(1)} A` },
              { id: "cost", title: currency, width: 50, value: ({ cost }) => cost.toFixed(1) },
              {
                id: "take",
                title: "",
                width: 92,
                cell: ({ kind, isPresent, faults }) =>
                  isPresent ? (
                    "as it is"
                  ) : (
                    <Button
                      size="small"
                      disabled={faults.length > 0}
                      onClick={() => edit(() => setConstruction(record, kind))}
                    >
                      Take it
                    </Button>
                  ),
              },
            ]}
            below={({ faults }) => (
              <Faults
                faults={faults}
                good="Each button energises its coils, and no other above a tenth of what it needs."
              />
            )}
          />
          {builds.isWorking && <Progress label="Pressing every button" share={builds.found.length / 3} />}
        </section>
      )}
      <section className="grid gap-1.5" aria-label="Ways to ask for routes">
        <h3>Ways to ask for all routes</h3>
        {ids.length === 0 && <p className="text-ink-2">There are no routes yet.</p>}
        {schools.refused && <p className="text-red">{schools.refused}</p>}
        <DataTable<RouteSchoolCompared>
          flowing
          label="Ways to ask for routes"
          items={schools.found}
          idOf={({ school }) => school}
          columns={[
            {
              id: "school",
              title: "By",
              cell: ({ school, isPresent }) => (isPresent ? <b>{words(school)}</b> : words(school)),
              value: ({ school }) => words(school),
            },
            { id: "diodes", title: "Diodes", width: 60, value: ({ diodes }) => diodes },
            { id: "wires", title: "Wires", width: 56, value: ({ wires }) => wires },
            { id: "joints", title: "Joints", width: 56, value: ({ joints }) => joints },
            { id: "cost", title: currency, width: 60, value: ({ cost }) => cost.toFixed(1) },
            {
              id: "take",
              title: "",
              width: 84,
              cell: ({ school, isPresent, wrong }) =>
                isPresent ? (
                  "as it is"
                ) : (
                  <Button
                    size="small"
                    disabled={wrong.length > 0}
                    onClick={() => edit(() => commandRoutes(record, ids, school))}
                  >
                    Fit it
                  </Button>
                ),
            },
          ]}
          below={({ parts, without, wrong }) => (
            <>
              <p className="px-2 text-small text-ink-2">
                {parts.map(({ name, count }) => `${count} ${name}`).join("; ")}. Works without a computer?{" "}
                {without.charAt(0).toUpperCase() + without.slice(1)}.
              </p>
              <Faults faults={wrong} />
            </>
          )}
        />
        {schools.isWorking && <Progress label="Working the ways out" share={schools.found.length / 5} />}
      </section>
    </SheetBody>
  );
}

const words = (school: RouteSchool) => {
  const text = routeSchoolWords(school);
  return `${text[0]?.toUpperCase()}${text.slice(1)}`;
};

function Faults({ faults, good }: { faults: readonly string[]; good?: string }) {
  if (faults.length === 0)
    return good ? (
      <p className="flex gap-1.5 px-2 text-small">
        <Mark verdict="good" size={14} /> {good}
      </p>
    ) : null;
  return (
    <p className="flex gap-1.5 px-2 text-small">
      <Mark verdict="wrong" size={14} /> {faults[0]}
      {faults.length > 1 ? ` And ${faults.length - 1} more.` : ""}
    </p>
  );
}

/** What a thread of its own finds, one by one; another question ends it. */
function useTold<T>(
  ask: (planning: Planning, tell: (each: T) => void) => Promise<{ done: T[] } | { refused: string }> | null,
  record: RailwayRecord,
  of: string,
): { found: T[]; isWorking: boolean; refused: string | null } {
  const [state, setState] = useState<{ found: T[]; isWorking: boolean; refused: string | null }>({
    ...{ found: [], isWorking: false, refused: null },
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: record and `of` say what is asked
  useEffect(() => {
    setState({ found: [], isWorking: true, refused: null });
    const planning = new Planning();
    let isWanted = true;
    const answer = ask(planning, (each) => {
      if (isWanted) setState((now) => ({ ...now, found: [...now.found, each] }));
    });
    if (!answer) setState({ found: [], isWorking: false, refused: null });
    void answer?.then((all) => {
      if (!isWanted) return;
      setState(
        "done" in all
          ? { found: all.done, isWorking: false, refused: null }
          : { found: [], isWorking: false, refused: all.refused },
      );
    });
    return () => {
      isWanted = false;
      planning.stop();
    };
  }, [record, of]);
  return state;
}
