import { type Block, blocksOnLine, type RailwayRecord } from "@alderman/core";
import { DataTable } from "../../kit/DataTable.tsx";
import { Tick } from "../../kit/Tick.tsx";
import { useAppDispatch } from "../../store/store.ts";
import { occupy } from "../../store/view.ts";
import type { useLineState } from "./useLineState.ts";
import { watchWords } from "./words.ts";

/** The blocks of the line, with what watches them and where trains stand for this look. */
export function BlocksSheet({
  record,
  state,
  choose,
}: {
  record: RailwayRecord;
  state: ReturnType<typeof useLineState>;
  choose: (markId: string) => void;
}) {
  const dispatch = useAppDispatch();
  const named = blocksOnLine(record)
    .blocks.filter(({ name }) => name !== null)
    .sort((a, b) => (a.name ?? "").localeCompare(b.name ?? "", "en", { numeric: true }));
  return (
    <div className="grid min-h-0 flex-1">
      <DataTable<Block>
        label="Blocks"
        items={named}
        idOf={({ id }) => id}
        onChoose={({ id }) => choose(id)}
        empty="No block has a name yet. With Mark (k) click on track; a block goes as far as the next gaps."
        columns={[
          { id: "name", title: "Block", width: 84, value: ({ name }) => name ?? "" },
          { id: "metres", title: "m", width: 56, value: ({ metres }) => Math.round(metres * 100) / 100 },
          { id: "watched", title: "Watched by", cell: (block) => watchWords(record, block) },
          {
            ...{ id: "train", title: "Train", width: 64 },
            cell: ({ id, name }) => (
              <Tick
                label={`A train is in ${name}`}
                checked={state.occupied.has(id)}
                onChange={(on) => dispatch(occupy({ id, on }))}
              />
            ),
          },
        ]}
      />
    </div>
  );
}
