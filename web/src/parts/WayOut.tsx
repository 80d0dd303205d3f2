import { AlertDialog } from "radix-ui";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { keepAsCopy, takeFile } from "../session/actions.ts";
import { useSession } from "../session/hooks.ts";
import { ServerError } from "../session/server.ts";
import type { Trouble } from "../session/sessions.ts";
import { useAppDispatch } from "../store/store.ts";

/** Instead of a railway that is not there yet: it is being opened, or cannot be. */
export function NotOpened({ trouble }: { trouble: Trouble | null }) {
  if (!trouble) return <p className="quiet p-6">Opening the railway ...</p>;
  return (
    <main className="mx-auto mt-24 grid max-w-[460px] gap-4">
      <h1>This railway cannot be shown</h1>
      <p role="alert">
        {trouble.sentence} {trouble.kind === "unanswered" && "Trying again."}
      </p>
      <Link className="btn go justify-self-start" to="/railways">
        Go to the list of railways
      </Link>
    </main>
  );
}

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
  return (
    <AlertDialog.Root open>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="veil" />
        <AlertDialog.Content className="dialog grid gap-3">
          <AlertDialog.Title asChild>
            <h2>{gone ? "This railway is no longer there" : "This window knows more than the file"}</h2>
          </AlertDialog.Title>
          <AlertDialog.Description>
            {trouble.sentence} What you see here is whole{waits > 0 ? `, with ${waits} of your latest edits` : ""}:
            nothing is lost until you choose.
          </AlertDialog.Description>
          {problem && (
            <p role="alert" className="text-red">
              {problem}
            </p>
          )}
          <div className="flex flex-wrap gap-2">
            <button type="button" className="btn go" onClick={() => void keep()}>
              Keep mine as a copy
            </button>
            {gone ? (
              <AlertDialog.Cancel className="btn" onClick={() => void navigate("/railways")}>
                Let it go
              </AlertDialog.Cancel>
            ) : (
              <AlertDialog.Cancel className="btn" onClick={() => dispatch(takeFile())}>
                Take the file's
              </AlertDialog.Cancel>
            )}
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
