// The one list of commands and the one list of stages: nothing is reached by two keys, and everything is shown somewhere.
import { readdirSync, readFileSync } from "node:fs";
import { expect, it, vi } from "vitest";
import { COMMANDS, type CommandContext, LOCAL_KEYS } from "./commands.ts";
import { STAGES } from "./stages.ts";

const HOUSE = new URL("../../../", import.meta.url);
const context = (): CommandContext => ({
  ...{
    goTo: vi.fn(),
    goOut: vi.fn(),
    open: vi.fn(),
    showThread: vi.fn(),
    undo: vi.fn(),
    redo: vi.fn(),
    throwTo: vi.fn(),
  },
  changeTheme: vi.fn(),
});

it("gives no two commands the same keys or words, and writes on the page of keys what listens", () => {
  const keys = COMMANDS.flatMap((command) => command.keys?.split(",") ?? []);
  expect(new Set(keys).size).toBe(keys.length);
  expect(new Set(COMMANDS.map(({ words }) => words)).size).toBe(COMMANDS.length);
  for (const { keys: listened, written } of COMMANDS) {
    const read = listened?.split(",")[0]?.replace(">", " ").replace("mod", "Ctrl").toLowerCase();
    expect(written?.toLowerCase()).toBe(read);
  }
});

it("has no key that begins another one's sequence", () => {
  const keys = COMMANDS.flatMap((command) => command.keys?.split(",") ?? []);
  for (const one of keys) expect(keys.filter((other) => other.startsWith(`${one}>`))).toEqual([]);
});

it("leads to each stage by its own key, where its route is", () => {
  expect(new Set(STAGES.map(({ path }) => path)).size).toBe(STAGES.length);
  for (const { path, key } of STAGES) {
    const given = context();
    COMMANDS.find(({ keys }) => keys === `g>${key}`)?.run(given);
    expect(given.goTo).toHaveBeenCalledExactlyOnceWith(path);
  }
});

it("does one thing by each command", () => {
  for (const command of COMMANDS) {
    const given = context();
    command.run(given);
    const calls = Object.values(given).flatMap((each) => vi.mocked(each as () => void).mock.calls);
    expect([command.words, calls.length]).toEqual([command.words, 1]);
  }
});

it("names each key of a place once", () => {
  for (const { keys } of LOCAL_KEYS) expect(new Set(keys.map(([written]) => written)).size).toBe(keys.length);
});

it("has a picture of each stage in docs/screenshots, and the README shows it", () => {
  const pictures = readdirSync(new URL("docs/screenshots/", HOUSE)).map((name) => name.replace(".png", ""));
  const plain = ["railways", "quick-sums"];
  expect([...STAGES.flatMap((stage) => stage.pictures), ...plain].sort()).toEqual(pictures.sort());
  const readme = readFileSync(new URL("README.md", HOUSE), "utf8");
  for (const picture of pictures) expect(readme).toContain(`docs/screenshots/${picture}.png`);
});
