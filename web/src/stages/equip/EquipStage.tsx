import { controlsOf, type Thread } from "@alderman/core";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { useChosenThread, useResults } from "../../derivation/hooks.ts";
import { FindingCard } from "../../parts/FindingCard.tsx";
import { PositionMark } from "../../parts/Mark.tsx";
import { Sheet, StageMain } from "../../parts/Sheet.tsx";
import { ThreadDrawing } from "../../parts/thread/ThreadDrawing.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { setMoment, throwBy, throwTo } from "../../store/view.ts";
import { AllotDialog } from "./AllotDialog.tsx";
import { Boards } from "./Boards.tsx";
import { BoardsSheet } from "./BoardsSheet.tsx";
import { FittingsDialog } from "./FittingsDialog.tsx";
import { LampPanel } from "./LampPanel.tsx";
import { PowerUpSheet } from "./PowerUpSheet.tsx";
import { Roster } from "./Roster.tsx";
import { SchoolsPanel } from "./SchoolsPanel.tsx";
import { SensePanel } from "./SensePanel.tsx";
import { TurnoutGrid } from "./TurnoutGrid.tsx";

const VIEWS = {
  list: "List",
  thread: "Thread",
  sense: "Sense",
  lamp: "Lamp",
  schools: "Schools",
  power: "Power-up",
} as const;
type View = keyof typeof VIEWS;

/** What moves, drives, commands and shows each turnout: as a list to type into, or turnout by turnout. */
export function EquipStage() {
  const { railwayId } = useParams();
  const [search, setSearch] = useSearchParams();
  const turnouts = useRecord()?.turnouts.length ?? 0;
  const named = search.get("view") ?? "";
  const chosen: View = named in VIEWS ? (named as View) : turnouts === 0 ? "list" : "thread";
  const show = (view: View) => setSearch({ view }, { replace: true });
  return (
    <StageMain
      title="Equip"
      about="Motor, driver, controls, frog and lamp of each turnout"
      actions={
        <>
          <Link className="btn flex-none" to={`/r/${railwayId}/types`}>
            Device types
          </Link>
          <fieldset className="seg flex-none" aria-label="View">
            {(Object.keys(VIEWS) as View[]).map((view) => (
              <button key={view} type="button" aria-pressed={chosen === view} onClick={() => show(view)}>
                {VIEWS[view]}
              </button>
            ))}
          </fieldset>
        </>
      }
    >
      {chosen === "list" ? (
        <div className="grid min-h-0 grid-rows-[minmax(0,1fr)_auto] gap-2.5">
          <TurnoutGrid />
          {turnouts > 0 && <BoardsSheet />}
        </div>
      ) : chosen === "power" ? (
        <PowerUpSheet />
      ) : (
        <TurnoutView view={chosen} openList={() => show("list")} />
      )}
    </StageMain>
  );
}

/** The turnouts at the left, and one side of the chosen one. */
function TurnoutView({ view, openList }: { view: Exclude<View, "list" | "power">; openList: () => void }) {
  const { overview } = useResults();
  const thread = useChosenThread();
  const [fittings, setFittings] = useState(false);
  const [allotting, setAllotting] = useState(false);
  return (
    <div className="grid min-h-0 grid-cols-[280px_minmax(0,1fr)] gap-2.5">
      <Sheet title="Turnouts" about={overview ? rosterWords(overview.threads, overview.complete.length) : ""}>
        <div className="scroll">
          <Roster />
          <Boards />
        </div>
        <div className="flex gap-2 border-t border-rule px-2.5 py-2">
          <button type="button" className="btn" onClick={() => setAllotting(true)}>
            Allot
          </button>
          {thread && (
            <button type="button" className="btn" onClick={() => setFittings(true)}>
              Fittings of {thread.label}
            </button>
          )}
        </div>
      </Sheet>
      {allotting && <AllotDialog close={() => setAllotting(false)} />}
      {fittings && thread && <FittingsDialog turnoutId={thread.turnout.id} close={() => setFittings(false)} />}
      {thread ? <ViewOf view={view} thread={thread} /> : <EmptyThread openList={openList} />}
    </div>
  );
}

function ViewOf({ view, thread }: { view: Exclude<View, "list" | "power">; thread: Thread }) {
  const { label, turnout } = thread;
  switch (view) {
    case "thread":
      return <ThreadSheets thread={thread} />;
    case "sense":
      return (
        <Sheet title={`Sense of ${label}`} about="where normal can turn into reverse, from finger to lamp">
          <div className="scroll">
            <SensePanel key={turnout.id} leader={turnout.id} />
          </div>
        </Sheet>
      );
    case "lamp":
      return (
        <Sheet title={`Lamp of ${label}`} about="what it knows, and what it shows when something is amiss">
          <div className="scroll">
            <LampPanel thread={thread} />
          </div>
        </Sheet>
      );
    case "schools":
      return (
        <Sheet title={`Schools for ${label}`} about="other ways to equip it, side by side for this railway">
          <div className="scroll">
            <SchoolsPanel thread={thread} />
          </div>
        </Sheet>
      );
  }
}

