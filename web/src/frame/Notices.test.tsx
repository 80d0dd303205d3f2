// @vitest-environment happy-dom
// Sentences for the owner: they can be closed, and what was not kept can be had after all.
import { smallRailway } from "@alderman/core/testing/build";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Provider } from "react-redux";
import { afterEach, expect, it } from "vitest";
import { emptyStore, openIn } from "../../testing/openStore.ts";
import { shownRecord } from "../session/shownSession.ts";
import { type Mine, notify } from "../store/notices.ts";
import { Notices } from "./Notices.tsx";

afterEach(cleanup);

const ROUGH = { kind: "turnout", id: "y1", fields: { runMetres: 3 } } as const;
const mineOf = (railwayId: string, ...things: Mine["things"]): Mine => ({ railwayId, things });

function shown(mine?: Mine) {
  const store = emptyStore();
  openIn(store, smallRailway());
  store.dispatch(notify("run was set to 2 m in another window.", { stays: true, ...(mine ? { mine } : {}) }));
  render(
    <Provider store={store}>
      <Notices />
    </Provider>,
  );
  return { store, runOfY1: () => shownRecord(store.getState())?.turnouts.find(({ id }) => id === "y1")?.runMetres };
}

it("shows a sentence until it is closed, with nothing to choose where nothing is offered", async () => {
  const { store } = shown();
  expect(screen.getByText(/run was set to 2 m/)).toBeTruthy();
  expect(screen.queryByRole("button", { name: "Take mine" })).toBeNull();
  await userEvent.click(screen.getByRole("button", { name: "Close" }));
  expect(store.getState().notices).toEqual([]);
});

it("sets the fields of this window on the thing as it is now, in one edit, and goes", async () => {
  const { store, runOfY1 } = shown(mineOf("r", { ...ROUGH }));
  const before = shownRecord(store.getState())?.turnouts.find(({ id }) => id === "y1");
  await userEvent.click(screen.getByRole("button", { name: "Take mine" }));
  expect(runOfY1()).toBe(3);
  const after = shownRecord(store.getState())?.turnouts.find(({ id }) => id === "y1");
  expect({ ...after, runMetres: null }).toEqual({ ...before, runMetres: null });
  expect(store.getState().sessions.byId.r?.queue).toHaveLength(1);
  expect(store.getState().notices).toEqual([]);
});

it.each([
  ["another railway is shown", mineOf("elsewhere", { ...ROUGH })],
  ["the thing is gone", mineOf("r", { ...ROUGH, id: "nothing" })],
])("does nothing where %s", async (_, mine) => {
  const { store, runOfY1 } = shown(mine);
  const before = runOfY1();
  await userEvent.click(screen.getByRole("button", { name: "Take mine" }));
  expect(runOfY1()).toBe(before);
  expect(store.getState().sessions.byId.r?.queue).toEqual([]);
});
