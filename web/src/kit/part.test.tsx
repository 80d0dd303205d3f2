// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import { Suspense } from "react";
import { afterEach, expect, it, vi } from "vitest";
import { fetchParts, Optional, part } from "./part.tsx";

afterEach(() => {
  cleanup();
  vi.useRealTimers();
  vi.restoreAllMocks();
});

it("fetches parts and what they name in turn, each once, whichever of them fail", async () => {
  const inner = vi.fn(async () => () => <p>inner</p>);
  const outer = vi.fn(async () => {
    part(inner);
    return () => <p>outer</p>;
  });
  const failing = vi.fn(() => Promise.reject(new TypeError("Failed to fetch")));
  const Outer = part(outer);
  part(failing);
  const here = async () => true;
  await fetchParts(here);
  await fetchParts(here);
  for (const load of [inner, outer, failing]) expect(load).toHaveBeenCalledTimes(1);
  render(
    <Suspense>
      <Outer />
    </Suspense>,
  );
  expect(await screen.findByText("outer")).toBeTruthy();
});

it("fetches nothing while the server is away", async () => {
  vi.useFakeTimers();
  const load = vi.fn(async () => () => <p>late</p>);
  part(load);
  const answers = vi.fn(async () => true).mockResolvedValueOnce(false);
  const fetched = fetchParts(answers);
  await vi.advanceTimersByTimeAsync(0);
  expect(load).not.toHaveBeenCalled();
  await vi.runAllTimersAsync();
  await fetched;
  expect(load).toHaveBeenCalledTimes(1);
});

it("goes on without a part that is optional and cannot be fetched", async () => {
  vi.spyOn(console, "error").mockImplementation(() => undefined);
  const Gone = part(() => Promise.reject(new TypeError("Failed to fetch")));
  render(
    <>
      <p>the page</p>
      <Optional>
        <Gone />
      </Optional>
    </>,
  );
  await vi.waitFor(() => expect(console.error).toHaveBeenCalled());
  expect(screen.getByText("the page")).toBeTruthy();
});
