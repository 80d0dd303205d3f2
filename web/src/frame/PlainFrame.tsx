import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { setTheme } from "../store/view.ts";
import { MAIN } from "./StageMain.tsx";
import { usePageTitle } from "./usePageTitle.ts";

const PAGES = [
  { path: "/railways", title: "Railways" },
  { path: "/quick-sums", title: "Quick sums" },
];

const FOOT = "font-head text-button font-semibold text-on-bottle hover:underline";

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
    <div className="grid h-screen min-h-[560px] grid-cols-[124px_minmax(0,1fr)] grid-rows-[minmax(0,1fr)] max-[699px]:h-auto max-[699px]:grid-cols-[minmax(0,1fr)] max-[699px]:grid-rows-[auto_1fr]">
      <nav
        aria-label="Pages"
        className="flex min-h-0 flex-col bg-bottle text-on-bottle [&_:focus-visible]:-outline-offset-3 [&_:focus-visible]:outline-[#8fc0ff] max-[699px]:flex-row max-[699px]:overflow-x-auto"
      >
        <div className="h-16 flex-none px-2 pl-3 pt-3.25 font-head text-[19px] leading-none font-bold">
          Alderman
          <small className="mt-1 block font-body text-note font-normal text-on-bottle-2">wired to be proved</small>
        </div>
        {PAGES.map(({ path, title: name }) => {
          const on = pathname.startsWith(path);
          return (
            <Link
              key={path}
              to={path}
              {...(on ? { "aria-current": "page" } : {})}
              className={`block h-11 flex-none px-3 pt-2.75 font-head text-[17px] leading-[1.1] font-semibold ${on ? "bg-plaster text-ink" : ""}`}
            >
              {name}
            </Link>
          );
        })}
        <div className="mt-auto grid justify-items-start gap-1.25 border-t border-bottle-rule px-3 pt-2 pb-3 max-[699px]:mt-0 max-[699px]:flex max-[699px]:border-0 max-[699px]:py-0">
          {waiting.map(({ id, record }) => (
            <Link key={id} className={FOOT} to={`/r/${id}`}>
              Not saved yet: {record?.railway.name ?? "a railway"}
            </Link>
          ))}
          {last && (
            <Link className={FOOT} to={`/r/${last.id}`}>
              Back to {last.name}
            </Link>
          )}
          <button
            type="button"
            className={FOOT}
            onClick={() => dispatch(setTheme(theme === "bench" ? "shed" : "bench"))}
          >
            {theme === "bench" ? "Shed (dark)" : "Bench (light)"}
          </button>
        </div>
      </nav>
      <main className={MAIN}>
        <div className="flex items-center gap-3.5 max-[699px]:flex-wrap">
          <h1>{title}</h1>
          <span className="text-ink-2">{about}</span>
        </div>
        {children}
      </main>
    </div>
  );
}
