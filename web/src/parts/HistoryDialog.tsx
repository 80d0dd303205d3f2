import { turnBack } from "../session/actions.ts";
import { useSession } from "../session/hooks.ts";
import { turnsAfter } from "../session/queue.ts";
import { api } from "../store/api.ts";
import { useAppDispatch } from "../store/store.ts";
import { SheetDialog } from "./Dialogs.tsx";
import { dateAndTime } from "./when.ts";

const WORDS = { edit: "", undo: "Undone: ", redo: "Redone: " };

/** What was done, the latest first, with undo and redo. */
export function HistoryDialog({ close }: { close: () => void }) {
  const session = useSession();
  const { undo, redo } = turnsAfter(session?.turns ?? { undo: null, redo: null }, session?.queue ?? []);
  const dispatch = useAppDispatch();
  const { data = [], isLoading } = api.useHistoryQuery(
    { id: session?.id ?? "", revision: session?.confirmed?.revision ?? 0 },
    { refetchOnMountOrArgChange: true },
  );
  return (
    <SheetDialog
      title="History"
      about="Every edit was saved when it was made; each can be undone, also after a restart."
      close={close}
    >
      <div className="mb-3 flex gap-2">
        <button type="button" className="btn" disabled={undo === null} onClick={() => void dispatch(turnBack("undo"))}>
          Undo{undo ? `: ${undo}` : ""}
        </button>
        <button type="button" className="btn" disabled={redo === null} onClick={() => void dispatch(turnBack("redo"))}>
          Redo{redo ? `: ${redo}` : ""}
        </button>
      </div>
      {data.length === 0 && !isLoading && <p className="quiet">Nothing has been changed yet.</p>}
      <table className="list">
        <tbody>
          {data.map((row) => (
            <tr key={row.revision}>
              <td className="num">{row.revision}</td>
              <td className="!whitespace-normal">
                {WORDS[row.origin]}
                {row.words}
              </td>
              <td className="quiet text-right text-[12px]">{dateAndTime(row.at)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </SheetDialog>
  );
}
