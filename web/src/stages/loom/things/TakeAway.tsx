import { firmAt, type RailwayRecord, takeAway, wireNames } from "@alderman/core";
import { useState } from "react";
import { Button } from "../../../kit/Button.tsx";
import { AlertDialog } from "../../../kit/Dialog.tsx";
import { useEdit } from "../../../session/useEdit.ts";

/** Takes a strip or cable away, and asks before made wires are left loose by it. */
export function TakeAway({
  record,
  kind,
  thing,
  close,
}: {
  record: RailwayRecord;
  kind: "strip" | "cable";
  thing: { id: string; label: string };
  close: () => void;
}) {
  const act = useEdit();
  const [asking, setAsking] = useState(false);
  const loose = firmAt(record, thing.id);
  const take = () => {
    act(() => takeAway(record, kind, thing.id));
    close();
  };
  return (
    <>
      <Button className="mt-3" onClick={() => (loose.length === 0 ? take() : setAsking(true))}>
        Take {thing.label} away
      </Button>
      {asking && (
        <AlertDialog
          title={`Take ${thing.label} away?`}
          about={`${wireNames(loose)} would be left without it. Nothing of them is forgotten: they are named as loose, and can be moved to where the plan has them then. Undo brings ${thing.label} back.`}
          close={() => setAsking(false)}
          actions={<Button onClick={take}>Take it away</Button>}
        />
      )}
    </>
  );
}
