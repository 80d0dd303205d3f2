// @vitest-environment happy-dom
// Typing into a cell: every letter arrives, and only what is seen is taken.
import type { Choice } from "@alderman/core";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, it, vi } from "vitest";
import { type Begin, CellInput } from "./CellInput.tsx";

const choices: Choice[] = [
  { text: "Stall motor", hint: "slow", fits: "fits", why: "" },
  { text: "Servo", hint: "needs a board", fits: "needs", why: "" },
  { text: "Twin-coil motor", hint: "quick", fits: "cannot", why: "" },
].map((choice) => choice as unknown as Choice);

function open(begin: Begin, done = vi.fn((_text: string, _step: string) => true)) {
  const cancel = vi.fn();
  const cell = (given: Begin) => (
    <>
      <CellInput label="Motor of A" begin={given} choices={choices} done={done} cancel={cancel} />
      <button type="button">elsewhere</button>
    </>
  );
  const { rerender } = render(cell(begin));
  return {
    ...{ done, cancel, user: userEvent.setup({ delay: null }) },
    redraw: () => rerender(cell({ ...begin })),
    input: screen.getByRole<HTMLInputElement>("combobox", { name: "Motor of A" }),
    options: () => screen.queryAllByRole("option").map(({ textContent }) => textContent?.trim()),
  };
}
afterEach(cleanup);

it("gets every letter, however fast they come and however often the cell is drawn meanwhile", async () => {
  const { user, input, redraw } = open({ text: "T1", letter: false });
  for (const letter of "toggle-centre-off + x") {
    await user.keyboard(letter);
    // results arrived: the list gives how editing began as a new object
    redraw();
  }
  expect(input.value).toBe("toggle-centre-off + x");
});

it("takes what is highlighted: the first choice that the letters fit", async () => {
  const { user, done } = open({ text: "s", letter: true });
  await user.keyboard("erv");
  expect(screen.getByRole("option", { selected: true }).textContent).toContain("Servo");
  await user.keyboard("{Enter}");
  expect(done.mock.calls).toEqual([["Servo", "down"]]);
});

it("takes a text that no choice fits as it was typed, and goes right with Tab", async () => {
  const { user, done, options } = open({ text: "d", letter: true });
  await user.keyboard("1-2");
  expect(options()).toEqual([]);
  await user.keyboard("{Tab}");
  expect(done.mock.calls).toEqual([["d1-2", "right"]]);
});

it("shows what the cell holds first, selected to be typed over, and highlights nothing", async () => {
  const { user, input, options, cancel, done } = open({ text: "Servo", letter: false });
  expect(options()[0]).toContain("Servo");
  expect(options()).toHaveLength(3);
  expect([input.selectionStart, input.selectionEnd]).toEqual([0, 5]);
  await user.keyboard("{Escape}");
  expect(cancel).toHaveBeenCalledOnce();
  expect(done).not.toHaveBeenCalled();
});

it("takes no guess when it is left: the typed text, or nothing when only a letter began it", async () => {
  const typed = open({ text: "s", letter: true });
  await typed.user.keyboard("er");
  await typed.user.click(screen.getByRole("button", { name: "elsewhere" }));
  expect(typed.done.mock.calls).toEqual([["ser", "stay"]]);
  cleanup();
  const begun = open({ text: "s", letter: true });
  await begun.user.click(screen.getByRole("button", { name: "elsewhere" }));
  expect(begun.done).not.toHaveBeenCalled();
  expect(begun.cancel).toHaveBeenCalledOnce();
});

it("stays with its text when that cannot be taken", async () => {
  const { user, input, done } = open(
    { text: "f", letter: true },
    vi.fn(() => false),
  );
  await user.keyboard("ar{Enter}");
  expect(done).toHaveBeenCalledOnce();
  expect(input.value).toBe("far");
  await user.keyboard("{Enter}");
  expect(done).toHaveBeenCalledTimes(2);
});

it("takes nothing by itself that cannot be, nor what only its explanation names", async () => {
  const { user, done, options } = open({ text: "t", letter: true });
  await user.keyboard("win");
  // it is shown, and marked, and only a click or the arrows take it
  expect(options()[0]).toContain("Twin-coil motor");
  expect(screen.queryByRole("option", { selected: true })).toBeNull();
  await user.keyboard("{Enter}");
  expect(done.mock.calls).toEqual([["twin", "down"]]);
});

it("shows what is named before what is only explained so", async () => {
  const { user, options } = open({ text: "s", letter: true });
  await user.keyboard("{Backspace}o");
  expect(options().map((text) => text?.replace(/ .*/, ""))).toEqual(["Stall", "Servo", "Twin-coil"]);
  await user.keyboard("{Backspace}board");
  expect(options()[0]).toContain("Servo");
  expect(screen.queryByRole("option", { selected: true })).toBeNull();
});
