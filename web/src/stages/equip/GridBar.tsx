import { count, MOST_CHARACTERS } from "@alderman/core";
import type { Look } from "./gridRows.ts";

const SHOW = { all: "all", open: "not finished", findings: "with findings" } as const;

/** What is shown of the list, and how. */
export function GridBar({
  look,
  set,
  shown,
  all,
}: {
  look: Look;
  set: (look: Look) => void;
  shown: number;
  all: number;
}) {
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule px-3 py-1.5">
      <input
        type="search"
        className="field !w-44"
        aria-label="Find in the list"
        placeholder="Find in the list"
        value={look.text}
        onChange={(event) => set({ ...look, text: event.target.value })}
      />
      <fieldset className="seg small" aria-label="Show">
        {(Object.keys(SHOW) as Look["show"][]).map((each) => (
          <button
            key={each}
            type="button"
            aria-pressed={look.show === each}
            onClick={() => set({ ...look, show: each })}
          >
            {SHOW[each]}
          </button>
        ))}
      </fieldset>
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="size-4 accent-[var(--copper)]"
          checked={look.grouped}
          onChange={(event) => set({ ...look, grouped: event.target.checked })}
        />
        By zone
      </label>
      <span className="quiet text-[12px]" role="status">
        {shown === all ? count(all, "turnout") : `${shown} of ${count(all, "turnout")}`}
      </span>
    </div>
  );
}

/** Opens a table from the disk. */
export function TakeInButton({ takeIn, refuse }: { takeIn: (text: string) => void; refuse: (why: string) => void }) {
  const openFile = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > MOST_CHARACTERS)
      refuse(
        `Nothing was taken in. ${file.name} has ${Math.round(file.size / 1e6)} MB; a table may have ${MOST_CHARACTERS / 1e6} MB.`,
      );
    else takeIn(await file.text());
  };
  return (
    <label className="btn cursor-pointer focus-within:outline-3 focus-within:outline-focus">
      Take in CSV
      <input
        type="file"
        accept=".csv,.tsv,.txt,text/csv"
        className="sr-only"
        onChange={(event) => {
          void openFile(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
    </label>
  );
}
