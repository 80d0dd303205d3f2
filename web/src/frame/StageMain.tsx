import type { ReactNode } from "react";
import { Link, useParams } from "react-router";
import { useResults } from "../derivation/hooks.ts";
import { Mark } from "../drawing/Mark.tsx";
import { useSession } from "../session/hooks.ts";
import { usePageTitle } from "./usePageTitle.ts";

/** How the part of the page beside the spine is laid out: a heading line, and the sheets below it. */
export const MAIN =
  "grid min-w-0 grid-cols-[minmax(0,1fr)] grid-rows-[48px_minmax(0,1fr)] px-2.5 pb-2.5 max-[699px]:grid-rows-[auto_auto] max-[699px]:gap-2 max-[699px]:pt-2";

/** The part of the frame that a stage fills: its title, the title block, and its sheets. */
export function StageMain({
  title,
  about,
  actions,
  children,
}: {
  title: string;
  about: string;
  actions?: ReactNode;
  children: ReactNode;
}) {
  usePageTitle(title);
  return (
    <main className={MAIN} tabIndex={-1}>
      <div className="flex min-w-0 items-center gap-3 max-[699px]:flex-wrap">
        <h1>{title}</h1>
        <span className="min-w-0 flex-1 text-small leading-[1.25] text-ink-2 max-[699px]:min-w-40">{about}</span>
        {actions}
        <TitleBlock />
      </div>
      {children}
    </main>
  );
}

const CELL = "border-r border-rule-2 px-2.5 text-left leading-[1.15]";

function TitleBlock() {
  const { railwayId } = useParams();
  const revision = useSession()?.confirmed?.revision;
  const { overview, state } = useResults();
  const counted = overview?.findings.filter(({ kept }) => kept === null) ?? [];
  const stops = counted.filter(({ severity }) => severity === "stop").length;
  const looks = counted.filter(({ severity }) => severity === "look").length;
  const words = !overview
    ? state === "failed"
      ? "Findings: could not be checked"
      : "Findings: being checked"
    : `Findings: ${stops} wrong, ${looks} doubtful${state === "checked" || state === "known" ? "" : overview.partial ? " so far" : ", of the state before"}`;
  return (
    <div className="flex flex-none border-l border-rule-2">
      <div className={CELL}>
        <i className="block font-head text-[11px] leading-[1.2] text-ink-2 not-italic">Revision</i>
        <b className="text-label font-medium">{revision}</b>
      </div>
      <Link to={`/r/${railwayId}/findings`} aria-label={words} className={CELL}>
        <i className="block font-head text-[11px] leading-[1.2] text-ink-2 not-italic">Findings</i>
        <b className="inline-flex items-center gap-1 text-label font-medium">
          {overview ? (
            <>
              <Mark verdict="wrong" size={14} />
              {stops} <Mark verdict="doubtful" size={15} />
              {looks}
              {overview.partial && " ..."}
            </>
          ) : (
            <>
              <Mark verdict={state === "failed" ? "stale" : "open"} size={14} /> {state === "failed" ? "?" : "..."}
            </>
          )}
        </b>
      </Link>
    </div>
  );
}
