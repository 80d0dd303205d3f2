import { openJunctions, placeTurnout, type RailwayRecord } from "@alderman/core";
import { Button } from "../../kit/Button.tsx";
import { SheetBody } from "../../kit/Sheet.tsx";
import { useEdit } from "../../session/useEdit.ts";

/** Turnouts of the list that lie nowhere yet: one that is picked is put where the next blades come into being. */
export function TraySheet({
  record,
  tray,
  picked,
  pick,
}: {
  record: RailwayRecord;
  tray: RailwayRecord["turnouts"];
  picked: string | null;
  pick: (id: string | null) => void;
}) {
  const edit = useEdit();
  const open = openJunctions(record);
  return (
    <SheetBody label="Turnouts in the tray" className="p-3">
      <p className="mb-2 text-ink-2">
        {tray.length === 0
          ? "Every turnout of the list lies on the line."
          : open.length > 0
            ? "Pick one: it goes to the first blades without a turnout."
            : "Pick one: it is put where the next track branches off. Without a pick a new turnout is made."}
      </p>
      <div className="flex flex-wrap gap-1.5">
        {tray.map(({ id, label }) => (
          <Button
            key={id}
            size="small"
            aria-pressed={picked === id}
            look={picked === id ? "best" : "plain"}
            onClick={() => {
              const [first] = open;
              if (first) edit(() => placeTurnout(record, id, first.point, first.second));
              else pick(picked === id ? null : id);
            }}
          >
            {label}
          </Button>
        ))}
      </div>
    </SheetBody>
  );
}
