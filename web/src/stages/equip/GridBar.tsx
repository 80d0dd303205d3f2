import { count, MOST_CHARACTERS } from "@alderman/core";
import { Columns3, Upload } from "lucide-react";
import { memo } from "react";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { FileButton } from "../../kit/FileButton.tsx";
import { IconButton } from "../../kit/IconButton.tsx";
import { Input } from "../../kit/Input.tsx";
import { ShownMenu } from "../../kit/Menu.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Toolbar } from "../../kit/Toolbar.tsx";
import { isShownAlike, type Look, type Shown } from "./gridTable.ts";

const SHOW = [
  { value: "all", text: "all" },
  { value: "open", text: "not finished" },
  { value: "findings", text: "with findings" },
] as const;

interface BarProps extends Shown {
  set: (look: Look) => void;
  /** How many turnouts are shown, and how many there are. */
  shown: number;
  all: number;
}

/** What is shown of the list, and how. */
export const GridBar = memo(function GridBar({ look, set, table, shown, all }: BarProps) {
  return (
    <Toolbar label="What is shown of the list">
      <Input
        type="search"
        className="w-44!"
        aria-label="Find in the list"
        placeholder="Find in the list"
        value={look.text}
        onChange={(event) => set({ ...look, text: event.target.value })}
      />
      <Segmented
        size="small"
        label="Show"
        value={look.show}
        segments={SHOW}
        onChange={(show) => set({ ...look, show })}
      />
      <Checkbox checked={look.grouped} onChange={(grouped) => set({ ...look, grouped })}>
        By zone
      </Checkbox>
      <span className="flex-1 text-small text-ink-2" role="status">
        {shown === all ? count(all, "turnout") : `${shown} of ${count(all, "turnout")}`}
      </span>
      <ShownMenu
        title="Columns shown"
        trigger={<IconButton icon={Columns3} label="Columns of the list" />}
        items={table
          .getAllLeafColumns()
          .filter((column) => column.getCanHide())
          .map((column) => ({
            id: column.id,
            text: String(column.columnDef.header),
            shown: column.getIsVisible(),
            toggle: (next) => column.toggleVisibility(next),
          }))}
      />
    </Toolbar>
  );
}, isShownAlike);

/** Opens a table from the disk. */
export function ImportButton({
  importText,
  refuse,
}: {
  importText: (text: string) => void;
  refuse: (why: string) => void;
}) {
  const open = async (file: File) => {
    if (file.size > MOST_CHARACTERS) {
      const [has, may] = [Math.round(file.size / 1e6), MOST_CHARACTERS / 1e6];
      refuse(`Nothing was imported. ${file.name} has ${has} MB; a table may have ${may} MB.`);
    } else importText(await file.text());
  };
  return (
    <FileButton accept=".csv,.tsv,.txt,text/csv" onFile={(file) => void open(file)}>
      <Upload size={14} aria-hidden="true" /> Import CSV
    </FileButton>
  );
}
