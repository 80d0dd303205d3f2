// @vitest-environment happy-dom
// Backups on the page of the railways, with a server that the test plays.
import { cleanup, render, screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Provider } from "react-redux";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { emptyStore } from "../../testing/openStore.ts";
import { TipsProvider } from "../kit/Tooltip.tsx";
import { Backups } from "./Backups.tsx";

interface Played {
  status: number;
  body: unknown;
}

const backup = (kind: string, day: number) => ({
  ...{ name: `alderman-${kind}-2026-05-${day}T10-00-00-000Z.db`, kind },
  ...{ at: `2026-05-${day}T10:00:00.000Z`, bytes: 525_312 },
});

let kept: ReturnType<typeof backup>[];
let answers: Record<string, () => Played>;
let asked: { path: string; body: unknown }[];

beforeEach(() => {
  kept = [backup("daily", 11)];
  asked = [];
  answers = {
    "GET backups": () => ({ status: 200, body: kept }),
    "POST backups": () => {
      kept = [backup("asked", 12), ...kept];
      return { status: 201, body: kept[0] };
    },
    "POST put-back": () => {
      kept = [backup("replaced", 13), ...kept];
      return { status: 200, body: kept };
    },
    "POST check": () => ({ status: 200, body: { damage: [] } }),
  };
  vi.stubGlobal("fetch", async (request: Request) => {
    const path = `${request.method} ${new URL(request.url).pathname.split("/").at(-1)}`;
    const text = await request.text();
    asked.push({ path, body: text === "" ? null : JSON.parse(text) });
    const { status, body } = answers[path]?.() ?? { status: 404, body: {} };
    return new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

function shown() {
  render(
    <Provider store={emptyStore()}>
      <TipsProvider>
        <MemoryRouter>
          <Backups />
        </MemoryRouter>
      </TipsProvider>
    </Provider>,
  );
}

const rows = async () =>
  within(await screen.findByRole("table", { name: "Backups" }))
    .getAllByRole("row")
    .slice(1);

it("lists what was kept, when, why and how large", async () => {
  shown();
  await screen.findByText("by itself, each day");
  const [row] = await rows();
  expect(row?.textContent).toMatch(/May 11, 2026.*by itself, each day.*526/);
  expect(screen.getByText("1 backup of all railways together")).toBeTruthy();
});

it("makes one when it is asked, which is there then", async () => {
  shown();
  await screen.findByText("by itself, each day");
  await userEvent.click(screen.getByRole("button", { name: "Back up now" }));
  await screen.findByText("asked for");
  expect(await rows()).toHaveLength(2);
});

it("says what the look at everything found", async () => {
  shown();
  await userEvent.click(await screen.findByRole("button", { name: "Check all" }));
  expect(await screen.findByText(/all is sound/)).toBeTruthy();
  answers["POST check"] = () => ({ status: 200, body: { damage: ["row 4 of turnout refers to nothing"] } });
  await userEvent.click(screen.getByRole("button", { name: "Check all" }));
  expect(await screen.findByText(/damaged: row 4 of turnout refers to nothing\. Put a backup back\./)).toBeTruthy();
});

it("puts one back after a question, by its name, and has what was there in the list", async () => {
  shown();
  await userEvent.click(await screen.findByRole("button", { name: /^Put back the one of May 11/ }));
  const dialog = screen.getByRole("alertdialog");
  await userEvent.click(within(dialog).getByRole("button", { name: "Cancel" }));
  expect(asked.some(({ path }) => path === "POST put-back")).toBe(false);
  await userEvent.click(screen.getByRole("button", { name: /^Put back the one of May 11/ }));
  await userEvent.click(within(screen.getByRole("alertdialog")).getByRole("button", { name: "Put back" }));
  await screen.findByText("put aside for another");
  expect(asked.find(({ path }) => path === "POST put-back")?.body).toEqual({ name: backup("daily", 11).name });
  await waitFor(() => expect(screen.queryByRole("alertdialog")).toBeNull());
});

it("stays open with the server's sentence when that one cannot be used, and says when none can be made", async () => {
  const refused = (message: string) => ({ status: 409, body: { error: { message } } });
  answers["POST put-back"] = () => refused("It is damaged: page 4.");
  answers["POST backups"] = () => ({ status: 507, body: { error: { message: "The disk is full: make room." } } });
  shown();
  await userEvent.click(await screen.findByRole("button", { name: /^Put back the one of May 11/ }));
  await userEvent.click(within(screen.getByRole("alertdialog")).getByRole("button", { name: "Put back" }));
  expect(await within(screen.getByRole("alertdialog")).findByText("It is damaged: page 4.")).toBeTruthy();
  await userEvent.click(within(screen.getByRole("alertdialog")).getByRole("button", { name: "Cancel" }));
  await userEvent.click(screen.getByRole("button", { name: "Back up now" }));
  expect(await screen.findByText("The disk is full: make room.")).toBeTruthy();
});
