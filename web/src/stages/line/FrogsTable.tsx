import { allFrogs, busSideOf, type FrogNeed, type Junction, lineLayout, type RailwayRecord } from "@alderman/core";
import { DataTable } from "../../kit/DataTable.tsx";

/** Which rail each frog has to carry, as the line lies. */
export function FrogsTable({ record }: { record: RailwayRecord }) {
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <p className="border-b border-rule px-3 py-1.5 text-small text-ink-2">
        Left and right as one faces the points from the toe; front is towards the foot of the sheet. On the left-hand
        route a frog carries the right rail, on the right-hand route the left one.
      </p>
      <div className="grid min-h-0 flex-1">
        <DataTable
          label="Frogs"
          items={allFrogs(lineLayout(record))}
          idOf={({ junction }) => junction.id}
          columns={[
            { id: "turnout", title: "Turnout", width: 90, value: ({ junction }) => junction.turnout?.label ?? "?" },
            {
              id: "n",
              title: "At N it carries",
              cell: ({ junction, needs: [normal] }) => words(record, junction, normal),
            },
            {
              id: "r",
              title: "At R it carries",
              cell: ({ junction, needs: [, reverse] }) => words(record, junction, reverse),
            },
          ]}
        />
      </div>
    </div>
  );
}

function words(record: RailwayRecord, junction: Junction, { rail, edge }: FrogNeed): string {
  const wire = busSideOf(record, junction, rail);
  const where = edge === "front" || edge === "rear" ? `the ${edge} one` : `${edge} on the sheet`;
  return `the ${rail} rail, ${where}${wire ? `: ${wire}` : ""}`;
}
