// @vitest-environment happy-dom
// One of many, found by a part of it: what was chosen stays until another is.
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, it, vi } from "vitest";
import { Combobox } from "./Combobox.tsx";

const options = [
  { value: null, text: "the railway" },
  ...Array.from({ length: 200 }, (_, index) => ({ value: `d${index}`, text: `D${index}` })),
];

function open() {
  const onChange = vi.fn();
  render(<Combobox label="About" value="d7" options={options} onChange={onChange} />);
  return {
    onChange,
    user: userEvent.setup(),
    input: screen.getByRole<HTMLInputElement>("combobox", { name: "About" }),
  };
}
afterEach(cleanup);

it("finds by a part of the text and takes what is highlighted", async () => {
  const { onChange, user, input } = open();
  expect(input.value).toBe("D7");
  await user.click(input);
  await user.keyboard("19");
  expect(screen.getAllByRole("option").map(({ textContent }) => textContent)).toEqual([
    "D19",
    "D119",
    "D190",
    "D191",
    "D192",
    "D193",
    "D194",
    "D195",
    "D196",
    "D197",
    "D198",
    "D199",
  ]);
  await user.keyboard("{ArrowDown}{ArrowDown}{Enter}");
  expect(onChange).toHaveBeenCalledExactlyOnceWith("d119");
});

it("says so when none is called that, and has again what was chosen when it is left", async () => {
  const { onChange, user, input } = open();
  await user.click(input);
  await user.keyboard("Y1");
  expect(screen.getByText("None is called that.")).toBeDefined();
  await user.tab();
  expect(input.value).toBe("D7");
  expect(onChange).not.toHaveBeenCalled();
});

it("can be none of them", async () => {
  const { onChange, user, input } = open();
  await user.click(input);
  await user.keyboard("rail");
  await user.click(screen.getByRole("option", { name: "the railway" }));
  expect(onChange).toHaveBeenCalledExactlyOnceWith(null);
});

it("shows no more than a list can bear", async () => {
  const { user, input } = open();
  await user.click(input);
  expect(screen.getAllByRole("option").length).toBeLessThanOrEqual(60);
});
