// @vitest-environment happy-dom
// Fields that save what is typed into them: once, whole, or not at all and with the reason.
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, it, vi } from "vitest";
import { Choice } from "./Choice.tsx";
import { NumberField } from "./NumberField.tsx";
import { Segmented } from "./Segmented.tsx";
import { TextField } from "./TextField.tsx";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const field = (name: string) => screen.getByRole<HTMLInputElement>("textbox", { name });

it("saves a text once, although Enter goes on to the next field and so leaves it as well", async () => {
  const user = userEvent.setup();
  const save = vi.fn((_text: string) => null);
  render(
    <form>
      <TextField label="first" value="21" save={save} goesOn />
      <TextField label="second" value="22" save={save} goesOn />
    </form>,
  );
  await user.clear(field("first"));
  await user.type(field("first"), "30{Enter}");
  expect(document.activeElement).toBe(field("second"));
  expect(save.mock.calls).toEqual([["30"]]);
});

it("saves the same text again after something else has come from outside", async () => {
  const user = userEvent.setup();
  const save = vi.fn((_text: string) => null);
  const { rerender } = render(<TextField label="a" value="21" save={save} />);
  await user.clear(field("a"));
  await user.type(field("a"), "30{Enter}");
  rerender(<TextField label="a" value="30" save={save} />);
  // undone in another window
  rerender(<TextField label="a" value="21" save={save} />);
  expect(field("a").value).toBe("21");
  await user.clear(field("a"));
  await user.type(field("a"), "30{Enter}");
  expect(save.mock.calls).toEqual([["30"], ["30"]]);
});

it("keeps what was typed beside the sentence that refuses it; Escape brings back what is kept", async () => {
  const user = userEvent.setup();
  render(<TextField label="a" value="A1" save={(text) => (text === "B1" ? "There is a B1 already." : null)} />);
  await user.clear(field("a"));
  await user.type(field("a"), "B1{Enter}");
  expect(screen.getByRole("alert").textContent).toBe("There is a B1 already.");
  expect(field("a").value).toBe("B1");
  expect(field("a").getAttribute("aria-invalid")).toBe("true");
  await user.type(field("a"), "{Escape}");
  expect(field("a").value).toBe("A1");
  expect(screen.queryByRole("alert")).toBeNull();
});

it("saves nothing when nothing was changed, and what was typed when the whole is closed", async () => {
  const user = userEvent.setup();
  const save = vi.fn((_text: string) => null);
  const { unmount } = render(<TextField label="a" value="A1" save={save} />);
  await user.click(field("a"));
  await user.tab();
  expect(save).not.toHaveBeenCalled();
  await user.type(field("a"), "2");
  unmount();
  expect(save.mock.calls).toEqual([["A12"]]);
});

it.each([
  ["2,5", 2.5],
  ["2.5", 2.5],
  ["−3", -3],
])("reads the number %s", async (typed, number) => {
  const user = userEvent.setup();
  const save = vi.fn((_number: number | null) => null);
  render(<NumberField label="a" value={1} save={save} />);
  await user.clear(field("a"));
  await user.type(field("a"), `${typed}{Enter}`);
  expect(save).toHaveBeenCalledWith(number);
});

it("refuses words as a number, and an empty field unless that means something", async () => {
  const user = userEvent.setup();
  const save = vi.fn((_number: number | null) => null);
  const { rerender } = render(<NumberField label="a" value={1} save={save} />);
  await user.clear(field("a"));
  await user.type(field("a"), "far{Enter}");
  expect(screen.getByRole("alert").textContent).toMatch(/number/);
  await user.clear(field("a"));
  await user.type(field("a"), "{Enter}");
  expect(save).not.toHaveBeenCalled();
  rerender(<NumberField label="a" value={1} save={save} empty="factory setting" />);
  await user.type(field("a"), "{Enter}");
  expect(save).toHaveBeenCalledWith(null);
});

it("gives null for none of them, in the device's own list where one points with a finger", async () => {
  const user = userEvent.setup();
  vi.stubGlobal("matchMedia", (query: string) => ({
    matches: query === "(pointer: coarse)",
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }));
  const onChange = vi.fn();
  const options = [
    { value: null, text: "the railway" },
    { value: "l1", text: "L1" },
  ];
  render(<Choice label="About" value="l1" options={options} onChange={onChange} />);
  const list = screen.getByRole("combobox", { name: "About" });
  expect(list.tagName).toBe("SELECT");
  await user.selectOptions(list, "the railway");
  expect(onChange).toHaveBeenCalledWith(null);
});

it("chooses one of a few by click and by arrow, and keeps it when it is pressed again", async () => {
  const user = userEvent.setup();
  const onChange = vi.fn();
  const segments = ["V", "ohm", "mA"].map((value) => ({ value, text: value }));
  render(<Segmented label="Range" value="V" segments={segments} onChange={onChange} />);
  await user.click(screen.getByRole("radio", { name: "V" }));
  expect(onChange).not.toHaveBeenCalled();
  await user.click(screen.getByRole("radio", { name: "mA" }));
  expect(onChange).toHaveBeenLastCalledWith("mA");
});
