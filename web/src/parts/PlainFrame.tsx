import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { setTheme } from "../store/view.ts";
import { usePageTitle } from "./usePageTitle.ts";

const PAGES = [
  { path: "/railways", title: "Railways" },
  { path: "/quick-sums", title: "Quick sums" },
];

/** The frame of pages that belong to no railway: the spine's head with these pages only. */
export function PlainFrame({ title, about, children }: { title: string; about: string; children: ReactNode }) {
  usePageTitle(title);
  const { pathname } = useLocation();
  const last = useAppSelector((state) => state.view.lastRailway);
  const byId = useAppSelector((state) => state.sessions.byId);
  const waiting = Object.values(byId).filter(({ queue }) => queue.length > 0);
  const theme = useAppSelector((state) => state.view.theme);
  const dispatch = useAppDispatch();
  return (
    <div className="frame !grid-cols-[124px_minmax(0,1fr)]">
      <nav className="spine" aria-label="Pages">
        <div className="brand">
          Alderman
          <small>wired to be proved</small>
        </div>
        {PAGES.map(({ path, title: name }) => (
          <Link
            key={path}
            className="stage !h-11 !pl-3"
            to={path}
            {...(pathname.startsWith(path) ? { "aria-current": "page" } : {})}
          >
            <b>{name}</b>
          </Link>
        ))}
        <div className="foot">
          {waiting.map(({ id, record }) => (
            <Link key={id} to={`/r/${id}`}>
              Not saved yet: {record?.railway.name ?? "a railway"}
            </Link>
          ))}
          {last && <Link to={`/r/${last.id}`}>Back to {last.name}</Link>}
          <button type="button" onClick={() => dispatch(setTheme(theme === "bench" ? "shed" : "bench"))}>
            {theme === "bench" ? "Shed (dark)" : "Bench (light)"}
          </button>
        </div>
      </nav>
      <main className="main">
        <div className="flex items-center gap-3.5">
          <h1>{title}</h1>
          <span className="quiet">{about}</span>
        </div>
        {children}
      </main>
    </div>
  );
}
