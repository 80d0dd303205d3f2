import { count } from "@alderman/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { Button } from "../kit/Button.tsx";
import { AlertDialog } from "../kit/Dialog.tsx";
import { Problem } from "../kit/Field.tsx";
import { keepAsCopy, takeFile } from "../session/actions.ts";
import { useSession } from "../session/hooks.ts";
import { ServerError } from "../session/server.ts";
import { useAppDispatch } from "../store/store.ts";

/** When what this window knows and what the server has no longer go together, the owner says which is to count. */
export function WayOut() {
  const session = useSession();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [problem, setProblem] = useState<string | null>(null);
  const { trouble } = session ?? {};
  if (!session?.record || !trouble || trouble.kind === "unanswered") return null;
  const waits = session.queue.filter(({ kind }) => kind === "edits").length;
  const keep = async () => {
    try {
      const id = await dispatch(keepAsCopy());
      if (id) void navigate(`/r/${id}`);
    } catch (error) {
      if (!(error instanceof ServerError)) throw error;
      setProblem(error.message);
    }
  };
  const gone = trouble.kind === "gone";
  const latest = waits > 0 ? `, with the latest ${count(waits, "edit")} that the server has not taken` : "";
  return (
    <AlertDialog
      title={gone ? "This railway is no longer there" : "This window knows more than the file"}
      about={`${trouble.sentence} What you see here is whole${latest}: nothing is lost until you choose.`}
      actions={
        <>
          <Button look="best" onClick={() => void keep()}>
            Keep mine as a copy
          </Button>
          {gone ? (
            <Button onClick={() => void navigate("/railways")}>Let it go</Button>
          ) : (
            <Button onClick={() => dispatch(takeFile())}>Take the file's</Button>
          )}
        </>
      }
    >
      <Problem text={problem} />
    </AlertDialog>
  );
}
