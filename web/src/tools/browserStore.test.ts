// @vitest-environment happy-dom
import { afterEach, expect, it, vi } from "vitest";
import { keepText, keptText } from "./browserStore.ts";

afterEach(() => {
  vi.unstubAllGlobals();
  localStorage.clear();
  sessionStorage.clear();
});

it("keeps a text for good or for the window, each by itself", () => {
  expect(keptText("a")).toBeNull();
  expect(keepText("a", "1")).toBe(true);
  expect(keepText("a", "2", "in this window")).toBe(true);
  expect([keptText("a"), keptText("a", "in this window")]).toEqual(["1", "2"]);
});

it.each(["localStorage", "sessionStorage"] as const)("goes without where %s is forbidden or full", (which) => {
  const lasts = which === "localStorage" ? "for good" : "in this window";
  vi.stubGlobal(which, {
    getItem: () => {
      throw new DOMException("denied", "SecurityError");
    },
    setItem: () => {
      throw new DOMException("full", "QuotaExceededError");
    },
  });
  expect(keptText("a", lasts)).toBeNull();
  expect(keepText("a", "1", lasts)).toBe(false);
});
