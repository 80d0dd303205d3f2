import {
  blocksOnLine,
  count,
  countJoints,
  couple,
  type Finding,
  find,
  followsFrom,
  insulatedJoints,
  lineLayout,
  nameOfPoint,
  type RailwayRecord,
  routesBetweenEnds,
  setHidden,
  trackMetres,
  trayOf,
} from "@alderman/core";
import { X } from "lucide-react";
import { type ReactNode, useMemo, useState } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import { Mark } from "../../drawing/Mark.tsx";
import { Clear } from "../../findings/Checked.tsx";
import { FindingCard } from "../../findings/FindingCard.tsx";
import { StageMain } from "../../frame/StageMain.tsx";
import { Button } from "../../kit/Button.tsx";
import { IconButton } from "../../kit/IconButton.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { choose as chooseThing } from "../../store/view.ts";
import { saveText } from "../../tools/saveFile.ts";
import { BlocksSheet } from "./BlocksSheet.tsx";
import { gravest } from "./concerns.ts";
import type { Chosen } from "./LineDrawing.tsx";
import { LineSheet } from "./LineSheet.tsx";
import { MarkCard } from "./MarkCard.tsx";
import { PlaceCard } from "./PlaceCard.tsx";
import { RailsSheet } from "./RailsSheet.tsx";
import { RoutesSheet, type ShownWay } from "./RoutesSheet.tsx";
import { SignalsSheet } from "./SignalsSheet.tsx";
import { TrainsSheet } from "./TrainsSheet.tsx";
import { TraySheet } from "./TraySheet.tsx";
import type { LineTool } from "./useLineHands.ts";
import { useLineState } from "./useLineState.ts";

const NOTHING: Chosen = { tracks: new Set(), place: null };

/** The line diagram, what follows from it, and what is chosen of it. */
export function LineStage() {
  const record = useRecord();
  return record && <StageOf record={record} />;
}

function StageOf({ record }: { record: RailwayRecord }) {
  const state = useLineState(record);
  const overview = useOverview();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const thing = useAppSelector((state) => state.view.chosen);
  const [tracks, setTracks] = useState<ReadonlySet<string>>(NOTHING.tracks);
  const [place, setPlace] = useState<string | null>(null);
  const [mark, setMark] = useState<string | null>(null);
  const [tool, setTool] = useState<LineTool>("track");
  const [picked, setPicked] = useState<string | null>(null);
  /** What another stage chose was let go of here. */
  const [isLeft, setLeft] = useState(false);
  const [side, setSide] = useState<Side | null>(null);
  const [shownWay, setShownWay] = useState<{ way: ShownWay; line: object } | null>(null);
  const wrong = useMemo(() => gravest(record, overview?.findings ?? []), [record, overview?.findings]);
  const layout = lineLayout(record);
  // stretches have other numbers once the track is another
  const route = shownWay?.line === layout.line ? shownWay.way : null;
  const setRoute = (way: ShownWay | null) => setShownWay(way && { way, line: layout.line });
  // what was chosen in another stage is chosen here
  const own = thing?.kind === "turnout" ? record.spots.find(({ turnoutId }) => turnoutId === thing.id) : undefined;
  const markHere = mark && (find(record, "mark", mark) || find(record, "outline", mark)) ? mark : null;
  const chosen: Chosen = {
    tracks: new Set([...tracks].filter((id) => record.tracks.some((track) => track.id === id))),
    mark: markHere,
    place: tracks.size > 0 || isLeft || markHere ? null : (place ?? (own ? nameOfPoint([own.x, own.y]) : null)),
    way: route ? route.stretches.flatMap((index) => layout.stretches[index] ?? []) : [],
  };
  const choose = (next: Chosen) => {
    setTracks(next.tracks);
    setPlace(next.place);
    setMark(next.mark ?? null);
    setLeft(next.place === null);
    const turnout =
      next.place === null ? undefined : layout.at.get(next.place)?.junctions.find((each) => each.turnout)?.turnout;
    dispatch(chooseThing(turnout ? { kind: "turnout", id: turnout.id } : null));
  };
  const tray = trayOf(record);
  const pickedHere = tray.some(({ id }) => id === picked) ? picked : null;
  const findings = overview?.findings.filter(({ stage }) => stage === "line") ?? [];
  const at = chosen.place === null ? undefined : layout.at.get(chosen.place);
  return (
    <StageMain title="Line" about="What lies where, and what follows from it">
      <Sheets rows="minmax(0,1fr) 232px">
        <LineSheet
          record={record}
          wrong={wrong}
          findings={findings}
          state={state}
          chosen={chosen}
          choose={choose}
          tray={pickedHere === null ? [] : [pickedHere]}
          edit={edit}
          tool={tool}
          setTool={setTool}
          actions={
            <Button size="small" disabled={record.tracks.length === 0} onClick={() => saveDrawing(record)}>
              SVG
            </Button>
          }
        />
        <Sheets columns="minmax(0,1fr) minmax(0,1fr)">
          <FollowsSheet record={record} edit={edit} />
          {markHere ? (
            <MarkCard id={markHere} record={record} state={state} edit={edit} close={() => choose(NOTHING)} />
          ) : at ? (
            <PlaceCard key={chosen.place} record={record} place={at} edit={edit} close={() => choose(NOTHING)} />
          ) : chosen.tracks.size > 0 ? (
            <TracksCard record={record} ids={[...chosen.tracks]} edit={edit} close={() => choose(NOTHING)} />
          ) : (
            <SideSheet
              side={side ?? (tray.length > 0 && findings.length === 0 ? "tray" : "findings")}
              setSide={setSide}
              findings={findings}
              routes={<RoutesSheet record={record} chosen={route} choose={setRoute} />}
              rails={<RailsSheet record={record} edit={edit} />}
              blocks={<BlocksSheet {...{ record, state }} choose={(id) => choose({ ...NOTHING, mark: id })} />}
              signals={<SignalsSheet {...{ record, state }} choose={(id) => choose({ ...NOTHING, mark: id })} />}
              trains={<TrainsSheet record={record} />}
              tray={<TraySheet record={record} tray={tray} picked={pickedHere} pick={setPicked} />}
              waiting={tray.length}
            />
          )}
        </Sheets>
      </Sheets>
    </StageMain>
  );
}

