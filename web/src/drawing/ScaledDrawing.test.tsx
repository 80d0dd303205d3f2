// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, it, vi } from "vitest";
import { ScaledDrawing } from "./ScaledDrawing.tsx";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

/** A screen on which every media query holds, or none. */
const onScreen = (narrow: boolean) =>
  vi.stubGlobal("matchMedia", () => ({ matches: narrow, addEventListener: vi.fn(), removeEventListener: vi.fn() }));

it("lets a drawing be seen whole and large by turns on a phone", async () => {
  onScreen(true);
  render(<ScaledDrawing>the thread</ScaledDrawing>);
  const frame = screen.getByText("the thread");
  expect(frame.dataset.whole).toBeUndefined();
  await userEvent.click(screen.getByRole("button", { name: "The whole drawing" }));
  expect(frame.dataset.whole).toBe("true");
  await userEvent.click(screen.getByRole("button", { name: "Large enough to read" }));
  expect(frame.dataset.whole).toBeUndefined();
});

it("offers nothing where the drawing fits anyway", () => {
  onScreen(false);
  render(<ScaledDrawing>the thread</ScaledDrawing>);
  expect(screen.queryByRole("button")).toBeNull();
});
