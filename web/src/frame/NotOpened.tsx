import { ButtonLink } from "../kit/Button.tsx";
import type { Trouble } from "../session/sessions.ts";

/** Instead of a railway that is not there yet: it is being opened, or cannot be. */
export function NotOpened({ trouble }: { trouble: Trouble | null }) {
  if (!trouble) return <p className="p-6 text-ink-2">Opening the railway ...</p>;
  return (
    <main className="mx-auto mt-24 grid max-w-[460px] gap-4">
      <h1>This railway cannot be shown</h1>
      <p role="alert">
        {trouble.sentence} {trouble.kind === "unanswered" && "Trying again."}
      </p>
      <ButtonLink look="best" className="justify-self-start" to="/railways">
        Go to the list of railways
      </ButtonLink>
    </main>
  );
}