type Side = "findings" | "routes" | "rails" | "blocks" | "signals" | "trains" | "tray";

/** What is beside the figures while nothing is chosen: what is wrong, the routes, the turnouts that wait. */
function SideSheet({
  side,
  setSide,
  findings,
  waiting,
  ...sheets
}: {
  side: Side;
  setSide: (side: Side) => void;
  findings: readonly Finding[];
  waiting: number;
} & Record<Exclude<Side, "findings">, ReactNode>) {
  const found = useOverview() !== null;
  const segments = [
    { value: "findings" as const, text: found ? `Findings ${findings.length}` : "Findings" },
    { value: "routes" as const, text: "Routes" },
    { value: "rails" as const, text: "Rails" },
    { value: "blocks" as const, text: "Blocks" },
    { value: "signals" as const, text: "Signals" },
    { value: "trains" as const, text: "Trains" },
    { value: "tray" as const, text: `Tray ${waiting}` },
  ];
  return (
    <Sheet title={<Segmented size="small" label="Beside" value={side} segments={segments} onChange={setSide} />}>
      {side !== "findings" ? (
        sheets[side]
      ) : (
        <SheetBody label="Findings on the line">
          {findings.length === 0 && (
            <p className="p-3 text-ink-2">
              <Clear>Nothing is wrong with the line.</Clear>
            </p>
          )}
          {findings.map((finding) => (
            <FindingCard key={finding.key} finding={finding} />
          ))}
        </SheetBody>
      )}
    </Sheet>
  );
}

type Edit = ReturnType<typeof useEdit>;

/** What follows from the line, in figures. */
function FollowsSheet({ record, edit }: { record: RailwayRecord; edit: Edit }) {
  const layout = lineLayout(record);
  const { turning, shorted, crossovers, metres, hiddenMetres, placed } = followsFrom(record);
  const { routes, more } = routesBetweenEnds(record);
  const open = crossovers.filter(({ isCoupled }) => !isCoupled);
  const ends = layout.ends.filter(({ mark }) => mark).length;
  const joints = useMemo(() => insulatedJoints(record), [record]);
  const wanting = joints.filter(({ made }) => !made);
  const named = blocksOnLine(record).blocks.filter(({ name }) => name !== null);
  const unseen = named.filter(({ zones }) => zones.length === 0).length;
  const lost = record.turnouts.length - placed;
  const gaps = record.marks.filter(({ what }) => what === "gap").length;
  return (
    <Sheet
      title="What follows"
      about={`from ${count(layout.junctions.length, "pair of blades", "pairs of blades")} and ${count(layout.ends.length, "end")}`}
    >
      <SheetBody label="What follows from the line" still>
        <Row
          figure={`${placed}`}
          words={placed === 1 ? "turnout on the line" : "turnouts on the line"}
          more={lost > 0 ? `${lost} of the list in the tray` : "all of the list"}
          good={lost === 0}
        />
        <Row
          figure={`${routes.length}${more ? "+" : ""}`}
          words="routes between ends"
          more={ends < layout.ends.length ? `${layout.ends.length - ends} ends without a name` : "all ends named"}
        />
        <Row
          figure={`${turning.cut.length}`}
          words={turning.cut.length === 1 ? "section turns trains" : "sections turn trains"}
          more={turningWords(record, turning.cut, shorted.cut)}
          good={!shorted.conflict}
        />
        <Row
          figure={metres.toFixed(2)}
          words="m of track"
          more={hiddenMetres > 0 ? `${hiddenMetres.toFixed(2)} m out of sight` : gaps > 0 ? count(gaps, "gap") : ""}
        />
        {joints.length > 0 && (
          <Row
            figure={`${countJoints(joints)}`}
            words={countJoints(joints) === 1 ? "insulated joint" : "insulated joints"}
            more={wanting.length > 0 ? `${countJoints(wanting)} still to make` : "all made"}
            good={wanting.length === 0}
          />
        )}
        {named.length > 0 && (
          <Row
            figure={`${named.length}`}
            words={named.length === 1 ? "block" : "blocks"}
            more={unseen > 0 ? `${unseen} without a detector` : "each watched by a detector"}
          />
        )}
        {open.map((crossover) => (
          <div key={crossover.pair[0].id} className="flex items-center gap-2 border-b border-rule px-3 py-1.25">
            <span className="flex-1">
              {crossover.pair[0].label} and {crossover.pair[1].label} are a crossover.
            </span>
            <Button size="small" onClick={() => edit(() => couple(record, crossover))}>
              Throw them together
            </Button>
          </div>
        ))}
      </SheetBody>
    </Sheet>
  );
}

