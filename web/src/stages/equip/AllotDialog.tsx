import {
  ADDRESSING,
  type Addressing,
  type AllotOptions,
  count,
  drivesMotors,
  type Model,
  type Proposal,
  type RailwayRecord,
  typesOfFamily,
  usualOptions,
} from "@alderman/core";
import { useEffect, useRef, useState } from "react";
import { SheetDialog } from "../../parts/Dialogs.tsx";
import { useEdit } from "../../parts/FindingCard.tsx";
import { Mark } from "../../parts/Mark.tsx";
import { useAppSelector } from "../../store/store.ts";
import { Planning } from "../../worker/plan.ts";

const KINDS: { model: Model; name: string }[] = [
  { model: "stall-motor", name: "Stall motors on" },
  { model: "twin-coil", name: "Coils on" },
  { model: "servo", name: "Servos on" },
];

const ADDRESS_WORDS: Record<Addressing, string> = {
  runs: "in runs, board after board",
  numbers: "the number in the turnout's label",
  zones: "a hundred for each zone",
  factory: "leave the factory's",
};

type Stage =
  | { at: "asking" }
  | { at: "working"; share: number; what: string }
  | { at: "shown"; proposal: Proposal }
  | { at: "refused"; why: string };

/** Proposes boards, outputs, supplies and addresses for all turnouts not equipped; nothing is changed until accepted. */
export function AllotDialog({ close }: { close: () => void }) {
  const record = useAppSelector((state) => state.railway.record);
  const act = useEdit();
  const [options, setOptions] = useState<AllotOptions | null>(() => (record ? usualOptions(record) : null));
  const [stage, setStage] = useState<Stage>({ at: "asking" });
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const planning = useRef<Planning | null>(null);
  useEffect(() => () => planning.current?.stop(), []);
  if (!record || !options) return null;

  const propose = async () => {
    const own = new Planning();
    planning.current = own;
    setStage({ at: "working", share: 0, what: "" });
    const answer = await own.propose(record, options, (share, what) => {
      if (planning.current === own) setStage({ at: "working", share, what });
    });
    if (planning.current !== own) return;
    if ("refused" in answer) return setStage({ at: "refused", why: answer.refused });
    setChosen(new Set(answer.done.places.map(({ turnoutId }) => turnoutId)));
    setStage({ at: "shown", proposal: answer.done });
  };
  const cancel = () => {
    planning.current?.stop();
    planning.current = null;
    setStage({ at: "asking" });
  };
  const accept = async (proposal: Proposal) => {
    const answer = await (planning.current ?? new Planning()).accept(record, proposal, [...chosen]);
    if ("refused" in answer) return setStage({ at: "refused", why: answer.refused });
    act(answer.done);
    close();
  };

  return (
    <SheetDialog
      title="Allot boards and outputs"
      about="For every turnout not equipped: the fewest boards, then the fewest turnouts away from their board's zone, within what outputs and boards give. Nothing is changed until you accept."
      close={close}
    >
      {stage.at === "shown" ? (
        <Shown
          proposal={stage.proposal}
          chosen={chosen}
          choose={setChosen}
          back={() => setStage({ at: "asking" })}
          accept={() => void accept(stage.proposal)}
        />
      ) : (
        <>
          <Options record={record} options={options} set={setOptions} />
          {stage.at === "refused" && (
            <p role="alert" className="mt-3 flex gap-2 bg-red-wash px-3 py-2">
              <Mark verdict="wrong" /> {stage.why}
            </p>
          )}
          {stage.at === "working" && (
            <div className="mt-3" role="status">
              <progress className="w-full accent-[var(--copper)]" max={1} value={stage.share} aria-label="Progress" />
              <p className="quiet text-[12px]">{stage.what || "Looking at the turnouts"} ...</p>
            </div>
          )}
          <div className="mt-4 flex gap-2">
            {stage.at === "working" ? (
              <button type="button" className="btn" onClick={cancel}>
                Cancel
              </button>
            ) : (
              <button type="button" className="btn go" onClick={() => void propose()}>
                Propose
              </button>
            )}
          </div>
        </>
      )}
    </SheetDialog>
  );
}

function Options({
  record,
  options,
  set,
}: {
  record: RailwayRecord;
  options: AllotOptions;
  set: (options: AllotOptions) => void;
}) {
  const motors = typesOfFamily(record, "motor");
  const drivers = typesOfFamily(record, "driver").filter(drivesMotors);
  return (
    <div className="grid grid-cols-[170px_1fr] items-center gap-x-4 gap-y-2">
      <label htmlFor="allot-motor">Turnouts without a motor</label>
      <select
        id="allot-motor"
        className="field"
        value={options.motor ?? ""}
        onChange={(event) => set({ ...options, motor: event.target.value || null })}
      >
        <option value="">are left out</option>
        {motors.map(({ id, name }) => (
          <option key={id} value={id}>
            get: {name}
          </option>
        ))}
      </select>
      {KINDS.map(({ model, name }) => (
        <Field key={model} id={`allot-${model}`} label={name}>
          <select
            id={`allot-${model}`}
            className="field"
            value={options.boards[model] ?? ""}
            onChange={(event) => set({ ...options, boards: { ...options.boards, [model]: event.target.value } })}
          >
            {drivers.map((type) => (
              <option key={type.id} value={type.id}>
                {type.name}
              </option>
            ))}
          </select>
        </Field>
      ))}
      <label htmlFor="allot-addresses">Addresses</label>
      <select
        id="allot-addresses"
        className="field"
        value={options.addresses}
        onChange={(event) => set({ ...options, addresses: event.target.value as Addressing })}
      >
        {ADDRESSING.map((each) => (
          <option key={each} value={each}>
            {ADDRESS_WORDS[each]}
          </option>
        ))}
      </select>
      <label htmlFor="allot-most">New boards of a kind</label>
      <input
        id="allot-most"
        className="field"
        inputMode="numeric"
        placeholder="as many as it takes"
        value={options.mostBoards ?? ""}
        onChange={(event) => {
          const most = event.target.value.trim() === "" ? null : Number(event.target.value);
          if (most === null || (Number.isInteger(most) && most >= 0)) set({ ...options, mostBoards: most });
        }}
      />
      <label className="col-span-2 flex items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-[var(--copper)]"
          checked={options.split}
          onChange={(event) => set({ ...options, split: event.target.checked })}
        />
        A crossover that is too much for one output gets one for each motor
      </label>
    </div>
  );
}

function Field({ id, label, children }: { id: string; label: string; children: React.ReactNode }) {
  return (
    <>
      <label htmlFor={id}>{label}</label>
      {children}
    </>
  );
}

/** What was proposed, to be accepted in whole or in part. */
function Shown({
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
                    <td className="quiet">
                      {board?.deviceId === null ? "new: " : ""}
                      {board?.typeName}
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
