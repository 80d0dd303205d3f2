// @vitest-environment happy-dom
// The meter's dock: which kind of meter it is, asked only where kinds differ.
import { smallRailway } from "@alderman/core/testing/build";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Provider } from "react-redux";
import { afterEach, expect, it } from "vitest";
import { emptyStore, openIn } from "../../testing/openStore.ts";
import { derivation } from "../derivation/derivation.ts";
import { NO_RESULTS } from "../derivation/deriver.ts";
import { TipsProvider } from "../kit/Tooltip.tsx";
import { METER_KIND, probe } from "../store/view.ts";
import { Meter } from "./Meter.tsx";

afterEach(() => {
  cleanup();
  localStorage.clear();
});

/** The dock with a reading of 15 V between two terminals. */
function shown(byKind: boolean) {
  const store = emptyStore();
  openIn(store, smallRailway());
  const probes = { red: "tb1:J", black: "tb1:K" };
  for (const which of ["red", "black"] as const)
    store.dispatch(probe({ probe: which, end: { key: probes[which], name: probes[which] } }));
  const reading = {
    range: "V",
    value: 15,
    tolerance: 0.5,
    corner: 0.8,
    ac: true,
    reckoned: "Half of the swing.",
  } as const;
  const focus = {
    ...{ turnoutId: null, probes, reading: null, along: {}, sheet: [], situations: [] },
    meter: byKind ? { ...reading, byKind: true as const } : reading,
  };
  store.dispatch(derivation.actions.found({ ...NO_RESULTS, focus }));
  render(
    <Provider store={store}>
      <TipsProvider>
        <Meter />
      </TipsProvider>
    </Provider>,
  );
  return store;
}

it("asks for the kind of meter where kinds differ, and keeps it", async () => {
  const store = shown(true);
  await userEvent.click(screen.getByRole("radio", { name: "Average" }));
  expect(store.getState().view.meterKind).toBe("averaging");
  expect(screen.getByRole("radio", { name: "Average" }).getAttribute("aria-checked")).toBe("true");
  expect(localStorage.getItem(METER_KIND)).toBe("averaging");
});

it("asks nothing where every meter shows the same", () => {
  shown(false);
  expect(screen.queryByRole("radio", { name: "Average" })).toBeNull();
});
