import { busDay, busStart, type NodeVolts, type SettingLine, settingLines } from "@alderman/core";
import { useMemo, useState } from "react";
import { useParams } from "react-router";
import { useOverview } from "../../derivation/hooks.ts";
import { useEvents } from "../../derivation/useEvents.ts";
import { Awaited, Clear } from "../../findings/Checked.tsx";
import { FindingCard } from "../../findings/FindingCard.tsx";
import { StageMain } from "../../frame/StageMain.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { useKeptState } from "../../kit/useKeptState.ts";
import { useRecord } from "../../session/hooks.ts";
import { Addresses } from "./Addresses.tsx";
import { BusSheet } from "./BusSheet.tsx";
import { EventsView, Teaching } from "./events/EventsView.tsx";
import { EncodersSheet, FeedbackSheet } from "./FeedbackSheet.tsx";
import { LeftStrip } from "./LeftStrip.tsx";
import { LiveView } from "./live/LiveView.tsx";
import { canBeLive } from "./live/useLive.ts";
import { NodeCard } from "./NodeCard.tsx";
import { NodesSheet } from "./NodesSheet.tsx";
import { ProgrammingSheet } from "./ProgrammingSheet.tsx";
import { SettingOrder } from "./SettingOrder.tsx";
import { SettingsSheet } from "./SettingsSheet.tsx";

type NumbersList = "addresses" | "feedback" | "bus" | "events" | "settings" | "live";

const LISTS: { value: NumbersList; text: string }[] = [
  { value: "addresses", text: "Addresses" },
  { value: "feedback", text: "Feedback" },
  { value: "bus", text: "Bus" },
  { value: "events", text: "Events" },
  { value: "settings", text: "Settings" },
  { value: "live", text: "Live" },
];

const ABOUT: Record<NumbersList, string> = {
  addresses: "Addresses: wanted, answered to",
  feedback: "Feedback numbers, and who acts on them",
  bus: "Nodes on the control bus and their numbers",
  events: "Events: who sends, who acts, what was taught",
  settings: "Settings: wanted, read back",
  live: "Tried on stand-ins, and listened to",
};

/** Numbers that are put into devices: addresses, and what else is set in them; as wanted, and as they answer. */
export function NumbersStage() {
  const { railwayId = "" } = useParams();
  const overview = useOverview();
  const record = useRecord();
  const [wanted, setList] = useKeptState<NumbersList>("numbers-list", "addresses");
  // only what is there is shown: encoders, and nodes on a bus
  const isThere = useMemo(() => {
    const lines = record ? settingLines(record) : [];
    const some = (is: (line: SettingLine) => boolean | undefined) => lines.some(is);
    return {
      ...{ addresses: true, feedback: some(({ setting }) => setting.isStart) },
      ...{ bus: some(({ setting }) => setting.isNodeNumber), events: some(({ setting }) => setting.isNodeNumber) },
      ...{ settings: lines.length > 0, live: record !== null && canBeLive(record) },
    };
  }, [record]);
  const list = isThere[wanted] ? wanted : "addresses";
  const [chosen, setChosen] = useState<SettingLine | null>(null);
  const [node, setNode] = useState<string | null>(null);
  const [cell, setCell] = useState({ row: 0, column: 0 });
  // what is not right yet comes first
  const line = useMemo(
    () => chosen ?? (record ? settingLines(record) : []).find(({ standing }) => /due|differs/.test(standing)) ?? null,
    [chosen, record],
  );
  const { threads } = useEvents(record);
  if (!record) return null;
  const outputs = overview && !overview.coming.includes("addresses") ? overview.addresses : null;
  const findings = overview?.findings.filter(({ stage }) => stage === "numbers") ?? [];
  return (
    <StageMain
      title="Numbers"
      about={ABOUT[list]}
      actions={
        <Segmented
          label="Numbers"
          value={list}
          segments={LISTS.filter(({ value }) => isThere[value])}
          onChange={setList}
        />
      }
    >
      <div className="flex min-h-0 flex-col gap-2">
        {outputs && <LeftStrip record={record} outputs={outputs} go={setList} />}
        <div className="grid min-h-0 flex-1">
          {!outputs && (list === "live" || list === "addresses") ? (
            <Sheet title={list === "live" ? "Live" : "Address list"}>
              <Awaited />
            </Sheet>
          ) : list === "live" && outputs ? (
            <LiveView railwayId={railwayId} record={record} outputs={outputs} />
          ) : (
            <Sheets columns="minmax(0,1fr) 320px">
              {list === "addresses" && outputs && <Addresses record={record} outputs={outputs} />}
              {list === "feedback" && <FeedbackSheet record={record} threads={threads} />}
              {list === "bus" && (
                <Sheets rows="minmax(0,1fr) auto">
                  <NodesSheet record={record} volts={overview?.nodeVolts ?? NO_VOLTS} chosen={node} choose={setNode} />
                  <BusSheet day={busDay(record, threads)} start={busStart(record, threads)} />
                </Sheets>
              )}
              {list === "events" && <EventsView record={record} here={cell} go={setCell} />}
              {list === "settings" && <SettingsSheet record={record} chosen={line?.id ?? null} choose={setChosen} />}
              <Sheets rows="minmax(0,3fr) minmax(0,2fr)">
                {list === "addresses" && outputs && <ProgrammingSheet record={record} outputs={outputs} />}
                {list === "feedback" && <EncodersSheet record={record} />}
                {list === "bus" && <NodeCard record={record} chosen={node} />}
                {list === "events" && <Teaching record={record} here={cell} />}
                {list === "settings" && <SettingOrder record={record} device={line?.device.id ?? null} />}
                <Sheet title="Findings" about="on numbers">
                  <SheetBody>
                    {findings.length === 0 && (
                      <p className="p-3 text-ink-2">
                        <Clear>Nothing is wrong with the numbers.</Clear>
                      </p>
                    )}
                    {findings.map((finding) => (
                      <FindingCard key={finding.key} finding={finding} />
                    ))}
                  </SheetBody>
                </Sheet>
              </Sheets>
            </Sheets>
          )}
        </div>
      </div>
    </StageMain>
  );
}

const NO_VOLTS: readonly NodeVolts[] = [];
