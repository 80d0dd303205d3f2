// @vitest-environment happy-dom
// Which way round things are fitted: each tick and choice is recorded at once, for the thing that it names.
import type { Assignment } from "@alderman/core";
import { railway } from "@alderman/core/testing/build";
import { cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Provider } from "react-redux";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { emptyStore, openIn } from "../../../testing/openStore.ts";
import { TipsProvider } from "../../kit/Tooltip.tsx";
import { shownRecord } from "../../session/shownSession.ts";
import { FittingsDialog } from "./FittingsDialog.tsx";

// the device's own list, which a test can choose from
beforeEach(() =>
  vi.stubGlobal("matchMedia", () => ({ matches: true, addEventListener: vi.fn(), removeEventListener: vi.fn() })),
);
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

function opened() {
  const store = emptyStore();
  openIn(store, railway(["A", "", "stall-motor", "input-decoder-4", "toggle-centre-off", "lamp-two-colour", "S2"]));
  render(
    <Provider store={store}>
      <TipsProvider>
        <FittingsDialog turnoutId="a" close={() => undefined} />
      </TipsProvider>
    </Provider>,
  );
  const recorded = (role: Assignment["role"]) =>
    shownRecord(store.getState())?.assignments.find((a) => a.role === role);
  return { recorded, part: (name: string) => within(screen.getByRole("group", { name })) };
}

it("records leads, mounting, the side of a label, rails and a lamp's leads, each where it belongs", async () => {
  const { recorded, part } = opened();
  for (const [name, tick, role, field] of [
    ["Motor A", "Leads exchanged at the motor", "motor", "crossed"],
    ["Motor A", "Mounted the other way round", "motor", "opposite"],
    ["Control T1", "Labelled for the other line: its normal asks for reverse", "control", "inverse"],
    ["Frog AF", "Rails exchanged at the contact", "frog", "crossed"],
    ["Lamp LP1", "Leads exchanged at the lamp", "lamp", "crossed"],
  ] as const) {
    expect(recorded(role), tick).toMatchObject({ [field]: false });
    await userEvent.click(part(name).getByRole("checkbox", { name: tick }));
    expect(recorded(role), tick).toMatchObject({ [field]: true });
    await userEvent.click(part(name).getByRole("checkbox", { name: tick }));
    expect(recorded(role), tick).toMatchObject({ [field]: false });
  }
});

it("offers the contacts that the motor has, for frog and lamp alike", async () => {
  const { recorded, part } = opened();
  for (const [name, role] of [
    ["Frog AF", "frog"],
    ["Lamp LP1", "lamp"],
  ] as const) {
    const list = part(name).getByLabelText("Contact of A");
    expect(
      within(list)
        .getAllByRole("option")
        .map(({ textContent }) => textContent),
    ).toEqual(["S1", "S2"]);
    for (const way of ["1", "2"]) {
      await userEvent.selectOptions(list, way);
      expect(recorded(role)).toMatchObject({ way: Number(way) });
    }
  }
});