function rosterWords(threads: readonly Thread[], complete: number): string {
  const turnouts = threads.reduce((sum, { followers }) => sum + 1 + followers.length, 0);
  const open = threads.length - complete;
  return `${turnouts} in ${threads.length} rows, ${open === 0 ? "all finished" : `${open} not finished`}`;
}

function EmptyThread({ openList }: { openList: () => void }) {
  return (
    <Sheet title="Thread">
      <div className="grid justify-items-start gap-3 p-6">
        <p>
          The thread shows one turnout from finger to lamp. Enter your turnouts first: type them, paste them from a
          spreadsheet, or take in a CSV file.
        </p>
        <button type="button" className="btn go" onClick={openList}>
          Enter turnouts
        </button>
      </div>
    </Sheet>
  );
}

/** The thread of the chosen turnout, and the findings on it. */
function ThreadSheets({ thread }: { thread: Thread }) {
  const { overview, focus } = useResults();
  if (!overview) return null;
  const reading = focus?.turnoutId === thread.turnout.id ? focus.reading : null;
  const own = overview.findings.filter(({ turnoutIds }) => turnoutIds.includes(thread.turnout.id));
  const counted = own.filter(({ kept }) => kept === null);
  const wrong = counted.filter(({ severity }) => severity === "stop").length;
  return (
    <div className="thread-sheets">
      <Sheet
        title={`Thread of ${thread.label}`}
        about={describe(thread)}
        actions={
          <>
            <BySelector thread={thread} />
            <ThrowSelector turnoutId={thread.turnout.id} />
          </>
        }
      >
        <ThreadDrawing overview={overview} thread={thread} reading={reading} />
      </Sheet>
      <Sheet title={`Findings on ${thread.label}`} about={`${wrong} wrong, ${counted.length - wrong} doubtful`}>
        <div className="scroll">
          {own.length === 0 && <p className="quiet p-3">All checks are clear.</p>}
          {own.map((finding) => (
            <FindingCard key={finding.key} finding={finding} />
          ))}
        </div>
      </Sheet>
    </div>
  );
}

function describe({ turnout, motors }: Thread): string {
  const kinds = motors.map(({ type }) => type.short);
  const [kind] = kinds;
  const words =
    motors.length === 0 ? "no motor yet" : motors.length === 1 ? `${kind} motor` : `${motors.length} ${kind} motors`;
  return [turnout.name, words].filter(Boolean).join("; ");
}

/** Which of several controls is used. */
function BySelector({ thread }: { thread: Thread }) {
  const chosen = useAppSelector((state) => state.view.by[thread.turnout.id]);
  const dispatch = useAppDispatch();
  const controls = [...new Map(controlsOf(thread).map((control) => [control.device.id, control])).values()];
  if (controls.length < 2) return null;
  return (
    <select
      className="field !w-auto"
      aria-label="Thrown by"
      value={chosen ?? controls[0]?.device.id}
      onChange={(event) => dispatch(throwBy({ turnoutId: thread.turnout.id, controlId: event.target.value }))}
    >
      {controls.map(({ device, assignment }) => (
        <option key={device.id} value={device.id}>
          by {device.label}
          {assignment.inverse ? " inverse" : ""}
        </option>
      ))}
    </select>
  );
}

const MOMENTS = [
  ["throwing", "Throwing"],
  ["held", "Held"],
  ["rest", "At rest"],
] as const;

/** Which position and moment the readings are for. */
export function ThrowSelector({ turnoutId, moments = true }: { turnoutId: string; moments?: boolean }) {
  const position = useAppSelector((state) => state.view.asked[turnoutId] ?? "N");
  const moment = useAppSelector((state) => state.view.moment);
  const dispatch = useAppDispatch();
  return (
    <>
      {moments && (
        <fieldset className="seg" aria-label="Moment">
          {MOMENTS.map(([each, words]) => (
            <button key={each} type="button" aria-pressed={moment === each} onClick={() => dispatch(setMoment(each))}>
              {words}
            </button>
          ))}
        </fieldset>
      )}
      <fieldset className="seg" aria-label="Throw to">
        {(["N", "R"] as const).map((each) => (
          <button
            key={each}
            type="button"
            aria-pressed={position === each}
            onClick={() => dispatch(throwTo({ turnoutId, position: each }))}
          >
            <PositionMark position={each} />
            {each === "N" ? "Normal" : "Reverse"}
          </button>
        ))}
      </fieldset>
    </>
  );
}
