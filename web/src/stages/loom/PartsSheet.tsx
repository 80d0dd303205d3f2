import {
  boughtAll,
  missingByTurnout,
  needsOf,
  type RailwayRecord,
  type StockFields,
  type StockLine,
  setStock,
  stockLines,
} from "@alderman/core";
import { type ReactNode, useMemo, useState } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import type { Overview } from "../../derivation/overview.ts";
import { Checked } from "../../findings/Checked.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { NumberField } from "../../kit/NumberField.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { TextField } from "../../kit/TextField.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit, useTryEdit } from "../../session/useEdit.ts";

type View = "all" | "buy" | "turnouts" | "first";

const VIEWS: { value: View; text: string }[] = [
  { value: "all", text: "All that is needed" },
  { value: "buy", text: "To buy" },
  { value: "turnouts", text: "What each turnout lacks" },
  { value: "first", text: "To finish the first ten" },
];

const FIRST = 10;

/** What the plan takes, what is on the shelf, what is to be bought; and what is missing turnout by turnout. */
export function PartsSheet({ lists }: { lists: ReactNode }) {
  const record = useRecord();
  const overview = useOverview();
  const act = useEdit();
  const [view, setView] = useState<View>("all");
  const lines = useMemo(() => {
    if (!record || !overview) return [];
    const all = stockLines(record, needsOf({ record, loom: overview.loom, schematic: overview }));
    return all.filter(({ needed, have, isOwnPrice, supplier }) => needed > 0 || have > 0 || isOwnPrice || supplier);
  }, [record, overview]);
  if (!record || !overview) return null;
  const total = lines.reduce((sum, line) => sum + line.sum, 0);
  const { currency } = record.railway;
  const bar = (
    <>
      <Choice size="small" label="Which parts" value={view} options={VIEWS} onChange={setView} />
      <Button
        size="small"
        disabled={total === 0}
        onClick={() => act(() => boughtAll(record, lines, new Date().toISOString()))}
      >
        All of it was bought
      </Button>
    </>
  );
  const shown = view === "buy" ? lines.filter(({ toBuy }) => toBuy > 0) : lines;
  return (
    <Sheet title="Parts" about={`to buy: about ${total.toFixed(0)} ${currency}`} actions={lists}>
      {view === "all" || view === "buy" ? (
        <Lines record={record} lines={shown} bar={bar} />
      ) : (
        <Lacking record={record} overview={overview} lines={lines} most={view === "first" ? FIRST : null} bar={bar} />
      )}
    </Sheet>
  );
}

function Lines({ record, lines, bar }: { record: RailwayRecord; lines: readonly StockLine[]; bar: ReactNode }) {
  const tryEdit = useTryEdit();
  const columns = useMemo((): DataColumn<StockLine>[] => {
    const set = (line: StockLine, fields: Partial<StockFields>) =>
      tryEdit(() => setStock(record, line, fields, new Date().toISOString()));
    return [
      {
        ...{ id: "name", title: "What", value: ({ name }) => name, wraps: true },
        cell: ({ name, box }) => (
          <>
            {name}
            {box && <span className="block text-small text-ink-2">in the box: {box}</span>}
          </>
        ),
      },
      {
        id: "needed",
        title: "Needed",
        figures: true,
        value: ({ needed }) => needed,
        cell: (line) => amount(line, line.needed),
      },
      {
        ...{ id: "have", title: "Shelf", width: 76, value: ({ have }) => have },
        cell: (line) => (
          <NumberField
            className="w-full text-right"
            label={`On the shelf: ${line.name}`}
            value={line.have}
            goesOn
            save={(have) => (have === null ? "Type how many." : set(line, { have }))}
          />
        ),
      },
      {
        id: "buy",
        title: "To buy",
        figures: true,
        value: ({ toBuy }) => toBuy,
        cell: (line) => amount(line, line.toBuy),
      },
      {
        ...{ id: "price", title: "Each", width: 104, value: ({ price }) => price },
        cell: (line) => (
          <NumberField
            className="w-full text-right"
            label={`Price: ${line.name}`}
            value={line.isOwnPrice ? line.price : null}
            empty={`about ${line.price.toFixed(2)}`}
            save={(price) => set(line, { price })}
          />
        ),
      },
      { id: "sum", title: "Sum", figures: true, value: ({ sum }) => sum, cell: ({ sum }) => sum.toFixed(2) },
      {
        ...{ id: "supplier", title: "From", width: 96, value: ({ supplier }) => supplier },
        cell: (line) => (
          <TextField
            className="w-full"
            label={`Where to buy: ${line.name}`}
            value={line.supplier}
            save={(supplier) => set(line, { supplier })}
          />
        ),
      },
    ];
  }, [record, tryEdit]);
  return (
    <DataTable
      label="Parts"
      keptAs="parts"
      bar={bar}
      items={lines}
      columns={columns}
      idOf={({ thing }) => thing}
      empty={
        <p className="p-3 text-ink-2">
          <Checked>Nothing is needed that is not there.</Checked>
        </p>
      }
    />
  );
}

function amount({ unit }: StockLine, count: number): string {
  return unit === "m" ? `${count.toFixed(2)} m` : String(count);
}

/** A turnout with what it lacks. */
interface Lack {
  id: string;
  label: string;
  lacks: string;
  kinds: number;
}

const LACK_COLUMNS: DataColumn<Lack>[] = [
  { id: "turnout", title: "Turnout", value: ({ label }) => label, cell: ({ label }) => <b>{label}</b>, width: 90 },
  { id: "kinds", title: "Kinds", figures: true, value: ({ kinds }) => kinds, width: 60 },
  { id: "lacks", title: "Lacks", value: ({ lacks }) => lacks, wraps: true },
];

function Lacking({
  record,
  overview,
  lines,
  most,
  bar,
}: {
  record: RailwayRecord;
  overview: Overview;
  lines: readonly StockLine[];
  most: number | null;
  bar: ReactNode;
}) {
  const rows = useMemo(() => {
    const plan = { record, loom: overview.loom, schematic: overview };
    const labels = new Map(overview.threads.map(({ turnout, label }) => [turnout.id, label]));
    // what belongs to no turnout stands before the first
    const all = [...missingByTurnout(plan, lines)].slice(0, most === null ? undefined : most + 1);
    return all.flatMap(([id, missing]): Lack[] => {
      if (missing.length === 0) return [];
      const words = missing.map(({ need, count }) =>
        need.unit === "m" ? `${count} m ${need.name}` : `${count} ${need.name}`,
      );
      return [
        { id: id || "boards", label: labels.get(id) ?? "boards", lacks: words.join("; "), kinds: missing.length },
      ];
    });
  }, [record, overview, lines, most]);
  return (
    <DataTable
      label="What is missing"
      keptAs="missing-parts"
      bar={bar}
      items={rows}
      columns={LACK_COLUMNS}
      idOf={({ id }) => id}
      empty={
        <p className="p-3 text-ink-2">
          <Checked>Nothing is missing for them.</Checked>
        </p>
      }
    />
  );
}
