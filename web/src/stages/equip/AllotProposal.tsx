import { count, type Proposal } from "@alderman/core";
import { Mark } from "../../parts/Mark.tsx";

/** What was proposed, to be accepted in whole or in part. */
export function AllotProposal({
  proposal,
  chosen,
  choose,
  back,
  accept,
}: {
  proposal: Proposal;
  chosen: ReadonlySet<string>;
  choose: (chosen: ReadonlySet<string>) => void;
  back: () => void;
  accept: () => void;
}) {
  const { places, boards, stopped, away } = proposal;
  const fresh = boards.filter(({ deviceId }) => deviceId === null);
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    choose(next);
  };
  return (
    <>
      <p>
        {places.length === 0
          ? "Every turnout that could be given a driver has one."
          : `${count(places.length, "turnout or pair", "turnouts and pairs")} ${fresh.length === 0 ? "on boards that are there" : `with ${count(fresh.length, "new board")}`}${away > 0 ? `; ${count(away, "output")} of another zone than their board` : ""}.`}
      </p>
      {stopped.map(({ turnoutId, label, why }) => (
        <p key={turnoutId} className="mt-1 flex gap-2">
          <Mark verdict="wrong" size={15} />
          <span>
            <b>{label}</b>: {why}
          </span>
        </p>
      ))}
      {places.length > 0 && (
        <div className="mt-2 max-h-[46vh] overflow-auto border border-rule">
          <table className="list" aria-label="Proposal">
            <thead>
              <tr>
                <th>
                  <input
                    type="checkbox"
                    aria-label="All"
                    className="size-4 accent-[var(--copper)]"
                    checked={chosen.size === places.length}
                    onChange={() =>
                      choose(
                        chosen.size === places.length ? new Set() : new Set(places.map(({ turnoutId }) => turnoutId)),
                      )
                    }
                  />
                </th>
                <th>Turnout</th>
                <th>Zone</th>
                <th>Output</th>
                <th className="!text-right">Address</th>
                <th>Board</th>
              </tr>
            </thead>
            <tbody>
              {places.map((place) => {
                const board = boards[place.board];
                return (
                  <tr key={place.turnoutId}>
                    <td>
                      <input
                        type="checkbox"
                        aria-label={`Accept ${place.label}`}
                        className="size-4 accent-[var(--copper)]"
                        checked={chosen.has(place.turnoutId)}
                        onChange={() => toggle(place.turnoutId)}
                      />
                    </td>
                    <td className="font-semibold">{place.label}</td>
                    <td>
                      {place.zone} {place.away && <span className="quiet">(away)</span>}
                    </td>
                    <td className="mono">
                      {place.ways.map((way) => (way === null ? board?.label : `${board?.label}-${way}`)).join(", ")}
                    </td>
                    <td className="mono text-right">{place.address}</td>
                    <td className="quiet max-w-0 truncate" title={board?.typeName}>
                      {board?.deviceId === null ? "new" : "there"}
                      {board?.fedBy && `, fed by ${board.fedBy}`}: {board?.typeName}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
      <div className="mt-4 flex gap-2">
        {places.length > 0 && (
          <button type="button" className="btn go" disabled={chosen.size === 0} onClick={accept}>
            {chosen.size === places.length ? "Accept all" : `Accept ${chosen.size} of ${places.length}`}
          </button>
        )}
        <button type="button" className="btn" onClick={back}>
          Back
        </button>
      </div>
    </>
  );
}
