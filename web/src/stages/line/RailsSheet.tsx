import {
  count,
  countJoints,
  type InsulatedJoint,
  insulatedJoints,
  nameOfPoint,
  pointsOf,
  type RailwayRecord,
  setGap,
} from "@alderman/core";
import { useMemo, useState } from "react";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Toolbar } from "../../kit/Toolbar.tsx";
import type { useEdit } from "../../session/useEdit.ts";
import { FrogsTable } from "./FrogsTable.tsx";

const WHY = { frog: "live frog", turns: "turns trains", block: "edge of a block" } as const;

/** What the rails have to be: where they are parted, and which rail each frog carries. */
export function RailsSheet({ record, edit }: { record: RailwayRecord; edit: ReturnType<typeof useEdit> }) {
  const [side, setSide] = useState<"frogs" | "joints">("frogs");
  const joints = useMemo(() => insulatedJoints(record), [record]);
  const wanting = joints.filter(({ made }) => !made);
  return (
    <>
      <Toolbar label="Rails">
        <Segmented
          size="small"
          label="What of the rails"
          value={side}
          segments={[
            { value: "frogs", text: "Frogs" },
            { value: "joints", text: "Insulated joints" },
          ]}
          onChange={setSide}
        />
        <span className="flex-1 text-ink-2">
          {side === "joints" &&
            `${count(countJoints(joints), "joint")} of single rails${wanting.length > 0 ? `, ${countJoints(wanting)} still to make` : ""}`}
        </span>
      </Toolbar>
      {side === "frogs" ? <FrogsTable record={record} /> : <JointsTable record={record} joints={joints} edit={edit} />}
    </>
  );
}

function JointsTable({
  record,
  joints,
  edit,
}: {
  record: RailwayRecord;
  joints: readonly InsulatedJoint[];
  edit: ReturnType<typeof useEdit>;
}) {
  const idOf = (joint: InsulatedJoint) => `${joint.why} ${joint.where} ${joint.stretch.index} ${joint.step}`;
  return (
    <div className="grid min-h-0 flex-1">
      <DataTable<InsulatedJoint>
        label="Insulated joints"
        items={joints}
        idOf={idOf}
        empty="Nothing has to be parted."
        columns={[
          { id: "where", title: "Where", wraps: true, value: ({ where }) => where },
          { id: "at", title: "At", width: 64, value: (joint) => nameOfPoint(pointsOf(joint)[0]) },
          { id: "rails", title: "Rails", width: 56, value: ({ rails }) => (rails === "both" ? "both" : "one") },
          { id: "why", title: "For", width: 96, value: ({ why }) => WHY[why] },
          {
            ...{ id: "made", title: "Made", width: 84 },
            cell: (joint) =>
              joint.made ? (
                "yes"
              ) : (
                <Button
                  size="small"
                  aria-label={`Part the rails: ${joint.where}`}
                  onClick={() => edit(() => setGap(record, ...pointsOf(joint), joint.rails))}
                >
                  Part it
                </Button>
              ),
          },
        ]}
      />
    </div>
  );
}
