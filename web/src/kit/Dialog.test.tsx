// @vitest-environment happy-dom
// Dialogs: closed by Escape where that is allowed, and one goes on where one was.
import { cleanup, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { afterEach, expect, it } from "vitest";
import { AlertDialog, Dialog } from "./Dialog.tsx";
import { TextField } from "./TextField.tsx";

afterEach(cleanup);

function Page({ asks }: { asks: boolean }) {
  const [open, setOpen] = useState(false);
  const close = () => setOpen(false);
  return (
    <>
      <button type="button" onClick={() => setOpen(true)}>
        Open
      </button>
      {open && !asks && (
        <Dialog title="Fittings" close={close}>
          of L1
        </Dialog>
      )}
      {open && asks && (
        <AlertDialog
          title="It has to be said"
          about="which one"
          actions={
            <button type="button" onClick={close}>
              This one
            </button>
          }
        />
      )}
    </>
  );
}

it("gives the focus back to the button that opened it", async () => {
  const user = userEvent.setup();
  render(<Page asks={false} />);
  await user.click(screen.getByRole("button", { name: "Open" }));
  expect(screen.getByRole("dialog", { name: "Fittings" })).toBeDefined();
  await user.keyboard("{Escape}");
  expect(screen.queryByRole("dialog")).toBeNull();
  await waitFor(() => expect(document.activeElement).toBe(screen.getByRole("button", { name: "Open" })));
});

it("stays until one of the actions is chosen, when nothing else may end it", async () => {
  const user = userEvent.setup();
  render(<Page asks />);
  await user.click(screen.getByRole("button", { name: "Open" }));
  await user.keyboard("{Escape}");
  expect(screen.getByRole("alertdialog", { name: "It has to be said" })).toBeDefined();
  await user.click(screen.getByRole("button", { name: "This one" }));
  expect(screen.queryByRole("alertdialog")).toBeNull();
});

it("gives back what a field held before it closes", async () => {
  const user = userEvent.setup();
  const saved: string[] = [];
  let closed = 0;
  render(
    <Dialog title="Fittings" close={() => closed++}>
      <TextField
        label="Label"
        value="L1"
        save={(text) => {
          saved.push(text);
          return "It is taken.";
        }}
      />
    </Dialog>,
  );
  const field = screen.getByRole("textbox", { name: "Label" }) as HTMLInputElement;
  await user.type(field, "2{Enter}");
  await screen.findByText("It is taken.");
  await user.keyboard("{Escape}");
  expect(field.value).toBe("L1");
  expect(closed).toBe(0);
  await user.keyboard("{Escape}");
  expect(closed).toBe(1);
  expect(saved).toEqual(["L12"]);
});
