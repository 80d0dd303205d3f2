import { expect, it, vi } from "vitest";
import { PlayedBrowser, PlayedServer, playedServices } from "../../testing/playedServer.ts";
import { openRailway } from "../session/actions.ts";
import { makeStore } from "../store/makeStore.ts";
import { derivation } from "./derivation.ts";
import { NO_RESULTS, type Results } from "./deriver.ts";

it("lets the server plan ahead once a railway is checked, once for each, and goes on when it cannot", async () => {
  const server = new PlayedServer();
  for (const id of ["a", "b"]) server.add(id);
  server.fate = (request) => ({ lost: request === "plan b" });
  const { dispatch } = makeStore(playedServices(server, new PlayedBrowser().queue()));
  const found = (railwayId: string, state: Results["state"]) =>
    dispatch(derivation.actions.found({ ...NO_RESULTS, railwayId, state }));
  const plans = () => server.asked.filter((request) => request.startsWith("plan"));
  dispatch(openRailway("a"));
  found("a", "checking");
  await vi.waitFor(() => expect(server.asked).toContain("open a"));
  expect(plans()).toEqual([]);
  found("a", "checked");
  found("a", "checking");
  found("a", "checked");
  await vi.waitFor(() => expect(plans()).toEqual(["plan a"]));
  found("b", "failed");
  found("b", "checked");
  await vi.waitFor(() => expect(plans()).toEqual(["plan a", "plan b"]));
  found("b", "checked");
  await Promise.resolve();
  expect(plans()).toHaveLength(2);
});
