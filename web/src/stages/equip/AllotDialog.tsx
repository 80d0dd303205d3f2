import { type AllotOptions, type Proposal, usualOptions } from "@alderman/core";
import { useEffect, useRef, useState } from "react";
import { Planning } from "../../derivation/plan.ts";
import { Mark } from "../../drawing/Mark.tsx";
import { Button } from "../../kit/Button.tsx";
import { Dialog } from "../../kit/Dialog.tsx";
import { Progress } from "../../kit/Progress.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
import { AllotChoices } from "./AllotChoices.tsx";
import { AllotProposal } from "./AllotProposal.tsx";

type Stage =
  | { at: "asking" }
  | { at: "working"; share: number; what: string }
  | { at: "shown"; proposal: Proposal }
  | { at: "refused"; why: string };

/** Proposes boards, outputs, supplies and addresses for all turnouts not equipped; nothing is changed until accepted. */
export function AllotDialog({ close }: { close: () => void }) {
  const record = useRecord();
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
    <Dialog
      title="Allot boards and outputs"
      about="For every turnout not equipped: the fewest boards, then the fewest turnouts away from their board's zone, within what outputs and boards give. Nothing is changed until you accept."
      close={close}
    >
      {stage.at === "shown" ? (
        <AllotProposal
          proposal={stage.proposal}
          chosen={chosen}
          choose={setChosen}
          back={() => setStage({ at: "asking" })}
          accept={() => void accept(stage.proposal)}
        />
      ) : (
        <>
          <AllotChoices record={record} options={options} set={setOptions} />
          {stage.at === "refused" && (
            <p role="alert" className="mt-3 flex gap-2 bg-red-wash px-3 py-2">
              <Mark verdict="wrong" /> {stage.why}
            </p>
          )}
          {stage.at === "working" && (
            <div className="mt-3" role="status">
              <Progress label="Progress of the proposal" share={stage.share} />
              <p className="text-small text-ink-2">{stage.what || "Looking at the turnouts"} ...</p>
            </div>
          )}
          <div className="mt-4 flex gap-2">
            {stage.at === "working" ? (
              <Button onClick={cancel}>Cancel</Button>
            ) : (
              <Button look="best" onClick={() => void propose()}>
                Propose
              </Button>
            )}
          </div>
        </>
      )}
    </Dialog>
  );
}
