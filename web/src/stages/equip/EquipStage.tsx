import type { Thread } from "@alderman/core";
import { Suspense, useEffect, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { useChosenThread, useOverview } from "../../derivation/hooks.ts";
import { Checked } from "../../findings/Checked.tsx";
import { StageMain } from "../../frame/StageMain.tsx";
import { Button, ButtonLink } from "../../kit/Button.tsx";
import { Optional, part } from "../../kit/part.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { TabBar, TabPanel, TabsRoot } from "../../kit/Tabs.tsx";
import { useKeptState } from "../../kit/useKeptState.ts";
import { useTurnoutCount } from "../../session/hooks.ts";
import { Roster } from "./Roster.tsx";
import { ThreadSheets } from "./ThreadSheets.tsx";

// what is not shown at first is loaded when it is
const ListView = part(async () => (await import("./ListView.tsx")).ListView);
const PowerUpSheet = part(async () => (await import("./PowerUpSheet.tsx")).PowerUpSheet);
const SensePanel = part(async () => (await import("./SensePanel.tsx")).SensePanel);
const LampPanel = part(async () => (await import("./LampPanel.tsx")).LampPanel);
const SchoolsPanel = part(async () => (await import("./SchoolsPanel.tsx")).SchoolsPanel);
const Boards = part(async () => (await import("./Boards.tsx")).Boards);
const AllotDialog = part(async () => (await import("./AllotDialog.tsx")).AllotDialog);
const FittingsDialog = part(async () => (await import("./FittingsDialog.tsx")).FittingsDialog);

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
  const turnouts = useTurnoutCount();
  // the view that was open last is come back to: somebody who types a list and looks something up goes on typing
  const [last, setLast] = useKeptState<string | null>(railwayId ? `equip-view-${railwayId}` : null, null);
  const named = search.get("view") ?? last ?? "";
  const chosen: View = named in VIEWS ? (named as View) : turnouts === 0 ? "list" : "thread";
  useEffect(() => setLast(chosen), [chosen, setLast]);
  const show = (view: string) => setSearch({ view }, { replace: true });
  return (
    <TabsRoot value={chosen} onValueChange={show} className="contents">
      <StageMain
        title="Equip"
        about="Motor, driver, controls, frog and lamp of each turnout"
        actions={
          <>
            <ButtonLink className="flex-none" to={`/r/${railwayId}/types`}>
              Device types
            </ButtonLink>
            <TabBar label="View" names={VIEWS} />
          </>
        }
      >
        <TabPanel value={chosen} tabIndex={-1} className="grid min-h-0 grid-cols-[minmax(0,1fr)]">
          <Suspense fallback={<p className="p-6 text-ink-2">Opening ...</p>}>
            {chosen === "list" ? (
              <ListView />
            ) : chosen === "power" ? (
              <PowerUpSheet />
            ) : (
              <TurnoutView view={chosen} openList={() => show("list")} />
            )}
          </Suspense>
        </TabPanel>
      </StageMain>
    </TabsRoot>
  );
}

/** The turnouts at the left, and one side of the chosen one. */
function TurnoutView({ view, openList }: { view: Exclude<View, "list" | "power">; openList: () => void }) {
  const overview = useOverview();
  const thread = useChosenThread();
  const [fittings, setFittings] = useState(false);
  const [allotting, setAllotting] = useState(false);
  return (
    <Sheets columns="292px minmax(0,1fr)">
      <Sheet
        title="Turnouts"
        about={
          overview?.coming.includes("threads") === false ? rosterWords(overview.threads, overview.complete.length) : ""
        }
        // on a phone what is chosen stands below the list, which must not push it out of reach
        className="max-[699px]:max-h-[65vh]"
      >
        <SheetBody>
          <Roster />
          <Optional>
            <Boards />
          </Optional>
        </SheetBody>
        <div className="flex gap-2 border-t border-rule px-2.5 py-2">
          <Button onClick={() => setAllotting(true)}>Allot outputs</Button>
          {thread && <Button onClick={() => setFittings(true)}>Fittings of {thread.label}</Button>}
        </div>
      </Sheet>
      <Suspense>
        {allotting && <AllotDialog close={() => setAllotting(false)} />}
        {fittings && thread && <FittingsDialog turnoutId={thread.turnout.id} close={() => setFittings(false)} />}
      </Suspense>
      {thread ? <ViewOf view={view} thread={thread} /> : <EmptyThread openList={openList} />}
    </Sheets>
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
          <SheetBody>
            <SensePanel key={turnout.id} leader={turnout.id} />
          </SheetBody>
        </Sheet>
      );
    case "lamp":
      return (
        <Sheet title={`Lamp of ${label}`} about="what it knows, and what it shows when something is amiss">
          <SheetBody still>
            <LampPanel thread={thread} />
          </SheetBody>
        </Sheet>
      );
    case "schools":
      return (
        <Sheet title={`Schools for ${label}`} about="other ways to equip it, side by side for this railway">
          <SheetBody>
            <SchoolsPanel thread={thread} />
          </SheetBody>
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
        <Checked>
          <p>
            The thread shows one turnout from finger to lamp. Enter your turnouts first: type them, paste them from a
            spreadsheet, or import a CSV file.
          </p>
          <Button look="best" onClick={openList}>
            Enter turnouts
          </Button>
        </Checked>
      </div>
    </Sheet>
  );
}
