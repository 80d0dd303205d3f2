import { bytes, count, type HistoryRow, type HistorySize } from "@alderman/core";
import { Redo2, Undo2 } from "lucide-react";
import { useState } from "react";
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

/** What of a history is packed, as the end of a sentence. */
const packedWords = ({ packed }: HistorySize) =>
  packed > 0 ? `; all but the latest are packed, and can be undone all the same` : "";

/** What was done, the latest first, with undo and redo. */
export function HistoryDialog({ close }: { close: () => void }) {
  const session = useSession();
  const { undo, redo } = turnsAfter(session?.turns ?? { undo: null, redo: null }, session?.queue ?? []);
  const dispatch = useAppDispatch();
  const id = session?.id ?? "";
  const revision = session?.confirmed?.revision ?? 0;
  const { data, isLoading, error } = api.useHistoryQuery({ id, revision }, { refetchOnMountOrArgChange: true });
  const { data: size } = api.useHistorySizeQuery({ id, revision }, { refetchOnMountOrArgChange: true });
  const [earlier, setEarlier] = useState<HistoryRow[]>([]);
  const [load, { isFetching }] = api.useLazyHistoryQuery();
  const last = earlier.at(-1) ?? data?.at(-1);
  // what was shown before something was done meanwhile may be in both
  const first = data?.at(-1)?.revision ?? 0;
  const rows = [...(data ?? []), ...earlier.filter((row) => row.revision < first)];
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
          items={rows}
          idOf={({ revision }) => String(revision)}
          empty={<p className="text-ink-2">{isLoading ? "Being read ..." : "Nothing has been changed yet."}</p>}
          columns={[
            { id: "revision", title: "No.", figures: true, width: 44, value: ({ revision }) => revision },
            { id: "words", title: "What", wraps: true, value: ({ origin, words }) => `${WORDS[origin]}${words}` },
            { id: "at", title: "When", width: 150, cell: ({ at }) => dateAndTime(at), value: ({ at }) => at },
          ]}
        />
      )}
      <p className="mt-3 flex flex-wrap items-center gap-3 text-small text-ink-2">
        {last && last.revision > 1 && (
          <Button
            size="small"
            disabled={isFetching}
            onClick={async () => {
              const { data: more } = await load({ id, revision, before: last.revision });
              setEarlier([...earlier, ...(more ?? [])]);
            }}
          >
            Show earlier ones
          </Button>
        )}
        {size && size.groups > 0 && `${count(size.groups, "change")} kept, ${bytes(size.bytes)}${packedWords(size)}`}
      </p>
    </Dialog>
  );
}
