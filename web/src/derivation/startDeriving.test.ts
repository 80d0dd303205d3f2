import { putEdit } from "@alderman/core";
import { expect, it, vi } from "vitest";
import { PlayedBrowser, PlayedServer, playedServices } from "../../testing/playedServer.ts";
import { commit, openRailway } from "../session/actions.ts";
import { makeStore } from "../store/makeStore.ts";
import { derivation } from "./derivation.ts";
import { NO_RESULTS, type Results } from "./deriver.ts";

it("lets the server plan ahead once a railway is checked, once for each, and goes on when it cannot", async () => {
  const server = new PlayedServer();
  for (const id of ["a", "b"]) server.add(id);
  server.fate = (request) => ({ lost: request === "plan b" });
  const { dispatch } = makeStore(playedServices(server, new PlayedBrowser().queue()));
  const found = (railwayId: string, state: Results["state"], share: number | null = null) =>
    dispatch(derivation.actions.found({ ...NO_RESULTS, railwayId, state, share }));
  const plans = () => server.asked.filter((request) => request.startsWith("plan"));
  dispatch(openRailway("a"));
  found("a", "checking");
  await vi.waitFor(() => expect(server.asked).toContain("open a"));
  expect(plans()).toEqual([]);
  // all is known, and looked at once more
  found("a", "checked", 0.4);
  await Promise.resolve();
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

it("says at which revision the railway stands that is to be checked, unless something of it waits", async () => {
  const server = new PlayedServer();
  const railway = server.add("a");
  const services = playedServices(server, new PlayedBrowser().queue());
  const want = vi.fn();
  const { dispatch } = makeStore({ ...services, checker: { ...services.checker, want } });
  const zone = { id: "z1", label: "A", name: "", order: 1, commons: null, plasticJoints: 0 };
  const lastVersion = () => want.mock.lastCall?.[3];
  dispatch(openRailway("a"));
  await vi.waitFor(() => expect(lastVersion()).toEqual(railway.version));
  expect(want.mock.calls.every(([, record, , version]) => version === null || record !== null)).toBe(true);
  server.fate = () => ({ lost: true });
  dispatch(commit({ words: "New zone", edits: [putEdit("zone", zone)] }));
  expect(want.mock.lastCall?.[1].zones).toEqual([zone]);
  expect(lastVersion()).toBeNull();
  server.fate = () => ({});
  await vi.waitFor(() => expect(lastVersion()).toEqual(railway.version));
});
