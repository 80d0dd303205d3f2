// Packets of the track bus against the published standards, and worked ones.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { calculatorCalled } from "../src/calculators/registry.ts";
import { addressRange } from "../src/numbers/accessoryAddress.ts";
import { frameBits } from "../src/numbers/busLoad.ts";
import {
  accessoryPacket,
  aspectPacket,
  bitsOf,
  hexOf,
  onMainPacket,
  packetBits,
  readAccessoryPacket,
  readAspectPacket,
  readVariablePacket,
  serviceModePacket,
} from "../src/numbers/packets.ts";
import { nodeNumber, nodeSwitches } from "../src/units/nodeSwitches.ts";

const hex = (bytes: readonly number[]) => bytes.map(hexOf).join(" ");

describe("basic accessory packets, NMRA S-9.2.1 and RCN-213", () => {
  it.each([
    [1, "straight", "81 F9 78"],
    [1, "diverging", "81 F8 79"],
    [117, "straight", "9E F9 67"],
    [257, "straight", "81 E9 68"],
  ] as const)("says %i %s, on, as worked by hand", (address, direction, bytes) => {
    expect(hex(accessoryPacket(address, 0, direction, true).bytes)).toBe(bytes);
  });

  it("reads back every address, direction and activity as it was written, whatever the shift", () => {
    for (const shift of [0, 4] as const) {
      const { first, last } = addressRange(shift);
      for (let address = first; address <= last; address++) {
        for (const direction of ["straight", "diverging"] as const) {
          for (const active of [true, false]) {
            const { bytes, fields } = accessoryPacket(address, shift, direction, active);
            expect(readAccessoryPacket(bytes, shift)).toEqual({ address, direction, active });
            expect(fields.map(({ bits }) => bits).join("")).toBe(bytes.map(bitsOf).join(""));
          }
        }
      }
    }
  });

  it("knows no packet by its error byte, nor one of another kind", () => {
    fc.assert(
      fc.property(fc.array(fc.nat(255), { minLength: 1, maxLength: 6 }), (bytes) => {
        const read = readAccessoryPacket(bytes, 0);
        const isAccessory = bytes.length === 3 && bytes[0]! >> 6 === 2 && bytes[1]! >> 7 === 1;
        const isWhole = (bytes[0]! ^ (bytes[1] ?? 0)) === bytes[2];
        expect(read !== null).toBe(isAccessory && isWhole);
      }),
    );
  });
});

it("puts a 0 before each byte and a 1 at the end, NMRA S-9.2", () => {
  expect(packetBits(accessoryPacket(117, 0, "straight", true))).toBe(
    "0" + "10011110" + "0" + "11111001" + "0" + "01100111" + "1",
  );
});

// RCN-213: 10AAAAAA 0AAA0AA1 DDDDDDDD; address 1 is decoder 1, pair 0
it("sets a signal's aspect by an extended accessory packet", () => {
  const { bytes } = aspectPacket(1, 0, 16);
  expect(bytes.slice(0, 3).map(bitsOf)).toEqual(["10000001", "01110001", "00010000"]);
  expect(bytes.reduce((sum, byte) => sum ^ byte, 0)).toBe(0);
  expect(() => aspectPacket(1, 0, 256)).toThrow("Aspect 256 is not between 0 and 255.");
});

it("reads back aspects and accesses to variables as they were written, and takes none for another", () => {
  const shifts = fc.constantFrom(0 as const, 4 as const);
  const addresses = fc.integer({ min: 1, max: 2040 });
  const [variables, values] = [fc.integer({ min: 1, max: 1024 }), fc.nat(255)];
  const actions = fc.constantFrom("write" as const, "verify" as const);
  fc.assert(
    fc.property(shifts, addresses, variables, values, actions, (shift, address, variable, value, action) => {
      const all = {
        aspect: aspectPacket(address, shift, value).bytes,
        main: onMainPacket(address, shift, variable, value, action).bytes,
        service: serviceModePacket(variable, value, action).bytes,
        turnout: accessoryPacket(address, shift, "straight", true).bytes,
      };
      expect(readAspectPacket(all.aspect, shift)).toEqual({ address, aspect: value });
      expect(readVariablePacket(all.main, shift)).toEqual({ address, variable, value, action });
      expect(readVariablePacket(all.service, shift)).toEqual({ address: null, variable, value, action });
      for (const each of [all.main, all.service, all.turnout]) expect(readAspectPacket(each, shift)).toBeNull();
      for (const each of [all.aspect, all.turnout]) expect(readVariablePacket(each, shift)).toBeNull();
      for (const each of [all.aspect, all.main, all.service]) expect(readAccessoryPacket(each, shift)).toBeNull();
      const [first = 0, ...rest] = all.aspect;
      expect(readAspectPacket([first ^ 1, ...rest], shift)).toBeNull();
    }),
  );
});

