// @vitest-environment happy-dom
// What a meter should show, and what is said and kept of what it did show.
import type { MeterReading } from "@alderman/core";
import { smallRailway } from "@alderman/core/testing/build";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Provider } from "react-redux";
import { afterEach, expect, it } from "vitest";
import { emptyStore, openIn } from "../../testing/openStore.ts";
import { TipsProvider } from "../kit/Tooltip.tsx";
import { shownRecord } from "../session/shownSession.ts";
import { probe } from "../store/view.ts";
import { Expected, Readings } from "./Readings.tsx";

afterEach(cleanup);

const volts: MeterReading = {
  range: "V",
  value: 12,
  tolerance: 0.5,
  corner: 0.8,
  ac: false,
  reckoned: "Everything at rest.",
};

function shown(reading: MeterReading) {
  const store = emptyStore();
  openIn(store, smallRailway());
  store.dispatch(probe({ probe: "red", end: { key: "d1:1A", name: "D1-1A" } }));
  store.dispatch(probe({ probe: "black", end: { key: "d1:1B", name: "D1-1B" } }));
  render(
    <Provider store={store}>
      <TipsProvider>
        <Expected reading={reading} />
        <Readings reading={reading} />
      </TipsProvider>
    </Provider>,
  );
  return { kept: () => shownRecord(store.getState())?.readings ?? [], said: screen.getByLabelText("Meter said") };
}

it("shows figure, unit and band apart, and how it was worked out", () => {
  shown(volts);
  expect(screen.getByTestId("expect").textContent).toBe("12.0V");
  expect(screen.getByText(/^DC, ±/).textContent).toContain("0.50 V, at worst ±0.80 V");
  expect(screen.getByText("Everything at rest.")).toBeTruthy();
});

it.each([
  ["12.4", "Agrees."],
  ["11,6", "Agrees."],
  ["12.7", /Few sound builds read so/],
  ["14", /Off by 1\.20? V more than the parts allow/],
  ["twelve", /number/],
])("says of %s read whether it agrees", async (text, answer) => {
  const { said } = shown(volts);
  await userEvent.type(said, text);
  expect(screen.getByText(answer)).toBeTruthy();
});

it("says that something joins what should be open, and takes milliamps for what they are", async () => {
  shown({ ...volts, range: "ohm", value: null });
  expect(screen.getByText("open")).toBeTruthy();
  await userEvent.type(screen.getByLabelText("Meter said"), "3");
  expect(screen.getByText(/Something joins them/)).toBeTruthy();
  cleanup();
  const { kept, said } = shown({ ...volts, range: "mA", value: 0.015, tolerance: 0.001 });
  await userEvent.type(said, "15.4{Enter}");
  expect(kept()).toMatchObject([{ range: "mA", read: 0.0154, expected: 0.015, agrees: true }]);
});

it("keeps what was read with where and what was expected, and leads on from one that disagrees", async () => {
  const { kept, said } = shown(volts);
  await userEvent.type(said, "3{Enter}");
  expect(kept()).toMatchObject([
    { red: "d1:1A", black: "d1:1B", redName: "D1-1A", read: 3, expected: 12, low: 11.5, high: 12.5, agrees: false },
  ]);
  expect((said as HTMLInputElement).value).toBe("");
  expect(screen.getByRole("list", { name: "Last readings" }).textContent).toContain("expected 12.0 V");
});
