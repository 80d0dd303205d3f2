// What a window keeps of what goes over the lines.
import { expect, it } from "vitest";
import { LiveLine, MOST_KEPT } from "./liveLine.ts";
import type { Message } from "./liveServer.ts";

const messages = (count: number, from = 0): Message[] =>
  Array.from({ length: count }, (_, index) => ({
    at: from + index,
    from: "bus",
    sent: false,
    text: `${from + index}`,
  }));

it("keeps the last of them, and counts what it let go", () => {
  const line = new LiveLine("r");
  let heard = 0;
  for (let batch = 0; batch < 120; batch++) {
    line.add(messages(500, heard));
    heard += 500;
  }
  expect(line.messages.length).toBeGreaterThanOrEqual(MOST_KEPT);
  expect(line.messages.length).toBeLessThanOrEqual(MOST_KEPT + 1_000);
  expect(line.left + line.messages.length).toBe(heard);
  expect(line.messages.at(-1)?.text).toBe(String(heard - 1));
});

it("tells of every change, until one does not listen any more", () => {
  const line = new LiveLine("r");
  let told = 0;
  const stop = line.subscribe(() => told++);
  line.add(messages(2));
  line.clear();
  expect([told, line.messages.length, line.left]).toEqual([2, 0, 0]);
  stop();
  line.add(messages(1), 7);
  expect([told, line.left]).toEqual([2, 7]);
});

it("shows a log from a file whatever its length, in place of what was heard", () => {
  const line = new LiveLine("r");
  line.add(messages(3));
  line.show(messages(MOST_KEPT + 5_000, 100));
  expect(line.messages).toHaveLength(MOST_KEPT + 5_000);
  expect(line.messages[0]?.text).toBe("100");
});
