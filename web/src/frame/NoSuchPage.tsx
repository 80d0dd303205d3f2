import { useParams } from "react-router";
import { ButtonLink } from "../kit/Button.tsx";
import { FIRST_STAGE, STAGES } from "./stages.ts";
import { usePageTitle } from "./usePageTitle.ts";

/** Instead of a page of a railway, where its address names none. */
export function NoSuchPage() {
  const { railwayId, "*": rest } = useParams();
  usePageTitle("No such page");
  const first = STAGES.find(({ path }) => path === FIRST_STAGE);
  return (
    <main className="mx-auto mt-24 grid max-w-[460px] content-start gap-4 px-4">
      <h1>There is no such page</h1>
      <p role="alert">This railway has no page called "{rest}". Choose one of its stages.</p>
      {first && (
        <ButtonLink look="best" className="justify-self-start" to={`/r/${railwayId}/${first.path}`}>
          Go to {first.title}
        </ButtonLink>
      )}
    </main>
  );
}
