import { useRouteError } from "react-router";

/** What is shown instead of a page that could not be loaded or drawn. */
export function PageFailure() {
  const error = useRouteError();
  const notLoaded = error instanceof TypeError && /import|fetch|load/i.test(error.message);
  return (
    <main className="mx-auto mt-24 grid max-w-[460px] gap-4">
      <h1>This page cannot be shown</h1>
      <p>
        {notLoaded
          ? "A part of the program could not be loaded: the server does not answer. Start it again, then load the page anew."
          : "Something went wrong while it was drawn. What you entered is safe: every edit was saved when it was made."}
      </p>
      <button type="button" className="btn go justify-self-start" onClick={() => window.location.reload()}>
        Load the page anew
      </button>
    </main>
  );
}
