import { count, type Placement, type Proposal } from "@alderman/core";
import { Mark } from "../../drawing/Mark.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { DataTable } from "../../kit/DataTable.tsx";

/** What was proposed, to be accepted in whole or in part. */
export function AllotProposal({
  proposal,
  chosen,
  choose,
  back,
  accept,
}: {
  proposal: Proposal;
  chosen: ReadonlySet<string>;
  choose: (chosen: ReadonlySet<string>) => void;
  back: () => void;
  accept: () => void;
}) {
  const { places, stopped } = proposal;
  const every = chosen.size === places.length;
  return (
    <>
      <p>{proposalWords(proposal)}</p>
      {stopped.map(({ turnoutId, label, why }) => (
        <p key={turnoutId} className="mt-1 flex gap-2">
          <Mark verdict="wrong" size={15} />
          <span>
            <b>{label}</b>: {why}
          </span>
        </p>
      ))}
      {places.length > 0 && (
        <>
          <Checkbox
            className="mt-2"
            checked={every ? true : chosen.size === 0 ? false : "indeterminate"}
            onChange={() => choose(every ? new Set() : new Set(places.map(({ turnoutId }) => turnoutId)))}
          >
            All
          </Checkbox>
          <div className="mt-1 flex max-h-[42vh] flex-col border border-rule">
            <DataTable
              label="Proposal"
              items={places}
              columns={columnsFor(proposal, chosen, choose)}
              idOf={({ turnoutId }) => turnoutId}
            />
          </div>
        </>
      )}
      <div className="mt-4 flex gap-2">
        {places.length > 0 && (
          <Button look="best" disabled={chosen.size === 0} onClick={accept}>
            {every ? "Accept all" : `Accept ${chosen.size} of ${places.length}`}
          </Button>
        )}
        <Button onClick={back}>Back</Button>
      </div>
    </>
  );
}

function proposalWords({ places, boards, away }: Proposal): string {
  if (places.length === 0) return "Every turnout that could be given a driver has one.";
  const fresh = boards.filter(({ deviceId }) => deviceId === null).length;
  const on = fresh === 0 ? "on boards that are there" : `with ${count(fresh, "new board")}`;
  const other = away > 0 ? `; ${count(away, "output")} of another zone than their board` : "";
  return `${count(places.length, "turnout or pair", "turnouts and pairs")} ${on}${other}.`;
}

function columnsFor(
  { boards }: Proposal,
  chosen: ReadonlySet<string>,
  choose: (chosen: ReadonlySet<string>) => void,
): DataColumn<Placement>[] {
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    choose(next);
  };
  const output = ({ board, ways }: Placement) =>
    ways.map((way) => (way === null ? boards[board]?.label : `${boards[board]?.label}-${way}`)).join(", ");
  return [
    {
      ...{ id: "accept", title: "Accept", untitled: true, width: 34 },
      cell: ({ turnoutId, label }) => (
        <Checkbox label={`Accept ${label}`} checked={chosen.has(turnoutId)} onChange={() => toggle(turnoutId)} />
      ),
    },
    {
      ...{ id: "turnout", title: "Turnout", value: ({ label }) => label },
      cell: ({ label }) => <b className="font-semibold">{label}</b>,
    },
    {
      ...{ id: "zone", title: "Zone", value: ({ zone }) => zone },
      cell: ({ zone, away }) => (
        <>
          {zone} {away && <span className="text-ink-2">(away)</span>}
        </>
      ),
    },
    { id: "output", title: "Output", mono: true, value: output },
    { id: "address", title: "Address", figures: true, value: ({ address }) => address },
    {
      ...{ id: "board", title: "Board", wraps: true },
      value: ({ board }) => {
        const { deviceId, fedBy, typeName } = boards[board] ?? {};
        return `${deviceId === null ? "new" : "there"}${fedBy ? `, fed by ${fedBy}` : ""}: ${typeName ?? ""}`;
      },
    },
  ];
}
