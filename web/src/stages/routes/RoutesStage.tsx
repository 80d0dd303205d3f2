import { deviceOf, find, list, matricesOf, type RailwayRecord } from "@alderman/core";
import { useState } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import { Clear } from "../../findings/Checked.tsx";
import { FindingCard } from "../../findings/FindingCard.tsx";
import { StageMain } from "../../frame/StageMain.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { Optional, part } from "../../kit/part.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
import { ProposalsSheet } from "./ProposalsSheet.tsx";
import { RouteGrid } from "./RouteGrid.tsx";
import { useRoutePress } from "./useRoutePress.ts";

// each is loaded with the first look at it
const MatrixSheet = part(async () => (await import("./MatrixSheet.tsx")).MatrixSheet);
const BoardPage = part(async () => (await import("./BoardPage.tsx")).BoardPage);
const UnitSheet = part(async () => (await import("./UnitSheet.tsx")).UnitSheet);
const CompareSheet = part(async () => (await import("./CompareSheet.tsx")).CompareSheet);
const PulseSheet = part(async () => (await import("./PulseSheet.tsx")).PulseSheet);

type View = "routes" | "matrix" | "board" | "unit" | "compare";

const VIEWS: { value: View; text: string }[] = [
  { value: "routes", text: "Routes" },
  { value: "matrix", text: "Matrix" },
  { value: "board", text: "Board" },
  { value: "unit", text: "Discharge unit" },
  { value: "compare", text: "Compare" },
];

/** Routes, what asks for them, and the diode boards through which their buttons fire coils. */
export function RoutesStage() {
  const record = useRecord();
  return record && <StageOf record={record} />;
}

function StageOf({ record }: { record: RailwayRecord }) {
  const edit = useEdit();
  const overview = useOverview();
  const matrices = matricesOf(record).filter(({ rows }) => rows.length > 0);
  const [chosen, setView] = useState<View | null>(null);
  const [board, setBoard] = useState<string | null>(null);
  const [row, setRow] = useState<string | null>(null);
  const view = chosen ?? (matrices.length > 0 ? "matrix" : "routes");
  const matrix = matrices.find(({ boards }) => boards.some(({ id }) => id === board)) ?? matrices[0];
  // the route that needs most is the first to be looked at
  const most = matrix && [...matrix.wishes].sort((a, b) => b.coils.length - a.coils.length)[0]?.button;
  const pressed = matrix?.rows.some(({ key }) => key === row) ? row : (most ?? null);
  const press = useRoutePress(matrix?.boards[0]?.id ?? null, pressed);
  // what keeps the turnouts of these routes from moving concerns the routes as well
  const own = new Set(matrix?.coils.map(({ turnoutId }) => turnoutId));
  const findings =
    overview?.findings.filter(
      ({ stage, severity, turnoutIds }) =>
        stage === "routes" || (severity === "stop" && turnoutIds.some((id) => own.has(id))),
    ) ?? [];
  // tables and drawings of boards take the width
  const isWide = view === "board" || view === "unit" || view === "compare";
  const boards = matrix ? list(matrix.boards.map(({ label }) => label)) : "";
  const units = matrix?.unitIds.map((id) => deviceOf(record, id).label) ?? [];
  return (
    <StageMain title="Routes" about="One button, many turnouts">
      <Sheets columns={isWide ? "minmax(0,1fr)" : "minmax(0,1fr) 330px"}>
        <Sheet
          title={<Segmented size="small" label="View" value={view} segments={VIEWS} onChange={setView} />}
          about={
            view === "matrix" && matrix
              ? `${matrix.rows.length} buttons to ${matrix.coils.length} coils on ${boards}${units.length > 0 ? `, fired by ${list(units)}` : ""}`
              : undefined
          }
          actions={
            view === "matrix" && matrices.length > 1 ? (
              <Choice
                size="small"
                label="Matrix"
                value={matrix?.boards[0]?.id ?? ""}
                options={matrices.map((each) => ({
                  value: each.boards[0]?.id ?? "",
                  text: list(each.boards.map(({ label }) => label)),
                }))}
                onChange={setBoard}
              />
            ) : null
          }
        >
          {view === "routes" && <RouteGrid record={record} />}
          {view === "matrix" &&
            (matrix ? (
              <Optional>
                <MatrixSheet {...{ record, matrix, pressed, press, edit }} setPressed={setRow} />
              </Optional>
            ) : (
              <p className="p-3 text-ink-2">
                No route is asked for through diodes. Under Routes, choose a button for each and fit them.
              </p>
            ))}
          <Optional>
            {view === "board" && <BoardPage record={record} />}
            {view === "unit" && <UnitSheet record={record} />}
            {view === "compare" && <CompareSheet record={record} matrix={matrix} />}
          </Optional>
        </Sheet>
        {!isWide && (
          <Sheets rows={view === "routes" ? "minmax(0,1fr) minmax(0,1fr)" : "minmax(0,1.5fr) minmax(0,1fr)"}>
            {view === "routes" || !matrix ? (
              <ProposalsSheet record={record} />
            ) : (
              <Optional>
                <PulseSheet
                  press={press}
                  name={nameOf(record, matrix.rows.find(({ key }) => key === pressed)?.routeIds)}
                />
              </Optional>
            )}
            <Sheet title="Findings" about={findings.length === 0 ? undefined : `${findings.length}`}>
              <SheetBody label="Findings on routes">
                {findings.length === 0 && (
                  <p className="p-3 text-ink-2">
                    <Clear>Nothing is wrong with the routes.</Clear>
                  </p>
                )}
                {findings.map((finding) => (
                  <FindingCard key={finding.key} finding={finding} />
                ))}
              </SheetBody>
            </Sheet>
          </Sheets>
        )}
      </Sheets>
    </StageMain>
  );
}

function nameOf(record: RailwayRecord, routeIds: readonly string[] = []): string {
  return routeIds.map((id) => find(record, "route", id)?.label ?? id).join(", ");
}
