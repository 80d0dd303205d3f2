// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, it, vi } from "vitest";
import { HeadingsDialog } from "./HeadingsDialog.tsx";

afterEach(cleanup);

it("asks of each unknown heading what it holds, with an example, and leaves out what is not said", async () => {
  const cells = [
    ["label", "Machine", "Colour"],
    ["A", "", "red"],
    ["B", "stall-motor", ""],
  ];
  const [take, close] = [vi.fn(), vi.fn()];
  const user = userEvent.setup();
  render(<HeadingsDialog cells={cells} take={take} close={close} />);
  expect(screen.getByText("as stall-motor")).toBeDefined();
  expect(screen.getByText("as red")).toBeDefined();
  const column = screen.getByLabelText("Column for Machine");
  if (column instanceof HTMLSelectElement) await user.selectOptions(column, "motor");
  else {
    await user.click(column);
    await user.click(screen.getByRole("option", { name: "Motor" }));
  }
  await user.click(screen.getByRole("button", { name: "Take the table in" }));
  expect(take.mock.calls).toEqual([[{ Machine: "motor", Colour: null }]]);
});
