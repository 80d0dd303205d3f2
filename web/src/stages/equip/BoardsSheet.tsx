import { amps } from "@alderman/core";
import { memo } from "react";
import { Mark } from "../../parts/Mark.tsx";
import { Sheet } from "../../parts/Sheet.tsx";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { showBoards } from "../../store/view.ts";
import { type BoardEntry, boardKind, isDrawnAlike, useBoards, Ways, WithDialogs, worstOf } from "./Boards.tsx";
import { useDrop } from "./Outputs.tsx";

/** Boards and supplies below the list: ways used and free, what they give at rest, while all move, and at most. */
export function BoardsSheet() {
  const entries = useBoards();
  const shown = useAppSelector((state) => state.view.boards);
  const dispatch = useAppDispatch();
  return (
    <WithDialogs entries={entries}>
      {(open, add) => (
        <Sheet
          title="Boards and supplies"
          about="drop a turnout on a board, or move it in the Driver column with Alt and the arrows"
          actions={
            <>
              <button type="button" className="btn" onClick={add}>
                Add board
              </button>
              <button type="button" className="btn" aria-expanded={shown} onClick={() => dispatch(showBoards(!shown))}>
                {shown ? "Fold" : "Unfold"}
              </button>
            </>
          }
        >
          {shown && (
            <div className="scroll max-h-[23vh]">
              {entries.length === 0 ? (
                <p className="quiet p-3">None yet. Allot proposes them, or add one.</p>
              ) : (
                <table className="list" aria-label="Boards and supplies">
                  <thead>
                    <tr>
                      <th>Board</th>
                      <th>Kind</th>
                      <th>Ways</th>
                      <th className="!text-right">Free</th>
                      <th className="!text-right">At rest</th>
                      <th className="!text-right">All moving</th>
                      <th className="!text-right">At most</th>
                      <th className="!pr-3 !text-right">May give</th>
                    </tr>
                  </thead>
                  <tbody>
                    {entries.map((entry) => (
                      <BoardLine key={entry.device.id} {...entry} open={open} />
                    ))}
                  </tbody>
                </table>
              )}
            </div>
          )}
        </Sheet>
      )}
    </WithDialogs>
  );
}

/** Share of what it may give from which a load is worth a look (common practice). */
const LOOK_SHARE = 0.8;

const BoardLine = memo(function BoardLine({
  device,
  type,
  load,
  used,
  open,
}: BoardEntry & { open: (deviceId: string) => void }) {
  const { over, ...drop } = useDrop(device.id, null);
  const limit = (type.family === "supply" ? type.figures.ratedAmps?.value : type.figures.boardAmps?.value) ?? null;
  const worst = load ? worstOf(load) : null;
  const share = worst !== null && limit ? worst / limit : 0;
  return (
    <tr className={over ? "drop-here" : ""} {...drop}>
      <td>
        <button
          type="button"
          className="mono font-bold underline decoration-rule-2 underline-offset-3"
          onClick={() => open(device.id)}
        >
          {device.label}
        </button>
      </td>
      <td>{type.family === "supply" ? type.short : boardKind(type)}</td>
      <td>
        {used.length > 0 && (
          <span className="inline-flex items-center gap-2">
            <Ways used={used} />
          </span>
        )}
      </td>
      <td className="mono text-right">{used.length > 0 && used.filter((each) => !each).length}</td>
      <td className="mono text-right">{load && amps(load.rest)}</td>
      <td className="mono text-right">{load && amps(load.moving)}</td>
      <td className="mono text-right">
        {share > LOOK_SHARE && <Mark verdict={share > 1 ? "wrong" : "doubtful"} size={13} />}{" "}
        {worst !== null && amps(worst)}
      </td>
      <td className="mono !pr-3 text-right">{limit !== null && limit > 0 && amps(limit)}</td>
    </tr>
  );
}, isDrawnAlike);
