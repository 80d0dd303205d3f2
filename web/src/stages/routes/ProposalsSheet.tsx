import { addRoutes, count, proposedRoutes, type RailwayRecord } from "@alderman/core";
import { useMemo } from "react";
import { Button } from "../../kit/Button.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { useEdit } from "../../session/useEdit.ts";

/** The routes that the line offers by itself: the roads of each yard, from one end or from both. */
export function ProposalsSheet({ record }: { record: RailwayRecord }) {
  const edit = useEdit();
  const { tracks, spots, marks, turnouts } = record;
  // biome-ignore lint/correctness/useExhaustiveDependencies: what proposals follow from; the rest of the record is nothing to them
  const proposals = useMemo(() => proposedRoutes(record), [tracks, spots, marks, turnouts]);
  const labels = new Set(record.routes.map(({ label }) => label.toLowerCase()));
  return (
    <Sheet title="From the line" about="the roads of each yard">
      <SheetBody label="Routes that the line offers" still>
        {proposals.length === 0 && (
          <p className="p-3 text-ink-2">
            The line has no yard of three roads or more yet. Lay one on the line diagram, or say by hand how the
            turnouts of a route lie.
          </p>
        )}
        {proposals.map(({ name, routes }) => {
          const missing = routes.filter(({ label }) => !labels.has(label.toLowerCase()));
          return (
            <div key={name} className="flex items-center gap-2 border-b border-rule px-3 py-1.5">
              <span className="min-w-0 flex-1">
                <b>{name}</b>, {count(routes.length, "road")}
                <span className="block truncate text-small text-ink-2">
                  {routes.map(({ label }) => label).join(", ")}
                </span>
              </span>
              <Button
                size="small"
                disabled={missing.length === 0}
                onClick={() => edit(() => addRoutes(record, missing))}
              >
                {missing.length === 0 ? "Taken" : "Take"}
              </Button>
            </div>
          );
        })}
      </SheetBody>
    </Sheet>
  );
}
