import type { ReactNode } from "react";
import { Link, useParams } from "react-router";
import { useResults } from "../derivation/hooks.ts";
import { useSession } from "../session/hooks.ts";
import { Mark } from "./Mark.tsx";
import { usePageTitle } from "./usePageTitle.ts";

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
    <main className="main">
      <div className="flex min-w-0 items-center gap-3.5">
        <h1>{title}</h1>
        <span className="quiet truncate">{about}</span>
        <span className="grow" />
        {actions}
        <TitleBlock />
      </div>
      {children}
    </main>
  );
}

function TitleBlock() {
  const { railwayId } = useParams();
  const revision = useSession()?.confirmed?.revision;
  const { overview } = useResults();
  const counted = overview?.findings.filter(({ kept }) => kept === null) ?? [];
  const stops = counted.filter(({ severity }) => severity === "stop").length;
  return (
    <div className="titleblock flex-none">
      <div>
        <i>Revision</i>
        <b>{revision}</b>
      </div>
      <Link to={`/r/${railwayId}/findings`} aria-label={`Findings: ${stops} wrong, ${counted.length - stops} doubtful`}>
        <i>Findings</i>
        <b>
          <Mark verdict="wrong" size={14} />
          {stops} <Mark verdict="doubtful" size={15} />
          {counted.length - stops}
        </b>
      </Link>
    </div>
  );
}

/** A drawn sheet with its heading line. */
export function Sheet({
  title,
  about,
  actions,
  children,
  className = "",
}: {
  title: ReactNode;
  about?: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
  className?: string;
}) {
  return (
    <section className={`sheet ${className}`}>
      <header>
        <h2>{title}</h2>
        {about && <span className="quiet truncate text-[12px]">{about}</span>}
        <span className="grow" />
        {actions}
      </header>
      {children}
    </section>
  );
}
