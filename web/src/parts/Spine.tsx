import { Link, useLocation } from "react-router";
import { useResults, useShares } from "../derivation/hooks.ts";
import type { Share } from "../derivation/sharesOf.ts";
import { useSession } from "../session/hooks.ts";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { setTheme } from "../store/view.ts";
import type { Panel } from "../useKeys.ts";
import { time } from "./when.ts";

const STAGES = [
  { path: "equip", title: "Equip" },
  { path: "loom", title: "Loom" },
  { path: "numbers", title: "Numbers" },
  { path: "prove", title: "Prove" },
] as const;

/** The stages along one copper conductor; its length in each stage is that stage's share done. */
export function Spine({ railwayId, open }: { railwayId: string; open: (panel: Panel) => void }) {
  const session = useSession();
  const { record, queue = [], savedAt, trouble } = session ?? {};
  const theme = useAppSelector((state) => state.view.theme);
  const dispatch = useAppDispatch();
  const { pathname } = useLocation();
  const { failure, openEnds } = useResults();
  const shares = useShares();
  const saved = savedAt ? `Saved ${time(savedAt)} on this machine.` : "Saved on this machine.";
  return (
    <nav className="spine" aria-label="Stages">
      <button type="button" className="brand" onClick={() => open("railway")} title="Railway's settings">
        Alderman
        <small>{record?.railway.name}</small>
      </button>
      {STAGES.map(({ path, title }) => (
        <Stage
          key={path}
          to={`/r/${railwayId}/${path}`}
          title={title}
          share={shares[path]}
          on={pathname.endsWith(`/${path}`)}
        />
      ))}
      <div className="foot">
        <Link to={`/r/${railwayId}/open-ends`}>
          Open ends {openEnds !== null && openEnds > 0 && <b className="mono">{openEnds}</b>}
        </Link>
        <Link to="/quick-sums">Quick sums</Link>
        <Link to="/railways">Railways</Link>
        <button type="button" onClick={() => open("history")}>
          History
        </button>
        <button type="button" onClick={() => dispatch(setTheme(theme === "bench" ? "shed" : "bench"))}>
          {theme === "bench" ? "Shed (dark)" : "Bench (light)"}
        </button>
        <button type="button" onClick={() => open("keys")}>
          Keys ?
        </button>
        <span role="status">
          {trouble?.kind === "unanswered"
            ? `${queue.length > 0 ? "Not saved yet: " : ""}${trouble.sentence} Trying again.`
            : queue.length > 0
              ? "Saving ..."
              : saved}
        </span>
        {failure && <span role="alert">Could not be worked out: {failure}</span>}
      </div>
    </nav>
  );
}

function Stage({ to, title, share, on }: { to: string; title: string; share: Share; on: boolean }) {
  const finished = share.of > 0 && share.done >= share.of;
  const length = share.of === 0 ? 0 : finished ? 66 : 22 + 44 * (share.done / share.of);
  const copper = on ? "var(--copper)" : "#C67A45";
  const hole = on ? "var(--plaster)" : "var(--bottle)";
  return (
    <Link className="stage" to={to} {...(on ? { "aria-current": "step" } : {})}>
      <svg width="38" height="66" aria-hidden="true">
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
      <b>{title}</b>
      <span>
        {share.done}/{share.of}
        <span className="sr-only"> {share.words}</span>
      </span>
    </Link>
  );
}
