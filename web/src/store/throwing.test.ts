import { drafted } from "@alderman/core/testing/build";
import { SHARED } from "@alderman/core/testing/recipes";
import { expect, it } from "vitest";
import { emptyStore, openIn } from "../../testing/openStore.ts";
import { throwTo } from "./throwing.ts";
import { throwBy } from "./view.ts";

it.each(Object.entries(SHARED))("throws a turnout and what goes along with it: %s", (_what, { make, follows }) => {
  const store = emptyStore();
  openIn(store, make());
  store.dispatch(throwTo("a", "R"));
  expect(store.getState().view.asked).toEqual({ a: "R", b: follows.R });
});

it("throws by the control that was named, as long as it is there", () => {
  const store = emptyStore();
  const own = { deviceId: "t2", turnoutId: "a", way: null, to: null, inverse: false } as const;
  const record = drafted(SHARED["a pole of one lever each"]!.make(), (draft) => {
    draft.addDevice("toggle-centre-off", "T", "panel");
    draft.assign("control", own);
  });
  openIn(store, record);
  const id = record.assignments.find((a) => a.role === "control" && a.deviceId === "t2")!.id;
  store.dispatch(throwBy({ turnoutId: "a", controlId: id }));
  store.dispatch(throwTo("a", "R"));
  expect(store.getState().view.asked).toEqual({ a: "R" });
  store.dispatch(throwBy({ turnoutId: "a", controlId: "gone" }));
  store.dispatch(throwTo("a", "R"));
  expect(store.getState().view.asked).toEqual({ a: "R", b: "N" });
});
