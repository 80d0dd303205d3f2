import { Columns3 } from "lucide-react";
import type { ReactNode } from "react";
import { IconButton } from "./IconButton.tsx";
import { Input } from "./Input.tsx";
import { ShownMenu } from "./Menu.tsx";
import { Toolbar } from "./Toolbar.tsx";

/** Above a table: what is to be found in it, how much of it is shown, and which columns. */
export function TableBar({
  label,
  bar,
  wanted,
  setWanted,
  words,
  columns,
}: {
  label: string;
  bar: ReactNode;
  wanted: string;
  setWanted: (wanted: string) => void;
  words: string;
  columns: readonly { id: string; text: string; shown: boolean; toggle: (shown: boolean) => void }[];
}) {
  return (
    <Toolbar label={`${label}: find and columns`}>
      {bar}
      <Input
        type="search"
        className="w-40!"
        aria-label={`Find in: ${label}`}
        placeholder="Find"
        value={wanted}
        onChange={(event) => setWanted(event.target.value)}
      />
      <span className="flex-1 text-small text-ink-2" role="status">
        {words}
      </span>
      <ShownMenu
        title="Columns shown"
        trigger={<IconButton icon={Columns3} label={`Columns of: ${label}`} />}
        items={columns}
      />
    </Toolbar>
  );
}
