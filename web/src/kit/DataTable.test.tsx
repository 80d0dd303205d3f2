// @vitest-environment happy-dom
// Tables: sorted as numbers and as labels are, found in, columns left out and kept, rows of long ones there each time.
import { cleanup, render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { DataColumn } from "./BodyRow.tsx";
import { DataTable } from "./DataTable.tsx";
import { TipsProvider } from "./Tooltip.tsx";

interface Wire {
  label: string;
  cut: number | null;
}
const wires: Wire[] = [
  { label: "W2", cut: null },
  { label: "W10", cut: 560 },
  { label: "W1", cut: 1550 },
];
const columns: DataColumn<Wire>[] = [
  { id: "label", title: "Wire", value: ({ label }) => label },
  { id: "cut", title: "Cut mm", figures: true, spare: true, value: ({ cut }) => cut },
];
const table = (more: Partial<Parameters<typeof DataTable<Wire>>[0]> = {}) => (
  <TipsProvider>
    <DataTable<Wire> label="Wires" items={wires} columns={columns} idOf={({ label }) => label} {...more} />
  </TipsProvider>
);
const labels = () =>
  screen
    .getAllByRole("row")
    .slice(1)
    .map((row) => row.querySelector("td")?.textContent);

beforeEach(() => localStorage.clear());
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

it("sorts labels by their numbers, up, down and not at all", async () => {
  const user = userEvent.setup();
  render(table());
  const heading = screen.getByRole("button", { name: "Wire" });
  await user.click(heading);
  expect(labels()).toEqual(["W1", "W2", "W10"]);
  expect(screen.getByRole("columnheader", { name: "Wire" }).getAttribute("aria-sort")).toBe("ascending");
  await user.click(heading);
  expect(labels()).toEqual(["W10", "W2", "W1"]);
  await user.click(heading);
  expect(labels()).toEqual(["W2", "W10", "W1"]);
});

it("finds in it, says how many are shown, and that none is", async () => {
  const user = userEvent.setup();
  render(table({ keptAs: "wires" }));
  const find = await screen.findByRole("searchbox", { name: "Find in: Wires" });
  await user.type(find, "w1");
  expect(labels()).toEqual(["W10", "W1"]);
  expect(screen.getByText("2 of 3")).toBeDefined();
  await user.type(find, "x");
  expect(screen.getByText(/Nothing here holds/).textContent).toContain("w1x");
});

it("keeps in this browser which columns are left out and how it is sorted", async () => {
  const user = userEvent.setup();
  const { unmount } = render(table({ keptAs: "wires" }));
  await user.click(await screen.findByRole("button", { name: "Columns of: Wires" }));
  await user.click(await screen.findByRole("menuitemcheckbox", { name: "Cut mm" }));
  await user.keyboard("{Escape}");
  await user.click(screen.getByRole("button", { name: "Wire" }));
  unmount();
  render(table({ keptAs: "wires" }));
  expect(screen.queryByRole("columnheader", { name: "Cut mm" })).toBeNull();
  expect(labels()).toEqual(["W1", "W2", "W10"]);
});

it("leaves spare columns out at first where the screen is narrow", () => {
  vi.stubGlobal("matchMedia", () => ({
    matches: true,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }));
  render(table());
  expect(screen.getAllByRole("columnheader").map(({ textContent }) => textContent)).toEqual(["Wire"]);
});

it("is gone through with the arrows, one row being reached by Tab", async () => {
  const user = userEvent.setup();
  const onChoose = vi.fn();
  render(table({ chosen: "W2", onChoose }));
  const rows = screen.getAllByRole("row").slice(1);
  expect(rows.map((row) => row.tabIndex)).toEqual([0, -1, -1]);
  rows[0]!.focus();
  await user.keyboard("{ArrowDown}");
  expect(onChoose).toHaveBeenLastCalledWith(wires[1]);
  expect(document.activeElement).toBe(rows[1]);
});

it("has rows each time it is opened when it is long, but not all of them", async () => {
  // nothing is laid out here: what scrolls and what is a row get their heights
  vi.spyOn(HTMLElement.prototype, "clientHeight", "get").mockReturnValue(400);
  vi.spyOn(HTMLElement.prototype, "offsetHeight", "get").mockReturnValue(29);
  const many = Array.from({ length: 300 }, (_, index): Wire => ({ label: `W${index + 1}`, cut: index }));
  for (let time = 0; time < 2; time++) {
    const { unmount } = render(table({ items: many }));
    const body = screen.getByRole("table", { name: "Wires" });
    await waitFor(() => expect(within(body).getByText("W1")).toBeDefined());
    expect(within(body).getAllByRole("row").length).toBeLessThan(80);
    expect(body.getAttribute("aria-rowcount")).toBe("301");
    unmount();
  }
});

it("ticks rows one by one, and with the head those that are found, leaving the others as they are", async () => {
  const user = userEvent.setup();
  const Ticked = () => {
    const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
    const ticks = { ticked, onTick: setTicked, nameOf: ({ label }: Wire) => label };
    return (
      <>
        {table({ keptAs: "ticked", ticks })}
        <output>{[...ticked].sort().join(" ")}</output>
      </>
    );
  };
  render(<Ticked />);
  const ticked = () => document.querySelector("output")?.textContent;
  const head = () => screen.getByRole("checkbox", { name: "Choose all that are shown" });
  await user.click(screen.getByRole("checkbox", { name: "Choose W2" }));
  expect(ticked()).toBe("W2");
  expect(head().getAttribute("aria-checked")).toBe("mixed");
  const find = await screen.findByRole("searchbox", { name: "Find in: Wires" });
  await user.type(find, "w1");
  expect(head().getAttribute("aria-checked")).toBe("false");
  await user.click(head());
  expect(ticked()).toBe("W1 W10 W2");
  await user.click(head());
  expect(ticked()).toBe("W2");
  await user.clear(find);
  await user.click(screen.getByRole("checkbox", { name: "Choose W2" }));
  expect(ticked()).toBe("");
});
