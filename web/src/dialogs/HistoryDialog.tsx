import { Redo2, Undo2 } from "lucide-react";
import { Button } from "../kit/Button.tsx";
import { DataTable } from "../kit/DataTable.tsx";
import { Dialog } from "../kit/Dialog.tsx";
import { turnBack } from "../session/actions.ts";
import { useSession } from "../session/hooks.ts";
import { turnsAfter } from "../session/queue.ts";
import { api, sentenceOf } from "../store/api.ts";
import { useAppDispatch } from "../store/store.ts";
import { dateAndTime } from "../tools/when.ts";

const WORDS = { edit: "", undo: "Undone: ", redo: "Redone: " };

/** What was done, the latest first, with undo and redo. */
export function HistoryDialog({ close }: { close: () => void }) {
  const session = useSession();
  const { undo, redo } = turnsAfter(session?.turns ?? { undo: null, redo: null }, session?.queue ?? []);
  const dispatch = useAppDispatch();
  const { data, isLoading, error } = api.useHistoryQuery(
    { id: session?.id ?? "", revision: session?.confirmed?.revision ?? 0 },
    { refetchOnMountOrArgChange: true },
  );
  return (
    <Dialog
      title="History"
      about="Every edit is saved when it is made, and each can be undone, also after a restart."
      close={close}
    >
      <div className="mb-3 flex flex-wrap gap-2">
        <Button disabled={undo === null} onClick={() => dispatch(turnBack("undo"))}>
          <Undo2 size={14} aria-hidden="true" /> Undo{undo ? `: ${undo}` : ""}
        </Button>
        <Button disabled={redo === null} onClick={() => dispatch(turnBack("redo"))}>
          <Redo2 size={14} aria-hidden="true" /> Redo{redo ? `: ${redo}` : ""}
        </Button>
      </div>
      {error ? (
        <p role="alert" className="text-red">
          {sentenceOf(error)}
        </p>
      ) : (
        <DataTable
          flowing
          label="History"
          items={data ?? []}
          idOf={({ revision }) => String(revision)}
          empty={<p className="text-ink-2">{isLoading ? "Being read ..." : "Nothing has been changed yet."}</p>}
          columns={[
            { id: "revision", title: "No.", figures: true, width: 44, value: ({ revision }) => revision },
            { id: "words", title: "What", wraps: true, value: ({ origin, words }) => `${WORDS[origin]}${words}` },
            { id: "at", title: "When", width: 150, cell: ({ at }) => dateAndTime(at), value: ({ at }) => at },
          ]}
        />
      )}
    </Dialog>
  );
}
