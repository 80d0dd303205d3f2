import { emptyRecord } from "@alderman/core";
import { expect, it } from "vitest";
import { emptyStore, openIn } from "../../testing/openStore.ts";
import { derivation } from "../derivation/derivation.ts";
import type { FocusResult } from "../derivation/derive.worker.ts";
import { NO_RESULTS } from "../derivation/deriver.ts";
import { throwTo } from "./view.ts";

/** What the worker answers of a turnout, as far as it matters to how turnouts stand. */
const found = (turnoutId: string, along: FocusResult["along"]) =>
  derivation.actions.found({
    ...NO_RESULTS,
    focus: {
      turnoutId,
      along,
      probes: { red: null, black: null },
      reading: null,
      sheet: [],
      meter: null,
      situations: [],
    },
  });

it("lets those go along that share a control, once it is known which they are, and only with a throw", () => {
  const store = emptyStore();
  openIn(store, emptyRecord("Two"));
  const asked = () => store.getState().view.asked;
  store.dispatch(throwTo({ turnoutId: "a", position: "R" }));
  expect(asked()).toEqual({ a: "R" });
  // what was asked before the throw, and of another turnout, does not count
  store.dispatch(found("a", { a: "N", b: "R" }));
  store.dispatch(found("c", { c: "N", b: "R" }));
  expect(asked()).toEqual({ a: "R" });
  store.dispatch(found("a", { a: "R", b: "N" }));
  expect(asked()).toEqual({ a: "R", b: "N" });
  // the other one is thrown by something else; looking at the first again does not throw it back
  store.dispatch(throwTo({ turnoutId: "b", position: "R" }));
  store.dispatch(found("b", { b: "R" }));
  store.dispatch(found("a", { a: "R", b: "N" }));
  expect(asked()).toEqual({ a: "R", b: "R" });
});
