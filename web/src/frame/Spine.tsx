import { useDeferredValue, useMemo } from "react";
import { Link, useLocation } from "react-router";
import { checkAgain, useResults } from "../derivation/hooks.ts";
import type { Share } from "../derivation/shares.ts";
import { Badge } from "../kit/Badge.tsx";
import { Tip } from "../kit/Tooltip.tsx";
import { useRecord, useSession } from "../session/hooks.ts";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { setTheme } from "../store/view.ts";
import { time } from "../tools/when.ts";
import type { Panel } from "./commands.ts";
import { STAGES, type Stage } from "./stages.ts";

const FOOT = "font-head text-button font-semibold text-on-bottle hover:underline";

/** The stages along one copper conductor; its length in each stage is that stage's share done. */
export function Spine({ railwayId, open }: { railwayId: string; open: (panel: Panel) => void }) {
  const session = useSession();
  const theme = useAppSelector((state) => state.view.theme);
  const dispatch = useAppDispatch();
  const { pathname } = useLocation();
  const results = useResults();
  const shares = useShares();
  const name = session?.record?.railway.name ?? "";
  return (
    <nav
      aria-label="Stages"
      className="flex min-h-0 flex-col bg-bottle text-on-bottle [&_:focus-visible]:-outline-offset-3 [&_:focus-visible]:outline-[#8fc0ff] max-[699px]:flex-row max-[699px]:flex-wrap"
    >
      <Tip text={`${name}: settings of the railway`}>
        <button
          type="button"
          className="h-16 flex-none px-2 pl-3 pt-3.25 text-left font-head text-[19px] leading-none font-bold max-[699px]:h-13 max-[699px]:pt-2"
          onClick={() => open("railway")}
        >
          Alderman
          <small className="mt-1 block truncate font-body text-note font-normal text-on-bottle-2">{name}</small>
        </button>
      </Tip>
      {/* on a phone below the name and the links, all in sight */}
      <div className="contents max-[699px]:order-last max-[699px]:flex max-[699px]:w-full max-[699px]:overflow-x-auto">
        {[...shares].map(([{ path, title }, share]) => (
          <StageLink
            key={path}
            to={`/r/${railwayId}/${path}`}
            title={title}
            share={share}
            on={pathname.endsWith(`/${path}`)}
          />
        ))}
      </div>
      <div className="mt-auto grid justify-items-start gap-1.25 border-t border-bottle-rule px-3 pt-2 pb-3 text-note text-on-bottle-2 max-[699px]:mt-0 max-[699px]:flex max-[699px]:min-w-0 max-[699px]:flex-1 max-[699px]:items-center max-[699px]:gap-3 max-[699px]:overflow-x-auto max-[699px]:whitespace-nowrap max-[699px]:border-0 max-[699px]:py-0">
        {STAGES.map(
          ({ path, title, foot }) =>
            foot && (
              <Link key={path} className={FOOT} to={`/r/${railwayId}/${path}`}>
                {title} {(foot(results) ?? 0) > 0 && <Badge count={foot(results) ?? 0} />}
              </Link>
            ),
        )}
        <Link className={FOOT} to="/quick-sums">
          Quick sums
        </Link>
        <Link className={FOOT} to="/railways">
          Railways
        </Link>
        <button type="button" className={FOOT} onClick={() => open("history")}>
          History
        </button>
        <button type="button" className={FOOT} onClick={() => dispatch(setTheme(theme === "bench" ? "shed" : "bench"))}>
          {theme === "bench" ? "Shed (dark)" : "Bench (light)"}
        </button>
        <button type="button" className={FOOT} onClick={() => open("keys")}>
          Keys ?
        </button>
        <SavedWords />
        {results.state === "checking" && results.failure && <span role="status">{results.failure}</span>}
        {results.state === "failed" && (
          <span role="alert">
            Could not be checked: {results.failure}{" "}
            <button type="button" className={`${FOOT} underline`} onClick={() => dispatch(checkAgain())}>
              Check again
            </button>
          </span>
        )}
      </div>
    </nav>
  );
}

/** The stages of the spine with their shares, counted once what was changed is drawn: a club's railway has much to count. */
function useShares(): ReadonlyMap<Stage, Share | null> {
  const { overview, proving } = useDeferredValue(useResults());
  const record = useDeferredValue(useRecord());
  return useMemo(() => {
    const turnouts = record?.turnouts.length ?? 0;
    return new Map(
      STAGES.flatMap((stage): [Stage, Share | null][] =>
        stage.share ? [[stage, stage.share(turnouts, { overview, proving }, record)]] : [],
      ),
    );
  }, [overview, proving, record]);
}

/** Where the latest edits are. */
function SavedWords() {
  const { queue = [], trouble, savedAt, live = true } = useSession() ?? {};
  const waiting = queue.length > 0;
  const words =
    trouble?.kind === "unanswered"
      ? `${waiting ? "Not saved yet, kept in this browser. " : ""}${trouble.sentence} Trying again.`
      : waiting
        ? "Saving ..."
        : savedAt
          ? `Saved ${time(savedAt)} on this machine.`
          : "Saved on this machine.";
  // while the server does not answer at all, that is what matters
  const isOff = !live && trouble?.kind !== "unanswered";
  return (
    <span role="status">
      {isOff ? `${words} Live updates off: other windows are looked at every few seconds.` : words}
    </span>
  );
}

function StageLink({ to, title, share, on }: { to: string; title: string; share: Share | null; on: boolean }) {
  const finished = share !== null && share.of > 0 && share.done >= share.of;
  const length = !share?.of ? 0 : finished ? 66 : 22 + 44 * (share.done / share.of);
  const copper = on ? "var(--copper)" : "#C67A45";
  const hole = on ? "var(--plaster)" : "var(--bottle)";
  return (
    <Link
      to={to}
      {...(on ? { "aria-current": "step" } : {})}
      className={`relative block h-16.5 flex-none pt-2.75 pr-2 pl-9.5 max-[699px]:h-13 max-[699px]:flex-1 max-[699px]:pr-1 max-[699px]:pl-7.5 ${on ? "bg-plaster text-ink" : ""}`}
    >
      <svg width="38" height="66" aria-hidden="true" className="absolute top-0 left-0 max-[699px]:-left-1">
        <path d="M19 0V66" stroke={on ? "var(--rule-2)" : "var(--bottle-rule)"} />
        <path d={`M19 0V${length}`} stroke={copper} strokeWidth="3" />
        <circle cx="19" cy="22" r="7" fill={finished ? copper : hole} stroke={copper} strokeWidth="1.6" />
        <path
          d="M14.4 22H23.6"
          stroke={finished ? hole : copper}
          strokeWidth="1.8"
          transform={finished ? undefined : "rotate(-52 19 22)"}
        />
      </svg>
      <b className="block font-head text-[17px] leading-[1.1] font-semibold max-[699px]:text-[15px]">{title}</b>
      <span className={`font-mono text-note leading-[1.5] ${on ? "text-ink-2" : "text-on-bottle-2"}`}>
        {share ? `${share.done}/${share.of}` : "..."}
        <span className="sr-only"> {share ? share.words : "not counted yet"}</span>
      </span>
    </Link>
  );
}
