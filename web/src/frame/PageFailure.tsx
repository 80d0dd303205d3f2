import type { FallbackProps } from "react-error-boundary";
import { Button } from "../kit/Button.tsx";

/** What is shown instead of a page that could not be loaded or drawn. */
export function PageFailure({ error }: Pick<FallbackProps, "error">) {
  const notLoaded = error instanceof TypeError && /import|fetch|load/i.test(error.message);
  return (
    <main className="mx-auto mt-24 grid max-w-[460px] gap-4">
      <h1>This page cannot be shown</h1>
      <p>
        {notLoaded
          ? "A part of the program could not be loaded: the server does not answer. Start it again, then reload the page."
          : "Something went wrong while it was drawn. What you entered is safe: every edit is kept in this browser until the server has it."}
      </p>
      <Button look="best" className="justify-self-start" onClick={() => window.location.reload()}>
        Reload the page
      </Button>
    </main>
  );
}
