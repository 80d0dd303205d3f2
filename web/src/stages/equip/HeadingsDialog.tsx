import { COLUMNS, count, type Mapping, unknownHeadings } from "@alderman/core";
import { useState } from "react";
import { Button } from "../../kit/Button.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { Dialog } from "../../kit/Dialog.tsx";
import { FormGrid } from "../../kit/Field.tsx";

/** What each heading of a table that the list does not know stands for, before the table is taken in. */
export function HeadingsDialog({
  cells,
  take,
  close,
}: {
  cells: readonly (readonly string[])[];
  /** Takes the table in. */
  take: (mapping: Mapping) => void;
  close: () => void;
}) {
  const headings = unknownHeadings(cells[0] ?? []);
  const [mapping, setMapping] = useState<Mapping>(Object.fromEntries(headings.map((heading) => [heading, null])));
  const options = [
    { value: null, text: "leave out" },
    ...COLUMNS.map(({ id, title }) => ({ value: id as string | null, text: title })),
  ];
  const example = (heading: string) => {
    const at = (cells[0] ?? []).indexOf(heading);
    return cells.slice(1).find((row) => row[at]?.trim())?.[at] ?? "";
  };
  return (
    <Dialog
      title="What do these columns hold?"
      about={`The list does not know ${count(headings.length, "heading")} of the table. Say what each stands for, or leave it out.`}
      close={close}
    >
      <FormGrid>
        {headings.map((heading) => (
          <Heading key={heading} heading={heading} example={example(heading)}>
            <Choice
              label={`Column for ${heading}`}
              value={mapping[heading] ?? null}
              options={options}
              onChange={(column) => setMapping({ ...mapping, [heading]: column })}
            />
          </Heading>
        ))}
      </FormGrid>
      <Button className="mt-4" look="best" onClick={() => take(mapping)}>
        Take the table in
      </Button>
    </Dialog>
  );
}

function Heading({ heading, example, children }: { heading: string; example: string; children: React.ReactNode }) {
  return (
    <>
      <span>
        {heading} {example && <span className="text-small text-ink-2">as {example}</span>}
      </span>
      {children}
    </>
  );
}
