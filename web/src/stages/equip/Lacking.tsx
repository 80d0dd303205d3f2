import { COLUMNS, type Turnout } from "@alderman/core";
import { useOverview } from "../../derivation/hooks.ts";
import { Mark } from "../../drawing/Mark.tsx";
import { verdictFor } from "../../drawing/verdict.ts";
import { Clear } from "../../findings/Checked.tsx";
import { Button } from "../../kit/Button.tsx";
import { Tip } from "../../kit/Tooltip.tsx";

/** What is said of the current turnout, below the list: what it lacks or what is wrong, and the way to the cell. */
export function Lacking({ turnout, go }: { turnout: Turnout; go: (column: string) => void }) {
  const overview = useOverview();
  const leader = turnout.movesWith ?? turnout.id;
  const own = overview?.findings.filter(({ kept, turnoutIds }) => kept === null && turnoutIds.includes(leader)) ?? [];
  const [first] = own;
  const title = COLUMNS.find(({ id }) => id === first?.column)?.title;
  return (
    <div className="flex min-h-9 items-center gap-2 border-t border-rule px-3 py-1.5" role="status">
      {first ? (
        <>
          <Mark verdict={first.ruleId === "turnout-incomplete" ? "open" : verdictFor(first.severity)} size={15} />
          <Tip text={first.why}>
            <span className="min-w-0 flex-1 truncate">{first.why}</span>
          </Tip>
          {own.length > 1 && <span className="flex-none text-ink-2">and {own.length - 1} more</span>}
          {first.column && title && (
            <Button size="small" className="flex-none" onClick={() => go(first.column ?? "label")}>
              Go to {title}
            </Button>
          )}
        </>
      ) : (
        <Clear>
          <Mark verdict="good" size={15} />{" "}
          <span className="text-ink-2">{turnout.label} is complete, and all checks are clear.</span>
        </Clear>
      )}
    </div>
  );
}