/** Where sections that turn trains are parted, or have to be. */
function turningWords(
  record: RailwayRecord,
  sections: readonly (readonly [string, string])[],
  shorted: readonly (readonly [string, string])[],
): string {
  if (sections.length === 0) return "no rail meets its opposite";
  const [first] = shorted;
  if (!first) return "parted by gaps";
  const where = `no gap: ${first.map((port) => portWords(record, port)).join(", ")}`;
  return shorted.length > 1 ? `${where} and ${shorted.length - 1} more` : where;
}

/** A leg of a turnout in words, as "B1 normal". */
function portWords(record: RailwayRecord, port: string): string {
  const [id = "", leg = ""] = [port.slice(0, port.lastIndexOf(".")), port.slice(port.lastIndexOf(".") + 1)];
  return `${record.turnouts.find((turnout) => turnout.id === id)?.label ?? "?"} ${leg}`;
}

function Row({ figure, words, more, good }: { figure: string; words: string; more: string; good?: boolean }) {
  return (
    <div className="grid grid-cols-[70px_minmax(0,11rem)_minmax(0,1fr)_18px] items-center gap-2 border-b border-rule px-3 py-0.75">
      <b className="mono text-right text-[17px]">{figure}</b>
      <span>{words}</span>
      <span className="truncate text-ink-2" title={more}>
        {more}
      </span>
      {good === undefined ? <span /> : <Mark verdict={good ? "good" : "open"} size={14} />}
    </div>
  );
}

/** Stretches that are chosen. */
function TracksCard({
  record,
  ids,
  edit,
  close,
}: {
  record: RailwayRecord;
  ids: readonly string[];
  edit: Edit;
  close: () => void;
}) {
  const tracks = record.tracks.filter(({ id }) => ids.includes(id));
  const metres = tracks.reduce((sum, { points }) => sum + trackMetres(record, points), 0);
  const allHidden = tracks.every(({ hidden }) => hidden);
  return (
    <Sheet
      title={count(tracks.length, "stretch", "stretches")}
      about={`${metres.toFixed(2)} m`}
      actions={<IconButton icon={X} label="Let go of it" onClick={close} />}
    >
      <SheetBody label="Chosen track" className="p-3">
        <Button size="small" onClick={() => edit(() => setHidden(record, ids, !allHidden))}>
          {allHidden ? "It is in sight and in reach" : "It is out of sight or reach"}
        </Button>
        <p className="mt-3 text-ink-2">
          Drag it to move it, or Shift and the arrows. <kbd>m</kbd> mirrors it, <kbd>q</kbd> turns it by a quarter,{" "}
          <kbd>c</kbd> lays a copy, <kbd>Delete</kbd> takes it up.
        </p>
      </SheetBody>
    </Sheet>
  );
}

/** The drawing as it is seen, as a file of its own with its colours in it. */
function saveDrawing(record: RailwayRecord): void {
  const shown = document.querySelector<SVGSVGElement>("[data-line]");
  if (!shown) return;
  const copy = shown.cloneNode(true) as SVGSVGElement;
  const box = shown.getBoundingClientRect();
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  copy.setAttribute("viewBox", `0 0 ${box.width} ${box.height}`);
  for (const attribute of ["class", "role", "tabindex", "aria-describedby", "data-line"])
    copy.removeAttribute(attribute);
  copy.querySelector("[data-cursor]")?.remove();
  const style = getComputedStyle(document.documentElement);
  const text = copy.outerHTML
    .replaceAll(/var\((--[a-z0-9-]+)\)/g, (_, name: string) => style.getPropertyValue(name).trim())
    .replaceAll(
      /class="fill-ink-2[^"]*"/g,
      `fill="${style.getPropertyValue("--ink-2").trim()}" font-family="sans-serif" font-size="12" paint-order="stroke"`,
    )
    .replaceAll(/class="[^"]*"/g, `font-family="sans-serif" font-size="12" font-weight="600" paint-order="stroke"`);
  saveText(`${record.railway.name} - line.svg`, "image/svg+xml", `<?xml version="1.0" encoding="UTF-8"?>\n${text}\n`);
}