// NMRA S-9.2.3 and RCN-216, direct mode: 0111CCAA AAAAAAAA DDDDDDDD, write CC 11, verify 01, variable less one
it("writes and verifies a variable in service mode", () => {
  expect(serviceModePacket(29, 6).bytes.slice(0, 3).map(bitsOf)).toEqual(["01111100", "00011100", "00000110"]);
  expect(serviceModePacket(29, 6, "verify").bytes.slice(0, 1).map(bitsOf)).toEqual(["01110100"]);
  expect(serviceModePacket(1024, 255).bytes.slice(0, 3).map(bitsOf)).toEqual(["01111111", "11111111", "11111111"]);
  expect(() => serviceModePacket(0, 1)).toThrow("Variable 0 is not between 1 and 1024.");
});

// from memory of RCN-214: 10AAAAAA 1AAACDDD 1110KKVV VVVVVVVV DDDDDDDD
it("writes a variable of one output on the main", () => {
  const { bytes, fields } = onMainPacket(117, 0, 3, 9);
  expect(bytes.slice(0, 5).map(bitsOf)).toEqual(["10011110", "11111000", "11101100", "00000010", "00001001"]);
  expect(bytes.reduce((sum, byte) => sum ^ byte, 0)).toBe(0);
  expect(fields.map(({ bits }) => bits).join("")).toBe(bytes.map(bitsOf).join(""));
});

describe("switches of a node", () => {
  // control.md's example: four switches inverted, two jumpers not, offset 1: all off and no jumper is 16
  const mixed = [0, 0, 0, 0, 1, 1] as const;
  it("finds all of them off for the node of the worked example", () => {
    expect(nodeSwitches(16, mixed, 1).map(({ position }) => position)).toEqual(Array(6).fill("off"));
  });

  it("says the number again, for all numbers, inversions and offsets", () => {
    const meanings = fc.array(fc.constantFrom(0 as const, 1 as const), { minLength: 1, maxLength: 10 });
    fc.assert(
      fc.property(meanings, fc.integer({ min: -5, max: 300 }), fc.nat(1023), (onMeans, offset, value) => {
        const number = offset + (value % 2 ** onMeans.length);
        const on = nodeSwitches(number, onMeans, offset).map(({ position }) => position === "on");
        expect(nodeNumber(on, onMeans, offset)).toBe(number);
      }),
    );
    expect(() => nodeSwitches(65, mixed, 1)).toThrow("6 switches say numbers 1 to 64, not 65.");
  });
});

// ISO 11898 with Davis, Burns, Bril, Lukkien 2007, table: 8 bytes take 135 bits (11-bit) and 160 bits (29-bit) at worst
it.each([
  [11, 0, 55],
  [11, 8, 135],
  [29, 0, 80],
  [29, 8, 160],
] as const)("reckons the longest frame of %i bits and %i bytes", (identifierBits, dataBytes, bits) => {
  expect(frameBits(identifierBits, dataBytes)).toBe(bits);
});

describe("quick sums on numbers", () => {
  const run = (name: string, input: unknown) => calculatorCalled(name)!.run(input);

  it("place an address, and say what it looks like", () => {
    expect(run("accessory-address", { address: 117, shift: 0 })).toEqual({ decoder: 30, pair: 0, raw: 120 });
    expect(run("accessory-address", { address: 5, shift: 4 })).toEqual({ decoder: 1, pair: 0, raw: 4 });
    expect(run("accessory-packet", { address: 117, direction: "straight", active: true })).toEqual({
      bytes: ["9E", "F9", "67"],
      bits: "0100111100111110010011001111",
    });
    expect(() => run("accessory-address", { address: 2041, shift: 0 })).toThrow(
      "Address 2041 is not between 1 and 2040.",
    );
  });

  it("set switches, and reckon the load of a bus", () => {
    const { switches } = run("node-switches", { number: 14, bits: 6, onMeans: [0, 0, 0, 0, 1, 1], offset: 1 }) as {
      switches: { bit: number; weight: number; position: string }[];
    };
    // 14 is offset 1 and 13: bits 0, 2 and 3 count, so switch 1 alone is on
    expect(switches).toEqual(
      [1, 2, 4, 8, 16, 32].map((weight, bit) => ({ bit, weight, position: bit === 1 ? "on" : "off" })),
    );
    expect(() => run("node-switches", { number: 3, bits: 2, onMeans: [1], offset: 0 })).toThrow("There are 2 switches");
    const load = run("can-load", {
      ...{ bitRate: 125_000, dataBytes: 8, identifierBits: 29, framesPerSecond: 78.125, burstFrames: 100 },
    });
    expect(load).toEqual({ worstCaseBits: 160, maxFramesPerSecond: 781.25, loadPercent: 10, burstMilliseconds: 128 });
  });
});
