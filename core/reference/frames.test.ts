// Frames of an event bus and logs of frames, against their published forms.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { lineOf, readCandump, writeCandump } from "../src/live/candump.ts";
import { type CanFrame, eventFrame, eventIn, frameIn, textOf } from "../src/live/frames.ts";

const frames: fc.Arbitrary<CanFrame> = fc.boolean().chain((extended) =>
  fc.record({
    id: fc.integer({ min: 0, max: extended ? 0x1fffffff : 0x7ff }),
    extended: fc.constant(extended),
    data: fc.array(fc.integer({ min: 0, max: 255 }), { maxLength: 8 }),
  }),
);

// ISO 11898-1: identifiers of 11 or 29 bits, at most eight bytes of data
describe("frames as text, as they go over TCP", () => {
  it("read back as they were written", () => {
    fc.assert(
      fc.property(frames, (frame) => {
        expect(frameIn(textOf(frame))).toEqual(frame);
      }),
    );
  });

  // the form of NMRA S-9.7 over TCP, from memory: ":X", eight digits, "N", the bytes, ";"
  it("have the form of the standard", () => {
    expect(textOf({ id: 0x195b4123, extended: true, data: [1, 2, 0xab] })).toBe(":X195B4123N0102AB;");
    expect(textOf({ id: 0x7a, extended: false, data: [] })).toBe(":S07AN;");
  });

  it.each([":X195B4123N010;", ":X3FFFFFFFN;", ":S900N;", "X195B4123N01;", ":X195B4123N010203040506070809;"])(
    "are none when they cannot be: %s",
    (text) => expect(frameIn(text)).toBeNull(),
  );
});

// NMRA S-9.7.3 (event transport), from memory: a producer/consumer event report is 195B4 with the sender's alias, and carries
// a 64-bit event identifier
it("carries every event in a report of 64 bits, and reads it back", () => {
  const events = fc.record({
    node: fc.integer({ min: 0, max: 65_535 }),
    number: fc.integer({ min: 0, max: 65_535 }),
    form: fc.constantFrom("on" as const, "off" as const),
  });
  fc.assert(
    fc.property(events, fc.integer({ min: 0, max: 0xfff }), (event, alias) => {
      const frame = eventFrame(event, alias);
      expect([frame.id >>> 12, frame.id & 0xfff, frame.data.length]).toEqual([0x195b4, alias, 8]);
      expect(eventIn(frame)).toEqual(event);
    }),
  );
});

// the log form of the Linux CAN tools (candump -L), from memory
describe("logs of frames", () => {
  it("have a time, a bus, and identifier and bytes", () => {
    const frame = { seconds: 1436509052.249713, bus: "can0", id: 0x195b4123, extended: true, data: [1, 2] };
    expect(lineOf(frame)).toBe("(1436509052.249713) can0 195B4123#0102");
  });

  it("read back as they were written", () => {
    const logged = fc.array(
      fc.tuple(frames, fc.integer({ min: 0, max: 2_000_000_000 }), fc.integer({ min: 0, max: 999_999 })),
      { maxLength: 20 },
    );
    fc.assert(
      fc.property(logged, (all) => {
        const log = all.map(([frame, whole, part]) => ({ ...frame, seconds: whole + part / 1e6, bus: "can0" }));
        const { frames: read, brokenCount } = readCandump(writeCandump(log));
        expect(brokenCount).toBe(0);
        expect(read.map(({ seconds, ...rest }) => ({ ...rest, seconds: seconds.toFixed(5) }))).toEqual(
          log.map(({ seconds, ...rest }) => ({ ...rest, seconds: seconds.toFixed(5) })),
        );
      }),
    );
  });

  it("name the lines that are no frames, and keep all others", () => {
    const { frames: read, broken } = readCandump(
      "(1.0) can0 123#01\nhello\n\n(2.0) can0 12#01\n(3.0) can0 123#0102\r\n",
    );
    expect(read.map(({ seconds }) => seconds)).toEqual([1, 3]);
    expect(broken).toEqual([
      { line: 2, text: "hello" },
      { line: 4, text: "(2.0) can0 12#01" },
    ]);
  });

  it("are read up to a million lines, and what is left is counted", () => {
    const { frames: read, left } = readCandump("(1.0) can0 123#01\n".repeat(12), 10);
    expect([read.length, left]).toEqual([10, 2]);
  });
});
